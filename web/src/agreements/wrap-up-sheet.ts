import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { WrapUp } from '@core/agreements';
import { addDays, dec, sum } from '@core/kernel';
import * as contract from '@api/agreements';
import { Session } from '../access';
import { ChoiceField, DayField } from '../kit/fields';
import { day, money, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { AgreementSheet } from './service';

const CHOICES: readonly { value: WrapUp; label: string; act: string }[] = [
  { value: 'end', label: 'End it, nothing is left', act: 'End the agreement' },
  { value: 'waive', label: 'Waive what is left and end it', act: 'Waive and end' },
  { value: 'charge', label: 'Charge what is left and end it', act: 'Draft the charge and end' },
  { value: 'extend', label: 'Move its last day', act: 'Extend the agreement' },
  { value: 'renew', label: 'End it and renew it as a draft', act: 'End and renew' },
];

/** What stands where nothing is known yet. */
const NOT_TOLD = '–';

/** What is left, what is open, what is owed at an agreement's end, and the decision about it. // A11 */
@Component({
  selector: 'k-wrap-up-sheet',
  imports: [ChoiceField, DayField, Sheet],
  template: `<k-sheet
    [head]="'Wrap up ' + sheet.number"
    [sub]="sheet.party.name + ', ' + ended()"
    [act]="choice().act"
    [busy]="form.busy()"
    [refusals]="form.loose([fields])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <dl class="facts">
      <dt>Left</dt>
      <dd>{{ left() }}</dd>
      <dt>Open orders</dt>
      <dd>{{ open() }}</dd>
      <dt>Still owed</dt>
      <dd>{{ owed() }}</dd>
      @if (money(effects()?.rebate)) {
        <dt>Rebate not settled</dt>
        <dd>{{ sheet.currency }} {{ money(effects()?.rebate) }}; settle it after</dd>
      }
      @if (prepaid()) {
        <dt>Paid ahead</dt>
        <dd>{{ sheet.currency }} {{ money(prepaid()) }} left</dd>
      }
    </dl>
    <div class="fields">
      <k-choice
        data-first
        label="What is decided"
        [value]="decision()"
        (valueChange)="decision.set($any($event))"
        [options]="choices"
        [error]="form.at('decision')"
      />
      @if (decision() === 'extend') {
        <k-day label="New last day" [(value)]="lastDay" [workDate]="workDate()" [error]="form.at('lastDay')" />
      }
      @if (prepaid() && decision() !== 'extend') {
        <k-choice
          label="What is paid ahead"
          [value]="prepayments()"
          (valueChange)="prepayments.set($any($event))"
          [options]="prepaymentChoices"
          [error]="form.at('prepayments')"
        />
      }
      @if (decision() === 'renew') {
        <label class="check"
          ><input type="checkbox" [checked]="carry()" (change)="carry.set(!carry())" /> Carry over what is left</label
        >
      }
    </div>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    .check {
      align-self: end;
      padding-bottom: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WrapUpSheet {
  protected readonly sheet = inject<AgreementSheet>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  protected readonly fields = /^(decision|lastDay|prepayments)$/;
  protected readonly choices = CHOICES.filter((each) => each.value !== 'charge' || this.sheet.side === 'selling');
  protected readonly prepaymentChoices = [
    { value: 'return', label: 'Pay it back' },
    { value: 'carry', label: 'Carry it to the renewal' },
  ];
  protected readonly prepayments = signal<'return' | 'carry'>('return');
  private readonly nothingLeft = this.sheet.usedUp;
  protected readonly decision = signal<WrapUp>(this.nothingLeft ? 'end' : 'waive');
  protected readonly lastDay = signal<string | null>(
    addDays(this.sheet.lastDay < this.workDate() ? this.workDate() : this.sheet.lastDay, 90),
  );
  protected readonly carry = signal(false);
  private readonly input = computed(() => ({
    id: this.sheet.id,
    version: this.sheet.version,
    decision: this.decision(),
    lastDay: this.decision() === 'extend' ? this.lastDay() : null,
    carry: this.carry(),
    prepayments: this.prepayments(),
  }));
  protected readonly form = new ActForm(contract.wrapUpAgreement, this.input);
  protected readonly choice = computed(() => CHOICES.find((each) => each.value === this.decision())!);
  protected readonly effects = computed(() => this.form.previewed()?.effects ?? null);

  protected readonly ended = computed(() => {
    const last = day(this.sheet.lastDay, this.workDate());
    return this.sheet.lastDay < this.workDate() ? `its last day was ${last}` : `its last day is ${last}`;
  });
  protected readonly left = computed(() => {
    // While it is refused, nothing is told of what it would come to.
    const left = this.effects()?.left;
    if (!left) return NOT_TOLD;
    return left.length === 0
      ? 'nothing'
      : left
          .map((each) =>
            this.sheet.basis === 'value'
              ? `${this.sheet.currency} ${money(each.quantity, this.sheet.currency)} of ${each.item}`
              : `${quantity(each.quantity)} of ${each.item}`,
          )
          .join(', ');
  });
  protected readonly open = computed(() => {
    const orders = this.effects()?.openOrders;
    if (!orders) return NOT_TOLD;
    return orders.map((order) => order.number).join(', ') || 'none; all that was released went out';
  });
  protected readonly owed = computed(() => {
    const owed = this.effects()?.owed;
    if (owed === undefined) return NOT_TOLD;
    return owed === '0' ? 'nothing' : `${this.sheet.currency} ${money(owed, this.sheet.currency)}`;
  });
  protected readonly prepaid = computed(() => {
    const left = this.effects()?.prepaid ?? sum(this.sheet.prepayments.map((each) => dec(each.left))).toFixed();
    return left === '0' ? '' : left;
  });
  /** An amount in the agreement's currency; empty for none. */
  protected readonly money = (text: string | null | undefined) =>
    !text || text === '0' ? '' : money(text, this.sheet.currency);
  protected readonly effect = computed(() => {
    const effects = this.effects();
    if (!effects) return '';
    if (this.decision() === 'charge') {
      return `An invoice draft of ${this.sheet.currency} ${this.money(effects.shortfall)} before tax`;
    }
    const { renewal } = effects;
    if (renewal) {
      const days = `${day(renewal.firstDay, this.workDate())} to ${day(renewal.lastDay, this.workDate())}`;
      return `A draft from ${days}, ${renewal.currency} ${money(renewal.value, renewal.currency)}`;
    }
    if (this.decision() === 'extend') return `Holds to ${day(effects.lastDay, this.workDate())}`;
    return effects.openOrders.length > 0 ? 'Orders already released keep their terms' : '';
  });
}
