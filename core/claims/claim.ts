import { dec, isMoneyText, priceText, sum, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** A claim as it stands. */
export interface ClaimNow {
  number: string;
  currency: string;
  vendorId: number;
  amount: string;
  settled: string;
  withdrawn: boolean;
}

/** Claims of a vendor what was accrued up to a day and is on no claim yet. // S13 */
export function decideClaim(
  vendor: { name: string; currency: string } | null,
  accrued: readonly { id: number; amount: string }[],
  until: Day,
  workDate: Day,
): Decision<{ amount: string; accrualIds: number[] }> {
  const refusals: Refusal[] = [];
  const amount = sum(accrued.map((each) => dec(each.amount)));
  if (!vendor) refusals.push(refuse('required', 'vendorId', { what: 'The vendor' }));
  else if (amount.lte(0)) refusals.push(refuse('nothing-to-claim', '', { vendor: vendor.name, day: until }));
  if (until > workDate) refusals.push(refuse('day-to-come', 'until', { day: until, workDate }));
  return decided(refusals, () => ({ amount: amount.toFixed(), accrualIds: accrued.map(({ id }) => id) }));
}

const openRefusals = ({ number, amount, settled, withdrawn }: ClaimNow): Refusal[] =>
  withdrawn || dec(settled).gte(amount) ? [refuse('claim-not-open', '', { claim: number })] : [];

/** An amount that is typed, of what is left; all of it where nothing is. */
function amountOf(claim: ClaimNow, typed: string, most: Dec, refusals: Refusal[]): Dec {
  const left = dec(claim.amount).minus(claim.settled);
  const open = left.lt(most) ? left : most;
  const text = typed.trim();
  if (text === '') return open;
  if (!isMoneyText(text, claim.currency)) refusals.push(refuse('not-a-number', 'amount', { what: 'The amount' }));
  else if (dec(text).lte(0)) refusals.push(refuse('not-above-zero', 'amount', { what: 'The amount' }));
  else if (dec(text).gt(open)) {
    const facts = { asked: priceText(text, claim.currency), left: priceText(open, claim.currency) };
    refusals.push(refuse('above-claim', 'amount', { claim: claim.number, ...facts }));
  } else return dec(text);
  return open;
}

/** An invoice of a vendor with what is owed on it. */
export interface OwedToVendor {
  number: string;
  vendorId: number;
  currency: string;
  owed: string;
}

/** Settles a claim against an invoice of the vendor it is of: both by so much, never more than either has left. // S13 */
export function decideClaimSettled(
  claim: ClaimNow,
  invoice: OwedToVendor | null,
  typed: string,
): Decision<{ amount: string }> {
  const refusals = openRefusals(claim);
  if (!invoice) refusals.push(refuse('required', 'openItemId', { what: 'The invoice' }));
  else if (invoice.vendorId !== claim.vendorId) {
    refusals.push(refuse('not-of-vendor', 'openItemId', { invoice: invoice.number }));
  } else if (invoice.currency !== claim.currency) {
    refusals.push(refuse('claim-currency', 'openItemId', { claim: claim.number, currency: claim.currency }));
  } else if (dec(invoice.owed).lte(0)) {
    refusals.push(refuse('nothing-owed', 'openItemId', { invoice: invoice.number }));
  }
  if (refusals.length > 0) return { ok: false, refusals };
  const amount = amountOf(claim, typed, dec(invoice!.owed), refusals);
  return decided(refusals, () => ({ amount: amount.toFixed() }));
}

/** A claim that the vendor pays into the bank, all or in part. */
export function decideClaimPaid(claim: ClaimNow, typed: string): Decision<{ amount: string }> {
  const refusals = openRefusals(claim);
  if (refusals.length > 0) return { ok: false, refusals };
  const amount = amountOf(claim, typed, dec(claim.amount), refusals);
  return decided(refusals, () => ({ amount: amount.toFixed() }));
}

/** What is left of a claim is given up, with why. */
export function decideClaimLost(claim: ClaimNow, reason: string): Decision<{ amount: string; reason: string }> {
  const refusals = openRefusals(claim);
  if (reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'Why it is given up' }));
  return decided(refusals, () => ({
    amount: dec(claim.amount).minus(claim.settled).toFixed(),
    reason: reason.trim(),
  }));
}

/** A claim nothing was settled of is withdrawn: what is on it can be claimed again. */
export function decideClaimBack(claim: ClaimNow, reason: string): Decision<{ reason: string }> {
  const refusals: Refusal[] = [];
  if (claim.withdrawn || dec(claim.settled).gt(0)) {
    refusals.push(refuse('claim-not-open', '', { claim: claim.number }));
  }
  if (reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'Why it is withdrawn' }));
  return decided(refusals, () => ({ reason: reason.trim() }));
}
