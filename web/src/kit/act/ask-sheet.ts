import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Sheet } from './sheet';

/** What is asked once more before it is done. */
export interface Asks {
  head: string;
  sub: string;
  /** Names what is done; it answers true. */
  act: string;
  /** Each a sentence, without its full stop. */
  words?: readonly string[];
}

/** Asks once more before something is done that is not easily undone. */
@Component({
  selector: 'k-ask-sheet',
  imports: [Sheet],
  template: `<k-sheet [head]="asks.head" [sub]="asks.sub" [act]="asks.act" (done)="ref.close(true)">
    @for (word of asks.words ?? []; track word) {
      <p>{{ word }}.</p>
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AskSheet {
  protected readonly asks = inject<Asks>(DIALOG_DATA);
  protected readonly ref = inject<DialogRef<boolean>>(DialogRef);
}
