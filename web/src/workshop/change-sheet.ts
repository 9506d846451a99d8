import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Day } from '@core/kernel';
import * as contract from '@api/workshop';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { DayField, NumberField } from '../kit/fields';
import { day, quantity } from '../kit/formats';
import type { WorkSheet } from './service';

export interface ChangeWorkData {
  sheet: WorkSheet;
}

/** Another quantity or day for an order that nobody began, and whom that makes late. // W2 L7 */
@Component({
  selector: 'k-change-work-sheet',
  imports: [DayField, NumberField, Sheet],
  template: `<k-sheet
    [head]="'Quantity and day of ' + sheet.document.number"
    [sub]="sheet.item.name + ', laid anew on its work centres'"
    act="Change it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-number data-first label="How many" [(value)]="quantity" [error]="form.at('quantity')" />
      <k-day
        label="There on"
        hint="Empty: as soon as can be"
        [(value)]="due"
        [workDate]="session.workDate()"
        [error]="form.at('due', due() !== null)"
      />
    </div>
    @for (line of form.previewed()?.effects?.late ?? []; track line.order.id) {
      <p class="notice warn">
        {{ line.order.number }} line {{ line.lineNo }} ships {{ day(line.shipDate) }}, before it would be there.
      </p>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChangeWorkSheet {
  protected readonly sheet = inject<ChangeWorkData>(DIALOG_DATA).sheet;
  protected readonly session = inject(Session);
  protected readonly quantity = signal(this.sheet.quantity);
  protected readonly due = signal<Day | null>(this.sheet.due < this.session.workDate() ? null : this.sheet.due);
  protected readonly fields = [/^quantity$/, /^due$/];
  protected readonly form = new ActForm(
    contract.changeWork,
    computed(() => ({
      workId: this.sheet.document.id,
      version: this.sheet.version,
      quantity: this.quantity(),
      due: this.due(),
    })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects
      ? `${quantity(this.quantity())} begun ${this.day(effects.start)}, there on ${this.day(effects.day)}`
      : '';
  });
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
