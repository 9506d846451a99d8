import type * as z from 'zod';
import { dec, type Day, type DocumentRef } from '@core/kernel';
import type * as contract from '@api/billing';
import { there, withoutLocks } from '../acts';
import type { Bound, Sql } from '../db/database';
import { likeOf, pageById, plain } from '../db/mapping';
import { lockForVendorInvoice } from './store';

type Row = z.infer<typeof contract.InvoiceRow>;
type Sheet = z.infer<typeof contract.InvoiceSheet>;
type Side = Row['side'];

interface HeadRow {
  id: number;
  number: string;
  party_id: number;
  party_number: string;
  party_name: string;
  source_id: number;
  source_number: string;
  vendor_number: string | null;
  invoice_date: Day;
  due_date: Day;
  currency: string;
  net: string;
  tax: string;
  total: string;
  open_item_id: number;
  settled: string;
  terms: string;
}

/** The two sides differ in their tables only. */
const SIDES = {
  customer: {
    kind: 'CI',
    sourceKind: 'SO',
    from: `FROM customer_invoice i
      JOIN customer p ON p.company_id = i.company_id AND p.id = i.customer_id
      JOIN sales_order s ON s.company_id = i.company_id AND s.id = i.order_id
      JOIN open_item oi ON oi.company_id = i.company_id AND oi.customer_invoice_id = i.id`,
    vendorNumber: 'NULL',
  },
  vendor: {
    kind: 'VI',
    sourceKind: 'PO',
    from: `FROM vendor_invoice i
      JOIN vendor p ON p.company_id = i.company_id AND p.id = i.vendor_id
      JOIN purchase_order s ON s.company_id = i.company_id AND s.id = i.purchase_order_id
      JOIN open_item oi ON oi.company_id = i.company_id AND oi.vendor_invoice_id = i.id`,
    vendorNumber: 'i.vendor_number',
  },
} as const;

function headSql(side: Side): string {
  const { from, vendorNumber } = SIDES[side];
  return `SELECT i.id, i.number, p.id AS party_id, p.number AS party_number, p.name AS party_name, s.id AS source_id,
      s.number AS source_number, ${vendorNumber} AS vendor_number, i.invoice_date, i.due_date, i.currency, i.net, i.tax,
      i.total, oi.id AS open_item_id, oi.settled, pt.name AS terms ${from}
      JOIN payment_terms pt ON pt.company_id = p.company_id AND pt.id = p.payment_terms_id`;
}

/** Invoices of one side newest first; `open` leaves out what is settled. */
export function listInvoices(
  sql: Sql,
  companyId: number,
  query: { side: Side; q?: string; cursor?: string; open?: 'yes' },
) {
  const where = ['i.company_id = ?', 'i.id < ?'];
  const values: Bound[] = [];
  if (query.open) where.push('oi.settled < oi.amount');
  if (query.q?.trim()) {
    const columns = ['i.number', 'p.name', 's.number', ...(query.side === 'vendor' ? ['i.vendor_number'] : [])];
    where.push(`(${columns.map((column) => `${column} LIKE ?`).join(' OR ')})`);
    values.push(...columns.map(() => likeOf(query.q!)));
  }
  return pageById<HeadRow, Row>(
    (before, most) =>
      sql.rows(`${headSql(query.side)} WHERE ${where.join(' AND ')} ORDER BY i.id DESC LIMIT ?`, [
        companyId,
        before,
        ...values,
        most,
      ]),
    query.cursor,
    (row) => rowOf(query.side, row),
  );
}

function rowOf(side: Side, row: HeadRow): Row {
  const { kind, sourceKind } = SIDES[side];
  return {
    document: { kind, id: row.id, number: row.number },
    side,
    party: { id: row.party_id, number: row.party_number, name: row.party_name },
    source: { kind: sourceKind, id: row.source_id, number: row.source_number },
    vendorNumber: row.vendor_number,
    invoiceDate: row.invoice_date,
    dueDate: row.due_date,
    currency: row.currency,
    total: plain(row.total),
    owed: dec(row.total).minus(row.settled).toFixed(),
  };
}

export async function openInvoice(sql: Sql, companyId: number, side: Side, id: number): Promise<Sheet> {
  const [head] = await sql.rows<HeadRow>(`${headSql(side)} WHERE i.company_id = ? AND i.id = ?`, [companyId, id]);
  const found = there(head, 'This invoice');
  const [lines, taxes, payments] = await Promise.all([
    side === 'customer' ? customerLines(sql, companyId, id) : vendorLines(sql, companyId, id),
    taxesOf(sql, companyId, SIDES[side].kind, id),
    paymentsOf(sql, companyId, found.open_item_id),
  ]);
  return {
    ...rowOf(side, found),
    openItemId: found.open_item_id,
    net: plain(found.net),
    tax: plain(found.tax),
    terms: found.terms,
    taxes,
    lines,
    payments,
  };
}

interface LineRow {
  item_id: number;
  item_number: string;
  item_name: string;
  unit: string;
  quantity: string;
  unit_price: string;
  net: string;
  tax_code: string;
  covers_id: number;
  covers_number: string;
  order_line_id: number | null;
  received_cost: string | null;
}

async function customerLines(sql: Sql, companyId: number, id: number) {
  const rows = await sql.rows<LineRow>(
    `SELECT sl.item_id, i.number AS item_number, i.name AS item_name, i.unit, l.quantity, l.unit_price, l.net,
            tc.code AS tax_code, s.id AS covers_id, s.number AS covers_number, l.order_line_id, NULL AS received_cost
       FROM customer_invoice_line l
       JOIN shipment_line sl ON sl.company_id = l.company_id AND sl.id = l.shipment_line_id
       JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       JOIN item i ON i.company_id = sl.company_id AND i.id = sl.item_id
       JOIN tax_code tc ON tc.company_id = l.company_id AND tc.id = l.tax_code_id
      WHERE l.company_id = ? AND l.invoice_id = ? ORDER BY l.id`,
    [companyId, id],
  );
  return rows.map((row) => lineOf('SH', row));
}

async function vendorLines(sql: Sql, companyId: number, id: number) {
  const rows = await sql.rows<LineRow>(
    `SELECT rl.item_id, i.number AS item_number, i.name AS item_name, i.unit, l.quantity, l.unit_price, l.net,
            tc.code AS tax_code, r.id AS covers_id, r.number AS covers_number, sl.order_line_id, l.received_cost
       FROM vendor_invoice_line l
       JOIN receipt_line rl ON rl.company_id = l.company_id AND rl.id = l.receipt_line_id
       JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
       JOIN item i ON i.company_id = rl.company_id AND i.id = rl.item_id
       JOIN tax_code tc ON tc.company_id = l.company_id AND tc.id = l.tax_code_id
       LEFT JOIN shipment_line sl ON sl.company_id = rl.company_id AND sl.receipt_line_id = rl.id
      WHERE l.company_id = ? AND l.invoice_id = ? ORDER BY l.id`,
    [companyId, id],
  );
  return rows.map((row) => lineOf('RC', row));
}

function lineOf(covers: 'SH' | 'RC', row: LineRow): Sheet['lines'][number] {
  return {
    item: { id: row.item_id, number: row.item_number, name: row.item_name, unit: row.unit },
    quantity: plain(row.quantity),
    unitPrice: plain(row.unit_price),
    net: plain(row.net),
    taxCode: row.tax_code,
    covers: { kind: covers, id: row.covers_id, number: row.covers_number },
    orderLineId: row.order_line_id,
    difference: row.received_cost === null ? null : dec(row.net).minus(row.received_cost).toFixed(),
  };
}

async function taxesOf(sql: Sql, companyId: number, kind: string, id: number): Promise<Sheet['taxes']> {
  const rows = await sql.rows<{ tax_code: string; tax_rate: string; base: string; tax: string }>(
    'SELECT tax_code, tax_rate, base, tax FROM invoice_tax WHERE company_id = ? AND document_kind = ? AND document_id = ?',
    [companyId, kind, id],
  );
  return rows.map((row) => ({
    taxCode: row.tax_code,
    taxRate: plain(row.tax_rate),
    base: plain(row.base),
    tax: plain(row.tax),
  }));
}

async function paymentsOf(sql: Sql, companyId: number, openItemId: number): Promise<Sheet['payments']> {
  const rows = await sql.rows<{ id: number; number: string; paid_on: Day; amount: string }>(
    'SELECT id, number, paid_on, amount FROM payment WHERE company_id = ? AND open_item_id = ? ORDER BY id',
    [companyId, openItemId],
  );
  return rows.map((row) => ({
    document: { kind: 'PY', id: row.id, number: row.number } satisfies DocumentRef,
    paidOn: row.paid_on,
    amount: plain(row.amount),
  }));
}

/** What a vendor has still to invoice on a purchase order, line by line, at the ordered price. */
export async function openToInvoice(
  sql: Sql,
  companyId: number,
  purchaseId: number,
): Promise<z.infer<typeof contract.OpenToInvoice>> {
  const ground = await lockForVendorInvoice(withoutLocks(sql), companyId, purchaseId, '');
  const [vendor] = await sql.rows<{ id: number; number: string; name: string }>(
    'SELECT id, number, name FROM vendor WHERE company_id = ? AND id = ?',
    [companyId, ground.vendorId],
  );
  const items = await sql.rows<{ line_id: number; id: number; number: string; name: string; unit: string }>(
    `SELECT pl.id AS line_id, i.id, i.number, i.name, i.unit FROM purchase_order_line pl
       JOIN item i ON i.company_id = pl.company_id AND i.id = pl.item_id
      WHERE pl.company_id = ? AND pl.purchase_order_id = ?`,
    [companyId, purchaseId],
  );
  const byLine = new Map<number, z.infer<typeof contract.OpenToInvoice>['lines'][number]>();
  for (const line of ground.lines) {
    const { line_id: _lineId, ...item } = items.find((each) => each.line_id === line.purchaseLineId)!;
    const known = byLine.get(line.purchaseLineId);
    byLine.set(line.purchaseLineId, {
      purchaseLineId: line.purchaseLineId,
      lineNo: line.lineNo,
      item,
      open: dec(known?.open ?? '0')
        .plus(line.open)
        .toFixed(),
      unitPrice: line.unitCost,
    });
  }
  const waits = ground.customerFirst ? ground.lines.find((line) => line.customerWaits) : undefined;
  const [first] = waits?.orderNumber
    ? await sql.rows<{ id: number }>('SELECT id FROM sales_order WHERE company_id = ? AND number = ?', [
        companyId,
        waits.orderNumber,
      ])
    : [];
  return {
    purchase: { kind: 'PO', id: purchaseId, number: ground.purchase.number },
    vendor: vendor!,
    currency: ground.purchase.currency,
    lines: [...byLine.values()],
    customerFirst: first ? { kind: 'SO', id: first.id, number: waits!.orderNumber! } : null,
  };
}
