import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/agreements';
import * as billing from '@api/billing';
import { Session } from '../access';
import { ChoiceField, DayField, NumberField } from '../kit/fields';
import { day, money, ownMoney } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { coversText } from './agreement-columns';
import type { AgreementSheet } from './service';

/** The accrued rebate as the credit note it becomes. // A10 */
@Component({
  selector: 'k-settle-sheet',
  imports: [Sheet],
  template: `<k-sheet
    [head]="'Settle the rebate of ' + sheet.number"
    [sub]="sheet.party.name"
    act="Make the credit note"
    [busy]="form.busy()"
    [refusals]="form.loose([])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @if (form.previewed()?.effects; as effects) {
      <dl class="facts">
        <dt>Credit note</dt>
        <dd>{{ effects.currency }} {{ money(effects.amount) }}</dd>
        @for (each of effects.setOff; track each.invoice) {
          <dt>Set off against</dt>
          <dd>{{ each.invoice }}, {{ money(each.amount) }}</dd>
        } @empty {
          <dt>Set off against</dt>
          <dd>nothing; it stands to their credit</dd>
        }
      </dl>
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SettleSheet {
  protected readonly sheet = inject<AgreementSheet>(DIALOG_DATA);
  protected readonly form = new ActForm(
    contract.settleRebate,
    computed(() => ({ agreementId: this.sheet.id })),
  );
  protected readonly money = (text: string) => money(text, this.sheet.currency);
}

/** What was settled of the rebate beyond what is owed, as the invoice that claims it back. // A10 */
@Component({
  selector: 'k-claim-sheet',
  imports: [Sheet],
  template: `<k-sheet
    [head]="'Claim back rebate of ' + sheet.number"
    [sub]="sheet.party.name"
    act="Make the invoice"
    [busy]="form.busy()"
    [refusals]="form.loose([])"
    (done)="form.do()"
  >
    @if (form.previewed()?.effects; as effects) {
      <dl class="facts">
        <dt>Invoice</dt>
        <dd>{{ effects.currency }} {{ money(effects.amount) }}, due {{ day(effects.dueDate) }}</dd>
        <dt>Why</dt>
        <dd>More was settled than is owed since goods came back</dd>
      </dl>
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ClaimSheet {
  protected readonly sheet = inject<AgreementSheet>(DIALOG_DATA);
  private readonly workDate = inject(Session).workDate;
  protected readonly form = new ActForm(
    contract.claimRebate,
    computed(() => ({ agreementId: this.sheet.id })),
  );
  protected readonly money = (text: string) => money(text, this.sheet.currency);
  protected readonly day = (value: string) => day(value, this.workDate());
}

/** Money a customer pays ahead against the agreement or one of its lines. // A12 */
@Component({
  selector: 'k-prepayment-sheet',
  imports: [ChoiceField, DayField, NumberField, Sheet],
  template: `<k-sheet
    [head]="'Prepayment on ' + sheet.number"
    [sub]="sheet.party.name + '; invoices of the agreement draw it by themselves'"
    act="Take the prepayment"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    (done)="form.do()"
  >
    <div class="fields">
      <k-number
        data-first
        kind="price"
        [label]="'Amount, ' + sheet.currency"
        [(value)]="amount"
        [error]="form.at('amount', amount() !== '')"
      />
      <k-day label="Taken on" [(value)]="takenOn" [workDate]="workDate()" [error]="form.at('takenOn')" />
      <k-choice label="Held for" [(value)]="lineId" [options]="lines" [error]="form.at('agreementLineId')" />
    </div>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PrepaymentSheet {
  protected readonly sheet = inject<AgreementSheet>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  protected readonly fields = [/^amount$/, /^takenOn$/, /^agreementLineId$/];
  protected readonly amount = signal('');
  protected readonly takenOn = signal<string | null>(this.workDate());
  protected readonly lineId = signal('');
  protected readonly lines = [
    { value: '', label: 'all of the agreement' },
    ...this.sheet.lines.map((line) => ({ value: String(line.id), label: `line ${line.lineNo}, ${coversText(line)}` })),
  ];
  protected readonly form = new ActForm(
    contract.takePrepayment,
    computed(() => ({
      agreementId: this.sheet.id,
      agreementLineId: this.lineId() ? Number(this.lineId()) : null,
      amount: this.amount(),
      takenOn: this.takenOn(),
    })),
  );
  /** What it comes to in the company's currency, where that is another. // P8 */
  protected readonly effect = computed(() => {
    const own = this.form.previewed()?.effects?.own;
    return own ? ownMoney(own.amount, own) : '';
  });
}

/** The invoice draft for what was not taken: posted as it is shown, or dropped. // A11 */
@Component({
  selector: 'k-shortfall-sheet',
  imports: [ChoiceField, Sheet],
  template: `<k-sheet
    [head]="'Shortfall of ' + sheet.number"
    [sub]="sheet.party.name"
    [act]="drop() ? 'Charge nothing' : 'Post the invoice'"
    [busy]="post.busy() || leave.busy()"
    [refusals]="drop() ? leave.loose([]) : post.loose([])"
    (done)="drop() ? leave.do() : post.do()"
  >
    <k-choice data-first label="What is done" [(value)]="what" [options]="choices" />
    @if (post.previewed()?.effects; as effects) {
      @if (!drop()) {
        <dl class="facts">
          <dt>Not taken</dt>
          <dd>{{ money(effects.net) }}</dd>
          <dt>Tax</dt>
          <dd>{{ money(effects.tax) }}</dd>
          <dt>Invoice</dt>
          <dd>{{ effects.currency }} {{ money(effects.total) }}, due {{ day(effects.dueDate) }}</dd>
        </dl>
      }
    }
  </k-sheet>`,
  styles: `
    k-choice {
      display: block;
      max-width: 320px;
      margin-bottom: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShortfallSheet {
  protected readonly sheet = inject<AgreementSheet>(DIALOG_DATA);
  private readonly workDate = inject(Session).workDate;
  protected readonly what = signal('post');
  protected readonly drop = computed(() => this.what() === 'drop');
  protected readonly choices = [
    { value: 'post', label: 'Charge it' },
    { value: 'drop', label: 'Charge nothing after all' },
  ];
  private readonly input = computed(() => ({ id: this.sheet.shortfall!.id }));
  protected readonly post = new ActForm(billing.postShortfall, this.input);
  protected readonly leave = new ActForm(billing.dropShortfall, this.input);
  protected readonly money = (text: string) => money(text, this.sheet.currency);
  protected readonly day = (value: string) => day(value, this.workDate());
}
