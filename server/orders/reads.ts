import type * as z from 'zod';
import { routeFits, ROUTES, type Route } from '@core/catalogue';
import { dec, documentTotals, share, sum, ZERO, type Day } from '@core/kernel';
import type { OrderState } from '@core/orders';
import { agreedSteps, stepsFor } from '@core/pricing';
import { differencesOf } from '@core/supply';
import type * as contract from '@api/orders';
import { orNotFound } from '../acts';
import { Conditions, inOrderOf, likeOf, sortOf, walkedSorted, type Columns, type SortColumn, type Sql } from '../db';
import { addDays } from '../room';
import { ADDRESS_COLUMNS, addressOf, partyNumbered, shipTosOf, type AddressColumns } from '../parties';
import { documentsOfOrder } from '../documents';
import { serialsOfOrder } from '../serial';
import { commissionOf } from './commission';
import type { SalesOrderLine } from './tables';
import type { Item } from '../catalogue/tables';
import type { Tie as TieColumns } from '../supply/tables';

type Row = z.infer<typeof contract.OrderRow>;
type Sheet = z.infer<typeof contract.OrderSheet>;
type Line = z.infer<typeof contract.OrderLine>;

interface HeadRow {
  id: number;
  number: string;
  state: OrderState;
  customerId: number;
  customerNumber: string;
  customerName: string;
  agreementId: number | null;
  agreementNumber: string | null;
  customerReference: string;
  orderDate: string;
  firstShipDate: string | null;
  currency: string;
  net: string;
  live: string | null;
  covered: string | null;
  shipped: string | null;
  invoiced: string | null;
}

const HEAD = `SELECT o.id, o.number, o.state, o.customer_id, c.number AS customer_number, c.name AS customer_name,
    o.agreement_id, a.number AS agreement_number, o.customer_reference, o.order_date, o.first_ship_date,
    o.currency, o.net, s.live, s.covered, s.shipped, s.invoiced`;
const JOINS = `JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
  LEFT JOIN agreement a ON a.company_id = o.company_id AND a.id = o.agreement_id
  LEFT JOIN (
    SELECT l.order_id, SUM(l.quantity - l.cancelled) AS live,
           SUM(IF(l.route = 'stock', l.quantity - l.cancelled, l.tied)) AS covered,
           SUM(l.shipped) AS shipped, SUM(l.invoiced) AS invoiced
      FROM sales_order_line l WHERE l.company_id = ? AND l.order_id IN (?) GROUP BY l.order_id
  ) s ON s.order_id = o.id`;

const SORTS = {
  number: {},
  customer: { up: true },
  reference: { column: 'o.customer_reference', up: true },
  ordered: { column: 'o.order_date' },
  ships: { column: 'o.first_ship_date', empty: true, up: true },
  net: { column: 'o.net' },
} satisfies Record<string, SortColumn>;

const KEYS = {
  number: 'PRIMARY',
  customer: 'sales_order_customer',
  reference: 'sales_order_reference',
  ordered: 'sales_order_ordered',
  ships: 'sales_order_shipping',
  net: 'sales_order_net',
} as const;

const STATE_KEY = 'sales_order_state';

/** The key that serves a list in that order with what it is filtered by. */
function keyFor(sort: keyof typeof KEYS, query: OrdersQuery, ofCustomer: boolean): string {
  if (ofCustomer) return KEYS.customer;
  const state = query.state !== undefined || query.show !== undefined;
  if (state && sort === 'ships') return 'sales_order_state_shipping';
  return state && sort === 'number' ? STATE_KEY : KEYS[sort];
}

type OrdersQuery = z.output<typeof contract.listOrders.query>;

/**
 * Orders newest first or as sorted; `q` looks in number, the customer's reference, and the customer's number and name.
 * What is narrowed to days is in the order of those days where nobody says otherwise. A page costs what it shows, where
 * what it is narrowed to is not rare in its order.
 */
export async function listOrders(
  sql: Sql,
  companyId: number,
  query: OrdersQuery,
  workDate: Day,
): Promise<{ rows: Row[]; next: string | null }> {
  const conditions = new Conditions('o', companyId);
  const { add } = conditions;
  const customerId =
    query.customer === undefined ? null : await partyNumbered(sql, companyId, 'customer', query.customer);
  if (customerId !== null) add('o.customer_id = ?', customerId);
  if (query.state) add('o.state = ?', query.state);
  if (query.show) add("o.state = 'confirmed'");
  if (query.show === 'late') {
    add('o.first_ship_date < ?', workDate);
    add(
      `EXISTS (SELECT 1 FROM sales_order_line l WHERE l.company_id = o.company_id AND l.order_id = o.id
         AND l.shipped < l.quantity - l.cancelled AND l.ship_date < ?)`,
      workDate,
    );
  }
  if (query.show === 'short') {
    add(
      `o.id IN (SELECT l.order_id FROM short_line s JOIN sales_order_line l ON l.company_id = s.company_id AND l.id = s.order_line_id
         WHERE s.company_id = ?)`,
      companyId,
    );
  }
  addDays(add, 'o.first_ship_date', 'ships', query.ships, workDate);
  addDays(add, 'o.order_date', 'ordered', query.ordered, workDate);
  const words = query.q?.trim();
  if (words) {
    add(
      '(o.number LIKE ? OR o.customer_reference LIKE ? OR c.name LIKE ? OR c.number LIKE ?)',
      ...Array<string>(4).fill(likeOf(words)),
    );
  }
  const usual: keyof typeof SORTS =
    query.ships !== undefined || query.show ? 'ships' : query.ordered !== undefined ? 'ordered' : 'number';
  const sort = sortOf<keyof typeof SORTS>(SORTS, query.sort, usual);
  const from = `sales_order o FORCE INDEX (${keyFor(sort.name, query, customerId !== null)})
    ${words ? 'JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id' : ''}`;
  const { ids, next } = await walkedSorted(sql, companyId, { party: 'customer', sort, from }, query, conditions);
  // The page's ids first, so that the sums are made for its rows only.
  return { rows: inOrderOf(ids, await headsOf(sql, companyId, ids)).map(rowOf), next };
}

async function headsOf(sql: Sql, companyId: number, ids: readonly number[]): Promise<HeadRow[]> {
  if (ids.length === 0) return [];
  return sql.rows(`${HEAD} FROM sales_order o ${JOINS} WHERE o.company_id = ? AND o.id IN (?) ORDER BY o.id DESC`, [
    companyId,
    ids,
    companyId,
    ids,
  ]);
}

function rowOf(row: HeadRow): Row {
  const live = row.live ?? '0';
  return {
    id: row.id,
    number: row.number,
    state: row.state,
    customer: { id: row.customerId, number: row.customerNumber, name: row.customerName },
    agreement: row.agreementId === null ? null : { kind: 'AG', id: row.agreementId, number: row.agreementNumber! },
    customerReference: row.customerReference,
    orderDate: row.orderDate,
    firstShipDate: row.firstShipDate,
    currency: row.currency,
    net: row.net,
    shares: {
      covered: share(row.covered ?? '0', live),
      shipped: share(row.shipped ?? '0', live),
      invoiced: share(row.invoiced ?? '0', live),
    },
  };
}

/** What only the sheet of an order tells of its head. */
async function moreOf(sql: Sql, companyId: number, id: number) {
  const [more] = await sql.rows<
    AddressColumns & {
      version: number;
      revision: number;
      referenceRequired: boolean;
      terms: string;
      organisation: string;
    }
  >(
    `SELECT o.version, o.revision, c.reference_required, pt.name AS terms, COALESCE(so.name, '') AS organisation, ${ADDRESS_COLUMNS}
       FROM sales_order o
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
       JOIN payment_terms pt ON pt.company_id = c.company_id AND pt.id = c.payment_terms_id
       LEFT JOIN sales_organisation so ON so.company_id = c.company_id AND so.id = c.sales_organisation_id
       LEFT JOIN ship_to st ON st.company_id = o.company_id AND st.id = o.ship_to_id
      WHERE o.company_id = ? AND o.id = ?`,
    [companyId, id],
  );
  return more;
}

/** One order with its lines, totals and documents. */
export async function openOrder(sql: Sql, companyId: number, id: number): Promise<Sheet> {
  const head = headsOf(sql, companyId, [id]).then(([found]) => orNotFound(found, 'This sales order'));
  const [row, more, lines, shipTos, documents, commission] = await Promise.all([
    head,
    moreOf(sql, companyId, id),
    linesOf(
      sql,
      companyId,
      id,
      head.then((found) => found.currency),
    ),
    head.then((found) => shipTosOf(sql, companyId, found.customerId)),
    documentsOfOrder(sql, companyId, id),
    commissionOf(sql, companyId, id),
  ]);
  const totals = documentTotals(
    lines.filter((line) => line.cancelled !== line.quantity).map((line) => ({ ...line, net: dec(line.amount) })),
    row.currency,
  );
  return {
    ...rowOf(row),
    version: more!.version,
    revision: more!.revision,
    shipTo: addressOf(more!),
    shipTos,
    referenceRequired: more!.referenceRequired,
    terms: more!.terms,
    lines,
    totals: {
      net: totals.net.toFixed(),
      tax: totals.tax.toFixed(),
      total: totals.total.toFixed(),
      taxes: totals.taxes.map((tax) => ({ ...tax, base: tax.base.toFixed(), tax: tax.tax.toFixed() })),
    },
    documents,
    commission,
    salesOrganisation: more!.organisation,
  };
}

type LineRow = Columns<
  SalesOrderLine,
  'id lineNo itemId agreementLineId quantity cancelled unitPrice listPrice amount taxRate route shipDate movedFrom promisedDate tied shipped invoiced onBench locationId reserved unitFactor typedPrice priceReason discount buildUp pricedOn orderedAmount agreedAmount'
> &
  Columns<Item, 'number name unit stocked obtained weight volume'> & {
    agreementId: number | null;
    agreementNumber: string | null;
    taxCode: string;
    vendors: number;
    locationCode: string;
    location: string;
    free: string | null;
    soldUnit: string;
    byNumber: number;
    chosen: string | null;
    closedShort: number;
    hasOptions: number;
    promotionId: number | null;
    promotionNumber: string | null;
    promotionKind: string | null;
  };

async function linesOf(sql: Sql, companyId: number, orderId: number, currency: Promise<string>): Promise<Line[]> {
  const [inCurrency, rows, invoiced, paid, ties, units, planned, serials] = await Promise.all([
    currency,
    sql.rows<LineRow>(
      `SELECT STRAIGHT_JOIN l.id, l.line_no, l.item_id, i.number, i.name, i.unit, l.agreement_line_id, ag.id AS agreement_id,
            ag.number AS agreement_number, l.quantity, l.cancelled, l.unit_price, l.list_price, l.amount, tc.code AS tax_code, l.tax_rate, l.route, i.stocked, i.obtained,
            (SELECT COUNT(*) FROM item_vendor iv WHERE iv.company_id = l.company_id AND iv.item_id = l.item_id) AS vendors,
            l.ship_date, l.moved_from, l.promised_date, l.tied, l.shipped, l.invoiced, l.on_bench, l.location_id, lo.code AS location_code, lo.name AS location, l.reserved, l.agreed_amount,
            IF(l.unit = '', i.unit, l.unit) AS sold_unit, l.unit_factor, l.typed_price, l.price_reason, l.discount, l.build_up, l.priced_on, l.ordered_amount,
            i.weight, i.volume, sk.on_hand - sk.reserved AS free, pm.id AS promotion_id, pm.number AS promotion_number, pl.kind AS promotion_kind,
            EXISTS (SELECT 1 FROM serial_series n WHERE n.company_id = l.company_id AND n.item_id = l.item_id) AS by_number,
            (SELECT GROUP_CONCAT(JSON_OBJECT('id', x.id, 'number', k.number, 'name', k.name) ORDER BY x.id SEPARATOR '\n')
               FROM sales_line_option so JOIN item_option x ON x.company_id = so.company_id AND x.id = so.option_id
               JOIN item k ON k.company_id = x.company_id AND k.id = x.component_id
              WHERE so.company_id = l.company_id AND so.order_line_id = l.id) AS chosen,
            EXISTS (SELECT 1 FROM option_group g WHERE g.company_id = l.company_id AND g.item_id = l.item_id) AS has_options,
            EXISTS (SELECT 1 FROM line_closing z WHERE z.company_id = l.company_id AND z.order_line_id = l.id AND z.undone = FALSE) AS closed_short
       FROM sales_order_line l FORCE INDEX (sales_order_line_no)
       JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = l.company_id AND i.id = l.item_id
       JOIN tax_code tc FORCE INDEX (PRIMARY) ON tc.company_id = l.company_id AND tc.id = l.tax_code_id
       JOIN location lo FORCE INDEX (PRIMARY) ON lo.company_id = l.company_id AND lo.id = l.location_id
       LEFT JOIN agreement_line al FORCE INDEX (PRIMARY) ON al.company_id = l.company_id AND al.id = l.agreement_line_id
       LEFT JOIN agreement ag FORCE INDEX (PRIMARY) ON ag.company_id = al.company_id AND ag.id = al.agreement_id
       LEFT JOIN stock sk FORCE INDEX (PRIMARY) ON sk.company_id = l.company_id AND sk.item_id = l.item_id AND sk.location_id = l.location_id
       LEFT JOIN promotion_line pl FORCE INDEX (PRIMARY) ON pl.company_id = l.company_id AND pl.id = l.promotion_line_id
       LEFT JOIN promotion pm FORCE INDEX (PRIMARY) ON pm.company_id = pl.company_id AND pm.id = pl.promotion_id
      WHERE l.company_id = ? AND l.order_id = ? ORDER BY l.line_no`,
      [companyId, orderId],
    ),
    vendorInvoicedOf(sql, companyId, orderId),
    paidOf(sql, companyId, orderId),
    tiesOf(sql, companyId, orderId),
    sql.rows<{ itemId: number; unit: string; factor: string }>(
      `SELECT DISTINCT u.item_id, u.unit, u.factor FROM sales_order_line l
         JOIN item_unit u ON u.company_id = l.company_id AND u.item_id = l.item_id
        WHERE l.company_id = ? AND l.order_id = ? ORDER BY u.factor`,
      [companyId, orderId],
    ),
    // What is planned for its lines, and what of it was placed since. // T12
    sql.rows<{
      orderLineId: number;
      kind: 'PR' | 'AS' | 'PL' | 'PO';
      id: number;
      number: string;
      state: string;
      making: string;
    }>(
      `SELECT t.order_line_id, IF(po.id IS NULL, CASE p.kind WHEN 'make' THEN 'PR' WHEN 'assemble' THEN 'AS' ELSE 'PL' END, 'PO') AS kind,
              COALESCE(po.id, p.id) AS id, COALESCE(po.number, p.number) AS number, IF(po.id IS NULL, p.state, 'ordered') AS state,
              IF(p.state IN ('firm', 'running'), t.quantity - t.made, 0) AS making
         FROM sales_order_line l FORCE INDEX (sales_order_line_no)
         JOIN planned_tie t FORCE INDEX (planned_tie_line) ON t.company_id = l.company_id AND t.order_line_id = l.id
         JOIN planned_order p FORCE INDEX (PRIMARY) ON p.company_id = t.company_id AND p.id = t.planned_order_id
         LEFT JOIN purchase_order_line pl ON pl.company_id = p.company_id AND pl.id = p.purchase_line_id
         LEFT JOIN purchase_order po ON po.company_id = pl.company_id AND po.id = pl.purchase_order_id
        WHERE l.company_id = ? AND l.order_id = ? AND (p.open = TRUE OR p.state = 'placed' OR t.made > 0) ORDER BY p.id`,
      [companyId, orderId],
    ),
    serialsOfOrder(sql, companyId, orderId),
  ]);
  return rows.map((row) =>
    lineOf(row, inCurrency, {
      ties: ties.get(row.id) ?? [],
      vendorInvoiced: invoiced.get(row.id) ?? '0',
      paid: paid.get(row.id) ?? 0,
      planned: planned
        .filter((each) => each.orderLineId === row.id)
        .map(({ kind, id, number, state }) => ({ kind, id, number, state })),
      making: sum(planned.filter((each) => each.orderLineId === row.id).map((each) => dec(each.making))).toFixed(),
      units: units.filter((each) => each.itemId === row.itemId),
      numbers: serials.filter(({ lineId }) => lineId === row.id).map(({ lineId: _of, ...piece }) => piece),
    }),
  );
}

/** What vendors invoiced of what was received for an order's lines, by line. */
async function vendorInvoicedOf(sql: Sql, companyId: number, orderId: number): Promise<Map<number, string>> {
  const rows = await sql.rows<{ id: number; quantity: string }>(
    `SELECT STRAIGHT_JOIN t.order_line_id AS id, SUM(vil.quantity) AS quantity
       FROM sales_order_line sl FORCE INDEX (sales_order_line_no)
       JOIN tie t FORCE INDEX (tie_ends) ON t.company_id = sl.company_id AND t.order_line_id = sl.id
       JOIN receipt_line rl FORCE INDEX (receipt_line_tie) ON rl.company_id = t.company_id AND rl.tie_id = t.id
       JOIN vendor_invoice_line vil FORCE INDEX (vendor_invoice_line_receipt)
         ON vil.company_id = rl.company_id AND vil.receipt_line_id = rl.id
      WHERE sl.company_id = ? AND sl.order_id = ? GROUP BY t.order_line_id`,
    [companyId, orderId],
  );
  return new Map(rows.map((row) => [row.id, row.quantity]));
}

/** The share of the invoices of an order's lines that is paid, by line. */
async function paidOf(sql: Sql, companyId: number, orderId: number): Promise<Map<number, number>> {
  const rows = await sql.rows<{ id: number; total: string; settled: string }>(
    `SELECT STRAIGHT_JOIN l.id, SUM(oi.amount) AS total, SUM(oi.settled) AS settled
       FROM sales_order_line l FORCE INDEX (sales_order_line_no)
       JOIN customer_invoice_line cil FORCE INDEX (customer_invoice_line_order)
         ON cil.company_id = l.company_id AND cil.order_line_id = l.id
       JOIN open_item oi FORCE INDEX (open_item_customer_invoice)
         ON oi.company_id = cil.company_id AND oi.customer_invoice_id = cil.invoice_id
      WHERE l.company_id = ? AND l.order_id = ? GROUP BY l.id`,
    [companyId, orderId],
  );
  return new Map(rows.map((row) => [row.id, share(row.settled, row.total)]));
}

/** The steps as they were made; what an agreement or the list gave by itself has one for each. // R4 */
function stepsOf(row: LineRow): Line['buildUp'] {
  const steps = JSON.parse(row.buildUp) as Line['buildUp'];
  if (steps.length > 0) return steps;
  const agreed = row.agreementLineId === null ? ZERO : dec(row.agreedAmount ?? row.amount);
  return agreedSteps(agreed, dec(row.amount), row.agreementNumber ?? '', { kind: 'list', source: 'the list' });
}

type Tie = z.infer<typeof contract.OrderTie>;

/** The ties of an order's lines, by line, oldest first. */
async function tiesOf(sql: Sql, companyId: number, orderId: number): Promise<Map<number, Tie[]>> {
  const rows = await sql.rows<
    Columns<TieColumns, 'id orderLineId quantity received'> & {
      purchaseId: number;
      number: string;
      purchaseLineId: number;
      lineNo: number;
      dueDate: string;
      vendor: string;
      route: Route;
      live: string;
      orderTied: string;
      shipDate: string;
      supplyQuantity: string;
      sameAddress: number;
    }
  >(
    `SELECT STRAIGHT_JOIN t.id, t.order_line_id, t.quantity, t.received, p.id AS purchase_id, p.number, pl.id AS purchase_line_id,
            pl.line_no, pl.due_date, v.name AS vendor, sl.route, sl.quantity - sl.cancelled AS live, sl.tied AS order_tied, sl.ship_date,
            pl.quantity AS supply_quantity, o.ship_to_id <=> p.ship_to_id AS same_address
       FROM sales_order o FORCE INDEX (PRIMARY)
       JOIN sales_order_line sl FORCE INDEX (sales_order_line_no) ON sl.company_id = o.company_id AND sl.order_id = o.id
       JOIN tie t FORCE INDEX (tie_ends) ON t.company_id = sl.company_id AND t.order_line_id = sl.id
       JOIN purchase_order_line pl FORCE INDEX (PRIMARY) ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p FORCE INDEX (PRIMARY) ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
       JOIN vendor v FORCE INDEX (PRIMARY) ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE o.company_id = ? AND o.id = ? ORDER BY t.id`,
    [companyId, orderId],
  );
  const byLine = new Map<number, Tie[]>();
  for (const row of rows) {
    const ties = byLine.get(row.orderLineId) ?? [];
    ties.push({
      id: row.id,
      purchase: { kind: 'PO', id: row.purchaseId, number: row.number },
      purchaseLineId: row.purchaseLineId,
      purchaseLineNo: row.lineNo,
      vendor: row.vendor,
      quantity: row.quantity,
      received: row.received,
      dueDate: row.dueDate,
      differs: differencesOf({
        route: row.route,
        tied: row.quantity,
        salesQuantity: dec(row.live).minus(row.orderTied).plus(row.quantity).toFixed(),
        supplyQuantity: row.supplyQuantity,
        shipDate: row.shipDate,
        supplyDate: row.dueDate,
        received: row.received,
        sameAddress: Boolean(row.sameAddress),
      }).join(', '),
    });
    byLine.set(row.orderLineId, ties);
  }
  return byLine;
}

/** What is read of a line beside its row. */
interface Beside {
  ties: Tie[];
  vendorInvoiced: string;
  /** The share of its invoices that is paid. */
  paid: number;
  planned: Line['planned'];
  making: string;
  units: { unit: string; factor: string }[];
  numbers: Line['numbers'];
}

function lineOf(
  row: LineRow,
  currency: string,
  { ties, vendorInvoiced, paid, planned, making, units, numbers }: Beside,
): Line {
  const fits = { stocked: row.stocked, hasVendor: row.vendors > 0, obtained: row.obtained };
  return {
    id: row.id,
    lineNo: row.lineNo,
    item: { id: row.itemId, number: row.number, name: row.name, unit: row.unit },
    agreementLineId: row.agreementLineId,
    agreement: row.agreementId === null ? null : { kind: 'AG', id: row.agreementId, number: row.agreementNumber! },
    quantity: row.quantity,
    cancelled: row.cancelled,
    unitPrice: row.unitPrice,
    listPrice: row.listPrice,
    amount: row.amount,
    taxCode: row.taxCode,
    taxRate: row.taxRate,
    sold: {
      unit: row.soldUnit,
      factor: row.unitFactor,
      price: row.typedPrice,
      reason: row.priceReason,
      discount: row.discount,
    },
    promotion:
      row.promotionId === null
        ? null
        : { kind: 'PM', id: row.promotionId, number: row.promotionNumber!, free: row.promotionKind === 'free' },
    pricedOn: row.pricedOn,
    orderedAmount: row.orderedAmount,
    weight: row.weight,
    volume: row.volume,
    route: row.route,
    location: row.route === 'drop' ? null : { id: row.locationId, code: row.locationCode, name: row.location },
    routes: ROUTES.filter((route) => routeFits(route, fits)),
    shipDate: row.shipDate,
    // What shipped wholly ships no later any more.
    closedShort: row.closedShort > 0,
    movedFrom: dec(row.quantity).minus(row.cancelled).gt(row.shipped) ? row.movedFrom : null,
    promised: row.promisedDate,
    tied: row.tied,
    shipped: row.shipped,
    invoiced: row.invoiced,
    vendorInvoiced,
    // The share of the line's invoices that is paid, counted for the invoiced part of the line.
    paidShare: share(row.invoiced, row.quantity) * paid,
    ties,
    needsPurchase: row.onBench,
    reserved: row.reserved,
    free: row.free ?? '0',
    byNumber: Boolean(row.byNumber),
    options: (row.chosen ?? '')
      .split('\n')
      .filter(Boolean)
      .map((each) => JSON.parse(each) as Line['options'][number]),
    hasOptions: Boolean(row.hasOptions),
    numbers,
    planned,
    making,
    ourMake: row.obtained === 'make' || row.obtained === 'assemble',
    units: [{ unit: row.unit, factor: '1' }, ...units.map(({ unit, factor }) => ({ unit, factor }))],
    buildUp: stepsFor(stepsOf(row), row.amount, currency),
  };
}
