import { dec, isDecimalText, isDay, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

export const AGREEMENT_STATES = ['draft', 'in-force', 'paused', 'ended', 'cancelled'] as const;
export type AgreementState = (typeof AGREEMENT_STATES)[number];

/** What happens above the committed quantity: refuse it, or let it pass with a word. // A5 */
export const LIMIT_POLICIES = ['refuse', 'warn'] as const;
export type LimitPolicy = (typeof LIMIT_POLICIES)[number];

/** Terms as typed: decimals as text, days as `YYYY-MM-DD`, null where not given yet. */
export interface AgreementTerms {
  customerId: number | null;
  title: string;
  firstDay: Day | null;
  lastDay: Day | null;
  signedOn: Day | null;
  limitPolicy: LimitPolicy;
  /** Per cent that widens the limit; 0 to 100. */
  tolerancePercent: string;
  lines: { itemId: number | null; committed: string; unitPrice: string }[];
}

/** What the terms are checked against. */
export interface AgreementGround {
  /** Null for a new agreement. */
  current: { number: string; state: AgreementState } | null;
  customer: { id: number; currency: string } | null;
  items: ReadonlyMap<number, { number: string }>;
}

export interface AgreementEffects {
  customerId: number;
  currency: string;
  title: string;
  firstDay: Day;
  lastDay: Day;
  signedOn: Day | null;
  limitPolicy: LimitPolicy;
  tolerancePercent: string;
  lines: { itemId: number; committed: string; unitPrice: string }[];
}

/** Checks the terms of a new or draft agreement, all at once and each at its field. // A1 A2 A3 A5 G3 */
export function decideTerms(ground: AgreementGround, terms: AgreementTerms): Decision<AgreementEffects> {
  const refusals: Refusal[] = [];
  const { current, customer } = ground;
  if (current && current.state !== 'draft') {
    refusals.push(refuse('agreement-not-draft', '', { agreement: current.number, state: current.state }));
  }
  if (!customer) {
    refusals.push(
      terms.customerId === null
        ? refuse('required', 'customerId', { what: 'The customer' })
        : refuse('unknown', 'customerId', { what: 'This customer' }),
    );
  }
  refusals.push(...periodRefusals(terms));
  if (!isDecimalText(terms.tolerancePercent, 'percent') || dec(terms.tolerancePercent).lt(0)) {
    refusals.push(refuse('not-a-number', 'tolerancePercent', { what: 'The tolerance' }));
  }
  if (terms.lines.length === 0) {
    refusals.push(refuse('no-lines', 'lines', { document: 'The agreement' }));
  }
  refusals.push(...lineRefusals(ground, terms));
  return decided(refusals, () => ({
    ...terms,
    customerId: customer!.id,
    currency: customer!.currency,
    firstDay: terms.firstDay!,
    lastDay: terms.lastDay!,
    lines: terms.lines.map((line) => ({ ...line, itemId: line.itemId! })),
  }));
}

function periodRefusals(terms: AgreementTerms): Refusal[] {
  const refusals: Refusal[] = [];
  const named = [
    ['firstDay', 'The first day'],
    ['lastDay', 'The last day'],
  ] as const;
  for (const [field, what] of named) {
    const day = terms[field];
    if (day === null) refusals.push(refuse('required', field, { what }));
    else if (!isDay(day)) refusals.push(refuse('not-a-day', field, { what }));
  }
  const { firstDay, lastDay, signedOn } = terms;
  if (firstDay && lastDay && isDay(firstDay) && isDay(lastDay) && lastDay < firstDay) {
    refusals.push(refuse('period-reversed', 'lastDay', { first: firstDay, last: lastDay }));
  }
  if (signedOn !== null && !isDay(signedOn)) {
    refusals.push(refuse('not-a-day', 'signedOn', { what: 'The date signed' }));
  } else if (signedOn && lastDay && isDay(lastDay) && signedOn > lastDay) {
    refusals.push(refuse('signed-late', 'signedOn', { signed: signedOn, last: lastDay }));
  }
  return refusals;
}

function lineRefusals(ground: AgreementGround, terms: AgreementTerms): Refusal[] {
  const refusals: Refusal[] = [];
  const lineOfItem = new Map<number, number>();
  terms.lines.forEach((line, index) => {
    const at = (field: string) => `lines.${index}.${field}`;
    const item = line.itemId === null ? undefined : ground.items.get(line.itemId);
    if (line.itemId === null) refusals.push(refuse('required', at('itemId'), { what: 'The item' }));
    else if (!item) refusals.push(refuse('unknown', at('itemId'), { what: 'This item' }));
    else if (lineOfItem.has(line.itemId)) {
      refusals.push(
        refuse('item-twice', at('itemId'), {
          item: item.number,
          line: String(lineOfItem.get(line.itemId)! + 1),
        }),
      );
    } else lineOfItem.set(line.itemId, index);
    refusals.push(
      ...aboveZero(line.committed, 'quantity', at('committed'), 'The committed quantity'),
      ...aboveZero(line.unitPrice, 'price', at('unitPrice'), 'The agreed price'),
    );
  });
  return refusals;
}

/** Refusals of a typed number that must be above zero; none where it is. */
export function aboveZero(text: string, kind: 'quantity' | 'price', field: string, what: string): Refusal[] {
  if (text.trim() === '') return [refuse('required', field, { what })];
  if (!isDecimalText(text, kind)) return [refuse('not-a-number', field, { what })];
  return dec(text).gt(0) ? [] : [refuse('not-above-zero', field, { what })];
}

/** A draft with lines may be put in force; its last day must not have passed. // A2 */
export function decideInForce(
  agreement: { number: string; state: AgreementState; firstDay: Day; lastDay: Day; lines: number },
  workDate: Day,
): Decision<{ state: AgreementState }> {
  const refusals: Refusal[] = [];
  if (agreement.state !== 'draft') {
    refusals.push(refuse('agreement-not-draft', '', { agreement: agreement.number, state: agreement.state }));
  }
  if (agreement.lines === 0) {
    refusals.push(refuse('no-lines', 'lines', { document: agreement.number }));
  }
  if (agreement.lastDay < workDate) {
    refusals.push(
      refuse('outside-period', 'lastDay', {
        agreement: agreement.number,
        first: agreement.firstDay,
        last: agreement.lastDay,
        day: workDate,
      }),
    );
  }
  return decided(refusals, () => ({ state: 'in-force' as const }));
}
