import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { dec, isDay } from '@core/kernel';
import * as contract from '@api/purchasing';
import { Session } from '../access';
import { DayField } from '../kit/fields';
import { counted, day, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { PurchaseSheet } from './service';

/** What the vendor says to a purchase order, line by line: when it comes, or that the rest of it will not. // L4 L6 */
@Component({
  selector: 'k-answer-sheet',
  imports: [DayField, Sheet],
  template: `<k-sheet
    [head]="'Answer to ' + sheet.number"
    [sub]="'from ' + sheet.vendor.name"
    act="Take it down"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <table class="small">
      <thead>
        <tr>
          <th></th>
          <th>Item</th>
          <th>For</th>
          <th class="num">Still to come</th>
          <th>Due on</th>
          <th>Will not come</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.line.id) {
          <tr>
            <td class="faint">{{ row.line.lineNo }}</td>
            <td>{{ row.line.item.number }}</td>
            <td class="faint">{{ row.whom }}</td>
            <td class="num">{{ row.open }}</td>
            <td class="day">
              @if (row.stops) {
                <span class="faint">–</span>
              } @else {
                <k-day
                  [bare]="true"
                  [label]="'Due on, line ' + row.line.lineNo"
                  [value]="row.dueDate"
                  (valueChange)="set($index, { dueDate: $event })"
                  [workDate]="workDate()"
                  [error]="row.refused"
                  [attr.data-first]="$index === 0 ? '' : null"
                />
              }
            </td>
            <td>
              <input
                type="checkbox"
                [checked]="row.stops"
                (change)="set($index, { stops: !row.stops })"
                [attr.aria-label]="'The rest of line ' + row.line.lineNo + ' will not come'"
              />
            </td>
          </tr>
          @if (row.refused) {
            <tr>
              <td colspan="6" class="bad" role="alert">{{ row.refused }}</td>
            </tr>
          }
        }
      </tbody>
    </table>
    @if (touches().length > 0) {
      <h3>What it does to orders</h3>
      <table class="small">
        <tbody>
          @for (touch of touches(); track touch.order + touch.lineNo) {
            <tr>
              <td>{{ touch.order }} line {{ touch.lineNo }}</td>
              <td class="num">{{ quantity(touch.quantity) }}</td>
              <td>
                {{
                  touch.what === 'late'
                    ? 'comes on ' + day(touch.day) + ', after its ship date'
                    : 'waits on the bench again, to ship on ' + day(touch.day)
                }}
              </td>
            </tr>
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    td.day {
      width: 150px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AnswerSheet {
  protected readonly sheet = inject<PurchaseSheet>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  protected readonly fields = [/^lines\.\d+\.(dueDate|stops)$/];
  private readonly lines = this.sheet.lines.filter((line) => dec(line.quantity).gt(line.received));
  private readonly typed = signal<{ dueDate: string | null; stops: boolean }[]>(
    this.lines.map(({ dueDate }) => ({ dueDate, stops: false })),
  );
  protected readonly form = new ActForm(
    contract.answerPurchase,
    computed(() => ({
      purchaseId: this.sheet.id,
      version: this.sheet.version,
      lines: this.lines.map((line, index) => {
        const { dueDate, stops } = this.typed()[index]!;
        return {
          purchaseLineId: line.id,
          dueDate: dueDate !== null && !isDay(dueDate) ? dueDate.slice(0, 10) : dueDate,
          stops,
        };
      }),
    })),
  );
  protected readonly rows = computed(() =>
    this.lines.map((line, index) => {
      const { dueDate, stops } = this.typed()[index]!;
      const at = (field: string) => this.form.at(`lines.${index}.${field}`);
      const [first] = line.ties;
      return {
        line,
        dueDate,
        stops,
        open: quantity(dec(line.quantity).minus(line.received).toFixed()),
        whom: first
          ? `${first.order.number} line ${first.orderLineNo}${line.ties.length > 1 ? ` and ${line.ties.length - 1} more` : ''}`
          : this.sheet.customer
            ? 'nobody yet'
            : 'our stock',
        refused: at('dueDate') || at('stops'),
      };
    }),
  );
  protected readonly touches = computed(() => this.form.previewed()?.effects?.touches ?? []);
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    if (effects.state === 'cancelled') return 'Nothing comes: the purchase order is cancelled';
    const moved = this.rows().filter((row) => !row.stops && row.dueDate !== row.line.dueDate).length;
    const parts = [
      ...(moved > 0 ? [`${counted(moved, 'line')} on another day`] : []),
      ...(effects.stopped > 0 ? [`${counted(effects.stopped, 'line')} closed short`] : []),
    ];
    return parts.length === 0 ? 'As it was ordered' : parts.join(', ');
  });
  protected readonly quantity = quantity;
  protected readonly day = (value: string) => day(value, this.workDate());

  protected set(index: number, change: Partial<{ dueDate: string | null; stops: boolean }>): void {
    this.typed.update((all) => all.map((each, at) => (at === index ? { ...each, ...change } : each)));
  }
}
