import type * as z from 'zod';
import { dec, isDecimalText, type Day } from '@core/kernel';
import type * as contract from '@api/sisters';
import type { Sql } from '../db';
import { sisterSellers, sisterShips } from '../promise';

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
  const sister = (await sisterSellers(sql, companyId, [vendorId])).get(vendorId);
  if (!sister) return { sister: '', lines: [] };
  const asked = lines.flatMap(({ key, itemId, quantity, due }) =>
    isDecimalText(quantity, 'quantity') && dec(quantity).gt(0) ? [{ key, itemId, quantity, asked: due }] : [],
  );
  const days = await sisterShips(sql, companyId, sister, workDate, asked);
  return {
    sister: sister.name,
    lines: lines.map(({ key, due }) => {
      const first = days.get(key) ?? null;
      return { key, first, late: first !== null && due !== null && first > due };
    }),
  };
}
