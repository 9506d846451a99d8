import { addDays, chanceOf, dec, roundHalfAway, type Day } from '@core/kernel';

/** A line of a purchase order as its vendor sees it. */
export interface OrderedLine {
  id: number;
  quantity: string;
  received: string;
  dueDate: Day;
}

/** What a vendor is like about one line: always the same for the same seed and line. */
export interface Habit {
  /** Days later than asked that they say they can deliver. */
  late: number;
  /** They deliver part of it first, the rest `restAfter` days later. */
  short: boolean;
  restAfter: number;
  /** Their invoice asks this much more than was ordered, in per cent. */
  dearer: string;
}

/** Three in four lines come as ordered; of eight, two are late and one comes in two parts; one in ten is dearer. */
export function habitOf(seed: number, lineId: number): Habit {
  const chance = chanceOf(seed * 7919 + lineId);
  return {
    late: chance.next() < 0.25 ? chance.whole(1, 4) : 0,
    short: chance.next() < 0.125,
    restAfter: chance.whole(2, 5),
    dearer: chance.next() < 0.1 ? '2' : '0',
  };
}

/** The vendor answers the day after a purchase was placed: with the days they can deliver on. */
export function vendorAnswer(
  lines: readonly OrderedLine[],
  placedOn: Day,
  workDate: Day,
  seed: number,
): { purchaseLineId: number; dueDate: Day; stops: boolean }[] {
  if (workDate <= placedOn) return [];
  return lines
    .filter((line) => dec(line.quantity).gt(line.received))
    .map((line) => {
      const promised = addDays(line.dueDate, habitOf(seed, line.id).late);
      return { purchaseLineId: line.id, dueDate: promised < workDate ? workDate : promised, stops: false };
    });
}

/** What arrives from a vendor by a day: what is due by then, in whole or in two parts. */
export function vendorDelivery(
  lines: readonly OrderedLine[],
  workDate: Day,
  seed: number,
): { lineId: number; quantity: string }[] {
  return lines.flatMap((line) => {
    const open = dec(line.quantity).minus(line.received);
    if (open.lte(0) || line.dueDate > workDate) return [];
    const { short, restAfter } = habitOf(seed, line.id);
    const restDue = addDays(line.dueDate, restAfter);
    if (!short || restDue <= workDate) return [{ lineId: line.id, quantity: open.toFixed() }];
    // Six tenths of it first, in whole units; what cannot be parted so comes with the rest.
    const first = roundHalfAway(dec(line.quantity).times(6).div(10), 0);
    if (first.lte(line.received) || first.gte(line.quantity)) return [];
    return [{ lineId: line.id, quantity: first.minus(line.received).toFixed() }];
  });
}

/** The price on a vendor's invoice for a line ordered at a price. */
export function invoicedPrice(unitPrice: string, lineId: number, seed: number): string {
  const { dearer } = habitOf(seed, lineId);
  return roundHalfAway(dec(unitPrice).times(dec(dearer).plus(100)).div(100), 4).toFixed();
}
