import type * as z from 'zod';
import { dec, sum, type Day, type DocumentRef } from '@core/kernel';
import { looksSame, type OfferKind, type OfferState } from '@core/sisters';
import type * as contract from '@api/sisters';
import { orNotFound } from '../acts';
import { likeOf, PAGE_ROWS, TABLE_OF, type Sql } from '../db';
import { thingsOf } from './same-as';
import { halfOf, partyFor, sourceHead, sourceLines, TAKEN_KIND, type SourceLine } from './sources';
import { invoicesWith } from './ground';

type Row = z.infer<typeof contract.OfferRow>;

interface OfferRead {
  id: number;
  companyId: number;
  fromId: number;
  kind: OfferKind;
  state: OfferState;
  sourceId: number;
  number: string;
  revision: number;
  takenRevision: number;
  gone: boolean;
  takenGone: boolean;
  takenId: number | null;
  reason: string;
  untilDay: Day | null;
  code: string;
  name: string;
  currency: string;
  /** What is told is told by a file of hers. */
  elsewhere: boolean;
  /** The other end is a company elsewhere. */
  sisterElsewhere: boolean;
}

/** An invoice `f` whose goods wait to be received: it is told with their receipt. // X3 */
export const FOLDED = `(f.kind = 'invoice' AND (EXISTS (
              SELECT 1 FROM elsewhere_line l JOIN elsewhere_document d ON d.company_id = l.company_id AND d.to_id = f.company_id AND d.kind = 'receipt' AND d.number = l.despatch
                JOIN offer r ON r.from_id = d.company_id AND r.kind = 'receipt' AND r.source_id = d.id AND r.state IN ('open', 'aside')
               WHERE l.company_id = f.from_id AND l.document_id = f.source_id)
            OR EXISTS (
              SELECT 1 FROM customer_invoice_line l JOIN shipment_line s ON s.company_id = l.company_id AND s.id = l.shipment_line_id
                JOIN offer r ON r.from_id = s.company_id AND r.kind = 'receipt' AND r.source_id = s.shipment_id AND r.state IN ('open', 'aside')
               WHERE l.company_id = f.from_id AND l.invoice_id = f.source_id)))`;

const COLUMNS = `f.id, f.company_id, f.from_id, f.kind, f.state, f.source_id, f.number, f.revision, f.taken_revision, f.gone, f.taken_gone,
  f.taken_id, f.reason, f.until_day, c.code, c.name, c.currency, c.elsewhere AS sister_elsewhere, h.elsewhere`;

/**
 * What sisters sent that waits, what came back of ours, or what was done; newest first. Invoices whose goods wait to be
 * received are told with their receipt and not by themselves. Served by offer_waits and offer_from. O(page). // X2 X3
 */
export async function listTray(
  sql: Sql,
  companyId: number,
  query: z.output<typeof contract.listTray.query>,
): Promise<{ rows: Row[]; next: string | null }> {
  const most = query.rows ?? PAGE_ROWS;
  const where = {
    waiting: {
      key: 'offer_waits',
      who: 'c.id = f.from_id',
      sql: `f.company_id = ? AND f.waits = TRUE AND NOT ${FOLDED}`,
    },
    returned: { key: 'offer_from', who: 'c.id = f.company_id', sql: "f.from_id = ? AND f.state = 'returned'" },
    done: { key: 'offer_waits', who: 'c.id = f.from_id', sql: 'f.company_id = ? AND f.waits = FALSE' },
  }[query.show];
  const cursor = Number(query.cursor ?? 0);
  const words = query.q?.trim();
  const found = await sql.rows<OfferRead>(
    `SELECT ${COLUMNS} FROM offer f FORCE INDEX (${where.key}) JOIN company c ON ${where.who} JOIN company h ON h.id = f.from_id
      WHERE ${where.sql} ${cursor > 0 ? 'AND f.id < ?' : ''} ${words ? 'AND (f.number LIKE ? OR c.name LIKE ?)' : ''}
      ORDER BY f.id DESC LIMIT ?`,
    [companyId, ...(cursor > 0 ? [cursor] : []), ...(words ? [likeOf(words), likeOf(words)] : []), most + 1],
  );
  const shown = found.slice(0, most);
  // What we sent is told in our own words; what was sent to us in hers.
  const rows = await rowsOf(sql, companyId, shown);
  return { rows, next: found.length > most ? String(shown.at(-1)!.id) : null };
}

async function rowsOf(sql: Sql, companyId: number, offers: readonly OfferRead[]): Promise<Row[]> {
  const lines = new Map<number, SourceLine[]>();
  const groups = new Map<string, OfferRead[]>();
  for (const offer of offers) {
    const group = `${offer.fromId} ${offer.companyId} ${offer.kind}`;
    groups.set(group, [...(groups.get(group) ?? []), offer]);
  }
  for (const [first, ...others] of groups.values()) {
    const all = [first!, ...others];
    const read = await sourceLines(sql, first!.companyId, {
      ...first!,
      sourceIds: all.map(({ sourceId }) => sourceId),
    });
    for (const { id, sourceId } of all)
      lines.set(
        id,
        read.filter((line) => line.sourceId === sourceId),
      );
  }
  const rows: Row[] = [];
  for (const offer of offers) rows.push(await rowOf(sql, companyId, offer, lines.get(offer.id) ?? []));
  return rows;
}

async function rowOf(sql: Sql, companyId: number, offer: OfferRead, lines: readonly SourceLine[]): Promise<Row> {
  const head = await sourceHead(sql, offer);
  const [first] = lines;
  const days = lines.flatMap(({ day }) => day ?? []).sort();
  const ours = offer.companyId === companyId;
  return {
    id: offer.id,
    kind: offer.kind,
    state: offer.state,
    sister: {
      id: ours ? offer.fromId : offer.companyId,
      code: offer.code,
      name: offer.name,
      currency: offer.currency,
      elsewhere: offer.sisterElsewhere,
    },
    number: offer.number,
    revision: offer.revision,
    changed: (offer.state === 'taken' || offer.state === 'folded') && offer.revision !== offer.takenRevision,
    gone: offer.gone && !offer.takenGone,
    lines: lines.length,
    first: first ? `${dec(first.quantity).toFixed()} ${first.theirs.number}` : '',
    day: days[0] ?? head.day,
    forWhom: head.place?.label ?? (await forWhom(sql, offer, head.shipToId)),
    document: await takenOf(sql, offer),
    reason: offer.reason,
    untilDay: offer.untilDay,
    invoices:
      offer.kind === 'receipt' && ours ? (await invoicesWith(sql, companyId, offer)).map(({ number }) => number) : [],
    sameAs:
      ours && (offer.state === 'open' || offer.state === 'aside') ? await sameAs(sql, companyId, offer, lines) : null,
  };
}

/** Whom it goes to straight, where that is a customer of who buys. */
async function forWhom(sql: Sql, { kind, fromId }: OfferRead, shipToId: number | null): Promise<string> {
  if (shipToId === null || kind === 'invoice') return '';
  const [row] = await sql.rows<{ name: string }>(
    kind === 'order'
      ? 'SELECT c.name FROM ship_to s JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id WHERE s.company_id = ? AND s.id = ?'
      : `SELECT c.name FROM sister_address a JOIN ship_to s ON s.company_id = a.buyer_id AND s.id = a.buyer_ship_to_id
           JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id WHERE a.seller_id = ? AND a.ship_to_id = ?`,
    [fromId, shipToId],
  );
  return row?.name ?? '';
}

/** What an offer became, for who it was sent to. */
async function takenOf(sql: Sql, { companyId, kind, takenId }: OfferRead): Promise<DocumentRef | null> {
  if (takenId === null) return null;
  const taken = TAKEN_KIND[kind];
  const [row] = await sql.rows<{ number: string }>(
    `SELECT number FROM ${TABLE_OF[taken]} WHERE company_id = ? AND id = ?`,
    [companyId, takenId],
  );
  return row ? { kind: taken, id: takenId, number: row.number } : null;
}

/** Documents that crossed: how many of those we sent are looked through. */
const MOST_CROSSED = 50;

/** One of ours that tells of the same things, was offered to the sister by itself and waits there. // X3 */
async function sameAs(
  sql: Sql,
  companyId: number,
  { fromId, kind }: OfferRead,
  lines: readonly SourceLine[],
): Promise<DocumentRef | null> {
  if (kind !== 'order' && kind !== 'purchase') return null;
  const selling = kind === 'order';
  const sent = await sql.rows<{ sourceId: number; number: string }>(
    `SELECT source_id, number FROM offer FORCE INDEX (offer_from) WHERE from_id = ? AND state IN ('open', 'aside') AND company_id = ?
        AND kind = ? ORDER BY id DESC LIMIT ?`,
    [companyId, fromId, selling ? 'purchase' : 'order', MOST_CROSSED],
  );
  if (sent.length === 0) return null;
  const things = await thingsOf(
    sql,
    companyId,
    selling,
    sent.map(({ sourceId }) => sourceId),
  );
  const theirs = lines.map((line) => ({
    lineId: line.id,
    itemId: line.ours?.id ?? null,
    quantity: dec(line.quantity).times(line.factor).toFixed(),
  }));
  const found = sent.find(({ sourceId }) =>
    looksSame(
      theirs,
      things.filter(({ documentId }) => documentId === sourceId),
    ),
  );
  return found ? { kind: selling ? 'SO' : 'PO', id: found.sourceId, number: found.number } : null;
}

/** One offer with its lines, as it would be taken. */
export async function openOffer(sql: Sql, companyId: number, id: number): Promise<z.infer<typeof contract.OfferSheet>> {
  const [found] = await sql.rows<OfferRead>(
    `SELECT ${COLUMNS} FROM offer f JOIN company c ON c.id = f.from_id JOIN company h ON h.id = f.from_id WHERE f.id = ? AND f.company_id = ?`,
    [id, companyId],
  );
  const offer = orNotFound(found, 'This offer');
  const lines = await sourceLines(sql, companyId, { ...offer, sourceIds: [offer.sourceId] });
  const head = await sourceHead(sql, offer);
  const row = await rowOf(sql, companyId, offer, lines);
  const half = await halfOf(sql, companyId, offer.fromId);
  const party = await partyFor(sql, companyId, offer.kind, half);
  const now = await nowOf(sql, companyId, offer.kind, lines);
  return {
    ...row,
    currency: head.currency,
    party: party && { id: party.id, number: party.number, name: party.name },
    total: sum(lines.map(({ quantity, price }) => dec(quantity).times(price))).toFixed(2),
    address: head.place
      ? [head.place.label, head.place.street, head.place.town].filter((part) => part !== '').join(', ')
      : await addressOf(sql, offer, head.shipToId),
    items: lines.map((line) => ({
      id: line.id,
      lineNo: line.lineNo,
      theirs: line.theirs,
      ours: line.ours && { ...line.ours, name: line.oursName },
      factor: line.factor,
      quantity: dec(line.quantity).times(line.factor).toFixed(),
      theirQuantity: line.quantity,
      day: line.day,
      price: dec(dec(line.price).div(line.factor).toFixed(4)).toFixed(),
      now: (line.lineId !== null && now.get(line.lineId)) || null,
      numbers: line.numbers,
      route: line.route,
    })),
  };
}

async function addressOf(sql: Sql, { fromId, kind }: OfferRead, shipToId: number | null): Promise<string> {
  if (shipToId === null || (kind !== 'order' && kind !== 'purchase')) return '';
  const [row] = await sql.rows<{ line: string }>(
    "SELECT CONCAT(label, ', ', street, ', ', town) AS line FROM ship_to WHERE company_id = ? AND id = ?",
    [fromId, shipToId],
  );
  return row?.line ?? '';
}

/** What our joined lines say by now. */
async function nowOf(
  sql: Sql,
  companyId: number,
  kind: OfferKind,
  lines: readonly SourceLine[],
): Promise<Map<number, { quantity: string; day: Day }>> {
  if (kind !== 'order' && kind !== 'purchase') return new Map();
  const rows = await sql.rows<{ id: number; quantity: string; day: Day }>(
    kind === 'order'
      ? 'SELECT id, quantity - cancelled AS quantity, ship_date AS day FROM sales_order_line WHERE company_id = ? AND id IN (?)'
      : 'SELECT id, quantity, due_date AS day FROM purchase_order_line WHERE company_id = ? AND id IN (?)',
    [companyId, lines.flatMap(({ lineId }) => lineId ?? [])],
  );
  return new Map(rows.map(({ id, quantity, day }) => [id, { quantity, day }]));
}
