import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { dec, isDecimalText, sum } from '@core/kernel';
import * as contract from '@api/orders';
import { readOr } from '../kit/live/read-or';
import { ChoiceField, NumberField } from '../kit/fields';
import { ActForm, Sheet } from '../kit/act/sheet';
import { Orders, type OrderSheet } from './service';

interface Row {
  personId: string;
  perCent: string;
}

/** Who gets the commission of an order, and how much of it. // S1 */
@Component({
  selector: 'k-commission-sheet',
  imports: [ChoiceField, NumberField, Sheet],
  template: `<k-sheet
    [head]="'Commission of ' + order.number"
    sub="All of it is shared out, or none"
    act="Share it so"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @for (row of rows(); track $index) {
      <div class="row">
        <k-choice
          [label]="'Sales person ' + ($index + 1)"
          [options]="people()"
          [value]="row.personId"
          (valueChange)="set($index, { personId: $event })"
          [error]="form.at('shares.' + $index + '.personId', row.personId !== '')"
        />
        <k-number
          kind="percent"
          [label]="'Per cent ' + ($index + 1)"
          [value]="row.perCent"
          (valueChange)="set($index, { perCent: $event })"
          [error]="form.at('shares.' + $index + '.perCent', row.perCent !== '')"
        />
        <button
          type="button"
          class="act"
          (click)="remove($index)"
          [attr.aria-label]="'Remove sales person ' + ($index + 1)"
        >
          −
        </button>
      </div>
    } @empty {
      <p class="faint">Nobody gets commission on this order.</p>
    }
    <button type="button" class="act" (click)="more()">Another sales person</button>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    .row {
      display: grid;
      grid-template-columns: 2fr 1fr auto;
      gap: 12px;
      align-items: end;
      margin-bottom: 10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CommissionSheet {
  protected readonly order = inject<OrderSheet>(DIALOG_DATA);
  protected readonly fields = [/^shares\.\d+\./];
  private readonly found = readOr(inject(Orders).people(), []);
  protected readonly people = computed(() => [
    { value: '', label: '' },
    ...this.found().map(({ id, name }) => ({ value: String(id), label: name })),
  ]);
  protected readonly rows = signal<Row[]>(
    this.order.commission.length > 0
      ? this.order.commission.map(({ person, perCent }) => ({ personId: String(person.id), perCent }))
      : [{ personId: '', perCent: '100' }],
  );
  protected readonly form = new ActForm(
    contract.shareCommission,
    computed(() => ({
      id: this.order.id,
      was: this.order.commission.map(({ person, perCent }) => ({ personId: person.id, perCent })),
      shares: this.rows().map(({ personId, perCent }) => ({ personId: Number(personId) || null, perCent })),
    })),
  );
  protected readonly effect = computed(() => {
    const read = this.rows().filter((row) => isDecimalText(row.perCent, 'percent'));
    if (read.length === 0) return '';
    return `${sum(read.map((row) => dec(row.perCent))).toFixed()} % shared out`;
  });

  protected set(index: number, change: Partial<Row>): void {
    this.rows.update((rows) => rows.map((row, at) => (at === index ? { ...row, ...change } : row)));
  }

  protected more(): void {
    const given = sum(this.rows().flatMap((row) => (isDecimalText(row.perCent, 'percent') ? [dec(row.perCent)] : [])));
    const rest = dec(100).minus(given);
    this.rows.update((rows) => [...rows, { personId: '', perCent: rest.gt(0) ? rest.toFixed() : '' }]);
  }

  protected remove(index: number): void {
    this.rows.update((rows) => rows.filter((_row, at) => at !== index));
  }
}
