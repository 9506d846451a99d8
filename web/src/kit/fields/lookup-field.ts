import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatAutocompleteModule, type MatAutocompleteTrigger } from '@angular/material/autocomplete';
import { of, type Observable } from 'rxjs';
import { catchError, debounceTime, switchMap } from 'rxjs/operators';
import { CONTROL, Field, freshId } from './field';

export interface Choice {
  id: number;
  number: string;
  name: string;
  detail?: string;
}

/** Whether a choice holds the words in its number, name or detail. */
export function fits(choice: Choice, words: string): boolean {
  const text = `${choice.number} ${choice.name} ${choice.detail ?? ''}`.toLowerCase();
  return text.includes(words.trim().toLowerCase());
}

/** A party or item found by any part of its name or number. */
@Component({
  selector: 'k-lookup',
  imports: [Field, MatAutocompleteModule],
  template: `<k-field [label]="label()" [for]="id" [error]="error()" [hint]="hint()">
    <input
      autocomplete="off"
      [id]="id"
      [value]="text()"
      [attr.aria-invalid]="error() ? true : null"
      [placeholder]="placeholder()"
      [disabled]="disabled()"
      [matAutocomplete]="list"
      #trigger="matAutocompleteTrigger"
      (keydown.enter)="takeFirst(trigger)"
      (input)="words.set($any($event.target).value)"
      (focus)="words.set('')"
      (blur)="restore($any($event.target))"
    />
    <mat-autocomplete
      #list="matAutocomplete"
      [autoActiveFirstOption]="true"
      (optionSelected)="choose($event.option.value)"
      [displayWith]="show"
    >
      @for (choice of choices(); track choice.id) {
        <mat-option [value]="choice"
          >{{ choice.number }} · {{ choice.name }}<small> {{ choice.detail }}</small></mat-option
        >
      }
    </mat-autocomplete>
  </k-field>`,
  styles: CONTROL,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LookupField<T extends Choice> {
  readonly label = input.required<string>();
  /** What is chosen, in words. */
  readonly chosen = input('');
  readonly search = input.required<(words: string) => Observable<T[]>>();
  readonly error = input('');
  readonly hint = input('');
  readonly placeholder = input('');
  readonly disabled = input(false);
  readonly picked = output<T>();
  protected readonly id = freshId();
  protected readonly text = signal('');
  protected readonly words = signal('');
  private readonly found = toSignal(
    toObservable(this.words).pipe(
      debounceTime(120),
      switchMap((words) => this.search()(words).pipe(catchError(() => of([] as T[])))),
    ),
    { initialValue: [] as T[] },
  );
  /** What was found for earlier words gives way at once to what is typed now: Enter never takes a stale one. */
  protected readonly choices = computed(() => this.found().filter((choice) => fits(choice, this.words())));
  protected readonly show = (choice: T | string) => (typeof choice === 'string' ? choice : choice.name);

  constructor() {
    effect(() => this.text.set(this.chosen()));
  }

  protected choose(choice: T): void {
    this.text.set(choice.name);
    this.picked.emit(choice);
  }

  /** Enter in the moment in which what is shown changes, and none of it is active yet, takes the first. */
  protected takeFirst(trigger: MatAutocompleteTrigger): void {
    const [first] = this.choices();
    if (!trigger.panelOpen || trigger.activeOption || !first) return;
    this.choose(first);
    trigger.closePanel();
  }

  /** Words that chose nothing give way to what is chosen. */
  protected restore(input: HTMLInputElement): void {
    setTimeout(() => (input.value = this.text()), 200);
  }
}
