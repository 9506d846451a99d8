import { agreedPrice, leftOn, overLimitOf, type Offer as AgreementOffer } from '@core/agreements';
import type { Route } from '@core/catalogue';
import {
  AMOUNT_BOUND,
  dec,
  isDay,
  isDecimalText,
  least,
  amountAt,
  most,
  priceText,
  ZERO,
  type Day,
  type Dec,
} from '@core/kernel';
import type { OrderState } from '@core/orders';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { PurchaseState } from '@core/stock';
import { vendorQuantity } from './bench';
import { differencesOf } from './step';

/** What both ends of a line know of its money; a mixed price (part under an agreement) is not changed in a pair. */
interface LineEnd {
  id: number;
  lineNo: number;
  /** Ordered and not given up. */
  quantity: string;
  /** Tied over all its ties. */
  tied: string;
  unitPrice: string;
  amount: string;
  agreedAmount: string | null;
  agreementLineId: number | null;
}

export interface PairOrder {
  id: number;
  number: string;
  state: OrderState;
  currency: string;
  shipToId: number | null;
  /** The addresses of its customer. */
  shipToIds: readonly number[];
  /** Every drop shipment that is still to come for it: they go where it goes. */
  drops: readonly { id: number; number: string; orderIds: readonly number[] }[];
}

export interface PairPurchase {
  id: number;
  number: string;
  state: PurchaseState;
  currency: string;
  /** Null for our own place. */
  shipToId: number | null;
}

/** A tie with both its ends, as a pair edit sees it. */
export interface Pair {
  tieId: number;
  quantity: string;
  received: string;
  item: { id: number; number: string; unit: string; listPrice: string };
  order: PairOrder;
  sales: LineEnd & { route: Route; shipped: string; reserved: string; shipDate: Day };
  purchase: PairPurchase;
  supply: LineEnd & { received: string; dueDate: Day; vendor: string; minimum: string; multiple: string };
}

/** What is to become of a tie; what is left out stays. `was` is what the person saw when they typed. */
export interface PairChange {
  tieId: number;
  was: { quantity: string; shipDate: Day; dueDate: Day; shipToId: number | null };
  quantity?: string | undefined;
  shipDate?: string | undefined;
  dueDate?: string | undefined;
  shipToId?: number | undefined;
}

export interface PairEffects {
  ties: { id: number; by: string }[];
  /** Lines as they become: quantity not given up, its amount, its date, and what more is tied. */
  sales: { id: number; quantity: string; amount: string; shipDate: Day; tiedBy: string }[];
  supply: { id: number; quantity: string; amount: string; dueDate: Day; tiedBy: string }[];
  orders: { id: number; number: string; shipToId: number | null }[];
  purchases: { id: number; number: string; shipToId: number | null }[];
  /** Growth of agreement lines, of customers and vendors; below zero gives back. // A4 */
  released: { agreementLineId: number; quantity: string; value: string }[];
  /** Each tie that was asked for, as it becomes, for who looks before saving. */
  shown: PairShown[];
  /** Ties that were left out because of what stands against them. */
  leftOut: number[];
}

export interface PairShown {
  tieId: number;
  quantity: string;
  supplyQuantity: string;
  salesAmount: string;
  supplyAmount: string;
  shipDate: Day;
  dueDate: Day;
  /** In what the ends still differ; empty where in step. // L6 */
  differs: string;
}

/**
 * Changes quantity, dates and ship-to on both ends of ties at once, and keeps them in step. // L6 L7
 * All of them or none; with `goodOnly` those that nothing stands against, the others left out and named in `leftOut`
 * (what stands against them comes as warnings). Refused below what was received or shipped, where a tie is no longer as
 * it was seen, where a purchase also serves another order, and above agreements that refuse. O(changes²) for hundreds.
 */
export function decidePairs(
  pairs: readonly Pair[],
  changes: readonly PairChange[],
  offers: readonly AgreementOffer[],
  workDate: Day,
  goodOnly = false,
): Decision<PairEffects> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  if (changes.length === 0) refusals.push(refuse('nothing-asked', 'pairs', { what: 'a change' }));
  const state = new PairState(pairs, offers);
  const leftOut: number[] = [];
  changes.forEach((change, index) => {
    const field = `pairs.${index}`;
    const pair = pairs.find((each) => each.tieId === change.tieId);
    const before = state.copy();
    const found = pair
      ? changePair(state, pair, change, changes, { field, workDate })
      : { refused: [refuse('unknown', field, { what: 'This tie' })], warned: [] };
    warnings.push(...found.warned);
    if (found.refused.length === 0) return;
    state.restore(before);
    refusals.push(...found.refused);
    leftOut.push(change.tieId);
  });
  if (!goodOnly || leftOut.length === changes.length)
    return decided(refusals, () => state.effects(changes, []), warnings);
  return decided([], () => state.effects(changes, leftOut), [...refusals, ...warnings]);
}

interface Found {
  refused: Refusal[];
  warned: Refusal[];
}

function changePair(
  state: PairState,
  pair: Pair,
  change: PairChange,
  all: readonly PairChange[],
  { field, workDate }: { field: string; workDate: Day },
): Found {
  const refused = stateRefusals(pair, change, field);
  const warned: Refusal[] = [];
  if (refused.length > 0) return { refused, warned };
  if (change.quantity !== undefined && change.quantity !== pair.quantity) {
    const found = changeQuantity(state, pair, change.quantity, `${field}.quantity`);
    refused.push(...found.refused);
    warned.push(...found.warned);
  }
  for (const [end, name] of [
    ['sales', 'shipDate'],
    ['supply', 'dueDate'],
  ] as const) {
    const day = change[name];
    if (day === undefined || day === change.was[name]) continue;
    const found = dayRefusal(day, `${field}.${name}`, workDate);
    if (found) refused.push(found);
    else state.line(end, pair[end].id).day = day;
  }
  if (change.shipToId !== undefined && change.shipToId !== pair.order.shipToId) {
    const found = changeShipTo(state, pair, change.shipToId, all, `${field}.shipToId`);
    if (found) refused.push(found);
  }
  return { refused, warned };
}

function stateRefusals(pair: Pair, change: PairChange, field: string): Refusal[] {
  const { order, purchase, sales, supply } = pair;
  if (order.state !== 'confirmed') {
    return [refuse('order-not-confirmed', field, { order: order.number, state: order.state })];
  }
  if (purchase.state !== 'placed') {
    return [refuse('purchase-not-open', field, { purchase: purchase.number, state: purchase.state })];
  }
  const { was } = change;
  const moved = [
    ...(dec(was.quantity).eq(pair.quantity) ? [] : ['the quantity']),
    ...(was.shipDate === sales.shipDate ? [] : ['the ship date']),
    ...(was.dueDate === supply.dueDate ? [] : ['the due date']),
    ...(was.shipToId === order.shipToId ? [] : ['the address']),
  ];
  return moved.length === 0
    ? []
    : [refuse('pair-changed', field, { order: order.number, purchase: purchase.number, what: moved.join(' and ') })];
}

/** Both ends and the tie take on the difference; a special order's purchase by what the vendor sells. // L7 */
function changeQuantity(state: PairState, pair: Pair, typed: string, field: string): Found {
  const { sales, supply, item, order, purchase } = pair;
  const refused: Refusal[] = [];
  const warned: Refusal[] = [];
  if (!isDecimalText(typed, 'quantity')) {
    return { refused: [refuse('not-a-number', field, { what: 'The quantity' })], warned };
  }
  const quantity = dec(typed);
  if (quantity.lte(0)) return { refused: [refuse('not-above-zero', field, { what: 'The quantity' })], warned };
  if (quantity.lt(pair.received)) {
    const facts = { order: order.number, item: item.number, asked: typed, moved: pair.received };
    return { refused: [refuse('below-moved', field, facts)], warned };
  }
  if (sales.agreedAmount !== null || supply.agreedAmount !== null) {
    return { refused: [refuse('mixed-price', field, { order: order.number, purchase: purchase.number })], warned };
  }
  const by = quantity.minus(state.tie(pair.tieId));
  const sold = state.line('sales', sales.id);
  const bought = state.line('supply', supply.id);
  const soldTo = salesQuantity(sold, by);
  const boughtTo = supplyQuantity(bought, by, supply);
  const here = dec(sales.shipped).plus(sales.reserved);
  if (soldTo.lt(here)) {
    const facts = { order: order.number, item: item.number, asked: typed, moved: here.toFixed() };
    return { refused: [refuse('below-moved', field, facts)], warned };
  }
  const supplied = sales.route === 'special' ? most(vendorQuantity(boughtTo, supply), dec(supply.received)) : boughtTo;
  const sells = vendorQuantity(supplied, supply);
  if (!sells.eq(supplied) && !supplied.eq(bought.quantity)) {
    const facts = { vendor: supply.vendor, item: item.number, asked: supplied.toFixed(), sold: sells.toFixed() };
    warned.push(refuse('vendor-sells-by', field, facts));
  }
  for (const [end, line, to, currency] of [
    ['sales', sold, soldTo, order.currency],
    ['supply', bought, supplied, purchase.currency],
  ] as const) {
    const { unitPrice, agreementLineId } = pair[end];
    const now = { quantity: line.quantity.toFixed(), unitPrice, amount: line.amount.toFixed(), agreedAmount: null };
    const amount = amountAt(now, to, currency);
    if (amount.gte(AMOUNT_BOUND)) refused.push(refuse('amount-too-large', field, {}));
    const found = state.count(agreementLineId, to.minus(line.quantity), amount.minus(line.amount), item, field);
    refused.push(...found.refused);
    warned.push(...found.warned, ...breakWord(state, pair, end, to, field));
    line.quantity = to;
    line.amount = amount;
    line.tied = line.tied.plus(by);
  }
  state.setTie(pair.tieId, quantity);
  return { refused, warned };
}

/** A raised tie takes what the line is open for first; a lowered one gives up what the line does not ask for any more. */
function salesQuantity({ quantity, tied }: LineState, by: Dec): Dec {
  if (by.gt(0)) return most(quantity, tied.plus(by));
  const over = most(ZERO, tied.minus(quantity));
  return quantity.plus(least(ZERO, by.plus(over)));
}

/** A raised tie takes what is bought for nobody first; a lowered one is bought less, never below what came. */
function supplyQuantity({ quantity, tied }: LineState, by: Dec, { received }: { received: string }): Dec {
  return by.gt(0) ? most(quantity, tied.plus(by)) : most(quantity.plus(by), dec(received));
}

/** A word where the agreement would price the new quantity otherwise: the line keeps its price. // A3 */
function breakWord(state: PairState, pair: Pair, end: 'sales' | 'supply', to: Dec, field: string): Refusal[] {
  const { unitPrice, agreementLineId } = pair[end];
  const offer = state.offerOf(agreementLineId);
  if (!offer) return [];
  const was = agreedPrice(offer.line, dec(pair[end].quantity), pair.item.listPrice);
  const is = agreedPrice(offer.line, to, pair.item.listPrice);
  if (is.eq(was)) return [];
  const { currency, number } = offer.agreement;
  const facts = {
    item: pair.item.number,
    agreement: number,
    kept: priceText(unitPrice, currency),
    is: priceText(is, currency),
  };
  return [refuse('break-crossed', field, facts)];
}

function dayRefusal(day: string, field: string, workDate: Day): Refusal | null {
  if (!isDay(day)) return refuse('not-a-day', field, { what: 'The date' });
  return day < workDate ? refuse('ship-date-past', field, { day, workDate }) : null;
}

/**
 * The order goes to another address of its customer, and with it every drop shipment that is still to come for it;
 * refused where one of them also serves an order that stays. // L7
 */
function changeShipTo(
  state: PairState,
  { order }: Pair,
  shipToId: number,
  all: readonly PairChange[],
  field: string,
): Refusal | null {
  if (!order.shipToIds.includes(shipToId)) return refuse('unknown', field, { what: 'This ship-to address' });
  state.sendOrder(order, shipToId);
  const goWith = new Set(
    all.filter((change) => change.shipToId === shipToId).map((change) => state.orderOf(change.tieId)),
  );
  const shared = order.drops.find((drop) => drop.orderIds.some((id) => id !== order.id && !goWith.has(id)));
  if (shared) return refuse('purchase-shared', field, { purchase: shared.number, order: order.number });
  for (const drop of order.drops) state.sendPurchase(drop, shipToId);
  return null;
}

interface LineState {
  id: number;
  quantity: Dec;
  amount: Dec;
  tied: Dec;
  day: Day;
}

interface Snapshot {
  sales: Map<number, LineState>;
  supply: Map<number, LineState>;
  ties: Map<number, Dec>;
  orders: Map<number, { number: string; shipToId: number | null }>;
  purchases: Map<number, { number: string; shipToId: number | null }>;
  counted: Map<number, { quantity: Dec; value: Dec }>;
}

/** Both documents of the pairs as they become, change after change; a refused change is taken back whole. */
class PairState {
  private now: Snapshot;

  constructor(
    private readonly pairs: readonly Pair[],
    private readonly offers: readonly AgreementOffer[],
  ) {
    const line = ({ id, quantity, amount, tied }: LineEnd, day: Day): [number, LineState] => [
      id,
      { id, quantity: dec(quantity), amount: dec(amount), tied: dec(tied), day },
    ];
    this.now = {
      sales: new Map(pairs.map(({ sales }) => line(sales, sales.shipDate))),
      supply: new Map(pairs.map(({ supply }) => line(supply, supply.dueDate))),
      ties: new Map(pairs.map((pair) => [pair.tieId, dec(pair.quantity)])),
      orders: new Map(),
      purchases: new Map(),
      counted: new Map(),
    };
  }

  copy(): Snapshot {
    const lines = (all: Map<number, LineState>) => new Map([...all].map(([id, line]) => [id, { ...line }]));
    const { sales, supply, ties, orders, purchases, counted } = this.now;
    return {
      sales: lines(sales),
      supply: lines(supply),
      ties: new Map(ties),
      orders: new Map(orders),
      purchases: new Map(purchases),
      counted: new Map(counted),
    };
  }

  restore(before: Snapshot): void {
    this.now = before;
  }

  line(end: 'sales' | 'supply', id: number): LineState {
    return this.now[end].get(id)!;
  }

  tie(id: number): Dec {
    return this.now.ties.get(id)!;
  }

  setTie(id: number, quantity: Dec): void {
    this.now.ties.set(id, quantity);
  }

  orderOf(tieId: number): number | undefined {
    return this.pairs.find((pair) => pair.tieId === tieId)?.order.id;
  }

  offerOf(agreementLineId: number | null): AgreementOffer | undefined {
    return agreementLineId === null ? undefined : this.offers.find((offer) => offer.line.id === agreementLineId);
  }

  sendOrder({ id, number }: PairOrder, shipToId: number): void {
    this.now.orders.set(id, { number, shipToId });
  }

  sendPurchase({ id, number }: { id: number; number: string }, shipToId: number): void {
    this.now.purchases.set(id, { number, shipToId });
  }

  /** Counts the change on its agreement line; what goes above its limit is refused, or said. // A5 */
  count(agreementLineId: number | null, quantity: Dec, value: Dec, item: Pair['item'], field: string): Found {
    const found: Found = { refused: [], warned: [] };
    if (agreementLineId === null || quantity.eq(0)) return found;
    const before = this.now.counted.get(agreementLineId) ?? { quantity: ZERO, value: ZERO };
    const after = { quantity: before.quantity.plus(quantity), value: before.value.plus(value) };
    this.now.counted.set(agreementLineId, after);
    const offer = this.offerOf(agreementLineId);
    if (!offer || quantity.lte(0)) return found;
    const asked = offer.agreement.basis === 'quantity' ? after.quantity : after.value;
    const left = leftOn(offer);
    if (asked.lte(left)) return found;
    const word = overLimitOf(offer.agreement, item, asked, left, field);
    // A split would need a line of its own: in a pair it is refused like `refuse`.
    if (offer.agreement.limitPolicy === 'refuse' || offer.agreement.limitPolicy === 'split') found.refused.push(word);
    else if (offer.agreement.limitPolicy === 'warn') found.warned.push(word);
    return found;
  }

  effects(changes: readonly PairChange[], leftOut: readonly number[]): PairEffects {
    const moved = (end: 'sales' | 'supply') => {
      const lines = new Map(this.pairs.map((pair) => [pair[end].id, { ...pair[end], day: dayOf(pair, end) }]));
      return [...lines.values()]
        .map((was) => ({ was, is: this.line(end, was.id) }))
        .filter(({ was, is }) => !is.quantity.eq(was.quantity) || is.day !== was.day || !is.tied.eq(was.tied));
    };
    const lineOf = ({ was, is }: ReturnType<typeof moved>[number]) => ({
      id: was.id,
      quantity: is.quantity.toFixed(),
      amount: is.amount.toFixed(),
      tiedBy: is.tied.minus(was.tied).toFixed(),
    });
    return {
      ties: this.pairs
        .map((pair) => ({ id: pair.tieId, by: this.tie(pair.tieId).minus(pair.quantity) }))
        .filter(({ by }) => !by.eq(0))
        .map(({ id, by }) => ({ id, by: by.toFixed() })),
      sales: moved('sales').map((each) => ({ ...lineOf(each), shipDate: each.is.day })),
      supply: moved('supply').map((each) => ({ ...lineOf(each), dueDate: each.is.day })),
      orders: [...this.now.orders].map(([id, order]) => ({ id, ...order })),
      purchases: [...this.now.purchases].map(([id, purchase]) => ({ id, ...purchase })),
      released: [...this.now.counted]
        .filter(([, { quantity, value }]) => !quantity.eq(0) || !value.eq(0))
        .map(([agreementLineId, { quantity, value }]) => ({
          agreementLineId,
          quantity: quantity.toFixed(),
          value: value.toFixed(),
        })),
      shown: changes.filter((change) => !leftOut.includes(change.tieId)).flatMap((change) => this.shown(change.tieId)),
      leftOut: [...leftOut],
    };
  }

  private shown(tieId: number): PairShown[] {
    const pair = this.pairs.find((each) => each.tieId === tieId);
    if (!pair) return [];
    const sales = this.line('sales', pair.sales.id);
    const supply = this.line('supply', pair.supply.id);
    const quantity = this.tie(tieId);
    const order = this.now.orders.get(pair.order.id) ?? pair.order;
    const purchase = this.now.purchases.get(pair.purchase.id) ?? pair.purchase;
    const differs = differencesOf({
      route: pair.sales.route,
      tied: quantity.toFixed(),
      salesQuantity: sales.quantity.minus(sales.tied).plus(quantity).toFixed(),
      supplyQuantity: supply.quantity.toFixed(),
      shipDate: sales.day,
      supplyDate: supply.day,
      sameAddress: order.shipToId === purchase.shipToId,
    });
    return [
      {
        tieId,
        quantity: quantity.toFixed(),
        supplyQuantity: supply.quantity.toFixed(),
        salesAmount: sales.amount.toFixed(),
        supplyAmount: supply.amount.toFixed(),
        shipDate: sales.day,
        dueDate: supply.day,
        differs: differs.join(', '),
      },
    ];
  }
}

const dayOf = (pair: Pair, end: 'sales' | 'supply') => (end === 'sales' ? pair.sales.shipDate : pair.supply.dueDate);
