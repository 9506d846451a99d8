import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { addDays, type Day } from '@core/kernel';
import * as contract from '@api/commission';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { DayField } from '../kit/fields';
import { counted, money } from '../kit/formats';

/** Reckons commission of invoices since a day again: those before a rate was kept, or before their orders were shared. */
@Component({
  selector: 'k-count-commission-sheet',
  imports: [DayField, Sheet],
  template: `<k-sheet
    head="Reckon commission again"
    sub="of invoices since a day: by itself only those are that change once there are rates"
    act="Reckon it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-day
      data-first
      label="Invoices since"
      [(value)]="since"
      [workDate]="session.workDate()"
      [error]="form.at('since')"
    />
    @if (form.previewed()?.effects; as shown) {
      <span effect
        >{{ counted(shown.earnings, 'line') }} more, {{ data.currency }} {{ money(shown.amount) }} in all.</span
      >
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CountCommissionSheet {
  protected readonly data = inject<{ currency: string }>(DIALOG_DATA);
  protected readonly session = inject(Session);
  protected readonly since = signal<Day | null>(addDays(this.session.workDate(), -90));
  protected readonly fields = [/^since$/];
  protected readonly form = new ActForm(
    contract.countCommission,
    computed(() => ({ since: this.since() ?? 'none' })),
  );
  protected readonly money = (value: string) => money(value, this.data.currency);
  protected readonly counted = counted;
}
