import { share, type Day } from '@core/kernel';
import type { Part } from '@core/supply';
import type { ThreadOut } from '@api/supply';
import type { Sql } from '../db';
import { LINES, type LineDocuments, type Scope } from './thread-reads';

interface TiedRow {
  orderLineId: number;
  tieId: number;
  kind: 'PR' | 'AS' | 'PL';
  id: number;
  number: string;
  state: string;
  quantity: string;
  made: string;
  due: Day;
  shipDate: Day;
  /** The last operation that anything passed. */
  passed: string | null;
  through: string | null;
}

interface ReportRow {
  orderLineId: number;
  tieId: number | null;
  lineId: number;
  id: number;
  number: string;
  work: string;
  quantity: string;
  day: Day;
  byId: number | null;
  byNumber: string | null;
  byDay: Day | null;
}

/** What is made for lines: the orders that make it, and what they reported. */
export interface MadeRows {
  ties: TiedRow[];
  reports: ReportRow[];
}

/** Orders that make something for the lines of a scope, with how far each is, and their reports: two reads by their keys. */
export async function madeRows(sql: Sql, companyId: number, { of, id }: Scope): Promise<MadeRows> {
  const { from, where } = LINES[of];
  const [ties, reports] = await Promise.all([
    sql.rows<TiedRow>(
      `SELECT STRAIGHT_JOIN t.order_line_id, t.id AS tie_id,
              CASE p.kind WHEN 'make' THEN 'PR' WHEN 'assemble' THEN 'AS' ELSE 'PL' END AS kind, p.id, p.number, p.state,
              t.quantity, t.made, p.due_date AS due, l.ship_date, o.name AS passed, o.done AS through
         FROM ${from}
         JOIN planned_tie t FORCE INDEX (planned_tie_line) ON t.company_id = l.company_id AND t.order_line_id = l.id
         JOIN planned_order p FORCE INDEX (PRIMARY) ON p.company_id = t.company_id AND p.id = t.planned_order_id
         LEFT JOIN planned_operation o ON o.company_id = p.company_id AND o.planned_order_id = p.id
          AND o.no = (SELECT MAX(f.no) FROM planned_operation f
            WHERE f.company_id = p.company_id AND f.planned_order_id = p.id AND f.done > 0)
        WHERE ${where} AND (p.open = TRUE OR t.made > 0)`,
      [companyId, id],
    ),
    sql.rows<ReportRow>(
      `SELECT STRAIGHT_JOIN r.order_line_id, t.id AS tie_id, r.id AS line_id, w.id, w.number, p.number AS work, r.made AS quantity,
              w.posted_on AS day, b.id AS by_id, b.number AS by_number, b.posted_on AS by_day
         FROM ${from}
         JOIN work_report_tie r FORCE INDEX (work_report_tie_line) ON r.company_id = l.company_id AND r.order_line_id = l.id AND r.made > 0
         JOIN work_report w FORCE INDEX (PRIMARY) ON w.company_id = r.company_id AND w.id = r.report_id
         JOIN planned_order p FORCE INDEX (PRIMARY) ON p.company_id = w.company_id AND p.id = w.planned_order_id
         LEFT JOIN planned_tie t FORCE INDEX (planned_tie_once) ON t.company_id = w.company_id
          AND t.planned_order_id = w.planned_order_id AND t.order_line_id = r.order_line_id
         LEFT JOIN work_report b FORCE INDEX (work_report_reverses) ON b.company_id = w.company_id AND b.reverses_id = w.id
        WHERE ${where}`,
      [companyId, id],
    ),
  ]);
  return { ties, reports };
}

/** Puts what is made where it belongs among a line's documents; its ties have numbers below nothing, apart from purchases'. */
export function addMade(documents: ReadonlyMap<number, LineDocuments>, { ties, reports }: MadeRows): void {
  for (const row of ties.sort((a, b) => a.tieId - b.tieId)) {
    documents.get(row.orderLineId)?.supplies.push({ tieId: -row.tieId, part: supplyPart(row) });
  }
  for (const row of reports.sort((a, b) => a.lineId - b.lineId)) {
    const own = documents.get(row.orderLineId);
    if (!own) continue;
    const document = { kind: 'WR' as const, id: row.id, number: row.number };
    if (row.byId !== null) {
      const by: ThreadOut['undone'][number]['by'] = { kind: 'WR', id: row.byId, number: row.byNumber! };
      own.undone.push({ document, quantity: row.quantity, by, day: row.byDay! });
    } else if (row.tieId !== null) {
      const part = { document, quantity: row.quantity, day: row.day, note: row.work, filled: 1 };
      own.came.push({ receiptLineId: -row.lineId, tieId: -row.tieId, part });
    }
  }
}

function supplyPart(row: TiedRow): Part {
  const far = row.passed === null ? row.state : `${row.state}, ${row.through} passed ${row.passed}`;
  return {
    document: { kind: row.kind, id: row.id, number: row.number },
    quantity: row.quantity,
    day: row.due,
    note: far,
    filled: share(row.made, row.quantity),
    ...(row.due > row.shipDate && row.state !== 'finished' ? { differs: 'date' } : {}),
  };
}
