import { dec, isMoneyText, priceText } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { countedCash, inCash, type PieceCount } from './cash';

/** A till with its open drawer. */
export interface TillNow {
  name: string;
  currency: string;
  drawer: { id: number; number: string; cash: string } | null;
}

/** A drawer to be paid from and into; refused where there is none. // C4 */
export function drawerRefusals(till: TillNow): Refusal[] {
  return till.drawer === null ? [refuse('drawer-closed', '', { till: till.name })] : [];
}

/** A drawer is opened with what is counted into it. // C4 */
export function decideOpenDrawer(
  till: TillNow,
  { counts }: { counts: readonly PieceCount[] },
): Decision<{ float: string; counts: PieceCount[] }> {
  const refusals: Refusal[] = [];
  if (till.drawer !== null) {
    refusals.push(refuse('drawer-open', '', { till: till.name, drawer: till.drawer.number }));
  }
  const counted = countedCash(counts, till.currency, 'counts');
  refusals.push(...counted.refusals);
  return decided(refusals, () => ({ float: counted.total.toFixed(), counts: written(counts) }));
}

/** Money is put in, or (below zero) taken out, and why. Never more is taken than is in it. // C4 */
export function decideDrawerMove(
  till: TillNow,
  { amount, reason }: { amount: string; reason: string },
): Decision<{ amount: string; reason: string }> {
  const refusals = drawerRefusals(till);
  const { currency } = till;
  const money = isMoneyText(amount.trim().replace(/^-/, ''), currency) ? dec(amount) : null;
  if (money === null || money.eq(0))
    refusals.push(refuse('not-a-number', 'amount', { what: `The amount in ${currency}` }));
  else if (!money.eq(inCash(money, currency))) {
    refusals.push(
      refuse('no-such-change', 'amount', { given: priceText(money, currency), change: priceText(money, currency) }),
    );
  } else if (till.drawer && money.neg().gt(till.drawer.cash)) {
    const facts = {
      drawer: till.drawer.number,
      asked: priceText(money.neg(), currency),
      cash: priceText(till.drawer.cash, currency),
    };
    refusals.push(refuse('not-in-drawer', 'amount', facts));
  }
  if (reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  return decided(refusals, () => ({ amount: money!.toFixed(), reason: reason.trim() }));
}

export interface DrawerClosed {
  counted: string;
  expected: string;
  /** Above zero where there is more than should be. */
  difference: string;
  reason: string;
  counts: PieceCount[];
}

/**
 * A drawer is closed with what is counted in it, by note and coin; why it is not what it should be is asked where it is not.
 * Card payments that are on no slip are to be seen to first. // C4
 */
export function decideCloseDrawer(
  till: TillNow & { hanging: number },
  { counts, reason }: { counts: readonly PieceCount[]; reason: string },
): Decision<DrawerClosed> {
  const refusals = drawerRefusals(till);
  const { currency } = till;
  const counted = countedCash(counts, currency, 'counts');
  refusals.push(...counted.refusals);
  if (till.hanging > 0) refusals.push(refuse('cards-hanging', '', { count: String(till.hanging) }));
  const expected = dec(till.drawer?.cash ?? '0');
  const difference = counted.total.minus(expected);
  const effects = (): DrawerClosed => ({
    counted: counted.total.toFixed(),
    expected: expected.toFixed(),
    difference: difference.toFixed(),
    reason: difference.eq(0) ? '' : reason.trim(),
    counts: written(counts),
  });
  if (refusals.length === 0 && !difference.eq(0) && reason.trim() === '') {
    const facts = { difference: priceText(difference.abs(), currency), way: difference.gt(0) ? 'more' : 'less' };
    // What it comes to is shown all the same: that is what is asked about.
    return { ok: false, refusals: [refuse('drawer-differs', 'reason', facts)], effects: effects() };
  }
  return decided(refusals, effects);
}

const written = (counts: readonly PieceCount[]) =>
  counts.filter(({ count }) => count.trim() !== '' && dec(count).gt(0)).map((each) => ({ ...each }));
