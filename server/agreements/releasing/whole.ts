import { countedOn, unitsOf, type WholeLimit } from '@core/agreements';
import { groupedBy } from '@core/kernel';
import type { Sql } from '../../db';

/** The units that items can be counted in, by item: how many of each one of its own is. // A5 */
export async function countingUnits(
  sql: Sql,
  companyId: number,
  itemIds: readonly number[],
): Promise<Map<number, Map<string, string>>> {
  const items = await sql.rows<{ id: number; unit: string; weight: string }>(
    'SELECT id, unit, weight FROM item WHERE company_id = ? AND id IN (?)',
    [companyId, itemIds],
  );
  const units = await sql.rows<{ itemId: number; unit: string; factor: string }>(
    'SELECT item_id, unit, factor FROM item_unit WHERE company_id = ? AND item_id IN (?)',
    [companyId, itemIds],
  );
  const sold = groupedBy(units, ({ itemId }) => itemId);
  return new Map(items.map((item) => [item.id, unitsOf({ ...item, sold: sold.get(item.id) ?? [] })]));
}

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
    itemId: number | null;
    released: string;
  }>(
    `SELECT a.id, a.whole_limit, a.whole_unit, a.released_value, l.id AS line_id, l.item_id, l.released
       FROM agreement a
       JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
      WHERE a.company_id = ? AND a.id IN (?) AND a.whole_limit > 0 ORDER BY a.id, l.id`,
    [companyId, agreementIds],
  );
  if (rows.length === 0) return new Map();
  const units = await countingUnits(
    sql,
    companyId,
    rows.flatMap(({ itemId }) => itemId ?? []),
  );
  const found = new Map<number, WholeLimit>();
  for (const { id, wholeLimit, wholeUnit, releasedValue } of rows) {
    if (found.has(id)) continue;
    const own = rows.filter((row) => row.id === id);
    const factors = new Map(own.map(({ lineId, itemId }) => [lineId, units.get(itemId ?? 0)?.get(wholeUnit) ?? '0']));
    const whole = { limit: wholeLimit, unit: wholeUnit, released: '0', factors };
    const lines = own.map(({ lineId, released }) => ({ agreementLineId: lineId, quantity: released, value: '0' }));
    found.set(id, { ...whole, released: wholeUnit === '' ? releasedValue : countedOn(whole, lines).toFixed() });
  }
  return found;
}
