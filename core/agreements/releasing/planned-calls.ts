import { addDays, dec, isDay, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { unconsumed, type PlannedCall, type Released } from './plan';
import { decideRelease } from './release';
import { type ReleaseEffects, type ReleaseGround } from './release-ground';

export interface PlannedGround extends ReleaseGround {
  /** Each planned call of a line, and whether it was made into an order already. */
  calls: readonly (PlannedCall & { agreementLineId: number; made: boolean })[];
  /** What was really released of each line. */
  released: readonly (Released & { agreementLineId: number })[];
  shipToId: number | null;
  customerReference: string;
}

export interface PlannedEffects {
  release: ReleaseEffects;
  /** The calls this makes into an order. */
  calls: { agreementLineId: number; day: Day }[];
}

/**
 * Releases the planned calls up to a day, each once: what real releases have used up of them is left out, and what is
 * past its day goes on the work date. All in one order. // A6 A7
 */
export function decidePlannedCalls(ground: PlannedGround, upTo: Day | null, workDate: Day): Decision<PlannedEffects> {
  if (upTo === null || !isDay(upTo)) return { ok: false, refusals: [refuse('not-a-day', 'upTo', { what: 'The day' })] };
  const due = dueCalls(ground, upTo);
  if (due.length === 0) {
    const refusal = refuse('nothing-planned', 'upTo', { agreement: ground.agreement.number, day: upTo });
    return { ok: false, refusals: [refusal] };
  }
  const decision = decideRelease(
    ground,
    {
      shipToId: ground.shipToId,
      customerReference: ground.customerReference,
      lines: due.map((call) => ({
        agreementLineId: call.agreementLineId,
        quantity: call.rest,
        shipDate: call.day < workDate ? workDate : call.day,
      })),
    },
    workDate,
  );
  if (!decision.ok) return { ok: false, refusals: decision.refusals.map(withoutLine) };
  return decided(
    [],
    () => ({
      release: decision.effects,
      calls: due.map(({ agreementLineId, day }) => ({ agreementLineId, day })),
    }),
    decision.warnings,
  );
}

/** Nobody typed these lines, so what stands against them belongs to no field. */
const withoutLine = (refusal: Refusal): Refusal => ({
  ...refusal,
  field: refusal.field.replace(/^lines\.\d+\..*$/, ''),
});

function dueCalls(ground: PlannedGround, upTo: Day) {
  return ground.lines.flatMap((line) => {
    const calls = ground.calls.filter((call) => call.agreementLineId === line.id);
    const rests = unconsumed(
      calls,
      ground.released.filter((each) => each.agreementLineId === line.id),
    );
    return calls
      .map((call, index) => ({ ...call, rest: rests[index]!.toFixed() }))
      .filter((call) => !call.made && !call.skipped && call.day <= upTo && dec(call.rest).gt(0));
  });
}

/** The last day whose calls a job releases on a work date. // A7 */
export function plannedUpTo(releaseAhead: string, workDate: Day): Day {
  return addDays(workDate, Number(releaseAhead));
}
