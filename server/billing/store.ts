import { dec, type Day } from '@core/kernel';
import type { CustomerInvoiceGround, PaymentGround, VendorInvoiceGround } from '@core/billing';
import { loadAgreements, rebatesOf } from '../agreements';
import { orNotFound, type Touched } from '../acts';
import { invoiceStands, notTakenBack, stands, type Sql, type Columns } from '../db';
import { exchangeOn } from '../catalogue';
import { agreementsOf, loadOrder } from '../orders';
import { allowancesFor } from '../pricing';
import type { SalesOrderLine } from '../orders/tables';
import type { OwedColumns } from './open-items';
import type { OpenItem, Prepayment } from './tables';
import type { PurchaseOrder, PurchaseOrderLine } from '../purchasing/tables';

/** What was shipped on orders and not invoiced; the orders, in the order of their ids, and their agreements locked. */
export async function loadForCustomerInvoice(
  sql: Sql,
  companyId: number,
  named: readonly number[],
  day: Day,
): Promise<CustomerInvoiceGround & { agreements: Touched[] }> {
  // One that is named among its own others is one.
  const orderIds = [...new Set(named)];
  const agreementIds = await agreementsOf(sql, companyId, orderIds);
  const agreements = await loadAgreements(sql, companyId, agreementIds);
  const loaded = new Map<number, Awaited<ReturnType<typeof loadOrder>>>();
  for (const id of [...orderIds].sort((a, b) => a - b)) loaded.set(id, await loadOrder(sql, companyId, id));
  const order = loaded.get(orderIds[0]!)!;
  // The orders are locked: the rest waits for none of each other.
  const [[terms], rows, rest, exchange, allowances, prepayments, deposits, rebates] = await Promise.all([
    sql.rows<{ days: number }>(
      `SELECT pt.days FROM customer c JOIN payment_terms pt ON pt.company_id = c.company_id AND pt.id = c.payment_terms_id
        WHERE c.company_id = ? AND c.id = ?`,
      [companyId, order.customerId],
    ),
    sql.rows<
      Columns<SalesOrderLine, 'unitPrice taxCodeId taxRate agreementLineId amount agreedAmount'> & {
        shipmentLineId: number;
        orderId: number;
        orderLineId: number;
        shippedOn: Day;
        quantity: string;
        invoiced: string | null;
        invoicedBefore: string;
        taxCode: string;
        agreementId: number | null;
        live: string;
        weight: string;
        volume: string;
      }
    >(
      `SELECT sl.id AS shipment_line_id, ol.order_id, ol.id AS order_line_id, sl.quantity,
              (SELECT s.posted_on FROM shipment s WHERE s.company_id = sl.company_id AND s.id = sl.shipment_id) AS shipped_on,
              (SELECT SUM(il.quantity) FROM customer_invoice_line il
                WHERE il.company_id = sl.company_id AND il.shipment_line_id = sl.id AND ${notTakenBack('il')}) AS invoiced,
              ol.invoiced AS invoiced_before, ol.unit_price, tc.code AS tax_code, ol.tax_code_id, ol.tax_rate, ol.agreement_line_id,
              al.agreement_id, ol.quantity - ol.cancelled AS live, ol.amount, ol.agreed_amount,
              i.weight, i.volume
         FROM sales_order_line ol
         JOIN item i ON i.company_id = ol.company_id AND i.id = ol.item_id
         JOIN shipment_line sl ON sl.company_id = ol.company_id AND sl.order_line_id = ol.id
         JOIN tax_code tc ON tc.company_id = ol.company_id AND tc.id = ol.tax_code_id
         LEFT JOIN agreement_line al ON al.company_id = ol.company_id AND al.id = ol.agreement_line_id
        WHERE ol.company_id = ? AND ol.order_id IN (?) AND ol.shipped > ol.invoiced AND ${stands('shipment_line', 'sl')}
        ORDER BY ol.order_id, ol.line_no, sl.id`,
      [companyId, orderIds],
    ),
    sql.rows<{ orderId: number; uninvoiced: string }>(
      `SELECT order_id, SUM(quantity - cancelled - invoiced) AS uninvoiced FROM sales_order_line
        WHERE company_id = ? AND order_id IN (?) GROUP BY order_id`,
      [companyId, orderIds],
    ),
    exchangeOn(sql, companyId, order.currency, day),
    allowancesFor(sql, companyId, order.customerId, order.currency),
    openPrepayments(sql, companyId, agreementIds, orderIds),
    openDeposits(sql, companyId, orderIds),
    rebatesOf(sql, companyId, agreementIds),
  ]);
  return {
    agreements,
    orders: orderIds.map((orderId) => {
      const { id, number, customerId, currency } = loaded.get(orderId)!;
      const { uninvoiced } = rest.find((row) => row.orderId === id) ?? { uninvoiced: '0' };
      return { id, number, customerId, currency, uninvoiced };
    }),
    exchange,
    termsDays: terms!.days,
    lines: rows.map((row) => ({
      shipmentLineId: row.shipmentLineId,
      orderId: row.orderId,
      orderLineId: row.orderLineId,
      shippedOn: row.shippedOn,
      open: dec(row.quantity)
        .minus(row.invoiced ?? 0)
        .toFixed(),
      invoicedBefore: row.invoicedBefore,
      unitPrice: row.unitPrice,
      taxCode: row.taxCode,
      taxCodeId: row.taxCodeId,
      taxRate: row.taxRate,
      agreementLineId: row.agreementLineId,
      agreementId: row.agreementId,
      quantity: row.live,
      amount: row.amount,
      agreedAmount: row.agreedAmount,
      weight: row.weight,
      volume: row.volume,
    })),
    allowances,
    prepayments,
    deposits,
    rebates,
  };
}

/** Prepayments with something left that is kept for no other order, oldest first; their agreements are locked. // A12 C1 */
async function openPrepayments(
  sql: Sql,
  companyId: number,
  agreementIds: readonly number[],
  orderIds: readonly number[],
): Promise<CustomerInvoiceGround['prepayments']> {
  if (agreementIds.length === 0) return [];
  const rows = await sql.rows<OwedPrepayment & { agreementId: number; agreementLineId: number | null }>(
    `SELECT p.id, p.number, p.agreement_id, p.agreement_line_id, p.amount, p.drawn + p.returned + p.carried AS used, p.own_amount, p.own_used,
            COALESCE((SELECT SUM(m.amount) FROM prepayment_mark m
               JOIN sales_order w ON w.company_id = m.company_id AND w.id = m.order_id AND w.counter_day IS NOT NULL AND w.state IN ('draft', 'confirmed')
              WHERE m.company_id = p.company_id AND m.prepayment_id = p.id AND m.order_id NOT IN (?)), 0) AS marked
       FROM prepayment p
      WHERE p.company_id = ? AND p.agreement_id IN (?) AND p.amount > p.drawn + p.returned + p.carried ORDER BY p.id`,
    [orderIds, companyId, agreementIds],
  );
  return rows.map((row) => ({ agreementId: row.agreementId, agreementLineId: row.agreementLineId, ...leftOf(row) }));
}

type OwedPrepayment = Columns<Prepayment, 'id number amount ownAmount ownUsed'> & { used: string; marked: string };

/** What is left of it, but for what is kept for others: at most that is drawn. */
const leftOf = (row: OwedPrepayment) => ({
  id: row.id,
  number: row.number,
  marked: row.marked,
  owed: { amount: row.amount, settled: row.used, ownAmount: row.ownAmount, ownSettled: row.ownUsed },
});

/** Deposits of orders with something left, oldest first; their orders are locked. // C2 */
async function openDeposits(
  sql: Sql,
  companyId: number,
  orderIds: readonly number[],
): Promise<CustomerInvoiceGround['deposits']> {
  const rows = await sql.rows<Omit<OwedPrepayment, 'marked'> & { orderId: number }>(
    `SELECT id, number, order_id, amount, drawn + returned + carried AS used, own_amount, own_used FROM prepayment
      WHERE company_id = ? AND order_id IN (?) AND amount > drawn + returned + carried ORDER BY id`,
    [companyId, orderIds],
  );
  return rows.map((row) => ({ orderId: row.orderId, ...leftOf({ ...row, marked: '0' }) }));
}

/** What a vendor has still to invoice on a purchase order, the order locked. */
export async function loadForVendorInvoice(
  sql: Sql,
  companyId: number,
  purchaseId: number,
  vendorNumber: string,
  day: Day,
): Promise<VendorInvoiceGround & { vendorId: number; agreements: Touched[]; take: number }> {
  const bought = await sql.rows<{ agreementId: number }>(
    `SELECT DISTINCT al.agreement_id FROM purchase_order_line l
       JOIN agreement_line al ON al.company_id = l.company_id AND al.id = l.agreement_line_id
      WHERE l.company_id = ? AND l.purchase_order_id = ?`,
    [companyId, purchaseId],
  );
  const agreements = await loadAgreements(
    sql,
    companyId,
    bought.map((row) => row.agreementId),
  );
  const [found] = await sql.rows<Columns<PurchaseOrder, 'id number vendorId currency'>>(
    `SELECT id, number, vendor_id, currency FROM purchase_order WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, purchaseId],
  );
  const purchase = orNotFound(found, 'This purchase order');
  const [vendor] = await sql.rows<{ name: string; days: number; customerInvoiceFirst: boolean }>(
    `SELECT v.name, pt.days, c.customer_invoice_first FROM vendor v
       JOIN payment_terms pt ON pt.company_id = v.company_id AND pt.id = v.payment_terms_id
       JOIN company c ON c.id = v.company_id
      WHERE v.company_id = ? AND v.id = ?`,
    [companyId, purchase.vendorId],
  );
  const used = await sql.rows<{ number: string; stands: number }>(
    `SELECT i.number, ${invoiceStands('i')} AS stands FROM vendor_invoice i
      WHERE i.company_id = ? AND i.vendor_id = ? AND i.vendor_number = ?`,
    [companyId, purchase.vendorId, vendorNumber.trim()],
  );
  const [rest] = await sql.rows<{ uninvoiced: string | null }>(
    'SELECT SUM(quantity - invoiced) AS uninvoiced FROM purchase_order_line WHERE company_id = ? AND purchase_order_id = ?',
    [companyId, purchaseId],
  );
  return {
    agreements,
    vendorId: purchase.vendorId,
    uninvoiced: rest?.uninvoiced ?? '0',
    purchase: { ...purchase },
    exchange: await exchangeOn(sql, companyId, purchase.currency, day),
    vendor: { name: vendor!.name, termsDays: vendor!.days },
    usedBy: used.find((row) => row.stands)?.number ?? null,
    take: used.length,
    customerFirst: vendor!.customerInvoiceFirst,
    lines: await receivedLines(sql, companyId, purchaseId),
    taxes: await sql.rows<{ id: number; code: string; rate: string }>(
      'SELECT id, code, rate FROM tax_code WHERE company_id = ?',
      [companyId],
    ),
  };
}

async function receivedLines(sql: Sql, companyId: number, purchaseId: number): Promise<VendorInvoiceGround['lines']> {
  const rows = await sql.rows<
    Columns<PurchaseOrderLine, 'lineNo taxCodeId taxRate agreementLineId amount agreedAmount'> & {
      receiptLineId: number;
      purchaseLineId: number;
      quantity: string;
      cost: string;
      value: string;
      unitCost: string;
      rate: string;
      invoiced: string | null;
      cleared: string | null;
      clearedValue: string | null;
      shipmentLineId: number | null;
      orderNumber: string | null;
      customerInvoiced: string | null;
      taxCode: string;
    }
  >(
    `SELECT rl.id AS receipt_line_id, pl.id AS purchase_line_id, pl.line_no, rl.quantity, rl.cost, rl.value, rl.unit_cost,
            (SELECT r.rate FROM receipt r WHERE r.company_id = rl.company_id AND r.id = rl.receipt_id) AS rate,
            (SELECT SUM(vl.quantity) FROM vendor_invoice_line vl WHERE vl.company_id = rl.company_id AND vl.receipt_line_id = rl.id) AS invoiced,
            (SELECT SUM(vl.received_cost) FROM vendor_invoice_line vl WHERE vl.company_id = rl.company_id AND vl.receipt_line_id = rl.id) AS cleared,
            (SELECT SUM(vl.received_value) FROM vendor_invoice_line vl WHERE vl.company_id = rl.company_id AND vl.receipt_line_id = rl.id) AS cleared_value,
            sl.id AS shipment_line_id, o.number AS order_number,
            (SELECT SUM(cl.quantity) FROM customer_invoice_line cl WHERE cl.company_id = sl.company_id AND cl.shipment_line_id = sl.id
                AND ${notTakenBack('cl')}) AS customer_invoiced,
            tc.code AS tax_code, pl.tax_code_id, pl.tax_rate, pl.agreement_line_id, pl.amount, pl.agreed_amount
       FROM purchase_order_line pl
       JOIN receipt_line rl ON rl.company_id = pl.company_id AND rl.purchase_line_id = pl.id
       JOIN tax_code tc ON tc.company_id = pl.company_id AND tc.id = pl.tax_code_id
       LEFT JOIN shipment_line sl ON sl.company_id = rl.company_id AND sl.receipt_line_id = rl.id
       LEFT JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       LEFT JOIN sales_order o ON o.company_id = s.company_id AND o.id = s.order_id
      WHERE pl.company_id = ? AND pl.purchase_order_id = ? AND pl.received > pl.invoiced AND ${stands('receipt_line', 'rl')} ORDER BY pl.line_no, rl.id`,
    [companyId, purchaseId],
  );
  return rows.map((row) => ({
    receiptLineId: row.receiptLineId,
    purchaseLineId: row.purchaseLineId,
    lineNo: row.lineNo,
    open: dec(row.quantity)
      .minus(row.invoiced ?? 0)
      .toFixed(),
    openCost: dec(row.cost)
      .minus(row.cleared ?? 0)
      .toFixed(),
    openValue: dec(row.value)
      .minus(row.clearedValue ?? 0)
      .toFixed(),
    // What a unit was received at is in the company's currency; in the purchase's, the line says.
    unitPrice: dec(row.rate).eq(1) ? row.unitCost : dec(row.value).div(row.quantity).round(4).toFixed(),
    drop: row.shipmentLineId !== null,
    customerWaits: row.shipmentLineId !== null && dec(row.customerInvoiced ?? 0).lt(row.quantity),
    orderNumber: row.orderNumber,
    taxCode: row.taxCode,
    taxCodeId: row.taxCodeId,
    taxRate: row.taxRate,
    agreementLineId: row.agreementLineId,
    mixed: row.agreedAmount === null ? null : { amount: row.amount, agreed: row.agreedAmount },
  }));
}

/** One open item, locked, with its invoice. */
export async function loadOpenItem(
  sql: Sql,
  companyId: number,
  openItemId: number,
  day: Day,
): Promise<PaymentGround & { document: Touched }> {
  const [found] = await sql.rows<
    Columns<OpenItem, `customerId vendorId customerInvoiceId vendorInvoiceId currency dueDate ${OwedColumns}`>
  >(
    // What stands to a party's credit is set off, not paid: it is no item to pay.
    `SELECT customer_id, vendor_id, customer_invoice_id, vendor_invoice_id, currency, amount, settled, own_amount, own_settled, due_date
       FROM open_item WHERE company_id = ? AND id = ? AND amount > 0 ${sql.forUpdate}`,
    [companyId, openItemId],
  );
  const item = orNotFound(found, 'This open item');
  const side = item.customerId === null ? 'vendor' : 'customer';
  const invoiceId = (item.customerInvoiceId ?? item.vendorInvoiceId)!;
  const [invoice] = await sql.rows<{ number: string }>(
    `SELECT number FROM ${side}_invoice WHERE company_id = ? AND id = ?`,
    [companyId, invoiceId],
  );
  return {
    side,
    openItemId,
    partyId: (item.customerId ?? item.vendorId)!,
    invoice: invoice!.number,
    currency: item.currency,
    owed: {
      amount: item.amount,
      settled: item.settled,
      ownAmount: item.ownAmount,
      ownSettled: item.ownSettled,
    },
    exchange: await exchangeOn(sql, companyId, item.currency, day),
    document: { kind: side === 'customer' ? 'CI' : 'VI', id: invoiceId, number: invoice!.number },
  };
}
