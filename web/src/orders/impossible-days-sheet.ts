import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Sheet } from '../kit/act/sheet';

export interface ImpossibleDaysData {
  /** Each a sentence. */
  words: readonly string[];
}

/** Asks once more before an order is confirmed for days that cannot be kept. // S10 */
@Component({
  selector: 'k-impossible-days-sheet',
  imports: [Sheet],
  template: `<k-sheet
    head="These days cannot be kept"
    sub="Leave it to change them, or confirm them all the same"
    act="Confirm all the same"
    (done)="ref.close(true)"
  >
    @for (word of data.words; track word) {
      <p>{{ word }}.</p>
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImpossibleDaysSheet {
  protected readonly data = inject<ImpossibleDaysData>(DIALOG_DATA);
  protected readonly ref = inject(DialogRef<boolean>);
}
