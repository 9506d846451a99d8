import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/supply';
import { Session } from '../access';
import { NumberField } from '../kit/fields';
import { day, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { Bench, type TieCandidate } from './service';

export interface TieData {
  /** The end the person stands at. */
  end: 'order' | 'purchase';
  lineId: number;
  /** `SO-0042 line 1`. */
  title: string;
}

/** Ties a line to one that fits it, chosen from the other end; what fits is offered, best first. // L5 */
@Component({
  selector: 'k-tie-sheet',
  imports: [NumberField, Sheet],
  template: `<k-sheet
    [head]="'Tie ' + data.title"
    [sub]="data.end === 'order' ? 'to a purchase that has something left' : 'to an order line without supply'"
    act="Tie them"
    [busy]="form.busy() || chosen() === null"
    [refusals]="form.loose([quantityField])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @if (rows(); as found) {
      @if (found.length === 0) {
        <p class="faint">
          {{
            data.end === 'order'
              ? 'No placed purchase of this item fits: it must go the same way, for a drop shipment to the same address, and have something left.'
              : 'No confirmed order line of this item waits for supply that goes this way.'
          }}
        </p>
      } @else {
        <table class="small">
          <thead>
            <tr>
              <th></th>
              <th>{{ data.end === 'order' ? 'Purchase' : 'Order' }}</th>
              <th>{{ data.end === 'order' ? 'Vendor' : 'Customer' }}</th>
              <th>{{ data.end === 'order' ? 'Due' : 'Ship on' }}</th>
              <th class="num">Left</th>
              <th class="num">Tie</th>
            </tr>
          </thead>
          <tbody>
            @for (row of found; track row.lineId) {
              <tr>
                <td>
                  <input
                    type="radio"
                    name="candidate"
                    [attr.data-first]="$index === 0 ? '' : null"
                    [attr.aria-label]="row.document.number + ' line ' + row.lineNo"
                    [checked]="chosen() === row"
                    (change)="choose(row)"
                  />
                </td>
                <td>{{ row.document.number }} line {{ row.lineNo }}</td>
                <td>{{ row.party }}</td>
                <td [class.need]="row.late">{{ day(row.day) }}{{ row.late ? ', too late' : '' }}</td>
                <td class="num">{{ quantity(row.left) }}</td>
                <td class="part">
                  @if (chosen() === row) {
                    <k-number
                      [bare]="true"
                      label="Quantity to tie"
                      [(value)]="asked"
                      [error]="form.at('quantity', asked() !== '')"
                    />
                  }
                </td>
              </tr>
              @if (chosen() === row && form.at('quantity', asked() !== ''); as refused) {
                <tr>
                  <td colspan="6" class="bad" role="alert">{{ refused }}</td>
                </tr>
              }
            }
          </tbody>
        </table>
      }
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    input {
      accent-color: var(--deep);
    }
    td.part {
      width: 110px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TieSheet {
  protected readonly data = inject<TieData>(DIALOG_DATA);
  private readonly workDate = inject(Session).workDate;
  protected readonly rows = signal<TieCandidate[] | null>(null);
  protected readonly chosen = signal<TieCandidate | null>(null);
  protected readonly asked = signal('');
  protected readonly quantityField = /^quantity$/;
  protected readonly form = new ActForm(
    contract.tieLine,
    computed(() => {
      const other = this.chosen()?.lineId ?? 0;
      const [orderLineId, purchaseLineId] =
        this.data.end === 'order' ? [this.data.lineId, other] : [other, this.data.lineId];
      return { orderLineId, purchaseLineId, quantity: this.asked() };
    }),
    () => this.chosen() !== null,
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const left = effects.left === '0' ? 'all of it has supply then' : `${quantity(effects.left)} still without supply`;
    return `${quantity(effects.quantity)} of ${effects.order} from ${effects.purchase}; ${left}`;
  });
  protected readonly quantity = quantity;
  protected readonly day = (value: string) => day(value, this.workDate());

  constructor() {
    const bench = inject(Bench);
    const found = this.data.end === 'order' ? bench.supplies(this.data.lineId) : bench.sales(this.data.lineId);
    this.form.begin(found, (rows) => {
      this.rows.set(rows);
      if (rows[0]) this.choose(rows[0]);
    });
  }

  protected choose(row: TieCandidate): void {
    this.chosen.set(row);
    this.asked.set(row.fits);
  }
}
