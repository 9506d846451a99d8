import { addDays, daysBetween, dec, isDay, least, ZERO, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { AgreementState } from '../terms/terms';
import { aboveZero } from '../terms/terms';

/** An expected release of one agreement line. // A7 */
export interface PlannedCall {
  day: Day;
  quantity: string;
  skipped: boolean;
}

/** What was really released, by ship date. */
export interface Released {
  day: Day;
  quantity: string;
}

/** Where a plan has one call only, releases up to this many days before it belong to it. */
const LONE_CALL_DAYS = 31;

/** The first day of the time a plan is for: one gap between its calls before the first. */
function planBegins(calls: readonly PlannedCall[]): Day | null {
  const days = calls.map((call) => call.day).sort();
  if (days.length === 0) return null;
  const gaps = days.slice(1).map((day, index) => daysBetween(days[index]!, day));
  return addDays(days[0]!, -(gaps.length > 0 ? Math.min(...gaps) : LONE_CALL_DAYS));
}

/**
 * What is left of each planned call once every real release has used up the plan nearest to its ship date; // A7
 * of two equally near the earlier. What was released before the time the plan is for uses up none of it. Skipped calls
 * expect nothing. Releases are taken by day, so the answer does not
 * depend on the order of the rows. The rests and what was used never sum to more than was planned. O(calls × releases).
 */
export function unconsumed(calls: readonly PlannedCall[], releases: readonly Released[]): Dec[] {
  const rests = calls.map((call) => (call.skipped ? ZERO : dec(call.quantity)));
  const begins = planBegins(calls);
  const ofPlan = releases.filter((release) => begins !== null && release.day >= begins);
  const inOrder = ofPlan.sort((a, b) => a.day.localeCompare(b.day) || dec(a.quantity).cmp(b.quantity));
  for (const release of inOrder) {
    let open = dec(release.quantity);
    while (open.gt(0)) {
      const at = nearest(calls, rests, release.day);
      if (at === null) break;
      const used = least(open, rests[at]!);
      rests[at] = rests[at]!.minus(used);
      open = open.minus(used);
    }
  }
  return rests;
}

function nearest(calls: readonly PlannedCall[], rests: readonly Dec[], day: Day): number | null {
  let best: number | null = null;
  calls.forEach((call, index) => {
    if (rests[index]!.lte(0)) return;
    if (best === null) {
      best = index;
      return;
    }
    const away = Math.abs(daysBetween(day, call.day)) - Math.abs(daysBetween(day, calls[best]!.day));
    if (away < 0 || (away === 0 && call.day < calls[best]!.day)) best = index;
  });
  return best;
}

export interface PlanGround {
  agreement: { number: string; state: AgreementState; firstDay: Day; lastDay: Day };
  lines: readonly { id: number; item: string }[];
  /** Ids of the customer's ship-to addresses. */
  shipToIds?: readonly number[];
}

export interface PlanTyped {
  /** Where planned calls go when they release themselves. */
  shipToId?: number | null | undefined;
  lines: {
    agreementLineId: number;
    calls: { day: Day | null; quantity: string; skipped: boolean; rule: string }[];
  }[];
}

export interface PlanEffects {
  lines: { agreementLineId: number; calls: (PlannedCall & { rule: string })[] }[];
}

/** Replaces the plan of the lines named; each date once a line and inside the period. // A7 G4 */
export function decidePlan(ground: PlanGround, typed: PlanTyped): Decision<PlanEffects> {
  const { agreement } = ground;
  const refusals: Refusal[] = [];
  if (agreement.state !== 'in-force' && agreement.state !== 'paused') {
    refusals.push(refuse('agreement-not-in-force', '', { agreement: agreement.number, state: agreement.state }));
  }
  if (typed.shipToId && !ground.shipToIds?.includes(typed.shipToId)) {
    refusals.push(refuse('unknown', 'shipToId', { what: 'This ship-to address' }));
  }
  typed.lines.forEach((line, lineIndex) => {
    const known = ground.lines.find((each) => each.id === line.agreementLineId);
    if (!known) {
      refusals.push(refuse('unknown', `lines.${lineIndex}.agreementLineId`, { what: 'This agreement line' }));
      return;
    }
    const seen = new Set<Day>();
    line.calls.forEach((call, index) => {
      const at = (field: string) => `lines.${lineIndex}.calls.${index}.${field}`;
      refusals.push(...aboveZero(call.quantity, 'quantity', at('quantity'), 'The planned quantity'));
      refusals.push(...dayRefusals(agreement, known.item, call.day, seen, at('day')));
      if (call.day !== null) seen.add(call.day);
    });
  });
  return decided(refusals, () => ({
    lines: typed.lines.map(({ agreementLineId, calls }) => ({
      agreementLineId,
      calls: calls.map((call) => ({ ...call, day: call.day! })),
    })),
  }));
}

function dayRefusals(
  { number, firstDay, lastDay }: PlanGround['agreement'],
  item: string,
  day: Day | null,
  seen: ReadonlySet<Day>,
  field: string,
): Refusal[] {
  if (day === null) return [refuse('required', field, { what: 'The day' })];
  if (!isDay(day)) return [refuse('not-a-day', field, { what: 'The day' })];
  if (day < firstDay || day > lastDay) {
    return [refuse('outside-period', field, { agreement: number, first: firstDay, last: lastDay, day })];
  }
  return seen.has(day) ? [refuse('planned-twice', field, { item, day })] : [];
}
