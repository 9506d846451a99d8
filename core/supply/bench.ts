import { leftOn, portionsUnder, rankOffers, type Offer as AgreementOffer, type Portion } from '@core/agreements';
import { addDays, dec, lineAmount, ZERO, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { ROUTE_NAMES, type Route } from '@core/catalogue';
import type { OrderState } from '@core/orders';

/** A vendor who sells an item to us. */
export interface Offer {
  vendorId: number;
  vendor: string;
  /** Vendor's price in our currency for one base unit. */
  unitPrice: string;
  leadDays: number;
  preferred: boolean;
}

export type ProposalReason = 'preferred' | 'cheapest' | 'fastest' | 'only';

export interface Proposal {
  offer: Offer;
  reason: ProposalReason;
}

/**
 * The vendor to buy from: the item's preferred one, else the cheapest, else (equal prices) the fastest. // L8
 * Null where nobody sells the item. Ties end at the vendor's name, so the answer does not depend on row order.
 */
export function proposeVendor(offers: readonly Offer[]): Proposal | null {
  if (offers.length === 0) return null;
  if (offers.length === 1) return { offer: offers[0]!, reason: 'only' };
  const preferred = offers.filter((offer) => offer.preferred).sort(byName)[0];
  if (preferred) return { offer: preferred, reason: 'preferred' };
  const ranked = [...offers].sort(
    (a, b) => dec(a.unitPrice).cmp(dec(b.unitPrice)) || a.leadDays - b.leadDays || byName(a, b),
  );
  const equalPrices = dec(ranked[0]!.unitPrice).eq(dec(ranked[1]!.unitPrice));
  return { offer: ranked[0]!, reason: equalPrices ? 'fastest' : 'cheapest' };
}

function byName(a: Offer, b: Offer): number {
  return a.vendor.localeCompare(b.vendor) || a.vendorId - b.vendorId;
}

/** The day supply can be there: the ship date, or work date + lead days where that is later. */
export function supplyDue(shipDate: Day, leadDays: number, workDate: Day): Day {
  const earliest = addDays(workDate, leadDays);
  return earliest > shipDate ? earliest : shipDate;
}

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

export interface PurchasePlan {
  vendorId: number;
  shipToId: number;
  currency: string;
  lines: {
    orderLineId: number;
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
  }[];
}

/**
 * Places chosen bench lines: one purchase order per vendor, currency and ship-to, each line tied whole. // L1 L2 L8
 * Each is priced by the buying agreement chosen for it, else the first that fits, else the vendor's price. // A13
 * Orders come in the order of their first line.
 */
export function decidePlacement(
  lines: readonly BenchLine[],
  choices: readonly PlacementChoice[],
  workDate: Day,
  buying: readonly BuyingOffer[] = [],
): Decision<{ purchases: PurchasePlan[]; released: CounterGrowth[] }> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  const taken = new Taken();
  const plans = new Map<string, PurchasePlan>();
  if (choices.length === 0) {
    refusals.push(refuse('nothing-asked', 'lines', { what: 'a vendor' }));
  }
  const seen = new Set<number>();
  choices.forEach((choice, index) => {
    const line = lines.find((each) => each.id === choice.orderLineId);
    if (!line) {
      refusals.push(refuse('unknown', `lines.${index}.orderLineId`, { what: 'This order line' }));
      return;
    }
    const refusal = choiceRefusal(line, choice.vendorId, `lines.${index}`, seen);
    seen.add(line.id);
    if (refusal) {
      refusals.push(refusal);
      return;
    }
    const priced = priceOf(line, choice, buying, taken, workDate, `lines.${index}.agreementLineId`);
    refusals.push(...priced.refused);
    warnings.push(...priced.warned);
    for (const portion of priced.portions) addToPlan(plans, line, choice.vendorId, portion, workDate);
  });
  return decided(refusals, () => ({ purchases: [...plans.values()], released: taken.grown() }), warnings);
}

/** A bench line to place; `agreementLineId` null for no agreement, left out for the first that fits. */
export interface PlacementChoice {
  orderLineId: number;
  vendorId: number;
  agreementLineId?: number | null | undefined;
}

export interface CounterGrowth {
  agreementLineId: number;
  quantity: string;
  value: string;
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
  line: BenchLine,
  choice: PlacementChoice,
  buying: readonly BuyingOffer[],
  taken: Taken,
  day: Day,
  field: string,
): { portions: PricedPortion[]; refused: Refusal[]; warned: Refusal[] } {
  const { unitPrice } = line.offers.find((each) => each.vendorId === choice.vendorId)!;
  const quantity = dec(line.uncovered);
  const { currency } = line.order;
  const wanted = { itemId: line.item.id, groupId: line.item.groupId, quantity, listPrice: unitPrice, day, currency };
  const ranked = rankOffers(
    buying.filter((offer) => offer.vendorId === choice.vendorId),
    wanted,
  );
  const chosen = choice.agreementLineId ? ranked.find((offer) => offer.line.id === choice.agreementLineId) : ranked[0];
  if (choice.agreementLineId && !chosen) {
    return { portions: [], refused: [refuse('agreement-not-covering', field, { item: line.item.number })], warned: [] };
  }
  if (!chosen || choice.agreementLineId === null) {
    const amount = lineAmount(quantity, dec(unitPrice), currency);
    const portion = { quantity, unitPrice: dec(unitPrice), amount, agreed: null, agreementLineId: null };
    return { portions: [portion], refused: [], warned: [] };
  }
  const found = portionsUnder(chosen, { ...line.item, listPrice: unitPrice }, quantity, taken.room(chosen), field);
  for (const portion of found.portions) taken.take(chosen, portion);
  return {
    ...found,
    portions: found.portions.map((portion) => ({
      ...portion,
      agreementLineId: portion.agreed === null ? null : chosen.line.id,
    })),
  };
}

function choiceRefusal(line: BenchLine, vendorId: number, field: string, seen: ReadonlySet<number>): Refusal | null {
  const facts = { order: line.order.number, line: String(line.lineNo) };
  if (line.order.state !== 'confirmed') {
    return refuse('order-not-confirmed', field, {
      order: line.order.number,
      state: line.order.state,
    });
  }
  if (line.route !== 'drop') {
    return refuse('line-not-drop', field, { ...facts, route: ROUTE_NAMES[line.route] });
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
  return null;
}

function addToPlan(
  plans: Map<string, PurchasePlan>,
  line: BenchLine,
  vendorId: number,
  portion: PricedPortion,
  workDate: Day,
): void {
  const offer = line.offers.find((each) => each.vendorId === vendorId)!;
  const key = `${vendorId}|${line.order.currency}|${line.shipToId}`;
  const plan = plans.get(key) ?? {
    vendorId,
    shipToId: line.shipToId,
    currency: line.order.currency,
    lines: [],
  };
  plan.lines.push({
    orderLineId: line.id,
    itemId: line.item.id,
    quantity: portion.quantity.toFixed(),
    unitPrice: portion.unitPrice.toFixed(),
    amount: portion.amount.toFixed(),
    agreementLineId: portion.agreementLineId,
    agreedAmount: portion.agreed === null || portion.agreed.eq(portion.amount) ? null : portion.agreed.toFixed(),
    taxCodeId: line.item.taxCodeId,
    taxRate: line.item.taxRate,
    dueDate: supplyDue(line.shipDate, offer.leadDays, workDate),
  });
  plans.set(key, plan);
}
