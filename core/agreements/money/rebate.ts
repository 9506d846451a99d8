import {
  balanceChange,
  currencyPlaces,
  dec,
  isDecimalText,
  least,
  roundHalfAway,
  ZERO,
  type Both,
  type Day,
  type Dec,
  type Exchange,
} from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';

/** No rebate; the reached rate on everything (`whole`); or each tier's rate on its own slice (`step`). // A10 */
export const REBATE_KINDS = ['none', 'whole', 'step'] as const;
export type RebateKind = (typeof REBATE_KINDS)[number];

/** What the tiers count: the value invoiced, with rates in per cent; or the units, with an amount for each unit. // A10 */
export const REBATE_BASES = ['value', 'quantity'] as const;
export type RebateBasis = (typeof REBATE_BASES)[number];

export interface RebateTier {
  /** Reached at this value or quantity; `0` from the first one on. */
  from: string;
  /** Per cent, or an amount per unit. */
  rate: string;
}

export interface Rebate {
  kind: RebateKind;
  by: RebateBasis;
  tiers: readonly RebateTier[];
}

export const NO_REBATE: Rebate = { kind: 'none', by: 'value', tiers: [] };

/** What of a rebate one unit of its base earns at a rate. */
const earned = (base: Dec, rate: string, by: RebateBasis) =>
  by === 'value' ? base.times(rate).div(100) : base.times(rate);

/**
 * What is owed for what was invoiced in the term so far, in the currency's places, half away from zero. // A10 P7
 * `invoiced` is a value or a quantity, as the tiers are by; nothing is owed on zero or less. O(tiers).
 */
export function rebateOwed({ kind, by, tiers }: Rebate, invoiced: Dec, currency: string): Dec {
  if (kind === 'none' || invoiced.lte(0)) return ZERO;
  let owed = ZERO;
  tiers.forEach((tier, index) => {
    if (invoiced.lt(tier.from)) return;
    if (kind === 'whole') owed = earned(invoiced, tier.rate, by);
    else {
      const next = tiers[index + 1];
      const end = next ? least(invoiced, dec(next.from)) : invoiced;
      owed = owed.plus(earned(end.minus(tier.from), tier.rate, by));
    }
  });
  return roundHalfAway(owed, currencyPlaces(currency));
}

/** The tier reached, and the coming one with what is missing to it. // A10 */
export function tierAt(
  { tiers }: Rebate,
  invoiced: Dec,
): { reached: RebateTier | null; coming: (RebateTier & { missing: Dec }) | null } {
  const coming = tiers.find((tier) => invoiced.lt(tier.from));
  return {
    reached: tiers.filter((tier) => invoiced.gte(tier.from)).at(-1) ?? null,
    coming: coming ? { ...coming, missing: dec(coming.from).minus(invoiced) } : null,
  };
}

/** Tiers as typed: at least one where there is a rebate, rising, each with a rate above zero. // A10 */
export function rebateRefusals({ kind, by, tiers }: Rebate): Refusal[] {
  const field = 'rebate.tiers';
  if (kind === 'none') return tiers.length > 0 ? [refuse('tiers-without-rebate', field, {})] : [];
  if (tiers.length === 0) return [refuse('required', field, { what: 'A rebate tier' })];
  const refusals: Refusal[] = [];
  let before: Dec = dec(-1);
  for (const { from, rate } of tiers) {
    const kindOf = by === 'value' ? 'price' : 'quantity';
    if (!isDecimalText(from, kindOf) || dec(from).lt(0)) {
      refusals.push(refuse('not-a-number', field, { what: 'The start of a rebate tier' }));
      continue;
    }
    if (!isDecimalText(rate, by === 'value' ? 'percent' : 'price') || dec(rate).lte(0)) {
      refusals.push(refuse('not-above-zero', field, { what: 'The rate of a rebate tier' }));
    } else if (by === 'value' && dec(rate).gt(100)) {
      refusals.push(refuse('not-a-percent', field, { what: 'The rate of a rebate tier' }));
    }
    if (dec(from).lte(before)) refusals.push(refuse('breaks-not-rising', field, { from }));
    before = dec(from);
  }
  return refusals;
}

/** A rebate as it stands. */
export interface RebateState {
  agreementId: number;
  rebate: Rebate;
  firstDay: Day;
  lastDay: Day;
  currency: string;
  /** Invoiced in the term, less credited. */
  value: string;
  quantity: string;
  accrued: string;
  settled: string;
  /** What is accrued and not settled, as it is carried in the company's currency. // P8 */
  carried: string;
}

export interface RebateAccrual {
  agreementId: number;
  value: string;
  quantity: string;
  /** The change in what is owed; below zero where it falls. */
  accrued: string;
  /** The same in the company's currency. // P8 */
  ownAccrued: string;
}

/**
 * What an invoice (above zero) or a credit note (below) of that day does to a rebate; null where there is none, or the
 * day is outside the term. Summed over all of them it is always what the tiers say of the sum. // A10
 */
export function accrualOf(
  state: RebateState,
  change: { value: Dec; quantity: Dec },
  day: Day,
  exchange: Exchange,
): RebateAccrual | null {
  if (state.rebate.kind === 'none' || day < state.firstDay || day > state.lastDay) return null;
  const base =
    state.rebate.by === 'value' ? dec(state.value).plus(change.value) : dec(state.quantity).plus(change.quantity);
  const owed = rebateOwed(state.rebate, base, state.currency);
  return {
    agreementId: state.agreementId,
    value: change.value.toFixed(),
    quantity: change.quantity.toFixed(),
    ...accruedBy(state, owed, exchange),
  };
}

/** What a rebate changes by in both currencies where so much is owed of it now. // A10 P8 */
export function accruedBy(
  state: Pick<RebateState, 'accrued' | 'settled' | 'carried'>,
  owed: Dec,
  exchange: Exchange,
): Pick<RebateAccrual, 'accrued' | 'ownAccrued'> {
  const accrued = owed.minus(state.accrued);
  return {
    accrued: accrued.toFixed(),
    ownAccrued: balanceChange(rebateBalance(state), accrued, exchange).toFixed(),
  };
}

/** What is accrued of a rebate and not settled, in both currencies. */
export const rebateBalance = ({
  accrued,
  settled,
  carried,
}: Pick<RebateState, 'accrued' | 'settled' | 'carried'>): Both => ({
  amount: dec(accrued).minus(settled),
  own: dec(carried),
});
