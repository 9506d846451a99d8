import { leftOn, portionsUnder, rankOffers, type Offer as AgreementOffer, type Portion } from '@core/agreements';
import { ROUTE_NAMES, routeIsBought, type Route } from '@core/catalogue';
import { dec, isDecimalText, least, lineAmount, sum, ZERO, type Day, type Dec } from '@core/kernel';
import type { OrderState } from '@core/orders';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { supplyDue, vendorQuantity, type Offer } from './bench';

/** A sales line on the bench, with what it still needs. */
export interface BenchLine {
  id: number;
  lineNo: number;
  order: { id: number; number: string; state: OrderState; currency: string };
  shipToId: number;
  route: Route;
  /** Open and not tied yet, in base units. */
  uncovered: string;
  shipDate: Day;
  item: { id: number; number: string; unit: string; groupId: number | null; taxCodeId: number; taxRate: string };
  offers: readonly Offer[];
}

/** A buying agreement's line, with the vendor it is with. // A13 */
export interface BuyingOffer extends AgreementOffer {
  vendorId: number;
}

/** A bench line to place; `agreementLineId` null for no agreement, left out for the first that fits. */
export interface PlacementChoice {
  orderLineId: number;
  vendorId: number;
  /** Part of what the line needs; left out for all of it. */
  quantity?: string | undefined;
  agreementLineId?: number | null | undefined;
}

export interface PurchaseLinePlan {
  itemId: number;
  quantity: string;
  unitPrice: string;
  amount: string;
  agreementLineId: number | null;
  /** What of the amount counts against the agreement where that is not the whole. // A5 */
  agreedAmount: string | null;
  taxCodeId: number;
  taxRate: string;
  dueDate: Day;
  /** The order lines it is for. */
  ties: { orderLineId: number; quantity: string }[];
  /** Bought beyond them, as the vendor sells no less: it goes to our stock. // L8 */
  spare: string;
}

export interface PurchasePlan {
  vendorId: number;
  /** The customer's address of a drop shipment; null for our own place. */
  shipToId: number | null;
  currency: string;
  lines: PurchaseLinePlan[];
}

export interface CounterGrowth {
  agreementLineId: number;
  quantity: string;
  value: string;
}

/** One thing to buy: for one drop shipment, or for all special orders of the item that are due on the same day. */
interface Want {
  vendorId: number;
  shipToId: number | null;
  currency: string;
  item: BenchLine['item'];
  offer: Offer;
  dueDate: Day;
  agreementLineId: number | null | undefined;
  /** Where it was asked, for refusals. */
  field: string;
  needs: { orderLineId: number; quantity: Dec }[];
}

/**
 * Places chosen bench lines: one purchase order for each vendor, currency and ship-to, every line tied. // L1 L2 L3 L8
 * Special orders of one item that are due together share a purchase line, rounded up to what the vendor sells.
 * Each is priced by the buying agreement chosen for it, else the first that fits, else the vendor's price. // A13
 * Orders come in the order of their first line. O(lines × offers).
 */
export function decidePlacement(
  lines: readonly BenchLine[],
  choices: readonly PlacementChoice[],
  workDate: Day,
  buying: readonly BuyingOffer[] = [],
): Decision<{ purchases: PurchasePlan[]; released: CounterGrowth[] }> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  if (choices.length === 0) refusals.push(refuse('nothing-asked', 'lines', { what: 'a vendor' }));
  const wants = new Map<string, Want>();
  const seen = new Set<number>();
  choices.forEach((choice, index) => {
    const field = `lines.${index}`;
    const line = lines.find((each) => each.id === choice.orderLineId);
    const refusal = line
      ? choiceRefusal(line, choice, field, seen)
      : refuse('unknown', `${field}.orderLineId`, { what: 'This order line' });
    if (refusal) refusals.push(refusal);
    else addWant(wants, line!, choice, field, workDate);
    seen.add(choice.orderLineId);
  });
  const taken = new Taken();
  const plans = new Map<string, PurchasePlan>();
  for (const want of wants.values()) {
    const need = sum(want.needs.map((each) => each.quantity));
    const sold = vendorQuantity(need, want.offer);
    const bought = want.shipToId === null ? sold : need;
    if (!bought.eq(sold)) {
      const { vendor } = want.offer;
      const facts = { vendor, item: want.item.number, asked: need.toFixed(), sold: sold.toFixed() };
      warnings.push(refuse('not-as-vendor-sells', `${want.field}.vendorId`, facts));
    }
    const priced = priceOf(want, bought, buying, taken, workDate);
    refusals.push(...priced.refused);
    warnings.push(...priced.warned);
    addToPlan(plans, want, priced.portions);
  }
  return decided(refusals, () => ({ purchases: [...plans.values()], released: taken.grown() }), warnings);
}

function addWant(
  wants: Map<string, Want>,
  line: BenchLine,
  { vendorId, quantity, agreementLineId }: PlacementChoice,
  field: string,
  workDate: Day,
): void {
  const offer = line.offers.find((each) => each.vendorId === vendorId)!;
  const dueDate = supplyDue(line.shipDate, offer.leadDays, workDate);
  const { currency } = line.order;
  const shared = line.route === 'special';
  const key = shared ? `${vendorId}|${currency}|${line.item.id}|${dueDate}|${agreementLineId}` : `line ${line.id}`;
  const shipToId = shared ? null : line.shipToId;
  const { item } = line;
  const want = wants.get(key) ?? {
    vendorId,
    shipToId,
    currency,
    item,
    offer,
    dueDate,
    agreementLineId,
    field,
    needs: [],
  };
  want.needs.push({ orderLineId: line.id, quantity: dec(quantity || line.uncovered) });
  wants.set(key, want);
}

/** What this act has taken of each agreement line so far. */
class Taken {
  private readonly byLine = new Map<number, { quantity: Dec; value: Dec }>();

  room(offer: AgreementOffer): Dec {
    const taken = this.byLine.get(offer.line.id);
    return leftOn(offer).minus((offer.agreement.basis === 'quantity' ? taken?.quantity : taken?.value) ?? ZERO);
  }

  take(offer: AgreementOffer, portion: Portion): void {
    if (portion.agreed === null) return;
    const taken = this.byLine.get(offer.line.id) ?? { quantity: ZERO, value: ZERO };
    this.byLine.set(offer.line.id, {
      quantity: taken.quantity.plus(portion.quantity),
      value: taken.value.plus(portion.agreed),
    });
  }

  grown(): CounterGrowth[] {
    return [...this.byLine].map(([agreementLineId, { quantity, value }]) => ({
      agreementLineId,
      quantity: quantity.toFixed(),
      value: value.toFixed(),
    }));
  }
}

interface PricedPortion extends Portion {
  agreementLineId: number | null;
}

function priceOf(
  { vendorId, item, offer, currency, agreementLineId, field: at }: Want,
  quantity: Dec,
  buying: readonly BuyingOffer[],
  taken: Taken,
  day: Day,
): { portions: PricedPortion[]; refused: Refusal[]; warned: Refusal[] } {
  const { unitPrice } = offer;
  const field = `${at}.agreementLineId`;
  const wanted = { itemId: item.id, groupId: item.groupId, quantity, listPrice: unitPrice, day, currency };
  const ranked = rankOffers(
    buying.filter((each) => each.vendorId === vendorId),
    wanted,
  );
  const chosen = agreementLineId ? ranked.find((each) => each.line.id === agreementLineId) : ranked[0];
  if (agreementLineId && !chosen) {
    return { portions: [], refused: [refuse('agreement-not-covering', field, { item: item.number })], warned: [] };
  }
  if (!chosen || agreementLineId === null) {
    const amount = lineAmount(quantity, dec(unitPrice), currency);
    const portion = { quantity, unitPrice: dec(unitPrice), amount, agreed: null, agreementLineId: null };
    return { portions: [portion], refused: [], warned: [] };
  }
  const found = portionsUnder(chosen, { ...item, listPrice: unitPrice }, quantity, taken.room(chosen), field);
  for (const portion of found.portions) taken.take(chosen, portion);
  return {
    ...found,
    portions: found.portions.map((portion) => ({
      ...portion,
      agreementLineId: portion.agreed === null ? null : chosen.line.id,
    })),
  };
}

function choiceRefusal(
  line: BenchLine,
  { vendorId, quantity }: PlacementChoice,
  field: string,
  seen: ReadonlySet<number>,
): Refusal | null {
  const facts = { order: line.order.number, line: String(line.lineNo) };
  if (line.order.state !== 'confirmed') {
    return refuse('order-not-confirmed', field, { order: line.order.number, state: line.order.state });
  }
  if (!routeIsBought(line.route)) {
    return refuse('line-not-bought', field, { ...facts, route: ROUTE_NAMES[line.route] });
  }
  if (dec(line.uncovered).lte(0) || seen.has(line.id)) return refuse('line-covered', field, facts);
  if (line.offers.length === 0) return refuse('no-vendor', field, { item: line.item.number });
  if (!line.offers.some((offer) => offer.vendorId === vendorId)) {
    return refuse('vendor-not-selling', `${field}.vendorId`, {
      vendor: 'This vendor',
      item: line.item.number,
      others: line.offers.map((offer) => offer.vendor).join(' or '),
    });
  }
  return quantity?.trim() ? partRefusal(line, quantity, `${field}.quantity`) : null;
}

/** A part of what a line needs: any for a special order, all of it for a drop shipment, which has one supply. // L1 */
function partRefusal(line: BenchLine, quantity: string, field: string): Refusal | null {
  if (!isDecimalText(quantity, 'quantity')) return refuse('not-a-number', field, { what: 'The quantity' });
  if (dec(quantity).lte(0)) return refuse('not-above-zero', field, { what: 'The quantity' });
  const facts = { document: line.order.number, line: String(line.lineNo), item: line.item.number };
  if (dec(quantity).gt(line.uncovered)) {
    return refuse('above-open', field, { ...facts, asked: quantity, open: line.uncovered });
  }
  return line.route === 'drop' && dec(quantity).lt(line.uncovered)
    ? refuse('drop-in-one', field, { order: line.order.number, line: String(line.lineNo), open: line.uncovered })
    : null;
}

function addToPlan(plans: Map<string, PurchasePlan>, want: Want, portions: readonly PricedPortion[]): void {
  const key = `${want.vendorId}|${want.currency}|${want.shipToId}`;
  const { vendorId, shipToId, currency } = want;
  const plan = plans.get(key) ?? { vendorId, shipToId, currency, lines: [] };
  const needs = want.needs.map((need) => ({ ...need }));
  for (const portion of portions) {
    const ties = tiesFrom(needs, portion.quantity);
    plan.lines.push({
      itemId: want.item.id,
      quantity: portion.quantity.toFixed(),
      unitPrice: portion.unitPrice.toFixed(),
      amount: portion.amount.toFixed(),
      agreementLineId: portion.agreementLineId,
      agreedAmount: portion.agreed === null || portion.agreed.eq(portion.amount) ? null : portion.agreed.toFixed(),
      taxCodeId: want.item.taxCodeId,
      taxRate: want.item.taxRate,
      dueDate: want.dueDate,
      ties,
      spare: portion.quantity.minus(sum(ties.map((tie) => dec(tie.quantity)))).toFixed(),
    });
  }
  plans.set(key, plan);
}

/** Ties of at most that quantity, first need first; what is tied is taken off the needs. */
function tiesFrom(needs: Want['needs'], quantity: Dec): PurchaseLinePlan['ties'] {
  let rest = quantity;
  const ties: PurchaseLinePlan['ties'] = [];
  for (const need of needs) {
    const piece = least(rest, need.quantity);
    if (piece.lte(0)) continue;
    ties.push({ orderLineId: need.orderLineId, quantity: piece.toFixed() });
    need.quantity = need.quantity.minus(piece);
    rest = rest.minus(piece);
  }
  return ties;
}
