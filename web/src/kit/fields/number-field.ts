import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, model } from '@angular/core';
import { decimalText, readTypedDecimal, type DecimalKind } from '@core/kernel';
import { CONTROL, Field, freshId } from './field';

/**
 * A quantity, price or per cent: typed text that becomes plain decimal text (`1,250.5` → `1250.5`).
 * What cannot be read stays as typed, so that nothing is lost and the refusal can name it.
 */
@Component({
  selector: 'k-number',
  imports: [Field],
  template: `@if (bare()) {
      <input
        class="bare"
        inputmode="decimal"
        autocomplete="off"
        [id]="id"
        [value]="typed()"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="problem() ? true : null"
        [attr.title]="problem() || null"
        [placeholder]="placeholder()"
        (input)="take($any($event.target).value)"
        (keydown.arrowDown)="move($event, 1)"
        (keydown.arrowUp)="move($event, -1)"
      />
    } @else {
      <k-field [label]="label()" [for]="id" [error]="problem()" [hint]="hint()">
        <input
          inputmode="decimal"
          autocomplete="off"
          [id]="id"
          [value]="typed()"
          [attr.aria-invalid]="problem() ? true : null"
          [attr.aria-describedby]="problem() ? id + '-error' : null"
          (input)="take($any($event.target).value)"
        />
      </k-field>
    }`,
  styles: [
    CONTROL,
    `
      input {
        text-align: right;
        font-variant-numeric: tabular-nums;
      }
      .bare {
        height: 26px;
      }
    `,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NumberField {
  readonly label = input.required<string>();
  readonly value = model.required<string>();
  readonly kind = input<DecimalKind>('quantity');
  readonly error = input('');
  readonly hint = input('');
  readonly placeholder = input('');
  /** In a table: no label of its own, arrows go to the row above or below. */
  readonly bare = input(false);
  protected readonly id = freshId();
  /** As typed; follows the value where that is changed from outside. */
  protected readonly typed = linkedSignal<string, string>({
    source: this.value,
    computation: (value, before) =>
      before !== undefined && (readTypedDecimal(before.value, this.kind()) ?? before.value) === value
        ? before.value
        : shownText(value),
  });
  protected readonly problem = computed(() => {
    if (this.error()) return this.error();
    const typed = this.typed().trim();
    return typed !== '' && readTypedDecimal(typed, this.kind()) === null ? 'Not a number; write it like 1250.5.' : '';
  });

  protected take(typed: string): void {
    this.typed.set(typed);
    this.value.set(readTypedDecimal(typed, this.kind()) ?? typed);
  }

  protected move(event: Event, by: number): void {
    event.preventDefault();
    const input = event.target as HTMLInputElement;
    const all = [...(input.closest('table')?.querySelectorAll<HTMLInputElement>('input.bare[inputmode]') ?? [])];
    const cell = input.closest('td');
    const column = cell ? [...cell.parentElement!.children].indexOf(cell) : 0;
    const same = all.filter((each) => {
      const td = each.closest('td');
      return td !== null && [...td.parentElement!.children].indexOf(td) === column;
    });
    const next = same[same.indexOf(input) + by];
    next?.focus();
    next?.select();
  }
}

function shownText(value: string): string {
  return readTypedDecimal(value, 'quantity') === null ? value : decimalText(value);
}
