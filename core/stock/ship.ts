import {
  dec,
  isDecimalText,
  least,
  lineSlice,
  pointOf,
  roundHalfAway,
  ZERO,
  type Dec,
  type LineMoney,
} from '@core/kernel';
import type { Route } from '@core/catalogue';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { OrderState } from '@core/orders';
import { averageCost } from './between';
import type { MoveEffects, ShippedPart } from './move';

/** An order line supplied from our place, with what is there of its item. */
export interface StockLine {
  order: { id: number; number: string; state: OrderState; customerId: number; shipToId: number; currency: string };
  line: LineMoney & {
    id: number;
    lineNo: number;
    open: string;
    shipped: string;
    /** Held for the line: reserved from stock, or received for a special order. // S3 L3 */
    reserved: string;
    /** What was bought or made for the line goes out; from stock, what is free as well. */
    route: Exclude<Route, 'drop'>;
    /** Where it goes out from. // S1 */
    locationId: number;
    agreementLineId: number | null;
  };
  /** As it is at the line's location. `free`: on hand and held for nobody. */
  item: { id: number; number: string; onHand: string; free: string; stockValue: string };
}

/**
 * Ships lines from our place at the moving average cost, of one order or of several that go together. // P3 L3
 * A special order ships what was received for it; others what is held for them, then what is free. // L3 S3
 * Refused above what is open on the line or there for it. The last unit takes the last cent of the item's value.
 */
export function decideStockShipment(
  lines: readonly StockLine[],
  asked: readonly { lineId: number; quantity: string; field: string }[],
): Decision<MoveEffects> {
  const refusals: Refusal[] = [];
  const parts: ShippedPart[] = [];
  const left = new Map<number, Stock>();
  const shipped = new Map<number, Dec>();
  for (const ask of asked) {
    const line = lines.find((each) => each.line.id === ask.lineId);
    const found = line && after(line, shipped.get(line.line.id) ?? ZERO);
    if (!found) {
      refusals.push(refuse('unknown', ask.field, { what: 'This line' }));
      continue;
    }
    const point = pointOf(found.item.id, found.line.locationId);
    const stock = left.get(point) ?? {
      quantity: dec(found.item.onHand),
      free: dec(found.item.free),
      held: new Map(),
      value: dec(found.item.stockValue),
    };
    const held = stock.held.get(found.line.id) ?? dec(found.line.reserved);
    const refusal = stockRefusal(found, ask, held, stock.free);
    if (refusal) {
      refusals.push(refusal);
      continue;
    }
    const quantity = dec(ask.quantity);
    const cost = averageCost(stock, quantity, found.order.currency);
    const fromHeld = least(quantity, held);
    left.set(point, {
      quantity: stock.quantity.minus(quantity),
      free: stock.free.minus(quantity.minus(fromHeld)),
      held: new Map(stock.held).set(found.line.id, held.minus(fromHeld)),
      value: stock.value.minus(cost),
    });
    parts.push(partOf(found, quantity, fromHeld, cost));
    shipped.set(found.line.id, quantity.plus(shipped.get(found.line.id) ?? ZERO));
  }
  return decided(refusals, () => ({ receipts: [], shipments: shipmentsOf(lines, parts) }));
}

/**
 * A shipment for each customer, address and place it goes out from, in the order its lines were asked for: orders that go
 * together go on one delivery note. // S9
 */
function shipmentsOf(lines: readonly StockLine[], parts: readonly ShippedPart[]): MoveEffects['shipments'] {
  const byPlace = new Map<string, MoveEffects['shipments'][number]>();
  for (const part of parts) {
    const { order } = lines.find((each) => each.line.id === part.orderLineId)!;
    const { id: orderId, customerId, shipToId } = order;
    const key = `${customerId} ${shipToId} ${part.locationId}`;
    const shipment = byPlace.get(key) ?? { orderId, customerId, shipToId, cost: '0', parts: [] };
    if (shipment.orderId !== orderId) shipment.orderId = null;
    shipment.parts.push(part);
    shipment.cost = dec(shipment.cost).plus(part.cost).toFixed();
    byPlace.set(key, shipment);
  }
  return [...byPlace.values()];
}

/** The line as it stands once that much more of it has gone. */
function after(found: StockLine, gone: Dec): StockLine {
  const { open, shipped } = found.line;
  const line = { ...found.line, open: dec(open).minus(gone).toFixed(), shipped: dec(shipped).plus(gone).toFixed() };
  return { ...found, line };
}

/** What is left at our place while lines are gone through: on hand, free, held by line, and its value. */
interface Stock {
  quantity: Dec;
  free: Dec;
  held: ReadonlyMap<number, Dec>;
  value: Dec;
}

function stockRefusal(
  { order, line, item }: StockLine,
  ask: { quantity: string; field: string },
  held: Dec,
  free: Dec,
): Refusal | null {
  if (order.state !== 'confirmed') {
    return refuse('order-not-confirmed', ask.field, { order: order.number, state: order.state });
  }
  if (!isDecimalText(ask.quantity, 'quantity')) {
    return refuse('not-a-number', ask.field, { what: 'The quantity' });
  }
  const quantity = dec(ask.quantity);
  if (quantity.lte(0)) return refuse('not-above-zero', ask.field, { what: 'The quantity' });
  if (quantity.gt(line.open)) {
    return refuse('above-open', ask.field, {
      document: order.number,
      line: String(line.lineNo),
      item: item.number,
      asked: ask.quantity,
      open: line.open,
    });
  }
  const there = line.route === 'stock' ? held.plus(free) : held;
  if (quantity.lte(there)) return null;
  const facts = { item: item.number, asked: ask.quantity, order: order.number, line: String(line.lineNo) };
  if (line.route === 'stock') return refuse('above-on-hand', ask.field, { ...facts, onHand: there.toFixed() });
  const here = there.toFixed();
  return line.route === 'special'
    ? refuse('not-here-yet', ask.field, { ...facts, here })
    : refuse('not-made-yet', ask.field, { ...facts, here });
}

function partOf({ order, line, item }: StockLine, quantity: Dec, held: Dec, cost: Dec): ShippedPart {
  const shipped = dec(line.shipped);
  const sale = lineSlice(line, shipped, shipped.plus(quantity), order.currency);
  return {
    tieId: null,
    from: null,
    orderLineId: line.id,
    itemId: item.id,
    locationId: line.locationId,
    quantity: quantity.toFixed(),
    cost: cost.toFixed(),
    unitCost: roundHalfAway(cost.div(quantity), 4).toFixed(),
    value: sale.value.toFixed(),
    held: held.toFixed(),
    agreementLineId: line.agreementLineId,
    agreedValue: sale.agreed?.toFixed() ?? null,
  };
}

/** Where a shipment leaves from: all its parts leave from there. */
const placeOf = ({ parts }: MoveEffects['shipments'][number]) => parts[0]!.locationId;

/** One set of effects of two: shipments to one address from one place, or receipts of one purchase, become one document. */
export function mergeMoves(first: MoveEffects, second: MoveEffects): MoveEffects {
  const shipments = first.shipments.map((shipment) => ({ ...shipment, parts: [...shipment.parts] }));
  for (const more of second.shipments) {
    const same = shipments.find(
      (shipment) =>
        shipment.customerId === more.customerId &&
        shipment.shipToId === more.shipToId &&
        placeOf(shipment) === placeOf(more),
    );
    if (!same) {
      shipments.push(more);
      continue;
    }
    if (same.orderId !== more.orderId) same.orderId = null;
    same.parts.push(...more.parts);
    same.cost = dec(same.cost).plus(more.cost).toFixed();
  }
  const receipts = first.receipts.map((receipt) => ({ ...receipt, parts: [...receipt.parts] }));
  for (const more of second.receipts) {
    // Appended, so that shipments still find their receipts' parts by place.
    const same = receipts.find((receipt) => receipt.purchaseId === more.purchaseId);
    if (!same) receipts.push(more);
    else {
      same.parts.push(...more.parts);
      same.cost = dec(same.cost).plus(more.cost).toFixed();
    }
  }
  return { receipts, shipments };
}
