import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { of, Subject, timer } from 'rxjs';
import { catchError, map, switchMap, tap } from 'rxjs/operators';
import { understand, type CounterTyped } from '@core/counter';
import { dec } from '@core/kernel';
import { Refused } from '../kit/act/api';
import { money, quantity } from '../kit/formats';
import { Counter, type Found } from './service';

/** What was chosen of what was typed or scanned. */
export type Chosen =
  | { kind: 'item'; itemId: number; quantity: string }
  | { kind: 'party'; customerId: number; contactId: number | null; name: string }
  | { kind: 'order'; orderId: number }
  | { kind: 'slip'; slipId: number }
  | { kind: 'quantity'; quantity: string }
  | { kind: 'money'; amount: string }
  | { kind: 'nothing' };

interface Choice {
  key: string;
  what: string;
  more: string;
  chosen: Chosen;
}

/** Nobody stops typing for less; a scanner ends with Enter at once. */
const PAUSE_MS = 140;

/**
 * The one field of the counter: a bar code, number, name, phone or an amount of money, with what it was understood as. Enter
 * takes the first; what is scanned is taken as soon as it is known. // C1 C7
 */
@Component({
  selector: 'k-one-field',
  template: `<div class="field">
      <label for="one-field" class="unseen">{{ label() }}</label>
      <input
        #box
        id="one-field"
        data-first
        autocomplete="off"
        spellcheck="false"
        [value]="typed()"
        [placeholder]="label()"
        [attr.aria-activedescendant]="choices().length > 0 ? 'choice-' + at() : null"
        aria-controls="one-field-choices"
        role="combobox"
        [attr.aria-expanded]="choices().length > 0"
        (input)="type(box.value)"
        (keydown)="key($event)"
      />
      <span class="says" aria-live="polite">{{ says() }}</span>
    </div>
    <ul id="one-field-choices" role="listbox" [attr.aria-label]="'What fits'" [class.none]="choices().length === 0">
      @for (choice of choices(); track choice.key; let index = $index) {
        <li
          role="option"
          [id]="'choice-' + index"
          [attr.aria-selected]="index === at()"
          [class.on]="index === at()"
          (click)="take(choice)"
        >
          <b>{{ choice.what }}</b><span>{{ choice.more }}</span>
        </li>
      }
    </ul>`,
  styleUrl: './one-field.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'catch($event)' },
})
export class OneField {
  private readonly counter = inject(Counter);
  readonly label = input.required<string>();
  readonly currency = input.required<string>();
  readonly customerId = input<number | null>(null);
  /** Money means something here. */
  readonly takesMoney = input(false);
  readonly chosen = output<Chosen>();
  /** Whether the server answered what was looked for. */
  readonly reached = output<boolean>();
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  protected readonly typed = signal('');
  protected readonly at = signal(0);
  private readonly found = signal<{ for: string; found: Found } | null>(null);
  private readonly asked = new Subject<string>();
  /** Enter came before the answer: the first is taken when it is there. */
  private waits = false;
  protected readonly meant = computed((): CounterTyped => understand(this.typed(), this.currency()));

  protected readonly choices = computed((): Choice[] => {
    const answer = this.found();
    const meant = this.meant();
    if (!answer || answer.for !== this.typed().trim() || (meant.kind !== 'words' && meant.kind !== 'code')) return [];
    const many = meant.quantity;
    const { items, parties, orders, slips } = answer.found;
    const papers: Choice[] = [
      ...slips.map((slip) => ({
        key: `slip ${slip.slip.id}`,
        what: slip.slip.number,
        more: `slip of ${slip.customer.name}, ${money(slip.total, this.currency())}`,
        chosen: { kind: 'slip' as const, slipId: slip.slip.id },
      })),
      ...orders.map((order) => ({
        key: `order ${order.order.id}`,
        what: order.order.number,
        more: `${order.state} for ${order.customer.name}, ${money(order.net, order.currency)} net`,
        chosen: { kind: 'order' as const, orderId: order.order.id },
      })),
    ];
    const others: Choice[] = [
      ...items.map((item) => ({
        key: `item ${item.id}`,
        what: item.number,
        more: `${item.name} · ${quantity(item.onHand)} here · ${money(item.listPrice, this.currency())}${item.many === '1' ? '' : ` · ${quantity(item.many)} ${item.unit}`}`,
        chosen: {
          kind: 'item' as const,
          itemId: item.id,
          quantity: dec(many ?? '1')
            .times(item.many)
            .toFixed(),
        },
      })),
      ...parties.map((party) => ({
        key: `party ${party.customer.id} ${party.contact?.id ?? ''}`,
        what: party.contact?.name ?? party.customer.name,
        more: [party.contact ? `of ${party.customer.name}` : party.customer.number, party.phone]
          .filter(Boolean)
          .join(' · '),
        chosen: {
          kind: 'party' as const,
          customerId: party.customer.id,
          contactId: party.contact?.id ?? null,
          name: party.contact?.name ?? party.customer.name,
        },
      })),
    ];
    // At the till what waits is called up; at the counter who and what are written.
    return this.takesMoney() ? [...papers, ...others] : [...others, ...papers];
  });

  protected readonly says = computed(() => {
    const meant = this.meant();
    if (meant.kind === 'quantity') return `${meant.quantity} of the last line`;
    if (meant.kind === 'money')
      return this.takesMoney() ? `${money(meant.amount, this.currency())} ${this.currency()} given` : '';
    const answer = this.found();
    const known = answer?.for === this.typed().trim();
    if ((meant.kind === 'words' || meant.kind === 'code') && known && this.choices().length === 0) {
      return `nothing goes by “${meant.kind === 'words' ? meant.words : meant.told.gtin}”`;
    }
    return '';
  });

  constructor() {
    afterNextRender(() => this.focus());
    this.asked
      .pipe(
        switchMap((text) =>
          text === ''
            ? of(null)
            : timer(this.waits ? 0 : PAUSE_MS).pipe(
                switchMap(() => this.counter.find(this.lookedFor(), this.customerId())),
                map((found) => ({ for: text, found })),
                tap(() => this.reached.emit(true)),
                catchError((error: unknown) => {
                  this.reached.emit(!(error instanceof Refused && error.status === 0));
                  return of(null);
                }),
              ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => {
        this.found.set(answer);
        this.at.set(0);
        if (!this.waits) return;
        this.waits = false;
        const [first] = this.choices();
        if (first) this.take(first);
      });
  }

  /** What a scanner types: the code, and Enter. // C7 */
  scan(code: string): void {
    this.focus();
    this.type(code);
    this.enter();
  }

  focus(): void {
    this.box().nativeElement.focus();
  }

  /** What is scanned or typed while the focus is on nothing that takes letters is meant for the field. */
  protected catch(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    const letter = event.key.length === 1 && event.key !== ' ' && event.key !== '?';
    if (!letter || event.ctrlKey || event.altKey || event.metaKey) return;
    if (target === document.body || target.matches('button, a')) this.focus();
  }

  protected type(text: string): void {
    this.typed.set(text);
    this.waits = false;
    const { kind } = this.meant();
    this.asked.next(kind === 'words' || kind === 'code' ? text.trim() : '');
  }

  protected key(event: KeyboardEvent): void {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const step = event.key === 'ArrowDown' ? 1 : -1;
      const last = this.choices().length - 1;
      this.at.update((at) => Math.max(0, Math.min(last, at + step)));
      event.preventDefault();
    } else if (event.key === 'Escape' && this.typed() !== '') {
      this.empty();
      event.preventDefault();
      event.stopPropagation();
    } else if (event.key === 'Enter' && !event.ctrlKey) {
      event.preventDefault();
      this.enter();
    }
  }

  private enter(): void {
    const meant = this.meant();
    if (meant.kind === 'nothing') this.chosen.emit({ kind: 'nothing' });
    else if (meant.kind === 'quantity') this.done({ kind: 'quantity', quantity: meant.quantity });
    else if (meant.kind === 'money') {
      if (this.takesMoney()) this.done({ kind: 'money', amount: meant.amount });
    } else {
      const choice = this.choices()[this.at()];
      if (choice) this.take(choice);
      else if (this.found()?.for !== this.typed().trim()) {
        this.waits = true;
        this.asked.next(this.typed().trim());
      }
    }
  }

  protected take(choice: Choice): void {
    this.done(choice.chosen);
  }

  private done(chosen: Chosen): void {
    this.empty();
    this.chosen.emit(chosen);
    this.focus();
  }

  private empty(): void {
    this.typed.set('');
    this.found.set(null);
    this.box().nativeElement.value = '';
    this.asked.next('');
  }

  private lookedFor(): string {
    const meant = this.meant();
    return meant.kind === 'code' ? meant.told.gtin : meant.kind === 'words' ? meant.words : '';
  }
}
