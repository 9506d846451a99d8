import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { monthText } from '@core/kernel';
import * as contract from '@api/ledger';
import { ActForm, Sheet } from '../kit/act/sheet';
import { counted } from '../kit/formats';

/** A month is closed: what is not settled of it yet, and what closing it means. */
@Component({
  selector: 'k-close-month',
  imports: [Sheet],
  template: `<k-sheet
    [head]="'Close ' + name"
    sub="and every month before it"
    act="Close the month"
    [busy]="form.busy()"
    [refusals]="form.refusals"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <p>
      Nothing is posted into a closed month any more. What comes late keeps its own day and is posted on the first day
      that is open.
    </p>
    @if (form.previewed()?.effects; as shown) {
      <ul>
        <li>{{ counted(shown.journals, 'journal') }} will be closed.</li>
        <li>
          {{ shown.shipped ? counted(shown.shipped, 'order') : 'No order' }} shipped by then
          {{ shown.shipped > 1 ? 'are' : 'is' }} still to be invoiced{{ shown.shipped ? ' in full' : '' }}.
        </li>
        <li>
          {{ shown.received ? counted(shown.received, 'purchase') : 'No purchase' }} received by then
          {{ shown.received > 1 ? 'wait' : 'waits' }} for its invoice.
        </li>
      </ul>
    }
  </k-sheet>`,
  styles: `
    ul {
      margin: 12px 0 0;
      padding-left: 20px;
      line-height: 1.8;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CloseMonthSheet {
  private readonly month = inject<string>(DIALOG_DATA);
  protected readonly name = monthText(this.month);
  protected readonly counted = counted;
  protected readonly form = new ActForm(
    contract.closeMonth,
    computed(() => ({ month: this.month })),
  );
}
