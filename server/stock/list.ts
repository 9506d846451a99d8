import type * as z from 'zod';
import { dec } from '@core/kernel';
import type * as contract from '@api/stock';
import { likeOf, PAGE_ROWS, type Bound, type Columns, type Sql } from '../db';
import type { Item } from '../catalogue/tables';
import type { Stock } from './tables';

const CURSOR = /^(\d{1,10})\|(.*)$/s;

/** What is at our places, by item number and place; walks the items' numbers from the cursor on. O(page). */
export async function listStock(
  sql: Sql,
  companyId: number,
  query: { q?: string; location?: number; cursor?: string; rows?: number },
): Promise<z.infer<typeof contract.listStock.out>> {
  const most = query.rows ?? PAGE_ROWS;
  const [, place = '', number = ''] = CURSOR.exec(query.cursor ?? '') ?? [];
  const where: string[] = [];
  const values: Bound[] = [];
  if (place !== '') {
    where.push('AND (i.number > ? OR (i.number = ? AND s.location_id > ?)) AND i.number >= ?');
    values.push(number, number, Number(place), number);
  }
  if (query.location !== undefined) {
    where.push('AND s.location_id = ?');
    values.push(query.location);
  }
  if (query.q?.trim()) {
    where.push('AND (i.number LIKE ? OR i.name LIKE ?)');
    values.push(likeOf(query.q), likeOf(query.q));
  }
  const [rows, [company]] = await Promise.all([
    sql.rows<
      Columns<Item, 'id number name unit'> &
        Columns<Stock, 'locationId onHand reserved value'> & { location: string; coming: string | null }
    >(
      `SELECT STRAIGHT_JOIN i.id, i.number, i.name, i.unit, s.location_id, lo.name AS location, s.on_hand, s.reserved, s.value,
              (SELECT SUM(GREATEST(0, l.quantity - l.received)) FROM purchase_order_line l
                 JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
                  AND p.state = 'placed' AND p.ship_to_id IS NULL AND p.location_id = s.location_id
                WHERE l.company_id = s.company_id AND l.item_id = s.item_id AND l.received < l.quantity) AS coming
         FROM item i FORCE INDEX (item_number)
         JOIN stock s FORCE INDEX (PRIMARY) ON s.company_id = i.company_id AND s.item_id = i.id
         JOIN location lo FORCE INDEX (PRIMARY) ON lo.company_id = s.company_id AND lo.id = s.location_id
        WHERE i.company_id = ? ${where.join(' ')} ORDER BY i.number, s.location_id LIMIT ?`,
      [companyId, ...values, most + 1],
    ),
    sql.rows<{ currency: string }>('SELECT currency FROM company WHERE id = ?', [companyId]),
  ]);
  const shown = rows.slice(0, most);
  const last = shown.at(-1);
  return {
    currency: company!.currency,
    rows: shown.map((row) => ({
      item: { id: row.id, number: row.number, name: row.name, unit: row.unit },
      location: { id: row.locationId, name: row.location },
      onHand: row.onHand,
      held: row.reserved,
      free: dec(row.onHand).minus(row.reserved).toFixed(),
      coming: row.coming ?? '0',
      worth: row.value,
    })),
    next: rows.length > most && last ? `${last.locationId}|${last.number}` : null,
  };
}
