import { dec, type Day, type DocumentKind } from '@core/kernel';
import { ublExchange, type ExchangedDocument, type ExchangedLine } from '@core/formats';
import type { OfferKind } from '@core/sisters';
import { orNotFound } from '../../acts';
import type { Sql } from '../../db';
import { ublXml } from '../../formats';
import { SOURCE_KIND, sourceHead, sourceLines } from '../sources';

/** What goes to a company elsewhere: an offer of ours to her, or one of hers that goes back. */
export interface Due {
  id: number;
  kind: OfferKind;
  sourceId: number;
  number: string;
  revision: number;
  gone: boolean;
  returned: number;
  reason: string;
  sisterId: number;
  code: string;
  name: string;
  currency: string;
  email: string;
  sentOn: Day | null;
}

/** An offer to a company elsewhere, or one of hers that was returned, as a file. */
export async function exchangeFile(
  sql: Sql,
  companyId: number,
  offerId: number,
): Promise<{ name: string; content: Buffer; kind: DocumentKind }> {
  const [row] = await sql.rows<Due>(
    `SELECT f.id, f.kind, f.source_id, f.number, f.revision, f.gone, f.company_id = ? AS returned, f.reason,
            c.id AS sister_id, c.code, c.name, c.currency, c.email, NULL AS sent_on
       FROM offer f JOIN company c ON c.id = IF(f.company_id = ?, f.from_id, f.company_id) AND c.elsewhere = TRUE
      WHERE f.id = ? AND (f.from_id = ? OR (f.company_id = ? AND f.state = 'returned'))`,
    [companyId, companyId, offerId, companyId, companyId],
  );
  const due = orNotFound(row, 'This document');
  const document = await documentOf(sql, companyId, due);
  return { name: fileName(due), content: ublXml(ublExchange(document)), kind: SOURCE_KIND[due.kind] };
}

/** Another name for each revision, so that none is taken for the one before. */
export const fileName = ({ number, revision, gone, returned }: Due) =>
  `${number.replace(/[^\w.-]+/g, '-')}${returned ? '-returned' : ''}${revision > 0 ? `-${revision}` : ''}${gone ? '-cancelled' : ''}.xml`;

async function documentOf(sql: Sql, companyId: number, due: Due): Promise<ExchangedDocument> {
  const [own] = await sql.rows<{ code: string; name: string; workDate: Day | null }>(
    'SELECT code, name, work_date FROM company WHERE id = ?',
    [companyId],
  );
  const { kind, number, revision, reason } = due;
  const told = {
    number,
    revision,
    from: { code: own!.code, name: own!.name },
    to: { code: due.code, name: due.name },
    net: '',
    total: '',
    place: null,
    lines: [],
  };
  const today = own!.workDate ?? new Date().toISOString().slice(0, 10);
  if (due.returned) {
    return { ...told, kind: 'answer', about: kind, gone: false, day: today, currency: '', reason };
  }
  const source = { fromId: companyId, kind, sourceId: due.sourceId, elsewhere: false };
  const head = await sourceHead(sql, source);
  const document = { ...told, kind, gone: due.gone, about: null, day: head.day ?? today, reason: '' };
  const gone = due.gone && kind === 'order';
  const money = kind === 'invoice' ? await invoiceTotals(sql, companyId, due.sourceId) : { net: '', total: '' };
  return {
    ...document,
    ...money,
    currency: kind === 'receipt' || gone ? '' : head.currency,
    place: kind === 'order' && !gone && head.shipToId !== null ? await placeOf(sql, companyId, head.shipToId) : null,
    lines: gone ? [] : await linesOf(sql, companyId, due),
  };
}

async function invoiceTotals(sql: Sql, companyId: number, id: number): Promise<{ net: string; total: string }> {
  const [row] = await sql.rows<{ net: string; total: string }>(
    'SELECT net, total FROM customer_invoice WHERE company_id = ? AND id = ?',
    [companyId, id],
  );
  return row!;
}

async function placeOf(sql: Sql, companyId: number, shipToId: number): Promise<ExchangedDocument['place']> {
  const [row] = await sql.rows<{
    customer: string;
    label: string;
    street: string;
    postcode: string;
    town: string;
    country: string;
  }>(
    `SELECT c.name AS customer, s.label, s.street, s.postcode, s.town, s.country FROM ship_to s
       JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id WHERE s.company_id = ? AND s.id = ?`,
    [companyId, shipToId],
  );
  const { customer, label, ...address } = row!;
  return { label: `${customer}, ${label}`.slice(0, 60), ...address };
}

async function linesOf(sql: Sql, companyId: number, { kind, sourceId, sisterId }: Due): Promise<ExchangedLine[]> {
  // As she would read them: her items are what ours are paired with.
  const lines = await sourceLines(sql, sisterId, { fromId: companyId, kind, sourceIds: [sourceId], elsewhere: false });
  const references = await referencesOf(
    sql,
    companyId,
    sisterId,
    kind,
    lines.map(({ id }) => id),
  );
  const despatches = kind === 'invoice' ? await despatchesOf(sql, companyId, sourceId) : [];
  return lines
    .filter(({ quantity }) => dec(quantity).gt(0))
    .map((line, at) => {
      const reference = references.find(({ id }) => id === line.id);
      return {
        // Lines of several orders may bear one number: those of goods and invoices are counted.
        number: kind === 'receipt' || kind === 'invoice' ? at + 1 : line.lineNo,
        item: line.theirs.number,
        theirItem: line.ours?.number ?? '',
        name: line.theirs.name,
        quantity: dec(line.quantity).toFixed(),
        unit: line.theirs.unit,
        price: kind === 'receipt' ? '' : dec(line.price).round(4).toFixed(),
        day: line.day,
        ordered: kind === 'order' ? null : (reference?.hers ?? null),
        sold: kind === 'order' ? (reference?.hers ?? null) : kind === 'purchase' ? null : (reference?.ours ?? null),
        despatch: despatches.find(({ id }) => id === line.id)?.number ?? '',
        numbers: line.numbers,
      };
    });
}

/** Of lines of ours: the document they are on, and the line of hers that is the same thing, where she told of one. */
async function referencesOf(
  sql: Sql,
  companyId: number,
  sisterId: number,
  kind: OfferKind,
  lineIds: readonly number[],
) {
  const [table, head, column, theirs] =
    kind === 'order'
      ? ['purchase_order_line', 'purchase_order', 'purchase_order_id', 'purchase']
      : ['sales_order_line', 'sales_order', 'order_id', 'order'];
  const rows = await sql.rows<{
    id: number;
    ours: string;
    ourLine: number;
    hers: string | null;
    herLine: number | null;
  }>(
    `SELECT l.id, o.number AS ours, l.line_no AS our_line, d.number AS hers, e.line_no AS her_line
       FROM ${table} l JOIN ${head} o ON o.company_id = l.company_id AND o.id = l.${column}
       LEFT JOIN (elsewhere_line e JOIN elsewhere_document d ON d.company_id = e.company_id AND d.id = e.document_id AND d.kind = '${theirs}')
         ON e.line_id = l.id AND e.company_id = ? AND d.to_id = l.company_id
      WHERE l.company_id = ? AND l.id IN (?)`,
    [sisterId, companyId, lineIds],
  );
  return rows.map(({ id, ours, ourLine, hers, herLine }) => ({
    id,
    ours: { number: ours, line: ourLine },
    hers: hers === null ? null : { number: hers, line: herLine! },
  }));
}

/** The delivery note that each line of an invoice went out with. */
function despatchesOf(sql: Sql, companyId: number, invoiceId: number) {
  return sql.rows<{ id: number; number: string }>(
    `SELECT l.order_line_id AS id, MAX(h.number) AS number FROM customer_invoice_line l
       JOIN shipment_line s ON s.company_id = l.company_id AND s.id = l.shipment_line_id
       JOIN shipment h ON h.company_id = s.company_id AND h.id = s.shipment_id
      WHERE l.company_id = ? AND l.invoice_id = ? GROUP BY l.order_line_id`,
    [companyId, invoiceId],
  );
}
