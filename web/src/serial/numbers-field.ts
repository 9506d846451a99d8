import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  model,
  signal,
  untracked,
} from '@angular/core';
import type * as z from 'zod';
import { inUnits, sameText } from '@core/kernel';
import * as contract from '@api/serial';
import { Api } from '../kit/act/api';
import { CONTROL, Field, freshId } from '../kit/fields/field';

type Here = z.infer<typeof contract.serialsHere.out>;

/** As many numbers as are offered to be pressed; more are scanned or typed. */
const OFFERED = 60;

/**
 * The numbers of pieces that come or go: typed, scanned or pasted; of those that go also pressed. Where none is said the
 * act takes those that fit best, or the pattern makes them; it is told which. Nothing of an item without numbers. // P6
 */
@Component({
  selector: 'k-numbers-field',
  imports: [Field],
  template: `@if (here(); as shown) {
    @if (shown.pattern !== null) {
      <k-field [label]="label() + ', ' + counted()" [for]="id" [error]="error()" [hint]="hint()">
        <div class="box">
          @for (number of shownNumbers(); track number) {
            <button
              type="button"
              class="number"
              [class.by-itself]="byItself()"
              [attr.aria-label]="'Leave ' + number + ' out'"
              (click)="leave(number)"
            >
              {{ number }}
            </button>
          }
          <input
            [id]="id"
            [value]="typed()"
            [attr.placeholder]="shownNumbers().length === 0 ? 'Scan, type or paste' : ''"
            [attr.aria-invalid]="error() ? true : null"
            (input)="typed.set($any($event.target).value)"
            (paste)="pasted($event)"
            (keydown.enter)="take($event)"
            (blur)="take()"
          />
        </div>
      </k-field>
      @if (offered().length > 0) {
        <p class="offered" aria-label="Numbers that are here">
          @for (row of offered(); track row.id) {
            <button
              type="button"
              [disabled]="row.held !== '' && !row.own"
              [attr.title]="row.held && !row.own ? 'held for ' + row.held : null"
              (click)="add([row.number])"
            >
              {{ row.number }}
            </button>
          }
        </p>
      }
    }
  }`,
  styles: `
    ${CONTROL} .box {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      padding: 2px;
      border: 1px solid var(--rule-strong);
      border-radius: var(--r);
      background: var(--paper-lift);
    }
    .box:focus-within {
      outline: 2px solid var(--deep);
      outline-offset: -1px;
    }
    .box input {
      flex: 1;
      min-width: 120px;
      height: 24px;
      border: 0;
      background: none;
      outline: none;
    }
    button {
      border: 1px solid var(--rule-strong);
      border-radius: var(--r);
      background: var(--paper);
      color: var(--ink);
      padding: 1px 6px;
      font: inherit;
      font-size: 12.5px;
      font-variant-numeric: tabular-nums;
      cursor: pointer;
    }
    button.number {
      background: var(--deep);
      border-color: var(--deep);
      color: var(--paper-lift);
    }
    button.by-itself {
      background: none;
      border-style: dashed;
      color: var(--ink);
    }
    button:disabled {
      color: var(--ink-faint);
      border-style: dotted;
      cursor: default;
    }
    .offered {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      margin: 4px 0 0;
      max-height: 84px;
      overflow: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NumbersField {
  private readonly api = inject(Api);
  readonly item = input.required<{ id: number; number: string; unit: string }>();
  readonly label = input('Serial numbers');
  readonly way = input.required<'in' | 'out'>();
  readonly locationId = input(0);
  readonly lineId = input<number | null>(null);
  /** How many move, as it was typed. */
  readonly many = input.required<string>();
  readonly value = model.required<readonly string[]>();
  /** Those the act takes or makes by itself, from its preview. */
  readonly proposed = input<readonly string[]>([]);
  /** As many and no more: one that is pressed takes the place of the last. Not where they are counted. */
  readonly limited = input(true);
  /** What may be chosen where that is not what is at our place: what went out and may come back. */
  readonly choices = input<readonly { id: number; number: string }[] | null>(null);
  readonly error = input('');
  protected readonly id = freshId();
  protected readonly typed = signal('');
  protected readonly here = signal<Here | null>(null);
  /** Nothing was said: what is shown is what the act does by itself. */
  protected readonly byItself = computed(() => this.value().length === 0);
  protected readonly shownNumbers = computed(() => (this.byItself() ? this.proposed() : this.value()));
  protected readonly counted = computed(
    () => `${this.shownNumbers().length} of ${inUnits(this.many() || '0', this.item().unit)}`,
  );
  protected readonly hint = computed(() => {
    const here = this.here();
    if (!here || this.value().length > 0) return '';
    if (this.proposed().length > 0) return 'so by itself; scan, type or press others';
    if (this.way() === 'out') return '';
    return here.pattern === '' ? 'one for each that comes' : `left empty they are made: ${here.next} and on`;
  });
  protected readonly offered = computed(() => {
    if (this.way() === 'in') return [];
    const taken = new Set(this.shownNumbers().map(sameText));
    const rows = this.choices()?.map((each) => ({ ...each, held: '', own: false })) ?? this.here()?.rows ?? [];
    return rows.filter(({ number }) => !taken.has(sameText(number))).slice(0, OFFERED);
  });

  constructor() {
    effect((gone) => {
      if (this.choices()) return this.here.set({ pattern: '', next: '', location: 0, rows: [] });
      const params = { id: this.item().id };
      const query = { location: this.locationId(), ...(this.lineId() === null ? {} : { line: this.lineId()! }) };
      const reading = untracked(() =>
        this.api.call(contract.serialsHere, { params, query }).subscribe({
          next: (here) => this.here.set(here),
          error: () => this.here.set(null),
        }),
      );
      gone(() => reading.unsubscribe());
    });
  }

  /** Adds numbers, none twice; where as many are there as move, the last makes way for the one that is pressed. */
  protected add(numbers: readonly string[]): void {
    const before = this.shownNumbers();
    const there = new Set(before.map(sameText));
    const more = numbers.filter((number) => !there.has(sameText(number)));
    const full = this.limited() && this.way() === 'out' && before.length >= Number(this.many()) && more.length === 1;
    this.value.set([...(full ? before.slice(0, -1) : before), ...more]);
  }

  protected leave(number: string): void {
    this.value.set(this.shownNumbers().filter((each) => each !== number));
  }

  protected take(event?: Event): void {
    const numbers = this.typed()
      .split(/[\s,;]+/)
      .filter((each) => each !== '');
    // Enter alone goes on to the act.
    if (numbers.length === 0) return;
    event?.preventDefault();
    event?.stopPropagation();
    this.typed.set('');
    // Typed over what would be made or taken by itself.
    if (this.byItself()) this.value.set([...new Set(numbers)]);
    else this.add(numbers);
  }

  protected pasted(event: ClipboardEvent): void {
    const text = event.clipboardData?.getData('text') ?? '';
    if (!/[\s,;]/.test(text.trim())) return;
    event.preventDefault();
    this.typed.set(text);
    this.take();
  }
}
