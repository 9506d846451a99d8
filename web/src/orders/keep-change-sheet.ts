import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import * as contract from '@api/orders';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';
import { fieldShown, money } from '../kit/formats';

export interface KeepChangeData {
  number: string;
  currency: string;
  change: z.input<typeof contract.changeOrder.input>;
}

/** What a change of a confirmed order makes another, field by field, what else it moves, and why. // S8 */
@Component({
  selector: 'k-keep-change-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Change ' + data.number"
    sub="Kept as its next revision, with each field as it was"
    act="Change it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text data-first label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', reason() !== '')" />
    @if (asksCredit()) {
      <k-text
        label="Why it may pass over the credit limit"
        [(value)]="creditReason"
        [most]="200"
        [error]="form.at('creditReason', creditReason() !== '')"
      />
    }
    @if (mayAlong && shown()?.purchases?.length) {
      <label class="check">
        <input type="checkbox" [checked]="along()" (change)="along.set($any($event.target).checked)" />
        {{ shown()!.purchases.join(', ') }} {{ shown()!.purchases.length === 1 ? 'moves' : 'move' }} along
      </label>
    }
    @if (shown(); as effects) {
      <table class="small">
        <thead>
          <tr>
            <th>What</th>
            <th>As it was</th>
            <th>As it will be</th>
          </tr>
        </thead>
        <tbody>
          @for (field of effects.fields; track field.what) {
            <tr>
              <td>{{ field.what }}</td>
              <td>{{ value(field.was) }}</td>
              <td>{{ value(field.is) }}</td>
            </tr>
          }
          <tr>
            <td>Net, {{ data.currency }}</td>
            <td>{{ money(effects.was) }}</td>
            <td>{{ money(effects.net) }}</td>
          </tr>
        </tbody>
      </table>
      @for (words of effects.effects; track words) {
        <p>{{ words }}.</p>
      }
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    table {
      margin: 16px 0 8px;
    }
    p {
      margin: 4px 0;
    }
    .check {
      display: block;
      margin-top: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeepChangeSheet {
  protected readonly data = inject<KeepChangeData>(DIALOG_DATA);
  private readonly session = inject(Session);
  private readonly workDate = this.session.workDate;
  /** Who may not change purchases is told which stay. */
  protected readonly mayAlong = this.session.may('purchases');
  protected readonly along = signal(this.data.change.along ?? false);
  protected readonly reason = signal('');
  protected readonly creditReason = signal('');
  protected readonly fields = [/^reason$/, /^creditReason$/];
  protected readonly form = new ActForm(
    contract.changeOrder,
    computed(() => ({
      ...this.data.change,
      along: this.along(),
      reason: this.reason(),
      ...(this.creditReason() === '' ? {} : { creditReason: this.creditReason() }),
    })),
  );
  protected readonly asksCredit = computed(() => this.creditReason() !== '' || this.form.at('creditReason') !== '');
  /** What was shown last stays while a reason is typed. */
  protected readonly shown = computed(() => this.form.previewed()?.effects ?? null);
  protected readonly effect = computed(() => {
    const effects = this.shown();
    return effects
      ? `${effects.fields.length} ${effects.fields.length === 1 ? 'field' : 'fields'} of ${this.data.number}`
      : '';
  });
  protected readonly value = (text: string) => fieldShown(text, this.workDate());
  protected readonly money = (text: string) => money(text, this.data.currency);
}
