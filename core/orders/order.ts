import {
  agreedPrice,
  agreementsByLine,
  overWholes,
  rankOffers,
  splitAtLimit,
  splitWordOf,
  type Offer,
  type Portion,
} from '@core/agreements';
import {
  AMOUNT_BOUND,
  dec,
  isDecimalText,
  lineAmount,
  MAIN_LOCATION,
  most,
  sum,
  ZERO,
  type Day,
  type Dec,
} from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { agreedSteps, buildUp, type BasePrice, type BuildUpStep, type PriceExtras } from '@core/pricing';
import { PromotionBudgets } from '@core/promotions';
import type { OrderEffects, OrderGround, OrderLineNow, OrderTyped, TypedLine } from './ground';
import { freeLines } from './free-lines';
import { chosenFor, lineRefusals } from './line-refusals';
import { priceWithout } from './price-without';
import { giveBackPromotion, promote, promotedBy } from './promoted';
import { ReleasedChange } from './released-change';
import { extrasOf } from './reprice';

/**
 * Decides the lines of a new or changed order. Each line is priced by the agreement chosen for it, else the first that fits,
 * else the list; a line keeps its agreed price while its item and agreement stay. // S1 A4 A5 A13 A14
 */
export function decideOrder(
  ground: OrderGround,
  typed: OrderTyped,
  workDate: Day,
  /** What the order is while its lines are typed: a draft, or confirmed and being changed. // S8 */
  as: 'draft' | 'confirmed' = 'draft',
): Decision<OrderEffects> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  const { current } = ground;
  if (current && current.state !== as) {
    const code = as === 'draft' ? 'order-not-draft' : 'order-not-confirmed';
    refusals.push(refuse(code, '', { order: current.number, state: current.state }));
  }
  if (!ground.customer) {
    refusals.push(refuse('required', 'customerId', { what: 'The customer' }));
  } else if (!current && ground.customer.outOfUse) {
    refusals.push(refuse('party-out-of-use', 'customerId', { party: ground.customer.name }));
  }
  if (typed.shipToId !== null && !ground.shipToIds.includes(typed.shipToId)) {
    refusals.push(refuse('unknown', 'shipToId', { what: 'This ship-to address' }));
  }
  const isFree = (line: TypedLine) => current?.lines.some(({ id, promotion }) => id === line.id && promotion?.free);
  if (typed.lines.every(isFree)) {
    refusals.push(refuse('no-lines', 'lines', { document: current?.number ?? 'The order' }));
  }
  const change = new ReleasedChange(ground.offers);
  const budgets = new PromotionBudgets();
  const removed = (current?.lines ?? []).filter(
    (now) => !now.promotion?.free && !typed.lines.some((line) => line.id === now.id),
  );
  const lines: OrderEffects['lines'] = [];
  typed.lines.forEach((line, index) => {
    // What is free is said by what was bought.
    if (isFree(line)) return;
    const found = lineRefusals(ground, line, index, workDate);
    refusals.push(...found);
    if (found.length > 0) return;
    const now = current?.lines.find((each) => each.id === line.id) ?? null;
    const asked = askedOf(ground, line, typed, now);
    const offer = offerFor(ground, line, asked, now, index, workDate);
    if ('code' in offer) refusals.push(offer);
    else {
      const effects = effectsOf(
        ground,
        { line, asked, now, offer: offer.offer, index, shipToId: typed.shipToId },
        change,
        budgets,
        warnings,
      );
      if (effects.some(({ amount }) => dec(amount).gte(AMOUNT_BOUND))) {
        refusals.push(refuse('amount-too-large', `lines.${index}.quantity`, {}));
      }
      lines.push(...effects);
    }
  });
  for (const now of removed) {
    change.giveBack(now, 'lines');
    giveBackPromotion(budgets, now);
  }
  const free = freeLines(ground, lines, { change, budgets }, as);
  lines.push(...free.lines);
  refusals.push(...free.refusals);
  warnings.push(...free.warnings);
  const over = change.overLimits(ground.items);
  const whole = overWholes(agreementsByLine(ground.offers), change.grown(), 'lines');
  refusals.push(...over.refused, ...whole.refused);
  warnings.push(...over.warned, ...whole.warned);
  return decided(
    refusals,
    () => ({
      shipToId: typed.shipToId,
      customerReference: typed.customerReference.trim(),
      lines,
      removedLineIds: [...removed.map((line) => line.id), ...free.removedLineIds],
      released: change.grown(),
    }),
    warnings,
  );
}

const currencyOf = (ground: OrderGround) => ground.customer?.currency ?? 'MYR';

/** What a typed line asks for, in the item's own unit, with what it would cost without an agreement. */
interface Asked {
  quantity: Dec;
  unit: string;
  factor: string;
  without: BasePrice;
  /** Of `without`, for one of the item's own unit, to 4 places. */
  listPrice: string;
  /** What its price is of. */
  day: Day;
  extras: PriceExtras;
  optionIds: readonly number[];
  /** Of its item on all lines that may come under an agreement: what price breaks count. // A3 */
  ofItem: Dec;
  typed: boolean;
}

function askedOf(ground: OrderGround, line: TypedLine, typed: OrderTyped, now: OrderLineNow | null): Asked {
  const item = ground.items.get(line.itemId!)!;
  const unit = line.unit ?? item.unit;
  const factor = item.pricing.units.get(unit) ?? '1';
  const quantity = dec(line.quantity).times(factor);
  const { byShipDate, orderDate, search, freight } = ground.pricing;
  const day = byShipDate ? line.shipDate! : orderDate;
  const found = { unit, ownUnit: item.unit, quantity, day, currency: currencyOf(ground) };
  const { base, listPrice } = priceWithout(item, found, search);
  const discount = line.discount || '0';
  const optionIds = chosenFor(line, now);
  const extras = extrasOf(item.pricing, freight, typed.shipToId, { discount, optionIds });
  return {
    quantity,
    unit,
    factor,
    without: base,
    listPrice,
    day,
    extras,
    optionIds,
    ofItem: ofItem(ground, typed, line),
    typed: Boolean(line.price) || !dec(discount).eq(0) || !dec(extras.options.price).eq(0),
  };
}

/** What of a line's item is asked on all lines that may come under an agreement, as those of a release. // A3 */
function ofItem(ground: OrderGround, typed: OrderTyped, { itemId }: TypedLine): Dec {
  const units = ground.items.get(itemId!)!.pricing.units;
  const free = ground.current?.lines.filter(({ promotion }) => promotion?.free).map(({ id }) => id) ?? [];
  const bought = typed.lines.filter(
    (line) =>
      line.itemId === itemId &&
      line.agreementLineId !== null &&
      isDecimalText(line.quantity, 'quantity') &&
      !(line.id !== null && free.includes(line.id)),
  );
  return sum(bought.map((line) => dec(line.quantity).times(units.get(line.unit ?? '') ?? '1')));
}

/** The offer that prices a line: the one it has, the one chosen, the first that fits, or none. // A13 A14 */
function offerFor(
  ground: OrderGround,
  line: TypedLine,
  asked: Asked,
  now: OrderLineNow | null,
  index: number,
  workDate: Day,
): { offer: Offer | null } | Refusal {
  const found = offerOf(ground, line, asked, now, index, workDate);
  const item = ground.items.get(line.itemId!)!;
  return 'offer' in found && found.offer && asked.typed
    ? refuse('price-is-agreed', `lines.${index}.price`, { item: item.number, agreement: found.offer.agreement.number })
    : found;
}

function offerOf(
  ground: OrderGround,
  line: TypedLine,
  asked: Asked,
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
    quantity: asked.ofItem,
    listPrice: asked.listPrice,
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
  asked: Asked;
  now: OrderLineNow | null;
  offer: Offer | null;
  index: number;
  shipToId: number | null;
}

/** The order lines of one typed line: two where it is split at a limit in quantity. // A5 */
function effectsOf(
  ground: OrderGround,
  { line, asked, now, offer, index, shipToId }: Priced,
  change: ReleasedChange,
  budgets: PromotionBudgets,
  warnings: Refusal[],
): OrderEffects['lines'] {
  const item = ground.items.get(line.itemId!)!;
  const currency = currencyOf(ground);
  const field = `lines.${index}.quantity`;
  const { quantity } = asked;
  const kept = now !== null && now.itemId === line.itemId && now.agreementLineId === (offer?.line.id ?? null);
  const room = offer ? change.room(offer, kept ? now : null) : ZERO;
  if (now) change.giveBack(now, field);
  const listPrice = kept && offer ? now.listPrice : asked.listPrice;
  const lineOf = (
    portion: Portion,
    id: number | null,
    steps: readonly BuildUpStep[],
  ): OrderEffects['lines'][number] => ({
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
    locationId: line.route === 'drop' ? MAIN_LOCATION : (line.locationId ?? MAIN_LOCATION),
    shipDate: line.shipDate!,
    sold: {
      unit: asked.unit,
      factor: asked.factor,
      price: line.price || null,
      reason: line.reason?.trim() ?? '',
      discount: asked.extras.discount,
      steps,
    },
    optionIds: asked.optionIds,
    promotion: null,
    typedAt: index,
  });
  if (now && kept && untouched(ground, { now, line, asked }, shipToId)) {
    const { unitPrice, amount, agreementLineId, agreedAmount, sold } = now;
    const portion = { quantity, unitPrice: dec(unitPrice), amount: dec(amount), agreed: null };
    const same = {
      ...lineOf(portion, now.id, sold.steps),
      listPrice: now.listPrice,
      agreementLineId,
      agreedAmount,
      promotion: now.promotion ?? null,
    };
    change.take(same, field);
    return [same];
  }
  if (now) giveBackPromotion(budgets, now);
  if (!offer) {
    const typed = line.price ? { price: line.price, factor: asked.factor, who: ground.pricing.who } : null;
    // A price or discount that is typed is instead of what a promotion gives.
    const byHand = typed !== null || !dec(asked.extras.discount).eq(0);
    const promoted = byHand
      ? null
      : promote(ground, { ...asked, itemId: line.itemId!, groupId: item.groupId }, budgets, { field, warnings });
    const promotion = promoted && { source: promotedBy(promoted.offer), off: promoted.off.toFixed() };
    const built = buildUp(asked.without, quantity, { ...asked.extras, promotion }, typed, currency);
    const portion = { quantity, unitPrice: built.unitPrice, amount: built.amount, agreed: null };
    return [{ ...lineOf(portion, now?.id ?? null, built.steps), promotion: promoted && promoted.held }];
  }
  const price = agreedFor(offer, kept ? now : null, asked);
  const amount = lineAmount(quantity, price, currency);
  const splits = offer.agreement.limitPolicy === 'split';
  const portions = splits
    ? splitAtLimit(
        {
          quantity,
          price,
          listPrice: dec(asked.listPrice),
          without: (rest) => builtWithout(ground, asked, rest),
        },
        room,
        offer.agreement,
      )
    : [{ quantity, unitPrice: price, amount, agreed: amount }];
  const lines = portions.map((portion, at) =>
    lineOf(
      portion,
      at === 0 ? (now?.id ?? null) : null,
      portion.agreed === null
        ? builtWithout(ground, asked, portion.quantity).steps
        : agreedSteps(portion.agreed, portion.amount, offer.agreement.number, asked.without),
    ),
  );
  for (const each of lines) change.take(each, field);
  const whole = lines.length === 1 && lines[0]!.agreementLineId !== null && lines[0]!.agreedAmount === null;
  if (splits && !whole) {
    const wanted = offer.agreement.basis === 'quantity' ? quantity : amount;
    warnings.push(splitWordOf(offer.agreement, item, { asked: wanted, left: most(ZERO, room), price }, field));
  }
  return lines;
}

/** So many of a line at the price all of it would have without any agreement, with what is put on them. // A5 R1 R2 */
const builtWithout = (ground: OrderGround, asked: Asked, quantity: Dec) =>
  buildUp(asked.without, quantity, asked.extras, null, currencyOf(ground));

/** Whether the same is chosen. */
const sameOptions = (one: readonly number[], other: readonly number[]) =>
  one.length === other.length && one.every((id) => other.includes(id));

/** Whether nothing that makes a line's price was changed. // R2 R3 */
function untouched(
  { current, pricing }: OrderGround,
  { now, line, asked }: { now: OrderLineNow; line: TypedLine; asked: Asked },
  shipToId: number | null,
): boolean {
  const { sold } = now;
  if (!asked.quantity.eq(now.quantity) || asked.unit !== sold.unit) return false;
  if (!sameOptions(asked.optionIds, now.optionIds)) return false;
  if (now.agreementLineId !== null) return true;
  const sameDay = !pricing.byShipDate || line.shipDate === now.shipDate;
  const sameWay = pricing.freight.size === 0 || shipToId === current?.shipToId;
  const samePrice = (line.price || null) === sold.price && dec(asked.extras.discount).eq(sold.discount);
  return samePrice && sameDay && sameWay;
}

/** An agreement's unit price: kept while item and agreement stay, else as it says for the quantity. // A3 */
function agreedFor(offer: Offer, kept: OrderLineNow | null, asked: Asked): Dec {
  if (kept && kept.agreedAmount === null) return dec(kept.unitPrice);
  return agreedPrice(offer.line, asked.ofItem, asked.listPrice);
}
