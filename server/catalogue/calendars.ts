import type { CalendarRow, Day } from '@core/kernel';
import type { Sql } from '../db';

/** The calendars of a company, with the days they are closed on from a day on. */
export async function calendarsOf(sql: Sql, companyId: number, from: Day): Promise<CalendarRow[]> {
  const calendars = await sql.rows<{ id: number; week: string }>('SELECT id, week FROM calendar WHERE company_id = ?', [
    companyId,
  ]);
  const holidays = await sql.rows<{ calendarId: number; day: Day }>(
    'SELECT calendar_id, day FROM holiday WHERE company_id = ? AND day >= ? ORDER BY day',
    [companyId, from],
  );
  return calendars.map(({ id, week }) => ({
    id,
    week,
    holidays: holidays.filter((row) => row.calendarId === id).map((row) => row.day),
  }));
}
