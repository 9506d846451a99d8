import { ChangeDetectionStrategy, Component, computed, type ElementRef, input, model, viewChild } from '@angular/core';
import { freshId } from '../kit/fields/field';

/** A gap in a letter: filled in where it stands, as wide as what is in it; what is refused stands under it. */
@Component({
  selector: 'k-gap',
  template: `<span class="gap" [class.bad]="error()" [class.filled]="value()">
    @if (options(); as choices) {
      <select
        #control
        [id]="id"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="error() ? true : null"
        [attr.aria-describedby]="error() ? id + '-error' : null"
        (change)="value.set($any($event.target).value)"
      >
        @for (option of choices; track option.value) {
          <option [value]="option.value" [selected]="option.value === value()">{{ option.label }}</option>
        }
      </select>
    } @else {
      <input
        #control
        [id]="id"
        [type]="type()"
        [attr.aria-label]="label()"
        [placeholder]="label()"
        [value]="value()"
        [style.width.ch]="width()"
        [attr.maxlength]="most()"
        [attr.autocomplete]="autocomplete()"
        [attr.aria-invalid]="error() ? true : null"
        [attr.aria-describedby]="error() ? id + '-error' : null"
        (input)="value.set($any($event.target).value)"
      />
    }
    @if (error()) {
      <small role="alert" [id]="id + '-error'">{{ error() }}</small>
    }
  </span>`,
  styles: `
    :host {
      display: inline-block;
      vertical-align: baseline;
      margin-inline: 2px;
    }
    /* The line goes on at the gap, not at what is refused below it. */
    .gap {
      display: inline-flex;
      flex-direction: column;
      vertical-align: baseline;
    }
    input,
    select {
      font: inherit;
      line-height: 1.45;
      color: var(--ink);
      background: var(--paper-lift);
      border: 0;
      border-bottom: 1.5px solid var(--rule-strong);
      border-radius: 3px 3px 0 0;
      padding: 1px 6px;
      max-width: min(100%, 620px);
    }
    select {
      max-width: 300px;
    }
    .filled input,
    .filled select {
      background: transparent;
      border-bottom-color: var(--deep);
    }
    input:focus-visible,
    select:focus-visible {
      outline: 2px solid var(--deep);
    }
    ::placeholder {
      color: var(--ink-faint);
      opacity: 1;
      font-style: italic;
    }
    .bad input,
    .bad select {
      border-bottom-color: var(--brick);
      background: var(--brick-wash);
    }
    small {
      display: block;
      max-width: 44ch;
      font: 600 12px/1.3 var(--sans);
      color: var(--brick);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Gap {
  readonly label = input.required<string>();
  readonly value = model.required<string>();
  readonly error = input('');
  readonly most = input(120);
  readonly type = input<'text' | 'password'>('text');
  readonly autocomplete = input('off');
  /** One of these, where it is no free text. */
  readonly options = input<readonly { value: string; label: string }[] | null>(null);
  protected readonly id = freshId();
  private readonly control = viewChild.required<ElementRef<HTMLElement>>('control');
  /** As wide as what is in it, or as what belongs there. */
  protected readonly width = computed(() => Math.min(44, (this.value() || this.label()).length + 3));

  focus(): void {
    this.control().nativeElement.focus();
  }
}
