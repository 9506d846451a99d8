import { addDays, Calendar, NEVER, type Day, type DayIndex } from '../../kernel';
import { answer, soonestNew } from '../asking/ask';
import { answerText } from '../asking/answer-text';
import { Ground } from '../ground/ground';
import type { GroundRows, MoveRow } from '../ground/rows';
import type { FoundDays, PromisedLine } from './lines';

/** Items with the calendars of their lead times. */
type BareRows = Pick<
  GroundRows,
  'workDate' | 'horizon' | 'calendars' | 'ownCalendarId' | 'receivingDays' | 'safetyDays' | 'items'
>;

const NOTHING = {
  ...{ components: [], operations: [], centres: [], load: [], overtime: [], out: [] },
  ...{ supplies: [], demands: [] },
};

/** The day a new one of each of these items would be there; NEVER where none can be said. O(items). // T3 */
export function leadDays(rows: BareRows, ids: readonly number[]): Int32Array {
  const calendars = new Map(rows.calendars.map((row) => [row.id, new Calendar(rows.workDate, rows.horizon, row)]));
  const byId = new Map(rows.items.map((row) => [row.id, row]));
  const ownCalendar = calendars.get(rows.ownCalendarId)!;
  return Int32Array.from(ids, (id) => {
    const row = byId.get(id)!;
    const [seller] = row.sellers;
    const leadTime = seller && {
      days: seller.leadDays,
      vendorCalendar: calendars.get(seller.calendarId)!,
      ownDays: rows.receivingDays + rows.safetyDays,
      ownCalendar,
    };
    const day = soonestNew(row, leadTime, ownCalendar);
    return typeof day === 'number' ? day : NEVER;
  });
}

/** What comes of each item on each day. */
export type Coming = ReadonlyMap<string, readonly MoveRow['source'][]>;

export function comingOn(rows: Pick<GroundRows, 'supplies'>): Coming {
  const comes = new Map<string, MoveRow['source'][]>();
  for (const { itemId, day, source } of rows.supplies) {
    const key = `${itemId} ${day}`;
    const there = comes.get(key);
    if (there) there.push(source);
    else comes.set(key, [source]);
  }
  return comes;
}

/** What comes on the day that makes it possible; where nothing does, what is there, or a new one by its lead time. */
export function whyOn(comes: Coming, workDate: Day, itemId: number, day: DayIndex, lead: DayIndex = NEVER): string {
  const coming = comes.get(`${itemId} ${addDays(workDate, day)}`) ?? [];
  if (coming.length > 0) {
    return `${coming.map((source) => `${source.number} of ${source.party}`).join(', ')} comes then`;
  }
  if (day === lead) return 'there is not enough; a new one takes its lead time';
  return day === 0 ? 'there is enough' : 'there is enough from then on';
}

/**
 * Lines there is not enough for, or not by the day they were promised: the lead time says when, where that is earlier
 * than the day that was found. Of the rows only the items and their calendars are looked at. // T2
 */
export function byLeadTime(rows: BareRows, lines: readonly PromisedLine[], days: FoundDays): void {
  if (lines.length === 0) return;
  const wanted = new Set(lines.map((line) => line.itemId));
  const items = rows.items.filter((item) => wanted.has(item.id));
  const ground = new Ground({ ...rows, items, ...NOTHING });
  for (const line of lines) {
    const ask = { key: '', itemId: line.itemId, quantity: line.quantity, asked: line.asked };
    const { day, trouble } = answerText(ground, answer(ground, ask, 'lead'));
    const found = days.get(line.lineId)?.is ?? null;
    if (found !== null && (day === null || day >= found)) continue;
    days.set(line.lineId, { is: day, why: trouble ?? 'there is not enough; a new one takes its lead time' });
  }
}
