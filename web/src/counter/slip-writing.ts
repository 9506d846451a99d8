import { computed, signal } from '@angular/core';
import { concatMap, defer, of, Subject, type Observable } from 'rxjs';
import { catchError, map, switchMap, tap } from 'rxjs/operators';
import { dec, readTypedDecimal } from '@core/kernel';
import { refuse, sentenceOf } from '@core/refusals';
import { refusalsOf, type ActDone, type RefusalShown } from '../kit/act/api';
import type { AtTill, Counter, KeepInput, TillLine } from './service';

/** Who buys: a customer, one of their people, or (both null) nobody in particular. */
export interface Buyer {
  customerId: number | null;
  contactId: number | null;
}

type Ways = Pick<Counter, 'at' | 'keep' | 'drop'>;

/**
 * A slip that is being written: orders that were called up, and one draft that what is written goes onto. Each change is kept
 * on the server as it is made, one after the other, so that nothing typed or scanned is lost, however fast it comes. // C1
 */
export class SlipWriting {
  /** The orders on it, the one that is written on among them. */
  readonly orderIds = signal<readonly number[]>([]);
  readonly read = signal<AtTill | null>(null);
  readonly refusals = signal<readonly RefusalShown[]>([]);
  /** What of which line is taken along, where somebody said so. */
  readonly taken = signal<ReadonlyMap<number, string>>(new Map());
  /** Whether what is not taken along is paid when it is fetched, where somebody said so. */
  readonly later = signal<boolean | null>(null);
  private readonly under = signal(0);
  /** Until everything that was typed is kept. */
  readonly busy = computed(() => this.under() > 0);
  /** Who buys, where somebody said so here; else as the orders say. */
  readonly buyer = signal<Buyer | null>(null);
  /** What was typed that is no number, said at its place: by line and field. */
  readonly odd = signal<ReadonlyMap<string, string>>(new Map());
  /** The line that was written last: a quantity alone is its. */
  readonly lastItem = signal<number | null>(null);
  readonly lines = computed<readonly TillLine[]>(() => this.read()?.lines ?? []);
  /** The draft that is written on. */
  readonly draft = computed(() => this.read()?.orders.find(({ state }) => state === 'draft') ?? null);
  private readonly commands = new Subject<() => Observable<unknown>>();

  constructor(
    private readonly ways: Ways,
    private readonly tillId: () => number | null,
  ) {
    this.commands
      .pipe(
        concatMap((command) =>
          defer(command).pipe(
            tap(() => this.refusals.set([])),
            catchError((error: unknown) => {
              this.refusals.set(refusalsOf(error));
              return of(null);
            }),
            switchMap(() => this.look()),
          ),
        ),
      )
      .subscribe(() => this.under.update((many) => many - 1));
  }

  /** Calls an order up; the orders of one slip are of one customer. */
  callUp(orderId: number): void {
    this.enqueue(() => {
      if (!this.orderIds().includes(orderId)) this.orderIds.update((ids) => [...ids, orderId]);
      return of(null);
    });
  }

  /** Takes an order off the slip; it stays kept. */
  putBack(orderId: number): void {
    this.enqueue(() => {
      this.orderIds.update((ids) => ids.filter((id) => id !== orderId));
      return of(null);
    });
  }

  /** So many of an item more: onto its line where it has one. */
  add(itemId: number, quantity: string): void {
    this.enqueue(() => {
      const lines = this.typedLines();
      const has = lines.findLast((line) => line.itemId === itemId);
      this.lastItem.set(itemId);
      return this.keep(
        has
          ? lines.map((line) =>
              line === has ? { ...line, quantity: dec(line.quantity).plus(quantity).toFixed() } : line,
            )
          : [...lines, { id: null, itemId, quantity }],
      );
    });
  }

  /** How many a line is of, as typed; none takes it off. */
  quantity(lineId: number, typed: string): void {
    const quantity = this.number(`${lineId} quantity`, typed);
    if (quantity === null) return;
    this.enqueue(() => {
      const lines = this.typedLines();
      return this.keep(
        dec(quantity).eq(0)
          ? lines.filter(({ id }) => id !== lineId)
          : lines.map((line) => (line.id === lineId ? { ...line, quantity } : line)),
      );
    });
  }

  /** When what is not taken along of a line is fetched. */
  day(lineId: number, shipDate: string): void {
    this.enqueue(() => this.keep(this.typedLines().map((line) => (line.id === lineId ? { ...line, shipDate } : line))));
  }

  /** Their own reference. */
  refer(reference: string): void {
    this.enqueue(() => this.keep(this.typedLines(), reference));
  }

  /** Who buys; what is written already is theirs. */
  who(buyer: Buyer): void {
    this.enqueue(() => {
      this.buyer.set(buyer);
      const lines = this.typedLines();
      return lines.length > 0 ? this.keep(lines) : of(null);
    });
  }

  /** What of a line is taken along, as typed; nothing typed is nothing. */
  take(lineId: number, typed: string): void {
    const quantity = this.number(`${lineId} take`, typed.trim() === '' ? '0' : typed);
    if (quantity === null) return;
    this.enqueue(() => {
      this.taken.update((taken) => new Map(taken).set(lineId, quantity));
      return of(null);
    });
  }

  payLater(later: boolean): void {
    this.enqueue(() => {
      this.later.set(later);
      return of(null);
    });
  }

  /** Reads it again as it stands. */
  again(): void {
    this.enqueue(() => of(null));
  }

  /** Throws away what was written; orders that were called up stay as they are. */
  throwAway(): void {
    const draft = this.draft();
    this.enqueue(() => {
      const dropped: Observable<unknown> = draft ? this.ways.drop(draft.order.id, draft.version) : of(null);
      return dropped.pipe(tap(() => this.clear()));
    });
  }

  /** An empty slip for the next. */
  clear(): void {
    this.orderIds.set([]);
    this.taken.set(new Map());
    this.later.set(null);
    this.read.set(null);
    this.refusals.set([]);
    this.odd.set(new Map());
    this.buyer.set(null);
    this.lastItem.set(null);
  }

  /** What was typed as a number; what is none is said where it stands, and nothing is asked for it. */
  private number(place: string, typed: string): string | null {
    const read = readTypedDecimal(typed, 'quantity');
    this.odd.update((odd) => {
      const now = new Map(odd);
      if (read === null) now.set(place, sentenceOf(refuse('not-a-number', '', { what: `“${typed}”` })));
      else now.delete(place);
      return now;
    });
    return read;
  }

  private enqueue(command: () => Observable<unknown>): void {
    this.under.update((many) => many + 1);
    this.commands.next(command);
  }

  /** The lines of the draft as they are typed. */
  private typedLines(): KeepInput['lines'] {
    const draft = this.draft();
    return this.lines()
      .filter(({ orderId, free }) => orderId === draft?.order.id && free === '')
      .map(({ id, item, quantity, shipDate }) => ({ id, itemId: item.id, quantity, shipDate }));
  }

  private keep(lines: KeepInput['lines'], reference?: string): Observable<ActDone | null> {
    const draft = this.draft();
    const tillId = this.tillId();
    if (tillId === null) return of(null);
    if (lines.length === 0) {
      if (!draft) return of(null);
      return this.ways
        .drop(draft.order.id, draft.version)
        .pipe(tap(() => this.orderIds.update((ids) => ids.filter((id) => id !== draft.order.id))));
    }
    const shown = this.read();
    const buyer = this.buyer() ?? { customerId: shown?.customer.id ?? null, contactId: shown?.contact?.id ?? null };
    return this.ways
      .keep({
        id: draft?.order.id ?? null,
        version: draft?.version ?? null,
        tillId,
        ...buyer,
        ...(reference === undefined ? {} : { reference }),
        lines,
      })
      .pipe(
        tap(({ made }) => {
          const order = made.find(({ kind }) => kind === 'SO');
          if (order) this.orderIds.update((ids) => [...ids.filter((id) => id !== draft?.order.id), order.id]);
        }),
      );
  }

  private look(): Observable<null> {
    const ids = this.orderIds();
    if (ids.length === 0) {
      this.read.set(null);
      return of(null);
    }
    const taken = this.taken();
    const take = taken.size === 0 ? undefined : [...taken].map(([id, quantity]) => `${id}:${quantity}`).join(',');
    return this.ways.at(ids, take, this.later()).pipe(
      tap((read) => this.read.set(read)),
      map(() => null),
      catchError((error: unknown) => {
        this.refusals.set(refusalsOf(error));
        return of(null);
      }),
    );
  }
}
