import { isDay, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { standsAgainst, type OfferNow } from './take';

/** What was taken is changed or cancelled with the sister, not returned. */
function waitsUntaken(offer: OfferNow, revision: number): Refusal[] {
  const stands = standsAgainst(offer, revision);
  if (stands) return [stands];
  const taken = offer.state === 'taken' || offer.state === 'folded';
  return taken ? [refuse('offer-taken', '', { number: offer.number, sister: offer.sister })] : [];
}

/** Gives an offer back to its sender, with why. // X2 */
export function decideReturn(
  offer: OfferNow,
  typed: { revision: number; reason: string },
): Decision<{ reason: string }> {
  const refusals = waitsUntaken(offer, typed.revision);
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  return decided(refusals, () => ({ reason: typed.reason.trim() }));
}

/** Sets an offer aside until a day that is still to come: Today brings it back then. // X2 */
export function decideAside(
  offer: OfferNow,
  typed: { revision: number; reason: string; untilDay: string | null },
  workDate: Day,
): Decision<{ reason: string; untilDay: Day }> {
  const refusals = waitsUntaken(offer, typed.revision);
  const { untilDay } = typed;
  if (untilDay === null || untilDay === '') refusals.push(refuse('required', 'untilDay', { what: 'The day' }));
  else if (!isDay(untilDay)) refusals.push(refuse('not-a-day', 'untilDay', { what: 'The day' }));
  else if (untilDay <= workDate) refusals.push(refuse('day-not-ahead', 'untilDay', { what: 'The day' }));
  return decided(refusals, () => ({ reason: typed.reason.trim(), untilDay: untilDay! }));
}
