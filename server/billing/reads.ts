import type * as z from 'zod';
import { dec, type Day, type DocumentRef } from '@core/kernel';
import type * as contract from '@api/billing';
import { named, serialsMovedBy } from '../serial';
import { orNotFound } from '../acts';
import {
  Conditions,
  inOrderOf,
  likeOf,
  sortOf,
  walked,
  walkedByParty,
  type Columns,
  notTakenBack,
  stands,
  type SortColumn,
  type Sql,
} from '../db';
import { addDays } from '../room';
import { partyNumbered } from '../parties';
import { ownCurrency } from '../catalogue';
import { inOwn } from './in-own';
import { loadForVendorInvoice } from './store';
import type { CustomerInvoiceLine, InvoiceAllowance, InvoiceTax, Payment } from './tables';
import type { Item } from '../catalogue/tables';

type Row = z.infer<typeof contract.InvoiceRow>;
type Sheet = z.infer<typeof contract.InvoiceSheet>;
type Side = Row['side'];

interface HeadRow {
  id: number;
  number: string;
  partyId: number;
  partyNumber: string;
  partyName: string;
  sourceKind: 'SO' | 'PO' | 'AG' | 'JR';
  sourceId: number;
  sourceNumber: string;
  /** `id number` of its other orders, a line each. */
  alsoFor: string | null;
  vendorNumber: string | null;
  invoiceDate: Day;
  dueDate: Day;
  currency: string;
  net: string;
  tax: string;
  total: string;
  own: string;
  rate: string;
  ownNet: string;
  ownTax: string;
  ownOwed: string;
  openItemId: number;
  settled: string;
  terms: string;
  reason: string;
  reversesId: number | null;
  reversesNumber: string | null;
  reversedById: number | null;
  reversedByNumber: string | null;
}

/** What the words of a search may stand in, joined to `i`. */
const WORDS_IN = {
  customer: `JOIN customer p ON p.company_id = i.company_id AND p.id = i.customer_id
      LEFT JOIN sales_order s ON s.company_id = i.company_id AND s.id = i.order_id
      LEFT JOIN agreement g ON g.company_id = i.company_id AND g.id = i.agreement_id`,
  vendor: `JOIN vendor p ON p.company_id = i.company_id AND p.id = i.vendor_id
      LEFT JOIN purchase_order s ON s.company_id = i.company_id AND s.id = i.purchase_order_id`,
} as const;

/** The journal that opened it, for an invoice that was there before Kampong. // U3 */
const opened = (what: 'id' | 'number', kind: 'CI' | 'VI') =>
  `(SELECT j.${what} FROM journal j FORCE INDEX (journal_document)
     WHERE j.company_id = i.company_id AND j.document_kind = '${kind}' AND j.document_id = i.id ORDER BY j.id LIMIT 1)`;

/** The two sides differ in their tables only. */
const SIDES = {
  customer: {
    kind: 'CI',
    // An invoice for a shortfall is about its agreement; one that opened the books about the journal that did.
    source: `IF(i.opening, 'JR', IF(s.id IS NULL, 'AG', 'SO')) AS source_kind, COALESCE(s.id, g.id, ${opened('id', 'CI')}) AS source_id,
      COALESCE(s.number, g.number, ${opened('number', 'CI')}) AS source_number`,
    sourceNumber: 'COALESCE(s.number, g.number)',
    from: `FROM customer_invoice i ${WORDS_IN.customer}
      JOIN open_item oi ON oi.company_id = i.company_id AND oi.customer_invoice_id = i.id`,
    alsoFor: `(SELECT GROUP_CONCAT(DISTINCT oo.id, ' ', oo.number ORDER BY oo.id SEPARATOR '\n') FROM customer_invoice_line ol
       JOIN sales_order_line os ON os.company_id = ol.company_id AND os.id = ol.order_line_id
       JOIN sales_order oo ON oo.company_id = os.company_id AND oo.id = os.order_id
      WHERE ol.company_id = i.company_id AND ol.invoice_id = i.id AND oo.id <> i.order_id)`,
    vendorNumber: 'NULL',
    takenBack:
      "IF(i.opening, 'was owed before Kampong', IF(i.claims_rebate, 'claims back what was settled of the rebate beyond what is owed', '')) AS reason, NULL AS reverses_id, NULL AS reverses_number, NULL AS reversed_by_id, NULL AS reversed_by_number",
  },
  vendor: {
    kind: 'VI',
    source: `IF(i.opening, 'JR', 'PO') AS source_kind, COALESCE(s.id, ${opened('id', 'VI')}) AS source_id,
      COALESCE(s.number, ${opened('number', 'VI')}) AS source_number`,
    sourceNumber: 's.number',
    from: `FROM vendor_invoice i ${WORDS_IN.vendor}
      JOIN open_item oi ON oi.company_id = i.company_id AND oi.vendor_invoice_id = i.id
      LEFT JOIN vendor_invoice ro ON ro.company_id = i.company_id AND ro.id = i.reverses_id
      LEFT JOIN vendor_invoice rb ON rb.company_id = i.company_id AND rb.reverses_id = i.id`,
    alsoFor: 'NULL',
    vendorNumber: 'i.vendor_number',
    takenBack:
      "IF(i.opening AND i.reason = '', 'was owed before Kampong', i.reason) AS reason, ro.id AS reverses_id, ro.number AS reverses_number, rb.id AS reversed_by_id, rb.number AS reversed_by_number",
  },
} as const;

function headSql(side: Side): string {
  const { alsoFor, from, source, takenBack, vendorNumber } = SIDES[side];
  return `SELECT i.id, i.number, p.id AS party_id, p.number AS party_number, p.name AS party_name, ${source},
      ${alsoFor} AS also_for, ${vendorNumber} AS vendor_number, i.invoice_date, i.due_date, i.currency, i.net, i.tax,
      i.total, i.rate, i.own_net, i.own_tax, ${ownCurrency('i.company_id')} AS own, oi.own_amount - oi.own_settled AS own_owed,
      oi.id AS open_item_id, oi.settled, pt.name AS terms, ${takenBack} ${from}
      JOIN payment_terms pt ON pt.company_id = p.company_id AND pt.id = p.payment_terms_id`;
}

const SORTS = {
  number: {},
  theirs: { column: 'i.vendor_number', up: true },
  party: { up: true },
  date: { column: 'i.invoice_date' },
  due: { column: 'i.due_date', up: true },
  total: { column: 'i.total' },
} satisfies Record<string, SortColumn>;

type InvoicesQuery = z.output<typeof contract.listInvoices.query>;

/** The key that serves a list in that order. */
const keyFor = (sort: keyof typeof SORTS, side: Side, ofParty: boolean): string => {
  if (ofParty || sort === 'party') return `${side}_invoice_${side}`;
  const of = { number: 'PRIMARY', theirs: 'theirs', date: 'dated', due: 'due', total: 'total' }[sort];
  return of === 'PRIMARY' ? of : `${side}_invoice_${of}`;
};

/**
 * Invoices of one side newest first or as sorted; `open` leaves out what is settled, and has what is due first on top:
 * it walks what is owed, not all that was ever invoiced.
 */
export async function listInvoices(
  sql: Sql,
  companyId: number,
  query: InvoicesQuery,
  workDate: Day,
): Promise<{ rows: Row[]; next: string | null }> {
  const { side } = query;
  const partyColumn = `${side}_id`;
  const { add, where, values } = new Conditions('i', companyId);
  const partyId = query.party === undefined ? null : await partyNumbered(sql, companyId, side, query.party);
  if (partyId !== null) add(`i.${partyColumn} = ?`, partyId);
  addDays(add, 'i.due_date', 'due', query.due, workDate);
  addDays(add, 'i.invoice_date', 'invoiced', query.invoiced, workDate);
  const words = query.q?.trim();
  if (words) {
    const columns = [
      'i.number',
      'p.name',
      'p.number',
      SIDES[side].sourceNumber,
      ...(side === 'vendor' ? ['i.vendor_number'] : []),
    ];
    add(`(${columns.map((column) => `${column} LIKE ?`).join(' OR ')})`, ...columns.map(() => likeOf(words)));
  }
  const usual: keyof typeof SORTS =
    query.open || query.due !== undefined ? 'due' : query.invoiced !== undefined ? 'date' : 'number';
  const sort = sortOf<keyof typeof SORTS>(
    SORTS,
    side === 'customer' && query.sort?.startsWith('theirs') ? undefined : query.sort,
    usual,
  );
  const table = `${side}_invoice`;
  const joined = words ? WORDS_IN[side] : '';
  const read = { row: 'i.id', where, values };
  const owing = query.open === 'yes' && (sort.name === 'due' || sort.name === 'party' || partyId !== null);
  let from = `${table} i FORCE INDEX (${keyFor(sort.name, side, partyId !== null)}) ${joined}`;
  if (query.open && !owing) {
    from += ` JOIN open_item oi ON oi.company_id = i.company_id AND oi.${table}_id = i.id`;
    add('oi.owing');
  }
  if (owing) {
    const key = partyId !== null || sort.name === 'party' ? `open_item_owing_${side}` : 'open_item_owing';
    from = `open_item oi FORCE INDEX (${key}) JOIN ${table} i ON i.company_id = oi.company_id AND i.id = oi.${table}_id ${joined}`;
    add('oi.company_id = ? AND oi.owing = TRUE', companyId);
    if (partyId !== null) add(`oi.${partyColumn} = ?`, partyId);
  }
  const { ids, next } =
    sort.name === 'party'
      ? await walkedByParty(
          sql,
          companyId,
          { party: side, from, column: owing ? `oi.${partyColumn}` : `i.${partyColumn}`, id: 'i.id', up: sort.up },
          query,
          read,
        )
      : await walked(
          sql,
          {
            ...sort,
            from,
            id: owing && sort.name === 'due' ? 'oi.id' : 'i.id',
            ...(owing && sort.name === 'due' ? { column: 'oi.due_date' } : {}),
          },
          query,
          read,
        );
  if (ids.length === 0) return { rows: [], next };
  const heads = await sql.rows<HeadRow>(`${headSql(side)} WHERE i.company_id = ? AND i.id IN (?)`, [companyId, ids]);
  return { rows: inOrderOf(ids, heads).map((row) => rowOf(side, row)), next };
}

function rowOf(side: Side, row: HeadRow): Row {
  const { kind } = SIDES[side];
  return {
    document: { kind, id: row.id, number: row.number },
    side,
    party: { id: row.partyId, number: row.partyNumber, name: row.partyName },
    source: { kind: row.sourceKind, id: row.sourceId, number: row.sourceNumber },
    alsoFor: (row.alsoFor ?? '')
      .split('\n')
      .filter(Boolean)
      .map((each) => each.split(' ') as [string, string])
      .map(([orderId, number]) => ({ kind: 'SO', id: Number(orderId), number })),
    vendorNumber: row.vendorNumber,
    invoiceDate: row.invoiceDate,
    dueDate: row.dueDate,
    currency: row.currency,
    total: row.total,
    owed: dec(row.total).minus(row.settled).toFixed(),
  };
}

/** What else settled or lessened an invoice: prepayments drawn, credits set off, and its credit notes. */
async function lessenedBy(
  sql: Sql,
  companyId: number,
  side: Side,
  id: number,
  openItemId: number,
): Promise<Sheet['lessened']> {
  const rows = await sql.rows<{
    kind: 'PP' | 'CN' | 'VI';
    id: number;
    number: string;
    day: Day;
    amount: string;
    how: string;
  }>(
    `SELECT 'PP' AS kind, p.id, p.number, m.moved_on AS day, SUM(m.amount) AS amount, 'drawn from' AS how
       FROM prepayment_move m JOIN prepayment p ON p.company_id = m.company_id AND p.id = m.prepayment_id
      WHERE m.company_id = ? AND m.customer_invoice_id = ? GROUP BY p.id, m.moved_on
     UNION ALL SELECT 'CN', n.id, n.number, s.set_on, s.amount, 'set off against'
       FROM set_off s
       JOIN open_item oi ON oi.company_id = s.company_id AND oi.id = s.credit_item_id
       JOIN credit_note n ON n.company_id = oi.company_id AND n.id = oi.credit_note_id
      WHERE s.company_id = ? AND s.invoice_item_id = ?
     UNION ALL SELECT 'VI', n.id, n.number, s.set_on, s.amount, 'set off against'
       FROM set_off s
       JOIN open_item oi ON oi.company_id = s.company_id AND oi.id = s.credit_item_id
       JOIN vendor_invoice n ON n.company_id = oi.company_id AND n.id = oi.vendor_invoice_id
      WHERE s.company_id = ? AND s.invoice_item_id = ? ORDER BY day, id`,
    [companyId, side === 'customer' ? id : 0, companyId, openItemId, companyId, openItemId],
  );
  return rows.map((row) => ({
    document: { kind: row.kind, id: row.id, number: row.number },
    day: row.day,
    amount: row.amount,
    how: row.how,
  }));
}

export async function openInvoice(sql: Sql, companyId: number, side: Side, id: number): Promise<Sheet> {
  const [head] = await sql.rows<HeadRow>(`${headSql(side)} WHERE i.company_id = ? AND i.id = ?`, [companyId, id]);
  const found = orNotFound(head, 'This invoice');
  const [lines, taxes, payments, lessened, allowances] = await Promise.all([
    side === 'customer' ? customerLines(sql, companyId, id) : vendorLines(sql, companyId, id),
    taxesOf(sql, companyId, SIDES[side].kind, id),
    paymentsOf(sql, companyId, found.openItemId),
    lessenedBy(sql, companyId, side, id, found.openItemId),
    side === 'customer' ? allowedOn(sql, companyId, id) : [],
  ]);
  const own = inOwn(found, found.rate, { net: found.ownNet, tax: found.ownTax });
  return {
    ...rowOf(side, found),
    own: own && { ...own, owed: found.ownOwed },
    openItemId: found.openItemId,
    net: found.net,
    tax: found.tax,
    terms: found.terms,
    taxes,
    lines,
    payments,
    lessened,
    allowances,
    reverses: found.reversesId === null ? null : { kind: 'VI', id: found.reversesId, number: found.reversesNumber! },
    reversedBy:
      found.reversedById === null ? null : { kind: 'VI', id: found.reversedById, number: found.reversedByNumber! },
    reason: found.reason,
  };
}

type LineRow = Columns<CustomerInvoiceLine, 'id quantity unitPrice net allowance orderLineId'> & {
  itemId: number | null;
  itemNumber: string;
  itemName: string;
  unit: string;
  creditable: string | null;
  taxCode: string;
  coversKind: 'SH' | 'RC' | 'AG';
  coversId: number;
  coversNumber: string;
  receivedValue: string | null;
};

async function customerLines(sql: Sql, companyId: number, id: number) {
  const rows = await sql.rows<LineRow>(
    `SELECT l.id, i.id AS item_id, COALESCE(i.number, g.code, 'shortfall') AS item_number,
            COALESCE(i.name, g.name, 'what was not taken') AS item_name, COALESCE(i.unit, 'amount') AS unit, l.quantity, l.unit_price,
            l.net, l.allowance, tc.code AS tax_code, COALESCE(s.id, ag.id) AS covers_id, COALESCE(s.number, ag.number) AS covers_number,
            IF(s.id IS NULL, 'AG', 'SH') AS covers_kind, l.order_line_id, NULL AS received_value,
            IF(s.id IS NULL, NULL, l.quantity - COALESCE((SELECT SUM(cl.quantity + cl.uninvoiced) FROM credit_note_line cl
               WHERE cl.company_id = l.company_id AND cl.invoice_line_id = l.id), 0)) AS creditable
       FROM customer_invoice_line l
       LEFT JOIN shipment_line sl ON sl.company_id = l.company_id AND sl.id = l.shipment_line_id
       LEFT JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       LEFT JOIN shortfall_line f ON f.company_id = l.company_id AND f.id = l.shortfall_line_id
       LEFT JOIN agreement_line al ON al.company_id = f.company_id AND al.id = f.agreement_line_id
       LEFT JOIN agreement ag ON ag.company_id = al.company_id AND ag.id = al.agreement_id
       LEFT JOIN item_group g ON g.company_id = al.company_id AND g.id = al.item_group_id
       LEFT JOIN item i ON i.company_id = l.company_id AND i.id = COALESCE(sl.item_id, al.item_id)
       JOIN tax_code tc ON tc.company_id = l.company_id AND tc.id = l.tax_code_id
      WHERE l.company_id = ? AND l.invoice_id = ? ORDER BY l.id`,
    [companyId, id],
  );
  const shipped = rows.filter(({ coversKind }) => coversKind === 'SH').map(({ coversId }) => coversId);
  const moved = await serialsMovedBy(sql, companyId, 'SH', [...new Set(shipped)]);
  return rows.map((row) => ({
    ...lineOf(row),
    numbers: moved
      .filter(
        ({ documentId, lineId, itemId }) =>
          row.coversKind === 'SH' && documentId === row.coversId && lineId === row.orderLineId && itemId === row.itemId,
      )
      .map(named),
  }));
}

async function vendorLines(sql: Sql, companyId: number, id: number) {
  const rows = await sql.rows<LineRow>(
    `SELECT l.id, rl.item_id, i.number AS item_number, i.name AS item_name, i.unit, l.quantity, l.unit_price, l.net, '0' AS allowance,
            tc.code AS tax_code, r.id AS covers_id, r.number AS covers_number, 'RC' AS covers_kind, sl.order_line_id, l.received_value,
            NULL AS creditable
       FROM vendor_invoice_line l
       JOIN receipt_line rl ON rl.company_id = l.company_id AND rl.id = l.receipt_line_id
       JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
       JOIN item i ON i.company_id = rl.company_id AND i.id = rl.item_id
       JOIN tax_code tc ON tc.company_id = l.company_id AND tc.id = l.tax_code_id
       LEFT JOIN shipment_line sl ON sl.company_id = rl.company_id AND sl.receipt_line_id = rl.id
      WHERE l.company_id = ? AND l.invoice_id = ? ORDER BY l.id`,
    [companyId, id],
  );
  return rows.map((row) => lineOf(row));
}

function lineOf(row: LineRow): Sheet['lines'][number] {
  return {
    id: row.id,
    item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
    creditable: row.creditable,
    quantity: row.quantity,
    unitPrice: row.unitPrice,
    net: row.net,
    allowance: row.allowance,
    taxCode: row.taxCode,
    covers: { kind: row.coversKind, id: row.coversId, number: row.coversNumber },
    orderLineId: row.orderLineId,
    numbers: [],
    difference: row.receivedValue === null ? null : dec(row.net).minus(row.receivedValue).toFixed(),
  };
}

async function allowedOn(sql: Sql, companyId: number, id: number): Promise<Sheet['allowances']> {
  const rows = await sql.rows<Columns<InvoiceAllowance, 'measure reached fromMeasure perCent amount'>>(
    'SELECT measure, reached, from_measure, per_cent, amount FROM invoice_allowance WHERE company_id = ? AND invoice_id = ?',
    [companyId, id],
  );
  return rows.map((row) => ({
    measure: row.measure,
    reached: row.reached,
    from: row.fromMeasure,
    perCent: row.perCent,
    amount: row.amount,
  }));
}

export async function taxesOf(sql: Sql, companyId: number, kind: string, id: number): Promise<Sheet['taxes']> {
  const rows = await sql.rows<Columns<InvoiceTax, 'taxCode taxRate base tax'>>(
    'SELECT tax_code, tax_rate, base, tax FROM invoice_tax WHERE company_id = ? AND document_kind = ? AND document_id = ?',
    [companyId, kind, id],
  );
  return rows;
}

async function paymentsOf(sql: Sql, companyId: number, openItemId: number): Promise<Sheet['payments']> {
  const rows = await sql.rows<Columns<Payment, 'id number paidOn amount'> & { difference: string }>(
    'SELECT id, number, paid_on, amount, own_amount - own_settled AS difference FROM payment WHERE company_id = ? AND open_item_id = ? ORDER BY id',
    [companyId, openItemId],
  );
  return rows.map((row) => ({
    document: { kind: 'PY', id: row.id, number: row.number } satisfies DocumentRef,
    paidOn: row.paidOn,
    amount: row.amount,
    difference: row.difference,
  }));
}

/** What a vendor has still to invoice on a purchase order, line by line, at the ordered price. */
export async function openToInvoice(
  sql: Sql,
  companyId: number,
  purchaseId: number,
  day: Day,
): Promise<z.infer<typeof contract.OpenToInvoice>> {
  const ground = await loadForVendorInvoice(sql, companyId, purchaseId, '', day);
  const [vendor] = await sql.rows<{ id: number; number: string; name: string }>(
    'SELECT id, number, name FROM vendor WHERE company_id = ? AND id = ?',
    [companyId, ground.vendorId],
  );
  const items = await sql.rows<Columns<Item, 'id number name unit'> & { lineId: number }>(
    `SELECT pl.id AS line_id, i.id, i.number, i.name, i.unit FROM purchase_order_line pl
       JOIN item i ON i.company_id = pl.company_id AND i.id = pl.item_id
      WHERE pl.company_id = ? AND pl.purchase_order_id = ?`,
    [companyId, purchaseId],
  );
  const byLine = new Map<number, z.infer<typeof contract.OpenToInvoice>['lines'][number]>();
  for (const line of ground.lines) {
    const { lineId: _lineId, ...item } = items.find((each) => each.lineId === line.purchaseLineId)!;
    const known = byLine.get(line.purchaseLineId);
    byLine.set(line.purchaseLineId, {
      purchaseLineId: line.purchaseLineId,
      lineNo: line.lineNo,
      item,
      open: dec(known?.open ?? '0')
        .plus(line.open)
        .toFixed(),
      unitPrice: line.unitPrice,
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

/** What went out to a customer and is not invoiced, oldest shipment first. */
export async function listUninvoiced(
  sql: Sql,
  companyId: number,
  customerId: number,
): Promise<{ rows: z.infer<typeof contract.Uninvoiced>[] }> {
  const rows = await sql.rows<
    Columns<Item, 'number name unit'> & {
      shipmentLineId: number;
      orderId: number;
      orderNumber: string;
      reference: string;
      orderLineId: number;
      lineNo: number;
      itemId: number;
      shipmentId: number;
      shipmentNumber: string;
      shippedOn: Day;
      quantity: string;
      invoiced: string | null;
      unitPrice: string;
      currency: string;
    }
  >(
    `SELECT STRAIGHT_JOIN sl.id AS shipment_line_id, o.id AS order_id, o.number AS order_number, o.customer_reference AS reference,
            ol.id AS order_line_id, ol.line_no, i.id AS item_id, i.number, i.name, i.unit, s.id AS shipment_id,
            s.number AS shipment_number, s.posted_on AS shipped_on, sl.quantity, ol.unit_price, o.currency,
            (SELECT SUM(il.quantity) FROM customer_invoice_line il
              WHERE il.company_id = sl.company_id AND il.shipment_line_id = sl.id AND ${notTakenBack('il')}) AS invoiced
       FROM sales_order o FORCE INDEX (sales_order_customer_state)
       JOIN sales_order_line ol FORCE INDEX (sales_order_line_no) ON ol.company_id = o.company_id AND ol.order_id = o.id
       JOIN shipment_line sl FORCE INDEX (shipment_line_order) ON sl.company_id = ol.company_id AND sl.order_line_id = ol.id
       JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       JOIN item i ON i.company_id = ol.company_id AND i.id = ol.item_id
      WHERE o.company_id = ? AND o.customer_id = ? AND o.state = 'confirmed' AND ol.shipped > ol.invoiced
        AND ${stands('shipment_line', 'sl')}
      ORDER BY s.posted_on, s.id, o.id, ol.line_no LIMIT 500`,
    [companyId, customerId],
  );
  return {
    rows: rows
      .map((row) => ({
        shipmentLineId: row.shipmentLineId,
        order: { kind: 'SO' as const, id: row.orderId, number: row.orderNumber },
        orderLineId: row.orderLineId,
        lineNo: row.lineNo,
        reference: row.reference,
        item: { id: row.itemId, number: row.number, name: row.name, unit: row.unit },
        shipment: { kind: 'SH' as const, id: row.shipmentId, number: row.shipmentNumber },
        shippedOn: row.shippedOn,
        open: dec(row.quantity)
          .minus(row.invoiced ?? 0)
          .toFixed(),
        unitPrice: row.unitPrice,
        currency: row.currency,
      }))
      .filter(({ open }) => dec(open).gt(0)),
  };
}
