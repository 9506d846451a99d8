import type { SecondKind, SecondNeed } from '@core/access';
import { wantedOf } from '@core/access';
import type { Sql } from '../db';

/** What the company wants a second person for. */
export async function secondKinds(sql: Sql, companyId: number): Promise<SecondKind[]> {
  const rows = await sql.rows<{ kind: string }>('SELECT kind FROM second_person WHERE company_id = ? ORDER BY kind', [
    companyId,
  ]);
  return rows.map(({ kind }) => kind as SecondKind);
}

/** What of an act's needs has to be approved by somebody else, in one text; empty where nothing has. // G7 */
export function wordsOf(needs: readonly SecondNeed[], company: readonly SecondKind[]): string {
  return wantedOf(needs, company)
    .map(({ words }) => words)
    .join('; ');
}
