import { agreedPrice, agreementsByLine, overWholes, type Offer as AgreementOffer } from '@core/agreements';
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
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { vendorQuantity } from './bench';
import { type Pair, type PairChange, type PairEffects, type LineState, PairState, type Found } from './pair-state';

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
  const whole = overWholes(agreementsByLine(offers), state.effects(changes, leftOut).released, 'pairs');
  if (whole.refused.length > 0) return decided([...refusals, ...whole.refused], () => state.effects(changes, []));
  warnings.push(...whole.warned);
  if (!goodOnly || leftOut.length === changes.length)
    return decided(refusals, () => state.effects(changes, []), warnings);
  return decided([], () => state.effects(changes, leftOut), [...refusals, ...warnings]);
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
export function salesQuantity({ quantity, tied }: LineState, by: Dec): Dec {
  if (by.gt(0)) return most(quantity, tied.plus(by));
  const over = most(ZERO, tied.minus(quantity));
  return quantity.plus(least(ZERO, by.plus(over)));
}

/** A raised tie takes what is bought for nobody first; a lowered one is bought less, never below what came. */
export function supplyQuantity({ quantity, tied }: LineState, by: Dec, { received }: { received: string }): Dec {
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
