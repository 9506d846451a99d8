import type * as z from 'zod';
import { goesNow, isShort, type Coming } from '@core/going-out';
import { addDays, type Day, type DocumentKind } from '@core/kernel';
import type * as contract from '@api/going-out';
import { PAGE_ROWS, type Bound, type Columns, type Sql } from '../db';
import type { SalesOrderLine } from '../orders/tables';
import { assembledNow, coversOf, type OpenLine } from './covers';

type Out = z.infer<typeof contract.listGoingOut.out>;

const CURSOR = /^(\d{4}-\d\d-\d\d)\|(\d{1,10})$/;
/** Days ahead that are shown where none is said. */
const AHEAD = 7;

type Row = Columns<SalesOrderLine, 'id orderId lineNo shipDate reserved itemId locationId'> & {
  number: string;
  reference: string;
  customerId: number;
  customer: string;
  shipToId: number;
  label: string;
  town: string;
  location: string;
  itemNumber: string;
  itemName: string;
  unit: string;
  byNumber: number;
  route: OpenLine['route'];
  open: string;
};

/** Lines of confirmed orders that leave our places. */
const GOING = {
  columns: `l.id, l.order_id, l.line_no, l.ship_date, l.reserved, l.item_id, l.location_id, l.route,
            l.quantity - l.cancelled - l.shipped AS open, o.number, o.customer_reference AS reference, c.id AS customer_id, c.name AS customer,
            st.id AS ship_to_id, st.label, st.town, lo.name AS location, i.number AS item_number, i.name AS item_name, i.unit,
            EXISTS (SELECT 1 FROM serial_series n WHERE n.company_id = l.company_id AND n.item_id = l.item_id) AS by_number`,
  joined: `JOIN customer c FORCE INDEX (PRIMARY) ON c.company_id = o.company_id AND c.id = o.customer_id
       JOIN ship_to st FORCE INDEX (PRIMARY) ON st.company_id = o.company_id AND st.id = o.ship_to_id
       JOIN location lo FORCE INDEX (PRIMARY) ON lo.company_id = l.company_id AND lo.id = l.location_id
       JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = l.company_id AND i.id = l.item_id`,
};

/**
 * Lines that leave our places up to a day, the earliest first, with what there is and comes for each. // S9
 * Walks the key of ship dates, or a customer's confirmed orders, from the cursor on; O(page and the claims on its items).
 */
export async function listGoing(
  sql: Sql,
  companyId: number,
  workDate: Day,
  query: z.output<typeof contract.listGoingOut.query>,
): Promise<Out> {
  const most = query.rows ?? PAGE_ROWS;
  const until = query.until ?? addDays(workDate, AHEAD);
  const where: string[] = [];
  const values: Bound[] = [];
  if (query.location !== undefined) {
    where.push('AND l.location_id = ?');
    values.push(query.location);
  }
  const [, day, id] = CURSOR.exec(query.cursor ?? '') ?? [];
  if (day !== undefined) {
    where.push('AND l.ship_date >= ? AND (l.ship_date > ? OR l.id > ?)');
    values.push(day, day, Number(id));
  }
  const from =
    query.customer === undefined
      ? `sales_order_line l FORCE INDEX (sales_order_line_going)
       JOIN sales_order o FORCE INDEX (PRIMARY) ON o.company_id = l.company_id AND o.id = l.order_id AND o.state = 'confirmed'`
      : `sales_order o FORCE INDEX (sales_order_customer_state)
       JOIN sales_order_line l FORCE INDEX (sales_order_line_no) ON l.company_id = o.company_id AND l.order_id = o.id`;
  const whose =
    query.customer === undefined ? '' : "AND o.company_id = ? AND o.customer_id = ? AND o.state = 'confirmed'";
  const rows = await sql.rows<Row>(
    `SELECT STRAIGHT_JOIN ${GOING.columns} FROM ${from} ${GOING.joined}
      WHERE l.company_id = ? AND l.owed = TRUE AND l.ship_date <= ? ${whose} ${where.join(' ')}
      ORDER BY l.ship_date, l.id LIMIT ?`,
    [companyId, until, ...(query.customer === undefined ? [] : [companyId, query.customer]), ...values, most + 1],
  );
  const shown = rows.slice(0, most);
  const covers = await coversOf(sql, companyId, workDate, shown);
  const assembled = await assembledNow(
    sql,
    companyId,
    shown.filter(({ route }) => route === 'assemble').map((row) => row.id),
  );
  const last = shown.at(-1);
  return {
    rows: shown.map((row) => {
      const cover = covers.get(row.id)!;
      return {
        lineId: row.id,
        order: { kind: 'SO', id: row.orderId, number: row.number },
        lineNo: row.lineNo,
        reference: row.reference,
        customer: { id: row.customerId, name: row.customer },
        shipTo: { id: row.shipToId, label: row.label, town: row.town },
        location: { id: row.locationId, name: row.location },
        item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
        byNumber: Boolean(row.byNumber),
        route: row.route,
        shipDate: row.shipDate,
        open: row.open,
        held: cover.held,
        free: cover.free,
        now: goesNow(cover, assembled.get(row.id) ?? '0', row.open),
        coming: cover.coming.map(comingOf),
        late: cover.late.map(comingOf),
        short: isShort(cover).toFixed(),
        missing: cover.missing,
      };
    }),
    next: rows.length > most && last ? `${last.shipDate}|${last.id}` : null,
  };
}

const comingOf = ({ quantity, day, by: { kind, id, number, party } }: Coming) => ({
  quantity,
  day,
  by: { kind: kind as DocumentKind, id, number },
  party,
});
