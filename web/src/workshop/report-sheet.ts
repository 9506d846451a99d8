import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { dec, inUnits } from '@core/kernel';
import * as contract from '@api/workshop';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, NumberField } from '../kit/fields';
import { money, quantity } from '../kit/formats';
import { NumbersField } from '../serial';
import type { WorkSheet } from './service';

export interface ReportData {
  sheet: WorkSheet;
}

/** What was done: how many, at which operation; what it used and how long it took stand there as planned, to be changed. // W3 */
@Component({
  selector: 'k-report-sheet',
  imports: [ChoiceField, NumberField, NumbersField, Sheet],
  templateUrl: './report-sheet.html',
  styles: `
    h3 {
      font: 600 15px var(--serif);
      margin: 10px 0 0;
    }
    td.part {
      width: 110px;
    }
    label.finish {
      display: flex;
      gap: 8px;
      align-items: center;
      margin-top: 12px;
    }
    input[type='checkbox'] {
      accent-color: var(--deep);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReportSheet {
  protected readonly data = inject<ReportData>(DIALOG_DATA);
  protected readonly session = inject(Session);
  protected readonly sheet = this.data.sheet;
  protected readonly at = signal('');
  protected readonly good = signal(
    dec(this.sheet.quantity).minus(this.sheet.finished).minus(this.sheet.scrapped).toFixed(),
  );
  protected readonly scrapped = signal('');
  protected readonly finish = signal(false);
  /** What was typed over what is planned, by component and by operation. */
  protected readonly used = signal<Readonly<Record<number, string>>>({});
  protected readonly worked = signal<Readonly<Record<number, string>>>({});
  /** The numbers that were said of what comes out, and of what was used, by component. // P6 */
  protected readonly numbers = signal<readonly string[]>([]);
  protected readonly usedNumbers = signal<Readonly<Record<number, readonly string[]>>>({});
  protected readonly fields = [/^good$/, /^scrapped$/, /^used\./, /^worked\./, /^numbers$/];
  protected readonly operations = computed(() => [
    { value: '', label: 'the order as a whole' },
    ...this.sheet.operations.map(({ id, no, name }) => ({ value: String(id), label: `${no} ${name}` })),
  ]);
  /** The components something was said of. */
  private readonly said = computed(() =>
    [...new Set([...Object.keys(this.used()), ...Object.keys(this.usedNumbers())])].map(Number),
  );
  protected readonly input = computed(() => ({
    workId: this.sheet.document.id,
    operationId: this.at() === '' ? null : Number(this.at()),
    good: this.good(),
    scrapped: this.scrapped(),
    used: this.said().map((componentId) => ({
      componentId,
      quantity: this.used()[componentId] ?? '',
      numbers: [...(this.usedNumbers()[componentId] ?? [])],
    })),
    worked: entriesOf(this.worked()).map(([operationId, minutes]) => ({ operationId, minutes })),
    finish: this.finish(),
    numbers: [...this.numbers()],
  }));
  protected readonly form = new ActForm(contract.reportWork, this.input);
  protected readonly effects = computed(() => this.form.previewed()?.effects ?? null);
  protected readonly effect = computed(() => {
    const effects = this.effects();
    if (!effects) return '';
    const { item, currency } = this.sheet;
    const made =
      effects.good === '0' ? 'nothing comes out yet' : `${inUnits(quantity(effects.good), item.unit)} to stock`;
    const worth = effects.outputCost === '' ? '' : ` at ${currency} ${money(effects.outputCost, currency)}`;
    const end = effects.state === 'finished' ? '; the order is finished' : `; ${quantity(effects.left)} still to come`;
    const over =
      effects.state === 'finished' && effects.variance !== '' && effects.variance !== '0'
        ? `, ${currency} ${money(effects.variance.replace('-', ''), currency)} ${effects.variance.startsWith('-') ? 'less' : 'more'} than reckoned`
        : '';
    return `${made}${effects.good === '0' ? '' : worth}${end}${over}`;
  });

  /** What a component uses as it stands: as typed, else as planned. */
  protected readonly usedOf = (id: number) =>
    this.used()[id] ??
    this.effects()?.components.find(({ componentId }) => componentId === id)?.quantity ??
    (this.effects() ? '0' : '');
  protected readonly minutesOf = (id: number) =>
    this.worked()[id] ??
    (this.effects()
      ? String(this.effects()!.operations.find(({ operationId }) => operationId === id)?.minutes ?? 0)
      : '');

  protected setUsed(id: number, value: string): void {
    this.used.update((all) => ({ ...all, [id]: value }));
  }

  protected setUsedNumbers(id: number, numbers: readonly string[]): void {
    this.usedNumbers.update((all) => ({ ...all, [id]: numbers }));
  }

  /** The pieces the act would use of an item, or make, by itself. */
  protected readonly proposed = (itemId: number, place: 'ours' | 'used') =>
    (this.effects()?.numbers ?? [])
      .filter((each) => each.itemId === itemId && each.place === place)
      .map(({ number }) => number);

  protected setWorked(id: number, value: string): void {
    this.worked.update((all) => ({ ...all, [id]: value }));
  }

  /** What is refused of what was typed for a component or an operation. */
  protected readonly refusedAt = (kind: 'used' | 'worked', id: number) => {
    const typed = kind === 'used' ? this.said() : entriesOf(this.worked()).map(([each]) => each);
    const place = typed.indexOf(id);
    return place < 0 ? '' : this.form.at(`${kind}.${place}.${kind === 'used' ? 'quantity' : 'minutes'}`);
  };
  protected readonly wrongNumbers = (id: number) => {
    const place = this.said().indexOf(id);
    return place < 0 ? '' : this.form.at(`used.${place}.numbers`);
  };
  protected readonly held = computed(() => {
    const ties = this.effects()?.ties ?? [];
    return ties
      .filter(({ made }) => made !== '0')
      .map(({ made, order, lineNo }) => `${quantity(made)} held for ${order.number} line ${lineNo}`)
      .join(', ');
  });
  protected readonly released = computed(() => {
    const ties = this.effects()?.ties ?? [];
    return ties
      .filter(({ released }) => released !== '0')
      .map(({ released, order, lineNo }) => `${order.number} line ${lineNo} goes without ${quantity(released)} of it`)
      .join('; ');
  });
  protected readonly number = quantity;
}

/** Numbers and what was typed for them, by number. */
function entriesOf(all: Readonly<Record<number, string>>): [number, string][] {
  return Object.entries(all).map(([id, typed]) => [Number(id), typed]);
}
