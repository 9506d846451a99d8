import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/counter';
import type { DocumentRef } from '@core/kernel';
import { money } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { TillNow } from './service';
import { tillHere } from './till-here';

export interface DepositBackData {
  prepayment: DocumentRef;
  /** What it was paid for. */
  heldFor: DocumentRef;
  left: string;
  currency: string;
}

/** What is left of a deposit goes back over the counter, out of the drawer one stands at. // C5 */
@Component({
  selector: 'k-deposit-back-sheet',
  imports: [Sheet],
  template: `<k-sheet
    [head]="'Pay ' + data.prepayment.number + ' back'"
    [sub]="'a deposit for ' + data.heldFor.number"
    act="Pay it back"
    [busy]="form.busy()"
    [refusals]="form.loose([])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <p>
      {{ data.currency }} {{ money(data.left) }} is left of it. It leaves the drawer of {{ till()?.name ?? 'no till' }},
      and {{ data.heldFor.number }} is paid when it is fetched.
    </p>
    @if (form.previewed()?.effects; as shown) {
      <span effect>{{ data.currency }} {{ money(shown.amount) }} in cash.</span>
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DepositBackSheet {
  protected readonly data = inject<DepositBackData>(DIALOG_DATA);
  protected readonly till = signal<TillNow | null>(null);
  protected readonly form = new ActForm(
    contract.payBackDeposit,
    computed(() => ({ tillId: this.till()?.id ?? 0, prepaymentId: this.data.prepayment.id })),
  );
  protected readonly money = (value: string) => money(value, this.data.currency);

  constructor() {
    this.form.begin(tillHere(), (till) => this.till.set(till));
  }
}
