import { isDay, type Day } from '../../kernel';
import { decided, refuse, type Decision, type Refusal } from '../../refusals';
import { decideAccept, type AcceptEffects, type Acceptance } from './accept';
import { inAge, type MovedLine, type PromisedLine } from '../again/lines';
import type { GroundRows, Way } from '../ground/rows';

/** An order whose lines are promised, each with what is open of it. */
export interface PromiseGround {
  order: { number: string; state: string };
  lines: readonly { id: number; point: number; quantity: string; straight?: boolean; own?: boolean }[];
  /** Without the demand of the lines that are asked for. */
  rows: GroundRows;
}

export interface PromiseTyped {
  lines: readonly { lineId: number; asked: Day | null; day: Day | null; way: Way }[];
  /** All of them on one day. */
  together?: boolean | undefined;
}

/** Takes the days that were seen of an order's lines, and plans what they need. // T8 T10 */
export function decidePromise({ order, lines, rows }: PromiseGround, typed: PromiseTyped): Decision<AcceptEffects> {
  const refusals: Refusal[] = [];
  if (order.state === 'closed' || order.state === 'cancelled') {
    refusals.push(refuse('order-not-open', '', { order: order.number, state: order.state }));
  }
  const accepted: Acceptance[] = [];
  for (const [index, line] of typed.lines.entries()) {
    const now = lines.find((each) => each.id === line.lineId);
    if (!now) refusals.push(refuse('nothing-to-promise', `lines.${index}.lineId`, { order: order.number }));
    for (const field of ['asked', 'day'] as const) {
      if (line[field] === null || !isDay(line[field])) {
        refusals.push(refuse('not-a-day', `lines.${index}.${field}`, { what: 'The day' }));
      }
    }
    if (now) {
      const asked = typed.together && line.day !== null && isDay(line.day) ? line.day : line.asked;
      const { straight = false, own = false } = now;
      const ask = { key: String(now.id), itemId: now.point, quantity: now.quantity, asked, straight, own };
      accepted.push({ ask, lineId: now.id, way: line.way, day: line.day ?? '' });
    }
  }
  return refusals.length > 0 ? { ok: false, refusals } : decideAccept(rows, accepted);
}

/** What was promised of an order. */
export interface PromisedNow {
  order: { number: string };
  lineIds: readonly number[];
  /** Orders that are planned for its lines, level by level. */
  planned: readonly number[];
  /** One of them that is being made, or made. */
  running: string | null;
}

/** Takes back what was promised of an order: what is planned for it goes, as long as nobody works on it. // T8 */
export function decideTakeBack(
  ground: PromisedNow,
): Decision<{ lineIds: readonly number[]; cancelled: readonly number[] }> {
  const { order, lineIds, planned, running } = ground;
  const refusals = [
    ...(lineIds.length === 0 ? [refuse('nothing-promised', '', { order: order.number })] : []),
    ...(running ? [refuse('planned-running', '', { number: running })] : []),
  ];
  return decided(refusals, () => ({ lineIds, cancelled: planned }));
}

/** Lines whose day a run found to be another, as they are now. */
export interface ApplyGround {
  moved: readonly MovedLine[];
  open: readonly PromisedLine[];
  /** Without the demand of the lines that are planned for. */
  rows: GroundRows;
}

/** The ways that plan orders for a line. */
export const isPlanned = ({ way }: Pick<PromisedLine, 'way'>): boolean => way === 'have' || way === 'nothing';

/**
 * Takes the days a run found, of the lines chosen. What is planned is planned anew in its rank, laid for the day that was
 * told: lines that stay hold other things than the run gave them, and where that makes it later, it is refused and the
 * new day told. // T8 T9
 */
export function decideMoved({ moved, open, rows }: ApplyGround, lineIds: readonly number[]): Decision<AcceptEffects> {
  const refusals = lineIds.flatMap((lineId, index): Refusal[] => {
    const line = moved.find((each) => each.lineId === lineId);
    const now = open.find((each) => each.lineId === lineId);
    const at = `lineIds.${index}`;
    if (!line || !now || now.promised !== line.was) return [refuse('promise-changed', at, {})];
    return line.is === null ? [refuse('no-promise', at, { why: line.why })] : [];
  });
  if (refusals.length > 0) return { ok: false, refusals };
  const dayOf = (line: PromisedLine) => moved.find((each) => each.lineId === line.lineId)!.is!;
  const anew = decideAccept(
    rows,
    inAge(rows, open.filter(isPlanned)).map((line) => {
      const day = dayOf(line);
      const ask = { key: '', itemId: line.itemId, quantity: line.quantity, asked: day };
      return { ask, lineId: line.lineId, way: line.way, day };
    }),
  );
  if (!anew.ok) return anew;
  const plain = open.filter((line) => !isPlanned(line));
  const lines = [
    ...anew.effects.lines,
    ...plain.map((line) => ({ lineId: line.lineId, way: line.way, day: dayOf(line) })),
  ];
  return { ...anew, effects: { orders: anew.effects.orders, lines } };
}

/** A planned order that is made firm, or no longer is. */
export interface WorkOrder {
  number: string;
  kind: 'make' | 'assemble' | 'buy';
  state: string;
}

/** Makes planned orders firm, or firm ones planned again: what is bought is placed instead. // T12 */
export function decideFirm(
  orders: readonly (WorkOrder | undefined)[],
  firm: boolean,
): Decision<{ state: 'planned' | 'firm' }> {
  const refusals = orders.flatMap((order, index) => {
    const field = `orderIds.${index}`;
    if (!order) return [refuse('unknown', field, { what: 'This planned order' })];
    const { number, kind, state } = order;
    if (kind === 'buy' && state === 'planned') return [refuse('planned-is-bought', field, { number })];
    return kind !== 'buy' && state === (firm ? 'planned' : 'firm')
      ? []
      : [refuse('planned-not-workable', field, { number, state })];
  });
  return decided(refusals, () => ({ state: firm ? 'firm' : 'planned' }));
}
