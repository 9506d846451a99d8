import {
  currencyPlaces,
  dec,
  isDecimalText,
  lineSlice,
  roundHalfAway,
  ZERO,
  type Dec,
  type LineMoney,
} from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { OrderState } from '@core/orders';
import type { MoveEffects, ShippedPart } from './move';

/** An order line supplied from our stock, with what is on hand of its item. */
export interface StockLine {
  order: { id: number; number: string; state: OrderState; customerId: number; shipToId: number; currency: string };
  line: LineMoney & {
    id: number;
    lineNo: number;
    open: string;
    shipped: string;
    agreementLineId: number | null;
  };
  item: { id: number; number: string; onHand: string; stockValue: string };
}

/**
 * Ships lines of one order from stock at the moving average cost. // P3
 * Refused above what is open on the line or on hand. The last unit takes the last cent of the item's value.
 */
export function decideStockShipment(
  lines: readonly StockLine[],
  asked: readonly { lineId: number; quantity: string; field: string }[],
): Decision<MoveEffects> {
  const refusals: Refusal[] = [];
  const parts: ShippedPart[] = [];
  const left = new Map<number, { quantity: Dec; value: Dec }>();
  for (const ask of asked) {
    const found = lines.find((each) => each.line.id === ask.lineId);
    if (!found) {
      refusals.push(refuse('unknown', ask.field, { what: 'This line' }));
      continue;
    }
    const stock = left.get(found.item.id) ?? {
      quantity: dec(found.item.onHand),
      value: dec(found.item.stockValue),
    };
    const refusal = stockRefusal(found, ask, stock.quantity);
    if (refusal) {
      refusals.push(refusal);
      continue;
    }
    const quantity = dec(ask.quantity);
    const cost = averageCost(stock, quantity, found.order.currency);
    left.set(found.item.id, {
      quantity: stock.quantity.minus(quantity),
      value: stock.value.minus(cost),
    });
    parts.push(partOf(found, quantity, cost));
  }
  const order = lines[0]?.order;
  return decided(refusals, () => ({
    receipts: [],
    shipments:
      order && parts.length > 0
        ? [
            {
              orderId: order.id,
              customerId: order.customerId,
              shipToId: order.shipToId,
              cost: parts.reduce((total, part) => total.plus(part.cost), ZERO).toFixed(),
              parts,
            },
          ]
        : [],
  }));
}

function stockRefusal(
  { order, line, item }: StockLine,
  ask: { quantity: string; field: string },
  onHand: Dec,
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
  if (quantity.lte(onHand)) return null;
  return refuse('above-on-hand', ask.field, {
    item: item.number,
    asked: ask.quantity,
    onHand: onHand.toFixed(),
  });
}

function averageCost(stock: { quantity: Dec; value: Dec }, quantity: Dec, currency: string): Dec {
  if (quantity.eq(stock.quantity)) return stock.value;
  return roundHalfAway(stock.value.times(quantity).div(stock.quantity), currencyPlaces(currency));
}

function partOf({ order, line, item }: StockLine, quantity: Dec, cost: Dec): ShippedPart {
  const shipped = dec(line.shipped);
  const sale = lineSlice(line, shipped, shipped.plus(quantity), order.currency);
  return {
    tieId: null,
    from: null,
    orderLineId: line.id,
    itemId: item.id,
    quantity: quantity.toFixed(),
    cost: cost.toFixed(),
    unitCost: roundHalfAway(cost.div(quantity), 4).toFixed(),
    value: sale.value.toFixed(),
    agreementLineId: line.agreementLineId,
    agreedValue: sale.agreed?.toFixed() ?? null,
  };
}

/** One set of effects of two: a shipment of the same order, or a receipt of the same purchase, becomes one document. */
export function mergeMoves(first: MoveEffects, second: MoveEffects): MoveEffects {
  const shipments = first.shipments.map((shipment) => ({ ...shipment, parts: [...shipment.parts] }));
  for (const more of second.shipments) {
    const same = shipments.find((shipment) => shipment.orderId === more.orderId);
    if (!same) {
      shipments.push(more);
      continue;
    }
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
