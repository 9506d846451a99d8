import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { RefusalShown } from './api';

/** The sentence refused at a field, or an empty text. */
export function refusedAt(refusals: readonly RefusalShown[], field: string): string {
  return refusals.find((refusal) => refusal.field === field)?.sentence ?? '';
}

/** Refusals with no field of their own on this page, as sentences. */
@Component({
  selector: 'k-refusals',
  template: `@for (refusal of once(refusals()); track refusal.sentence) {
      <p class="notice" role="alert">{{ refusal.sentence }}</p>
      @if (refusal.reference && !refusal.sentence.includes(refusal.reference)) {
        <small class="reference" title="The log knows it by this name">{{ refusal.reference }}</small>
      }
    }
    @for (warning of once(warnings()); track warning.sentence) {
      <p class="notice warn" role="status">{{ warning.sentence }}</p>
    }`,
  styles: `
    .reference {
      display: block;
      color: var(--ink-faint);
      text-align: end;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Refusals {
  readonly refusals = input.required<readonly RefusalShown[]>();
  readonly warnings = input<readonly RefusalShown[]>([]);

  /** One sentence for all it is true of. */
  protected readonly once = (all: readonly RefusalShown[]) =>
    all.filter((each, at) => all.findIndex(({ sentence }) => sentence === each.sentence) === at);
}
