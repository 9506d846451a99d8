import { dec, isDay, isDecimalText, isMoneyText, priceText, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { PROMOTION_KINDS, type PromotionKind } from './offer';

export const PROMOTION_STATES = ['running', 'stopped'] as const;
export type PromotionState = (typeof PROMOTION_STATES)[number];

/** A line of a promotion as it is typed: an item, a group, or neither for everything. */
export interface PromotionLineTyped {
  id: number | null;
  itemId: number | null;
  groupId: number | null;
  kind: string;
  value: string;
  from: string;
  buy: string;
  free: string;
  freeItemId: number | null;
}

export interface PromotionTyped {
  name: string;
  customerId: number | null;
  priceGroupId: number | null;
  firstDay: string | null;
  lastDay: string | null;
  /** Empty for no end. */
  budget: string;
  lines: readonly PromotionLineTyped[];
}

export interface PromotionGround {
  /** Null for a new one. `used` is what orders have of it; its lines by id, with whether orders have them. */
  now: {
    number: string;
    used: string;
    lines: readonly {
      id: number;
      lineNo: number;
      itemId: number | null;
      groupId: number | null;
      kind: PromotionKind;
      used: boolean;
    }[];
  } | null;
  currency: string;
  /** Which of the customers, price groups, items and item groups that are named there are. */
  customerIds: readonly number[];
  priceGroupIds: readonly number[];
  items: ReadonlyMap<number, { number: string; outOfUse: boolean }>;
  groupIds: readonly number[];
}

export interface PromotionSaved {
  name: string;
  customerId: number | null;
  priceGroupId: number | null;
  firstDay: Day;
  lastDay: Day;
  budget: string | null;
  lines: {
    id: number | null;
    itemId: number | null;
    groupId: number | null;
    kind: PromotionKind;
    value: string;
    from: string;
    buy: string;
    free: string;
    freeItemId: number | null;
  }[];
  removedLineIds: number[];
}

/**
 * A promotion: its days, who it is for, what it gives on what, and what it may cost. What orders have of it stays: a line
 * that gave something stays for what it is, and the budget covers what was given. // S13
 */
export function decidePromotion(ground: PromotionGround, typed: PromotionTyped): Decision<PromotionSaved> {
  const { now, currency } = ground;
  const refusals: Refusal[] = [];
  const name = typed.name.trim();
  if (name === '') refusals.push(refuse('required', 'name', { what: 'The name' }));
  if (typed.customerId !== null && typed.priceGroupId !== null) {
    refusals.push(refuse('either-or', 'priceGroupId', { one: 'one customer', other: 'a price group' }));
  }
  if (typed.customerId !== null && !ground.customerIds.includes(typed.customerId)) {
    refusals.push(refuse('unknown', 'customerId', { what: 'This customer' }));
  }
  if (typed.priceGroupId !== null && !ground.priceGroupIds.includes(typed.priceGroupId)) {
    refusals.push(refuse('unknown', 'priceGroupId', { what: 'This price group' }));
  }
  refusals.push(...dayRefusals(typed));
  const budget = typed.budget.trim();
  if (budget !== '') {
    if (!isMoneyText(budget, currency)) refusals.push(refuse('not-a-number', 'budget', { what: 'The budget' }));
    else if (dec(budget).lte(0)) refusals.push(refuse('not-above-zero', 'budget', { what: 'The budget' }));
    else if (now && dec(budget).lt(now.used)) {
      const facts = { promotion: now.number, used: priceText(now.used, currency), currency };
      refusals.push(refuse('budget-below-used', 'budget', facts));
    }
  }
  if (typed.lines.length === 0) refusals.push(refuse('required', 'lines', { what: 'What it is for' }));
  const lines = typed.lines.map((line, at) => {
    refusals.push(...lineRefusals(ground, line, (field) => `lines.${at}.${field}`));
    return savedLine(line);
  });
  const removed = (now?.lines ?? []).filter(({ id }) => !typed.lines.some((line) => line.id === id));
  for (const { lineNo, used } of removed) {
    if (used) refusals.push(refuse('promotion-line-used', 'lines', { promotion: now!.number, line: String(lineNo) }));
  }
  return decided(refusals, () => ({
    name,
    customerId: typed.customerId,
    priceGroupId: typed.priceGroupId,
    firstDay: typed.firstDay!,
    lastDay: typed.lastDay!,
    budget: budget === '' ? null : dec(budget).toFixed(),
    lines,
    removedLineIds: removed.map(({ id }) => id),
  }));
}

function dayRefusals({ firstDay, lastDay }: PromotionTyped): Refusal[] {
  const refusals: Refusal[] = [];
  const says = { firstDay: 'The first day', lastDay: 'The last day' } as const;
  for (const [field, day] of [
    ['firstDay', firstDay],
    ['lastDay', lastDay],
  ] as const) {
    if (day === null) refusals.push(refuse('required', field, { what: says[field] }));
    else if (!isDay(day)) refusals.push(refuse('not-a-day', field, { what: says[field] }));
  }
  if (refusals.length === 0 && lastDay! < firstDay!) {
    refusals.push(refuse('days-order', 'lastDay', { what: says.lastDay, day: lastDay!, earliest: firstDay! }));
  }
  return refusals;
}

function lineRefusals(ground: PromotionGround, line: PromotionLineTyped, at: (field: string) => string): Refusal[] {
  const refusals: Refusal[] = [];
  const { itemId, groupId, kind } = line;
  if (itemId !== null && groupId !== null) {
    refusals.push(refuse('either-or', at('groupId'), { one: 'one item', other: 'a group of items' }));
  }
  const item = itemId === null ? null : ground.items.get(itemId);
  if (item === undefined) refusals.push(refuse('unknown', at('itemId'), { what: 'This item' }));
  else if (item?.outOfUse) refusals.push(refuse('item-out-of-use', at('itemId'), { item: item.number }));
  if (groupId !== null && !ground.groupIds.includes(groupId)) {
    refusals.push(refuse('unknown', at('groupId'), { what: 'This group' }));
  }
  const was = line.id === null ? null : ground.now?.lines.find(({ id }) => id === line.id);
  if (was === undefined) refusals.push(refuse('unknown', at('id'), { what: 'This line' }));
  else if (was?.used && (was.itemId !== itemId || was.groupId !== groupId || was.kind !== kind)) {
    refusals.push(
      refuse('promotion-line-used', at('itemId'), { promotion: ground.now!.number, line: String(was.lineNo) }),
    );
  }
  const above = (field: 'value' | 'buy' | 'free', what: string) => {
    const text = line[field].trim();
    if (text === '') refusals.push(refuse('required', at(field), { what }));
    else if (!isDecimalText(text, field === 'value' ? 'price' : 'quantity')) {
      refusals.push(refuse('not-a-number', at(field), { what }));
    } else if (dec(text).lte(0)) refusals.push(refuse('not-above-zero', at(field), { what }));
  };
  if (!isKind(kind)) refusals.push(refuse('required', at('kind'), { what: 'What it gives' }));
  else if (kind === 'free') {
    above('buy', 'How many are bought');
    above('free', 'How many are free');
    const goods = line.freeItemId === null ? null : ground.items.get(line.freeItemId);
    if (goods === undefined) refusals.push(refuse('unknown', at('freeItemId'), { what: 'This item' }));
    else if (goods?.outOfUse) refusals.push(refuse('item-out-of-use', at('freeItemId'), { item: goods.number }));
  } else {
    above('value', kind === 'percent' ? 'The per cent' : 'The amount');
    if (kind === 'percent' && isDecimalText(line.value, 'price') && dec(line.value).gte(100)) {
      refusals.push(refuse('not-a-discount', at('value'), {}));
    }
    const from = line.from.trim();
    if (from !== '' && !isDecimalText(from, 'quantity')) {
      refusals.push(refuse('not-a-number', at('from'), { what: 'From how many' }));
    } else if (from !== '' && dec(from).lt(0))
      refusals.push(refuse('below-zero', at('from'), { what: 'From how many' }));
  }
  return refusals;
}

const isKind = (kind: string): kind is PromotionKind => (PROMOTION_KINDS as readonly string[]).includes(kind);

function savedLine({
  id,
  itemId,
  groupId,
  kind,
  value,
  from,
  buy,
  free,
  freeItemId,
}: PromotionLineTyped): PromotionSaved['lines'][number] {
  const goods = kind === 'free';
  return {
    id,
    itemId,
    groupId,
    kind: kind as PromotionKind,
    value: goods ? '0' : value,
    from: goods || from.trim() === '' ? '0' : from,
    buy: goods ? buy : '0',
    free: goods ? free : '0',
    freeItemId: goods && freeItemId !== itemId ? freeItemId : null,
  };
}

/** Stops a promotion, or support for what it sells, with why, or lets it go on; what was given by it stays. // S13 */
export function decideStop(
  { number, state }: { number: string; state: PromotionState },
  asked: PromotionState,
  reason: string,
): Decision<{ state: PromotionState; reason: string }> {
  const refusals: Refusal[] = [];
  if (state === asked) refusals.push(refuse('state-so-already', '', { document: number, state }));
  if (asked === 'stopped' && reason.trim() === '')
    refusals.push(refuse('required', 'reason', { what: 'Why it is stopped' }));
  return decided(refusals, () => ({ state: asked, reason: asked === 'stopped' ? reason.trim() : '' }));
}
