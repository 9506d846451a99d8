import type { DropTie, MoveEnd, OwnLine, PurchaseState, SpecialTie, StockLine } from '@core/stock';
import type { Route } from '@core/catalogue';
import type { OrderState } from '@core/orders';
import { dec, pointOf, type Day } from '@core/kernel';
import { orNotFound } from '../acts';
import type { Sql, Columns } from '../db';
import { NUMBER_AT, ownCurrency, rateAt } from '../catalogue';
import type { StockNow } from '../on-hand';
import { assembliesOf, assembliesRead, type Assembly } from '../workshop';
import type { PurchaseOrder, PurchaseOrderLine } from '../purchasing/tables';
import type { SalesOrder, SalesOrderLine } from '../orders/tables';

/** Lines of one end, their ties with the lines at the other, and the agreement lines either is under. */
interface End {
  own: string;
  /** From an order, lines without a tie are never asked for. */
  tied: (join: 'JOIN' | 'LEFT JOIN') => string;
  where: string;
  ownUnder: string;
  othersUnder: string;
}

const ENDS: Record<MoveEnd, End> = {
  purchase: {
    own: 'purchase_order_line pl FORCE INDEX (purchase_order_line_no)',
    tied: (
      join,
    ) => `${join} tie t FORCE INDEX (tie_purchase) ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id
       ${join} sales_order_line sl FORCE INDEX (PRIMARY) ON sl.company_id = t.company_id AND sl.id = t.order_line_id`,
    where: 'pl.company_id = ? AND pl.purchase_order_id = ?',
    ownUnder: 'pl.agreement_line_id',
    othersUnder: 'sl.agreement_line_id',
  },
  order: {
    own: 'sales_order_line sl FORCE INDEX (sales_order_line_no)',
    tied: () => `JOIN tie t FORCE INDEX (tie_ends) ON t.company_id = sl.company_id AND t.order_line_id = sl.id
       JOIN purchase_order_line pl FORCE INDEX (PRIMARY) ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id`,
    where: 'sl.company_id = ? AND sl.order_id = ?',
    ownUnder: 'sl.agreement_line_id',
    othersUnder: 'pl.agreement_line_id',
  },
};

/** The agreements of an end's own lines and of those they are tied to, by id. Keys are named so that no plan is searched for. */
function agreementsUnder({ own, tied, where, ownUnder, othersUnder }: End): string {
  const under = (lines: string, line: string) => `SELECT STRAIGHT_JOIN al.agreement_id FROM ${lines}
         JOIN agreement_line al FORCE INDEX (PRIMARY) ON al.company_id = ? AND al.id = ${line} WHERE ${where}`;
  return `${under(own, ownUnder)} UNION ${under(`${own} ${tied('JOIN')}`, othersUnder)} ORDER BY agreement_id LIMIT 1000000`;
}

/** The keys of an end's ties, by order, with what is only read of them; last the lines of a purchase without a tie. */
function tieKeys({ own, tied, where }: End): string {
  return `SELECT STRAIGHT_JOIN sl.order_id, sl.id AS order_line_id, t.id AS tie_id, pl.id AS purchase_line_id,
              pl.purchase_order_id, i.number AS item_number, c.price_of
         FROM ${own} ${tied('LEFT JOIN')}
         LEFT JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = sl.company_id AND i.id = sl.item_id
         LEFT JOIN sales_order o FORCE INDEX (PRIMARY) ON o.company_id = sl.company_id AND o.id = sl.order_id
         LEFT JOIN customer c FORCE INDEX (PRIMARY) ON c.company_id = o.company_id AND c.id = o.customer_id
        WHERE ${where} ORDER BY sl.order_id IS NULL, sl.order_id LIMIT 1000000`;
}

interface TieRow {
  tieId: number;
  quantity: string;
  received: string;
  purchaseId: number;
  purchaseNumber: string;
  purchaseState: PurchaseState;
  vendorId: number;
  purchaseCurrency: string;
  own: string;
  rate: string | null;
  purchaseLineId: number;
  purchaseLineNo: number;
  purchaseQuantity: string;
  purchaseReceived: string;
  purchasePrice: string;
  purchaseAmount: string;
  purchaseAgreed: string | null;
  purchaseAgreementLineId: number | null;
  orderId: number;
  orderNumber: string;
  orderState: OrderState;
  customerId: number;
  shipToId: number;
  orderCurrency: string;
  orderLineId: number;
  orderLineNo: number;
  orderQuantity: string;
  cancelled: string;
  shipped: string;
  reserved: string;
  route: Route;
  orderPrice: string;
  orderAmount: string;
  orderAgreed: string | null;
  agreementLineId: number | null;
  itemId: number;
  itemNumber: string;
  priceOf: 'order' | 'ship';
  shipDate: Day;
}

/** A line of a purchase without a tie. */
type Untied = { [Column in keyof TieRow]: null } & { purchaseShipToId: number | null };

/**
 * The ties of a purchase or sales order with both ends, drop shipments apart from special orders, locked: agreements
 * first, then orders with their lines, ties, and purchases, by a statement whose join order is the lock order.
 * Both statements in one trip.
 */
export async function loadTies(sql: Sql, companyId: number, end: MoveEnd, id: number, day: Day) {
  const ends = ENDS[end];
  const [agreements, found] = await sql.batch([
    {
      sql: `SELECT a.id, a.number FROM (${agreementsUnder(ends)}) n
       STRAIGHT_JOIN agreement a FORCE INDEX (PRIMARY) ON a.company_id = ? AND a.id = n.agreement_id ${sql.forUpdate}`,
      values: [companyId, companyId, id, companyId, companyId, id, companyId],
      rows: true,
    },
    {
      sql: `SELECT STRAIGHT_JOIN t.id AS tie_id, t.quantity, t.received, p.ship_to_id AS purchase_ship_to_id,
            p.id AS purchase_id, p.number AS purchase_number, p.state AS purchase_state, p.vendor_id, p.currency AS purchase_currency,
            ${ownCurrency('p.company_id')} AS own, ${rateAt('p.currency', 'p.company_id', '?')} AS rate,
            pl.id AS purchase_line_id, pl.line_no AS purchase_line_no, pl.quantity AS purchase_quantity,
            pl.received AS purchase_received, pl.unit_price AS purchase_price, pl.amount AS purchase_amount,
            pl.agreed_amount AS purchase_agreed, pl.agreement_line_id AS purchase_agreement_line_id,
            o.id AS order_id, o.number AS order_number, o.state AS order_state, o.customer_id, o.ship_to_id, o.currency AS order_currency,
            sl.id AS order_line_id, sl.line_no AS order_line_no, sl.quantity AS order_quantity, sl.cancelled, sl.shipped, sl.reserved, sl.route, sl.ship_date,
            sl.unit_price AS order_price, sl.amount AS order_amount, sl.agreed_amount AS order_agreed, sl.agreement_line_id, sl.item_id,
            k.item_number, k.price_of
       FROM (${tieKeys(ends)}) k
       LEFT JOIN sales_order o FORCE INDEX (PRIMARY) ON o.company_id = ? AND o.id = k.order_id
       LEFT JOIN sales_order_line sl FORCE INDEX (PRIMARY) ON sl.company_id = ? AND sl.id = k.order_line_id
       LEFT JOIN tie t FORCE INDEX (PRIMARY) ON t.company_id = ? AND t.id = k.tie_id
       JOIN purchase_order_line pl FORCE INDEX (PRIMARY) ON pl.company_id = ? AND pl.id = k.purchase_line_id
       JOIN purchase_order p FORCE INDEX (PRIMARY) ON p.company_id = ? AND p.id = k.purchase_order_id ${sql.forUpdate}`,
      values: [day, companyId, id, companyId, companyId, companyId, companyId, companyId],
      rows: true,
    },
  ]);
  const lines = found as ((TieRow & { purchaseShipToId: number | null }) | Untied)[];
  const rows = lines
    .filter((row) => row.tieId !== null)
    .sort((a, b) => a.shipDate.localeCompare(b.shipDate) || a.tieId - b.tieId);
  const drops = rows.filter((row) => row.route === 'drop').sort((a, b) => a.tieId - b.tieId);
  return {
    agreements: (agreements as { id: number; number: string }[]).map((row) => ({ kind: 'AG' as const, ...row })),
    ties: drops.map((row) => tieOf(row, day)),
    specials: specialsOf(rows.filter((row) => row.route === 'special')),
    /** The orders whose prices are those of the day they ship. // R3 */
    byShipDate: drops.filter((row) => row.priceOf === 'ship').map((row) => row.orderId),
    /** Drop shipments all of whose lines are for orders: no line of theirs is to be read besides. */
    allTied: lines.length > 0 && lines.every((row) => row.tieId !== null && row.purchaseShipToId !== null),
  };
}

/** Ties of special orders by purchase line, the line that ships first before others. // L3 */
function specialsOf(rows: readonly TieRow[]): Map<number, SpecialTie[]> {
  const byLine = new Map<number, SpecialTie[]>();
  for (const row of rows) {
    const ties = byLine.get(row.purchaseLineId) ?? [];
    ties.push({
      tieId: row.tieId,
      orderLineId: row.orderLineId,
      order: { id: row.orderId, number: row.orderNumber },
      quantity: row.quantity,
      received: row.received,
      unheld: dec(row.orderQuantity).minus(row.cancelled).minus(row.shipped).minus(row.reserved).toFixed(),
    });
    byLine.set(row.purchaseLineId, ties);
  }
  return byLine;
}

/**
 * Lines of a purchase order that comes to our place, with the special orders they are for, locked after those; and of a
 * drop shipment those that are for nobody: their goods would go to a customer who ordered none. // L3 L4
 */
export async function loadOwnLines(
  sql: Sql,
  companyId: number,
  purchaseId: number,
  specials: ReadonlyMap<number, readonly SpecialTie[]>,
  day: Day,
): Promise<{ own: OwnLine[]; loose: { id: number; lineNo: number; purchase: string }[]; points: number[] }> {
  const all = await sql.rows<
    Columns<PurchaseOrder, 'number state vendorId currency shipToId locationId'> &
      Columns<PurchaseOrderLine, 'id lineNo quantity received unitPrice amount agreedAmount agreementLineId itemId'> & {
        purchaseId: number;
        ownCurrency: string;
        rate: string | null;
        itemNumber: string;
        tolerancePercent: string;
        byNumber: number;
      }
  >(
    `SELECT p.id AS purchase_id, p.ship_to_id, p.location_id, p.number, p.state, p.vendor_id, p.currency, ${ownCurrency('p.company_id')} AS own_currency,
            ${rateAt('p.currency', 'p.company_id', '?')} AS rate, l.id, l.line_no, l.quantity, l.received,
            l.unit_price, l.amount, l.agreed_amount, l.agreement_line_id, l.item_id,
            (SELECT i.number FROM item i WHERE i.company_id = l.company_id AND i.id = l.item_id) AS item_number,
            (SELECT v.tolerance_percent FROM vendor v WHERE v.company_id = p.company_id AND v.id = p.vendor_id) AS tolerance_percent,
            EXISTS (SELECT 1 FROM serial_series n WHERE n.company_id = l.company_id AND n.item_id = l.item_id) AS by_number
       FROM purchase_order p JOIN purchase_order_line l ON l.company_id = p.company_id AND l.purchase_order_id = p.id
      WHERE p.company_id = ? AND p.id = ? AND (p.ship_to_id IS NULL OR l.tied = 0) ORDER BY l.line_no ${sql.forUpdate}`,
    [day, companyId, purchaseId],
  );
  const loose = all
    .filter((row) => row.shipToId !== null)
    .map((row) => ({ id: row.id, lineNo: row.lineNo, purchase: row.number }));
  const rows = all.filter((row) => row.shipToId === null);
  const own = rows.map((row) => ({
    purchase: {
      id: row.purchaseId,
      number: row.number,
      state: row.state,
      vendorId: row.vendorId,
      exchange: { currency: row.currency, own: row.ownCurrency, rate: row.rate, day },
      locationId: row.locationId,
    },
    line: {
      id: row.id,
      lineNo: row.lineNo,
      quantity: row.quantity,
      received: row.received,
      unitPrice: row.unitPrice,
      amount: row.amount,
      agreedAmount: row.agreedAmount,
      agreementLineId: row.agreementLineId,
    },
    item: { id: row.itemId, number: row.itemNumber },
    tolerancePercent: row.tolerancePercent,
    ties: specials.get(row.id) ?? [],
  }));
  // Stock is locked ahead only where numbers hang on it.
  const points = rows.filter((row) => row.byNumber).map((row) => pointOf(row.itemId, row.locationId));
  return { own, loose, points };
}

function tieOf(row: TieRow, day: Day): DropTie {
  return {
    tieId: row.tieId,
    quantity: row.quantity,
    received: row.received,
    purchase: {
      id: row.purchaseId,
      number: row.purchaseNumber,
      state: row.purchaseState,
      vendorId: row.vendorId,
      exchange: { currency: row.purchaseCurrency, own: row.own, rate: row.rate, day },
    },
    purchaseLine: {
      id: row.purchaseLineId,
      lineNo: row.purchaseLineNo,
      quantity: row.purchaseQuantity,
      received: row.purchaseReceived,
      unitPrice: row.purchasePrice,
      amount: row.purchaseAmount,
      agreedAmount: row.purchaseAgreed,
      agreementLineId: row.purchaseAgreementLineId,
    },
    order: {
      id: row.orderId,
      number: row.orderNumber,
      state: row.orderState,
      customerId: row.customerId,
      shipToId: row.shipToId,
      currency: row.orderCurrency,
    },
    orderLine: {
      id: row.orderLineId,
      lineNo: row.orderLineNo,
      open: dec(row.orderQuantity).minus(row.cancelled).minus(row.shipped).toFixed(),
      shipped: row.shipped,
      quantity: dec(row.orderQuantity).minus(row.cancelled).toFixed(),
      unitPrice: row.orderPrice,
      amount: row.orderAmount,
      agreedAmount: row.orderAgreed,
      agreementLineId: row.agreementLineId,
    },
    item: { id: row.itemId, number: row.itemNumber },
  };
}

/** Lines of orders that are not drop shipped, before their stock was locked: the orders, and the lines with it. */
export interface UnstockedLines {
  heads: OrderHead[];
  points: number[];
  /** The orders that assemble what their lines want. */
  assemblies: Assembly[];
  /** Those of an order, in order of their numbers. */
  stocked: (orderId: number, stock: ReadonlyMap<number, StockNow>) => StockLine[];
}

type OrderHead = Columns<SalesOrder, 'id number state customerId currency'> & { shipToId: number; priceOf: string };
type LineRow = Columns<
  SalesOrderLine,
  'id orderId lineNo quantity cancelled shipped reserved unitPrice amount agreedAmount agreementLineId itemId locationId'
> & { route: Exclude<Route, 'drop'>; itemNumber: string };

/** Orders and their lines that are not drop shipped: the orders locked by id, their stock still to be. Two trips. */
export async function loadUnstockedLines(
  sql: Sql,
  companyId: number,
  orderIds: readonly number[],
): Promise<UnstockedLines> {
  const heads = await sql.rows<OrderHead>(
    `SELECT id, number, state, customer_id, ship_to_id, currency,
            (SELECT c.price_of FROM customer c WHERE c.company_id = sales_order.company_id AND c.id = sales_order.customer_id) AS price_of
       FROM sales_order WHERE company_id = ? AND id IN (?) ORDER BY id ${sql.forUpdate}`,
    [companyId, orderIds],
  );
  for (const id of orderIds) {
    orNotFound(
      heads.find((head) => head.id === id),
      'This sales order',
    );
  }
  const [found, assembling] = await sql.batch([
    {
      sql: `SELECT l.id, l.order_id, l.line_no, l.location_id, l.quantity, l.cancelled, l.shipped, l.reserved, l.route, l.unit_price, l.amount,
            l.agreed_amount, l.agreement_line_id, l.item_id, ${NUMBER_AT} AS item_number
       FROM sales_order_line l JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       JOIN location lo ON lo.company_id = l.company_id AND lo.id = l.location_id
      WHERE l.company_id = ? AND l.order_id IN (?) AND l.route <> 'drop' ORDER BY l.order_id, l.line_no`,
      values: [companyId, [...orderIds]],
      rows: true,
    },
    assembliesRead(companyId, orderIds),
  ]);
  const lines = found as LineRow[];
  return {
    heads,
    points: lines.map((line) => pointOf(line.itemId, line.locationId)),
    assemblies: assembliesOf(assembling as Parameters<typeof assembliesOf>[0]),
    stocked: (orderId, stock) => {
      const head = heads.find(({ id }) => id === orderId)!;
      return lines.filter((line) => line.orderId === orderId).map((line) => stockLineOf(head, line, stock));
    },
  };
}

function stockLineOf(head: OrderHead, line: LineRow, stock: ReadonlyMap<number, StockNow>): StockLine {
  const here = stock.get(pointOf(line.itemId, line.locationId)) ?? { onHand: '0', reserved: '0', value: '0' };
  return {
    order: { ...head },
    line: {
      id: line.id,
      lineNo: line.lineNo,
      open: dec(line.quantity).minus(line.cancelled).minus(line.shipped).toFixed(),
      shipped: line.shipped,
      reserved: line.reserved,
      route: line.route,
      locationId: line.locationId,
      quantity: dec(line.quantity).minus(line.cancelled).toFixed(),
      unitPrice: line.unitPrice,
      amount: line.amount,
      agreedAmount: line.agreedAmount,
      agreementLineId: line.agreementLineId,
    },
    item: {
      id: line.itemId,
      number: line.itemNumber,
      onHand: here.onHand,
      free: dec(here.onHand).minus(here.reserved).toFixed(),
      stockValue: here.value,
    },
  };
}
