import { addDays, dayText, type Day } from '../../kernel';
import { comingOn, whyOn, type Coming } from '../again/reasons';
import { Ground } from '../ground/ground';
import type { GroundRows, Way } from '../ground/rows';
import { answers, leadDay, type Answer, type Ask } from './ask';
import { answerText } from './answer-text';
import { troubleText } from './trouble';

/** A line as its ship date is looked at. */
export interface DayAsk extends Pick<Ask, 'key' | 'itemId' | 'quantity' | 'own'> {
  route: 'stock' | 'drop' | 'special' | 'make' | 'assemble';
  /** The day that is typed. */
  asked: Day | null;
}

/** What a sister company says of a line that is bought of her. */
export interface Through {
  sister: string;
  /** From when she could ship it. */
  ships: Day;
  /** Our working days that it is on the way to our place. */
  transitDays: number;
}

export interface PossibleDay {
  key: string;
  /** The first day its route can keep that is worked; null where none can be said. */
  first: Day | null;
  /** What makes it that day, or why none can be said. */
  why: string;
  /** What is to be said of the day that is typed; empty where it can be kept. Where no day can be said, why. */
  word: string;
  /** The day to take instead of it; null where it can be kept, or none can be said. */
  instead: Day | null;
}

/** How a route is asked for its first day: out of stock, bought by lead time, made by what could be made. // T10 */
const WAY: Record<DayAsk['route'], Way> = {
  stock: 'atp',
  drop: 'lead',
  special: 'lead',
  make: 'have',
  assemble: 'have',
};

/**
 * The first day each line's route can keep, and a word where the typed one is earlier, or on a day we do not work (of a
 * drop shipment: its vendor). Lines take of what there is in their order. What a sister says of a line stands instead of
 * her lead time. One building of the ground and one or two answers a line. // S10 T2 T3 T4 X4
 */
export function possibleDays(
  rows: GroundRows,
  asks: readonly DayAsk[],
  through: ReadonlyMap<string, Through> = new Map(),
): PossibleDay[] {
  const ground = new Ground(rows);
  const comes = comingOn(rows);
  const found = answersOf(ground, asks);
  return asks.map((ask, index) => {
    const told = through.get(ask.key);
    const day = told && throughDay(ground, ask, told);
    return possibleDay(ground, comes, ask, day === undefined ? found[index]! : { ...found[index]!, day }, told);
  });
}

/** The day what a sister ships is with the customer's goods: hers where it goes straight, else once it came and is taken in. */
function throughDay(ground: Ground, { route }: DayAsk, { ships, transitDays }: Through): number {
  const { rows, horizon, ownCalendar } = ground;
  const leaves = Math.min(Math.max(0, ground.dayIndex(ships)), horizon - 1);
  if (route === 'drop') return leaves;
  const day = ownCalendar.plus(leaves, transitDays + rows.receivingDays + rows.safetyDays);
  return Math.min(day, horizon - 1);
}

function possibleDay(
  ground: Ground,
  comes: Coming,
  ask: DayAsk,
  found: Answer,
  told: Through | undefined,
): PossibleDay {
  const { rows } = ground;
  const { key, route, asked } = ask;
  if (found.day === null) {
    const trouble = troubleText(found.trouble!);
    // What is chosen for it is laid once it is confirmed: until then nobody can say.
    return { key, first: null, why: trouble, word: asked === null || ask.own ? '' : trouble, instead: null };
  }
  const item = ground.items[ground.at(ask.itemId)]!;
  const calendar = (route === 'drop' && item.sellers[0]?.vendorCalendar) || ground.ownCalendar;
  const day = Math.min(calendar.next(found.day), ground.horizon - 1);
  const first = addDays(rows.workDate, day);
  const why = told ? whyThrough(ground, ask, told) : whyOf(ground, comes, ask, found);
  const said = (day: Day) => dayText(day, rows.workDate);
  if (asked === null || asked < rows.workDate) return { key, first, why, word: '', instead: null };
  if (asked < first) {
    return { key, first, why, word: `cannot be before ${said(first)}: ${why}`, instead: first };
  }
  const at = ground.dayIndex(asked);
  if (at >= ground.horizon || calendar.works(at)) return { key, first, why, word: '', instead: null };
  const instead = addDays(rows.workDate, calendar.next(at));
  const who = route === 'drop' && item.sellers[0] ? `${item.sellers[0].name} does` : 'we do';
  return { key, first, why, word: `${who} not work on ${said(asked)}; ${said(instead)} is next`, instead };
}

/** What each route gives; where nobody can say what could be made, its lead time. */
function answersOf(ground: Ground, asks: readonly DayAsk[]): Answer[] {
  const asked = asks.map(({ route, asked: _, ...ask }) => ({
    ...ask,
    asked: null,
    straight: route === 'drop',
    way: WAY[route] === 'have' && ask.own ? ('lead' as const) : WAY[route],
  }));
  return answers(ground, asked, ({ way }) => way).map((found, index) => {
    if (found.day !== null || found.way !== 'have') return found;
    const [lead] = answers(ground, [asked[index]!], () => 'lead' as const);
    return lead!.day === null ? found : lead!;
  });
}

const days = (count: number) => `${count} working ${count === 1 ? 'day' : 'days'}`;

/** The same of what a sister ships. */
function whyThrough({ rows }: Ground, { route }: DayAsk, { sister, ships, transitDays }: Through): string {
  const leaves = `${sister} could ship it on ${dayText(ships, rows.workDate)}`;
  if (route === 'drop') return leaves;
  const own = rows.receivingDays + rows.safetyDays;
  const way = transitDays > 0 ? `, it is ${days(transitDays)} on the way` : '';
  return `${leaves}${way}${own > 0 ? `, and we need ${days(own)} to take it in` : ''}`;
}

/** What makes it that day. */
function whyOf(ground: Ground, comes: Coming, { itemId, route }: DayAsk, found: Answer): string {
  const { row, sellers } = ground.items[ground.at(itemId)]!;
  const [seller] = sellers;
  if (found.way === 'atp') {
    const lead = leadDay(ground, ground.at(itemId));
    return whyOn(comes, ground.rows.workDate, itemId, found.day!, typeof lead === 'number' ? lead : undefined);
  }
  if (found.way === 'have') {
    const waits = answerText(ground, found).waits.map(({ text }) => text);
    return waits.length > 0 ? waits.join(', ') : 'all it takes is here';
  }
  if (route === 'make' || route === 'assemble' || row.obtained !== 'buy' || !seller) {
    return `it takes ${days(row.makeDays)} to make`;
  }
  const own = ground.rows.receivingDays + ground.rows.safetyDays;
  const taken = route === 'special' && own > 0 ? `, and we ${own} to take it in` : '';
  return `${seller.name} needs ${days(seller.days)}${taken}`;
}
