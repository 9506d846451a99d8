import { dec, dayText, isDay, lineAmount, ZERO, type Day, type ExchangeOf } from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { agreedPrice, type PriceTerm } from './price';
import { reminderWords } from './reminder';
import {
  decideTerms,
  type AgreementEffects,
  type AgreementGround,
  type AgreementTerms,
  type RestPlan,
  type TypedTerm,
} from './terms';

/** One field that a revision changes, before and after, as people read it. */
export interface LineChange {
  what: string;
  was: string;
  is: string;
}

/** A line of the agreement as it stands, in the terms it is typed in. */
export interface RevisedLine extends TypedTerm {
  id: number;
  lineNo: number;
  /** Its item, its group, or everything, in words. */
  covers: string;
  /** Released in what the agreement counts. */
  released: string;
}

/** An order line released and not shipped at all, which new terms may price anew. */
export interface OpenLine {
  id: number;
  orderId: number;
  order: string;
  lineNo: number;
  item: string;
  agreementLineId: number;
  quantity: string;
  unitPrice: string;
  listPrice: string;
  amount: string;
  agreedAmount: string | null;
}

export interface RevisionGround extends AgreementGround {
  terms: Omit<AgreementTerms, 'lines'>;
  lines: readonly RevisedLine[];
  open: readonly OpenLine[];
  /** What its currency is worth on the day: where a rebate changes, what is owed of it is posted. // P8 */
  exchange: ExchangeOf;
}

export interface RevisionTyped extends AgreementTerms {
  reason: string;
  /** Price open lines anew; else they keep their terms. */
  reprice: boolean;
  lines: (TypedTerm & { id: number | null })[];
}

/** As it is sent: party, side and basis stay as agreed. */
export type RevisionAsked = Omit<
  RevisionTyped,
  'side' | 'basis' | 'customerId' | 'vendorId' | 'salesOrganisationId'
> & { salesOrganisationId?: number | null | undefined };

export interface Repriced {
  line: OpenLine;
  unitPrice: string;
  amount: string;
}

export interface RevisionEffects {
  terms: AgreementEffects;
  /** Ids of the lines in the order typed; null for new ones. */
  lineIds: (number | null)[];
  removedLineIds: number[];
  changes: LineChange[];
  /** Open lines the new terms price otherwise: repriced where that was chosen, else only to be shown. */
  repriced: Repriced[];
  reason: string;
}

/**
 * Changes an agreement after approval: a numbered revision with its reason and a field by field difference. // A15
 * Party, side and basis stay. A line with releases stays, and never commits to less than was released of it.
 */
export function decideRevision(ground: RevisionGround, asked: RevisionAsked): Decision<RevisionEffects> {
  const { side, basis, customerId, vendorId } = ground.terms;
  const salesOrganisationId = asked.salesOrganisationId ?? ground.terms.salesOrganisationId;
  const typed: RevisionTyped = { ...asked, side, basis, customerId, vendorId, salesOrganisationId };
  const refusals: Refusal[] = [];
  const { current } = ground;
  if (current && current.state !== 'in-force' && current.state !== 'paused') {
    const facts = { agreement: current.number, state: current.state, needed: 'in-force' };
    refusals.push(refuse('agreement-not-so', '', facts));
  }
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  refusals.push(...lineRefusals(ground, typed));
  if (ground.terms.rebate.kind !== 'none' || typed.rebate.kind !== 'none') {
    refusals.push(...rateRefusals(ground.exchange, 'rebate'));
  }
  const asDraft = { ...ground, current: null };
  const terms = decideTerms(asDraft, typed);
  if (!terms.ok) refusals.push(...terms.refusals);
  const changes = terms.ok ? changesOf(ground, terms.effects, typed) : [];
  if (terms.ok && refusals.length === 0 && changes.length === 0) {
    refusals.push(refuse('nothing-changed', '', { agreement: current?.number ?? '' }));
  }
  return decided(refusals, () => ({
    terms: (terms as { effects: AgreementEffects }).effects,
    lineIds: typed.lines.map((line) => line.id),
    removedLineIds: ground.lines.filter((line) => !typed.lines.some((each) => each.id === line.id)).map(({ id }) => id),
    changes,
    repriced: repricedOf(ground, typed),
    reason: typed.reason.trim(),
  }));
}

function lineRefusals(ground: RevisionGround, typed: RevisionTyped): Refusal[] {
  const refusals: Refusal[] = [];
  for (const line of ground.lines) {
    const index = typed.lines.findIndex((each) => each.id === line.id);
    const kept = typed.lines[index];
    if (dec(line.released).lte(0)) continue;
    const facts = { item: line.covers, released: line.released };
    const at = (field: string) => `lines.${index}.${field}`;
    if (!kept) refusals.push(refuse('line-released', 'lines', facts));
    else if (kept.itemId !== line.itemId || kept.groupId !== line.groupId) {
      refusals.push(refuse('line-released', at('itemId'), facts));
    } else if (/^\d+(\.\d+)?$/.test(kept.committed) && dec(kept.committed).lt(line.released)) {
      refusals.push(refuse('below-released', at('committed'), facts));
    }
  }
  typed.lines.forEach((line, index) => {
    if (line.id !== null && !ground.lines.some((each) => each.id === line.id)) {
      refusals.push(refuse('unknown', `lines.${index}.id`, { what: 'This agreement line' }));
    }
  });
  return refusals;
}

/** Every open line whose price the new terms would change; its quantity stays. // A15 */
function repricedOf(ground: RevisionGround, typed: RevisionTyped): Repriced[] {
  const currency = ground.party?.currency ?? 'MYR';
  return ground.open.flatMap((line) => {
    const term = typed.lines.find((each) => each.id === line.agreementLineId);
    // A line at a mixed price was split at a limit; it keeps what was agreed on it.
    if (!term || line.agreedAmount !== null) return [];
    const unitPrice = agreedPrice(term, dec(line.quantity), line.listPrice);
    if (unitPrice.eq(line.unitPrice)) return [];
    const amount = lineAmount(dec(line.quantity), unitPrice, currency);
    return [{ line, unitPrice: unitPrice.toFixed(), amount: amount.toFixed() }];
  });
}

const dayWords = (day: Day | null) => (day !== null && isDay(day) ? dayText(day, '') : '–');
const orDash = (text: string) => text || '–';

function changesOf(ground: RevisionGround, terms: AgreementEffects, typed: RevisionTyped): LineChange[] {
  const before = ground.terms;
  const changes: LineChange[] = [];
  const compare = (what: string, was: string, is: string) => {
    if (was !== is) changes.push({ what, was: orDash(was), is: orDash(is) });
  };
  compare('About', before.title, terms.title.trim());
  compare('First day', dayWords(before.firstDay), dayWords(terms.firstDay));
  compare('Last day', dayWords(before.lastDay), dayWords(terms.lastDay));
  compare('Signed', dayWords(before.signedOn), dayWords(terms.signedOn));
  compare('At the limit', before.limitPolicy, terms.limitPolicy);
  compare('Tolerance, per cent', decimalText(before.tolerancePercent), decimalText(terms.tolerancePercent));
  compare('Limit on the whole', before.wholeLimit, terms.wholeLimit.trim());
  compare('Probability, per cent', decimalText(before.probabilityPercent), decimalText(terms.probabilityPercent));
  compare('What is in no plan', REST_WORDS[before.restPlan], REST_WORDS[terms.restPlan]);
  const counted = (yes: boolean | undefined) => (yes ? 'count' : 'do not count');
  compare('Free goods', counted(before.freeGoodsCount), counted(terms.freeGoodsCount));
  compare('Priority', before.priority, String(terms.priority));
  compare('Notes', before.notes, terms.notes);
  compare('Rebate', rebateWords(before.rebate), rebateWords(terms.rebate));
  compare('Reminders', before.reminders.map(reminderWords).join('; '), terms.reminders.map(reminderWords).join('; '));
  compare('Released by itself, days ahead', before.releaseAhead, terms.releaseAhead);
  for (const line of ground.lines) {
    const now = typed.lines.find((each) => each.id === line.id);
    const named = (what: string) => `Line ${line.lineNo}, ${line.covers}: ${what}`;
    if (!now) {
      changes.push({ what: named('removed'), was: lineWords(line), is: '–' });
      continue;
    }
    compare(named('committed'), decimalText(line.committed), decimalText(now.committed));
    compare(named('price'), priceWords(line), priceWords(now));
    compare(named('price breaks'), breakWords(line), breakWords(now));
    compare(named('least release'), decimalText(line.leastRelease), decimalText(now.leastRelease));
    compare(named('multiple'), decimalText(line.releaseMultiple), decimalText(now.releaseMultiple));
    compare(named('notes'), line.notes, now.notes.trim());
  }
  for (const line of typed.lines.filter((each) => each.id === null)) {
    const item =
      ground.items.get(line.itemId ?? 0)?.number ?? ground.groups.get(line.groupId ?? 0)?.code ?? 'everything';
    changes.push({ what: `New line, ${item}`, was: '–', is: lineWords(line) });
  }
  return changes;
}

const decimalText = (text: string) => (/^-?\d+(\.\d+)?$/.test(text) ? dec(text).toFixed() : text);

function priceWords(term: PriceTerm): string {
  if (term.priceKind === 'none') return 'the list price';
  return term.priceKind === 'discount' ? `${decimalText(term.priceValue)} % off` : decimalText(term.priceValue);
}

const breakWords = ({ breaks }: PriceTerm) =>
  breaks.map(({ from, value }) => `${decimalText(value)} from ${decimalText(from)}`).join('; ');

const lineWords = (line: TypedTerm) => `${decimalText(line.committed)} at ${priceWords(line)}`;

function rebateWords({ kind, by, tiers }: AgreementTerms['rebate']): string {
  if (kind === 'none') return 'none';
  const rate = (text: string) => (by === 'value' ? `${decimalText(text)} %` : decimalText(text));
  return `${kind}, by ${by}: ${tiers.map((tier) => `${rate(tier.rate)} from ${decimalText(tier.from)}`).join('; ')}`;
}

/** Sum of what repricing changes each agreement line's released value by. // A4 */
export function repricedValue(
  repriced: readonly Repriced[],
): { agreementLineId: number; quantity: string; value: string }[] {
  const byLine = new Map<number, ReturnType<typeof dec>>();
  for (const { line, amount } of repriced) {
    byLine.set(line.agreementLineId, (byLine.get(line.agreementLineId) ?? ZERO).plus(amount).minus(line.amount));
  }
  return [...byLine].map(([agreementLineId, value]) => ({ agreementLineId, quantity: '0', value: value.toFixed() }));
}

/** How what is left and in no plan counts in planning, in words. // A7 */
export const REST_WORDS: Readonly<Record<RestPlan, string>> = {
  spread: 'spread over the days left',
  last: 'all on the last day',
  none: 'not planned for',
};
