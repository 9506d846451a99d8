import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import * as contract from '@api/stock';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';
import { counted, money } from '../kit/formats';

export interface CountData {
  sheet: z.infer<typeof contract.openCount.out>;
}

const worth = (cost: string, currency: string) =>
  cost === '' ? '' : `${currency} ${money(cost.replace('-', ''), currency)} ${cost.startsWith('-') ? 'less' : 'more'}`;

/** What a count comes to, before it is posted. // W6 */
@Component({
  selector: 'k-post-count-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Post ' + data.sheet.document.number"
    sub="Each difference goes to stock differences, in one journal"
    act="Post it"
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
export class PostCountSheet {
  protected readonly data = inject<CountData>(DIALOG_DATA);
  protected readonly reason = signal('');
  protected readonly field = /^reason$/;
  protected readonly form = new ActForm(
    contract.postCount,
    computed(() => ({
      countId: this.data.sheet.document.id,
      version: this.data.sheet.version,
      reason: this.reason(),
    })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const off = effects.lines.filter(({ difference }) => difference !== '0').length;
    if (off === 0) return 'All of it is as it was known';
    return [counted(off, 'difference'), worth(effects.cost, effects.currency)].filter(Boolean).join(', ');
  });
}

/** Takes a posted count back, with its reason. // P1 */
@Component({
  selector: 'k-take-back-count-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Take ' + data.sheet.document.number + ' back'"
    sub="By a count of its own that names it"
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
export class TakeBackCountSheet {
  protected readonly data = inject<CountData>(DIALOG_DATA);
  protected readonly reason = signal('');
  protected readonly field = /^reason$/;
  protected readonly form = new ActForm(
    contract.takeBackCount,
    computed(() => ({ countId: this.data.sheet.document.id, reason: this.reason() })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects && effects.cost !== '' ? `Stock is worth ${worth(effects.cost, effects.currency)}` : '';
  });
}
