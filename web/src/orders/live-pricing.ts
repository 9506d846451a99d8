import { computed, DestroyRef, inject, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { EMPTY, type Observable } from 'rxjs';
import { catchError, debounceTime, map, switchMap } from 'rxjs/operators';
import type { RefusalShown } from '../kit/act/api';
import { Orders, type OrderInput, type OrderPreview } from './service';
import { pricesOf, sentLine, type LinePrice, type TypedLine } from './typed';

/**
 * What the server says of an order while it is typed: each line's price step by step, and what would stand against
 * confirming. To be made in an injection context; `sent` is what saving would send, null while nothing is typed.
 */
export class LivePricing {
  private readonly orders = inject(Orders);
  private readonly prices = signal<ReadonlyMap<string, LinePrice>>(new Map());
  /** Of what was typed last, as far as the server could read it. */
  readonly warnings = signal<readonly RefusalShown[]>([]);

  constructor(
    sent: Signal<OrderInput | null>,
    /** Asks what keeping it would do. */
    preview: (order: OrderInput) => Observable<Pick<OrderPreview, 'effects' | 'warnings'>> = (order) =>
      this.orders.preview(order),
  ) {
    const asked = computed(() => {
      const order = sent();
      return order && order.customerId !== null && order.lines.length > 0 ? order : null;
    });
    const key = computed(() => JSON.stringify(asked()));
    toObservable(key)
      .pipe(
        debounceTime(200),
        switchMap(() => {
          const order = asked();
          if (!order) {
            // Nothing is typed: nothing stands against it.
            this.warnings.set([]);
            return EMPTY;
          }
          return preview(order).pipe(
            map((previewed) => ({ order, previewed })),
            // Without an answer the lines are priced when they are saved.
            catchError(() => EMPTY),
          );
        }),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe(({ order, previewed: { effects, warnings } }) => {
        // A line that is not finished yet leaves what was said of the others.
        if (!effects) return;
        this.prices.set(pricesOf(order.lines, effects.lines));
        this.warnings.set(warnings);
      });
  }

  /** Gives a line's price, while it is the one that was read. */
  readonly priceOf = computed(() => {
    const prices = this.prices();
    return (row: TypedLine): LinePrice | undefined => prices.get(JSON.stringify(sentLine(row)));
  });
}
