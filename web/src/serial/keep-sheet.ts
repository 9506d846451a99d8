import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NUMBER_LENGTH } from '@core/serial';
import * as contract from '@api/serial';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';

export interface KeepData {
  item: { id: number; number: string; name: string };
  /** How its numbers are made; null where it is not kept by number yet. */
  pattern: string | null;
}

/** Keeps an item by number from now on, or changes how its numbers are made. // P6 */
@Component({
  selector: 'k-keep-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Serial numbers of ' + data.item.number"
    [sub]="data.item.name"
    [act]="data.pattern === null ? 'Keep it by number' : 'Make them so'"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text
      data-first
      label="How they are made"
      [(value)]="pattern"
      [most]="length"
      hint="# stands for the count, {YY} for the year: PM15-{YY}-####; empty where they are typed, a vendor's own"
      [error]="form.at('pattern', pattern() !== '')"
    />
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeepSheet {
  protected readonly data = inject<KeepData>(DIALOG_DATA);
  protected readonly length = NUMBER_LENGTH;
  protected readonly pattern = signal(this.data.pattern ?? '');
  protected readonly fields = [/^pattern$/];
  protected readonly form = new ActForm(
    contract.keepByNumber,
    computed(() => ({ itemId: this.data.item.id, pattern: this.pattern() })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    return effects.next
      ? `the next is ${effects.next}; it moves by number only from now on`
      : 'its numbers are typed as it comes; it moves by number only from now on';
  });
}
