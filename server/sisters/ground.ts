import type { LineTax, OfferKind } from '@core/sisters';
import { orNotFound } from '../acts';
import type { Sql } from '../db';
import { halfOf, loadOffer, offerNow, partyFor, sourceHead, sourceLines, type OfferHead } from './sources';
import { taxesOfInvoice } from './taxes';

/** An offer of that kind to a company, locked, as it stands. */
export async function loadOfKind(sql: Sql, companyId: number, id: number, kind: OfferKind) {
  const head = await loadOffer(sql, companyId, id);
  if (head.kind !== kind) orNotFound(undefined, 'This offer');
  return { head, offer: offerNow(head) };
}

/** All that an offer is taken on, the offer locked. */
export async function loadTake(sql: Sql, companyId: number, id: number, kind: OfferKind) {
  const { head, offer } = await loadOfKind(sql, companyId, id, kind);
  const [half, source, lines] = await Promise.all([
    halfOf(sql, companyId, head.fromId),
    sourceHead(sql, head),
    sourceLines(sql, companyId, { ...head, sourceIds: [head.sourceId] }),
  ]);
  const party = await partyFor(sql, companyId, head.kind, half);
  const invoices = head.kind === 'receipt' ? await invoicesWith(sql, companyId, head) : [];
  const taxes =
    head.kind === 'invoice' && !head.elsewhere
      ? await taxesOfInvoice(sql, companyId, head)
      : new Map<number, LineTax>();
  return { head, half, source, party, lines, invoices, offer, taxes, currency: source.currency };
}
export type Taken = Awaited<ReturnType<typeof loadTake>>;

/**
 * Invoices of a sister that wait and are for a shipment of hers: folded into its receipt; of several shipments, into the
 * last that is to be received. // X3
 */
export async function invoicesWith(
  sql: Sql,
  companyId: number,
  { fromId, sourceId, number, elsewhere }: Pick<OfferHead, 'fromId' | 'sourceId' | 'number' | 'elsewhere'>,
): Promise<{ id: number; number: string; revision: number }[]> {
  if (elsewhere) {
    return sql.rows(
      `SELECT DISTINCT f.id, f.number, f.revision FROM elsewhere_line l
         JOIN offer f ON f.from_id = l.company_id AND f.kind = 'invoice' AND f.source_id = l.document_id AND f.company_id = ?
          AND f.state IN ('open', 'aside')
        WHERE l.company_id = ? AND l.despatch = ?
          AND NOT EXISTS (SELECT 1 FROM elsewhere_line ol
            JOIN elsewhere_document d ON d.company_id = ol.company_id AND d.to_id = f.company_id AND d.kind = 'receipt' AND d.number = ol.despatch AND d.id <> ?
            JOIN offer r ON r.from_id = d.company_id AND r.kind = 'receipt' AND r.source_id = d.id AND r.state IN ('open', 'aside')
           WHERE ol.company_id = f.from_id AND ol.document_id = f.source_id)
        ORDER BY f.id`,
      [companyId, fromId, number, sourceId],
    );
  }
  return sql.rows(
    `SELECT DISTINCT f.id, f.number, f.revision FROM shipment_line s
       JOIN customer_invoice_line l ON l.company_id = s.company_id AND l.shipment_line_id = s.id
       JOIN offer f ON f.from_id = l.company_id AND f.kind = 'invoice' AND f.source_id = l.invoice_id AND f.company_id = ?
        AND f.state IN ('open', 'aside')
      WHERE s.company_id = ? AND s.shipment_id = ?
        AND NOT EXISTS (SELECT 1 FROM customer_invoice_line ol
          JOIN shipment_line os ON os.company_id = ol.company_id AND os.id = ol.shipment_line_id AND os.shipment_id <> s.shipment_id
          JOIN offer r ON r.from_id = os.company_id AND r.kind = 'receipt' AND r.source_id = os.shipment_id AND r.state IN ('open', 'aside')
         WHERE ol.company_id = f.from_id AND ol.invoice_id = f.source_id)
      ORDER BY f.id`,
    [companyId, fromId, sourceId],
  );
}
