import { agreedPrice, agreementsByLine, leftOn, overLimitOf, overWholes } from '@core/agreements';
import {
  amountAt,
  AMOUNT_BOUND,
  dec,
  isDay,
  isDecimalText,
  lineAmount,
  priceText,
  type Day,
  type Dec,
} from '@core/kernel';
import { refuse, type Decision, type Refusal } from '@core/refusals';
import type { FieldChange } from '@core/orders';
import type { PurchaseState } from '@core/stock';
import { vendorQuantity } from './bench';
import { Taken, type CounterGrowth, type PurchaseLinePlan } from './buying';
import { decidePurchase, type PurchaseGround, type PurchaseTyped } from './purchase';

/** A line of a placed purchase order with what has happened to it. */
export interface PlacedLine {
  id: number;
  lineNo: number;
  itemId: number;
  item: string;
  unit: string;
  /** What the vendor asks for it. */
  listPrice: string;
  quantity: string;
  unitPrice: string;
  amount: string;
  agreedAmount: string | null;
  agreementLineId: number | null;
  dueDate: Day;
  received: string;
  invoiced: string;
  /** For order lines, and the numbers of their orders. */
  tied: string;
  orders: string;
  /** What the vendor sells at least, and by. */
  minimum: string;
  multiple: string;
}

export interface ChangePurchaseGround extends PurchaseGround {
  purchase: {
    id: number;
    number: string;
    state: PurchaseState;
    currency: string;
    shipToId: number | null;
    locationId: number;
  };
  lines: readonly PlacedLine[];
  /** The places goods may come to, by id. */
  locations: ReadonlyMap<number, string>;
}

/** Lines as they are to be; those that are not named stay as they are. */
export interface ChangePurchaseTyped {
  reason: string;
  /** Which of our places it comes to; as it is where left out. */
  locationId?: number | undefined;
  lines: readonly {
    /** Null for one that is added. */
    id: number | null;
    itemId: number | null;
    quantity: string;
    /** Blank for the price it has, or (of an added line) that the vendor asks. */
    price: string;
    dueDate: Day | null;
  }[];
}

export interface ChangePurchaseEffects {
  reason: string;
  locationId: number;
  lines: {
    id: number;
    quantity: string;
    unitPrice: string;
    amount: string;
    agreedAmount: string | null;
    agreementLineId: number | null;
    dueDate: Day;
  }[];
  added: PurchaseLinePlan[];
  /** What buying agreements give more, or have back below zero. */
  released: CounterGrowth[];
  fields: FieldChange[];
  state: PurchaseState;
}

/**
 * Changes a placed purchase order as far as it has not happened: quantities, due dates, prices, which of our places it
 * comes to; lines are added. A line keeps its price where its quantity changes, with a word where its agreement would price
 * it otherwise; a price that is typed leaves the agreement. Where a drop shipment goes, both ends say. // S8 A13 L1
 */
export function decideChangePurchase(
  ground: ChangePurchaseGround,
  typed: ChangePurchaseTyped,
  workDate: Day,
): Decision<ChangePurchaseEffects> {
  const { purchase } = ground;
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  if (purchase.state !== 'placed') {
    refusals.push(refuse('purchase-not-open', '', { purchase: purchase.number, state: purchase.state }));
  }
  const locationId = typed.locationId ?? purchase.locationId;
  refusals.push(...locationRefusals(ground, locationId));
  const taken = new Taken();
  const lines: ChangePurchaseEffects['lines'] = [];
  typed.lines.forEach((line, index) => {
    if (line.id === null) return;
    const now = ground.lines.find(({ id }) => id === line.id);
    const field = `lines.${index}`;
    if (!now) return refusals.push(refuse('unknown', `${field}.quantity`, { what: 'This line' }));
    const found = lineRefusals(ground, now, line, field, workDate);
    refusals.push(...found);
    if (found.length > 0) return;
    const changed = changedLine(ground, now, line, taken, field);
    refusals.push(...changed.refused);
    warnings.push(...changed.warned);
    lines.push(changed.line);
  });
  const added = addedLines(ground, typed, locationId, workDate, taken);
  refusals.push(...added.refused);
  warnings.push(...added.warned);
  const released = taken.grown();
  const whole = overWholes(agreementsByLine(ground.buying), released, 'lines');
  refusals.push(...whole.refused);
  warnings.push(...whole.warned);
  const moved = lines.filter((line) =>
    isChanged(
      ground.lines.find(({ id }) => id === line.id)!,
      line,
    ),
  );
  const fields = fieldsOf(ground, moved, added.lines, locationId);
  if (refusals.length === 0 && fields.length === 0) {
    refusals.push(refuse('order-unchanged', '', { document: purchase.number }));
  }
  const effects = {
    reason: typed.reason.trim(),
    locationId,
    lines: moved,
    added: added.lines,
    released,
    fields,
    state: stateAfter(ground, moved, added.lines.length > 0),
  };
  // What it would do is told while it is typed, whatever stands against it still.
  return refusals.length > 0 ? { ok: false, refusals, effects } : { ok: true, effects, warnings };
}

type Typed = ChangePurchaseTyped['lines'][number];

/** Goods come to another of our places only where none are waited for at this one. */
function locationRefusals({ purchase, lines, locations }: ChangePurchaseGround, locationId: number): Refusal[] {
  if (locationId === purchase.locationId) return [];
  if (purchase.shipToId !== null || !locations.has(locationId)) {
    return [refuse('unknown', 'locationId', { what: 'This location' })];
  }
  const bound = lines.find(({ tied, received }) => dec(tied).gt(0) || dec(received).gt(0));
  if (!bound) return [];
  const facts = { purchase: purchase.number, line: String(bound.lineNo), orders: bound.orders };
  return [refuse('purchase-place-stays', 'locationId', facts)];
}

/** What stands against a line being another by now. */
function lineRefusals(
  { purchase }: ChangePurchaseGround,
  now: PlacedLine,
  typed: Typed,
  field: string,
  workDate: Day,
): Refusal[] {
  const refusals: Refusal[] = [];
  const { number } = purchase;
  const line = String(now.lineNo);
  if (!isDecimalText(typed.quantity, 'quantity')) {
    refusals.push(refuse('not-a-number', `${field}.quantity`, { what: 'The quantity' }));
  } else if (dec(typed.quantity).lt(now.received)) {
    const facts = { purchase: number, line, received: now.received, asked: typed.quantity };
    refusals.push(refuse('below-received', `${field}.quantity`, facts));
  } else if (dec(typed.quantity).lt(now.tied)) {
    const facts = { purchase: number, line, tied: now.tied, orders: now.orders };
    refusals.push(refuse('below-orders-tied', `${field}.quantity`, facts));
  } else if (now.agreedAmount !== null && !dec(typed.quantity).eq(now.quantity)) {
    refusals.push(refuse('mixed-price', `${field}.quantity`, { order: number, purchase: `line ${line}` }));
  }
  const price = typed.price.trim();
  if (price !== '') {
    if (!isDecimalText(price, 'price') || dec(price).lt(0)) {
      refusals.push(refuse('not-a-number', `${field}.price`, { what: 'The price' }));
    } else if (!dec(price).eq(now.unitPrice) && dec(now.received).gt(0)) {
      const facts = { purchase: number, line, kept: now.unitPrice, is: price };
      refusals.push(refuse('price-received', `${field}.price`, facts));
    }
  }
  if (typed.dueDate === null) refusals.push(refuse('required', `${field}.dueDate`, { what: 'The day it is due' }));
  else if (!isDay(typed.dueDate)) {
    refusals.push(refuse('not-a-day', `${field}.dueDate`, { what: 'The day it is due' }));
  } else if (typed.dueDate < workDate && typed.dueDate !== now.dueDate) {
    refusals.push(refuse('ship-date-past', `${field}.dueDate`, { day: typed.dueDate, workDate }));
  }
  return refusals;
}

/** A line as it becomes, with what its agreement gives more or has back. */
function changedLine(
  ground: ChangePurchaseGround,
  now: PlacedLine,
  typed: Typed,
  taken: Taken,
  field: string,
): { line: ChangePurchaseEffects['lines'][number]; refused: Refusal[]; warned: Refusal[] } {
  const { currency } = ground.purchase;
  const quantity = dec(typed.quantity);
  const price = typed.price.trim();
  const priced = price !== '' && !dec(price).eq(now.unitPrice);
  const unitPrice = priced ? dec(price) : dec(now.unitPrice);
  const amount = priced ? lineAmount(quantity, unitPrice, currency) : amountAt(now, quantity, currency);
  const found: { refused: Refusal[]; warned: Refusal[] } = { refused: [], warned: [] };
  if (amount.gte(AMOUNT_BOUND)) found.refused.push(refuse('amount-too-large', `${field}.quantity`, {}));
  if (now.agreementLineId !== null) {
    const agreed = dec(now.agreedAmount ?? now.amount);
    if (priced) taken.count(now.agreementLineId, dec(now.quantity).neg(), agreed.neg());
    else {
      // A mixed line keeps its quantity: what counts of it stays.
      const by = quantity.eq(now.quantity) ? null : quantity.minus(now.quantity);
      if (by) grow(ground, now, quantity, by, amount.minus(agreed), taken, field, found);
    }
  }
  const sells = vendorQuantity(quantity, now);
  if (!quantity.eq(now.quantity) && !sells.eq(quantity) && ground.vendor) {
    const facts = { vendor: ground.vendor.name, item: now.item, asked: quantity.toFixed(), sold: sells.toFixed() };
    found.warned.push(refuse('vendor-sells-by', `${field}.quantity`, facts));
  }
  return {
    line: {
      id: now.id,
      quantity: quantity.toFixed(),
      unitPrice: unitPrice.toFixed(),
      amount: amount.toFixed(),
      agreedAmount: priced ? null : now.agreedAmount,
      agreementLineId: priced ? null : now.agreementLineId,
      dueDate: typed.dueDate!,
    },
    ...found,
  };
}

/** Counts a line's growth on its agreement, with what its limit says and a word where it would price it otherwise. // A3 A5 */
function grow(
  { buying }: ChangePurchaseGround,
  now: PlacedLine,
  quantity: Dec,
  by: Dec,
  value: Dec,
  taken: Taken,
  field: string,
  found: { refused: Refusal[]; warned: Refusal[] },
): void {
  const offer = buying.find(({ line }) => line.id === now.agreementLineId);
  taken.count(now.agreementLineId!, by, value);
  if (!offer) return;
  if (by.gt(0) && taken.room(offer).lt(0)) {
    const left = leftOn(offer);
    const { limitPolicy } = offer.agreement;
    const word = overLimitOf(
      offer.agreement,
      { number: now.item, unit: now.unit },
      left.minus(taken.room(offer)),
      left,
      `${field}.quantity`,
    );
    // What is more is ordered on a line of its own.
    if (limitPolicy === 'refuse' || limitPolicy === 'split') found.refused.push(word);
    else if (limitPolicy === 'warn') found.warned.push(word);
  }
  const is = agreedPrice(offer.line, quantity, now.listPrice);
  if (is.eq(agreedPrice(offer.line, dec(now.quantity), now.listPrice))) return;
  const { currency, number } = offer.agreement;
  const facts = {
    item: now.item,
    agreement: number,
    kept: priceText(now.unitPrice, currency),
    is: priceText(is, currency),
  };
  found.warned.push(refuse('break-crossed', `${field}.quantity`, facts));
}

/** Lines that are added, priced as on a purchase order that is entered. */
function addedLines(
  ground: ChangePurchaseGround,
  typed: ChangePurchaseTyped,
  locationId: number,
  workDate: Day,
  taken: Taken,
): { lines: PurchaseLinePlan[]; refused: Refusal[]; warned: Refusal[] } {
  const places = typed.lines.flatMap((line, at) => (line.id === null ? [at] : []));
  if (places.length === 0) return { lines: [], refused: [], warned: [] };
  const lines: PurchaseTyped['lines'] = places.map((at) => {
    const { itemId, quantity, price, dueDate } = typed.lines[at]!;
    return { itemId, quantity, price, dueDate };
  });
  const decision = decidePurchase(ground, { shipToId: ground.purchase.shipToId, locationId, lines }, workDate, taken);
  const named = (found: readonly Refusal[]) =>
    found.map((refusal) => ({
      ...refusal,
      field: refusal.field.replace(/^lines\.(\d+)/, (_, at: string) => `lines.${places[Number(at)]!}`),
    }));
  return decision.ok
    ? { lines: decision.effects.purchase.lines, refused: [], warned: named(decision.warnings) }
    : { lines: [], refused: named(decision.refusals), warned: [] };
}

const isChanged = (now: PlacedLine, line: ChangePurchaseEffects['lines'][number]): boolean =>
  !dec(now.quantity).eq(line.quantity) || !dec(now.unitPrice).eq(line.unitPrice) || now.dueDate !== line.dueDate;

/** Every field that is another by now. */
function fieldsOf(
  { lines, locations, purchase, items }: ChangePurchaseGround,
  moved: ChangePurchaseEffects['lines'],
  added: readonly PurchaseLinePlan[],
  locationId: number,
): FieldChange[] {
  const fields: FieldChange[] = [];
  const field = (what: string, was: string, is: string) => {
    if (was !== is) fields.push({ what, was, is });
  };
  field('comes to', locations.get(purchase.locationId) ?? '', locations.get(locationId) ?? '');
  for (const line of moved) {
    const now = lines.find(({ id }) => id === line.id)!;
    field(`quantity of line ${now.lineNo}`, now.quantity, line.quantity);
    field(`due date of line ${now.lineNo}`, now.dueDate, line.dueDate);
    field(`price of line ${now.lineNo}`, now.unitPrice, line.unitPrice);
  }
  const last = Math.max(0, ...lines.map(({ lineNo }) => lineNo));
  added.forEach((line, at) => {
    const { number } = items.get(line.itemId)!.item;
    field(`line ${last + at + 1}`, '', `${line.quantity} ${number} at ${line.unitPrice}, ${line.dueDate}`);
  });
  return fields;
}

/** Closed once all that comes is invoiced; cancelled where nothing came and nothing is to. */
function stateAfter(
  { purchase, lines }: ChangePurchaseGround,
  moved: ChangePurchaseEffects['lines'],
  grows: boolean,
): PurchaseState {
  if (grows) return purchase.state;
  const live = lines.map((line) => ({
    quantity: dec(moved.find(({ id }) => id === line.id)?.quantity ?? line.quantity),
    invoiced: line.invoiced,
  }));
  if (live.every(({ quantity }) => quantity.eq(0))) return 'cancelled';
  return live.some(({ quantity, invoiced }) => quantity.gt(invoiced)) ? purchase.state : 'closed';
}
