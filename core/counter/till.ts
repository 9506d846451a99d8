import { dec, isDecimalText, least, most, type Dec } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';
import type { OrderState } from '@core/orders';
import { drawerRefusals, type TillNow } from './drawer';

/** A line of which some may be taken along. */
export interface TakeableLine {
  orderLineId: number;
  item: { number: string };
  here: string;
}

/** What of each line is handed over: as typed, each refused above what is here. // C3 */
export function takenAlong(
  lines: readonly TakeableLine[],
  typed: readonly { lineId: number; quantity: string }[],
): { taken: Map<number, string>; refusals: Refusal[] } {
  const refusals: Refusal[] = [];
  const taken = new Map<number, string>();
  typed.forEach(({ lineId, quantity }, at) => {
    const field = `take.${at}.quantity`;
    const line = lines.find(({ orderLineId }) => orderLineId === lineId);
    const text = quantity.trim() === '' ? '0' : quantity.trim();
    if (!line) refusals.push(refuse('unknown', field, { what: 'This line' }));
    else if (!isDecimalText(text, 'quantity') || text.startsWith('-')) {
      refusals.push(refuse('not-a-number', field, { what: 'The quantity' }));
    } else if (dec(text).gt(line.here)) {
      refusals.push(refuse('not-to-take', field, { item: line.item.number, here: line.here }));
    } else if (dec(text).gt(0)) taken.set(lineId, text);
  });
  return { taken, refusals };
}

/** A line with what is held for it and free of its item where it goes out from. */
export interface HereLine {
  itemId: number;
  locationId: number;
  route: string;
  toGo: string;
  reserved: string;
  free: string;
}

/** What of each line is here: what is held for it, then what is free; two lines of one item share what is free, in their order. */
export function hereOf(lines: readonly HereLine[]): Dec[] {
  const left = new Map<string, Dec>();
  return lines.map(({ itemId, locationId, route, toGo, reserved, free }) => {
    const point = `${itemId} ${locationId}`;
    const freeHere = route === 'stock' ? (left.get(point) ?? dec(free)) : dec(0);
    const here = most(dec(0), least(dec(toGo), freeHere.plus(reserved)));
    left.set(point, freeHere.minus(most(dec(0), here.minus(reserved))));
    return here;
  });
}

/** An order as it is paid at a till, and the version it was seen at. */
export interface OrderAtTill {
  number: string;
  state: OrderState;
  customerId: number;
  currency: string;
  version: number;
  seen: number;
}

/** What stands against orders being paid together at a till: another customer, currency or state, or one that changed. // C2 */
export function togetherRefusals(till: TillNow, customer: string, orders: readonly OrderAtTill[]): Refusal[] {
  const [first] = orders;
  return [
    ...drawerRefusals(till),
    ...orders.flatMap((order, at): Refusal[] => {
      const field = `orders.${at}`;
      if (order.customerId !== first!.customerId) {
        return [refuse('other-at-till', field, { order: order.number, first: first!.number })];
      }
      if (order.currency !== till.currency) {
        return [refuse('till-currency', field, { customer, currency: order.currency, till: till.currency })];
      }
      if (order.state !== 'draft' && order.state !== 'confirmed') {
        return [refuse('not-at-till', field, { order: order.number, state: order.state })];
      }
      return order.version === order.seen ? [] : [refuse('order-moved-on', field, { order: order.number })];
    }),
  ];
}

/** An order that is kept at the counter: who buys it, and what it is by now where there is one. */
export interface KeepGround {
  currency: string;
  buyer: { name: string; currency: string } | null;
  order: { number: string; state: OrderState } | null;
}

/** What stands against keeping an order at the counter. // C1 */
export function keepRefusals({ currency, buyer, order }: KeepGround): Refusal[] {
  const refusals: Refusal[] = [];
  if (buyer === null) refusals.push(refuse('no-counter-customer', 'customerId', {}));
  else if (buyer.currency !== currency) {
    refusals.push(
      refuse('till-currency', 'customerId', { customer: buyer.name, currency: buyer.currency, till: currency }),
    );
  }
  if (order && order.state !== 'draft') {
    refusals.push(refuse('order-not-draft', '', { order: order.number, state: order.state }));
  }
  return refusals;
}
