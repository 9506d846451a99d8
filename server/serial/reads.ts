import type * as z from 'zod';
import { type DocumentKind, type DocumentRef } from '@core/kernel';
import { numberBy, type SerialPlace } from '@core/serial';
import type * as contract from '@api/serial';
import { orNotFound } from '../acts';
import { likeOf, PAGE_ROWS, type Bound, type Columns, type Sql } from '../db';
import type { SerialEntry, SerialRow, SerialSeries } from './tables';

type Page = z.infer<typeof contract.listSerials.out>;
type Sheet = z.infer<typeof contract.openSerial.out>;
type Life = Sheet['life'][number];

/** The number of a document by its kind and id. */
const numberOf = (kind: string, id: string, company: string) => `CASE ${kind}
  WHEN 'RC' THEN (SELECT d.number FROM receipt d WHERE d.company_id = ${company} AND d.id = ${id})
  WHEN 'SH' THEN (SELECT d.number FROM shipment d WHERE d.company_id = ${company} AND d.id = ${id})
  WHEN 'WR' THEN (SELECT d.number FROM work_report d WHERE d.company_id = ${company} AND d.id = ${id})
  WHEN 'CT' THEN (SELECT d.number FROM count_sheet d WHERE d.company_id = ${company} AND d.id = ${id})
  WHEN 'CN' THEN (SELECT d.number FROM credit_note d WHERE d.company_id = ${company} AND d.id = ${id})
  ELSE (SELECT d.number FROM journal d WHERE d.company_id = ${company} AND d.id = ${id}) END`;

type PieceRow = Columns<SerialRow, 'id number place itemId bornKind bornId bornOn'> & {
  itemNumber: string;
  name: string;
  unit: string;
  location: string;
  lineId: number | null;
  lineNo: number | null;
  orderId: number | null;
  orderNumber: string | null;
  party: string | null;
  held: number;
  workId: number | null;
  workNumber: string | null;
  workKind: 'make' | 'assemble' | null;
  withinId: number | null;
  withinNumber: string | null;
  withinItem: string | null;
  born: string;
};

/** Whether a piece `s` of ours is one of the first that its line `l` holds: `heldSerials`, for one. */
const HELD = `l.reserved >= (SELECT COUNT(*) FROM serial x WHERE x.company_id = s.company_id AND x.order_line_id = s.order_line_id
         AND x.place = 'ours' AND x.location_id = s.location_id AND x.id <= s.id)`;

/** A piece with all that is told of it; held is one of the first its line holds. */
const PIECE = `SELECT STRAIGHT_JOIN s.id, s.number, s.place, s.item_id, i.number AS item_number, i.name, i.unit, lo.name AS location,
       l.id AS line_id, l.line_no, o.id AS order_id, o.number AS order_number, c.name AS party,
       s.place = 'ours' AND l.id IS NOT NULL AND ${HELD} AS held,
       w.id AS work_id, w.number AS work_number, w.kind AS work_kind,
       p.id AS within_id, p.number AS within_number, pi.number AS within_item, s.born_kind, s.born_id, s.born_on,
       ${numberOf('s.born_kind', 's.born_id', 's.company_id')} AS born`;
const JOINS = `JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = s.company_id AND i.id = s.item_id
  JOIN location lo FORCE INDEX (PRIMARY) ON lo.company_id = s.company_id AND lo.id = s.location_id
  LEFT JOIN sales_order_line l FORCE INDEX (PRIMARY) ON l.company_id = s.company_id AND l.id = s.order_line_id
  LEFT JOIN sales_order o FORCE INDEX (PRIMARY) ON o.company_id = l.company_id AND o.id = l.order_id
  LEFT JOIN customer c FORCE INDEX (PRIMARY) ON c.company_id = o.company_id AND c.id = o.customer_id
  LEFT JOIN planned_order w FORCE INDEX (PRIMARY) ON w.company_id = s.company_id AND w.id = s.planned_order_id
  LEFT JOIN serial_part sp FORCE INDEX (PRIMARY) ON sp.company_id = s.company_id AND sp.part_id = s.id
  LEFT JOIN serial p FORCE INDEX (PRIMARY) ON p.company_id = sp.company_id AND p.id = sp.product_id
  LEFT JOIN item pi FORCE INDEX (PRIMARY) ON pi.company_id = p.company_id AND pi.id = p.item_id`;

const refOf = (kind: string, id: number, number: string): DocumentRef => ({ kind: kind as DocumentKind, id, number });
const workRef = (row: { workId: number; workNumber: string; workKind: string }) =>
  refOf(row.workKind === 'make' ? 'PR' : 'AS', row.workId, row.workNumber);

const pieceOf = (row: PieceRow): Page['rows'][number] => ({
  id: row.id,
  number: row.number,
  place: row.place,
  item: { id: row.itemId, number: row.itemNumber, name: row.name, unit: row.unit },
  location: row.location,
  line:
    row.lineId === null
      ? null
      : {
          id: row.lineId,
          order: refOf('SO', row.orderId!, row.orderNumber!),
          lineNo: row.lineNo!,
          party: row.party!,
          held: Boolean(row.held),
        },
  work:
    row.workId === null ? null : workRef({ workId: row.workId, workNumber: row.workNumber!, workKind: row.workKind! }),
  within: row.withinId === null ? null : { id: row.withinId, number: row.withinNumber!, item: row.withinItem! },
  born: refOf(row.bornKind, row.bornId, row.born),
  bornOn: row.bornOn,
});

/** Pieces by their numbers; walks them from the cursor on, number and id of the last. O(page). */
export async function listSerials(
  sql: Sql,
  companyId: number,
  query: z.infer<typeof contract.listSerials.query>,
): Promise<Page> {
  const most = query.rows ?? PAGE_ROWS;
  const where: string[] = [];
  const values: Bound[] = [];
  const [, after = '', number = ''] = /^(\d{1,10})\|(.*)$/s.exec(query.cursor ?? '') ?? [];
  if (after !== '') {
    where.push('AND s.number >= ? AND (s.number > ? OR s.id > ?)');
    values.push(number, number, Number(after));
  }
  if (query.place) {
    where.push('AND s.place = ?');
    values.push(query.place);
  }
  if (query.item !== undefined) {
    where.push('AND s.item_id = ?');
    values.push(query.item);
  }
  if (query.q?.trim()) {
    const like = likeOf(query.q);
    where.push('AND (s.number LIKE ? OR i.number LIKE ? OR i.name LIKE ? OR o.number LIKE ? OR c.name LIKE ?)');
    values.push(like, like, like, like, like);
  }
  const key = query.item !== undefined ? 'serial_number' : query.place ? 'serial_state' : 'serial_by_number';
  const rows = await sql.rows<PieceRow>(
    `${PIECE} FROM serial s FORCE INDEX (${key}) ${JOINS}
      WHERE s.company_id = ? ${where.join(' ')} ORDER BY s.number, s.id LIMIT ?`,
    [companyId, ...values, most + 1],
  );
  const shown = rows.slice(0, most);
  const last = shown.at(-1);
  return { rows: shown.map(pieceOf), next: rows.length > most && last ? `${last.id}|${last.number}` : null };
}

/** How deep products are looked into. */
const DEEPEST = 20;

/** One piece with what it is part of, what is in it, and all that moved it. */
export async function openSerial(sql: Sql, companyId: number, id: number): Promise<Sheet> {
  const [row] = await sql.rows<PieceRow>(`${PIECE} FROM serial s ${JOINS} WHERE s.company_id = ? AND s.id = ?`, [
    companyId,
    id,
  ]);
  const piece = orNotFound(row, 'This serial number');
  const [above, below, products, life] = await Promise.all([
    walk(sql, companyId, id, 'up'),
    walk(sql, companyId, id, 'down'),
    productsOf(sql, companyId, piece),
    lifeOf(sql, companyId, id),
  ]);
  const partsOf = (of: number, depth: number): Sheet['parts'] =>
    below
      .filter((part) => part.of === of)
      .flatMap(({ id: part, number, item }) => [{ id: part, number, item, depth }, ...partsOf(part, depth + 1)]);
  return {
    ...pieceOf(piece),
    above: above.map(({ id: product, number, item, place, at }) => ({ id: product, number, item, place, at })),
    parts: partsOf(id, 1),
    products,
    life,
  };
}

interface WalkedRow {
  id: number;
  of: number;
  number: string;
  item: string;
  place: SerialPlace;
  /** The place of ours, or the customer it went out to. */
  at: string;
}

/** Pieces a piece is part of, the nearest first; or all that are in it. One query of as many steps as it goes deep. */
function walk(sql: Sql, companyId: number, id: number, way: 'up' | 'down'): Promise<WalkedRow[]> {
  const [next, from, key] =
    way === 'up' ? ['product_id', 'part_id', 'PRIMARY'] : ['part_id', 'product_id', 'serial_part_of'];
  return sql.rows(
    `WITH RECURSIVE walked (id, \`of\`, depth) AS (
       SELECT ${next}, ${from}, 1 FROM serial_part FORCE INDEX (${key}) WHERE company_id = ? AND ${from} = ?
       UNION ALL
       SELECT p.${next}, p.${from}, w.depth + 1 FROM walked w
         JOIN serial_part p FORCE INDEX (${key}) ON p.company_id = ? AND p.${from} = w.id WHERE w.depth < ${DEEPEST})
     SELECT STRAIGHT_JOIN w.id, w.\`of\`, s.number, i.number AS item, s.place, COALESCE(c.name, lo.name) AS at
       FROM walked w
       JOIN serial s FORCE INDEX (PRIMARY) ON s.company_id = ? AND s.id = w.id
       JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = s.company_id AND i.id = s.item_id
       JOIN location lo FORCE INDEX (PRIMARY) ON lo.company_id = s.company_id AND lo.id = s.location_id
       LEFT JOIN sales_order_line l FORCE INDEX (PRIMARY) ON l.company_id = s.company_id AND l.id = s.order_line_id AND s.place = 'customer'
       LEFT JOIN sales_order o FORCE INDEX (PRIMARY) ON o.company_id = l.company_id AND o.id = l.order_id
       LEFT JOIN customer c FORCE INDEX (PRIMARY) ON c.company_id = o.company_id AND c.id = o.customer_id
      ORDER BY w.depth, i.number, s.number`,
    [companyId, id, companyId, companyId],
  );
}

/** What came of the order a piece was used in. */
async function productsOf(sql: Sql, companyId: number, { place, workId }: PieceRow): Promise<Sheet['products']> {
  if (place !== 'used' || workId === null) return [];
  return (await madeBy(sql, companyId, workId)).map(({ id, number }) => ({ id, number }));
}

type OfItem = { itemId: number; id: number; number: string; place: SerialPlace };

/** Pieces that came of an order and were not taken back. */
function madeBy(sql: Sql, companyId: number, workId: number): Promise<OfItem[]> {
  return sql.rows(
    `SELECT STRAIGHT_JOIN s.item_id, s.id, s.number, s.place FROM work_report r FORCE INDEX (work_report_order)
       JOIN serial s FORCE INDEX (serial_born) ON s.company_id = r.company_id AND s.born_kind = 'WR' AND s.born_id = r.id
        AND s.place <> 'out'
      WHERE r.company_id = ? AND r.planned_order_id = ? ORDER BY s.number`,
    [companyId, workId],
  );
}

/** Pieces that an order used, and those that came of it. */
export async function serialsOfWork(sql: Sql, companyId: number, workId: number) {
  const used = await sql.rows<OfItem>(
    `SELECT s.item_id, s.id, s.number, s.place FROM serial s FORCE INDEX (serial_used)
      WHERE s.company_id = ? AND s.planned_order_id = ? AND s.place = 'used' ORDER BY s.number`,
    [companyId, workId],
  );
  return { used, made: await madeBy(sql, companyId, workId) };
}

/** Which of items are kept by number. */
export async function keptByNumber(sql: Sql, companyId: number, itemIds: readonly number[]): Promise<Set<number>> {
  const rows = await sql.rows<{ itemId: number }>(
    'SELECT item_id FROM serial_series WHERE company_id = ? AND item_id IN (?)',
    [companyId, itemIds],
  );
  return new Set(rows.map(({ itemId }) => itemId));
}

type LifeRow = Columns<SerialEntry, 'documentKind documentId postedOn quantity'> & {
  number: string;
  by: string | null;
  location: string;
  back: number;
  orderId: number | null;
  orderNumber: string | null;
  party: string | null;
};

/** What came of a document's move in one word. */
function whatOf({ documentKind, quantity, back }: LifeRow): Life['what'] {
  if (back) return 'taken-back';
  const came = quantity > 0;
  switch (documentKind) {
    case 'RC':
      return 'received';
    case 'SH':
      return 'shipped';
    case 'WR':
      return came ? 'made' : 'used';
    case 'CN':
      return 'returned';
    default:
      return came ? 'found' : 'missing';
  }
}

async function lifeOf(sql: Sql, companyId: number, id: number): Promise<Life[]> {
  const reversal = (table: string) =>
    `(SELECT d.reverses_id IS NOT NULL FROM ${table} d WHERE d.company_id = e.company_id AND d.id = e.document_id)`;
  const rows = await sql.rows<LifeRow>(
    `SELECT e.document_kind, e.document_id, e.posted_on, e.quantity, lo.name AS location,
            ${numberOf('e.document_kind', 'e.document_id', 'e.company_id')} AS number,
            CASE e.document_kind WHEN 'RC' THEN ${reversal('receipt')} WHEN 'SH' THEN ${reversal('shipment')}
              WHEN 'WR' THEN ${reversal('work_report')} WHEN 'CT' THEN ${reversal('count_sheet')}
              WHEN 'JR' THEN ${reversal('journal')} ELSE 0 END AS back,
            CASE e.document_kind WHEN 'WR' THEN (SELECT n.name FROM work_report d JOIN person n ON n.id = d.person_id
              WHERE d.company_id = e.company_id AND d.id = e.document_id) END AS \`by\`,
            o.id AS order_id, o.number AS order_number, c.name AS party
       FROM serial_entry e
       JOIN location lo ON lo.company_id = e.company_id AND lo.id = e.location_id
       LEFT JOIN sales_order_line l ON l.company_id = e.company_id AND l.id = e.order_line_id
       LEFT JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       LEFT JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE e.company_id = ? AND e.serial_id = ? ORDER BY e.id`,
    [companyId, id],
  );
  return rows.map((row, at) => {
    // What left one place and came to another with one journal was carried there.
    const same = (other: LifeRow | undefined) =>
      other?.documentKind === 'JR' && other.documentId === row.documentId && row.documentKind === 'JR';
    const carried = same(rows[at - 1]) || same(rows[at + 1]);
    return {
      document: refOf(row.documentKind, row.documentId, row.number),
      postedOn: row.postedOn,
      by: row.by ?? '',
      what: carried ? (row.quantity > 0 ? 'moved-in' : 'moved-out') : whatOf(row),
      location: row.location,
      order: row.orderId === null ? null : refOf('SO', row.orderId, row.orderNumber!),
      party: row.party ?? '',
    };
  });
}

/** The numbers of an item at a place, for sheets that ask which of them move. */
export async function serialsHere(
  sql: Sql,
  companyId: number,
  itemId: number,
  { location, line }: { location: number; line?: number | undefined },
  day: string,
): Promise<z.infer<typeof contract.serialsHere.out>> {
  const [series] = await sql.rows<Columns<SerialSeries, 'pattern nextCount'>>(
    'SELECT pattern, next_count FROM serial_series WHERE company_id = ? AND item_id = ?',
    [companyId, itemId],
  );
  if (!series) return { pattern: null, next: '', location, rows: [] };
  const rows = await sql.rows<PieceRow>(
    `${PIECE} FROM serial s FORCE INDEX (serial_here) ${JOINS}
      WHERE s.company_id = ? AND s.place = 'ours' AND s.item_id = ? AND s.location_id = ?
      ORDER BY s.order_line_id <=> ? DESC, s.id LIMIT 1000`,
    [companyId, itemId, location, line ?? null],
  );
  const { pattern, nextCount } = series;
  return {
    pattern,
    next: pattern === '' ? '' : numberBy(pattern, nextCount, day),
    location,
    rows: rows.map((row) => ({
      id: row.id,
      number: row.number,
      place: row.place,
      own: row.lineId !== null && row.lineId === line,
      held: row.held ? `${row.orderNumber!} line ${row.lineNo!}` : '',
    })),
  };
}

/** What is told of a piece where it is only named. */
export const named = ({ id, number, place }: z.infer<typeof contract.SerialRef>) => ({ id, number, place });

/** Pieces that documents moved, by document and item: what their pages and papers name. */
export async function serialsMovedBy(sql: Sql, companyId: number, kind: string, ids: readonly number[]) {
  return sql.rows<{
    documentId: number;
    itemId: number;
    lineId: number | null;
    id: number;
    number: string;
    place: SerialPlace;
  }>(
    `SELECT DISTINCT e.document_id, s.item_id, e.order_line_id AS line_id, s.id, s.number, s.place FROM serial_entry e
       JOIN serial s ON s.company_id = e.company_id AND s.id = e.serial_id
      WHERE e.company_id = ? AND e.document_kind = ? AND e.document_id IN (?) ORDER BY s.number`,
    [companyId, kind, ids],
  );
}

/** Pieces that are for lines of an order, or went out on them, by line. */
export async function serialsOfOrder(sql: Sql, companyId: number, orderId: number) {
  return sql.rows<{ lineId: number; id: number; number: string; place: SerialPlace }>(
    `SELECT STRAIGHT_JOIN l.id AS line_id, s.id, s.number, s.place FROM sales_order_line l FORCE INDEX (sales_order_line_no)
       JOIN serial s FORCE INDEX (serial_line) ON s.company_id = l.company_id AND s.order_line_id = l.id
        AND (s.place = 'customer' OR (s.place = 'ours' AND s.location_id = l.location_id AND ${HELD}))
      WHERE l.company_id = ? AND l.order_id = ? ORDER BY s.number`,
    [companyId, orderId],
  );
}
