import type * as z from 'zod';
import { addDays, dec, most, ZERO, type Day, type DocumentKind } from '@core/kernel';
import { cellOf, isLate, minutesFor, workingDays, type WorkState } from '@core/workshop';
import type * as contract from '@api/workshop';
import { orNotFound } from '../acts';
import { calendarsOf } from '../catalogue';
import type { Bound, Columns, Sql } from '../db';
import type { PlannedOperation } from '../promise/tables';
import { WORK_KIND } from './report';

type Row = Columns<PlannedOperation, 'id no name workCentreId minutes minutesDone done scrapped firstDay lastDay'> & {
  workId: number;
  number: string;
  kind: 'make' | 'assemble';
  state: WorkState;
  quantity: string;
  lost: string;
  due: Day;
  itemId: number;
  itemNumber: string;
  itemName: string;
  unit: string;
  passed: string | null;
  before: string | null;
  last: number;
  party: string | null;
  shipDate: Day | null;
  pattern: string | null;
};

/** Whom an order is for first. */
const FIRST_TIE = (what: string) => `(SELECT ${what} FROM planned_tie t
               JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
               JOIN sales_order s ON s.company_id = l.company_id AND s.id = l.order_id
               JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
              WHERE t.company_id = p.company_id AND t.planned_order_id = p.id AND t.quantity > t.made ORDER BY l.ship_date, t.id LIMIT 1)`;

/**
 * Operations of firm and running orders that are not done, the first to be begun first, `most` at most. Walks
 * planned_operation_centre.
 */
function openOperations(
  sql: Sql,
  companyId: number,
  where: string,
  values: readonly (Bound | readonly Bound[])[],
  most: number,
): Promise<Row[]> {
  return sql.rows<Row>(
    `SELECT o.id, o.no, o.name, o.work_centre_id, o.minutes, o.minutes_done, o.done, o.scrapped, o.first_day, COALESCE(o.late_since, o.last_day) AS last_day,
            p.id AS work_id, p.number, p.kind, p.state, p.quantity, p.scrapped AS lost, p.due_date AS due,
            i.id AS item_id, i.number AS item_number, i.name AS item_name, i.unit, n.pattern, b.done AS passed, b.name AS \`before\`,
            NOT EXISTS (SELECT 1 FROM planned_operation a WHERE a.company_id = o.company_id
              AND a.planned_order_id = o.planned_order_id AND a.no > o.no) AS last,
            ${FIRST_TIE('c.name')} AS party, ${FIRST_TIE('l.ship_date')} AS ship_date
       FROM planned_operation o FORCE INDEX (planned_operation_centre)
       JOIN planned_order p FORCE INDEX (PRIMARY) ON p.company_id = o.company_id AND p.id = o.planned_order_id
        AND p.state IN ('firm', 'running')
       JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
       LEFT JOIN serial_series n ON n.company_id = p.company_id AND n.item_id = p.item_id
       LEFT JOIN planned_operation b ON b.company_id = o.company_id AND b.planned_order_id = o.planned_order_id
        AND b.no = (SELECT MAX(f.no) FROM planned_operation f WHERE f.company_id = o.company_id
          AND f.planned_order_id = o.planned_order_id AND f.no < o.no)
      WHERE o.company_id = ? AND ${where} AND o.done + o.scrapped < p.quantity - p.scrapped + o.scrapped
      ORDER BY o.first_day, p.due_date, o.id LIMIT ${most}`,
    [companyId, ...values],
  );
}

const centresOf = (sql: Sql, companyId: number) =>
  sql.rows<{ id: number; code: string; name: string }>(
    'SELECT id, code, name FROM work_centre WHERE company_id = ? ORDER BY code',
    [companyId],
  );

/** What of an operation can be worked on now, and what is left of it. */
function standingOf(row: Row) {
  const ready = most(ZERO, dec(row.passed ?? row.quantity).minus(dec(row.done).plus(row.scrapped)));
  const left = dec(row.quantity).minus(row.lost).minus(row.done);
  return {
    ready: ready.toFixed(),
    before: ready.gt(0) ? '' : (row.before ?? ''),
    minutesLeft: minutesFor(row, left, row),
  };
}

/** What is next at a work centre, 0 for the first there is: operations of open orders that are not done, the first to be begun first. */
export async function openCentreWork(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<z.infer<typeof contract.openCentreWork.out>> {
  const centres = await centresOf(sql, companyId);
  const centre = orNotFound(id === 0 ? centres[0] : centres.find((each) => each.id === id), 'This work centre');
  const rows = await openOperations(sql, companyId, 'o.work_centre_id = ?', [centre.id], 60);
  const lacks = await lackingAt(
    sql,
    companyId,
    rows.map((row) => row.id),
  );
  return {
    centre,
    centres,
    rows: rows.map((row) => ({
      work: workOf(row),
      operationId: row.id,
      no: row.no,
      operation: row.name,
      last: Boolean(row.last),
      item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
      quantity: row.quantity,
      done: row.done,
      ...standingOf(row),
      firstDay: row.firstDay,
      lastDay: row.lastDay,
      party: row.party ?? '',
      typesNumbers: Boolean(row.last) && row.pattern === '',
      lacks: lacks.get(row.id) ?? [],
    })),
  };
}

const begun = (row: Row) => dec(row.done).plus(row.scrapped).gt(0) || row.minutesDone > 0;

const workOf = (row: Row) => ({ kind: WORK_KIND[row.kind] as DocumentKind, id: row.workId, number: row.number });

/** Days that are shown beside what is behind, and operations at most. */
const DAYS = 6;
const MOST = 400;

/** What each work centre is to do by day: what is behind, what is to begin, what each waits for, for whom it is late. // W3 */
export async function openWorkshopDays(
  sql: Sql,
  companyId: number,
  workDate: Day,
): Promise<z.infer<typeof contract.openWorkshopDays.out>> {
  const [own] = await sql.rows<{ calendarId: number }>('SELECT calendar_id FROM company WHERE id = ?', [companyId]);
  const calendar = (await calendarsOf(sql, companyId, workDate)).find(({ id }) => id === own!.calendarId);
  const days = workingDays(workDate, DAYS, calendar ?? null);
  const centres = await centresOf(sql, companyId);
  const rows = await openOperations(
    sql,
    companyId,
    'o.work_centre_id IN (?) AND o.first_day <= ?',
    [centres.map(({ id }) => id), days.at(-1) ?? addDays(workDate, DAYS)],
    MOST + 1,
  );
  const shown = rows.slice(0, MOST);
  const lacks = await lackingAt(
    sql,
    companyId,
    shown.map((row) => row.id),
  );
  const operations = shown.map((row) => ({
    centreId: row.workCentreId,
    cell: cellOf({ ...row, begun: begun(row) }, workDate, days),
    work: workOf(row),
    operation: row.name,
    item: row.itemNumber,
    quantity: row.quantity,
    done: row.done,
    begun: begun(row),
    ...standingOf(row),
    party: row.party ?? '',
    /** For whom it is there only after it ships. */
    late: isLate(row, workDate),
    lacks: lacks.get(row.id) ?? [],
  }));
  return {
    days,
    more: rows.length > MOST,
    centres: centres.map((centre) => ({
      ...centre,
      operations: operations.filter(({ centreId }) => centreId === centre.id).map(({ centreId: _of, ...each }) => each),
    })),
  };
}

/** What operations need of their components beyond what is free where they are used, by operation. */
async function lackingAt(sql: Sql, companyId: number, operationIds: readonly number[]) {
  const rows = await sql.rows<{ operationId: number; item: string; quantity: string }>(
    `SELECT o.id AS operation_id, i.number AS item,
            SUM(GREATEST(0, k.quantity - k.used)) - COALESCE(MAX(s.on_hand - s.reserved), 0) AS quantity
       FROM planned_operation o
       JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id
       JOIN planned_component k ON k.company_id = o.company_id AND k.planned_order_id = o.planned_order_id
        AND COALESCE(k.operation_no, (SELECT MIN(f.no) FROM planned_operation f WHERE f.company_id = o.company_id
          AND f.planned_order_id = o.planned_order_id)) = o.no
       JOIN item i ON i.company_id = k.company_id AND i.id = k.item_id
       LEFT JOIN stock s ON s.company_id = k.company_id AND s.item_id = k.item_id AND s.location_id = p.location_id
      WHERE o.company_id = ? AND o.id IN (?) GROUP BY o.id, k.item_id HAVING quantity > 0 ORDER BY o.id, MIN(k.id)`,
    [companyId, operationIds],
  );
  const lacks = new Map<number, { item: string; quantity: string }[]>();
  for (const { operationId, ...lack } of rows) lacks.set(operationId, [...(lacks.get(operationId) ?? []), lack]);
  return lacks;
}
