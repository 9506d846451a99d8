import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/sisters';
import { ActForm, Sheet } from '../kit/act/sheet';
import { TextField } from '../kit/fields';
import type { SisterRow } from './service';

/** A company of another installation is added, or changed. // X1 */
@Component({
  selector: 'k-elsewhere-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="row ? 'Change ' + row.sister.name : 'Add a company elsewhere'"
    sub="a sister company that keeps its books in another installation"
    [act]="row ? 'Keep it' : 'Add it'"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-text data-first label="Code there" [(value)]="code" [most]="8" [error]="form.at('code', code() !== '')" />
      <k-text label="Name" [(value)]="name" [most]="120" [error]="form.at('name', name() !== '')" />
      <k-text label="Currency" [(value)]="currency" [most]="3" [error]="form.at('currency', currency() !== '')" />
      <k-text label="Files go to" [(value)]="email" [most]="120" [error]="form.at('email', email() !== '')" />
    </div>
    <p class="faint">
      What goes between you goes as UBL 2.1 files, by mail to this address or saved and brought there. Her files name
      her by her code; say on the page of the pair who she is among your customers and vendors.
    </p>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ElsewhereSheet {
  protected readonly row = inject<{ row: SisterRow | null }>(DIALOG_DATA).row;
  protected readonly code = signal(this.row?.sister.code ?? '');
  protected readonly name = signal(this.row?.sister.name ?? '');
  protected readonly currency = signal(this.row?.sister.currency ?? '');
  protected readonly email = signal(this.row?.email ?? '');
  protected readonly fields = [/^(code|name|currency|email)$/];
  protected readonly form = new ActForm(
    contract.keepElsewhere,
    computed(() => ({
      id: this.row?.sister.id ?? null,
      code: this.code(),
      name: this.name(),
      currency: this.currency(),
      email: this.email(),
    })),
  );
}
