import { dec, type Day, type DocumentKind } from '@core/kernel';
import type { OfferKind, OfferLine, OfferNow } from '@core/sisters';
import { orNotFound } from '../acts';
import { pairOf } from '../catalogue';
import type { Sql } from '../db';
import { serialsMovedBy } from '../serial';
import type { Offer, Sister } from './tables';

/** What a source is called in its company, and what an offer becomes here. */
export const SOURCE_KIND: Readonly<Record<OfferKind, DocumentKind>> = {
  order: 'PO',
  purchase: 'SO',
  receipt: 'SH',
  invoice: 'CI',
};
export const TAKEN_KIND: Readonly<Record<OfferKind, DocumentKind>> = {
  order: 'SO',
  purchase: 'PO',
  receipt: 'RC',
  invoice: 'VI',
};

/** A company of the group. */
export interface SisterCompany {
  id: number;
  code: string;
  name: string;
  currency: string;
  /** Of another installation: what she sends is in files. */
  elsewhere: boolean;
}

export async function sisterCompany(sql: Sql, id: number): Promise<SisterCompany> {
  const [row] = await sql.rows<SisterCompany>('SELECT id, code, name, currency, elsewhere FROM company WHERE id = ?', [
    id,
  ]);
  return orNotFound(row, 'This company');
}

type Half = Pick<
  Sister,
  'customerId' | 'vendorId' | 'transfer' | 'perCent' | 'takesFitting' | 'transitDays' | 'holdDays'
>;

/** Our half of a pair; what nobody said yet is empty. */
export async function halfOf(sql: Sql, companyId: number, sisterId: number): Promise<Half> {
  const [row] = await sql.rows<Half>(
    'SELECT customer_id, vendor_id, transfer, per_cent, takes_fitting, transit_days, hold_days FROM sister WHERE company_id = ? AND sister_id = ?',
    [companyId, sisterId],
  );
  return (
    row ?? {
      customerId: null,
      vendorId: null,
      transfer: 'ordinary',
      perCent: '0',
      takesFitting: false,
      transitDays: 0,
      holdDays: 5,
    }
  );
}

export type OfferHead = Pick<
  Offer,
  | 'id'
  | 'companyId'
  | 'fromId'
  | 'kind'
  | 'sourceId'
  | 'number'
  | 'revision'
  | 'gone'
  | 'state'
  | 'takenRevision'
  | 'takenGone'
  | 'takenId'
> & { sister: string; elsewhere: boolean };

/** An offer to a company, locked. */
export async function loadOffer(sql: Sql, companyId: number, id: number): Promise<OfferHead> {
  const [row] = await sql.rows<OfferHead>(
    `SELECT f.id, f.company_id, f.from_id, f.kind, f.source_id, f.number, f.revision, f.gone, f.state, f.taken_revision,
            f.taken_gone, f.taken_id, c.name AS sister, c.elsewhere
       FROM offer f JOIN company c ON c.id = f.from_id WHERE f.id = ? AND f.company_id = ? ${sql.forUpdate}`,
    [id, companyId],
  );
  return orNotFound(row, 'This offer');
}

export const offerNow = (head: OfferHead): OfferNow => ({
  kind: head.kind,
  state: head.state,
  number: head.number,
  sister: head.sister,
  revision: head.revision,
  takenRevision: head.takenRevision,
  gone: head.gone,
  takenGone: head.takenGone,
});

interface LineRow {
  sourceId: number;
  id: number;
  lineNo: number;
  itemId: number;
  number: string;
  name: string;
  unit: string;
  oursId: number | null;
  oursNumber: string | null;
  oursName: string | null;
  oursUnit: string | null;
  oursRoute: string | null;
  lineId: number | null;
  factor: string;
  quantity: string;
  day: Day | null;
  price: string;
  /** The numbers of pieces that a file told, a line each; null of a sister here, whose pieces are known. */
  told: string | null;
}

/** A line of a sister's document, with the numbers of its pieces. */
export interface SourceLine extends OfferLine {
  sourceId: number;
  theirs: OfferLine['theirs'];
  oursName: string;
  route: string;
  numbers: string[];
}

/** What is read of lines of each kind of source: `l` is the line, `i` its item. */
const LINES: Readonly<Record<OfferKind | 'elsewhere', { select: string; from: string; link: string; group: string }>> =
  {
    order: {
      select: 'l.purchase_order_id AS source_id, l.quantity, l.due_date AS day, l.unit_price AS price',
      from: 'purchase_order_line l',
      link: `(SELECT MIN(x.sales_line_id) FROM sister_line x WHERE x.buyer_id = l.company_id AND x.purchase_line_id = l.id AND x.seller_id = ?)`,
      group: 'l.company_id = ? AND l.purchase_order_id IN (?)',
    },
    purchase: {
      select:
        'l.order_id AS source_id, l.quantity - l.cancelled AS quantity, l.ship_date AS day, l.unit_price AS price',
      from: 'sales_order_line l',
      link: `(SELECT MIN(x.purchase_line_id) FROM sister_line x WHERE x.seller_id = l.company_id AND x.sales_line_id = l.id AND x.buyer_id = ?)`,
      group: 'l.company_id = ? AND l.order_id IN (?)',
    },
    receipt: {
      select: 'd.shipment_id AS source_id, SUM(d.quantity) AS quantity, NULL AS day, l.unit_price AS price',
      from: 'shipment_line d JOIN sales_order_line l ON l.company_id = d.company_id AND l.id = d.order_line_id',
      link: `(SELECT MIN(x.purchase_line_id) FROM sister_line x WHERE x.seller_id = l.company_id AND x.sales_line_id = l.id AND x.buyer_id = ?)`,
      group: 'd.company_id = ? AND d.shipment_id IN (?) GROUP BY d.shipment_id, l.id',
    },
    invoice: {
      select:
        'd.invoice_id AS source_id, SUM(d.quantity) AS quantity, NULL AS day, SUM(d.net) / SUM(d.quantity) AS price',
      from: 'customer_invoice_line d JOIN sales_order_line l ON l.company_id = d.company_id AND l.id = d.order_line_id',
      link: `(SELECT MIN(x.purchase_line_id) FROM sister_line x WHERE x.seller_id = l.company_id AND x.sales_line_id = l.id AND x.buyer_id = ?)`,
      group: 'd.company_id = ? AND d.invoice_id IN (?) GROUP BY d.invoice_id, l.id',
    },
    // As her file told them.
    elsewhere: {
      select: 'l.document_id AS source_id, l.quantity, l.day, l.price',
      from: 'elsewhere_line l',
      link: 'l.line_id',
      group: 'l.company_id = ? AND l.document_id IN (?)',
    },
  };

/** The lines of documents of a sister, with what each is here. // X1 */
export async function sourceLines(
  sql: Sql,
  companyId: number,
  {
    fromId,
    kind,
    sourceIds,
    elsewhere,
  }: { fromId: number; kind: OfferKind; sourceIds: readonly number[]; elsewhere: boolean },
): Promise<SourceLine[]> {
  if (sourceIds.length === 0) return [];
  const { select, from, link, group } = LINES[elsewhere ? 'elsewhere' : kind];
  const pair = pairOf(companyId, fromId);
  const rows = await sql.rows<LineRow>(
    `SELECT STRAIGHT_JOIN ${select}, ${elsewhere ? 'l.numbers' : 'NULL'} AS told, l.id, l.line_no, i.id AS item_id, i.number, i.name, i.unit, o.id AS ours_id, o.number AS ours_number,
            o.name AS ours_name, o.unit AS ours_unit, o.route AS ours_route, ${pair.factor} AS factor, ${link} AS line_id
       FROM ${from}
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id ${pair.join}
      WHERE ${group} ORDER BY source_id, l.line_no`,
    [...(elsewhere ? [] : [companyId]), ...pair.values, fromId, sourceIds],
  );
  const pieces = kind === 'receipt' && !elsewhere ? await serialsMovedBy(sql, fromId, 'SH', sourceIds) : [];
  return rows
    .filter(({ quantity, lineId }) => dec(quantity).gt(0) || lineId !== null)
    .map((row) => ({
      sourceId: row.sourceId,
      id: row.id,
      lineNo: row.lineNo,
      theirs: { id: row.itemId, number: row.number, name: row.name, unit: row.unit },
      ours: row.oursId === null ? null : { id: row.oursId, number: row.oursNumber!, unit: row.oursUnit! },
      oursName: row.oursName ?? '',
      route: row.oursRoute ?? '',
      lineId: row.lineId,
      factor: row.factor,
      quantity: row.quantity,
      day: row.day,
      price: row.price,
      numbers:
        row.told?.split('\n').filter((number) => number !== '') ??
        pieces
          .filter(({ documentId, lineId }) => documentId === row.sourceId && lineId === row.id)
          .map(({ number }) => number),
    }));
}

/** What of a source's head an offer is decided on. */
export interface SourceHead {
  currency: string;
  day: Day | null;
  /** Where it goes, in the sister's own addresses; null for her own place. */
  shipToId: number | null;
  /** The same, where a file told it; null for her own place. */
  place: Place | null;
}

export interface Place {
  label: string;
  street: string;
  postcode: string;
  town: string;
  country: string;
}

const HEADS: Readonly<Record<OfferKind, string>> = {
  order: 'SELECT currency, order_date AS day, ship_to_id FROM purchase_order WHERE company_id = ? AND id = ?',
  purchase: 'SELECT currency, order_date AS day, ship_to_id FROM sales_order WHERE company_id = ? AND id = ?',
  receipt:
    'SELECT (SELECT c.currency FROM customer c WHERE c.company_id = s.company_id AND c.id = s.customer_id) AS currency, posted_on AS day, ship_to_id FROM shipment s WHERE company_id = ? AND id = ?',
  invoice:
    'SELECT currency, invoice_date AS day, NULL AS ship_to_id FROM customer_invoice WHERE company_id = ? AND id = ?',
};

export async function sourceHead(
  sql: Sql,
  { fromId, kind, sourceId, elsewhere }: Pick<OfferHead, 'fromId' | 'kind' | 'sourceId' | 'elsewhere'>,
): Promise<SourceHead> {
  if (elsewhere) {
    const [told] = await sql.rows<Place & { currency: string; day: Day }>(
      'SELECT currency, day, label, street, postcode, town, country FROM elsewhere_document WHERE company_id = ? AND id = ?',
      [fromId, sourceId],
    );
    const { currency, day, ...place } = orNotFound(told, 'This document');
    return { currency, day, shipToId: null, place: place.label || place.street ? place : null };
  }
  const [row] = await sql.rows<Omit<SourceHead, 'place'>>(HEADS[kind], [fromId, sourceId]);
  return { ...orNotFound(row, 'This document'), place: null };
}

/** Who the sister is to us for an offer of that kind: a customer who orders, a vendor for all else. */
export async function partyFor(
  sql: Sql,
  companyId: number,
  kind: OfferKind,
  { customerId, vendorId }: Pick<Sister, 'customerId' | 'vendorId'>,
): Promise<{ id: number; number: string; name: string; currency: string } | null> {
  const [table, id] = kind === 'order' ? ['customer', customerId] : ['vendor', vendorId];
  if (id === null) return null;
  const [row] = await sql.rows<{ id: number; number: string; name: string; currency: string }>(
    `SELECT id, number, name, currency FROM ${table} WHERE company_id = ? AND id = ?`,
    [companyId, id],
  );
  return row ?? null;
}
