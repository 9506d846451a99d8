import type * as z from 'zod';
import type { Day } from '@core/kernel';
import { rankOfFit, unfit, untiedOf, whyOfFit, type ServedLine, type TiedWork } from '@core/workshop';
import type * as contract from '@api/workshop';
import { orNotFound } from '../acts';
import type { Sql } from '../db';
import { WORK_KIND } from './report';
import { servedLines, tiedWorks, WANTED } from './ties';

type Fits = z.infer<typeof contract.workForLine.out>['fits'];

/** Orders and lines that are looked at from either end. */
const MOST_FITS = 100;

/** What of orders and lines fits together, best first. // L5 */
function fitting(works: readonly TiedWork[], lines: readonly ServedLine[], parties: ReadonlyMap<number, string>): Fits {
  const pairs = works.flatMap((work) => lines.map((line) => ({ work, line })));
  return pairs
    .filter(({ work, line }) => unfit(work, line) === null && untiedOf(work).gt(0) && Number(line.wanted) > 0)
    .map((pair) => ({ pair, rank: rankOfFit(pair) }))
    .sort((a, b) => compare(a.rank, b.rank))
    .map(({ pair: { work, line } }) => ({
      plannedId: work.id,
      work: { kind: WORK_KIND[work.kind], id: work.id, number: work.number },
      state: work.state,
      due: work.dueDate,
      untied: untiedOf(work).toFixed(),
      orderLineId: line.orderLineId,
      order: { kind: 'SO' as const, id: line.order.id, number: line.order.number },
      party: parties.get(line.orderLineId) ?? '',
      lineNo: line.lineNo,
      shipDate: line.shipDate,
      wanted: line.wanted,
      why: whyOfFit(work, line),
    }));
}

function compare(a: readonly (string | number)[], b: readonly (string | number)[]): number {
  for (const [at, one] of a.entries()) {
    const other = b[at]!;
    if (one < other) return -1;
    if (one > other) return 1;
  }
  return 0;
}

async function partiesOf(sql: Sql, companyId: number, lineIds: readonly number[]) {
  const rows = await sql.rows<{ id: number; name: string }>(
    `SELECT l.id, c.name FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE l.company_id = ? AND l.id IN (?)`,
    [companyId, lineIds],
  );
  return new Map(rows.map((row) => [row.id, row.name]));
}

async function itemAtWork(sql: Sql, companyId: number, itemId: number) {
  const [item] = await sql.rows<{ id: number; number: string; name: string; unit: string }>(
    'SELECT id, number, name, unit FROM item WHERE company_id = ? AND id = ?',
    [companyId, itemId],
  );
  return item!;
}

/** What is made for an order line, and what could be. // L5 W4 */
export async function workForLine(
  sql: Sql,
  companyId: number,
  lineId: number,
): Promise<z.infer<typeof contract.workForLine.out>> {
  const [line] = await servedLines(sql, companyId, [lineId]);
  const found = orNotFound(line, 'This order line');
  const open = await sql.rows<{ id: number }>(
    `SELECT p.id FROM planned_order p FORCE INDEX (planned_order_item)
      WHERE p.company_id = ? AND p.item_id = ? AND p.open = TRUE AND p.kind <> 'buy' ORDER BY p.due_date, p.id LIMIT ?`,
    [companyId, found.itemId, MOST_FITS],
  );
  const works = await tiedWorks(
    sql,
    companyId,
    open.map(({ id }) => id),
  );
  const parties = await partiesOf(sql, companyId, [lineId]);
  const has = await sql.rows<{
    plannedId: number;
    number: string;
    kind: 'make' | 'assemble';
    state: TiedWork['state'];
    due: Day;
    quantity: string;
    made: string;
  }>(
    `SELECT p.id AS planned_id, p.number, p.kind, p.state, p.due_date AS due, t.quantity, t.made
       FROM planned_tie t JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.kind <> 'buy'
        AND p.state <> 'cancelled'
      WHERE t.company_id = ? AND t.order_line_id = ? ORDER BY p.due_date, p.id`,
    [companyId, lineId],
  );
  return {
    item: await itemAtWork(sql, companyId, found.itemId),
    wanted: found.wanted,
    has: has.map(({ number, kind, ...row }) => ({
      ...row,
      work: { kind: WORK_KIND[kind], id: row.plannedId, number },
      orderLineId: lineId,
      order: { kind: 'SO' as const, id: found.order.id, number: found.order.number },
      party: parties.get(lineId) ?? '',
      lineNo: found.lineNo,
      shipDate: found.shipDate,
    })),
    fits: fitting(works, [found], parties),
  };
}

/** Order lines an order that makes something could be for. // L5 W4 */
export async function linesForWork(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<z.infer<typeof contract.linesForWork.out>> {
  const [work] = await tiedWorks(sql, companyId, [id]);
  const found = orNotFound(work, 'This order');
  const open = await sql.rows<{ id: number }>(
    `SELECT l.id, l.ship_date, ${WANTED} AS wanted FROM sales_order_line l FORCE INDEX (sales_order_line_owed)
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id AND o.state = 'confirmed'
      WHERE l.company_id = ? AND l.item_id = ? AND l.owed = TRUE HAVING wanted > 0 ORDER BY l.ship_date, l.id LIMIT ?`,
    [companyId, found.itemId, MOST_FITS],
  );
  const ids = open.map((row) => row.id);
  const lines = await servedLines(sql, companyId, ids);
  return {
    item: await itemAtWork(sql, companyId, found.itemId),
    untied: untiedOf(found).toFixed(),
    fits: fitting([found], lines, await partiesOf(sql, companyId, ids)),
  };
}
