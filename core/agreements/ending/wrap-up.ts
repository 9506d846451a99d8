import {
  addDays,
  daysBetween,
  dec,
  isDay,
  known,
  lineAmount,
  most,
  ownOf,
  priceText,
  sum,
  ZERO,
  type Day,
  type Dec,
  type ExchangeOf,
} from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { agreedPrice } from '../terms/price';
import { committedLine, type AgreementEffects, type AgreementState, type TypedTerm } from '../terms/terms';

/**
 * What is decided at an agreement's end: nothing is left (`end`), what is left is waived, or charged by an invoice draft,
 * the last day is moved, or a new draft follows it. // A11
 */
export const WRAP_UPS = ['end', 'waive', 'charge', 'extend', 'renew'] as const;
export type WrapUp = (typeof WRAP_UPS)[number];

/** Pauses an agreement in force, or lets a paused one go on. Paused, it neither prices nor releases. // A2 */
export function decidePause(
  agreement: { number: string; state: AgreementState },
  pause: boolean,
): Decision<{ state: AgreementState }> {
  const from = pause ? 'in-force' : 'paused';
  const refusals =
    agreement.state === from
      ? []
      : [refuse('agreement-not-so', '', { agreement: agreement.number, state: agreement.state, needed: from })];
  return decided(refusals, () => ({ state: pause ? ('paused' as const) : ('in-force' as const) }));
}

/** Cancels a draft nobody agreed to. */
export function decideCancelAgreement(agreement: {
  number: string;
  state: AgreementState;
}): Decision<{ state: AgreementState }> {
  const refusals =
    agreement.state === 'draft'
      ? []
      : [refuse('agreement-not-so', '', { agreement: agreement.number, state: agreement.state, needed: 'draft' })];
  return decided(refusals, () => ({ state: 'cancelled' as const }));
}

/** A line at the end of its agreement; `committed` is a quantity or an amount, as typed. */
export interface WrapUpLine extends TypedTerm {
  id: number;
  /** Its item, its group, or that it covers everything, in words. */
  item: string;
  listPrice: string;
  /** Released in what the agreement counts: units or value. */
  released: string;
  /** For charging what was not taken. */
  taxCodeId: number;
  taxRate: string;
}

export interface WrapUpGround {
  agreement: Omit<AgreementEffects, 'lines'> & { number: string; state: AgreementState };
  lines: readonly WrapUpLine[];
  /** Prepayments with something left. // A12 */
  prepayments: readonly { id: number; left: string; carried: string }[];
  /** What its currency is worth on the day money is paid back. // P8 */
  exchange: ExchangeOf;
}

export interface WrapUpTyped {
  decision: WrapUp;
  /** The new last day, to extend. */
  lastDay: Day | null;
  /** To renew: what is left is added to what is committed anew. */
  carry: boolean;
  /** What becomes of prepayments that are left; needed where there are any and it ends. // A12 */
  prepayments?: 'return' | 'carry' | undefined;
}

export interface ShortfallLine {
  agreementLineId: number;
  quantity: string;
  unitPrice: string;
  net: string;
  taxCodeId: number;
  taxRate: string;
}

export interface WrapUpEffects {
  state: AgreementState;
  decision: WrapUp;
  lastDay: Day;
  left: { agreementLineId: number; item: string; quantity: string }[];
  renewal: AgreementEffects | null;
  /** The invoice draft for what was not taken; empty unless it is charged. */
  shortfall: ShortfallLine[];
  prepayments: 'return' | 'carry' | null;
  /** What of prepayments is paid back, in the company's currency as it is worth and as it was taken. // P8 */
  paidBack: { id: number; amount: string; worth: string; carried: string }[];
}

/** What is left to release of each line that has something left. // A4 A11 */
function leftOver(lines: readonly WrapUpLine[]): { line: WrapUpLine; left: Dec }[] {
  return lines
    .map((line) => ({ line, left: most(ZERO, dec(line.committed).minus(line.released)) }))
    .filter(({ left }) => left.gt(0));
}

/** Ends an agreement, or moves its end; with a remainder something must be decided about it. // A11 */
export function decideWrapUp(ground: WrapUpGround, typed: WrapUpTyped, workDate: Day): Decision<WrapUpEffects> {
  const { agreement, lines } = ground;
  const refusals: Refusal[] = [];
  if (agreement.state !== 'in-force' && agreement.state !== 'paused') {
    const facts = { agreement: agreement.number, state: agreement.state, needed: 'in-force' };
    refusals.push(refuse('agreement-not-so', '', facts));
  }
  const left = leftOver(lines);
  if (typed.decision === 'end' && left.length > 0) {
    refusals.push(
      refuse('remainder-undecided', 'decision', {
        agreement: agreement.number,
        what: left.map((each) => `${each.left.toFixed()} of ${each.line.item}`).join(', '),
      }),
    );
  }
  if (typed.decision === 'extend') refusals.push(...extendRefusals(agreement.lastDay, typed.lastDay, workDate));
  else refusals.push(...prepaidRefusals(ground, typed));
  if (typed.decision === 'charge') {
    if (agreement.side === 'buying') refusals.push(refuse('charge-is-theirs', 'decision', {}));
    else if (left.length === 0) refusals.push(refuse('nothing-to-charge', 'decision', { agreement: agreement.number }));
  }
  return decided(refusals, () => ({
    state: typed.decision === 'extend' ? agreement.state : ('ended' as const),
    decision: typed.decision,
    lastDay: typed.decision === 'extend' ? typed.lastDay! : agreement.lastDay,
    left: left.map((each) => ({
      agreementLineId: each.line.id,
      item: each.line.item,
      quantity: each.left.toFixed(),
    })),
    renewal: typed.decision === 'renew' ? renewalOf(ground, typed.carry, workDate) : null,
    shortfall: typed.decision === 'charge' ? shortfallOf(ground) : [],
    prepayments: typed.decision !== 'extend' && ground.prepayments.length > 0 ? typed.prepayments! : null,
    paidBack: paidBackOf(ground, typed),
  }));
}

function prepaidRefusals({ agreement, prepayments, exchange }: WrapUpGround, typed: WrapUpTyped): Refusal[] {
  if (prepayments.length === 0) return [];
  const left = sum(prepayments.map((each) => dec(each.left)));
  const facts = {
    agreement: agreement.number,
    left: priceText(left, agreement.currency),
    currency: agreement.currency,
  };
  if (typed.prepayments === 'return') return rateRefusals(exchange, 'prepayments');
  if (!typed.prepayments) return [refuse('prepayment-undecided', 'prepayments', facts)];
  return typed.prepayments === 'carry' && typed.decision !== 'renew'
    ? [refuse('nothing-to-carry-to', 'prepayments', facts)]
    : [];
}

function paidBackOf({ prepayments, exchange }: WrapUpGround, typed: WrapUpTyped): WrapUpEffects['paidBack'] {
  if (typed.decision === 'extend' || typed.prepayments !== 'return') return [];
  return prepayments.map(({ id, left, carried }) => ({
    id,
    amount: left,
    worth: ownOf(left, known(exchange)).toFixed(),
    carried,
  }));
}

/** What was not taken, at its agreed price of today; the value itself where the agreement is by value. // A11 */
export function shortfallOf({ agreement, lines }: Pick<WrapUpGround, 'agreement' | 'lines'>): ShortfallLine[] {
  return leftOver(lines).map(({ line, left }) => {
    const quantity = agreement.basis === 'value' ? dec(1) : left;
    const unitPrice = agreement.basis === 'value' ? left : agreedPrice({ ...line, breaks: [] }, left, line.listPrice);
    return {
      agreementLineId: line.id,
      quantity: quantity.toFixed(),
      unitPrice: unitPrice.toFixed(),
      net: lineAmount(quantity, unitPrice, agreement.currency).toFixed(),
      taxCodeId: line.taxCodeId,
      taxRate: line.taxRate,
    };
  });
}

function extendRefusals(lastDay: Day, moved: Day | null, workDate: Day): Refusal[] {
  if (moved === null) return [refuse('required', 'lastDay', { what: 'The new last day' })];
  if (!isDay(moved)) return [refuse('not-a-day', 'lastDay', { what: 'The new last day' })];
  return moved <= lastDay || moved < workDate ? [refuse('not-extended', 'lastDay', { last: lastDay, workDate })] : [];
}

/** The same terms for a term as long, from the day after the last day or the work date, whichever is later. */
function renewalOf({ agreement, lines }: WrapUpGround, carry: boolean, workDate: Day): AgreementEffects {
  const { number: _number, state: _state, ...head } = agreement;
  const firstDay = addDays(agreement.lastDay < workDate ? workDate : agreement.lastDay, 1);
  return {
    ...head,
    firstDay,
    lastDay: addDays(firstDay, daysBetween(agreement.firstDay, agreement.lastDay)),
    signedOn: null,
    lines: lines.map(
      ({ id: _id, item: _item, listPrice, released, taxCodeId: _taxCodeId, taxRate: _taxRate, ...term }) => {
        const left = most(ZERO, dec(term.committed).minus(released));
        const committed = carry ? dec(term.committed).plus(left).toFixed() : term.committed;
        return committedLine({ ...term, committed }, agreement.basis, listPrice, agreement.currency);
      },
    ),
  };
}
