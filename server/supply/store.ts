import type { Route } from '@core/catalogue';
import { proposeVendor, SupplyDays, type BenchLine, type BoughtItem, type Offer } from '@core/supply';
import type { OrderState } from '@core/orders';
import { dec, type Day } from '@core/kernel';
import type { Sql, Columns } from '../db';
import { APPROVED, calendarsOf, OWN_PRICE } from '../catalogue';
import type { Item, ItemVendor } from '../catalogue/tables';
import type { SalesOrderLine } from '../orders/tables';

/** Who sells these items to us, by item id, and whether they are approved on that day. // L9 */
export async function offersFor(
  sql: Sql,
  companyId: number,
  itemIds: readonly number[],
  day: Day,
): Promise<Map<number, Offer[]>> {
  const ids = [...new Set(itemIds)];
  if (ids.length === 0) return new Map();
  const rows = await sql.rows<
    Columns<ItemVendor, 'itemId vendorId unitPrice leadDays preferred minimum multiple'> & {
      name: string;
      currency: string;
      ownPrice: string | null;
      approved: number;
    }
  >(
    `SELECT iv.item_id, iv.vendor_id, v.name, v.currency, iv.unit_price, ${OWN_PRICE} AS own_price, iv.lead_days, iv.preferred, iv.minimum, iv.multiple, ${APPROVED} AS approved
       FROM item_vendor iv
       JOIN item i ON i.company_id = iv.company_id AND i.id = iv.item_id
       LEFT JOIN item_group g ON g.company_id = i.company_id AND g.id = i.item_group_id
       JOIN vendor v ON v.company_id = iv.company_id AND v.id = iv.vendor_id
      WHERE iv.company_id = ? AND iv.item_id IN (?) ORDER BY iv.item_id, v.name`,
    [day, day, day, companyId, ids],
  );
  const offers = new Map<number, Offer[]>();
  for (const row of rows) {
    const list = offers.get(row.itemId) ?? [];
    list.push({
      vendorId: row.vendorId,
      vendor: row.name,
      unitPrice: row.unitPrice,
      currency: row.currency,
      ownPrice: row.ownPrice,
      leadDays: row.leadDays,
      preferred: row.preferred,
      minimum: row.minimum,
      multiple: row.multiple,
      approved: Boolean(row.approved),
    });
    offers.set(row.itemId, list);
  }
  return offers;
}

/** The chosen lines with their orders locked, as placing decides on them. */
export async function loadBenchLines(
  sql: Sql,
  companyId: number,
  lineIds: readonly number[],
  day: Day,
): Promise<BenchLine[]> {
  const ids = [...new Set(lineIds)];
  if (ids.length === 0) return [];
  const orders = await sql.rows<{ orderId: number }>(
    'SELECT DISTINCT order_id FROM sales_order_line WHERE company_id = ? AND id IN (?)',
    [companyId, ids],
  );
  if (orders.length === 0) return [];
  const rows = await sql.rows<
    Columns<
      SalesOrderLine,
      'id lineNo orderId locationId route quantity cancelled tied shipDate itemId taxCodeId taxRate'
    > & {
      number: string;
      state: OrderState;
      currency: string;
      shipToId: number;
      itemNumber: string;
      unit: string;
      itemGroupId: number | null;
    }
  >(
    `SELECT STRAIGHT_JOIN l.id, l.line_no, l.order_id, o.number, o.state, o.currency, o.ship_to_id, l.location_id, l.route,
            l.quantity, l.cancelled, l.tied, l.ship_date, l.item_id, l.tax_code_id, l.tax_rate,
            (SELECT i.number FROM item i WHERE i.company_id = l.company_id AND i.id = l.item_id) AS item_number,
            (SELECT i.unit FROM item i WHERE i.company_id = l.company_id AND i.id = l.item_id) AS unit,
            (SELECT i.item_group_id FROM item i WHERE i.company_id = l.company_id AND i.id = l.item_id) AS item_group_id
       FROM sales_order o
       JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
      WHERE o.company_id = ? AND o.id IN (?) AND l.id IN (?) ORDER BY o.id, l.id ${sql.forUpdate}`,
    [companyId, orders.map((row) => row.orderId), ids],
  );
  const offers = await offersFor(
    sql,
    companyId,
    rows.map((row) => row.itemId),
    day,
  );
  return rows.map((row) => ({
    id: row.id,
    lineNo: row.lineNo,
    order: { id: row.orderId, number: row.number, state: row.state, currency: row.currency },
    shipToId: row.shipToId,
    locationId: row.locationId,
    route: row.route,
    uncovered: dec(row.quantity).minus(row.cancelled).minus(row.tied).toFixed(),
    shipDate: row.shipDate,
    item: {
      id: row.itemId,
      number: row.itemNumber,
      unit: row.unit,
      groupId: row.itemGroupId,
      taxCodeId: row.taxCodeId,
      taxRate: row.taxRate,
    },
    offers: offers.get(row.itemId) ?? [],
  }));
}

/** When what these vendors sell can be there. // T3 */
export async function supplyDaysOf(
  sql: Sql,
  companyId: number,
  workDate: Day,
  vendorIds: readonly number[],
): Promise<SupplyDays> {
  const [company] = await sql.rows<{ calendarId: number; ownDays: number }>(
    'SELECT calendar_id, receiving_days + safety_days AS own_days FROM company WHERE id = ?',
    [companyId],
  );
  const own = await sql.rows<{ id: number; calendarId: number }>(
    'SELECT id, calendar_id FROM vendor WHERE company_id = ? AND id IN (?) AND calendar_id IS NOT NULL',
    [companyId, vendorIds],
  );
  return new SupplyDays({
    workDate,
    calendars: await calendarsOf(sql, companyId, workDate),
    ownCalendarId: company!.calendarId,
    ownDays: company!.ownDays,
    vendorCalendars: new Map(own.map(({ id, calendarId }) => [id, calendarId])),
  });
}

/**
 * The proposal of the bench, with the day its supply would be there: with whom it was planned, as long as they may sell
 * it. // L8 T12
 */
export function proposalFor(
  offers: readonly Offer[],
  { route, shipDate }: { route: Route; shipDate: Day },
  days: SupplyDays,
  plannedWith: number | null,
) {
  const planned = offers.find((offer) => offer.approved && offer.vendorId === plannedWith);
  const proposal = planned ? { offer: planned, reason: 'planned' as const } : proposeVendor(offers);
  return (
    proposal && {
      vendorId: proposal.offer.vendorId,
      reason: proposal.reason,
      due: days.due(proposal.offer, route, shipDate),
    }
  );
}

/** Items as a purchase order takes them, with who sells them. */
export async function boughtItems(
  sql: Sql,
  companyId: number,
  itemIds: readonly number[],
  day: Day,
): Promise<Map<number, { item: BoughtItem & { outOfUse: boolean }; offers: Offer[] }>> {
  const ids = [...new Set(itemIds)];
  if (ids.length === 0) return new Map();
  const rows = await sql.rows<Columns<Item, 'id number unit itemGroupId taxCodeId outOfUse'> & { rate: string }>(
    `SELECT i.id, i.number, i.unit, i.item_group_id, i.tax_code_id, i.out_of_use, t.rate
       FROM item i JOIN tax_code t ON t.company_id = i.company_id AND t.id = i.tax_code_id
      WHERE i.company_id = ? AND i.id IN (?)`,
    [companyId, ids],
  );
  const offers = await offersFor(sql, companyId, ids, day);
  return new Map(
    rows.map((row) => [
      row.id,
      {
        item: {
          id: row.id,
          number: row.number,
          unit: row.unit,
          groupId: row.itemGroupId,
          taxCodeId: row.taxCodeId,
          taxRate: row.rate,
          outOfUse: row.outOfUse,
        },
        offers: offers.get(row.id) ?? [],
      },
    ]),
  );
}
