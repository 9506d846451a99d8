import { type Offer as AgreementOffer, leftOn, overLimitOf } from '@core/agreements';
import { dec, ZERO, type Day, type Dec } from '@core/kernel';
import { type Refusal } from '@core/refusals';
import type { Route } from '@core/catalogue';
import type { OrderState } from '@core/orders';
import type { PurchaseState } from '@core/stock';
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

export interface LineState {
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
export class PairState {
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
      received: pair.received,
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

export interface Found {
  refused: Refusal[];
  warned: Refusal[];
}
