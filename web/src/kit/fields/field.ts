import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** A label over a control, its refusal or hint under it. */
@Component({
  selector: 'k-field',
  template: `<label [attr.for]="for()">{{ label() }}</label>
    @if (aside()) {
      <span class="aside" aria-live="polite">{{ aside() }}</span>
    }
    <ng-content />
    @if (error()) {
      <p class="error" [id]="for() + '-error'" role="alert">{{ error() }}</p>
    } @else if (hint()) {
      <p class="hint" [id]="for() + '-hint'">{{ hint() }}</p>
    }`,
  styles: `
    :host {
      display: block;
      min-width: 0;
      position: relative;
    }
    .aside {
      position: absolute;
      top: 0;
      right: 0;
      font-size: 12px;
      background: var(--paper);
      padding-left: 6px;
    }
    label {
      display: block;
      font-size: 12px;
      color: var(--ink-faint);
      margin-bottom: 2px;
    }
    p {
      font-size: 12px;
      margin-top: 2px;
      max-width: 34ch;
    }
    .error {
      color: var(--brick);
      font-weight: 600;
    }
    .hint {
      color: var(--ink-faint);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Field {
  readonly label = input.required<string>();
  readonly for = input.required<string>();
  readonly error = input('');
  readonly hint = input('');
  /** How it was read, beside the label: it comes and goes with the typing and must not move what stands below. */
  readonly aside = input('');
}

/** The look of every typed control. */
export const CONTROL = `
  input, select {
    width: 100%;
    height: 30px;
    padding: 0 8px;
    border: 1px solid var(--rule-strong);
    border-radius: var(--r);
    background: var(--paper-lift);
    color: var(--ink);
  }
  input:focus-visible, select:focus-visible { outline: 2px solid var(--deep); outline-offset: -1px; }
  input[aria-invalid='true'] { border-color: var(--brick); background: var(--brick-wash); }
`;

let made = 0;
/** An id no other control of the page has. */
export function freshId(): string {
  made += 1;
  return `field-${made}`;
}
