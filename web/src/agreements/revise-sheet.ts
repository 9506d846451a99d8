import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/agreements';
import { TextField } from '../kit/fields';
import { counted, money, price } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { AgreementSheet } from './service';
import { sendableRevision, type TypedTerms } from './typed';

/** What a revision changes, field by field, and which open lines it would price anew. // A15 */
@Component({
  selector: 'k-revise-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Revise ' + data.sheet.number"
    [sub]="data.sheet.party.name + '; what was released keeps its terms unless it is repriced'"
    act="Keep the revision"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text
      data-first
      label="Why"
      [(value)]="reason"
      [most]="200"
      [error]="form.at('reason', reason() !== '')"
      hint="Kept with the revision."
    />
    @if (form.previewed()?.effects; as effects) {
      <h3>{{ counted(effects.changes.length, 'change') }}</h3>
      <table class="small">
        <thead>
          <tr>
            <th>What</th>
            <th>Was</th>
            <th>Becomes</th>
          </tr>
        </thead>
        <tbody>
          @for (change of effects.changes; track change.what) {
            <tr>
              <td>{{ change.what }}</td>
              <td class="faint">{{ change.was }}</td>
              <td>{{ change.is }}</td>
            </tr>
          }
        </tbody>
      </table>
      @if (effects.repriced.length > 0) {
        <label class="check"
          ><input type="checkbox" [checked]="reprice()" (change)="reprice.set(!reprice())" /> Price
          {{ counted(effects.repriced.length, 'open line') }} anew</label
        >
        <table class="small">
          <tbody>
            @for (line of effects.repriced; track line.order + line.lineNo) {
              <tr [class.faint]="!reprice()">
                <td>{{ line.order }} line {{ line.lineNo }}</td>
                <td>{{ line.item }}</td>
                <td class="num">{{ price(line.was, effects.currency) }}</td>
                <td class="num">{{ price(line.is, effects.currency) }}</td>
                <td class="num">{{ money(line.amount, effects.currency) }}</td>
              </tr>
            }
          </tbody>
        </table>
      }
    }
  </k-sheet>`,
  styles: `
    .check {
      display: block;
      margin: 16px 0 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReviseSheet {
  protected readonly data = inject<{ sheet: AgreementSheet; typed: TypedTerms }>(DIALOG_DATA);
  protected readonly reason = signal('');
  protected readonly reprice = signal(false);
  protected readonly fields = [/^reason$/];
  /** Until it is tried, the difference is shown without its reason. */
  protected readonly form: ActForm<typeof contract.reviseAgreement> = new ActForm(
    contract.reviseAgreement,
    computed(() => {
      const reason = this.reason().trim() || (this.form.tried() ? '' : '–');
      return sendableRevision(this.data.typed, this.data.sheet.id, reason, this.reprice());
    }),
  );
  protected readonly counted = counted;
  protected readonly money = money;
  protected readonly price = price;
}
