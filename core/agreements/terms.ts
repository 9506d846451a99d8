import { dec, isDecimalText, isDay, lineAmount, ZERO, type Day, type DecimalKind } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { agreedPrice, type PriceTerm } from './price';

export const AGREEMENT_STATES = ['draft', 'in-force', 'paused', 'ended', 'cancelled'] as const;
export type AgreementState = (typeof AGREEMENT_STATES)[number];

/**
 * What happens above the committed quantity: refuse it; let it pass at the agreed price with a word, or without one
 * (`keep`); or split the line, the rest going at the price without the agreement. // A5
 */
export const LIMIT_POLICIES = ['refuse', 'warn', 'keep', 'split'] as const;
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
  /** How likely the customer is to take it all; 0 to 100 per cent. // A8 */
  probabilityPercent: string;
  /** 1 is asked first, 9 last. // A13 */
  priority: string;
  notes: string;
  lines: TypedTerm[];
}

/** One committed item as typed. */
export interface TypedTerm extends PriceTerm {
  itemId: number | null;
  committed: string;
  /** Least quantity of one release; `0` for any. // A6 */
  leastRelease: string;
  /** Releases come in multiples of it; `0` for any. // A6 */
  releaseMultiple: string;
  notes: string;
}

/** What the terms are checked against. */
export interface AgreementGround {
  /** Null for a new agreement. */
  current: { number: string; state: AgreementState } | null;
  customer: { id: number; currency: string } | null;
  items: ReadonlyMap<number, { number: string; listPrice: string }>;
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
  probabilityPercent: string;
  priority: number;
  notes: string;
  lines: (TypedTerm & {
    itemId: number;
    /** The agreed price of one unit on the day it is written, for the committed value. */
    unitPrice: string;
    value: string;
  })[];
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
  refusals.push(
    ...percentRefusals(terms.tolerancePercent, 'tolerancePercent', 'The tolerance'),
    ...percentRefusals(terms.probabilityPercent, 'probabilityPercent', 'The probability'),
  );
  if (!/^[1-9]$/.test(terms.priority)) refusals.push(refuse('not-a-priority', 'priority', {}));
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
    priority: Number(terms.priority),
    notes: terms.notes.trim(),
    lines: terms.lines.map((line) => {
      const committed = dec(line.committed);
      const unitPrice = agreedPrice({ ...line, breaks: [] }, committed, ground.items.get(line.itemId!)!.listPrice);
      return {
        ...line,
        itemId: line.itemId!,
        unitPrice: unitPrice.toFixed(),
        value: lineAmount(committed, unitPrice, customer!.currency).toFixed(),
      };
    }),
  }));
}

function percentRefusals(text: string, field: string, what: string): Refusal[] {
  if (!isDecimalText(text, 'percent')) return [refuse('not-a-number', field, { what })];
  return dec(text).lt(0) || dec(text).gt(100) ? [refuse('not-a-percent', field, { what })] : [];
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
      ...priceRefusals(line, at),
      ...stepRefusals(line, at),
    );
  });
  return refusals;
}

/** The price of a line and its breaks, each at its field. // A3 */
function priceRefusals(line: TypedTerm, at: (field: string) => string): Refusal[] {
  if (line.priceKind === 'none') {
    return line.breaks.length > 0 ? [refuse('breaks-without-price', at('breaks'), {})] : [];
  }
  const refusals = valueRefusals(line.priceKind, line.priceValue, at('priceValue'));
  let before = ZERO;
  for (const { from, value } of line.breaks) {
    const found = [
      ...aboveZero(from, 'quantity', at('breaks'), 'The quantity of a price break'),
      ...valueRefusals(line.priceKind, value, at('breaks')),
    ];
    refusals.push(...found);
    if (found.length > 0) continue;
    if (dec(from).lte(before)) refusals.push(refuse('breaks-not-rising', at('breaks'), { from }));
    before = dec(from);
  }
  return refusals;
}

function valueRefusals(kind: 'fixed' | 'discount', value: string, field: string): Refusal[] {
  if (kind === 'fixed') return aboveZero(value, 'price', field, 'The agreed price');
  const refusals = aboveZero(value, 'percent', field, 'The discount');
  return refusals.length === 0 && dec(value).gte(100) ? [refuse('not-a-discount', field, {})] : refusals;
}

/** Least release and multiple: not below zero, and the least one itself a multiple. // A6 */
function stepRefusals(line: TypedTerm, at: (field: string) => string): Refusal[] {
  const refusals: Refusal[] = [];
  const named = [
    ['leastRelease', line.leastRelease, 'The least release'],
    ['releaseMultiple', line.releaseMultiple, 'The multiple'],
  ] as const;
  for (const [field, text, what] of named) {
    if (!isDecimalText(text, 'quantity') || dec(text).lt(0)) refusals.push(refuse('not-a-number', at(field), { what }));
  }
  if (refusals.length > 0) return refusals;
  const multiple = dec(line.releaseMultiple);
  if (multiple.gt(0) && !dec(line.leastRelease).mod(multiple).eq(0)) {
    refusals.push(
      refuse('not-a-multiple', at('leastRelease'), { quantity: line.leastRelease, multiple: line.releaseMultiple }),
    );
  }
  return refusals;
}

/** Refusals of a typed number that must be above zero; none where it is. */
export function aboveZero(text: string, kind: DecimalKind, field: string, what: string): Refusal[] {
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
