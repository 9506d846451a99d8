import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';

export interface Chip {
  value: string;
  label: string;
}

/** Filters as chips: one is chosen; arrows move, the choice is said aloud. */
@Component({
  selector: 'k-chips',
  template: `<div role="radiogroup" [attr.aria-label]="label()">
    @for (chip of chips(); track chip.value) {
      <button
        type="button"
        role="radio"
        [attr.aria-checked]="chip.value === value()"
        [tabindex]="chip.value === value() ? 0 : -1"
        (click)="value.set(chip.value)"
        (keydown.arrowRight)="step($event, 1)"
        (keydown.arrowLeft)="step($event, -1)"
      >
        {{ chip.label }}
      </button>
    }
  </div>`,
  styles: `
    div {
      display: flex;
      gap: 6px;
      flex-wrap: wrap;
    }
    button {
      border: 1px solid var(--rule-strong);
      border-radius: 12px;
      padding: 1px 10px;
      font-size: 13px;
      background: var(--paper-lift);
      color: var(--ink-soft);
      cursor: pointer;
    }
    button[aria-checked='true'] {
      color: var(--ink);
      font-weight: 600;
      border-color: var(--deep);
      background: var(--deep-tint);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Chips {
  readonly chips = input.required<readonly Chip[]>();
  readonly label = input.required<string>();
  readonly value = model.required<string>();

  protected step(event: Event, by: number): void {
    event.preventDefault();
    const chips = this.chips();
    const at = chips.findIndex((chip) => chip.value === this.value());
    this.value.set(chips[(at + by + chips.length) % chips.length]!.value);
    const buttons = (event.currentTarget as HTMLElement).parentElement!.children;
    queueMicrotask(() => (buttons[(at + by + chips.length) % chips.length] as HTMLElement).focus());
  }
}
