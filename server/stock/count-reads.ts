import type * as z from 'zod';
import { dec } from '@core/kernel';
import type { CountedNumber } from '@core/serial';
import { costOfChange, type CountState } from '@core/stock';
import type * as contract from '@api/stock';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import { likeOf, pageById, type Bound, type Columns, type Sql } from '../db';
import type { CountLine, CountSheet } from './tables';

type Sheet = z.infer<typeof contract.openCount.out>;

type HeadRow = Columns<CountSheet, 'id number blind postedOn createdAt locationId version reason reversesId'> & {
  state: CountState;
  location: string;
  groupName: string | null;
  by: string;
  lines: number;
  counted: number;
  cost: string | null;
  reverses: string | null;
  reversedById: number | null;
  reversedBy: string | null;
};

const HEAD = `SELECT s.id, s.number, s.version, s.state, s.location_id, s.blind, s.posted_on, s.created_at, s.reason, s.reverses_id,
       lo.name AS location, g.name AS group_name, (SELECT n.name FROM person n WHERE n.id = s.made_by) AS \`by\`,
       (SELECT COUNT(*) FROM count_line l WHERE l.company_id = s.company_id AND l.count_sheet_id = s.id) AS \`lines\`,
       (SELECT COUNT(*) FROM count_line l WHERE l.company_id = s.company_id AND l.count_sheet_id = s.id AND l.counted IS NOT NULL) AS counted,
       (SELECT SUM(l.cost) FROM count_line l WHERE l.company_id = s.company_id AND l.count_sheet_id = s.id) AS cost,
       x.number AS reverses, b.id AS reversed_by_id, b.number AS reversed_by
  FROM count_sheet s
  JOIN location lo ON lo.company_id = s.company_id AND lo.id = s.location_id
  LEFT JOIN item_group g ON g.company_id = s.company_id AND g.id = s.item_group_id
  LEFT JOIN count_sheet x ON x.company_id = s.company_id AND x.id = s.reverses_id
  LEFT JOIN count_sheet b ON b.company_id = s.company_id AND b.reverses_id = s.id`;

const rowOf = (row: HeadRow) => ({
  document: { kind: 'CT' as const, id: row.id, number: row.number },
  state: row.state,
  location: row.location,
  group: row.groupName ?? '',
  blind: row.blind,
  by: row.by,
  begunOn: row.createdAt.slice(0, 10),
  postedOn: row.postedOn,
  lines: row.lines,
  counted: row.counted,
  cost: row.cost ?? '0',
});

/** Counts, newest first. */
export async function listCounts(
  sql: Sql,
  companyId: number,
  query: z.infer<typeof contract.listCounts.query>,
): Promise<z.infer<typeof contract.listCounts.out>> {
  const where: string[] = [];
  const values: Bound[] = [];
  if (query.state) {
    where.push('AND s.state = ?');
    values.push(query.state);
  }
  if (query.q?.trim()) {
    where.push('AND (s.number LIKE ? OR lo.name LIKE ? OR g.name LIKE ?)');
    values.push(likeOf(query.q), likeOf(query.q), likeOf(query.q));
  }
  const [company] = await sql.rows<{ currency: string }>('SELECT currency FROM company WHERE id = ?', [companyId]);
  const found = await pageById(
    (before, most) =>
      sql.rows<HeadRow>(`${HEAD} WHERE s.company_id = ? AND s.id < ? ${where.join(' ')} ORDER BY s.id DESC LIMIT ?`, [
        companyId,
        before,
        ...values,
        most,
      ]),
    query,
    rowOf,
  );
  return { ...found, currency: company!.currency };
}

/** The numbers that lines were told, and those that are at their place now. */
async function numbersOf(
  sql: Sql,
  companyId: number,
  locationId: number,
  lines: readonly { id: number; itemId: number }[],
): Promise<[(CountedNumber & { lineId: number })[], { itemId: number; number: string }[]]> {
  if (lines.length === 0) return [[], []];
  const [lineIds, itemIds] = [lines.map(({ id }) => id), lines.map(({ itemId }) => itemId)];
  return Promise.all([
    sql.rows<CountedNumber & { lineId: number }>(
      `SELECT n.count_line_id AS line_id, n.number, n.says FROM count_number n
        WHERE n.company_id = ? AND n.count_line_id IN (?) ORDER BY n.count_line_id, n.number`,
      [companyId, lineIds],
    ),
    sql.rows<{ itemId: number; number: string }>(
      `SELECT s.item_id, s.number FROM serial s FORCE INDEX (serial_here)
        WHERE s.company_id = ? AND s.place = 'ours' AND s.item_id IN (?) AND s.location_id = ? ORDER BY s.number`,
      [companyId, itemIds, locationId],
    ),
  ]);
}

/** One count with its lines: while it is open, against what is there now. */
export async function openCount(sql: Sql, companyId: number, id: number): Promise<Sheet> {
  const [row] = await sql.rows<HeadRow>(`${HEAD} WHERE s.company_id = ? AND s.id = ?`, [companyId, id]);
  const head = orNotFound(row, 'This count');
  const [company] = await sql.rows<{ currency: string }>(`SELECT ${ownCurrency('?')} AS currency`, [companyId]);
  const lines = await sql.rows<
    Columns<CountLine, 'id lineNo itemId was counted unitCost difference cost'> & {
      number: string;
      name: string;
      unit: string;
      onHand: string;
      value: string;
      countedBy: string | null;
      byNumber: number;
    }
  >(
    `SELECT l.id, l.line_no, l.item_id, i.number, i.name, i.unit, l.was, l.counted, l.unit_cost, l.difference, l.cost,
            EXISTS (SELECT 1 FROM serial_series n WHERE n.company_id = l.company_id AND n.item_id = l.item_id) AS by_number,
            COALESCE(s.on_hand, 0) AS on_hand, COALESCE(s.value, 0) AS value,
            (SELECT n.name FROM person n WHERE n.id = l.counted_by) AS counted_by
       FROM count_line l
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN stock s ON s.company_id = l.company_id AND s.item_id = l.item_id AND s.location_id = ?
      WHERE l.company_id = ? AND l.count_sheet_id = ? ORDER BY l.line_no`,
    [head.locationId, companyId, id],
  );
  const numbered = lines.filter(({ byNumber }) => byNumber);
  const [told, here] = await numbersOf(sql, companyId, head.locationId, numbered);
  const open = head.state === 'open';
  const hidden = open && head.blind;
  return {
    ...rowOf(head),
    version: head.version,
    locationId: head.locationId,
    currency: company!.currency,
    reason: head.reason,
    reverses: head.reversesId === null ? null : { kind: 'CT', id: head.reversesId, number: head.reverses! },
    reversedBy: head.reversedById === null ? null : { kind: 'CT', id: head.reversedById, number: head.reversedBy! },
    rows: lines.map((line) => {
      const change = line.counted === null ? null : dec(line.counted).minus(line.was!);
      const would = change && costOfChange(line, change, line.unitCost ?? '', company!.currency);
      const difference = open ? (change?.toFixed() ?? '') : line.difference;
      return {
        id: line.id,
        lineNo: line.lineNo,
        item: { id: line.itemId, number: line.number, name: line.name, unit: line.unit },
        known: hidden ? '' : (line.was ?? (open ? line.onHand : '')),
        counted: line.counted,
        countedBy: line.countedBy ?? '',
        unitCost: line.unitCost ?? '',
        difference: hidden ? '' : difference,
        cost: hidden ? '' : open ? (would?.toFixed() ?? '0') : line.cost,
        byNumber: Boolean(line.byNumber),
        // Whoever counts blind is not told what is missing, nor what should be there.
        numbers: told
          .filter(({ lineId, says }) => lineId === line.id && !(hidden && says === 'missing'))
          .map(({ number, says }) => ({ number, says: hidden ? ('here' as const) : says })),
        expected:
          hidden || !open ? [] : here.filter(({ itemId }) => itemId === line.itemId).map(({ number }) => number),
        needsCost: change !== null && change.gt(0) && would === null,
      };
    }),
  };
}
