import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import type * as z from 'zod';
import { addDays, isDay } from '@core/kernel';
import { readPastedReleases } from '@core/typed';
import * as contract from '@api/agreements';
import { Session } from '../access';
import { ChoiceField, DayField, LookupField, NumberField, TextField } from '../kit/fields';
import { money, price, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { coversName, coversText } from './agreement-columns';
import { Agreements, type AgreementSheet, type ItemChoice } from './service';

/** One row being typed: a quantity of a line on a date. A line may have several. */
interface ReleaseRow {
  key: number;
  lineId: number;
  /** Chosen where the line covers a group or everything. */
  item: ItemChoice | null;
  quantity: string;
  shipDate: string | null;
}

type Said = z.output<typeof contract.releaseAgreement.preview>;

let keys = 0;

/** Release part of an agreement: quantities and ship dates by line, what is left shown as it is typed. // A6 */
@Component({
  selector: 'k-release-sheet',
  imports: [ChoiceField, DayField, LookupField, NumberField, Sheet, TextField],
  templateUrl: './release-sheet.html',
  styles: `
    td.quantity {
      width: 110px;
    }
    td.day {
      width: 150px;
    }
    td.item {
      width: 170px;
    }
    td .act {
      padding: 0 6px;
    }
    textarea {
      width: 100%;
      height: 84px;
      padding: 6px 10px;
      border: 1px solid var(--rule-strong);
      border-radius: var(--r);
      background: var(--paper-lift);
      font: inherit;
    }
    .pasted {
      margin-top: 12px;
    }
    td .error {
      color: var(--brick);
      font-size: 12px;
      font-weight: 600;
    }
    .over {
      color: var(--brick);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReleaseSheet {
  private readonly agreements = inject(Agreements);
  protected readonly sheet = inject<AgreementSheet>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  protected readonly buying = this.sheet.side === 'buying';
  protected readonly shipToId = signal(String(this.sheet.shipTos[0]?.id ?? ''));
  protected readonly reference = signal('');
  protected readonly pasting = signal(false);
  protected readonly pasted = signal<{ row: number; text: string }[]>([]);
  protected readonly typed = signal<ReleaseRow[]>(this.sheet.lines.map((line) => this.fresh(line.id)));
  private readonly input = computed(() => ({
    agreementId: this.sheet.id,
    shipToId: this.shipToId() ? Number(this.shipToId()) : null,
    customerReference: this.reference(),
    lines: this.typed().map((row) => ({
      agreementLineId: row.lineId,
      ...(row.item ? { itemId: row.item.id } : {}),
      quantity: row.quantity,
      shipDate: row.shipDate !== null && !isDay(row.shipDate) ? row.shipDate.slice(0, 10) : row.shipDate,
    })),
  }));
  protected readonly form = new ActForm(contract.releaseAgreement, this.input);
  protected readonly shipTos = this.sheet.shipTos.map((shipTo) => ({
    value: String(shipTo.id),
    label: `${shipTo.label}, ${shipTo.town}`,
  }));
  protected readonly referenceHint = this.sheet.referenceRequired
    ? `${this.sheet.party.name} wants their own reference on every order.`
    : 'Their own number for this order, if they gave one.';

  private fresh(lineId: number, change: Partial<ReleaseRow> = {}): ReleaseRow {
    keys += 1;
    return { key: keys, lineId, item: null, quantity: '', shipDate: addDays(this.workDate(), 7), ...change };
  }

  protected readonly findItems = (words: string) => this.agreements.items(words);

  /** What the server says the release would be, as far as it was typed; what it said last while it is asked again. */
  private readonly said = linkedSignal<Said | null, Said | null>({
    source: () => this.form.previewed()?.effects ?? null,
    computation: (now, before) => now ?? before?.value ?? null,
  });

  protected readonly rows = computed(() => {
    const typed = this.typed();
    const said = this.said();
    const { currency } = this.sheet;
    return typed.map((row, index) => {
      const line = this.sheet.lines.find((each) => each.id === row.lineId)!;
      const { unitPrice, amount } = said?.asked[index] ?? { unitPrice: null, amount: null };
      return {
        line,
        row,
        first: typed.findIndex((each) => each.lineId === line.id) === index,
        number: row.item?.number ?? coversText(line),
        name: row.item?.name ?? coversName(line),
        price: unitPrice === null ? '' : price(unitPrice, currency),
        amount: amount === null ? '' : money(amount, currency),
        quantityRefused: this.form.at(`lines.${index}.quantity`, row.quantity !== ''),
        dayRefused: this.form.at(`lines.${index}.shipDate`, row.quantity !== ''),
        itemRefused: this.form.at(`lines.${index}.itemId`, row.quantity !== ''),
      };
    });
  });
  /** What is left of each line after what is typed, in units or in value. // A4 */
  protected leftOf(lineId: number): { text: string; over: boolean } {
    const left = this.said()?.left.find((each) => each.agreementLineId === lineId)?.left;
    if (left === undefined) return { text: '', over: false };
    return {
      text: this.sheet.basis === 'value' ? money(left, this.sheet.currency) : quantity(left),
      over: left.startsWith('-') && this.sheet.limitPolicy === 'refuse',
    };
  }
  /** What is left on the whole after it, where the agreement limits that. // A5 */
  protected readonly wholeLeft = computed(() => {
    const whole = this.said()?.whole;
    if (!whole) return '';
    const { currency } = this.sheet;
    const left = whole.left.replace('-', '');
    const text = whole.unit === '' ? `${currency} ${money(left, currency)}` : `${quantity(left)} ${whole.unit}`;
    return whole.left.startsWith('-') ? `; ${text} beyond its limit on the whole` : `; ${text} left on the whole`;
  });
  protected readonly total = computed(() => money(this.said()?.net ?? '0', this.sheet.currency));
  /** The lines it makes, where they are not the typed ones: an agreement that splits at its limit. */
  protected readonly split = computed(() => {
    const lines = this.said()?.lines ?? [];
    if (lines.every((line) => line.agreementLineId !== null && line.agreedAmount === null)) return [];
    const { currency, number } = this.sheet;
    return lines.map((line) => ({
      item: this.rows().find((each) => (each.row.item?.id ?? each.line.item?.id) === line.itemId)?.number ?? '',
      quantity: quantity(line.quantity),
      price: price(line.unitPrice, currency),
      amount: money(line.amount, currency),
      from:
        line.agreementLineId === null
          ? 'at the list price'
          : line.agreedAmount === null
            ? `from ${number}`
            : `${money(line.agreedAmount, currency)} from ${number}, the rest at the list price`,
    }));
  });
  /** Once a quantity is typed, the missing reference is said at its field. */
  protected readonly referenceRefused = computed(() =>
    this.form.at(
      'customerReference',
      this.typed().some((row) => row.quantity !== ''),
    ),
  );
  protected readonly loose = computed(() =>
    this.form.loose([/^customerReference$/, /^shipToId$/, /^lines\.\d+\.(quantity|shipDate|itemId)$/]),
  );
  protected readonly coversText = coversText;
  protected readonly coversName = coversName;

  protected set(key: number, change: Partial<ReleaseRow>): void {
    this.typed.update((rows) => rows.map((row) => (row.key === key ? { ...row, ...change } : row)));
  }

  /** One more date (or item) for the line, a week after its last. */
  protected more(after: ReleaseRow): void {
    this.typed.update((rows) => {
      const own = rows.filter((row) => row.lineId === after.lineId);
      const last = own.at(-1)!;
      const shipDate = last.shipDate && isDay(last.shipDate) ? addDays(last.shipDate, 7) : last.shipDate;
      const at = rows.indexOf(last) + 1;
      return [...rows.slice(0, at), this.fresh(after.lineId, { item: last.item, shipDate }), ...rows.slice(at)];
    });
  }

  protected remove(key: number): void {
    this.typed.update((rows) => rows.filter((row) => row.key !== key));
  }

  /** Takes rows pasted from a spreadsheet; those that cannot be taken say why, and nothing typed is lost. // G4 */
  protected paste(text: string): void {
    const bad: { row: number; text: string }[] = [];
    const taken: ReleaseRow[] = [];
    for (const each of readPastedReleases(text, this.workDate())) {
      const line = this.sheet.lines.find((one) => one.item?.number.toLowerCase() === each.item.toLowerCase());
      if (each.problem || !line)
        bad.push({ row: each.row, text: each.problem || `${each.item} is not on this agreement` });
      else taken.push(this.fresh(line.id, { quantity: each.quantity, ...(each.day ? { shipDate: each.day } : {}) }));
    }
    this.pasted.set(bad);
    this.typed.update((rows) => {
      const kept = rows.filter((row) => row.quantity !== '' || !taken.some((each) => each.lineId === row.lineId));
      return this.sheet.lines.flatMap((line) => [...kept, ...taken].filter((row) => row.lineId === line.id));
    });
  }
}
