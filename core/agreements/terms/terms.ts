import {
  AMOUNT_BOUND,
  currencyPlaces,
  dec,
  isDecimalText,
  isDay,
  lineAmount,
  roundHalfAway,
  ZERO,
  type Day,
  type DecimalKind,
  sum,
} from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { agreedPrice, type PriceTerm } from './price';
import { rebateRefusals, type Rebate } from '../money/rebate';
import { readWholeLimit } from '../releasing/whole-limit';
import { reminderRefusals, type Reminder } from './reminder';

export const AGREEMENT_STATES = ['draft', 'in-force', 'paused', 'ended', 'cancelled'] as const;
export type AgreementState = (typeof AGREEMENT_STATES)[number];

/**
 * What happens above the committed quantity: refuse it; let it pass at the agreed price with a word, or without one
 * (`keep`); or split the line, the rest going at the price without the agreement. // A5
 */
export const LIMIT_POLICIES = ['refuse', 'warn', 'keep', 'split'] as const;
export type LimitPolicy = (typeof LIMIT_POLICIES)[number];

/**
 * How what is left and in no plan counts in planning: spread over the working days left, all of it on the last day, or
 * not at all. // A7
 */
export const REST_PLANS = ['spread', 'last', 'none'] as const;
export type RestPlan = (typeof REST_PLANS)[number];

/** With a customer, or with a vendor. // A1 */
export const SIDES = ['selling', 'buying'] as const;
export type Side = (typeof SIDES)[number];

/** Each line commits an item to a quantity; or an item, a group or everything to an amount. // A1 */
export const BASES = ['quantity', 'value'] as const;
export type Basis = (typeof BASES)[number];

/** Terms as typed: decimals as text, days as `YYYY-MM-DD`, null where not given yet. */
export interface AgreementTerms {
  side: Side;
  basis: Basis;
  /** Of a selling agreement. */
  customerId: number | null;
  /** Of a buying agreement. */
  vendorId: number | null;
  salesOrganisationId: number | null;
  title: string;
  firstDay: Day | null;
  lastDay: Day | null;
  signedOn: Day | null;
  limitPolicy: LimitPolicy;
  /** Per cent that widens the limit; 0 to 100. */
  tolerancePercent: string;
  /** A limit on the whole besides the lines, as it is typed: `50000`, `1000 kg`; empty for none. // A5 */
  wholeLimit: string;
  /** How likely the customer is to take it all; 0 to 100 per cent. // A8 */
  probabilityPercent: string;
  /** How what is left and in no plan counts in planning. // A7 */
  restPlan: RestPlan;
  /** Goods that are free by a promotion count as called off; they do not where left out. // S13 */
  freeGoodsCount?: boolean | undefined;
  /** 1 is asked first, 9 last. // A13 */
  priority: string;
  notes: string;
  rebate: Rebate;
  reminders: readonly Reminder[];
  /** Planned calls are released by themselves so many days ahead; empty where by hand. // A7 */
  releaseAhead: string;
  lines: TypedTerm[];
}

/** One line as typed. Neither item nor group: everything, which only an agreement by value may commit to. // A1 */
export interface TypedTerm extends PriceTerm {
  itemId: number | null;
  groupId: number | null;
  /** A quantity, or the amount where the agreement is by value. */
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
  /** The customer or vendor named, as far as it is known. */
  party: {
    id: number;
    name: string;
    currency: string;
    salesOrganisationId: number | null;
    outOfUse?: boolean;
  } | null;
  /** Items named; `listPrice` is the price without the agreement, null where the vendor does not sell it. */
  items: ReadonlyMap<number, { number: string; listPrice: string | null; units: ReadonlyMap<string, unknown> }>;
  groups: ReadonlyMap<number, { code: string }>;
}

export interface AgreementEffects {
  side: Side;
  basis: Basis;
  customerId: number | null;
  vendorId: number | null;
  salesOrganisationId: number | null;
  currency: string;
  title: string;
  firstDay: Day;
  lastDay: Day;
  signedOn: Day | null;
  limitPolicy: LimitPolicy;
  tolerancePercent: string;
  wholeLimit: string;
  probabilityPercent: string;
  restPlan: RestPlan;
  freeGoodsCount?: boolean | undefined;
  priority: number;
  notes: string;
  rebate: Rebate;
  reminders: readonly Reminder[];
  releaseAhead: string;
  lines: (TypedTerm & {
    /** The agreed price of one unit on the day it is written, for the committed value. */
    unitPrice: string;
    /** `0` where the line commits to an amount. */
    committed: string;
    value: string;
  })[];
}

/** Checks the terms of a new or draft agreement, all at once and each at its field. // A1 A2 A3 A5 G3 */
export function decideTerms(ground: AgreementGround, terms: AgreementTerms): Decision<AgreementEffects> {
  const refusals: Refusal[] = [];
  const { current, party } = ground;
  if (current && current.state !== 'draft') {
    refusals.push(refuse('agreement-not-draft', '', { agreement: current.number, state: current.state }));
  }
  if (!party) {
    const [field, who] =
      terms.side === 'selling' ? (['customerId', 'customer'] as const) : (['vendorId', 'vendor'] as const);
    refusals.push(
      terms[field] === null
        ? refuse('required', field, { what: `The ${who}` })
        : refuse('unknown', field, { what: `This ${who}` }),
    );
  } else if (!current && party.outOfUse) {
    const field = terms.side === 'selling' ? 'customerId' : 'vendorId';
    refusals.push(refuse('party-out-of-use', field, { party: party.name }));
  }
  refusals.push(...periodRefusals(terms));
  refusals.push(
    ...percentRefusals(terms.tolerancePercent, 'tolerancePercent', 'The tolerance'),
    ...percentRefusals(terms.probabilityPercent, 'probabilityPercent', 'The probability'),
  );
  refusals.push(...wholeRefusals(ground, terms));
  if (!/^[1-9]$/.test(terms.priority)) refusals.push(refuse('not-a-priority', 'priority', {}));
  if (!/^(\d{1,3})?$/.test(terms.releaseAhead) || Number(terms.releaseAhead) > 365) {
    refusals.push(refuse('not-days-ahead', 'releaseAhead', {}));
  }
  refusals.push(...rebateRefusals(terms.rebate), ...reminderRefusals(terms.reminders));
  if (terms.lines.length === 0) {
    refusals.push(refuse('no-lines', 'lines', { document: 'The agreement' }));
  }
  refusals.push(...lineRefusals(ground, terms));
  const lines = refusals.length > 0 ? [] : linesOf(ground, terms);
  refusals.push(...sizeRefusals(lines));
  return decided(refusals, () => ({
    ...terms,
    customerId: terms.side === 'selling' ? party!.id : null,
    vendorId: terms.side === 'buying' ? party!.id : null,
    salesOrganisationId: terms.side === 'selling' ? (terms.salesOrganisationId ?? party!.salesOrganisationId) : null,
    currency: party!.currency,
    firstDay: terms.firstDay!,
    lastDay: terms.lastDay!,
    priority: Number(terms.priority),
    notes: terms.notes.trim(),
    lines,
  }));
}

/** A limit on the whole that can be read; by quantity in a unit that every line has. // A5 */
function wholeRefusals({ items }: AgreementGround, { wholeLimit, lines }: AgreementTerms): Refusal[] {
  const read = readWholeLimit(wholeLimit);
  if (!read) return [refuse('not-a-whole-limit', 'wholeLimit', {})];
  if (read.unit === '') return [];
  const without = lines.find(({ itemId }) => itemId === null || !items.get(itemId)?.units.has(read.unit));
  if (!without) return [];
  const item = items.get(without.itemId ?? 0)?.number ?? 'A line for a group, or for everything,';
  return [refuse('whole-unit-not-shared', 'wholeLimit', { item, unit: read.unit })];
}

function linesOf({ items, party }: AgreementGround, { lines, basis }: AgreementTerms): AgreementEffects['lines'] {
  return lines.map((line) => {
    const listPrice = items.get(line.itemId ?? 0)?.listPrice ?? '0';
    return committedLine(line, basis, listPrice, party!.currency);
  });
}

function sizeRefusals(lines: AgreementEffects['lines']): Refusal[] {
  const refusals = lines.flatMap((line, index) =>
    dec(line.value).lt(AMOUNT_BOUND) ? [] : [refuse('amount-too-large', `lines.${index}.committed`, {})],
  );
  const all = sum(lines.map((line) => dec(line.value)));
  return refusals.length > 0 || all.lt(AMOUNT_BOUND) ? refusals : [refuse('amount-too-large', 'lines', {})];
}

/** A line as it is written: what it commits to in quantity and in value, at the price of the day. // A1 A4 */
export function committedLine(
  line: TypedTerm,
  basis: Basis,
  listPrice: string,
  currency: string,
): AgreementEffects['lines'][number] {
  const committed = dec(line.committed);
  const unitPrice = agreedPrice({ ...line, breaks: [] }, committed, listPrice);
  return basis === 'value'
    ? { ...line, unitPrice: unitPrice.toFixed(), committed: '0', value: committed.toFixed() }
    : { ...line, unitPrice: unitPrice.toFixed(), value: lineAmount(committed, unitPrice, currency).toFixed() };
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
  const lineOf = new Map<string, number>();
  terms.lines.forEach((line, index) => {
    const at = (field: string) => `lines.${index}.${field}`;
    const scope = scopeRefusals(ground, terms, line, at('itemId'));
    refusals.push(...scope);
    const key = `${line.itemId ?? ''}|${line.groupId ?? ''}`;
    const before = lineOf.get(key);
    if (scope.length === 0 && before !== undefined) {
      const item = ground.items.get(line.itemId ?? 0)?.number ?? ground.groups.get(line.groupId ?? 0)?.code;
      refusals.push(refuse('item-twice', at('itemId'), { item: item ?? 'Everything', line: String(before + 1) }));
    } else if (scope.length === 0) lineOf.set(key, index);
    refusals.push(
      ...committedRefusals(ground, terms, line, at('committed')),
      ...priceRefusals(line, at),
      ...stepRefusals(line, at),
    );
  });
  return refusals;
}

function committedRefusals(ground: AgreementGround, terms: AgreementTerms, line: TypedTerm, field: string): Refusal[] {
  if (terms.basis === 'quantity') return aboveZero(line.committed, 'quantity', field, 'The committed quantity');
  const refusals = aboveZero(line.committed, 'price', field, 'The committed amount');
  if (refusals.length > 0) return refusals;
  const { currency } = ground.party ?? { currency: 'MYR' };
  const exact = dec(line.committed).eq(roundHalfAway(dec(line.committed), currencyPlaces(currency)));
  return exact ? [] : [refuse('not-a-number', field, { what: `The committed amount in ${currency}` })];
}

/** What a line covers: an item for a quantity; an item, a group or everything for an amount. // A1 */
function scopeRefusals(ground: AgreementGround, terms: AgreementTerms, line: TypedTerm, field: string): Refusal[] {
  if (line.itemId !== null) {
    const item = ground.items.get(line.itemId);
    if (!item) return [refuse('unknown', field, { what: 'This item' })];
    if (item.listPrice !== null) return [];
    return [refuse('not-sold-by', field, { vendor: ground.party?.name ?? 'This vendor', item: item.number })];
  }
  if (terms.basis === 'quantity') return [refuse('required', field, { what: 'The item' })];
  if (line.groupId !== null && !ground.groups.has(line.groupId)) {
    return [refuse('unknown', field, { what: 'This item group' })];
  }
  return line.priceKind === 'fixed' ? [refuse('fixed-without-item', field.replace('itemId', 'priceValue'), {})] : [];
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
