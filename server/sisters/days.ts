import type * as z from 'zod';
import { dec, isDay, isDecimalText, MAIN_LOCATION, type Day } from '@core/kernel';
import type { Route } from '@core/catalogue';
import type * as contract from '@api/sisters';
import type { Sql } from '../db';
import { possibleDaysOf } from '../promise';
import { pairOf, type SisterCompany } from './sources';

/**
 * From when a sister could ship what would be bought of her: asked of what she has, makes and buys, on her work date and her
 * calendar, and told as a day alone. Nothing where the vendor is no sister. // T2 X4
 */
export async function sisterDays(
  sql: Sql,
  companyId: number,
  workDate: Day,
  { vendorId, lines }: z.output<typeof contract.sisterDays.body>,
): Promise<z.infer<typeof contract.sisterDays.out>> {
  const [sister] = await sql.rows<SisterCompany & { workDate: Day | null }>(
    `SELECT c.id, c.code, c.name, c.currency, c.elsewhere, c.work_date FROM sister s
       JOIN company c ON c.id = s.sister_id AND c.elsewhere = FALSE WHERE s.company_id = ? AND s.vendor_id = ?`,
    [companyId, vendorId],
  );
  if (!sister) return { sister: '', lines: [] };
  const pair = pairOf(companyId, sister.id);
  const items = await sql.rows<{ ours: number; theirs: number; factor: string; route: Route }>(
    `SELECT o.id AS ours, i.id AS theirs, ${pair.factor} AS factor, i.route FROM item i ${pair.join.replaceAll('LEFT JOIN', 'JOIN')}
      WHERE i.company_id = ? AND o.id IN (?)`,
    [...pair.values, sister.id, lines.map(({ itemId }) => itemId)],
  );
  const asked = lines.flatMap(({ key, itemId, quantity, due }) => {
    const item = items.find(({ ours }) => ours === itemId);
    if (!item || !isDecimalText(quantity, 'quantity') || dec(quantity).lte(0)) return [];
    return [
      {
        key,
        itemId: item.theirs,
        route: item.route,
        locationId: MAIN_LOCATION,
        quantity: dec(dec(quantity).div(item.factor).toFixed(5)).toFixed(),
        asked: due !== null && isDay(due) ? due : null,
      },
    ];
  });
  const days =
    asked.length === 0
      ? []
      : (await possibleDaysOf(sql, sister.id, sister.workDate ?? workDate, { orderId: null, lines: asked })).lines;
  return {
    sister: sister.name,
    lines: lines.map(({ key, due }) => {
      const first = days.find((day) => day.key === key)?.first ?? null;
      return { key, first, late: first !== null && due !== null && first > due };
    }),
  };
}
