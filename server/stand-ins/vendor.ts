import type { Logger } from 'pino';
import { addDays, dec } from '@core/kernel';
import { invoicedPrice, vendorAnswer, vendorDelivery, type OrderedLine } from '@core/stand-in';
import { enterVendorInvoice } from '../billing';
import { actNamed, type Doer } from '../acts';
import type { Database, Columns } from '../db';
import { answerPurchase } from '../supply';
import { tryAct } from './act';
import type { PurchaseOrder, PurchaseOrderLine } from '../purchasing/tables';

/** Purchase orders looked after in one go; the rest are on the next day that moves. */
const MOST = 300;
/** Days from a delivery to the vendor's invoice. */
const INVOICE_AFTER = 2;

type Open = Columns<PurchaseOrder, 'id number version orderDate answeredOn'> & { vendor: string };

/** Vendors answer what was placed, deliver what is due and invoice what came. */
export async function vendorsAct(database: Database, log: Logger, doer: Doer, seed: number): Promise<number> {
  const open = await database.rows<Open>(
    `SELECT p.id, p.number, p.version, v.number AS vendor, p.order_date, p.answered_on
       FROM purchase_order p FORCE INDEX (purchase_order_state)
       JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE p.company_id = ? AND p.state = 'placed' ORDER BY p.id LIMIT ${MOST}`,
    [doer.companyId],
  );
  const act = (what: Parameters<typeof tryAct>[2], input: unknown) => tryAct(database, log, what, input, doer);
  let acts = 0;
  for (const purchase of open) {
    if (purchase.answeredOn === null) {
      const lines = vendorAnswer(await linesOf(database, doer, purchase.id), purchase.orderDate, doer.workDate, seed);
      const { id: purchaseId, version } = purchase;
      if (lines.length > 0) acts += await act(answerPurchase, { purchaseId, version, lines });
    }
    const lines = vendorDelivery(await linesOf(database, doer, purchase.id), doer.workDate, seed);
    if (lines.length > 0) acts += await act(actNamed('receiveGoods')!, { purchaseId: purchase.id, lines });
    acts += await invoice(database, log, doer, purchase, seed);
  }
  return acts;
}

/** The lines that could come: to our place, or to a customer for an order. */
async function linesOf(database: Database, { companyId }: Doer, purchaseId: number): Promise<OrderedLine[]> {
  const rows = await database.rows<Columns<PurchaseOrderLine, 'id quantity received dueDate'>>(
    `SELECT l.id, l.quantity, l.received, l.due_date FROM purchase_order p
       JOIN purchase_order_line l ON l.company_id = p.company_id AND l.purchase_order_id = p.id
      WHERE p.company_id = ? AND p.id = ? AND (p.ship_to_id IS NULL OR l.tied > 0) ORDER BY l.line_no`,
    [companyId, purchaseId],
  );
  return rows;
}

/** Some days after its last delivery a vendor invoices what came and is not invoiced, now and then for more. */
async function invoice(database: Database, log: Logger, doer: Doer, purchase: Open, seed: number): Promise<number> {
  const lines = await database.rows<{
    id: number;
    open: string;
    unitPrice: string;
    last: string | null;
    count: number;
  }>(
    `SELECT l.id, l.received - l.invoiced AS open, l.unit_price,
            (SELECT MAX(r.posted_on) FROM receipt r WHERE r.company_id = l.company_id AND r.purchase_order_id = l.purchase_order_id) AS last,
            (SELECT COUNT(*) FROM vendor_invoice i WHERE i.company_id = l.company_id AND i.purchase_order_id = l.purchase_order_id) AS count
       FROM purchase_order_line l
      WHERE l.company_id = ? AND l.purchase_order_id = ? AND l.received > l.invoiced ORDER BY l.line_no`,
    [doer.companyId, purchase.id],
  );
  const [first] = lines;
  if (!first?.last || addDays(first.last, INVOICE_AFTER) > doer.workDate) return 0;
  const input = {
    purchaseId: purchase.id,
    vendorNumber: `${purchase.vendor}/${purchase.number.slice(3)}-${first.count + 1}`,
    invoiceDate: doer.workDate,
    lines: lines.map((line) => ({
      purchaseLineId: line.id,
      quantity: dec(line.open).toFixed(),
      unitPrice: invoicedPrice(line.unitPrice, line.id, seed),
    })),
  };
  return tryAct(database, log, enterVendorInvoice, input, doer);
}
