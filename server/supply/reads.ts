import type * as z from 'zod';
import type { Route } from '@core/catalogue';
import { dec, type Day } from '@core/kernel';
import type * as contract from '@api/supply';
import { NUMBER_AT } from '../catalogue';
import { PAGE_ROWS, type Columns, type Sql } from '../db';
import { ADDRESS_COLUMNS, addressOf, type AddressColumns } from '../parties';
import type { PlannedOrder } from '../promise/tables';
import { forWhom, plannedForOrder } from './planned';
import { offersFor, proposalFor, supplyDaysOf } from './store';

type Row = z.infer<typeof contract.BenchRow>;

/** A row of the bench before who sells its item is known. */
interface Needed {
  row: Omit<Row, 'offers' | 'proposal'>;
  /** The vendor it was planned with. */
  vendorId: number | null;
}

const CURSOR = /^(\d{4}-\d{2}-\d{2})\|(line|planned)\|(\d{1,10})$/;

/**
 * What needs a purchase, soonest first, on one day lines before what is planned; of one order where asked. Both walk a
 * key of their own from the cursor on.
 */
export async function listBench(
  sql: Sql,
  companyId: number,
  workDate: Day,
  query: { orderId?: number; plannedId?: number; cursor?: string; rows?: number },
): Promise<{ currency: string; rows: Row[]; next: string | null }> {
  const most = query.rows ?? PAGE_ROWS;
  const [, day = '1000-01-01', kind = 'line', id = '0'] = CURSOR.exec(query.cursor ?? '') ?? [];
  const { orderId, plannedId } = query;
  const lines = plannedId
    ? []
    : await benchLines(sql, companyId, [day, kind === 'line' ? Number(id) : MAX_ID], most + 1, orderId);
  const only = plannedId ? [plannedId] : orderId ? await plannedForOrder(sql, companyId, orderId) : null;
  const planned = await benchPlanned(sql, companyId, [day, kind === 'line' ? 0 : Number(id)], most + 1, only);
  const all = [...lines, ...planned].sort((a, b) => a.row.shipDate.localeCompare(b.row.shipDate));
  const shown = all.slice(0, most);
  const offers = await offersFor(
    sql,
    companyId,
    shown.map(({ row }) => row.item.id),
    workDate,
  );
  const vendorIds = [...offers.values()].flatMap((each) => each.map(({ vendorId }) => vendorId));
  const days = await supplyDaysOf(sql, companyId, workDate, [...new Set(vendorIds)]);
  const last = shown.at(-1)?.row;
  const [company] = await sql.rows<{ currency: string }>('SELECT currency FROM company WHERE id = ?', [companyId]);
  return {
    currency: company!.currency,
    rows: shown.map(({ row, vendorId }) => {
      const of = offers.get(row.item.id) ?? [];
      const shownOffers = of.map((offer) => ({ ...offer, ownPrice: offer.ownPrice ?? '' }));
      return { ...row, offers: shownOffers, proposal: proposalFor(of, row, days, vendorId) };
    }),
    next:
      all.length > most && last
        ? `${last.shipDate}|${last.planned ? 'planned' : 'line'}|${last.planned?.id ?? last.orderLineId}`
        : null,
  };
}

type After = readonly [day: string, id: number];
const MAX_ID = 4_294_967_295;

async function benchLines(
  sql: Sql,
  companyId: number,
  [day, after]: After,
  most: number,
  orderId: number | undefined,
): Promise<Needed[]> {
  // The key is named: left to itself the optimizer may read every order of the company first and sort.
  const [key, where] = orderId
    ? ['sales_order_line_no', 'AND l.order_id = ?']
    : (['sales_order_line_bench', ''] as const);
  const rows = await sql.rows<
    AddressColumns & {
      id: number;
      lineNo: number;
      orderId: number;
      orderNumber: string;
      customerId: number;
      customerNumber: string;
      customerName: string;
      itemId: number;
      itemNumber: string;
      itemName: string;
      unit: string;
      quantity: string;
      cancelled: string;
      tied: string;
      shipDate: Day;
      route: Route;
    }
  >(
    `SELECT STRAIGHT_JOIN l.id, l.line_no, l.order_id, o.number AS order_number, o.customer_id, c.number AS customer_number,
            c.name AS customer_name, l.item_id, i.number AS item_number, i.name AS item_name, i.unit,
            l.quantity, l.cancelled, l.tied, l.ship_date, l.route, ${ADDRESS_COLUMNS}
       FROM sales_order_line l FORCE INDEX (${key})
       JOIN sales_order o FORCE INDEX (PRIMARY) ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c FORCE INDEX (PRIMARY) ON c.company_id = o.company_id AND c.id = o.customer_id
       JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = l.company_id AND i.id = l.item_id
       JOIN ship_to st FORCE INDEX (PRIMARY) ON st.company_id = o.company_id AND st.id = o.ship_to_id
      WHERE l.company_id = ? AND l.on_bench = TRUE ${where} AND (l.ship_date > ? OR (l.ship_date = ? AND l.id > ?))
      ORDER BY l.ship_date, l.id LIMIT ?`,
    [companyId, ...(orderId ? [orderId] : []), day, day, after, most],
  );
  return rows.map((row) => ({
    vendorId: null,
    row: {
      key: `line ${row.id}`,
      orderLineId: row.id,
      planned: null,
      lineNo: row.lineNo,
      order: { kind: 'SO', id: row.orderId, number: row.orderNumber },
      customer: { id: row.customerId, number: row.customerNumber, name: row.customerName },
      shipTo: addressOf(row)!,
      item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
      quantity: dec(row.quantity).minus(row.cancelled).minus(row.tied).toFixed(),
      route: row.route,
      shipDate: row.shipDate,
      orderBy: null,
    },
  }));
}

/** Planned purchases that nobody placed yet. // T12 */
async function benchPlanned(
  sql: Sql,
  companyId: number,
  [day, after]: After,
  most: number,
  only: readonly number[] | null,
): Promise<Needed[]> {
  const rows = await sql.rows<
    Columns<PlannedOrder, 'id number quantity startDate dueDate vendorId itemId'> & {
      itemNumber: string;
      itemName: string;
      unit: string;
    }
  >(
    `SELECT p.id, p.number, p.quantity, p.start_date, p.due_date, p.vendor_id, p.item_id, ${NUMBER_AT} AS item_number,
            i.name AS item_name, i.unit
       FROM planned_order p
       JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
       JOIN location lo ON lo.company_id = p.company_id AND lo.id = p.location_id
      WHERE p.company_id = ? AND p.kind = 'buy' AND p.waits AND p.state = 'planned'
        AND (p.due_date > ? OR (p.due_date = ? AND p.id > ?)) ${only ? 'AND p.id IN (?)' : ''}
      ORDER BY p.due_date, p.id LIMIT ?`,
    [companyId, day, day, after, ...(only ? [only] : []), most],
  );
  const whom = await forWhom(
    sql,
    companyId,
    rows.map((row) => row.id),
  );
  return rows.map((row) => {
    const top = whom.get(row.id);
    return {
      vendorId: row.vendorId,
      row: {
        key: `planned ${row.id}`,
        orderLineId: null,
        planned: { kind: 'PL', id: row.id, number: row.number },
        lineNo: top?.lineNo ?? null,
        order: top ? { kind: 'SO', id: top.orderId, number: top.number } : null,
        customer: top ? { id: top.customerId, number: top.customerNumber, name: top.customerName } : null,
        shipTo: null,
        item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
        quantity: row.quantity,
        route: 'special',
        shipDate: row.dueDate,
        orderBy: row.startDate,
      },
    };
  });
}
