import { inject, signal } from '@angular/core';
import { Orders, type PriceOffer } from './service';
import { baseQuantity, type TypedLine } from './typed';

/** Lines asked for in one go; the bound of the endpoint. */
const MOST_LINES = 500;

const keyOf = (line: TypedLine) => `${line.key} ${line.itemId}`;

/**
 * The agreements that could price the lines of a draft, read once for each line and item, those of all lines that are
 * new together. To be made in an injection context. // A13
 */
export class LineOffers {
  private readonly orders = inject(Orders);
  private readonly known = signal<ReadonlyMap<string, readonly PriceOffer[]>>(new Map());
  private readonly asked = new Set<string>();

  /** Undefined until they are read. */
  of(line: TypedLine): readonly PriceOffer[] | undefined {
    return this.known().get(keyOf(line));
  }

  /** Reads what is not known yet of lines; `found` hears whether it is of a line. */
  read(customerId: number, lines: readonly TypedLine[], found: (isOf: (line: TypedLine) => boolean) => void): void {
    const fresh = lines.filter((line) => line.itemId !== null && !this.asked.has(keyOf(line))).slice(0, MOST_LINES);
    if (fresh.length === 0) return;
    const keys = new Set(fresh.map(keyOf));
    for (const key of keys) this.asked.add(key);
    const asked = fresh.map((line) => ({
      itemId: line.itemId!,
      quantity: baseQuantity(line),
      ...(line.shipDate ? { shipDate: line.shipDate } : {}),
    }));
    this.orders.offers(customerId, asked).subscribe({
      next: (answer) => {
        this.known.update(
          (known) => new Map([...known, ...answer.lines.map(({ offers }, at) => [keyOf(fresh[at]!), offers] as const)]),
        );
        found((line) => keys.has(keyOf(line)));
      },
      // Without them the lines are priced when they are saved.
      error: () => keys.forEach((key) => this.asked.delete(key)),
    });
  }
}
