import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { map } from 'rxjs/operators';
import { dec, least, type Dec } from '@core/kernel';
import * as contract from '@api/workshop';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { NumberField } from '../kit/fields';
import { day, quantity } from '../kit/formats';
import { Workshop, type Fit } from './service';

export interface TieWorkData {
  /** The end the person stands at: an order that makes something, or an order line. */
  workId?: number;
  lineId?: number;
  title: string;
}

const keyOf = (fit: Fit) => `${fit.plannedId} ${fit.orderLineId}`;

/** Ties orders that make something to order lines, several at once and parts of them; what fits is offered best first. // L5 W4 */
@Component({
  selector: 'k-tie-work-sheet',
  imports: [NumberField, Sheet],
  template: `<k-sheet
    [head]="ofWork ? 'For whom is ' + data.title + '?' : 'Tie ' + data.title"
    [sub]="ofWork ? 'order lines that wait for it, best first' : 'to what is made of it, best first'"
    act="Tie them"
    [busy]="form.busy() || asked().length === 0"
    [refusals]="form.loose([quantities])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @if (fits(); as found) {
      @if (found.length === 0) {
        <p class="faint">
          {{
            ofWork
              ? 'No confirmed order line of this item waits for anything at this place.'
              : 'Nothing that is made of this item, at the place the line goes out from, is for nobody.'
          }}
        </p>
      } @else {
        <table class="small">
          <thead>
            <tr>
              <th>{{ ofWork ? 'Order line' : 'Order' }}</th>
              <th>{{ ofWork ? 'Customer' : 'State' }}</th>
              <th>{{ ofWork ? 'Ships' : 'There on' }}</th>
              <th class="num">{{ ofWork ? 'Wants' : 'For nobody' }}</th>
              <th>Why</th>
              <th class="num">Tie</th>
            </tr>
          </thead>
          <tbody>
            @for (row of found; track $index) {
              <tr>
                <td>{{ ofWork ? row.order.number + ' line ' + row.lineNo : row.work.number }}</td>
                <td>{{ ofWork ? row.party : row.state }}</td>
                <td [class.need]="row.due > row.shipDate">{{ day(ofWork ? row.shipDate : row.due) }}</td>
                <td class="num">{{ number(ofWork ? row.wanted : row.untied) }}</td>
                <td>{{ row.why }}</td>
                <td class="part">
                  <k-number
                    [attr.data-first]="$index === 0 ? '' : null"
                    [bare]="true"
                    [label]="'Tie ' + (ofWork ? row.order.number + ' line ' + row.lineNo : row.work.number)"
                    [value]="typed()[key(row)] ?? ''"
                    (valueChange)="set(row, $event)"
                    [error]="refusedAt(row)"
                  />
                </td>
              </tr>
              @if (refusedAt(row); as refused) {
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
    td.part {
      width: 110px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TieWorkSheet {
  protected readonly data = inject<TieWorkData>(DIALOG_DATA);
  private readonly workDate = inject(Session).workDate;
  protected readonly ofWork = this.data.workId !== undefined;
  protected readonly fits = signal<Fit[] | null>(null);
  protected readonly typed = signal<Readonly<Record<string, string>>>({});
  protected readonly quantities = /^ties\.\d+\./;
  protected readonly asked = computed(() =>
    (this.fits() ?? [])
      .map((fit) => ({
        plannedId: fit.plannedId,
        orderLineId: fit.orderLineId,
        quantity: (this.typed()[keyOf(fit)] ?? '').trim(),
      }))
      .filter((tie) => tie.quantity !== ''),
  );
  protected readonly form = new ActForm(
    contract.tieWork,
    computed(() => ({ ties: this.asked() })),
    () => this.asked().length > 0,
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects || this.form.refusals.length > 0) return '';
    return effects.firm > 0 ? 'It is made firm with it, so that planning leaves it to them.' : '';
  });
  protected readonly key = keyOf;
  protected readonly number = quantity;
  protected readonly day = (value: string) => day(value, this.workDate());

  constructor() {
    const workshop = inject(Workshop);
    const found =
      this.data.workId === undefined
        ? workshop.forLine(this.data.lineId!).pipe(map(({ fits, wanted }) => ({ fits, left: dec(wanted) })))
        : workshop.linesFor(this.data.workId).pipe(map(({ fits, untied }) => ({ fits, left: dec(untied) })));
    this.form.begin(found, ({ fits, left }) => {
      this.fits.set(fits);
      this.typed.set(shared(fits, left));
    });
  }

  protected set(row: Fit, value: string): void {
    this.typed.update((all) => ({ ...all, [keyOf(row)]: value }));
  }

  protected refusedAt(row: Fit): string {
    const place = this.asked().findIndex((tie) => keyOf(row) === `${tie.plannedId} ${tie.orderLineId}`);
    if (place < 0) return '';
    return this.form.at(`ties.${place}.quantity`) || this.form.at(`ties.${place}.plannedId`);
  }
}

/** What is left, for the best first. */
function shared(fits: readonly Fit[], left: Dec): Record<string, string> {
  const typed: Record<string, string> = {};
  for (const fit of fits) {
    const much = least(left, least(dec(fit.untied), dec(fit.wanted)));
    if (much.lte(0)) break;
    typed[keyOf(fit)] = much.toFixed();
    left = left.minus(much);
  }
  return typed;
}
