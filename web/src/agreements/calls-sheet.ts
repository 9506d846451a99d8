import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { addDays } from '@core/kernel';
import * as contract from '@api/agreements';
import { Session } from '../access';
import { DayField } from '../kit/fields';
import { day, money, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { AgreementSheet } from './service';

/** The planned calls up to a day, as the one order they become. // A7 */
@Component({
  selector: 'k-calls-sheet',
  imports: [DayField, Sheet],
  template: `<k-sheet
    [head]="'Release planned calls of ' + sheet.number"
    [sub]="sheet.party.name + '; each call is released once'"
    act="Release them"
    [busy]="form.busy()"
    [refusals]="form.loose([])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-day data-first label="Up to" [(value)]="upTo" [workDate]="workDate()" [error]="form.at('upTo')" />
    @if (form.previewed()?.effects; as effects) {
      <table class="small">
        <thead>
          <tr>
            <th>Ship on</th>
            <th>Item</th>
            <th class="num">Quantity</th>
            <th class="num">Amount</th>
          </tr>
        </thead>
        <tbody>
          @for (line of effects.lines; track $index) {
            <tr>
              <td>{{ day(line.day) }}</td>
              <td>{{ line.item }}</td>
              <td class="num">{{ quantity(line.quantity) }}</td>
              <td class="num">{{ money(line.amount) }}</td>
            </tr>
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    k-day {
      display: block;
      max-width: 180px;
      margin-bottom: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CallsSheet {
  protected readonly sheet = inject<AgreementSheet>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  protected readonly upTo = signal<string | null>(addDays(this.workDate(), Number(this.sheet.releaseAhead || 14)));
  protected readonly form = new ActForm(
    contract.releasePlanned,
    computed(() => ({ agreementId: this.sheet.id, upTo: this.upTo() })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects ? `${this.sheet.currency} ${this.money(effects.net)} before tax, in one order` : '';
  });
  protected readonly money = (text: string) => money(text, this.sheet.currency);
  protected readonly day = (value: string) => day(value, this.workDate());
  protected readonly quantity = quantity;
}
