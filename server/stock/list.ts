import type * as z from 'zod';
import { dec, UNDER_WAY } from '@core/kernel';
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
  const at = query.location === undefined ? '' : 'AND s.location_id = ?';
  const places: Bound[] = query.location === undefined ? [] : [query.location];
  const where: string[] = [];
  const values: Bound[] = [];
  if (place !== '') {
    where.push('AND i.number >= ?');
    values.push(number);
  }
  if (query.q?.trim()) {
    where.push('AND (i.number LIKE ? OR i.name LIKE ?)');
    values.push(likeOf(query.q), likeOf(query.q));
  }
  const [rows, [company]] = await Promise.all([
    sql.rows<
      Columns<Item, 'id number name unit'> &
        Columns<Stock, 'locationId onHand reserved value'> & {
          location: string;
          coming: string | null;
          carried: string | null;
        }
    >(
      `SELECT STRAIGHT_JOIN i.id, i.number, i.name, i.unit, s.location_id, lo.name AS location, s.on_hand, s.reserved, s.value,
              (SELECT SUM(GREATEST(0, l.quantity - l.received)) FROM purchase_order_line l
                 JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
                  AND p.state = 'placed' AND p.ship_to_id IS NULL AND p.location_id = s.location_id
                WHERE l.company_id = s.company_id AND l.item_id = s.item_id AND l.received < l.quantity) AS coming,
              (SELECT SUM(w.quantity - w.arrived) FROM carriage w
                WHERE w.company_id = s.company_id AND w.item_id = s.item_id AND w.open = TRUE AND w.to_id = s.location_id) AS carried
         -- As many items as rows are shown, in their order: each is somewhere, the first perhaps only where it was shown already.
         FROM (SELECT i.company_id, i.id, i.number, i.name, i.unit FROM item i FORCE INDEX (item_number)
                WHERE i.company_id = ? ${where.join(' ')}
                  AND (SELECT 1 FROM stock s WHERE s.company_id = i.company_id AND s.item_id = i.id ${at} LIMIT 1) IS NOT NULL
                ORDER BY i.number LIMIT ?) i
         JOIN stock s FORCE INDEX (PRIMARY) ON s.company_id = i.company_id AND s.item_id = i.id ${at}
         JOIN location lo FORCE INDEX (PRIMARY) ON lo.company_id = s.company_id AND lo.id = s.location_id
        WHERE ${place === '' ? 'TRUE' : '(i.number > ? OR s.location_id > ?)'}
        ORDER BY i.number, s.location_id LIMIT ?`,
      [
        companyId,
        ...values,
        ...places,
        most + 2,
        ...places,
        ...(place === '' ? [] : [number, Number(place)]),
        most + 1,
      ],
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
      // What is under way is free where it arrives.
      free: row.locationId === UNDER_WAY ? '0' : dec(row.onHand).minus(row.reserved).toFixed(),
      coming: dec(row.coming ?? '0')
        .plus(row.carried ?? '0')
        .toFixed(),
      worth: row.value,
    })),
    next: rows.length > most && last ? `${last.locationId}|${last.number}` : null,
  };
}
