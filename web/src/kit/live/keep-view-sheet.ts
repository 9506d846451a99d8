import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import { keepView } from '@api/lists';
import { ActForm, Sheet } from '../act/sheet';
import { ChoiceField, TextField } from '../fields';

/** What is kept: the list, what its address says, and its columns. */
export type ViewNow = Omit<z.input<typeof keepView.input>, 'name' | 'forAll'>;

/** Keeps what a list shows by name. */
@Component({
  selector: 'k-keep-view-sheet',
  imports: [ChoiceField, Sheet, TextField],
  template: `<k-sheet
    head="Keep this as a view"
    sub="What the list is narrowed to, its order and its columns; days that were typed as +5 or fri move with the work date"
    act="Keep the view"
    [busy]="form.busy()"
    [refusals]="form.loose([fields])"
    (done)="form.do()"
  >
    <k-text data-first label="Name" [(value)]="name" [most]="40" [error]="form.at('name', name() !== '')" />
    <k-choice label="For whom" [(value)]="whom" [options]="whoms" />
    <span effect>{{ replaces() }}</span>
  </k-sheet>`,
  styles: `
    k-choice {
      display: block;
      margin-top: 12px;
      width: 260px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeepViewSheet {
  private readonly now = inject<ViewNow>(DIALOG_DATA);
  protected readonly name = signal('');
  protected readonly whom = signal('me');
  protected readonly whoms = [
    { value: 'me', label: 'For me' },
    { value: 'all', label: 'For all who work here' },
  ];
  protected readonly fields = /^name$/;
  protected readonly form = new ActForm(
    keepView,
    computed(() => ({ ...this.now, name: this.name(), forAll: this.whom() === 'all' })),
  );
  protected readonly replaces = computed(() =>
    this.form.previewed()?.effects?.replaces ? 'Takes the place of the view of that name.' : '',
  );
}
