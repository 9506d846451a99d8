import type { Sql } from '../db';

/** The party of that number, 0 where there is none: nothing is of it. */
export async function partyNumbered(
  sql: Sql,
  companyId: number,
  party: 'customer' | 'vendor',
  number: string,
): Promise<number> {
  const [found] = await sql.rows<{ id: number }>(`SELECT id FROM ${party} WHERE company_id = ? AND number = ?`, [
    companyId,
    number.trim(),
  ]);
  return found?.id ?? 0;
}
