import { dec, least, lineSlice, most, pointOf, ZERO, type Day, type Dec } from '@core/kernel';
import type { Route } from '@core/catalogue';
import { refuse, type Decision, type Refusal } from '@core/refusals';
import {
  creditRefusals,
  permitFor,
  permitRefusals,
  routeAndPrice,
  type Confirmer,
  type CustomerStanding,
} from './confirm';
import type { OrderEffects, OrderLineNow, OrderTyped } from './ground';
import { decideOrder } from './order';
import { confirmable, type ConfirmableItem, type SaveGround } from './save';

/** A line of a confirmed order with what has happened to it. */
export interface ConfirmedLine extends OrderLineNow {
  route: Route;
  locationId: number;
  taxCode: string;
  taxRate: string;
  cancelled: string;
  shipped: string;
  invoiced: string;
  /** Held for it at our place. */
  reserved: string;
  /** What purchases are to bring for it, and their numbers; and what of that is still on its way. */
  tied: string;
  purchases: string;
  onTheWay: string;
  /** What is planned for it and not made firm; empty for nothing. // T8 */
  planned: string;
}

/** When an item's stock is held for order lines. // S3 */
type Reserving = 'never' | 'asked' | 'always';

export interface ChangeGround extends Omit<SaveGround, 'current' | 'standing' | 'items'> {
  current: {
    number: string;
    state: NonNullable<SaveGround['current']>['state'];
    shipToId: number | null;
    customerReference: string;
    lines: readonly ConfirmedLine[];
  };
  items: ReadonlyMap<number, ConfirmableItem & { reserving: Reserving }>;
  /** How the customer stands, this order left out. */
  standing: CustomerStanding;
  /** What is free of items at locations (points): of those that are always held, and that are held for its lines. */
  free: ReadonlyMap<number, string>;
  /** The customer's addresses by id, in a line. */
  addresses: ReadonlyMap<number, string>;
}

export interface ChangeTyped extends OrderTyped {
  reason: string;
}

/** One field that is another by now, as it was and as it is: a quantity, a price, a day (ISO 8601) or words. */
export interface FieldChange {
  what: string;
  was: string;
  is: string;
}

export interface ChangeEffects extends OrderEffects {
  reason: string;
  creditReason: string;
  fields: FieldChange[];
  /** Lines that are new or go out on another day, by their place among the lines, with the permit they go under. */
  permits: { at: number; permitId: number | null }[];
  /** Lines whose ship date is another. */
  datedIds: number[];
  /** What is held and no longer asked for. */
  freed: { lineId: number; itemId: number; locationId: number; quantity: string }[];
  /** What is held more, of items that are always held, as far as it is free; by the lines' place. // S3 */
  toHold: { at: number; quantity: string }[];
  /** What each line still wants of what comes for it, by line: what is beyond is for nobody. // L1 */
  wanted: { lineId: number; quantity: string }[];
}

/**
 * Changes a confirmed order as far as it has not happened: quantities, dates, prices, address and reference; lines are
 * added. What was confirmed of a line stays what it is: its item, unit and options; its route and place are said by its
 * supply; what is given up is closed short. What changed is checked as when it was confirmed. // S8 S2 S4 S5 L1
 */
export function decideChange(
  ground: ChangeGround,
  typed: ChangeTyped,
  workDate: Day,
  by: Confirmer,
): Decision<ChangeEffects> {
  const refusals: Refusal[] = [];
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  const { current, standing, items } = ground;
  const order = decideOrder(ground, typed, workDate, 'confirmed');
  if (!order.ok) return { ok: false, refusals: [...refusals, ...order.refusals] };
  const { removedLineIds } = order.effects;
  // A line is taxed as it was confirmed, whatever its item is taxed by today.
  const lines = order.effects.lines.map((line) => {
    const now = current.lines.find(({ id }) => id === line.id);
    return now ? { ...line, taxCodeId: Number(now.taxCode), taxRate: now.taxRate } : line;
  });
  if (order.effects.shipToId === null) refusals.push(refuse('required', 'shipToId', { what: 'The ship-to address' }));
  if (standing.referenceRequired && order.effects.customerReference === '') {
    refusals.push(refuse('reference-required', 'customerReference', { customer: standing.name }));
  }
  for (const id of removedLineIds) {
    const { lineNo } = current.lines.find((line) => line.id === id)!;
    refusals.push(refuse('line-confirmed', 'lines', { order: current.number, line: String(lineNo) }));
  }
  if (order.effects.shipToId !== current.shipToId) refusals.push(...awayRefusals(ground));
  const nowOf = (line: OrderEffects['lines'][number]) => current.lines.find(({ id }) => id === line.id) ?? null;
  const checks = confirmable(lines, items);
  const permits: ChangeEffects['permits'] = [];
  lines.forEach((line, at) => {
    const now = nowOf(line);
    if (now) refusals.push(...staysRefusals(ground, now, line));
    const dated = now !== null && now.shipDate !== line.shipDate;
    const priced = now !== null && !dec(now.unitPrice).eq(line.unitPrice);
    if (now && !dated && !priced) return;
    const field = (refusal: Refusal): Refusal => ({
      ...refusal,
      field: refusal.field.replace(/^lines\.\d+/, `lines.${line.typedAt}`),
    });
    refusals.push(...routeAndPrice(checks[at]!, at, workDate).map(field));
    if (priced && !dated) return;
    refusals.push(...permitRefusals(standing, checks[at]!, at).map(field));
    permits.push({ at, permitId: permitFor(standing, checks[at]!) });
  });
  const owedNow = current.lines.map((line) => ({ ...line, ...notInvoiced(line, line, standing.currency) }));
  const owed = checks.map((check, at) => ({
    ...check,
    ...notInvoiced(lines[at]!, nowOf(lines[at]!), standing.currency),
  }));
  const grows = total(owed).gt(total(owedNow));
  const credit = grows ? creditRefusals(standing, owed, by) : { over: false, refusals: [] };
  refusals.push(...credit.refusals);
  const fields = fieldsOf(ground, order.effects);
  if (refusals.length === 0 && fields.length === 0) {
    refusals.push(refuse('order-unchanged', '', { document: current.number }));
  }
  const effects: ChangeEffects = {
    ...order.effects,
    lines,
    reason: typed.reason.trim(),
    creditReason: credit.over ? by.creditReason.trim() : '',
    fields,
    permits,
    datedIds: lines.flatMap((line) => (line.id !== null && nowOf(line)!.shipDate !== line.shipDate ? [line.id] : [])),
    ...heldAndWanted(ground, lines),
  };
  // What it would do is told while it is typed, whatever stands against it still.
  if (refusals.length > 0) return { ok: false, refusals, effects };
  return { ok: true, effects, warnings: order.warnings };
}

const openOf = (line: { quantity: string }, now: { cancelled: string; shipped: string } | null): Dec =>
  dec(line.quantity)
    .minus(now?.cancelled ?? '0')
    .minus(now?.shipped ?? '0');

/** What of a line is not invoiced, tax not included. */
function notInvoiced(
  line: { quantity: string; unitPrice: string; amount: string; agreedAmount: string | null },
  now: { cancelled: string; invoiced: string } | null,
  currency: string,
): { amount: string } {
  const live = dec(line.quantity).minus(now?.cancelled ?? '0');
  if (live.lte(0)) return { amount: '0' };
  const slice = lineSlice({ ...line, quantity: live.toFixed() }, dec(now?.invoiced ?? '0'), live, currency);
  return { amount: slice.value.toFixed() };
}

const total = (lines: readonly { amount: string }[]): Dec => lines.reduce((sum, { amount }) => sum.plus(amount), ZERO);

/** An order whose drop shipments are on their way goes to another address with both ends of its ties. // L2 L7 */
function awayRefusals({ current }: ChangeGround): Refusal[] {
  const away = current.lines.filter((line) => line.route === 'drop' && dec(line.onTheWay).gt(0));
  if (away.length === 0) return [];
  const purchases = [...new Set(away.flatMap((line) => line.purchases.split(', ')))].join(', ');
  return [refuse('ship-to-tied', 'shipToId', { order: current.number, purchases })];
}

/** What stands against a line that was confirmed being another now. */
function staysRefusals(
  { current, items }: ChangeGround,
  now: ConfirmedLine,
  line: OrderEffects['lines'][number],
): Refusal[] {
  const at = (field: string) => `lines.${line.typedAt}.${field}`;
  const facts = { order: current.number, line: String(now.lineNo) };
  if (line.itemId !== now.itemId) return [refuse('line-stays', at('itemId'), { ...facts, what: 'The item' })];
  const refusals: Refusal[] = [];
  if (line.sold.unit !== now.sold.unit) refusals.push(refuse('line-stays', at('unit'), { ...facts, what: 'The unit' }));
  const same =
    line.optionIds.length === now.optionIds.length && line.optionIds.every((id) => now.optionIds.includes(id));
  if (!same) refusals.push(refuse('line-stays', at('optionIds'), { ...facts, what: 'What was chosen' }));
  if (line.route !== now.route || line.locationId !== now.locationId) {
    refusals.push(refuse('line-supplied', at('route'), facts));
  }
  const { number } = items.get(now.itemId)!;
  const quantity = dec(line.quantity);
  const changes = !quantity.eq(now.quantity);
  const moves = changes || line.shipDate !== now.shipDate;
  if (moves && now.planned !== '') refusals.push(refuse('line-planned', at('quantity'), { number: now.planned }));
  if (!quantity.eq(now.quantity) || !dec(line.unitPrice).eq(now.unitPrice)) {
    if (dec(now.cancelled).gt(0)) refusals.push(refuse('line-closed-short', at('quantity'), facts));
  }
  if (dec(now.shipped).gt(0) && !dec(line.unitPrice).eq(now.unitPrice)) {
    const field = changes && line.sold.price === now.sold.price ? 'quantity' : 'price';
    refusals.push(refuse('price-shipped', at(field), { ...facts, kept: now.unitPrice, is: line.unitPrice }));
  }
  // What came for it alone is its own, and goes out with it.
  const here = dec(now.shipped).plus(now.route === 'stock' || now.route === 'drop' ? '0' : now.reserved);
  if (quantity.lt(here)) {
    const more = { order: current.number, item: number, asked: line.quantity, moved: here.toFixed() };
    refusals.push(refuse('below-moved', at('quantity'), more));
  } else if (quantity.lt(now.tied)) {
    refusals.push(refuse('below-supply-tied', at('quantity'), { ...facts, tied: now.tied, purchases: now.purchases }));
  }
  return refusals;
}

/** What stays held, what is held more, and what lines want of what comes for them. // S3 L1 */
function heldAndWanted(
  { current, items, free }: ChangeGround,
  lines: OrderEffects['lines'],
): Pick<ChangeEffects, 'freed' | 'toHold' | 'wanted'> {
  const found: Pick<ChangeEffects, 'freed' | 'toHold' | 'wanted'> = { freed: [], toHold: [], wanted: [] };
  const left = new Map([...free].map(([point, quantity]) => [point, dec(quantity)]));
  const there = (point: number) => left.get(point) ?? ZERO;
  const more: { at: number; point: number; quantity: Dec }[] = [];
  lines.forEach((line, at) => {
    const now = current.lines.find(({ id }) => id === line.id) ?? null;
    if (now && dec(now.quantity).eq(line.quantity)) return;
    const open = openOf(line, now);
    const reserved = dec(now?.reserved ?? '0');
    const kept = least(reserved, most(ZERO, open));
    const { itemId, locationId } = line;
    const point = pointOf(itemId, locationId);
    if (now && kept.lt(reserved)) {
      found.freed.push({ lineId: now.id, itemId, locationId, quantity: reserved.minus(kept).toFixed() });
      left.set(point, there(point).plus(reserved).minus(kept));
    }
    if (line.route === 'stock' && items.get(itemId)!.reserving === 'always') {
      more.push({ at, point, quantity: open.minus(kept) });
    }
    if (now) found.wanted.push({ lineId: now.id, quantity: most(ZERO, open.minus(kept)).toFixed() });
  });
  // What a line lets go of another may have.
  for (const { at, point, quantity } of more) {
    const held = least(quantity, there(point));
    if (held.lte(0)) continue;
    left.set(point, there(point).minus(held));
    found.toHold.push({ at, quantity: held.toFixed() });
  }
  return found;
}

/** Every field that is another by now. */
function fieldsOf({ current, items, addresses }: ChangeGround, effects: OrderEffects): FieldChange[] {
  const fields: FieldChange[] = [];
  const field = (what: string, was: string, is: string) => {
    if (was !== is) fields.push({ what, was, is });
  };
  const address = (id: number | null) => (id === null ? '' : (addresses.get(id) ?? ''));
  field('their reference', current.customerReference, effects.customerReference);
  field('ship to', address(current.shipToId), address(effects.shipToId));
  let next = Math.max(0, ...current.lines.map(({ lineNo }) => lineNo));
  for (const line of effects.lines) {
    const now = current.lines.find(({ id }) => id === line.id);
    if (!now) {
      next += 1;
      const { number } = items.get(line.itemId)!;
      field(`line ${next}`, '', `${line.quantity} ${number} at ${line.unitPrice}, ${line.shipDate}`);
      continue;
    }
    const of = (what: string) => `${what} of line ${now.lineNo}`;
    field(of('quantity'), now.quantity, dec(line.quantity).toFixed());
    field(of('ship date'), now.shipDate, line.shipDate);
    field(of('price'), now.unitPrice, line.unitPrice);
    field(of('why it goes for nothing'), now.sold.reason, line.sold.reason);
    if (now.quantity === line.quantity && now.unitPrice === line.unitPrice)
      field(of('amount'), now.amount, line.amount);
  }
  return fields;
}
