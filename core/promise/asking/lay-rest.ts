import { addDays, daysBetween, dec, isDay, type Day } from '../../kernel';
import { decided, refuse, type Decision, type Refusal } from '../../refusals';
import { DAY_MINUTES, dayBefore, dayOfMoment, type Stretch } from '../ground/capacity';
import { Ground } from '../ground/ground';
import type { GroundRows } from '../ground/rows';
import { troubleText } from './trouble';

/** An operation of an order, as far as laying it again needs it. */
export interface LaidOperation {
  id: number;
  name: string;
  centreId: number;
  /** For the whole order. */
  minutes: number;
  /** Machines it may use side by side. */
  parallel: number;
  /** Pieces that passed it or were lost at it. */
  through: string;
  lastDay: Day;
}

export interface LaidWork {
  number: string;
  state: string;
  quantity: string;
  /** By number. */
  operations: readonly LaidOperation[];
}

export interface LayTyped {
  operationId: number;
  day: Day | null;
  centreId: number;
}

export interface LayEffects {
  due: Day;
  operations: {
    id: number;
    name: string;
    centreId: number;
    /** The first day of what is left of it; `firstDay` of what is done as well. */
    begins: Day;
    firstDay: Day;
    lastDay: Day;
    load: (Stretch & { day: Day })[];
  }[];
}

/**
 * Lays what is left of an order from one of its operations on: that one at a work centre from a day on or as soon as can
 * be after it, once the one before it is over; each that follows after the one before. What passed is not laid again.
 * `rows` has the centres without what of the order is laid. // T5 W3
 */
export function decideLayRest(
  rows: GroundRows,
  work: LaidWork,
  { operationId, day, centreId }: LayTyped,
): Decision<LayEffects> {
  const { number, state, operations } = work;
  if (state !== 'planned' && state !== 'firm' && state !== 'running') {
    return { ok: false, refusals: [refuse('work-not-open', '', { work: number, state })] };
  }
  const from = operations.findIndex(({ id }) => id === operationId);
  const refusals: Refusal[] = [];
  if (from < 0) refusals.push(refuse('unknown', 'operationId', { what: 'This operation' }));
  else if (minutesLeft(work, operations[from]!) === 0) {
    refusals.push(refuse('operation-over', 'operationId', { operation: operations[from]!.name, work: number }));
  }
  if (day === null || !isDay(day)) refusals.push(refuse('not-a-day', 'day', { what: 'The day' }));
  else if (day < rows.workDate) {
    refusals.push(refuse('days-order', 'day', { what: 'The day', day, earliest: rows.workDate }));
  }
  const ground = new Ground(rows);
  const placeOf = (id: number) => ground.centreRows.findIndex((row) => row.id === id);
  if (placeOf(centreId) < 0) refusals.push(refuse('unknown', 'centreId', { what: 'This work centre' }));
  if (refusals.length > 0) return { ok: false, refusals };
  const before = operations[from - 1];
  const ready = before && minutesLeft(work, before) > 0 && before.lastDay >= day! ? addDays(before.lastDay, 1) : day!;
  let moment = daysBetween(rows.workDate, ready) * DAY_MINUTES;
  const laid: LayEffects['operations'] = [];
  for (const operation of operations.slice(from)) {
    const at = operation.id === operationId ? centreId : operation.centreId;
    const minutes = minutesLeft(work, operation);
    const dayOf = (index: number) => addDays(rows.workDate, index);
    if (minutes === 0) continue;
    const centre = ground.centres[placeOf(at)]!;
    const run = centre.everWorked ? ground.run(placeOf(at), minutes, operation.parallel, moment) : null;
    if (!run) {
      const why = centre.everWorked
        ? ({ kind: 'horizon', item: number, days: ground.horizon } as const)
        : ({ kind: 'no-shift', centre: ground.centreRows[placeOf(at)]!.code } as const);
      return { ok: false, refusals: [refuse('no-promise', 'centreId', { why: troubleText(why) })] };
    }
    const done = behind(operation.minutes - minutes, rows.workDate);
    const begins = dayOf(dayOfMoment(run.start));
    laid.push({
      id: operation.id,
      name: operation.name,
      centreId: at,
      begins,
      firstDay: done.at(-1)?.day ?? begins,
      lastDay: dayOf(dayBefore(run.end)),
      load: [...done, ...run.slices.map((slice) => ({ ...slice, day: dayOf(slice.day) }))],
    });
    moment = run.end;
  }
  return decided([], () => ({ due: laid.at(-1)!.lastDay, operations: laid }));
}

/**
 * What is done of an operation, held on the days before today: it takes nothing of anybody, and what an operation holds
 * stays what it takes in all, the part that is done first.
 */
function behind(minutes: number, workDate: Day): (Stretch & { day: Day })[] {
  return Array.from({ length: Math.ceil(minutes / DAY_MINUTES) }, (_, at) => ({
    day: addDays(workDate, -1 - at),
    from: 0,
    until: Math.min(DAY_MINUTES, minutes - at * DAY_MINUTES),
    machines: 1,
  }));
}

/** Machine minutes of an operation that are still to be worked. */
export function minutesLeft({ quantity }: LaidWork, { minutes, through }: LaidOperation): number {
  const done = Math.round(Number(dec(minutes).times(through).div(quantity).toFixed()));
  return Math.max(0, minutes - done);
}
