import { hereOf, type TillGround, type TillLine } from '@core/counter';
import { dec, lineSlice, type Day } from '@core/kernel';
import { permitFor, type OrderState } from '@core/orders';
import type { Route } from '@core/catalogue';
import { orNotFound } from '../acts';
import { loadForCustomerInvoice } from '../billing';
import type { Sql } from '../db';
import { standingOf } from '../orders';
import { keptByNumber } from '../serial';

/** An order as it stands at the till. */
export interface TillOrder {
  id: number;
  number: string;
  version: number;
  state: OrderState;
  customerId: number;
  currency: string;
  contactId: number | null;
  customerReference: string;
}

/** A line as it stands at the till, with what of it is here to be taken along. */
export interface LineAtTill extends TillLine {
  lineNo: number;
  item: { id: number; number: string; name: string; unit: string };
  byNumber: boolean;
  freeWith: string;
  ordered: string;
  here: string;
  /** What of it is not handed over comes to. */
  toGoAmount: string;
  shipDate: Day;
  agreement: { id: number; number: string; left: string | null } | null;
  permit: { number: string; lastDay: Day } | null;
  permitWanted: string | null;
}

interface LineRow {
  id: number;
  orderId: number;
  lineNo: number;
  itemId: number;
  itemNumber: string;
  itemName: string;
  unit: string;
  route: Route;
  quantity: string;
  shipped: string;
  invoiced: string;
  reserved: string;
  free: string | null;
  locationId: number;
  shipDate: Day;
  unitPrice: string;
  amount: string;
  agreedAmount: string | null;
  agreementLineId: number | null;
  agreementId: number | null;
  agreementNumber: string | null;
  agreementLeft: string | null;
  taxCode: string;
  taxCodeId: number;
  taxRate: string;
  weight: string;
  volume: string;
  permitTypeId: number | null;
  permitType: string | null;
  freeWith: string | null;
}

/** Orders of one customer as they stand at the till; agreements and orders locked where the handle locks. // C1 C2 */
export async function loadAtTill(sql: Sql, companyId: number, orderIds: readonly number[], workDate: Day) {
  const invoice = await loadForCustomerInvoice(sql, companyId, orderIds, workDate);
  const orders = await sql.rows<TillOrder>(
    'SELECT id, number, version, state, customer_id, currency, contact_id, customer_reference FROM sales_order WHERE company_id = ? AND id IN (?)',
    [companyId, orderIds],
  );
  const first = orders.find(({ id }) => id === orderIds[0])!;
  // What waits for none of each other goes to the database at once.
  const [rows, [customer], [contact], standing, permits] = await Promise.all([
    sql.rows<LineRow>(
      `SELECT l.id, l.order_id, l.line_no, l.item_id, i.number AS item_number, i.name AS item_name, i.unit, l.route, l.quantity - l.cancelled AS quantity,
              l.shipped, l.invoiced, l.reserved, s.on_hand - s.reserved AS free, l.location_id, l.ship_date, l.unit_price, l.amount, l.agreed_amount,
              l.agreement_line_id, al.agreement_id, a.number AS agreement_number, IF(al.committed > 0, al.committed - al.released, NULL) AS agreement_left,
              tc.code AS tax_code, l.tax_code_id, l.tax_rate, i.weight, i.volume, i.permit_type_id, y.name AS permit_type, p.number AS free_with
         FROM sales_order_line l
         JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
         JOIN tax_code tc ON tc.company_id = l.company_id AND tc.id = l.tax_code_id
         LEFT JOIN stock s ON s.company_id = l.company_id AND s.item_id = l.item_id AND s.location_id = l.location_id
         LEFT JOIN agreement_line al ON al.company_id = l.company_id AND al.id = l.agreement_line_id
         LEFT JOIN agreement a ON a.company_id = al.company_id AND a.id = al.agreement_id
         LEFT JOIN permit_type y ON y.company_id = i.company_id AND y.id = i.permit_type_id
         LEFT JOIN promotion_line pl ON pl.company_id = l.company_id AND pl.id = l.promotion_line_id AND pl.kind = 'free'
         LEFT JOIN promotion p ON p.company_id = pl.company_id AND p.id = pl.promotion_id
        WHERE l.company_id = ? AND l.order_id IN (?) ORDER BY FIELD(l.order_id, ?), l.line_no`,
      [companyId, orderIds, orderIds],
    ),
    sql.rows<{ id: number; number: string; name: string; counterId: number | null }>(
      `SELECT c.id, c.number, c.name, y.counter_customer_id AS counter_id FROM customer c JOIN company y ON y.id = c.company_id
        WHERE c.company_id = ? AND c.id = ?`,
      [companyId, first.customerId],
    ),
    sql.rows<{ id: number; name: string }>('SELECT id, name FROM contact WHERE company_id = ? AND id = ?', [
      companyId,
      first.contactId ?? 0,
    ]),
    standingOf(sql, companyId, first.customerId, first.id, 'typed'),
    sql.rows<{ id: number; number: string; lastDay: Day }>(
      'SELECT id, number, last_day FROM permit WHERE company_id = ? AND customer_id = ?',
      [companyId, first.customerId],
    ),
  ]);
  const numbered = await keptByNumber(
    sql,
    companyId,
    rows.map(({ itemId }) => itemId),
  );
  const { counterId, ...who } = orNotFound(customer, 'This customer');
  return {
    orders: orderIds.map((id) => orders.find((each) => each.id === id)!),
    customer: who,
    contact: contact ?? null,
    referenceRequired: standing.referenceRequired,
    mayOwe: counterId !== who.id,
    ground: {
      invoice,
      lines: linesOf(rows, { standing, permits, numbered }, workDate, first.currency),
    } satisfies TillGround,
  };
}

type Standing = Awaited<ReturnType<typeof standingOf>>;

/** Each line as it stands at the till. */
function linesOf(
  rows: readonly LineRow[],
  known: {
    standing: Standing;
    permits: readonly { id: number; number: string; lastDay: Day }[];
    numbered: ReadonlySet<number>;
  },
  workDate: Day,
  currency: string,
): LineAtTill[] {
  const toGo = rows.map(({ quantity, shipped }) => dec(quantity).minus(shipped).toFixed());
  const here = hereOf(rows.map((row, at) => ({ ...row, toGo: toGo[at]!, free: row.free ?? '0' })));
  return rows.map((row, at) => {
    const needed = row.permitTypeId === null ? null : { id: row.permitTypeId, name: row.permitType! };
    const permitId = permitFor(known.standing, {
      shipDate: row.shipDate < workDate ? workDate : row.shipDate,
      item: { permit: needed },
    });
    const permit = known.permits.find(({ id }) => id === permitId);
    return {
      orderId: row.orderId,
      orderLineId: row.id,
      lineNo: row.lineNo,
      item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
      byNumber: known.numbered.has(row.itemId),
      freeWith: row.freeWith ?? '',
      ordered: row.quantity,
      quantity: row.quantity,
      toGo: toGo[at]!,
      here: here[at]!.toFixed(),
      toGoAmount: lineSlice(row, dec(row.shipped), dec(row.quantity), currency).value.toFixed(),
      invoiced: row.invoiced,
      shipDate: row.shipDate,
      unitPrice: row.unitPrice,
      amount: row.amount,
      agreedAmount: row.agreedAmount,
      agreementLineId: row.agreementLineId,
      agreementId: row.agreementId,
      agreement:
        row.agreementId === null
          ? null
          : { id: row.agreementId, number: row.agreementNumber!, left: row.agreementLeft },
      taxCode: row.taxCode,
      taxCodeId: row.taxCodeId,
      taxRate: row.taxRate,
      weight: row.weight,
      volume: row.volume,
      permit: permit ? { number: permit.number, lastDay: permit.lastDay } : null,
      permitWanted: needed !== null && permitId === null ? needed.name : null,
    };
  });
}
