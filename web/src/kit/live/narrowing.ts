import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { Observable } from 'rxjs';
import { dayText, type Day } from '@core/kernel';
import { readTypedRange } from '@core/typed';
import { Icon } from '../controls/icon';
import { LookupField, type Choice } from '../fields';

/** Something a list can be narrowed to besides its chips: days, or a party by its number. */
export type Narrow = { name: string; label: string } & (
  | { kind: 'days' }
  | { kind: 'party'; search: (words: string) => Observable<Choice[]> }
  /** Only brought by an address: what it says, in words. */
  | { kind: 'brought'; words: (value: string) => string }
);

/** A range of days in words: `up to Sun 28 Feb`; as typed where it is none. */
export function daysInWords(typed: string, workDate: Day): string {
  const range = readTypedRange(typed, workDate);
  if (!range) return typed;
  const { from, to } = range;
  if (from === null) return `up to ${dayText(to!, workDate)}`;
  if (to === null) return `from ${dayText(from, workDate)}`;
  return from === to ? dayText(from, workDate) : `${dayText(from, workDate)} to ${dayText(to, workDate)}`;
}

/** What a list is narrowed to, each to be taken off, and what else it can be narrowed to, typed in place. */
@Component({
  selector: 'k-narrowing',
  imports: [Icon, LookupField],
  template: `@for (narrow of narrows(); track narrow.name) {
      @if (values()[narrow.name]; as value) {
        <span class="on" [class.bad]="bad(narrow, value)">
          {{ narrow.label }} <b>{{ words(narrow, value) }}</b>
          <button type="button" [attr.aria-label]="'Take off ' + narrow.label" (click)="set(narrow.name, '')">
            <k-icon name="close" />
          </button>
        </span>
      } @else if (asking() === narrow.name) {
        @if (narrow.kind === 'party') {
          <k-lookup [label]="narrow.label" [search]="narrow.search" (picked)="set(narrow.name, $event.number)" />
        } @else {
          <label class="days"
            >{{ narrow.label
            }}<input
              #days
              placeholder="1/3..5/3, ..-1, fri"
              (keydown.enter)="set(narrow.name, days.value)"
              (keydown.escape)="days.value = ''; asking.set('')"
              (blur)="set(narrow.name, days.value)"
          /></label>
        }
      }
    }
    @for (narrow of offered(); track narrow.name) {
      <button type="button" class="more" (click)="asking.set(narrow.name)">+ {{ narrow.label }}</button>
    }`,
  styles: `
    :host {
      display: contents;
    }
    .on {
      display: inline-flex;
      align-items: center;
      gap: 5px;
      border: 1px solid var(--deep);
      border-radius: 12px;
      background: var(--deep-tint);
      padding: 1px 4px 1px 10px;
      font-size: 13px;
    }
    .on.bad {
      border-color: var(--brick);
      background: var(--brick-wash);
    }
    .on button,
    .more {
      border: 0;
      background: none;
      color: var(--ink-soft);
      cursor: pointer;
      font-size: 13px;
      padding: 1px 2px;
    }
    .on button {
      display: inline-flex;
      font-size: 15px;
    }
    .more:hover {
      color: var(--deep);
    }
    .days {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      font-size: 13px;
      color: var(--ink-soft);
    }
    .days input {
      width: 150px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Narrowing {
  readonly narrows = input.required<readonly Narrow[]>();
  /** What the address says, by name. */
  readonly values = input.required<Readonly<Record<string, string>>>();
  readonly workDate = input.required<Day>();
  readonly narrowed = output<{ name: string; value: string }>();
  protected readonly asking = signal('');
  protected readonly offered = computed(() =>
    this.narrows().filter(({ kind, name }) => kind !== 'brought' && name !== this.asking() && !this.values()[name]),
  );
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly days = viewChild<ElementRef<HTMLInputElement>>('days');

  constructor() {
    effect(() => {
      this.days();
      if (this.asking() === '') return;
      setTimeout(() => this.host.querySelector<HTMLInputElement>('input')?.focus());
    });
  }

  protected set(name: string, value: string): void {
    this.asking.set('');
    if ((this.values()[name] ?? '') !== value.trim()) this.narrowed.emit({ name, value: value.trim() });
  }

  protected words(narrow: Narrow, value: string): string {
    if (narrow.kind === 'days') return daysInWords(value, this.workDate());
    return narrow.kind === 'brought' ? narrow.words(value) : value;
  }

  protected bad(narrow: Narrow, value: string): boolean {
    return narrow.kind === 'days' && readTypedRange(value, this.workDate()) === null;
  }
}
