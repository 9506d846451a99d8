import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Day } from '@core/kernel';
import * as contract from '@api/stock';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { DayField } from '../kit/fields';
import { day } from '../kit/formats';
import type { Carriage } from './arrive-sheet';

/** Goods under way arrive on another day. // W6 */
@Component({
  selector: 'k-arrives-on-sheet',
  imports: [DayField, Sheet],
  template: `<k-sheet
    [head]="'When ' + row.item.number + ' arrives'"
    [sub]="'From ' + row.from.name + ' to ' + row.to.name"
    act="Keep the day"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-day
      data-first
      label="They arrive"
      [(value)]="dueDate"
      [workDate]="workDate()"
      [error]="form.at('dueDate', dueDate() !== row.dueDate)"
    />
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrivesOnSheet {
  protected readonly row = inject<{ row: Carriage }>(DIALOG_DATA).row;
  protected readonly workDate = inject(Session).workDate;
  protected readonly dueDate = signal<Day | null>(this.row.dueDate);
  protected readonly fields = [/^dueDate$/];
  protected readonly form = new ActForm(
    contract.arrivesOn,
    computed(() => ({ carriageId: this.row.id, dueDate: this.dueDate() })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects || effects.was === effects.dueDate) return '';
    const on = (text: Day) => day(text, this.workDate());
    return `${on(effects.dueDate)} instead of ${on(effects.was)}: promised from that day on`;
  });
}
