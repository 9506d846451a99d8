import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import type { ActEndpoint } from '@api/kit';
import { TextField } from '../fields';
import { ActForm, Sheet } from './sheet';

/** An act that wants a reason and nothing else: what its sheet says, and what it sends. */
export interface AsksReason<E extends ActEndpoint> {
  head: string;
  sub: string;
  act: string;
  label?: string;
  of: E;
  input: (reason: string) => z.input<E['input']>;
  /** What it would do, from its preview. */
  effect?: (effects: z.output<E['preview']>) => string;
}

/** Asks why, says what it would do, and does it. */
@Component({
  selector: 'k-reason-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="asks.head"
    [sub]="asks.sub"
    [act]="asks.act"
    [busy]="form.busy()"
    [refusals]="form.loose([field])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-text
      data-first
      [label]="asks.label ?? 'Why'"
      [(value)]="reason"
      [most]="200"
      [error]="form.at('reason', reason() !== '')"
    />
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReasonSheet<E extends ActEndpoint> {
  protected readonly asks = inject<AsksReason<E>>(DIALOG_DATA);
  protected readonly reason = signal('');
  protected readonly field = /^reason$/;
  protected readonly form = new ActForm(
    this.asks.of,
    computed(() => this.asks.input(this.reason())),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects ? (this.asks.effect?.(effects) ?? '') : '';
  });
}
