import { dec, isDecimalText, sum, type Day } from '@core/kernel';
import { decideLayRest, type GroundRows, type LayEffects } from '@core/promise';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { componentCost, labourCost, throughOf, type WorkGround, type WorkOperation } from './work-order';

/** How an order is worked on, as it is changed for this order alone. */
export interface OperationsTyped {
  /** All of its operations as they are to be: those left out of the list are left out of the order. */
  operations: readonly {
    /** Null for one that is added. */
    id: number | null;
    /** They are done in the order of their numbers, 1 to 65535; one that is kept keeps its own. */
    no: number | null;
    name: string;
    centreId: number | null;
    /** Whole minutes for the whole order, as text. */
    minutes: string;
  }[];
}

/** An operation with where it is laid. */
export interface LaidNow extends WorkOperation {
  centreId: number;
  firstDay: Day;
  lastDay: Day;
  parallel: number;
  /** Something of it was reported, be it taken back since. */
  reported: boolean;
}

export interface OperationsGround extends Pick<WorkGround, 'order' | 'components' | 'currency'> {
  /** By number. */
  operations: readonly LaidNow[];
  start: Day;
  due: Day;
  centres: ReadonlyMap<number, { name: string; hourCost: string }>;
  /** The centres without what of the order is laid from the first change on. */
  rows: GroundRows;
}

export interface OperationChange {
  /** Below zero for one that is added, until it has one of its own. */
  id: number;
  no: number;
  name: string;
  centreId: number;
  minutes: number;
  cost: string;
}

export interface OperationsEffects {
  gone: number[];
  kept: OperationChange[];
  added: OperationChange[];
  /** Components that were used at an operation left out, and where they are used now; null: at the first. */
  moved: { componentId: number; operationNo: number | null }[];
  /** What is laid again, from the first change on. */
  laid: LayEffects['operations'];
  due: Day;
  minutes: number;
  minutesWas: number;
  /** What the whole is reckoned to cost with it, and was before. */
  cost: string;
  was: string;
}

/** More than anything takes at once: some 11 years of one machine. */
const MOST_MINUTES = 999_999;

type Row = OperationsTyped['operations'][number] & { index: number };
type Numbered = Pick<LaidNow, 'id' | 'no'>;

/**
 * Changes how an order is worked on, for this order alone: what pieces passed stays where it is, what is added comes after
 * it, and what follows the first change is laid again. Refused where pieces would have passed the last one without having
 * come out. O(operations log operations), and what laying takes. // W1
 */
export function decideOperations(ground: OperationsGround, typed: OperationsTyped): Decision<OperationsEffects> {
  const { order, operations, centres } = ground;
  if (order.state !== 'planned' && order.state !== 'firm' && order.state !== 'running') {
    return { ok: false, refusals: [refuse('work-not-open', '', { work: order.number, state: order.state })] };
  }
  const refusals: Refusal[] = [];
  const named = new Set(typed.operations.flatMap(({ id }) => id ?? []));
  const gone = operations.filter(({ id }) => !named.has(id));
  for (const each of gone) {
    if (isBegun(each)) refusals.push(refuse('operation-begun', '', { operation: each.name }));
  }
  const begunUpTo = Math.max(0, ...operations.filter(isBegun).map(({ no }) => no));
  const numbers = new Set<number>();
  typed.operations.forEach((row, index) => {
    const at = (field: string) => `operations.${index}.${field}`;
    const before = operations.find(({ id }) => id === row.id);
    if (row.id !== null && !before) return void refusals.push(refuse('unknown', at('id'), { what: 'This operation' }));
    if (row.name.trim() === '') refusals.push(refuse('required', at('name'), { what: 'The name' }));
    if (row.centreId === null || !centres.has(row.centreId)) {
      refusals.push(refuse('required', at('centreId'), { what: 'The work centre' }));
    }
    if (!/^\d+$/.test(row.minutes.trim()) || Number(row.minutes) < 1 || Number(row.minutes) > MOST_MINUTES) {
      refusals.push(refuse('not-minutes', at('minutes'), {}));
    }
    const no = before?.no ?? row.no;
    if (no === null) return void refusals.push(refuse('required', at('no'), { what: 'The number' }));
    if (numbers.has(no)) refusals.push(refuse('operation-twice', at('no'), { no: String(no) }));
    numbers.add(no);
    if (before && isBegun(before)) {
      if (changed(before, row)) refusals.push(refuse('operation-begun', at('minutes'), { operation: before.name }));
    } else if (no <= begunUpTo) {
      refusals.push(refuse('operation-before-begun', at('no'), { no: String(begunUpTo) }));
    }
  });
  if (refusals.length > 0) return { ok: false, refusals };
  const rows = inOrder(operations, typed);
  const last = operations.find(({ id }) => id === rows.at(-1)?.id);
  const was = operations.at(-1);
  if (was && isBegun(was) && last?.id !== was.id) {
    refusals.push(refuse('work-came-out', '', { work: order.number, operation: was.name }));
  } else if (last && isBegun(last) && last.id !== was!.id) {
    refusals.push(refuse('operation-must-follow', '', { operation: last.name }));
  }
  return refusals.length > 0 ? { ok: false, refusals } : effectsOf(ground, typed, rows, gone);
}

/** The place of the first operation that is another than before, in the order they are to be done; null where none is. */
export function firstChanged(operations: readonly LaidNow[], typed: OperationsTyped): number | null {
  const rows = inOrder(operations, typed);
  const place = rows.findIndex((row, index) => {
    const before = operations[index];
    return !before || before.id !== row.id || changed(before, row);
  });
  if (place >= 0) return place;
  return rows.length < operations.length ? rows.length : null;
}

const isBegun = (operation: LaidNow) => throughOf(operation).gt(0) || operation.minutesDone > 0 || operation.reported;

const changed = (before: LaidNow, row: OperationsTyped['operations'][number]) =>
  row.centreId !== before.centreId || Number(row.minutes) !== before.minutes;

/** As they are to be done, each that is kept under its own number. */
const inOrder = (now: readonly Numbered[], { operations }: OperationsTyped): Row[] =>
  operations
    .map((row, index) => ({ ...row, index, no: now.find(({ id }) => id === row.id)?.no ?? row.no }))
    .sort((a, b) => (a.no ?? 0) - (b.no ?? 0));

function effectsOf(
  ground: OperationsGround,
  typed: OperationsTyped,
  rows: readonly Row[],
  gone: readonly LaidNow[],
): Decision<OperationsEffects> {
  const { order, components, operations, currency, centres } = ground;
  const begun = order.plannedCost !== null;
  const all = rows.map((row): OperationChange => {
    const { id, index, no, name, centreId, minutes } = row;
    const before = operations.find((each) => each.id === id);
    const { hourCost } = centres.get(centreId!)!;
    return {
      id: id ?? -1 - index,
      no: no!,
      name: name.trim(),
      centreId: centreId!,
      minutes: Number(minutes),
      cost:
        begun && before && !changed(before, row)
          ? before.plannedCost
          : labourCost(Number(minutes), hourCost, currency).toFixed(),
    };
  });
  const laid = laidAgain(ground, all, typed);
  if (!laid.ok) return { ok: false, refusals: laid.refusals };
  const { due, operations: anew } = laid.effects;
  const material = sum(
    components.map(({ quantity, expectedCost, plannedCost }) =>
      begun ? dec(plannedCost) : componentCost(quantity, expectedCost, currency),
    ),
  );
  const labour = operations.map(({ minutes, hourCost, plannedCost }) =>
    begun ? dec(plannedCost) : labourCost(minutes, hourCost, currency),
  );
  return decided([], () => ({
    gone: gone.map(({ id }) => id),
    kept: all.filter(({ id }) => id > 0),
    added: all.filter(({ id }) => id < 0),
    moved: components
      .filter(({ operationNo }) => operationNo !== null && !all.some(({ no }) => no === operationNo))
      .map(({ id, operationNo }) => ({ componentId: id, operationNo: usedAt(all, operationNo!) })),
    laid: anew,
    due,
    minutes: all.reduce((total, { minutes }) => total + minutes, 0),
    minutesWas: operations.reduce((total, { minutes }) => total + minutes, 0),
    cost: material.plus(sum(all.map(({ cost }) => dec(cost)))).toFixed(),
    was: material.plus(sum(labour)).toFixed(),
  }));
}

/** Where what was used at an operation left out is used now: at the next one, else at the last. */
const usedAt = (all: readonly OperationChange[], operationNo: number) =>
  (all.find(({ no }) => no > operationNo) ?? all.at(-1))?.no ?? null;

/** Lays what follows the first change: after what is before it, and not before the day it began on until now. */
function laidAgain(
  { order, operations, rows, start, due }: OperationsGround,
  all: readonly OperationChange[],
  typed: OperationsTyped,
): Decision<LayEffects> {
  const now = new Map(operations.map((operation) => [operation.id, operation]));
  const place = firstChanged(operations, typed);
  const first = place === null ? undefined : all[place];
  if (!first) {
    const last = now.get(all.at(-1)?.id ?? 0);
    return decided([], () => ({ due: last?.lastDay ?? due, operations: [] }));
  }
  const before = now.get(all[place! - 1]?.id ?? 0);
  const from = before?.lastDay ?? start;
  const laid = decideLayRest(
    rows,
    {
      number: order.number,
      state: order.state,
      quantity: order.quantity,
      operations: all.map(({ id, name, centreId, minutes }) => {
        const same = now.get(id);
        return {
          id,
          name,
          centreId,
          minutes,
          parallel: same?.parallel ?? 1,
          through: same ? throughOf(same).toFixed() : '0',
          lastDay: same?.lastDay ?? rows.workDate,
        };
      }),
    },
    { operationId: first.id, day: from < rows.workDate ? rows.workDate : from, centreId: first.centreId },
  );
  const field = `operations.${inOrder(operations, typed)[place!]!.index}.centreId`;
  return laid.ok ? laid : { ok: false, refusals: laid.refusals.map((each) => ({ ...each, field })) };
}

/**
 * The ground on which an item is worked on as one of its orders is, for another quantity: each operation takes its minutes
 * in the measure of the quantity, at least one. // W1
 */
export function withOwnRouting(
  rows: GroundRows,
  itemId: number,
  order: { quantity: string },
  operations: readonly Pick<LaidNow, 'no' | 'name' | 'centreId' | 'minutes' | 'parallel'>[],
  typedQuantity: string,
): GroundRows {
  const share = isDecimalText(typedQuantity, 'quantity') ? dec(typedQuantity).div(order.quantity) : dec('1');
  return {
    ...rows,
    operations: [
      ...rows.operations.filter((each) => each.itemId !== itemId),
      ...operations.map(({ no, name, centreId, minutes, parallel }) => ({
        itemId,
        no,
        name,
        centreId,
        setup: String(Math.max(1, Math.round(Number(share.times(minutes).toFixed())))),
        run: '0',
        parallel,
        firstDay: null,
        lastDay: null,
      })),
    ],
  };
}
