import type { Day } from '@core/kernel';
import { dec, MAIN_LOCATION, sum } from '@core/kernel';
import type { ConfirmableItem, HeldPromotion, OrderLineNow, OrderPricing, PlannedFor, SoldAs } from '@core/orders';
import { BuildUpSteps } from '@api/orders';
import { routeIsMade, type Route } from '@core/catalogue';
import type { Reserving } from '@core/stock';
import { orNotFound, type Doer } from '../acts';
import type { Sql, Statement, Tx, Columns } from '../db';
import { chosenFor, CUSTOMER_CURRENCY, listPriceIn } from '../catalogue';
import { pricingOf } from '../pricing';
import type { SalesOrder, SalesOrderLine } from './tables';
import type { Item } from '../catalogue/tables';
import { salesLineOptionTable, salesOrderLineTable, salesOrderTable } from './tables';

export type OrderHead = Columns<
  SalesOrder,
  'id number version state customerId agreementId shipToId customerReference currency orderDate'
>;

const HEAD =
  'SELECT id, number, version, state, customer_id, agreement_id, ship_to_id, customer_reference, currency, order_date FROM sales_order';

/** The order's head, locked; its agreement (if any) must have been locked before: see `agreementOf`. */
export async function loadOrder(sql: Sql, companyId: number, id: number): Promise<OrderHead> {
  const [row] = await sql.rows<OrderHead>(`${HEAD} WHERE company_id = ? AND id = ? ${sql.forUpdate}`, [companyId, id]);
  return orNotFound(row, 'This sales order');
}

/** The agreements that price an order's lines, read without a lock so that they can be locked first. */
export async function agreementsOf(
  sql: Sql,
  companyId: number,
  orderIds: number | readonly number[],
): Promise<number[]> {
  const rows = await sql.rows<{ agreementId: number }>(
    `SELECT DISTINCT al.agreement_id FROM sales_order_line l
       JOIN agreement_line al ON al.company_id = l.company_id AND al.id = l.agreement_line_id
      WHERE l.company_id = ? AND l.order_id IN (?)`,
    [companyId, [orderIds].flat()],
  );
  return rows.map((row) => row.agreementId);
}

/** Opens a closed order again where something of it may go out or be invoiced once more; else leaves it. // A4 L1 */
export function reopenStatement(companyId: number, orderId: number): Statement {
  return {
    sql: `UPDATE sales_order o SET o.state = 'confirmed' WHERE o.company_id = ? AND o.id = ? AND o.state = 'closed'
             AND EXISTS (SELECT 1 FROM sales_order_line l WHERE l.company_id = o.company_id AND l.order_id = o.id
               AND l.quantity - l.cancelled > l.invoiced)`,
    values: [companyId, orderId],
  };
}

export interface NewOrder {
  customerId: number;
  agreementId: number | null;
  shipToId: number | null;
  customerReference: string;
  orderDate: Day;
  currency: string;
  /** The file it came in; left out where it came in none. */
  batch?: string;
}

export interface WritableLine {
  agreementLineId: number | null;
  agreedAmount: string | null;
  itemId: number;
  quantity: string;
  unitPrice: string;
  listPrice: string;
  amount: string;
  taxCodeId: number;
  taxRate: string;
  route: Route;
  /** Where it goes out from; the main location where left out. */
  locationId?: number;
  shipDate: Day;
  /** Left out where it is in the item's own unit, at the price its agreement gives. */
  sold?: SoldAs;
  /** What is chosen for it; left out where it is as its item is. */
  optionIds?: readonly number[];
  /** What it has of a promotion. // S13 */
  promotion?: HeldPromotion | null;
}

/** Writes a new draft order with its lines; its id. */
export async function insertOrder(
  tx: Tx,
  doer: Doer,
  number: string,
  order: NewOrder,
  lines: readonly WritableLine[],
): Promise<number> {
  const [id] = await tx.insert(salesOrderTable, [
    {
      companyId: doer.companyId,
      number,
      customerId: order.customerId,
      agreementId: order.agreementId,
      shipToId: order.shipToId,
      customerReference: order.customerReference,
      orderDate: order.orderDate,
      currency: order.currency,
      batch: order.batch ?? '',
      firstShipDate: firstShipDate(lines),
      net: netOf(lines),
    },
  ]);
  await insertLines(tx, doer, id!, lines, 1);
  return id!;
}

export async function insertLines(
  tx: Tx,
  doer: Doer,
  orderId: number,
  lines: readonly WritableLine[],
  firstLineNo: number,
): Promise<number[]> {
  const ids = await tx.insert(
    salesOrderLineTable,
    lines.map((line, index) => ({
      companyId: doer.companyId,
      orderId,
      lineNo: firstLineNo + index,
      ...lineColumns(line),
    })),
  );
  await writeOptions(
    tx,
    doer,
    lines.map(({ optionIds = [] }, index) => ({ id: ids[index]!, optionIds })),
  );
  return ids;
}

/** Writes what is chosen for lines. Nothing where nothing is. // W2 */
export async function writeOptions(
  tx: Tx,
  { companyId }: Doer,
  lines: readonly { id: number; optionIds: readonly number[] }[],
): Promise<void> {
  const rows = lines.flatMap(({ id, optionIds }) =>
    optionIds.map((optionId) => ({ companyId, orderLineId: id, optionId })),
  );
  if (rows.length > 0) await tx.insertPlain(salesLineOptionTable, rows);
}

export function lineColumns(line: WritableLine) {
  return {
    agreementLineId: line.agreementLineId,
    agreedAmount: line.agreedAmount,
    itemId: line.itemId,
    quantity: line.quantity,
    unitPrice: line.unitPrice,
    listPrice: line.listPrice,
    amount: line.amount,
    taxCodeId: line.taxCodeId,
    taxRate: line.taxRate,
    route: line.route,
    locationId: line.locationId ?? MAIN_LOCATION,
    shipDate: line.shipDate,
    ...(line.sold && {
      unit: line.sold.unit,
      unitFactor: line.sold.factor,
      typedPrice: line.sold.price,
      priceReason: line.sold.reason,
      discount: line.sold.discount,
      buildUp: JSON.stringify(line.sold.steps),
    }),
    ...(line.promotion !== undefined && {
      promotionLineId: line.promotion?.lineId ?? null,
      promotionUnit: line.promotion?.unit ?? '0',
    }),
  };
}

export function firstShipDate(lines: readonly { shipDate: Day }[]): Day | null {
  return lines.map((line) => line.shipDate).sort()[0] ?? null;
}

export function netOf(lines: readonly { amount: string }[]): string {
  return sum(lines.map((line) => dec(line.amount))).toFixed();
}

/** The order's lines as deciding sees them; the order's lock guards them. */
export async function linesNow(
  sql: Sql,
  companyId: number,
  orderId: number,
): Promise<
  (OrderLineNow & {
    route: Route;
    locationId: number;
    cancelled: string;
    tied: string;
    shipped: string;
    taxCode: string;
    taxRate: string;
  })[]
> {
  const rows = await sql.rows<
    Columns<
      SalesOrderLine,
      'id lineNo itemId quantity cancelled unitPrice listPrice amount agreementLineId agreedAmount route locationId shipDate tied shipped taxCodeId taxRate unitFactor typedPrice priceReason discount buildUp promotionLineId promotionUnit'
    > & { unit: string; promotionId: number | null; promotionKind: string | null }
  >(
    `SELECT l.id, l.line_no, l.item_id, l.quantity, l.cancelled, l.unit_price, l.list_price, l.amount, l.agreement_line_id, l.agreed_amount,
            l.route, l.location_id, l.ship_date, l.tied, l.shipped, l.tax_code_id, l.tax_rate, IF(l.unit = '', i.unit, l.unit) AS unit, l.unit_factor, l.typed_price,
            l.price_reason, l.discount, l.build_up, l.promotion_line_id, l.promotion_unit, pl.promotion_id, pl.kind AS promotion_kind
       FROM sales_order_line l
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN promotion_line pl ON pl.company_id = l.company_id AND pl.id = l.promotion_line_id
      WHERE l.company_id = ? AND l.order_id = ? ORDER BY l.line_no`,
    [companyId, orderId],
  );
  const chosen = await chosenFor(
    sql,
    companyId,
    rows.filter(({ route }) => routeIsMade(route)).map(({ id }) => id),
  );
  return rows.map((row) => ({
    optionIds: chosen.get(row.id) ?? [],
    id: row.id,
    lineNo: row.lineNo,
    itemId: row.itemId,
    quantity: row.quantity,
    cancelled: row.cancelled,
    unitPrice: row.unitPrice,
    listPrice: row.listPrice,
    amount: row.amount,
    agreementLineId: row.agreementLineId,
    agreedAmount: row.agreedAmount,
    route: row.route,
    locationId: row.locationId,
    shipDate: row.shipDate,
    tied: row.tied,
    shipped: row.shipped,
    taxCode: String(row.taxCodeId),
    taxRate: row.taxRate,
    sold: {
      unit: row.unit,
      factor: row.unitFactor,
      price: row.typedPrice,
      reason: row.priceReason,
      discount: row.discount,
      steps: BuildUpSteps.parse(JSON.parse(row.buildUp)),
    },
    promotion:
      row.promotionLineId === null
        ? null
        : {
            promotionId: row.promotionId!,
            lineId: row.promotionLineId,
            unit: row.promotionUnit,
            free: row.promotionKind === 'free',
          },
  }));
}

/** What order lines take from their items, with what their prices are made of for a customer. */
export async function pricedItems(
  sql: Sql,
  companyId: number,
  customerId: number | null,
  itemIds: readonly number[],
): Promise<Map<number, ConfirmableItem & { reserving: Reserving }>> {
  const [items, pricing] = await Promise.all([
    orderItems(sql, companyId, customerId, itemIds),
    pricingOf(sql, companyId, customerId, itemIds),
  ]);
  return new Map([...items].map(([id, item]) => [id, { ...item, pricing: pricing.get(id)! }]));
}

/** Those items with what promotions give free besides: nothing is asked where that is nothing, or among them. // S13 */
export async function withFreeItems(
  sql: Sql,
  companyId: number,
  customerId: number | null,
  items: ReadonlyMap<number, ConfirmableItem & { reserving: Reserving }>,
  { promotions }: OrderPricing,
): Promise<Map<number, ConfirmableItem & { reserving: Reserving }>> {
  const missing = promotions.offers.flatMap(({ freeItemId }) =>
    freeItemId === null || items.has(freeItemId) ? [] : freeItemId,
  );
  const more = missing.length === 0 ? [] : await pricedItems(sql, companyId, customerId, missing);
  return new Map([...items, ...more]);
}

/** What order lines of a customer take from their items; list prices in the customer's currency. */
export async function orderItems(
  sql: Sql,
  companyId: number,
  customerId: number | null,
  itemIds: readonly number[],
): Promise<Map<number, Omit<ConfirmableItem, 'pricing'> & { reserving: Reserving }>> {
  const ids = [...new Set(itemIds)];
  if (ids.length === 0) return new Map();
  const rows = await sql.rows<
    Columns<Item, 'id number unit itemGroupId taxCodeId stocked obtained outOfUse reserving permitTypeId'> & {
      listPrice: string;
      rate: string;
      permit: string | null;
      vendors: number;
    }
  >(
    `SELECT i.id, i.number, i.unit, i.item_group_id, ${listPriceIn(CUSTOMER_CURRENCY)} AS list_price, i.tax_code_id, t.rate, i.stocked, i.obtained, i.out_of_use, i.reserving,
            i.permit_type_id, pt.name AS permit,
            (SELECT COUNT(*) FROM item_vendor v WHERE v.company_id = i.company_id AND v.item_id = i.id) AS vendors
       FROM item i JOIN tax_code t ON t.company_id = i.company_id AND t.id = i.tax_code_id
       LEFT JOIN permit_type pt ON pt.company_id = i.company_id AND pt.id = i.permit_type_id
      WHERE i.company_id = ? AND i.id IN (?)`,
    [customerId ?? 0, customerId ?? 0, companyId, ids],
  );
  return new Map(
    rows.map((row) => [
      row.id,
      {
        number: row.number,
        unit: row.unit,
        groupId: row.itemGroupId,
        listPrice: row.listPrice,
        taxCodeId: row.taxCodeId,
        taxRate: row.rate,
        stocked: row.stocked,
        reserving: row.reserving,
        hasVendor: row.vendors > 0,
        obtained: row.obtained,
        outOfUse: row.outOfUse,
        permit: row.permitTypeId === null ? null : { id: row.permitTypeId, name: row.permit! },
      },
    ]),
  );
}

/** The permits lines go out under. // S5 */
export function permitStatements(
  companyId: number,
  lines: readonly { lineId: number; permitId: number | null }[],
): Statement[] {
  return lines
    .filter((line) => line.permitId !== null)
    .map((line) => ({
      sql: 'UPDATE sales_order_line SET permit_id = ? WHERE company_id = ? AND id = ?',
      values: [line.permitId, companyId, line.lineId],
    }));
}

/**
 * The lines of an order that something is planned for: they stay as they are until that is taken back; and, where asked,
 * those that something is being made for. // T8
 */
export async function plannedLines(
  sql: Sql,
  companyId: number,
  orderId: number,
  of: 'planned' | 'all' = 'all',
): Promise<PlannedFor[]> {
  const rows = await sql.rows<{ id: number; itemId: number; quantity: string; number: string }>(
    `SELECT l.id, l.item_id, l.quantity, MIN(p.number) AS number FROM sales_order_line l FORCE INDEX (sales_order_line_no)
       JOIN planned_tie t FORCE INDEX (planned_tie_line) ON t.company_id = l.company_id AND t.order_line_id = l.id
       JOIN planned_order p FORCE INDEX (PRIMARY) ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.open = TRUE${of === 'all' ? '' : " AND p.state = 'planned'"}
      WHERE l.company_id = ? AND l.order_id = ? GROUP BY l.id`,
    [companyId, orderId],
  );
  return rows;
}
