import { dec, isDay, isDecimalText, type Day } from '@core/kernel';
import { recurrenceDays } from '@core/recurrence';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { CLOSED_RULES, yearOn, type ClosedRule } from './dates';

export const STANDING_STATES = ['active', 'paused', 'ended'] as const;
export type StandingState = (typeof STANDING_STATES)[number];

export interface StandingTyped {
  customerId: number | null;
  shipToId: number | null;
  customerReference: string;
  rule: string;
  firstDay: string | null;
  lastDay: string | null;
  aheadDays: string;
  closed: string;
  /** From when on what is typed holds; null for a new one. */
  from: string | null;
  lines: readonly { itemId: number | null; quantity: string; unit: string }[];
}

export interface StandingGround {
  /** Null for a new one. */
  now: { number: string; state: StandingState; firstDay: Day } | null;
  customer: { id: number } | null;
  shipToIds: readonly number[];
  /** What may be ordered, with the units it is sold in. */
  items: ReadonlyMap<number, { number: string; outOfUse: boolean; units: readonly string[] }>;
}

export interface StandingSaved {
  shipToId: number;
  customerReference: string;
  rule: string;
  firstDay: Day;
  lastDay: Day | null;
  aheadDays: number;
  closed: ClosedRule;
  from: Day;
  lines: { itemId: number; quantity: string; unit: string }[];
}

const MOST_AHEAD = 120;

/** What a customer gets again and again: who, what, when, and what becomes of days we are closed. // S7 */
export function decideStanding(
  { now, customer, shipToIds, items }: StandingGround,
  typed: StandingTyped,
  workDate: Day,
): Decision<StandingSaved> {
  const refusals: Refusal[] = [];
  if (now?.state === 'ended') refusals.push(refuse('standing-ended', '', { number: now.number }));
  if (!customer) refusals.push(refuse('required', 'customerId', { what: 'The customer' }));
  if (typed.shipToId === null) refusals.push(refuse('required', 'shipToId', { what: 'The ship-to address' }));
  else if (customer && !shipToIds.includes(typed.shipToId)) {
    refusals.push(refuse('unknown', 'shipToId', { what: 'This address' }));
  }
  const days = (['firstDay', 'lastDay', 'from'] as const).filter((field) => {
    const day = typed[field];
    if (day === null) return field === 'firstDay';
    return !isDay(day);
  });
  const says = { firstDay: 'The first day', lastDay: 'The last day', from: 'The day it changes on' } as const;
  for (const field of days) {
    refusals.push(
      typed[field] === null
        ? refuse('required', field, { what: says[field] })
        : refuse('not-a-day', field, { what: says[field] }),
    );
  }
  if (days.length === 0) refusals.push(...orderOfDays(typed, now, workDate));
  const readable = typed.firstDay !== null && isDay(typed.firstDay);
  if (typed.rule.trim() === '') refusals.push(refuse('required', 'rule', { what: 'How often' }));
  else if (readable) {
    const from = typed.from !== null && isDay(typed.from) ? typed.from : typed.firstDay!;
    // Within a year it gives a date, and no more than 520.
    const dates = recurrenceDays(typed.rule, from, yearOn(from));
    if (dates === null) refusals.push(refuse('no-recurrence', 'rule', { rule: typed.rule }));
    else if (dates.length === 0) refusals.push(refuse('no-dates', 'rule', {}));
  }
  const ahead = typed.aheadDays.trim();
  if (!/^\d{1,3}$/.test(ahead) || Number(ahead) > MOST_AHEAD) {
    refusals.push(refuse('days-ahead', 'aheadDays', { most: String(MOST_AHEAD) }));
  }
  const closed = CLOSED_RULES.find((each) => each === typed.closed);
  if (!closed) refusals.push(refuse('required', 'closed', { what: 'What becomes of days we are closed' }));
  if (typed.lines.length === 0)
    refusals.push(refuse('no-lines', 'lines', { document: now?.number ?? 'The standing order' }));
  typed.lines.forEach((line, at) => refusals.push(...lineRefusals(line, at, items)));
  return decided(refusals, () => ({
    shipToId: typed.shipToId!,
    customerReference: typed.customerReference.trim(),
    rule: typed.rule,
    firstDay: typed.firstDay!,
    lastDay: typed.lastDay,
    aheadDays: Number(ahead),
    closed: closed!,
    from: now === null ? typed.firstDay! : (typed.from ?? workDate),
    lines: typed.lines.map(({ itemId, quantity, unit }) => ({ itemId: itemId!, quantity, unit })),
  }));
}

function orderOfDays(typed: StandingTyped, now: StandingGround['now'], workDate: Day): Refusal[] {
  const refusals: Refusal[] = [];
  const { firstDay, lastDay, from } = typed;
  if (lastDay !== null && lastDay < firstDay!) {
    refusals.push(refuse('days-order', 'lastDay', { what: 'The last day', day: lastDay, earliest: firstDay! }));
  }
  if (now === null && firstDay! < workDate) {
    refusals.push(refuse('days-order', 'firstDay', { what: 'The first day', day: firstDay!, earliest: workDate }));
  }
  // What was made already stays as it was made.
  if (now !== null && from !== null && from < workDate) {
    refusals.push(refuse('days-order', 'from', { what: 'The day it changes on', day: from, earliest: workDate }));
  }
  return refusals;
}

function lineRefusals(
  { itemId, quantity, unit }: StandingTyped['lines'][number],
  at: number,
  items: StandingGround['items'],
): Refusal[] {
  const field = (name: string) => `lines.${at}.${name}`;
  const item = itemId === null ? undefined : items.get(itemId);
  const refusals: Refusal[] = [];
  if (itemId === null) refusals.push(refuse('required', field('itemId'), { what: 'The item' }));
  else if (!item) refusals.push(refuse('unknown', field('itemId'), { what: 'This item' }));
  else if (item.outOfUse) refusals.push(refuse('item-out-of-use', field('itemId'), { item: item.number }));
  else if (unit !== '' && !item.units.includes(unit)) {
    refusals.push(refuse('unknown', field('unit'), { what: 'This unit' }));
  }
  if (!isDecimalText(quantity, 'quantity')) {
    refusals.push(refuse('not-a-number', field('quantity'), { what: 'The quantity' }));
  } else if (dec(quantity).lte(0)) {
    refusals.push(refuse('not-above-zero', field('quantity'), { what: 'The quantity' }));
  }
  return refusals;
}
