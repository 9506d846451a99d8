import {
  dec,
  isDecimalText,
  known,
  least,
  lineSlice,
  MAIN_LOCATION,
  ownOf,
  roundHalfAway,
  sum,
  ZERO,
  type Dec,
  type ExchangeOf,
  type LineMoney,
} from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { OrderState } from '@core/orders';

export type PurchaseState = 'draft' | 'placed' | 'closed' | 'cancelled';

/** A purchase order whose goods are received, with what its currency is worth on the day. // P8 */
export interface PurchaseReceived {
  id: number;
  number: string;
  state: PurchaseState;
  vendorId: number;
  exchange: ExchangeOf;
}

/** One tie of a drop shipment with both its ends, as far as moving goods needs them. */
export interface DropTie {
  tieId: number;
  quantity: string;
  received: string;
  purchase: PurchaseReceived;
  purchaseLine: LineMoney & { id: number; lineNo: number; received: string; agreementLineId: number | null };
  order: { id: number; number: string; state: OrderState; customerId: number; shipToId: number; currency: string };
  orderLine: LineMoney & {
    id: number;
    lineNo: number;
    open: string;
    shipped: string;
    agreementLineId: number | null;
  };
  item: { id: number; number: string };
}

/** Which end the person started from; refusals name the document they are looking at. */
export type MoveEnd = 'purchase' | 'order';

/** Goods that moved, whole cost and one unit's, in the company's currency. */
export interface MovedPart {
  /** The tie it moves on; null for goods that are for nobody's order, or leave our stock. */
  tieId: number | null;
  itemId: number;
  /** Where it comes to or goes from; the main location for what only passes through. */
  locationId: number;
  quantity: string;
  cost: string;
  unitCost: string;
  /** The agreement line it counts on: the customer's for a shipment, the vendor's for a receipt. */
  agreementLineId: number | null;
  /** What of its value counts there where that is not the whole. // A5 */
  agreedValue: string | null;
}

/** The values of the parts of a purchase line sum to its amount. */
export interface ReceivedPart extends MovedPart {
  purchaseLineId: number;
  /** In the purchase order's currency. // P8 */
  value: string;
  /** The order line it is held for at our place; null for what is for nobody, or went straight to the customer. // L3 */
  heldFor: number | null;
}

export interface ShippedPart extends MovedPart {
  orderLineId: number;
  /** Sales value of the part; the parts of an order line sum to its amount. // A4 */
  value: string;
  /** What of it was held for the line. // S3 L3 */
  held: string;
  /** Index into `receipts` and its parts for a drop shipment; null for goods from our stock. */
  from: { receipt: number; part: number } | null;
}

export interface ShipmentPlan {
  /** Null where goods of several orders go together. // S9 */
  orderId: number | null;
  customerId: number;
  shipToId: number;
  cost: string;
  parts: ShippedPart[];
}

export interface ReceiptPlan {
  purchaseId: number;
  vendorId: number;
  cost: string;
  /** The purchase order's currency; null where it is the company's. */
  foreign: string | null;
  rate: string;
  parts: ReceivedPart[];
}

export interface MoveEffects {
  receipts: ReceiptPlan[];
  shipments: ShipmentPlan[];
}

/**
 * One event, both documents: what the vendor shipped is our receipt and our shipment. // L2
 * `asked` names the lines of the end the person is at; a line with several ties is moved oldest tie first.
 * Refused above what is open on a line; any part quantity may move.
 */
export function decideDropMove(
  ties: readonly DropTie[],
  asked: readonly { lineId: number; quantity: string }[],
  end: MoveEnd,
): Decision<MoveEffects> {
  const refusals: Refusal[] = [];
  const moved: { tie: DropTie; quantity: Dec }[] = [];
  const wanted = asked
    .map((line, index) => ({ ...line, field: `lines.${index}.quantity` }))
    .filter((line) => line.quantity.trim() !== '');
  if (wanted.length === 0) {
    refusals.push(refuse('nothing-asked', 'lines', { what: 'a quantity' }));
  }
  const taken = new Map<number, Dec>();
  for (const line of wanted) {
    const fitting = ties.filter((tie) => lineIdOf(tie, end) === line.lineId);
    const refusal = askedRefusal(fitting, line, end, taken);
    if (refusal) {
      refusals.push(refusal);
      continue;
    }
    let rest = dec(line.quantity);
    for (const tie of fitting) {
      const piece = least(rest, openOf(tie).minus(taken.get(tie.tieId) ?? ZERO));
      if (piece.lte(0)) continue;
      moved.push({ tie, quantity: piece });
      taken.set(tie.tieId, (taken.get(tie.tieId) ?? ZERO).plus(piece));
      rest = rest.minus(piece);
    }
  }
  return decided(refusals, () => effectsOf(moved));
}

function lineIdOf(tie: DropTie, end: MoveEnd): number {
  return end === 'purchase' ? tie.purchaseLine.id : tie.orderLine.id;
}

/** What may still move on a tie: its own rest, and never beyond the order line's. // L1 */
function openOf(tie: DropTie): Dec {
  return least(dec(tie.quantity).minus(tie.received), dec(tie.orderLine.open));
}

function askedRefusal(
  fitting: readonly DropTie[],
  line: { quantity: string; field: string },
  end: MoveEnd,
  taken: ReadonlyMap<number, Dec>,
): Refusal | null {
  const first = fitting[0];
  if (!first) return refuse('unknown', line.field, { what: 'This line' });
  if (!isDecimalText(line.quantity, 'quantity')) {
    return refuse('not-a-number', line.field, { what: 'The quantity' });
  }
  if (dec(line.quantity).lte(0)) {
    return refuse('not-above-zero', line.field, { what: 'The quantity' });
  }
  const notPlaced = fitting.find((tie) => tie.purchase.state !== 'placed');
  if (notPlaced) {
    const { number, state } = notPlaced.purchase;
    return refuse('purchase-not-placed', line.field, { purchase: number, state });
  }
  const notConfirmed = fitting.find((tie) => tie.order.state !== 'confirmed');
  if (notConfirmed) {
    const { number, state } = notConfirmed.order;
    return refuse('order-not-confirmed', line.field, { order: number, state });
  }
  const noRate = fitting.flatMap((tie) => rateRefusals(tie.purchase.exchange, line.field))[0];
  if (noRate) return noRate;
  const open = sum(fitting.map((tie) => openOf(tie).minus(taken.get(tie.tieId) ?? ZERO)));
  if (dec(line.quantity).lte(open)) return null;
  return refuse('above-open', line.field, {
    document: end === 'purchase' ? first.purchase.number : first.order.number,
    line: String(end === 'purchase' ? first.purchaseLine.lineNo : first.orderLine.lineNo),
    item: first.item.number,
    asked: line.quantity,
    open: open.toFixed(),
  });
}

function effectsOf(moved: readonly { tie: DropTie; quantity: Dec }[]): MoveEffects {
  const receipts = new Map<number, MoveEffects['receipts'][number]>();
  const shipments = new Map<number, ShipmentPlan>();
  const reached = new Reached();
  for (const { tie, quantity } of moved) {
    const { received, shipped } = partsOf(tie, quantity, reached);
    const { purchase, order } = tie;
    const receipt = receipts.get(purchase.id) ?? receiptOf(purchase);
    receipt.parts.push(received);
    receipt.cost = dec(receipt.cost).plus(received.cost).toFixed();
    receipts.set(purchase.id, receipt);
    const shipment = shipments.get(order.id) ?? {
      orderId: order.id,
      customerId: order.customerId,
      shipToId: order.shipToId,
      cost: '0',
      parts: [],
    };
    shipment.parts.push({
      ...shipped,
      from: { receipt: [...receipts.keys()].indexOf(purchase.id), part: receipt.parts.length - 1 },
    });
    shipment.cost = dec(shipment.cost).plus(shipped.cost).toFixed();
    shipments.set(order.id, shipment);
  }
  return { receipts: [...receipts.values()], shipments: [...shipments.values()] };
}

/** A receipt of nothing yet, at the rate of the day. // P8 */
export function receiptOf({ id, vendorId, exchange }: PurchaseReceived): ReceiptPlan {
  const { currency, own, rate } = known(exchange);
  return { purchaseId: id, vendorId, cost: '0', foreign: currency === own ? null : currency, rate, parts: [] };
}

/** What goods of a purchase line cost in the company's currency, whole and by the unit. // P3 P8 */
export function costOfPart(value: Dec, unitPrice: string, exchange: ExchangeOf): { cost: string; unitCost: string } {
  const rate = known(exchange);
  return {
    cost: ownOf(value, rate).toFixed(),
    unitCost: roundHalfAway(dec(unitPrice).times(rate.rate), 4).toFixed(),
  };
}

/** How far each line has been moved, so that the amounts of parts laid end to end sum to the line's. */
class Reached {
  private readonly by = new Map<string, Dec>();

  advance(key: string, before: string, quantity: Dec): { from: Dec; to: Dec } {
    const from = this.by.get(key) ?? dec(before);
    const to = from.plus(quantity);
    this.by.set(key, to);
    return { from, to };
  }
}

function partsOf(
  tie: DropTie,
  quantity: Dec,
  reached: Reached,
): { received: ReceivedPart; shipped: Omit<ShippedPart, 'from'> } {
  const { purchaseLine, orderLine, purchase, order } = tie;
  const bought = reached.advance(`p${purchaseLine.id}`, purchaseLine.received, quantity);
  const sold = reached.advance(`s${orderLine.id}`, orderLine.shipped, quantity);
  const cost = lineSlice(purchaseLine, bought.from, bought.to, purchase.exchange.currency);
  const sale = lineSlice(orderLine, sold.from, sold.to, order.currency);
  const moved = {
    tieId: tie.tieId,
    itemId: tie.item.id,
    locationId: MAIN_LOCATION,
    quantity: quantity.toFixed(),
    ...costOfPart(cost.value, purchaseLine.unitPrice, purchase.exchange),
  };
  return {
    received: {
      ...moved,
      purchaseLineId: purchaseLine.id,
      value: cost.value.toFixed(),
      heldFor: null,
      agreementLineId: purchaseLine.agreementLineId,
      agreedValue: cost.agreed?.toFixed() ?? null,
    },
    shipped: {
      ...moved,
      orderLineId: orderLine.id,
      value: sale.value.toFixed(),
      held: '0',
      agreementLineId: orderLine.agreementLineId,
      agreedValue: sale.agreed?.toFixed() ?? null,
    },
  };
}
