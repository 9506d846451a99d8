import { leftUnderLimit, type LimitPolicy } from '@core/agreements';
import { dec, isDecimalText, isDay, lineAmount, most, priceText, ZERO, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { routeFits, ROUTE_NAMES, type Route } from '@core/catalogue';

export const ORDER_STATES = ['draft', 'confirmed', 'closed', 'cancelled'] as const;
export type OrderState = (typeof ORDER_STATES)[number];

export interface OrderItem {
  number: string;
  unit: string;
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
}

/** What a draft order's change is checked against. */
export interface OrderGround {
  /** Null for a new order. */
  current: { number: string; state: OrderState; lines: readonly OrderLineNow[] } | null;
  customer: { id: number; name: string; currency: string } | null;
  shipToIds: readonly number[];
  items: ReadonlyMap<number, OrderItem>;
  agreement: { number: string; limitPolicy: LimitPolicy; tolerancePercent: string } | null;
  /** The agreement lines the order's lines were released from. */
  agreementLines: ReadonlyMap<number, { committed: string; released: string }>;
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
  }[];
}

export interface OrderEffects {
  shipToId: number | null;
  customerReference: string;
  lines: {
    id: number | null;
    itemId: number;
    quantity: string;
    unitPrice: string;
    listPrice: string;
    amount: string;
    taxCodeId: number;
    taxRate: string;
    route: Route;
    shipDate: Day;
  }[];
  removedLineIds: number[];
  /** What the agreement lines' released counters change by; negative gives back. // A4 S6 */
  released: { agreementLineId: number; quantity: string; value: string }[];
}

/** Decides a new or changed draft order. A released line keeps its agreed price. // S1 A4 A5 */
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
  const change = new ReleasedChange(ground);
  const lines: OrderEffects['lines'] = [];
  typed.lines.forEach((line, index) => {
    const found = lineRefusals(ground, line, index, workDate);
    refusals.push(...found);
    if (found.length > 0) return;
    const now = current?.lines.find((each) => each.id === line.id) ?? null;
    const field = `lines.${index}.quantity`;
    const split = now ? splitOf(ground, now, line, change.room(now)) : null;
    const effect = lineEffect(ground, split ? { ...line, quantity: split.fits } : line, now);
    lines.push(effect);
    if (now) change.replace(now, effect, field);
    if (split) {
      lines.push(lineEffect(ground, { ...line, id: null, quantity: split.rest }, null));
      warnings.push(refuse('split-at-limit', field, { ...split, ...pricesOf(ground, effect) }));
    }
  });
  const removed = (current?.lines ?? []).filter((now) => !typed.lines.some((line) => line.id === now.id));
  for (const now of removed) change.remove(now);
  const policy = ground.agreement?.limitPolicy;
  if (policy === 'refuse') refusals.push(...change.overLimit());
  if (policy === 'warn') warnings.push(...change.overLimit());
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

/** Both prices of a split line, as its sentence says them. */
function pricesOf(ground: OrderGround, line: { unitPrice: string; listPrice: string }) {
  const currency = ground.customer?.currency ?? 'MYR';
  return { price: priceText(line.unitPrice, currency), list: priceText(line.listPrice, currency) };
}

/** A released line raised above a limit that splits: what still fits it, and the rest for a line of its own. // A5 */
function splitOf(
  ground: OrderGround,
  now: OrderLineNow,
  line: OrderTyped['lines'][number],
  room: Dec,
): { item: string; agreement: string; fits: string; rest: string } | null {
  if (ground.agreement?.limitPolicy !== 'split' || now.agreementLineId === null) return null;
  const fits = dec(now.quantity).plus(room);
  const rest = dec(line.quantity).minus(fits);
  if (rest.lte(0)) return null;
  return {
    item: ground.items.get(now.itemId)?.number ?? '',
    agreement: ground.agreement.number,
    fits: fits.toFixed(),
    rest: rest.toFixed(),
  };
}

function lineRefusals(ground: OrderGround, line: OrderTyped['lines'][number], index: number, workDate: Day): Refusal[] {
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
      line.route === 'drop'
        ? refuse('no-vendor', at('route'), { item: item.number })
        : refuse('route-not-kept', at('route'), {
            item: item.number,
            route: ROUTE_NAMES[line.route],
          }),
    );
  }
  return refusals;
}

function lineEffect(
  ground: OrderGround,
  line: OrderTyped['lines'][number],
  now: OrderLineNow | null,
): OrderEffects['lines'][number] {
  const item = ground.items.get(line.itemId!)!;
  const keepsPrice = now !== null && now.itemId === line.itemId;
  const unitPrice = keepsPrice ? now.unitPrice : item.listPrice;
  const amount = lineAmount(dec(line.quantity), dec(unitPrice), ground.customer?.currency ?? 'MYR');
  return {
    id: now?.id ?? null,
    itemId: line.itemId!,
    quantity: line.quantity,
    unitPrice,
    listPrice: keepsPrice ? now.listPrice : item.listPrice,
    amount: amount.toFixed(),
    taxCodeId: item.taxCodeId,
    taxRate: item.taxRate,
    route: line.route,
    shipDate: line.shipDate!,
  };
}

/** Gathers what the change does to each agreement line's released counter. */
class ReleasedChange {
  private readonly byLine = new Map<number, { quantity: Dec; value: Dec; field: string; item: number }>();
  constructor(private readonly ground: OrderGround) {}

  replace(now: OrderLineNow, next: OrderEffects['lines'][number], field: string): void {
    this.add(now, dec(next.quantity).minus(now.quantity), dec(next.amount).minus(now.amount), field);
  }

  remove(now: OrderLineNow): void {
    this.add(now, ZERO.minus(now.quantity), ZERO.minus(now.amount), 'lines');
  }

  private add(now: OrderLineNow, quantity: Dec, value: Dec, field: string): void {
    if (now.agreementLineId === null) return;
    const sum = this.byLine.get(now.agreementLineId);
    this.byLine.set(now.agreementLineId, {
      quantity: (sum?.quantity ?? ZERO).plus(quantity),
      value: (sum?.value ?? ZERO).plus(value),
      field,
      item: now.itemId,
    });
  }

  /** What may still be released of the line's agreement line, after the changes gathered so far; zero above it. */
  room(now: OrderLineNow): Dec {
    const { agreement, agreementLines } = this.ground;
    const line = now.agreementLineId === null ? undefined : agreementLines.get(now.agreementLineId);
    if (!agreement || !line) return ZERO;
    const left = leftUnderLimit(line.committed, line.released, agreement.tolerancePercent);
    return most(ZERO, left.minus(this.byLine.get(now.agreementLineId!)?.quantity ?? ZERO));
  }

  overLimit(): Refusal[] {
    const { agreement, agreementLines, items } = this.ground;
    if (!agreement) return [];
    const refusals: Refusal[] = [];
    for (const [id, change] of this.byLine) {
      const line = agreementLines.get(id);
      if (!line || change.quantity.lte(0)) continue;
      const left = leftUnderLimit(line.committed, line.released, agreement.tolerancePercent);
      if (change.quantity.lte(left)) continue;
      const item = items.get(change.item);
      refusals.push(
        refuse('above-limit', change.field, {
          item: item?.number ?? '',
          unit: item?.unit ?? '',
          asked: change.quantity.toFixed(),
          left: left.lt(0) ? '0' : left.toFixed(),
          agreement: agreement.number,
        }),
      );
    }
    return refusals;
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
