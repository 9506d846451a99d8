import { itemAt, locationAt } from '@core/kernel';
import { NOTHING_KEPT, type MovedBefore, type Serial, type SerialGround } from '@core/serial';
import type { Columns, Sql } from '../db';
import { stockOf, stockRead, type StockNow } from '../on-hand';
import type { SerialEntry, SerialRow, SerialSeries } from './tables';

/** What is asked of numbers besides those that are where goods move. */
export interface AskedOfNumbers {
  /** Those that were typed. */
  typed?: readonly string[];
  /** The orders whose parts go into what comes of them. */
  workIds?: readonly number[];
  /** The order lines whose goods come back. */
  lineIds?: readonly number[];
  /** The documents that are taken back. */
  back?: readonly { kind: SerialEntry['documentKind']; id: number }[];
}

/**
 * The stock of points, locked, with the numbers of what of it is kept by number: one trip, and three more only where
 * something is. Whoever moves a piece holds the lock of the stock it is part of. // P6
 */
export async function loadStockAndNumbers(
  sql: Sql,
  companyId: number,
  points: readonly number[],
  asked: AskedOfNumbers = {},
): Promise<{ stock: Map<number, StockNow>; numbers: SerialGround }> {
  if (points.length === 0) return { stock: new Map(), numbers: NOTHING_KEPT };
  const wanted = [...new Set(points)];
  const [stock, kept] = await sql.batch([
    stockRead(sql, companyId, wanted),
    {
      sql: `SELECT s.item_id, i.number AS item, s.pattern, s.next_count AS next FROM serial_series s
              JOIN item i ON i.company_id = s.company_id AND i.id = s.item_id
             WHERE s.company_id = ? AND s.item_id IN (?) ORDER BY s.item_id ${sql.forUpdate}`,
      values: [companyId, [...new Set(wanted.map(itemAt))]],
      rows: true,
    },
  ]);
  const series = kept as (Columns<SerialSeries, 'itemId pattern'> & { item: string; next: number })[];
  return {
    stock: stockOf(stock as Parameters<typeof stockOf>[0]),
    numbers: series.length === 0 ? NOTHING_KEPT : await loadNumbers(sql, companyId, wanted, series, asked),
  };
}

const PIECE = `s.id, s.item_id, s.number, s.place, s.location_id, s.order_line_id AS line_id, s.planned_order_id AS work_id,
  p.product_id AS within_id`;
const FROM_PIECE = 'serial s LEFT JOIN serial_part p ON p.company_id = s.company_id AND p.part_id = s.id';

interface LineWords {
  id: number;
  reserved: string;
  words: string;
}

async function loadNumbers(
  sql: Sql,
  companyId: number,
  points: readonly number[],
  kept: SerialGround['kept'],
  { typed = [], workIds = [], lineIds = [], back = [] }: AskedOfNumbers,
): Promise<SerialGround> {
  const itemIds = kept.map(({ itemId }) => itemId);
  const here = points.filter((point) => itemIds.includes(itemAt(point)));
  const moved = await loadMoved(sql, companyId, back);
  const movedIds = moved.map(({ serialId }) => serialId);
  const found = await sql.batch([
    {
      sql: `SELECT ${PIECE} FROM ${FROM_PIECE} WHERE s.company_id = ? AND s.place = 'ours'
        AND (${here.map(() => 's.item_id = ? AND s.location_id = ?').join(' OR ')}) ${sql.forUpdate}`,
      values: [companyId, ...here.flatMap((point) => [itemAt(point), locationAt(point)])],
      rows: true,
    },
    ...[
      ['s.item_id IN (?) AND s.number IN (?)', [itemIds, typed.map((number) => number.trim())]],
      ["s.planned_order_id IN (?) AND s.place = 'used'", [workIds]],
      ['s.id IN (?)', [movedIds]],
      ['p.product_id IN (?)', [movedIds]],
      ["s.order_line_id IN (?) AND s.place = 'customer'", [lineIds]],
    ].map(([where, values]) => ({
      sql: `SELECT ${PIECE} FROM ${FROM_PIECE} WHERE s.company_id = ? AND ${where as string} ${sql.forUpdate}`,
      values: [companyId, ...(values as number[][])],
      rows: true,
    })),
  ]);
  const all = found.flat() as Serial[];
  const serials = [...new Map(all.map((serial) => [serial.id, serial])).values()].sort((a, b) => a.id - b.id);
  const named = serials.flatMap(({ lineId }) => (lineId === null ? [] : [lineId]));
  const [lines, places] = await sql.batch([
    {
      sql: `SELECT l.id, l.reserved, CONCAT(o.number, ' line ', l.line_no) AS words FROM sales_order_line l
         JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
        WHERE l.company_id = ? AND l.id IN (?)`,
      values: [companyId, [...new Set(named)]],
      rows: true,
    },
    // With where they are that are under way.
    { sql: 'SELECT id, name FROM location WHERE company_id = ?', values: [companyId], rows: true },
  ]);
  return {
    kept,
    serials,
    moved,
    lines: new Map((lines as LineWords[]).map(({ id, ...line }) => [id, line])),
    places: new Map((places as { id: number; name: string }[]).map(({ id, name }) => [id, name])),
  };
}

/** What documents moved, number by number. */
async function loadMoved(
  sql: Sql,
  companyId: number,
  back: NonNullable<AskedOfNumbers['back']>,
): Promise<MovedBefore[]> {
  if (back.length === 0) return [];
  const rows = await sql.rows<
    Columns<SerialEntry, 'serialId documentId locationId quantity'> &
      Columns<SerialRow, 'itemId'> & { kind: string; lineId: number | null }
  >(
    `SELECT e.serial_id, s.item_id, e.document_kind AS kind, e.document_id, e.location_id, e.quantity, e.order_line_id AS line_id
       FROM serial_entry e JOIN serial s ON s.company_id = e.company_id AND s.id = e.serial_id
      WHERE e.company_id = ? AND (${back.map(() => 'e.document_kind = ? AND e.document_id = ?').join(' OR ')}) ORDER BY e.id`,
    [companyId, ...back.flatMap(({ kind, id }) => [kind, id])],
  );
  return rows;
}
