import type * as z from 'zod';
import type { Route } from '@core/catalogue';
import { dec, share, type Day } from '@core/kernel';
import { differencesOf } from '@core/supply';
import type * as contract from '@api/purchasing';
import { orNotFound } from '../acts';
import { Conditions, inOrderOf, likeOf, sortOf, walkedSorted, type Columns, type SortColumn, type Sql } from '../db';
import { addDays } from '../room';
import { ADDRESS_COLUMNS, addressOf, partyNumbered, type AddressColumns } from '../parties';
import { documentsOfPurchase } from '../documents';
import type { PurchaseOrderLine } from './tables';
import type { Tie as TieColumns } from '../supply/tables';

type Row = z.infer<typeof contract.PurchaseRow>;
type Sheet = z.infer<typeof contract.PurchaseSheet>;

interface HeadRow {
  id: number;
  number: string;
  state: Row['state'];
  vendorId: number;
  vendorNumber: string;
  vendorName: string;
  customerId: number | null;
  customerNumber: string | null;
  customerName: string | null;
  orderDate: Day;
  firstDueDate: Day | null;
  currency: string;
  net: string;
  quantity: string | null;
  received: string | null;
  invoiced: string | null;
  beyond: string | null;
  openDue: Day | null;
  forWhom: string | null;
}

const HEAD = `p.id, p.number, p.state, p.vendor_id, v.number AS vendor_number, v.name AS vendor_name,
    c.id AS customer_id, c.number AS customer_number, c.name AS customer_name, p.order_date, p.first_due_date,
    p.currency, p.net, s.quantity, s.received, s.invoiced, s.beyond, s.open_due,
    (SELECT GROUP_CONCAT(DISTINCT fc.name ORDER BY fc.name SEPARATOR '|') FROM purchase_order_line fl
       JOIN tie ft ON ft.company_id = fl.company_id AND ft.purchase_line_id = fl.id
       JOIN sales_order_line fs ON fs.company_id = ft.company_id AND fs.id = ft.order_line_id
       JOIN sales_order fo ON fo.company_id = fs.company_id AND fo.id = fs.order_id
       JOIN customer fc ON fc.company_id = fo.company_id AND fc.id = fo.customer_id
      WHERE fl.company_id = p.company_id AND fl.purchase_order_id = p.id AND p.ship_to_id IS NULL AND fl.tied > 0) AS for_whom`;
const JOINS = `JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
  LEFT JOIN ship_to st ON st.company_id = p.company_id AND st.id = p.ship_to_id
  LEFT JOIN customer c ON c.company_id = st.company_id AND c.id = st.customer_id`;
/** What was ordered, received and invoiced on these purchases. */
const SUMS = `LEFT JOIN (
    SELECT l.purchase_order_id, SUM(l.quantity) AS quantity, SUM(l.received) AS received, SUM(l.invoiced) AS invoiced,
           SUM(GREATEST(0, l.received - l.quantity)) AS beyond, MIN(IF(l.received < l.quantity, l.due_date, NULL)) AS open_due
      FROM purchase_order_line l WHERE l.company_id = ? AND l.purchase_order_id IN (?) GROUP BY l.purchase_order_id
  ) s ON s.purchase_order_id = p.id`;

const SORTS = {
  number: {},
  vendor: { up: true },
  ordered: { column: 'p.order_date' },
  due: { column: 'p.first_due_date', empty: true, up: true },
  net: { column: 'p.net' },
} satisfies Record<string, SortColumn>;

const KEYS = {
  number: 'PRIMARY',
  vendor: 'purchase_order_vendor',
  ordered: 'purchase_order_ordered',
  due: 'purchase_order_due',
  net: 'purchase_order_net',
} as const;

type PurchasesQuery = z.output<typeof contract.listPurchases.query>;

const STATE_KEY = 'purchase_order_state';

/** The key that serves a list in that order with what it is filtered by. */
function keyFor(sort: keyof typeof KEYS, query: PurchasesQuery, ofVendor: boolean): string {
  if (ofVendor) return KEYS.vendor;
  const state = query.state !== undefined || query.show !== undefined;
  if (state && sort === 'due') return 'purchase_order_state_due';
  return state && sort === 'number' ? STATE_KEY : KEYS[sort];
}

/**
 * Purchase orders newest first or as sorted; `q` looks in number, vendor and customer. Purchases are walked by a key and
 * the rest joined to each: left to itself, the database walks the vendors and sorts all they ever sold.
 */
export async function listPurchases(
  sql: Sql,
  companyId: number,
  query: PurchasesQuery,
  workDate: Day,
): Promise<{ rows: Row[]; next: string | null }> {
  const conditions = new Conditions('p', companyId);
  const { add } = conditions;
  const vendorId = query.vendor === undefined ? null : await partyNumbered(sql, companyId, 'vendor', query.vendor);
  if (vendorId !== null) add('p.vendor_id = ?', vendorId);
  if (query.state) add('p.state = ?', query.state);
  if (query.show === 'late') {
    add("p.state = 'placed' AND p.first_due_date < ?", workDate);
    add(
      `EXISTS (SELECT 1 FROM purchase_order_line l WHERE l.company_id = p.company_id AND l.purchase_order_id = p.id
         AND l.received < l.quantity AND l.due_date < ?)`,
      workDate,
    );
  }
  addDays(add, 'p.first_due_date', 'due', query.due, workDate);
  addDays(add, 'p.order_date', 'ordered', query.ordered, workDate);
  const words = query.q?.trim();
  if (words) {
    add(
      '(p.number LIKE ? OR v.name LIKE ? OR v.number LIKE ? OR c.name LIKE ?)',
      ...Array<string>(4).fill(likeOf(words)),
    );
  }
  const usual: keyof typeof SORTS =
    query.due !== undefined || query.show ? 'due' : query.ordered !== undefined ? 'ordered' : 'number';
  const sort = sortOf<keyof typeof SORTS>(SORTS, query.sort, usual);
  const from = `purchase_order p FORCE INDEX (${keyFor(sort.name, query, vendorId !== null)}) ${words ? JOINS : ''}`;
  const { ids, next } = await walkedSorted(sql, companyId, { party: 'vendor', sort, from }, query, conditions);
  if (ids.length === 0) return { rows: [], next };
  // The page's ids first, so that the sums are made for its rows only.
  const heads = await sql.rows<HeadRow>(
    `SELECT ${HEAD} FROM purchase_order p ${JOINS} ${SUMS} WHERE p.company_id = ? AND p.id IN (?)`,
    [companyId, ids, companyId, ids],
  );
  return { rows: inOrderOf(ids, heads).map(rowOf), next };
}

function rowOf(row: HeadRow): Row {
  const quantity = row.quantity ?? '0';
  return {
    id: row.id,
    number: row.number,
    state: row.state,
    vendor: { id: row.vendorId, number: row.vendorNumber, name: row.vendorName },
    customer:
      row.customerId === null ? null : { id: row.customerId, number: row.customerNumber!, name: row.customerName! },
    orderDate: row.orderDate,
    firstDueDate: row.firstDueDate,
    currency: row.currency,
    net: row.net,
    shares: {
      received: share(row.received ?? '0', quantity),
      invoiced: share(row.invoiced ?? '0', quantity),
    },
    over: row.beyond ?? '0',
    openDue: row.openDue,
    forWhom: (row.forWhom ?? '').split('|').filter(Boolean),
  };
}

/** One purchase order with its lines, what they are tied to, and its documents. */
export async function openPurchase(sql: Sql, companyId: number, id: number): Promise<Sheet> {
  const [head] = await sql.rows<
    HeadRow &
      AddressColumns & {
        version: number;
        revision: number;
        terms: string;
        shipToId: number | null;
        answeredOn: Day | null;
        openedAs: string | null;
        locationId: number;
        locationCode: string;
        location: string;
      }
  >(
    `SELECT ${HEAD}, p.version, p.revision, p.ship_to_id, p.answered_on, p.opened_as, pt.name AS terms, p.location_id, lo.code AS location_code, lo.name AS location, ${ADDRESS_COLUMNS}
       FROM purchase_order p ${JOINS} ${SUMS}
       JOIN location lo ON lo.company_id = p.company_id AND lo.id = p.location_id
       JOIN payment_terms pt ON pt.company_id = v.company_id AND pt.id = v.payment_terms_id
      WHERE p.company_id = ? AND p.id = ?`,
    [companyId, [id], companyId, id],
  );
  const found = orNotFound(head, 'This purchase order');
  const [lines, documents] = await Promise.all([
    linesOf(sql, companyId, id, found.shipToId),
    documentsOfPurchase(sql, companyId, id),
  ]);
  return {
    ...rowOf(found),
    version: found.version,
    revision: found.revision,
    answeredOn: found.answeredOn,
    openedAs: found.openedAs,
    shipTo: addressOf(found),
    location: found.shipToId === null ? { id: found.locationId, code: found.locationCode, name: found.location } : null,
    terms: found.terms,
    lines,
    documents,
  };
}

async function linesOf(sql: Sql, companyId: number, id: number, shipToId: number | null): Promise<Sheet['lines']> {
  const [rows, ties] = await Promise.all([
    sql.rows<
      Columns<
        PurchaseOrderLine,
        'id lineNo itemId quantity unitPrice amount reason dueDate stopped tied received invoiced'
      > & {
        itemNumber: string;
        itemName: string;
        unit: string;
        agreementId: number | null;
        agreementNumber: string | null;
        byNumber: number;
      }
    >(
      `SELECT l.id, l.line_no, l.item_id, i.number AS item_number, i.name AS item_name, i.unit, l.quantity, l.unit_price,
              l.amount, l.reason, l.due_date, l.stopped, l.tied, l.received, l.invoiced, ag.id AS agreement_id, ag.number AS agreement_number,
              EXISTS (SELECT 1 FROM serial_series n WHERE n.company_id = l.company_id AND n.item_id = l.item_id) AS by_number
         FROM purchase_order_line l
         JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
         LEFT JOIN agreement_line al ON al.company_id = l.company_id AND al.id = l.agreement_line_id
         LEFT JOIN agreement ag ON ag.company_id = al.company_id AND ag.id = al.agreement_id
        WHERE l.company_id = ? AND l.purchase_order_id = ? ORDER BY l.line_no`,
      [companyId, id],
    ),
    tiesOf(sql, companyId, id, shipToId),
  ]);
  return rows.map((row) => ({
    id: row.id,
    lineNo: row.lineNo,
    item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
    quantity: row.quantity,
    unitPrice: row.unitPrice,
    amount: row.amount,
    reason: row.reason,
    dueDate: row.dueDate,
    stopped: row.stopped,
    agreement: row.agreementId === null ? null : { kind: 'AG', id: row.agreementId, number: row.agreementNumber! },
    received: row.received,
    invoiced: row.invoiced,
    untied: dec(row.quantity).minus(row.tied).toFixed(),
    byNumber: Boolean(row.byNumber),
    ties: ties.get(row.id) ?? [],
  }));
}

type Tie = z.infer<typeof contract.PurchaseTie>;

/** The ties of a purchase order's lines, by line, the sales line that ships first before others. */
async function tiesOf(sql: Sql, companyId: number, id: number, shipToId: number | null): Promise<Map<number, Tie[]>> {
  const rows = await sql.rows<
    Columns<TieColumns, 'id purchaseLineId quantity received'> & {
      supplyQuantity: string;
      dueDate: Day;
      orderId: number;
      orderNumber: string;
      orderShipTo: number | null;
      customer: string;
      orderLineId: number;
      orderLineNo: number;
      openQuantity: string;
      orderTied: string;
      shipDate: Day;
      route: Route;
    }
  >(
    `SELECT t.id, t.purchase_line_id, t.quantity, t.received, l.quantity AS supply_quantity, l.due_date,
            o.id AS order_id, o.number AS order_number, o.ship_to_id AS order_ship_to, c.name AS customer,
            sl.id AS order_line_id, sl.line_no AS order_line_no, sl.quantity - sl.cancelled AS open_quantity,
            sl.tied AS order_tied, sl.ship_date, sl.route
       FROM purchase_order_line l
       JOIN tie t ON t.company_id = l.company_id AND t.purchase_line_id = l.id
       JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
       JOIN sales_order o ON o.company_id = sl.company_id AND o.id = sl.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE l.company_id = ? AND l.purchase_order_id = ? ORDER BY sl.ship_date, t.id`,
    [companyId, id],
  );
  const byLine = new Map<number, Tie[]>();
  for (const row of rows) {
    const ends = {
      route: row.route,
      tied: row.quantity,
      salesQuantity: dec(row.openQuantity).minus(row.orderTied).plus(row.quantity).toFixed(),
      supplyQuantity: row.supplyQuantity,
      shipDate: row.shipDate,
      supplyDate: row.dueDate,
      received: row.received,
      sameAddress: row.orderShipTo === shipToId,
    };
    const ties = byLine.get(row.purchaseLineId) ?? [];
    ties.push({
      id: row.id,
      order: { kind: 'SO', id: row.orderId, number: row.orderNumber },
      orderLineId: row.orderLineId,
      orderLineNo: row.orderLineNo,
      customer: row.customer,
      quantity: row.quantity,
      received: row.received,
      shipDate: row.shipDate,
      differs: differencesOf(ends).join(', '),
    });
    byLine.set(row.purchaseLineId, ties);
  }
  return byLine;
}
