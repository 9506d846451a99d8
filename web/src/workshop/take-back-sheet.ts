import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/workshop';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';
import { money } from '../kit/formats';
import type { WorkReportSheet } from './service';

export interface TakeBackWorkData {
  sheet: WorkReportSheet;
}

/** Takes a work report back, with its reason. // P1 */
@Component({
  selector: 'k-take-back-work-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Take ' + data.sheet.document.number + ' back'"
    sub="A report of its own that names this one: parts, work and what came out"
    act="Take it back"
    [busy]="form.busy()"
    [refusals]="form.loose([field])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-text data-first label="Why" [(value)]="reason" [most]="200" [error]="form.at('reason', reason() !== '')" />
    </div>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TakeBackWorkSheet {
  protected readonly data = inject<TakeBackWorkData>(DIALOG_DATA);
  protected readonly reason = signal('');
  protected readonly field = /^reason$/;
  protected readonly form = new ActForm(
    contract.takeBackWork,
    computed(() => ({ reportId: this.data.sheet.document.id, reason: this.reason() })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const { work, currency } = this.data.sheet;
    const difference =
      effects.stockDifference === '' || effects.stockDifference === '0'
        ? ''
        : `; ${currency} ${money(effects.stockDifference.replace('-', ''), currency)} to stock differences`;
    return `${work.number} is ${effects.state} again${difference}`;
  });
}
