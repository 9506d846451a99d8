import { dec, least, most, pointOf, sum, ZERO, type Both, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** A posted receipt line, as far as taking it back needs it. */
export interface ReceivedLineNow {
  id: number;
  itemId: number;
  item: string;
  /** Where it came to. */
  locationId: number;
  purchaseLineId: number;
  tieId: number | null;
  /** The order line whose goods wait at our place; null where they went on at once, or were for nobody. // L3 */
  heldFor: { orderLineId: number; reserved: string } | null;
  /** Gone on to the customer by the same event. // L2 */
  through: boolean;
  quantity: string;
  cost: string;
  /** In the purchase order's currency. // P8 */
  value: string;
  agreementLineId: number | null;
  agreedValue: string | null;
  /** The vendor invoice that covers it; empty for none. */
  invoice: string;
}

export interface ShippedLineNow {
  id: number;
  itemId: number;
  /** Where it went out from. */
  locationId: number;
  orderLineId: number;
  orderId: number;
  tieId: number | null;
  /** The receipt line of its other half, for a drop shipment. */
  receiptLineId: number | null;
  /** What it is taken back to is held for its line again: it was bought or made for it. // L3 W3 */
  special: boolean;
  quantity: string;
  cost: string;
  value: string;
  agreementLineId: number | null;
  agreedValue: string | null;
  /** The customer invoice that covers it; empty for none. */
  invoice: string;
}

interface Posted {
  id: number;
  number: string;
  /** What reversed it, and what it reverses; empty for nothing. */
  reversedBy: string;
  reverses: string;
}

export interface ReceiptNow extends Posted {
  purchaseId: number;
  vendorId: number;
  /** The purchase order's currency, null where it is the company's; and the rate it was received at. // P8 */
  foreign: string | null;
  rate: string;
  lines: readonly ReceivedLineNow[];
}

export interface ShipmentNow extends Posted {
  /** Null where goods of several orders went together. */
  orderId: number | null;
  customerId: number;
  shipToId: number;
  lines: readonly ShippedLineNow[];
}

/** Everything that one event moved, and what is on hand of its items. */
export interface ReverseGround {
  receipts: readonly ReceiptNow[];
  shipments: readonly ShipmentNow[];
  /** By item and location, as one number. */
  stock: ReadonlyMap<number, { onHand: string; reserved: string; value: string }>;
}

/** What goes out of our stock again: at what it came in for, or less where the stock is worth less by now. */
export interface TakenOut {
  lineId: number;
  itemId: number;
  locationId: number;
  quantity: string;
  value: string;
  /** What of it was held for an order line, and is no longer. */
  held: { orderLineId: number; quantity: string } | null;
}

export interface ReverseEffects {
  reason: string;
  receipts: readonly ReceiptNow[];
  shipments: readonly ShipmentNow[];
  taken: TakenOut[];
}

/**
 * Takes a whole movement back: every receipt and shipment of the event, both halves of a drop shipment. // P1 L2
 * Refused where it was taken back already, is covered by an invoice (that goes first), or its goods are no longer here.
 */
export function decideReverse(ground: ReverseGround, reason: string): Decision<ReverseEffects> {
  const refusals: Refusal[] = [];
  if (reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  const { receipts, shipments } = ground;
  for (const each of [...receipts, ...shipments]) {
    const invoice = each.lines.map((line) => line.invoice).find((number) => number !== '');
    if (each.reversedBy) refusals.push(refuse('reversed-already', '', { document: each.number, by: each.reversedBy }));
    else if (each.reverses) refusals.push(refuse('is-reversal', '', { document: each.number, of: each.reverses }));
    else if (invoice) refusals.push(refuse('invoiced-first', '', { document: each.number, invoice }));
  }
  const taken = takeOut(ground, refusals);
  return decided(refusals, () => ({ reason: reason.trim(), receipts, shipments, taken }));
}

/** What receipts put on hand goes out again: first what is still held for their lines, the rest of what is free. */
function takeOut({ receipts, stock }: ReverseGround, refusals: Refusal[]): TakenOut[] {
  const left = new Map(
    [...stock].map(([id, { onHand, reserved, value }]) => [
      id,
      { onHand: dec(onHand), free: dec(onHand).minus(reserved), value: dec(value) },
    ]),
  );
  const held = new Map<number, Dec>();
  return receipts.flatMap((receipt) =>
    receipt.lines
      .filter((line) => !line.through)
      .flatMap((line) => {
        const point = pointOf(line.itemId, line.locationId);
        const now = left.get(point) ?? { onHand: ZERO, free: ZERO, value: ZERO };
        const quantity = dec(line.quantity);
        const own = line.heldFor
          ? least(quantity, held.get(line.heldFor.orderLineId) ?? dec(line.heldFor.reserved))
          : ZERO;
        const fromFree = quantity.minus(own);
        if (fromFree.gt(now.free)) {
          const here = own.plus(most(ZERO, now.free)).toFixed();
          refusals.push(
            refuse('goods-gone', '', { document: receipt.number, item: line.item, quantity: line.quantity, here }),
          );
          return [];
        }
        // The last unit takes the last cent.
        const value = quantity.eq(now.onHand) ? now.value : least(dec(line.cost), most(ZERO, now.value));
        left.set(point, {
          onHand: now.onHand.minus(quantity),
          free: now.free.minus(fromFree),
          value: now.value.minus(value),
        });
        if (line.heldFor) {
          const { orderLineId, reserved } = line.heldFor;
          held.set(orderLineId, (held.get(orderLineId) ?? dec(reserved)).minus(own));
        }
        return [
          {
            lineId: line.id,
            itemId: line.itemId,
            locationId: line.locationId,
            quantity: line.quantity,
            value: value.toFixed(),
            held: line.heldFor && own.gt(0) ? { orderLineId: line.heldFor.orderLineId, quantity: own.toFixed() } : null,
          },
        ];
      }),
  );
}

/** What lines of a receipt come to in both currencies. // P8 */
export function worthOf(lines: readonly { cost: string; value: string }[]): Both {
  return { amount: sum(lines.map((line) => dec(line.value))), own: sum(lines.map((line) => dec(line.cost))) };
}

/** What lines of a document cost together. */
export function costOf(lines: readonly { cost: string }[]): string {
  return sum(lines.map((line) => dec(line.cost))).toFixed();
}
