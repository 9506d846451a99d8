import { addDays, weekdayOf, type Day } from '@core/kernel';
import { closedBy, nextDue, standingDates, type Said, type StandingDate, type StandingPlan } from '@core/standing';
import { orNotFound } from '../acts';
import type { Columns, Sql, Statement } from '../db';
import type { StandingDateRow, StandingLine, StandingOrder, StandingTerm } from './tables';

/** How far ahead dates are looked at: what is made further ahead is made when it is nearer. */
const LOOKED_AHEAD = 366;
/** Dates that are over are looked at for so long: what nobody made of them is told, and can still be made or skipped. */
export const LOOKED_BACK = 60;

export type StandingHead = Columns<
  StandingOrder,
  'id number version state customerId shipToId customerReference firstDay lastDay aheadDays closed'
>;

/** A standing order with what it says, and what was said and done about its dates. */
export interface StandingLoaded {
  head: StandingHead;
  terms: (Columns<StandingTerm, 'id fromDay rule'> & {
    lines: Columns<StandingLine, 'itemId quantity unit'>[];
  })[];
  plan: StandingPlan;
  closed: (day: Day) => string | null;
}

/** A standing order, locked: what is made of its dates is made one after the other. */
export async function loadStanding(sql: Sql, companyId: number, id: number): Promise<StandingLoaded> {
  const [head] = await sql.rows<StandingHead>(
    `SELECT id, number, version, state, customer_id, ship_to_id, customer_reference, first_day, last_day, ahead_days, closed
       FROM standing_order WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  const found = orNotFound(head, 'This standing order');
  const [terms, lines, dates, closed] = await Promise.all([
    sql.rows<Columns<StandingTerm, 'id fromDay rule'>>(
      'SELECT id, from_day, rule FROM standing_term WHERE company_id = ? AND standing_order_id = ? ORDER BY from_day',
      [companyId, id],
    ),
    sql.rows<Columns<StandingLine, 'termId itemId quantity unit'>>(
      `SELECT l.term_id, l.item_id, l.quantity, l.unit FROM standing_term t
         JOIN standing_line l ON l.company_id = t.company_id AND l.term_id = t.id
        WHERE t.company_id = ? AND t.standing_order_id = ? ORDER BY l.term_id, l.line_no`,
      [companyId, id],
    ),
    sql.rows<Columns<StandingDateRow, 'day state orderId why'>>(
      'SELECT day, state, order_id, why FROM standing_date WHERE company_id = ? AND standing_order_id = ? ORDER BY day',
      [companyId, id],
    ),
    closedOf(sql, companyId),
  ]);
  return {
    head: found,
    terms: terms.map((term) => ({ ...term, lines: lines.filter(({ termId }) => termId === term.id) })),
    plan: planOf(found, terms, dates),
    closed,
  };
}

/** A standing order as its dates are reckoned. */
export const planOf = (
  head: Pick<StandingHead, 'firstDay' | 'lastDay' | 'closed'>,
  terms: StandingPlan['terms'],
  dates: readonly (Said & { day: Day })[],
): StandingPlan => ({
  firstDay: head.firstDay,
  lastDay: head.lastDay,
  closed: head.closed,
  terms,
  said: new Map(dates.map(({ day, state, orderId, why }) => [day, { state, orderId, why }])),
});

/** Why a company is closed on a day; null where it is open. */
export async function closedOf(sql: Sql, companyId: number): Promise<(day: Day) => string | null> {
  const [calendar] = await sql.rows<{ id: number; week: string }>(
    `SELECT k.id, k.week FROM company c JOIN calendar k ON k.company_id = c.id AND k.id = c.calendar_id WHERE c.id = ?`,
    [companyId],
  );
  const holidays = await sql.rows<{ day: Day; name: string }>(
    'SELECT day, name FROM holiday WHERE company_id = ? AND calendar_id = ?',
    [companyId, calendar?.id ?? 0],
  );
  return closedBy(calendar?.week ?? '1111111', new Map(holidays.map(({ day, name }) => [day, name])), weekdayOf);
}

/** Dates of a standing order from some time ago to a year ahead; what its rule cannot give within that is none. */
export function datesOf(
  { plan, closed }: Pick<StandingLoaded, 'plan' | 'closed'>,
  workDate: Day,
  back = 0,
): StandingDate[] {
  return standingDates(plan, closed, addDays(workDate, -back), addDays(workDate, LOOKED_AHEAD)) ?? [];
}

/** Keeps when something of it is to be made next: what the clock looks at. Nothing of one that is not active. */
export function dueStatement(
  companyId: number,
  loaded: Pick<StandingLoaded, 'plan' | 'closed'> & { head: Pick<StandingHead, 'id' | 'aheadDays' | 'state'> },
  workDate: Day,
): Statement {
  const { head } = loaded;
  const due = head.state === 'active' ? nextDue(datesOf(loaded, workDate, LOOKED_BACK), head.aheadDays) : null;
  return {
    sql: 'UPDATE standing_order SET due_on = ?, version = version + 1 WHERE company_id = ? AND id = ?',
    values: [due?.on ?? null, companyId, head.id],
  };
}
