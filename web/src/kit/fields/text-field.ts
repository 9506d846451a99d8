import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { CONTROL, Field, freshId } from './field';

/** A line of text. */
@Component({
  selector: 'k-text',
  imports: [Field],
  template: `<k-field [label]="label()" [for]="id" [error]="error()" [hint]="hint()">
    <input
      [id]="id"
      [type]="type()"
      [value]="value()"
      [attr.maxlength]="most()"
      [attr.aria-invalid]="error() ? true : null"
      [attr.aria-describedby]="error() ? id + '-error' : hint() ? id + '-hint' : null"
      [attr.autocomplete]="autocomplete()"
      (input)="value.set($any($event.target).value)"
    />
  </k-field>`,
  styles: CONTROL,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TextField {
  readonly label = input.required<string>();
  readonly value = model.required<string>();
  readonly error = input('');
  readonly hint = input('');
  readonly most = input(60);
  readonly type = input<'text' | 'password'>('text');
  readonly autocomplete = input('off');
  protected readonly id = freshId();
}
