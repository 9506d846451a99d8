import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import type { ActEndpoint } from '@api/kit';
import { ActForm, Sheet } from './sheet';

/** An act with nothing to type: what its sheet says, what it sends, and what it would do. */
export interface AsksAct<E extends ActEndpoint> {
  head: string;
  sub: string;
  act: string;
  of: E;
  input: z.input<E['input']>;
  /** What it would do, from its preview, a line each. */
  words: (effects: z.output<E['preview']>) => readonly string[];
}

/** Shows what an act would do, and does it. */
@Component({
  selector: 'k-act-sheet',
  imports: [Sheet],
  template: `<k-sheet
    [head]="asks.head"
    [sub]="asks.sub"
    [act]="asks.act"
    [busy]="form.busy()"
    [refusals]="form.refusals"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @for (word of words(); track $index) {
      <p>{{ word }}</p>
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ActSheet<E extends ActEndpoint> {
  protected readonly asks = inject<AsksAct<E>>(DIALOG_DATA);
  protected readonly form = new ActForm(this.asks.of, signal(this.asks.input));
  protected readonly words = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects ? this.asks.words(effects) : [];
  });
}
