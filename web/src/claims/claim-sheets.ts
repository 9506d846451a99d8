import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Day } from '@core/kernel';
import * as contract from '@api/claims';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, DayField, NumberField } from '../kit/fields';
import { counted, day, money } from '../kit/formats';
import type { ClaimSheet } from './service';

export interface MakeClaimData {
  vendor: { id: number; name: string };
  currency: string;
}

/** What a vendor owes us up to a day goes on a claim. // S13 */
@Component({
  selector: 'k-make-claim-sheet',
  imports: [DayField, Sheet],
  template: `<k-sheet
    [head]="'Claim of ' + data.vendor.name"
    sub="all that is accrued by their support up to a day; each line is on one claim"
    act="Claim it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-day
      data-first
      label="Accrued up to"
      [(value)]="until"
      [workDate]="session.workDate()"
      [error]="form.at('until')"
    />
    @if (form.previewed()?.effects; as shown) {
      <span effect>{{ counted(shown.lines, 'line') }}, {{ data.currency }} {{ money(shown.amount) }}.</span>
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MakeClaimSheet {
  protected readonly data = inject<MakeClaimData>(DIALOG_DATA);
  protected readonly session = inject(Session);
  protected readonly until = signal<Day | null>(this.session.workDate());
  protected readonly fields = [/^until$/];
  protected readonly form = new ActForm(
    contract.makeClaim,
    computed(() => ({ vendorId: this.data.vendor.id, until: this.until() ?? '' })),
  );
  protected readonly money = (value: string) => money(value, this.data.currency);
  protected readonly counted = counted;
}

/** A claim is settled against an invoice of its vendor. // S13 */
@Component({
  selector: 'k-settle-claim-sheet',
  imports: [ChoiceField, NumberField, Sheet],
  template: `<k-sheet
    [head]="'Settle ' + claim.document.number"
    [sub]="'against an invoice of ' + claim.vendor.name + ': we owe them that much less'"
    act="Settle it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="gaps">
      <k-choice
        data-first
        label="Invoice"
        [options]="invoices"
        [(value)]="openItemId"
        [error]="form.at('openItemId')"
      />
      <k-number
        kind="price"
        [label]="'Amount, ' + claim.currency + '; all that is open where none'"
        [(value)]="amount"
        [error]="form.at('amount')"
      />
    </div>
    @if (form.previewed()?.effects; as shown) {
      <span effect>{{ claim.currency }} {{ money(shown.amount) }} of both is settled.</span>
    }
  </k-sheet>`,
  styles: `
    .gaps {
      display: grid;
      grid-template-columns: 1.4fr 1fr;
      gap: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SettleClaimSheet {
  protected readonly claim = inject<ClaimSheet>(DIALOG_DATA);
  private readonly session = inject(Session);
  protected readonly amount = signal('');
  protected readonly openItemId = signal(String(this.claim.owed[0]?.openItemId ?? ''));
  protected readonly invoices = this.claim.owed.map(({ openItemId, invoice, vendorNumber, owed, dueDate }) => ({
    value: String(openItemId),
    label: `${invoice.number}, theirs ${vendorNumber}, ${money(owed, this.claim.currency)} due ${day(dueDate, this.session.workDate())}`,
  }));
  protected readonly fields = [/^(openItemId|amount)$/];
  protected readonly form = new ActForm(
    contract.settleClaim,
    computed(() => ({
      id: this.claim.document.id,
      version: this.claim.version,
      openItemId: this.openItemId() ? Number(this.openItemId()) : null,
      amount: this.amount(),
    })),
  );
  protected readonly money = (value: string) => money(value, this.claim.currency);
}

/** A vendor pays a claim into the bank. // S13 */
@Component({
  selector: 'k-receive-claim-sheet',
  imports: [NumberField, Sheet],
  template: `<k-sheet
    [head]="claim.document.number + ' is paid'"
    [sub]="'by ' + claim.vendor.name + ', into the bank'"
    act="Take it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-number
      data-first
      kind="price"
      [label]="'Amount, ' + claim.currency + '; all that is open where none'"
      [(value)]="amount"
      [error]="form.at('amount')"
    />
    @if (form.previewed()?.effects; as shown) {
      <span effect>{{ claim.currency }} {{ money(shown.amount) }} into the bank.</span>
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReceiveClaimSheet {
  protected readonly claim = inject<ClaimSheet>(DIALOG_DATA);
  protected readonly amount = signal('');
  protected readonly fields = [/^amount$/];
  protected readonly form = new ActForm(
    contract.receiveClaim,
    computed(() => ({ id: this.claim.document.id, version: this.claim.version, amount: this.amount() })),
  );
  protected readonly money = (value: string) => money(value, this.claim.currency);
}
