import { countedOn, type WholeLimit } from '@core/agreements';
import { dec } from '@core/kernel';
import type { Sql } from '../../db';

/**
 * The limits on the whole of agreements, with what is released under each, by agreement; only of those that have one.
 * Their heads are locked by who decides on them. // A5
 */
export async function wholeLimitsOf(
  sql: Sql,
  companyId: number,
  agreementIds: readonly number[],
): Promise<Map<number, WholeLimit>> {
  const rows = await sql.rows<{
    id: number;
    wholeLimit: string;
    wholeUnit: string;
    releasedValue: string;
    lineId: number;
    released: string;
    ownUnit: string | null;
    weight: string | null;
    per: string | null;
  }>(
    `SELECT a.id, a.whole_limit, a.whole_unit, a.released_value, l.id AS line_id, l.released, i.unit AS own_unit, i.weight, u.factor AS per
       FROM agreement a
       JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
       LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN item_unit u ON u.company_id = l.company_id AND u.item_id = l.item_id AND u.unit = a.whole_unit
      WHERE a.company_id = ? AND a.id IN (?) AND a.whole_limit > 0 ORDER BY a.id, l.id`,
    [companyId, agreementIds],
  );
  const found = new Map<number, WholeLimit>();
  for (const { id, wholeLimit, wholeUnit, releasedValue } of rows) {
    if (found.has(id)) continue;
    const own = rows.filter((row) => row.id === id);
    const factors = new Map(own.map((row) => [row.lineId, factorOf(row)]));
    const whole = { limit: wholeLimit, unit: wholeUnit, released: '0', factors };
    const lines = own.map(({ lineId, released }) => ({ agreementLineId: lineId, quantity: released, value: '0' }));
    found.set(id, { ...whole, released: wholeUnit === '' ? releasedValue : countedOn(whole, lines).toFixed() });
  }
  return found;
}

/** The unit by which what weighs something is counted whatever it is sold in. */
export const BY_WEIGHT = 'kg';

/** How many of the agreement's unit one of an item's own is. */
function factorOf(row: {
  wholeUnit: string;
  ownUnit: string | null;
  weight: string | null;
  per: string | null;
}): string {
  if (row.wholeUnit === row.ownUnit) return '1';
  if (row.per !== null) return dec(1).div(row.per).toFixed();
  return row.wholeUnit === BY_WEIGHT ? (row.weight ?? '0') : '1';
}
