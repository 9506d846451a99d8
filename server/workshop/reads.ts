import type * as z from 'zod';
import { dec, most, sum, ZERO } from '@core/kernel';
import { componentCost, earning, labourCost, type SoldPart } from '@core/workshop';
import type * as contract from '@api/workshop';
import { orNotFound } from '../acts';
import { ownCurrency, rateAt } from '../catalogue';
import type { Columns, Sql } from '../db';
import type { PlannedComponent, PlannedOperation, PlannedOrder } from '../promise/tables';
import { keptByNumber, named, serialsMovedBy, serialsOfWork } from '../serial';
import { costText, reckonedCosts } from './costs';
import { WORK_KIND } from './report';
import { JOIN_WORK, WORK_COLUMNS, workRows, type WorkColumns } from './rows';
import type { WorkReport } from './tables';

type Sheet = z.infer<typeof contract.openWork.out>;
type ReportRow = Sheet['reports'][number];

/** One order that makes something, from its parts to what was reported of it. Some ten queries, each by its key. */
export async function openWork(sql: Sql, companyId: number, id: number): Promise<Sheet> {
  const [row] = await sql.rows<
    WorkColumns &
      Columns<PlannedOrder, 'held startedOn finishedOn plannedCost inWork locationId'> & {
        place: string;
        currency: string;
      }
  >(
    `SELECT ${WORK_COLUMNS}, p.held, p.started_on, p.finished_on, p.planned_cost, p.in_work, p.location_id, lo.name AS place,
            ${ownCurrency('p.company_id')} AS currency
       FROM planned_order p ${JOIN_WORK} WHERE p.company_id = ? AND p.id = ? AND p.kind <> 'buy'`,
    [companyId, id],
  );
  const work = orNotFound(row, 'This order');
  const [base] = await workRows(sql, companyId, [work]);
  const pieces = await serialsOfWork(sql, companyId, id);
  const components = await componentsOf(sql, companyId, work, pieces.used);
  const kept = await keptByNumber(sql, companyId, [work.itemId]);
  const operations = await operationsOf(sql, companyId, work);
  const reports = await reportsOf(sql, companyId, id);
  const total = (amounts: readonly string[]) => sum(amounts.map(dec)).toFixed();
  const plannedTotal = total([...components, ...operations].map((each) => each.plannedCost));
  const usedTotal = total(reports.flatMap((each) => [each.materialCost, each.labourCost]));
  return {
    ...base!,
    place: work.place,
    locationId: work.locationId,
    currency: work.currency,
    startedOn: work.startedOn,
    finishedOn: work.finishedOn,
    untied: most(ZERO, dec(work.quantity).minus(work.finished).minus(work.scrapped).minus(work.held)).toFixed(),
    plannedCost: plannedTotal,
    usedCost: usedTotal,
    outputCost: total(reports.map((each) => each.outputCost)),
    inWork: work.inWork,
    earning: earning(
      await soldParts(sql, companyId, id),
      { quantity: work.quantity, cost: work.state === 'finished' ? usedTotal : plannedTotal },
      work.currency,
    ),
    byNumber: kept.has(work.itemId),
    numbers: pieces.made.map(named),
    components,
    operations,
    below: await belowOf(sql, companyId, id),
    reports,
  };
}

/** What of an order is for order lines, and what they are sold for. */
function soldParts(sql: Sql, companyId: number, id: number): Promise<SoldPart[]> {
  return sql.rows<SoldPart>(
    `SELECT t.quantity, l.quantity AS line_quantity, l.amount, ${rateAt('o.currency', 'o.company_id', 'o.order_date')} AS rate
       FROM planned_tie t
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
      WHERE t.company_id = ? AND t.planned_order_id = ?`,
    [companyId, id],
  );
}

/** An order with what it was reckoned at when it was begun; null until then. */
type Reckoned = Pick<WorkColumns, 'id'> & { plannedCost: string | null; currency: string };

type PieceOf = Awaited<ReturnType<typeof serialsOfWork>>['used'][number];

/** What goes into an order, with what is there of it; what it is reckoned at as long as nothing was reported. */
async function componentsOf(
  sql: Sql,
  companyId: number,
  { id, plannedCost, currency }: Reckoned,
  used: readonly PieceOf[],
): Promise<Sheet['components']> {
  const rows = await sql.rows<
    Columns<PlannedComponent, 'id itemId operationNo quantity used covered neededOn plannedCost'> & {
      number: string;
      name: string;
      unit: string;
      onHand: string;
      free: string;
      usedCost: string | null;
    }
  >(
    `SELECT k.id, k.item_id, k.operation_no, k.quantity, k.used, k.covered, k.needed_on, k.planned_cost, i.number, i.name, i.unit,
            COALESCE(s.on_hand, 0) AS on_hand, COALESCE(s.on_hand - s.reserved, 0) AS free,
            (SELECT SUM(r.cost) FROM work_report_component r WHERE r.company_id = k.company_id AND r.component_id = k.id) AS used_cost
       FROM planned_component k
       JOIN planned_order p ON p.company_id = k.company_id AND p.id = k.planned_order_id
       JOIN item i ON i.company_id = k.company_id AND i.id = k.item_id
       LEFT JOIN stock s ON s.company_id = k.company_id AND s.item_id = k.item_id AND s.location_id = p.location_id
      WHERE k.company_id = ? AND k.planned_order_id = ? ORDER BY k.operation_no, k.id`,
    [companyId, id],
  );
  const itemIds = rows.map(({ itemId }) => itemId);
  const kept = await keptByNumber(sql, companyId, itemIds);
  const left = [...used];
  /** The pieces of a component: the first of its item that are not another's. */
  const take = (itemId: number, many: string) => {
    const taken = left.filter((each) => each.itemId === itemId).slice(0, Number(many));
    for (const each of taken) left.splice(left.indexOf(each), 1);
    return taken.map(named);
  };
  const unknown = plannedCost === null ? rows.map(({ itemId }) => itemId) : [];
  const costs = await reckonedCosts(sql, companyId, unknown);
  return rows.map(({ itemId, number, name, unit, usedCost, ...each }) => ({
    ...each,
    item: { id: itemId, number, name, unit },
    byNumber: kept.has(itemId),
    numbers: take(itemId, each.used),
    plannedCost:
      plannedCost === null
        ? componentCost(each.quantity, costText(costs, itemId), currency).toFixed()
        : each.plannedCost,
    usedCost: usedCost ?? '0',
  }));
}

async function operationsOf(
  sql: Sql,
  companyId: number,
  { id, plannedCost, currency }: Reckoned,
): Promise<Sheet['operations']> {
  const rows = await sql.rows<
    Columns<PlannedOperation, 'id no name minutes minutesDone done scrapped firstDay lastDay plannedCost'> & {
      centreId: number;
      centre: string;
      hourCost: string;
      usedCost: string | null;
    }
  >(
    `SELECT o.id, o.no, o.name, o.minutes, o.minutes_done, o.done, o.scrapped, o.first_day, o.last_day, o.planned_cost,
            w.id AS centre_id, w.name AS centre, w.hour_cost,
            (SELECT SUM(r.cost) FROM work_report_operation r WHERE r.company_id = o.company_id AND r.operation_id = o.id) AS used_cost
       FROM planned_operation o JOIN work_centre w ON w.company_id = o.company_id AND w.id = o.work_centre_id
      WHERE o.company_id = ? AND o.planned_order_id = ? ORDER BY o.no`,
    [companyId, id],
  );
  return rows.map(({ centreId, centre, hourCost, usedCost, ...each }) => ({
    ...each,
    centre: { id: centreId, name: centre },
    plannedCost: plannedCost === null ? labourCost(each.minutes, hourCost, currency).toFixed() : each.plannedCost,
    usedCost: usedCost ?? '0',
  }));
}

async function belowOf(sql: Sql, companyId: number, id: number): Promise<Sheet['below']> {
  const rows = await sql.rows<
    Columns<PlannedOrder, 'id number itemId quantity finished dueDate state'> & {
      kind: 'PR' | 'AS' | 'PL' | 'PO';
      itemNumber: string;
      name: string;
      unit: string;
    }
  >(
    `SELECT COALESCE(po.id, p.id) AS id, COALESCE(po.number, p.number) AS number, p.item_id, p.quantity, p.finished, p.due_date, p.state,
            IF(po.id IS NULL, CASE p.kind WHEN 'make' THEN 'PR' WHEN 'assemble' THEN 'AS' ELSE 'PL' END, 'PO') AS kind,
            i.number AS item_number, i.name, i.unit
       FROM planned_order p
       JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
       LEFT JOIN purchase_order_line pl ON pl.company_id = p.company_id AND pl.id = p.purchase_line_id
       LEFT JOIN purchase_order po ON po.company_id = pl.company_id AND po.id = pl.purchase_order_id
      WHERE p.company_id = ? AND p.parent_id = ? AND p.state <> 'cancelled' ORDER BY p.id`,
    [companyId, id],
  );
  return rows.map((row) => ({
    document: { kind: row.kind, id: row.id, number: row.number },
    item: { id: row.itemId, number: row.itemNumber, name: row.name, unit: row.unit },
    quantity: row.quantity,
    finished: row.finished,
    state: row.state,
    due: row.dueDate,
  }));
}

type ReportColumns = Columns<
  WorkReport,
  'id number postedOn good scrapped materialCost labourCost outputCost scrapCost variance finishes'
> & {
  by: string;
  operation: string | null;
  reversesId: number | null;
  reverses: string | null;
  reversedById: number | null;
  reversedBy: string | null;
};

const REPORT = `r.id, r.number, r.posted_on, r.good, r.scrapped, r.material_cost, r.labour_cost, r.output_cost, r.scrap_cost, r.variance,
       r.finishes, (SELECT n.name FROM person n WHERE n.id = r.person_id) AS \`by\`, o.name AS operation,
       x.id AS reverses_id, x.number AS reverses, b.id AS reversed_by_id, b.number AS reversed_by`;
const JOIN_REPORT = `LEFT JOIN planned_operation o ON o.company_id = r.company_id AND o.id = r.operation_id
  LEFT JOIN work_report x ON x.company_id = r.company_id AND x.id = r.reverses_id
  LEFT JOIN work_report b ON b.company_id = r.company_id AND b.reverses_id = r.id`;

const reportOf = (row: ReportColumns): ReportRow => ({
  document: { kind: 'WR', id: row.id, number: row.number },
  postedOn: row.postedOn,
  by: row.by,
  operation: row.operation ?? '',
  good: row.good,
  scrapped: row.scrapped,
  materialCost: row.materialCost,
  labourCost: row.labourCost,
  outputCost: row.outputCost,
  scrapCost: row.scrapCost,
  variance: row.variance,
  finishes: row.finishes,
  reverses: row.reversesId === null ? null : { kind: 'WR', id: row.reversesId, number: row.reverses! },
  reversedBy: row.reversedById === null ? null : { kind: 'WR', id: row.reversedById, number: row.reversedBy! },
});

async function reportsOf(sql: Sql, companyId: number, id: number): Promise<ReportRow[]> {
  const rows = await sql.rows<ReportColumns>(
    `SELECT ${REPORT} FROM work_report r ${JOIN_REPORT} WHERE r.company_id = ? AND r.planned_order_id = ? ORDER BY r.id DESC`,
    [companyId, id],
  );
  return rows.map(reportOf);
}

/** One work report with what it used, how long it took, and for whom it made what. */
export async function openWorkReport(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<z.infer<typeof contract.openWorkReport.out>> {
  const [head] = await sql.rows<
    ReportColumns & {
      reason: string;
      workId: number;
      work: string;
      kind: 'make' | 'assemble';
      itemId: number;
      itemNumber: string;
      itemName: string;
      unit: string;
      currency: string;
    }
  >(
    `SELECT ${REPORT}, r.reason, p.id AS work_id, p.number AS work, p.kind, i.id AS item_id, i.number AS item_number,
            i.name AS item_name, i.unit, ${ownCurrency('r.company_id')} AS currency
       FROM work_report r ${JOIN_REPORT}
       JOIN planned_order p ON p.company_id = r.company_id AND p.id = r.planned_order_id
       JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
      WHERE r.company_id = ? AND r.id = ?`,
    [companyId, id],
  );
  const found = orNotFound(head, 'This work report');
  const components = await sql.rows<{
    id: number;
    number: string;
    name: string;
    unit: string;
    quantity: string;
    cost: string;
  }>(
    `SELECT i.id, i.number, i.name, i.unit, k.quantity, k.cost FROM work_report_component k
       JOIN item i ON i.company_id = k.company_id AND i.id = k.item_id
      WHERE k.company_id = ? AND k.report_id = ? ORDER BY k.id`,
    [companyId, id],
  );
  const operations = await sql.rows<{
    no: number;
    name: string;
    done: string;
    scrapped: string;
    minutes: number;
    cost: string;
  }>(
    `SELECT o.no, o.name, k.done, k.scrapped, k.minutes, k.cost FROM work_report_operation k
       JOIN planned_operation o ON o.company_id = k.company_id AND o.id = k.operation_id
      WHERE k.company_id = ? AND k.report_id = ? ORDER BY o.no`,
    [companyId, id],
  );
  const ties = await sql.rows<{
    orderId: number;
    number: string;
    lineNo: number;
    party: string;
    made: string;
    released: string;
  }>(
    `SELECT o.id AS order_id, o.number, l.line_no, c.name AS party, t.made, t.released FROM work_report_tie t
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE t.company_id = ? AND t.report_id = ? ORDER BY t.id`,
    [companyId, id],
  );
  const moved = await serialsMovedBy(sql, companyId, 'WR', [id]);
  const piecesOf = (itemId: number) => moved.filter((each) => each.itemId === itemId).map(named);
  return {
    ...reportOf(found),
    work: { kind: WORK_KIND[found.kind], id: found.workId, number: found.work },
    item: { id: found.itemId, number: found.itemNumber, name: found.itemName, unit: found.unit },
    currency: found.currency,
    reason: found.reason,
    components: components.map(({ quantity, cost, ...item }) => ({ item, quantity, cost, numbers: piecesOf(item.id) })),
    numbers: piecesOf(found.itemId),
    operations,
    for: ties.map(({ orderId, number, ...tie }) => ({
      order: { kind: 'SO' as const, id: orderId, number },
      ...tie,
    })),
  };
}
