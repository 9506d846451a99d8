import type { DocumentAct } from './document-page';
import { AskSheet, type Asks } from './ask-sheet';
import type { Sheets } from './sheet';

/** Throws away what is typed and not saved, once that is meant: it does not come back. */
export function throwingAway(draft: { begun(): boolean; throwAway(): void }, sheets: Sheets): DocumentAct {
  return {
    name: 'throw-away',
    label: 'Throw away what is typed…',
    place: 'menu',
    when: draft.begun(),
    does: () =>
      void sheets
        .choose<Asks, boolean>(AskSheet, {
          head: 'Throw away what is typed',
          sub: 'What was saved before stays; what was typed since does not come back',
          act: 'Throw it away',
        })
        .subscribe((meant) => {
          if (meant) draft.throwAway();
        }),
  };
}
