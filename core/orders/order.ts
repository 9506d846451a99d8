import {
  agreedPrice,
  leftOn,
  overLimitOf,
  rankOffers,
  splitAtLimit,
  splitWordOf,
  type Offer,
  type Portion,
} from '@core/agreements';
import { AMOUNT_BOUND, dec, isDecimalText, isDay, lineAmount, most, ZERO, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { routeFits, routeIsBought, ROUTE_NAMES, type Route } from '@core/catalogue';

export const ORDER_STATES = ['draft', 'confirmed', 'closed', 'cancelled'] as const;
export type OrderState = (typeof ORDER_STATES)[number];

export interface OrderItem {
  number: string;
  unit: string;
  groupId: number | null;
  listPrice: string;
  taxCodeId: number;
  taxRate: string;
  stocked: boolean;
  hasVendor: boolean;
}

export interface OrderLineNow {
  id: number;
  lineNo: number;
  itemId: number;
  quantity: string;
  unitPrice: string;
  listPrice: string;
  amount: string;
  agreementLineId: number | null;
  /** What of the amount counts against the agreement where that is not the whole. */
  agreedAmount: string | null;
}

/** What a draft order's change is checked against. */
export interface OrderGround {
  /** Null for a new order. */
  current: { number: string; state: OrderState; lines: readonly OrderLineNow[] } | null;
  customer: { id: number; name: string; currency: string; contractedOnly: boolean } | null;
  shipToIds: readonly number[];
  items: ReadonlyMap<number, OrderItem>;
  /** Agreement lines the order's lines hold, whatever has become of them, and those that could price its lines. // A13 */
  offers: readonly Offer[];
}

/** The order as typed. A line with an id is one the order has; the others are new. */
export interface OrderTyped {
  shipToId: number | null;
  customerReference: string;
  lines: {
    id: number | null;
    itemId: number | null;
    quantity: string;
    shipDate: Day | null;
    route: Route;
    /** The agreement line that prices it; null for none; left out for the one it has, or the first that fits. // A13 */
    agreementLineId?: number | null | undefined;
  }[];
}

export interface OrderEffects {
  shipToId: number | null;
  customerReference: string;
  lines: {
    id: number | null;
    itemId: number;
    agreementLineId: number | null;
    quantity: string;
    unitPrice: string;
    listPrice: string;
    amount: string;
    agreedAmount: string | null;
    taxCodeId: number;
    taxRate: string;
    route: Route;
    shipDate: Day;
  }[];
  removedLineIds: number[];
  /** What the agreement lines' released counters change by; negative gives back. // A4 S6 */
  released: { agreementLineId: number; quantity: string; value: string }[];
}

/**
 * Decides a new or changed draft order. Each line is priced by the agreement chosen for it, else the first that fits,
 * else the list; a line keeps its agreed price while its item and agreement stay. // S1 A4 A5 A13 A14
 */
export function decideOrder(ground: OrderGround, typed: OrderTyped, workDate: Day): Decision<OrderEffects> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  const { current } = ground;
  if (current && current.state !== 'draft') {
    refusals.push(refuse('order-not-draft', '', { order: current.number, state: current.state }));
  }
  if (!ground.customer) {
    refusals.push(refuse('required', 'customerId', { what: 'The customer' }));
  }
  if (typed.shipToId !== null && !ground.shipToIds.includes(typed.shipToId)) {
    refusals.push(refuse('unknown', 'shipToId', { what: 'This ship-to address' }));
  }
  if (typed.lines.length === 0) {
    refusals.push(refuse('no-lines', 'lines', { document: current?.number ?? 'The order' }));
  }
  const change = new ReleasedChange(ground.offers);
  const removed = (current?.lines ?? []).filter((now) => !typed.lines.some((line) => line.id === now.id));
  const lines: OrderEffects['lines'] = [];
  typed.lines.forEach((line, index) => {
    const found = lineRefusals(ground, line, index, workDate);
    refusals.push(...found);
    if (found.length > 0) return;
    const now = current?.lines.find((each) => each.id === line.id) ?? null;
    const offer = offerFor(ground, line, now, index, workDate);
    if ('code' in offer) refusals.push(offer);
    else {
      const effects = effectsOf(ground, { line, now, offer: offer.offer, index }, change, warnings);
      if (effects.some(({ amount }) => dec(amount).gte(AMOUNT_BOUND))) {
        refusals.push(refuse('amount-too-large', `lines.${index}.quantity`, {}));
      }
      lines.push(...effects);
    }
  });
  for (const now of removed) change.giveBack(now, 'lines');
  const over = change.overLimits(ground.items);
  refusals.push(...over.refused);
  warnings.push(...over.warned);
  return decided(
    refusals,
    () => ({
      shipToId: typed.shipToId,
      customerReference: typed.customerReference.trim(),
      lines,
      removedLineIds: removed.map((line) => line.id),
      released: change.grown(),
    }),
    warnings,
  );
}

type TypedLine = OrderTyped['lines'][number];

const currencyOf = (ground: OrderGround) => ground.customer?.currency ?? 'MYR';

/** The offer that prices a line: the one it has, the one chosen, the first that fits, or none. // A13 A14 */
function offerFor(
  ground: OrderGround,
  line: TypedLine,
  now: OrderLineNow | null,
  index: number,
  workDate: Day,
): { offer: Offer | null } | Refusal {
  const same = now !== null && now.itemId === line.itemId;
  if (same && (line.agreementLineId === undefined || line.agreementLineId === now.agreementLineId)) {
    return { offer: ground.offers.find((offer) => offer.line.id === now.agreementLineId) ?? null };
  }
  const item = ground.items.get(line.itemId!)!;
  const wanted = {
    itemId: line.itemId!,
    groupId: item.groupId,
    quantity: dec(line.quantity),
    listPrice: item.listPrice,
    day: workDate,
    currency: currencyOf(ground),
  };
  const ranked = rankOffers(ground.offers, wanted);
  const field = `lines.${index}.agreementLineId`;
  if (line.agreementLineId) {
    const chosen = ranked.find((offer) => offer.line.id === line.agreementLineId);
    return chosen ? { offer: chosen } : refuse('agreement-not-covering', field, { item: item.number });
  }
  const offer = line.agreementLineId === null ? null : (ranked[0] ?? null);
  if (!offer && ground.customer?.contractedOnly) {
    return refuse('only-contracted', field, { customer: ground.customer.name, item: item.number });
  }
  return { offer };
}

interface Priced {
  line: TypedLine;
  now: OrderLineNow | null;
  offer: Offer | null;
  index: number;
}

/** The order lines of one typed line: two where it is split at a limit in quantity. // A5 */
function effectsOf(
  ground: OrderGround,
  { line, now, offer, index }: Priced,
  change: ReleasedChange,
  warnings: Refusal[],
): OrderEffects['lines'] {
  const item = ground.items.get(line.itemId!)!;
  const field = `lines.${index}.quantity`;
  const quantity = dec(line.quantity);
  const kept = now !== null && now.itemId === line.itemId && now.agreementLineId === (offer?.line.id ?? null);
  const room = offer ? change.room(offer, kept ? now : null) : ZERO;
  if (now) change.giveBack(now, field);
  const listPrice = kept ? now.listPrice : item.listPrice;
  const untouched = kept && quantity.eq(now.quantity);
  const lineOf = (portion: Portion, id: number | null): OrderEffects['lines'][number] => ({
    id,
    itemId: line.itemId!,
    agreementLineId: portion.agreed === null ? null : (offer?.line.id ?? null),
    quantity: portion.quantity.toFixed(),
    unitPrice: portion.unitPrice.toFixed(),
    listPrice,
    amount: portion.amount.toFixed(),
    agreedAmount: portion.agreed === null || portion.agreed.eq(portion.amount) ? null : portion.agreed.toFixed(),
    taxCodeId: item.taxCodeId,
    taxRate: item.taxRate,
    route: line.route,
    shipDate: line.shipDate!,
  });
  if (untouched) {
    const { unitPrice, amount, agreementLineId, agreedAmount } = now;
    const same = {
      ...lineOf({ quantity, unitPrice: dec(unitPrice), amount: dec(amount), agreed: null }, now.id),
      agreementLineId,
      agreedAmount,
    };
    change.take(same, field);
    return [same];
  }
  const price = priceOf(offer, kept ? now : null, item, quantity);
  const amount = lineAmount(quantity, price, currencyOf(ground));
  const splits = offer?.agreement.limitPolicy === 'split';
  const portions =
    offer && splits
      ? splitAtLimit({ quantity, price, listPrice: dec(item.listPrice) }, room, offer.agreement)
      : [{ quantity, unitPrice: price, amount, agreed: offer ? amount : null }];
  const lines = portions.map((portion, at) => lineOf(portion, at === 0 ? (now?.id ?? null) : null));
  for (const each of lines) change.take(each, field);
  const whole = lines.length === 1 && lines[0]!.agreementLineId !== null && lines[0]!.agreedAmount === null;
  if (offer && splits && !whole) {
    const asked = offer.agreement.basis === 'quantity' ? quantity : amount;
    warnings.push(splitWordOf(offer.agreement, item, { asked, left: most(ZERO, room), price }, field));
  }
  return lines;
}

/** The unit price: kept while item and agreement stay, else as the agreement says for the quantity, else the list's. // A3 */
function priceOf(offer: Offer | null, kept: OrderLineNow | null, item: OrderItem, quantity: Dec): Dec {
  if (kept && kept.agreedAmount === null) return dec(kept.unitPrice);
  return offer ? agreedPrice(offer.line, quantity, item.listPrice) : dec(item.listPrice);
}

function lineRefusals(ground: OrderGround, line: TypedLine, index: number, workDate: Day): Refusal[] {
  const at = (field: string) => `lines.${index}.${field}`;
  const refusals: Refusal[] = [];
  const item = line.itemId === null ? undefined : ground.items.get(line.itemId);
  if (line.itemId === null) refusals.push(refuse('required', at('itemId'), { what: 'The item' }));
  else if (!item) refusals.push(refuse('unknown', at('itemId'), { what: 'This item' }));
  if (line.id !== null && !ground.current?.lines.some((now) => now.id === line.id)) {
    refusals.push(refuse('unknown', at('id'), { what: 'This line' }));
  }
  if (line.quantity.trim() === '') {
    refusals.push(refuse('required', at('quantity'), { what: 'The quantity' }));
  } else if (!isDecimalText(line.quantity, 'quantity')) {
    refusals.push(refuse('not-a-number', at('quantity'), { what: 'The quantity' }));
  } else if (dec(line.quantity).lte(0)) {
    refusals.push(refuse('not-above-zero', at('quantity'), { what: 'The quantity' }));
  }
  if (line.shipDate === null) {
    refusals.push(refuse('required', at('shipDate'), { what: 'The ship date' }));
  } else if (!isDay(line.shipDate)) {
    refusals.push(refuse('not-a-day', at('shipDate'), { what: 'The ship date' }));
  } else if (line.shipDate < workDate) {
    refusals.push(refuse('ship-date-past', at('shipDate'), { day: line.shipDate, workDate }));
  }
  if (item && !routeFits(line.route, item)) {
    refusals.push(
      routeIsBought(line.route)
        ? refuse('no-vendor', at('route'), { item: item.number })
        : refuse('route-not-kept', at('route'), {
            item: item.number,
            route: ROUTE_NAMES[line.route],
          }),
    );
  }
  return refusals;
}

type Counted = Pick<OrderLineNow, 'agreementLineId' | 'itemId' | 'quantity' | 'amount' | 'agreedAmount'>;

/** Gathers what the change does to each agreement line's released counters. */
class ReleasedChange {
  private readonly byLine = new Map<number, { quantity: Dec; value: Dec; field: string; item: number }>();
  constructor(private readonly offers: readonly Offer[]) {}

  take(line: Counted, field: string): void {
    this.add(line, 1, field);
  }

  giveBack(line: Counted, field: string): void {
    this.add(line, -1, field);
  }

  private add(line: Counted, sign: 1 | -1, field: string): void {
    if (line.agreementLineId === null) return;
    const sum = this.byLine.get(line.agreementLineId);
    this.byLine.set(line.agreementLineId, {
      quantity: (sum?.quantity ?? ZERO).plus(dec(line.quantity).times(sign)),
      value: (sum?.value ?? ZERO).plus(dec(line.agreedAmount ?? line.amount).times(sign)),
      field,
      item: line.itemId,
    });
  }

  /** What an order line may take of the offer after the changes gathered so far, what it holds already included. */
  room(offer: Offer, held: Counted | null): Dec {
    const byQuantity = offer.agreement.basis === 'quantity';
    const taken = this.byLine.get(offer.line.id);
    const left = leftOn(offer).minus((byQuantity ? taken?.quantity : taken?.value) ?? ZERO);
    const own = held ? dec(byQuantity ? held.quantity : (held.agreedAmount ?? held.amount)) : ZERO;
    return left.plus(own);
  }

  /** What goes beyond a limit that refuses, and beyond one that only warns. // A5 */
  overLimits(items: ReadonlyMap<number, OrderItem>): { refused: Refusal[]; warned: Refusal[] } {
    const found = { refused: [] as Refusal[], warned: [] as Refusal[] };
    for (const [id, change] of this.byLine) {
      const offer = this.offers.find((each) => each.line.id === id);
      if (!offer) continue;
      const asked = offer.agreement.basis === 'quantity' ? change.quantity : change.value;
      const left = leftOn(offer);
      if (asked.lte(0) || asked.lte(left)) continue;
      const item = items.get(change.item) ?? { number: '', unit: '' };
      const word = overLimitOf(offer.agreement, item, asked, left, change.field);
      if (offer.agreement.limitPolicy === 'refuse') found.refused.push(word);
      if (offer.agreement.limitPolicy === 'warn') found.warned.push(word);
    }
    return found;
  }

  grown(): OrderEffects['released'] {
    return [...this.byLine]
      .filter(([, change]) => !change.quantity.eq(0) || !change.value.eq(0))
      .map(([agreementLineId, change]) => ({
        agreementLineId,
        quantity: change.quantity.toFixed(),
        value: change.value.toFixed(),
      }));
  }
}
