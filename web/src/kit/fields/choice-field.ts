import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { CONTROL, Field, freshId } from './field';

/** One of a few values. */
@Component({
  selector: 'k-choice',
  imports: [Field],
  template: `<k-field [label]="label()" [for]="id" [error]="error()" [hint]="hint()">
    <select [id]="id" [disabled]="disabled()" (change)="value.set($any($event.target).value)">
      @for (option of options(); track option.value) {
        <option [value]="option.value" [selected]="option.value === value()">{{ option.label }}</option>
      }
    </select>
  </k-field>`,
  styles: CONTROL,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChoiceField {
  readonly label = input.required<string>();
  readonly value = model.required<string>();
  readonly options = input.required<readonly { value: string; label: string }[]>();
  readonly error = input('');
  readonly hint = input('');
  readonly disabled = input(false);
  protected readonly id = freshId();
}
