import type { Day } from '@core/kernel';
import { postingDay } from '@core/ledger';
import { refuse, type Refusal } from '@core/refusals';
import type { Sql } from '../db';

/** Up to where the company's months are closed. */
export async function closedThrough(sql: Sql, companyId: number): Promise<Day | null> {
  const [row] = await sql.rows<{ closedThrough: Day | null }>(
    'SELECT closed_through FROM period WHERE company_id = ?',
    [companyId],
  );
  return row!.closedThrough;
}

/** A word where something of that day will be posted on a later one. // P9 */
export function postedLater(day: Day, closed: Day | null): Refusal[] {
  const on = postingDay(day, closed);
  return on === day ? [] : [refuse('posted-later', '', { day, on })];
}
