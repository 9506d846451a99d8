import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/sisters';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { DayField, TextField } from '../kit/fields';
import type { OfferRow } from './service';
import { sentenceOf } from './words';

/** An offer waits until a day, and stands in Today then. // X2 */
@Component({
  selector: 'k-aside-sheet',
  imports: [DayField, Sheet, TextField],
  template: `<k-sheet
    [head]="'Set ' + data.offer.number + ' aside'"
    [sub]="sentence"
    act="Set it aside"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-day
        data-first
        label="Until"
        [(value)]="until"
        [workDate]="workDate"
        [error]="form.at('untilDay', until() !== null)"
      />
      <k-text label="What is waited for" [(value)]="reason" [most]="200" />
    </div>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AsideSheet {
  protected readonly data = inject<{ offer: OfferRow }>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate();
  protected readonly until = signal<string | null>(null);
  protected readonly reason = signal('');
  protected readonly fields = [/^untilDay$/];
  protected readonly sentence = sentenceOf(this.data.offer);
  protected readonly form = new ActForm(
    contract.setAsideOffer,
    computed(() => {
      const { id, kind, revision } = this.data.offer;
      return { id, kind, revision, reason: this.reason(), untilDay: this.until() };
    }),
  );
}
