import { addDays, type Day } from '../../kernel';
import { plannedOrders } from './accept';
import { answers, type Answer, type Ask } from './ask';
import { Ground } from '../ground/ground';
import type { Need } from './plan';
import { WAYS, type GroundRows, type Method, type Way } from '../ground/rows';
import { unscaled } from '../ground/scaled';
import { troubleText } from './trouble';
import { chainOf, shortenings, type Shortening, type Wait } from './why';

/** One wait of the chain, in words and days. */
export interface WaitText {
  kind: Wait['kind'];
  text: string;
  from: Day;
  to: Day;
}

/** A bar of the time line: something bought, or an operation at a work centre. */
export interface BarText {
  /** How deep below the line it is made of. */
  depth: number;
  kind: 'buy' | 'run' | 'make';
  label: string;
  from: Day;
  to: Day;
  /** Of the chain that sets the date. */
  sets: boolean;
}

/** An answer as it is shown. */
export interface AnswerText {
  way: Way;
  day: Day | null;
  trouble: string | null;
  parts: { quantity: string; day: Day; lead: boolean }[];
  waits: WaitText[];
  bars: BarText[];
  slack: { start: Day; days: number } | null;
  /** Orders accepting it would plan. */
  orders: number;
}

export interface ShorteningText {
  text: string;
  day: Day;
}

export interface CheckedLine {
  key: string;
  /** What each way would give, all lines going that way. */
  ways: Record<Way, AnswerText>;
  /** What the chosen ways give together. */
  chosen: AnswerText;
}

/** A line as it is asked, with its chosen way. */
export interface CheckedAsk extends Ask {
  way: Way;
}

/** The way a line is promised where nobody chose one. // T10 */
export function wayOf(method: Method): Way | null {
  if (method === 'ctp') return 'have';
  return method === 'none' ? null : method;
}

/**
 * Every way for the lines of an order, side by side, and the chosen ones with each other: each on its own day, or all
 * together on the last. The same in the browser and on the server. Costs one building of the ground and five answers a
 * line, some more for together.
 */
export function check(rows: GroundRows, asks: readonly CheckedAsk[], together = false): CheckedLine[] {
  const ground = new Ground(rows);
  const byWay = new Map(
    WAYS.map((way) => [way, answers(ground, asks, () => way).map((found) => answerText(ground, found))]),
  );
  const each = answers(ground, asks, (ask) => ask.way);
  const chosen = together ? onOneDay(ground, asks, each) : each;
  return asks.map((ask, index) => ({
    key: ask.key,
    ways: Object.fromEntries(WAYS.map((way) => [way, byWay.get(way)![index]!])) as Record<Way, AnswerText>,
    chosen: answerText(ground, chosen[index]!),
  }));
}

/** Days are put off no further than this many times until all lines agree. */
const MOST_TURNS = 8;

/**
 * The lines of an order all on one day: that of the last, asked by all of them, so that what is planned for the others
 * begins as late as meets it. Where one is later then, for want of what the others took, again. // T6
 */
function onOneDay(ground: Ground, asks: readonly CheckedAsk[], each: readonly Answer[]): readonly Answer[] {
  let found = each;
  for (let turn = 0; turn < MOST_TURNS; turn += 1) {
    const days = found.map((answer) => answer.day);
    if (days.some((day) => day === null)) return found;
    const last = Math.max(...days.map((day) => day!));
    if (days.every((day) => day === last)) return found;
    const asked = addDays(ground.rows.workDate, last);
    found = answers(
      ground,
      asks.map((ask) => ({ ...ask, asked })),
      (ask) => ask.way,
    );
  }
  return found;
}

/** What would shorten one line, alone on the ground, in words. // T7 */
export function shorten(rows: GroundRows, ask: CheckedAsk): ShorteningText[] {
  // Nothing of ours makes it come sooner.
  if (ask.straight) return [];
  const ground = new Ground(rows);
  const [now] = answers(ground, [ask], () => ask.way);
  return shortenings(rows, ask, now!).map((each) => ({
    text: shorteningText(each),
    day: addDays(rows.workDate, each.day),
  }));
}

function shorteningText(each: Shortening): string {
  if (each.kind === 'vendor') return `${each.item} from ${each.vendor} instead`;
  if (each.kind === 'overtime') return `${each.minutes} minutes of overtime a day at ${each.centre}`;
  return `${each.quantity} of them first`;
}

/** An answer with its names and days. */
export function answerText(ground: Ground, answer: Answer): AnswerText {
  const dayOf = (index: number) => addDays(ground.rows.workDate, index);
  const waits = answer.need && !answer.slack ? chainOf(answer.need) : [];
  return {
    way: answer.way,
    day: answer.day === null ? null : dayOf(answer.day),
    trouble: answer.trouble && troubleText(answer.trouble),
    parts: answer.parts.map((part) => ({ quantity: unscaled(part.quantity), day: dayOf(part.day), lead: part.lead })),
    waits: waits.map((wait) => ({
      kind: wait.kind,
      text: waitText(ground, wait),
      from: dayOf(wait.from),
      to: dayOf(wait.to),
    })),
    bars: answer.need ? barsOf(ground, answer.need, waits) : [],
    slack: answer.slack && { start: dayOf(answer.slack.start), days: answer.slack.days },
    orders: plannedOrders(ground, 0, answer).length,
  };
}

function waitText(ground: Ground, wait: Wait): string {
  const item = ground.items[wait.item]!;
  const working = ground.ownCalendar.between(wait.from, wait.to);
  const days = `${working} working ${working === 1 ? 'day' : 'days'}`;
  const quantity = unscaled(wait.quantity);
  switch (wait.kind) {
    case 'buy':
      return `${quantity} ${item.row.number} from ${item.sellers[wait.seller!]!.name}: ${days}`;
    case 'coming':
      return `${quantity} ${item.row.number} are coming: ${days}`;
    case 'queue':
      return `${ground.centreRows[wait.centre!]!.name} has nothing free: ${days}`;
    case 'run':
      return `${item.operations[wait.operation!]!.name} ${quantity} ${item.row.number} at ${ground.centreRows[wait.centre!]!.name}`;
    case 'make':
      return `${quantity} ${item.row.number} are made: ${days}`;
  }
}

function barsOf(ground: Ground, need: Need, waits: readonly Wait[]): BarText[] {
  const bars: BarText[] = [];
  const dayOf = (index: number) => addDays(ground.rows.workDate, index);
  const sets = (item: number, operation: number | null, from: number) =>
    waits.some((wait) => wait.item === item && wait.operation === operation && wait.from === from);
  const add = (of: Need, depth: number): void => {
    const item = ground.items[of.item]!;
    for (const part of of.parts) {
      if (part.kind === 'free') continue;
      const quantity = unscaled(part.lot);
      if (part.kind === 'buy') {
        bars.push({
          depth,
          kind: 'buy',
          label: `${quantity} ${item.row.number} from ${item.sellers[part.seller]!.name}`,
          from: dayOf(part.ordered),
          to: dayOf(part.day),
          sets: sets(of.item, null, part.ordered),
        });
        continue;
      }
      for (const run of part.operations) {
        bars.push({
          depth,
          kind: 'run',
          label: `${item.operations[run.operation]!.name} ${quantity} ${item.row.number}`,
          from: dayOf(run.firstDay),
          to: dayOf(run.lastDay),
          sets: sets(of.item, run.operation, run.firstDay),
        });
      }
      if (part.operations.length === 0) {
        bars.push({
          depth,
          kind: 'make',
          label: `Make ${quantity} ${item.row.number}`,
          from: dayOf(part.start),
          to: dayOf(part.day),
          sets: sets(of.item, null, part.start),
        });
      }
      for (const below of part.needs) add(below, depth + 1);
    }
  };
  add(need, 0);
  return bars;
}
