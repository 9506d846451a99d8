import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';
import type { AskedRow } from './asked-row';

/** What another asked for is returned to them, with why. */
@Component({
  selector: 'k-return',
  imports: [Sheet, TextField],
  template: `<k-sheet
    head="Return it"
    [sub]="'to ' + row.person + ', who asked for it'"
    act="Return it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <p>{{ row.words }}</p>
    <k-text data-first label="Why" [most]="200" [(value)]="word" [error]="form.at('word', word() !== '')" />
  </k-sheet>`,
  styles: `
    p {
      margin: 0 0 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReturnSheet {
  protected readonly row = inject<AskedRow>(DIALOG_DATA);
  protected readonly word = signal('');
  protected readonly fields = [/^word$/];
  protected readonly form = new ActForm(
    contract.returnAsked,
    computed(() => ({ id: this.row.id, word: this.word() })),
  );
}
