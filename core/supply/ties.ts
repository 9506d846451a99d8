import { ROUTE_NAMES, routeIsBought, type Route } from '@core/catalogue';
import { dec, isDecimalText, least, type Day, type Dec } from '@core/kernel';
import type { OrderState } from '@core/orders';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { PurchaseState } from '@core/stock';

/** The sales end of a tie that may be. */
export interface SalesEnd {
  id: number;
  lineNo: number;
  order: { id: number; number: string; state: OrderState };
  item: { id: number; number: string };
  route: Route;
  /** Where a drop shipment goes. */
  shipToId: number | null;
  /** Where anything else goes out from. */
  locationId: number;
  /** Open and tied to nothing. */
  uncovered: string;
  shipDate: Day;
}

/** The purchase end of a tie that may be. */
export interface SupplyEnd {
  id: number;
  lineNo: number;
  purchase: { id: number; number: string; state: PurchaseState };
  item: { id: number; number: string };
  /** The customer's address of a drop shipment; null for our own place. */
  shipToId: number | null;
  /** Which of our places anything else comes to. */
  locationId: number;
  /** Tied to nothing and not received yet. */
  untied: string;
  dueDate: Day;
}

/** A tie as it stands. */
export interface TieNow {
  id: number;
  quantity: string;
  received: string;
  sales: { id: number; lineNo: number; order: { id: number; number: string } };
  supply: { id: number; lineNo: number; purchase: { id: number; number: string } };
}

/** What may be tied between two ends: nothing where they do not fit each other. // L5 */
export function fittingQuantity(sales: SalesEnd, supply: SupplyEnd): Dec {
  return misfitOf(sales, supply, '') ? dec(0) : least(dec(sales.uncovered), dec(supply.untied));
}

/**
 * Supply lines a sales line could be tied to, the best first: those that are there by its ship date before late ones,
 * then by date, then those that cover it whole before parts, then oldest. // L5
 */
export function rankSupplies<End extends SupplyEnd>(sales: SalesEnd, supplies: readonly End[]): End[] {
  const late = (end: SupplyEnd) => Number(end.dueDate > sales.shipDate);
  const part = (end: SupplyEnd) => Number(dec(end.untied).lt(sales.uncovered));
  return supplies
    .filter((end) => fittingQuantity(sales, end).gt(0))
    .sort((a, b) => late(a) - late(b) || a.dueDate.localeCompare(b.dueDate) || part(a) - part(b) || a.id - b.id);
}

/** Sales lines a supply line could be tied to: those that ship first before others, whole before parts, oldest. // L5 */
export function rankSales<End extends SalesEnd>(supply: SupplyEnd, sales: readonly End[]): End[] {
  const part = (end: SalesEnd) => Number(dec(end.uncovered).gt(supply.untied));
  return sales
    .filter((end) => fittingQuantity(end, supply).gt(0))
    .sort((a, b) => a.shipDate.localeCompare(b.shipDate) || part(a) - part(b) || a.id - b.id);
}

export interface TieEffects {
  orderLineId: number;
  purchaseLineId: number;
  quantity: string;
}

/**
 * Ties a sales line to a purchase line after the fact. // L1 L5
 * Refused where the two do not fit (item, route, address, states), and above what either has left.
 */
export function decideTie(sales: SalesEnd, supply: SupplyEnd, quantity: string): Decision<TieEffects> {
  const misfit = misfitOf(sales, supply, 'purchaseLineId') ?? quantityRefusal(sales, supply, quantity);
  return decided(misfit ? [misfit] : [], () => ({
    orderLineId: sales.id,
    purchaseLineId: supply.id,
    quantity: dec(quantity).toFixed(),
  }));
}

function misfitOf(sales: SalesEnd, supply: SupplyEnd, field: string): Refusal | null {
  const line = `${sales.order.number} line ${sales.lineNo}`;
  const facts = { line, purchase: `${supply.purchase.number} line ${supply.lineNo}` };
  if (sales.order.state !== 'confirmed') {
    return refuse('order-not-confirmed', 'orderLineId', { order: sales.order.number, state: sales.order.state });
  }
  if (supply.purchase.state !== 'placed') {
    return refuse('purchase-not-open', field, { purchase: supply.purchase.number, state: supply.purchase.state });
  }
  if (!routeIsBought(sales.route)) {
    return refuse('line-not-bought', 'orderLineId', {
      order: sales.order.number,
      line: String(sales.lineNo),
      route: ROUTE_NAMES[sales.route],
    });
  }
  if (sales.item.id !== supply.item.id) {
    return refuse('tie-other-item', field, { ...facts, item: sales.item.number, other: supply.item.number });
  }
  if ((sales.route === 'drop') !== (supply.shipToId !== null)) {
    return refuse('tie-other-way', field, { ...facts, route: ROUTE_NAMES[sales.route] });
  }
  if (sales.route === 'drop' && sales.shipToId !== supply.shipToId) return refuse('tie-other-address', field, facts);
  if (sales.route !== 'drop' && sales.locationId !== supply.locationId) {
    return refuse('tie-other-location', field, facts);
  }
  return null;
}

function quantityRefusal(sales: SalesEnd, supply: SupplyEnd, quantity: string): Refusal | null {
  if (!isDecimalText(quantity, 'quantity')) return refuse('not-a-number', 'quantity', { what: 'The quantity' });
  if (dec(quantity).lte(0)) return refuse('not-above-zero', 'quantity', { what: 'The quantity' });
  const item = sales.item.number;
  if (dec(quantity).gt(sales.uncovered)) {
    const facts = { document: sales.order.number, line: String(sales.lineNo), item };
    return refuse('above-open', 'quantity', { ...facts, asked: quantity, open: sales.uncovered });
  }
  if (dec(quantity).gt(supply.untied)) {
    const facts = { document: supply.purchase.number, line: String(supply.lineNo), item };
    return refuse('above-open', 'quantity', { ...facts, asked: quantity, open: supply.untied });
  }
  return null;
}

/** Parts what is tied; both documents stay. Refused once anything was received on it. // L4 */
export function decideUntie(ties: readonly TieNow[]): Decision<{ ties: readonly TieNow[] }> {
  const refusals = ties
    .filter((tie) => dec(tie.received).gt(0))
    .map((tie) =>
      refuse('tie-received', '', {
        line: `${tie.sales.order.number} line ${tie.sales.lineNo}`,
        purchase: `${tie.supply.purchase.number} line ${tie.supply.lineNo}`,
        received: tie.received,
      }),
    );
  return decided(refusals, () => ({ ties }));
}

/** A purchase of a drop shipment, of which some lines hang loose. */
export interface LoosePurchase {
  id: number;
  number: string;
  state: PurchaseState;
  shipToId: number | null;
  lines: readonly { id: number; lineNo: number; tied: string; received: string }[];
}

/** Turns a loose drop shipment into a purchase for our own stock: it comes to our place instead. // L4 */
export function decideToStock(purchase: LoosePurchase): Decision<{ purchaseId: number }> {
  const refusals: Refusal[] = [];
  const { number, state } = purchase;
  if (state !== 'placed') refusals.push(refuse('purchase-not-open', '', { purchase: number, state }));
  else if (purchase.shipToId === null) refusals.push(refuse('comes-here-already', '', { purchase: number }));
  else if (purchase.lines.some((line) => dec(line.tied).gt(0))) {
    refusals.push(refuse('still-tied', '', { purchase: number }));
  }
  return decided(refusals, () => ({ purchaseId: purchase.id }));
}
