import { transferPrice } from '@core/sisters';
import { listPriceIn } from '../catalogue';
import type { Tx } from '../db';
import type { Taken } from './ground';

/** By which route items are sold to a sister, and at what, where she pays a price of her own. // X5 */
export async function sellingOf(
  tx: Tx,
  { half, party }: Pick<Taken, 'half' | 'party'>,
  lines: readonly { itemId: number }[],
  companyId: number,
): Promise<Map<number, { route: string; price?: string }>> {
  const rows = await tx.rows<{ id: number; route: string; list: string; cost: string | null }>(
    `SELECT i.id, i.route, ${listPriceIn('?')} AS list,
            (SELECT ROUND(SUM(s.value) / SUM(s.on_hand), 4) FROM stock s
              WHERE s.company_id = i.company_id AND s.item_id = i.id HAVING SUM(s.on_hand) > 0) AS cost
       FROM item i WHERE i.company_id = ? AND i.id IN (?)`,
    [party!.currency, party!.currency, companyId, lines.map(({ itemId }) => itemId)],
  );
  return new Map(
    rows.map(({ id, route, ...known }) => {
      const price = transferPrice(half, known);
      return [id, { route, ...(price === null ? {} : { price }) }];
    }),
  );
}
