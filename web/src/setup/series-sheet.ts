import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import { DOCUMENTS } from '@core/kernel';
import * as contract from '@api/setup';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';

export type SeriesRow = z.infer<typeof contract.listSeries.out>['rows'][number];

/** How one kind of document is numbered from now on. // U2 */
@Component({
  selector: 'k-series-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Numbers of a ' + name"
    [sub]="row.begun ? 'the serial goes on; what stands before it can be changed' : 'none was given yet'"
    act="Keep it so"
    [busy]="form.busy()"
    [refusals]="form.loose([/^prefix$/, /^next$/])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="two">
      <k-text data-first label="Stands before the number" [(value)]="prefix" [error]="form.at('prefix')" />
      @if (!row.begun) {
        <k-text label="The next number" [(value)]="next" [error]="form.at('next')" />
      }
    </div>
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SeriesSheet {
  protected readonly row = inject<SeriesRow>(DIALOG_DATA);
  protected readonly name = DOCUMENTS[this.row.kind].name;
  protected readonly prefix = signal(this.row.prefix);
  protected readonly next = signal(String(this.row.next));
  protected readonly form = new ActForm(
    contract.keepSeries,
    computed(() => ({ kind: this.row.kind, prefix: this.prefix(), next: this.next() })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects ? `The next is ${effects.number}.` : '';
  });
}
