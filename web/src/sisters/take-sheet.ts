import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { of } from 'rxjs';
import { catchError, debounceTime, map, switchMap } from 'rxjs/operators';
import { dec, inUnits, MAIN_LOCATION } from '@core/kernel';
import * as contract from '@api/sisters';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { refusalsOf, type RefusalShown } from '../kit/act/api';
import { DayField, LookupField, NumberField } from '../kit/fields';
import { day, fieldShown, money, price, quantity } from '../kit/formats';
import { Sisters, type OfferRow, type OfferSheet } from './service';
import { sentenceOf, stepOf } from './words';

type Line = OfferSheet['items'][number];

/** What is typed over a line: in our unit. */
interface Typed {
  quantity: string;
  day: string | null;
}

/**
 * What a sister offers is taken, as it is or otherwise; what nobody paired yet is paired where it is missed; what changed
 * since stands beside what we have. // X1 X2 X3
 */
@Component({
  selector: 'k-take-sheet',
  imports: [DayField, LookupField, NumberField, Sheet],
  templateUrl: './take-sheet.html',
  styles: `
    td {
      vertical-align: top;
    }
    td.typed {
      width: 118px;
    }
    .check {
      display: block;
      margin-top: 12px;
    }
    .numbers {
      white-space: normal;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TakeSheet {
  protected readonly data = inject<{ offer: OfferRow }>(DIALOG_DATA);
  private readonly sisters = inject(Sisters);
  private readonly session = inject(Session);
  protected readonly workDate = this.session.workDate();
  protected readonly sheet = signal<OfferSheet | null>(null);
  protected readonly typed = signal<ReadonlyMap<number, Typed>>(new Map());
  protected readonly draft = signal(false);
  protected readonly invoices = signal(this.data.offer.invoices.length > 0 && this.session.may('vendor-invoices'));
  protected readonly pairing = signal<RefusalShown[]>([]);
  protected readonly sentence = sentenceOf(this.data.offer);
  protected readonly act = stepOf(this.data.offer).replace('…', '');
  protected readonly mayPair = this.session.may('lists');
  protected readonly mayInvoice = this.session.may('vendor-invoices');
  protected readonly fields = [/^lines\.\d+\.(quantity|day)$/];
  /** What is typed is sent by line; what was not touched goes as it is. */
  private readonly lines = computed(() =>
    [...this.typed()].map(([lineId, { quantity: count, day: on }]) => ({
      lineId,
      quantity: count,
      ...(on === null ? {} : { day: on }),
    })),
  );
  protected readonly form = new ActForm(
    contract.takeOffer,
    computed(() => {
      const { id, kind } = this.data.offer;
      return {
        id,
        kind,
        revision: this.sheet()?.revision ?? this.data.offer.revision,
        draft: this.draft(),
        lines: this.lines(),
        invoices: this.invoices(),
      };
    }),
  );
  protected readonly effects = computed(() => this.form.previewed()?.effects ?? null);
  protected readonly effect = computed(() => {
    const sheet = this.sheet();
    if (!sheet || sheet.total === '') return '';
    return `${sheet.currency} ${money(sheet.total, sheet.currency)} as they sent it`;
  });
  protected readonly findItems = (words: string) => this.sisters.items(words);
  protected readonly quantity = quantity;
  protected readonly price = (text: string) => price(text, this.sheet()?.currency ?? '');
  protected readonly inUnits = inUnits;
  protected readonly day = (text: string | null) => day(text, this.workDate);
  protected readonly shown = (text: string) => fieldShown(text, this.workDate);

  /** From when each line of an order could ship, by what is here and can be made; asked once what was typed rests. // S10 */
  protected readonly firstDays = toSignal(
    toObservable(
      computed(() => {
        const sheet = this.sheet();
        if (!sheet || sheet.kind !== 'order' || !this.editable()) return [];
        return sheet.items.flatMap((line) =>
          line.ours
            ? [
                {
                  key: String(line.id),
                  itemId: line.ours.id,
                  route: line.route as 'stock',
                  locationId: MAIN_LOCATION,
                  quantity: this.of(line).quantity,
                  asked: this.of(line).day,
                },
              ]
            : [],
        );
      }),
    ).pipe(
      debounceTime(200),
      switchMap((lines) =>
        lines.length === 0
          ? of([])
          : this.sisters.days(lines).pipe(
              map((days) => days.lines),
              catchError(() => of([])),
            ),
      ),
    ),
    { initialValue: [] },
  );
  /** What is to be said of a line's day, and the day that could be kept instead. */
  protected word(line: Line): { text: string; instead: string | null } | null {
    const found = this.firstDays().find(({ key }) => key === String(line.id));
    if (!found) return null;
    if (found.word !== '') return { text: found.word, instead: found.instead };
    return found.first === null ? null : { text: `Could ship ${this.day(found.first)}: ${found.why}`, instead: null };
  }

  constructor() {
    this.form.begin(this.sisters.offer(this.data.offer.id), (sheet) => this.sheet.set(sheet));
  }

  /** Whether other quantities and days can be said: of what is made, not of what follows a change. */
  protected readonly editable = computed(() => {
    const { state, kind } = this.data.offer;
    return (state === 'open' || state === 'aside') && kind !== 'invoice';
  });

  protected of(line: Line): Typed {
    return this.typed().get(line.id) ?? { quantity: quantity(line.quantity), day: line.day };
  }

  protected set(line: Line, change: Partial<Typed>): void {
    this.typed.update((all) => new Map(all).set(line.id, { ...this.of(line), ...change }));
  }

  protected refused(line: Line, field: 'quantity' | 'day'): string {
    const at = [...this.typed().keys()].indexOf(line.id);
    return at < 0 ? '' : this.form.at(`lines.${at}.${field}`);
  }

  /** Another than what our line says by now. */
  protected differs(line: Line): boolean {
    return line.now !== null && (!dec(line.now.quantity).eq(line.quantity) || line.now.day !== line.day);
  }

  /** Our item is that one: said once, for all that comes of it. // X1 */
  protected pair(line: Line, item: { id: number }): void {
    const { sister } = this.data.offer;
    this.sisters.pairItems(sister.id, [{ itemId: item.id, theirItemId: line.theirs.id, factor: '1' }]).subscribe({
      next: () => {
        this.pairing.set([]);
        this.form.begin(this.sisters.offer(this.data.offer.id), (sheet) => this.sheet.set(sheet));
      },
      error: (error: unknown) => this.pairing.set(refusalsOf(error)),
    });
  }
}
