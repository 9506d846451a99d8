import { dec } from '@core/kernel';
import { workReversalJournal } from '@core/ledger';
import {
  decideTakeBackWork,
  takeBackNeeds,
  type Apart,
  type ReportNow,
  type TakeBackEffects,
  type TakenBackGround,
} from '@core/workshop';
import * as contract from '@api/workshop';
import { defineAct, numbersAtLast, orNotFound, type Doer, type LeftToWrite } from '../acts';
import { into, newId, type Columns, type Sql, type Statement, type TextPiece, type Tx } from '../db';
import { journalEntries, journalHeads } from '../ledger';
import { numbered, type MovedWith, type SerialEffects, type SerialGround } from '@core/serial';
import { heldStatement, stockStatement } from '../on-hand';
import { numbersToWrite } from '../serial';
import { stockEntryTable } from '../stock/tables';
import { touchedByWork, type ReportsToWrite } from './report';
import { loadWork, type LoadedWork } from './store';
import {
  workReportComponentTable,
  workReportOperationTable,
  workReportTable,
  workReportTieTable,
  type WorkReport,
} from './tables';

export interface LoadedReport extends TakenBackGround {
  work: LoadedWork & { numbers: SerialGround };
  operationId: number | null;
}

/** Takes a work report back by another that names it. // P1 W3 */
export const takeBackWork = defineAct(contract.takeBackWork, {
  right: 'work',
  says: 'take work back',
  done: 'work taken back',
  load: (tx, { reportId }, { companyId }) => loadReport(tx, companyId, reportId),
  decide: (ground, input, { workDate }) =>
    numbered(decideTakeBackWork(ground, input), ground.work.numbers, workDate, () => takeBackNeeds([ground])),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ state, stockDifference }) => ({ state, stockDifference }),
  async write(tx, effects, ground, doer) {
    return {
      ...(await takenBack(tx, doer, [{ ground, effects }], effects.numbers)),
      touched: touchedByWork(ground.work),
    };
  },
});

export async function loadReport(sql: Sql, companyId: number, reportId: number): Promise<LoadedReport> {
  const [of] = await sql.rows<{ plannedOrderId: number }>(
    'SELECT planned_order_id FROM work_report WHERE company_id = ? AND id = ?',
    [companyId, reportId],
  );
  const workId = orNotFound(of, 'This work report').plannedOrderId;
  const work = await loadWork(sql, companyId, workId, { back: [{ kind: 'WR', id: reportId }] });
  const { report, operationId } = await reportNow(sql, companyId, reportId);
  // What it was made for and let go of may be no tie of the order any more.
  const [counted] = await sql.rows<{ others: number }>(
    `SELECT COUNT(*) AS others FROM work_report r
      WHERE r.company_id = ? AND r.planned_order_id = ? AND r.id <> ? AND r.reverses_id IS NULL
        AND NOT EXISTS (SELECT 1 FROM work_report b WHERE b.company_id = r.company_id AND b.reverses_id = r.id)`,
    [companyId, work.order.id, reportId],
  );
  const [parent] = await sql.rows<{ open: number }>(
    "SELECT state IN ('planned', 'firm', 'running') AS open FROM planned_order WHERE company_id = ? AND id = ?",
    [companyId, work.parentId ?? 0],
  );
  const uncovered = await sql.rows<{ id: number; quantity: string }>(
    `SELECT id, GREATEST(0, quantity - covered - used) AS quantity FROM planned_component
      WHERE company_id = ? AND planned_order_id = ? AND item_id = ?`,
    [companyId, work.parentId ?? 0, work.order.itemId],
  );
  return {
    work,
    operationId,
    order: work.order,
    operations: work.operations,
    product: work.product,
    parents: work.parents,
    report,
    others: counted!.others,
    parentOpen: Boolean(parent?.open),
    uncovered: new Map(uncovered.map((row) => [row.id, row.quantity])),
  };
}

async function reportNow(sql: Sql, companyId: number, reportId: number) {
  const [head] = await sql.rows<
    Columns<
      WorkReport,
      | 'id number operationId good scrapped materialCost labourCost outputCost scrapCost variance finishes forParent'
      | 'parentReleased'
    > & { reverses: string; reversedBy: string }
  >(
    `SELECT r.id, r.number, r.operation_id, r.good, r.scrapped, r.material_cost, r.labour_cost, r.output_cost, r.scrap_cost,
            r.variance, r.finishes, r.for_parent, r.parent_released,
            COALESCE((SELECT x.number FROM work_report x WHERE x.company_id = r.company_id AND x.id = r.reverses_id), '') AS reverses,
            COALESCE((SELECT b.number FROM work_report b WHERE b.company_id = r.company_id AND b.reverses_id = r.id), '') AS reversed_by
       FROM work_report r WHERE r.company_id = ? AND r.id = ?`,
    [companyId, reportId],
  );
  const components = await sql.rows<ReportNow['components'][number]>(
    'SELECT component_id, item_id, quantity, cost FROM work_report_component WHERE company_id = ? AND report_id = ? ORDER BY id',
    [companyId, reportId],
  );
  const operations = await sql.rows<ReportNow['operations'][number]>(
    'SELECT operation_id, done, scrapped, minutes, cost FROM work_report_operation WHERE company_id = ? AND report_id = ? ORDER BY id',
    [companyId, reportId],
  );
  const ties = await sql.rows<ReportNow['ties'][number]>(
    `SELECT t.order_line_id, o.number AS \`order\`, t.made, t.released, l.reserved,
            IF(o.state = 'confirmed', GREATEST(0, l.quantity - l.cancelled - l.shipped - l.reserved - COALESCE((SELECT SUM(p.quantity - p.made)
              FROM planned_tie p JOIN planned_order d ON d.company_id = p.company_id AND d.id = p.planned_order_id AND d.open
             WHERE p.company_id = l.company_id AND p.order_line_id = l.id), 0)), 0) AS wanted
       FROM work_report_tie t
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
      WHERE t.company_id = ? AND t.report_id = ? ORDER BY t.id ${sql.forUpdate}`,
    [companyId, reportId],
  );
  const { operationId, ...report } = orNotFound(head, 'This work report');
  return { report: { ...report, components, operations, ties }, operationId };
}

const less = (text: string) => dec(text).neg().toFixed();

/** A report to be taken back: as it is, and what that does. */
export type TakenBack = Apart<LoadedReport>;

/** What writes reports that take others back, each with the number that was taken for it. // P1 P3 */
export function takenBackToWrite(
  { companyId, personId, workDate }: Doer,
  all: readonly TakenBack[],
  numbers: readonly TextPiece[],
): ReportsToWrite {
  const idOf = (at: number) => newId(workReportTable, at);
  const base = (at: number) => ({ companyId, reportId: idOf(at) });
  return {
    statements: all.flatMap(({ ground, effects }) => countersBack(effects, ground.report, ground.work, companyId)),
    insertions: [
      into(
        workReportTable,
        all.map(({ ground: { report, work, operationId }, effects }, at) => ({
          companyId,
          number: numbers[at]!,
          plannedOrderId: work.order.id,
          operationId,
          personId,
          postedOn: workDate,
          good: less(report.good),
          scrapped: less(report.scrapped),
          materialCost: less(report.materialCost),
          labourCost: less(report.labourCost),
          outputCost: less(report.outputCost),
          scrapCost: less(report.scrapCost),
          variance: less(report.variance),
          stockDifference: effects.stockDifference,
          forParent: less(report.forParent),
          parentReleased: less(report.parentReleased),
          reason: effects.reason,
          reversesId: report.id,
        })),
        { ids: true },
      ),
      into(
        workReportComponentTable,
        all.flatMap(({ ground: { report } }, at) =>
          report.components.map(({ componentId, itemId, quantity, cost }) => ({
            ...base(at),
            componentId,
            itemId,
            quantity: less(quantity),
            cost: less(cost),
          })),
        ),
      ),
      into(
        workReportOperationTable,
        all.flatMap(({ ground: { report } }, at) =>
          report.operations.map((each) => ({
            ...base(at),
            operationId: each.operationId,
            done: less(each.done),
            scrapped: less(each.scrapped),
            minutes: -each.minutes,
            cost: less(each.cost),
          })),
        ),
      ),
      into(
        workReportTieTable,
        all.flatMap(({ ground: { report }, effects }, at) =>
          report.ties.map(({ orderLineId, made }) => ({
            ...base(at),
            orderLineId,
            made: less(made),
            released: less(effects.ties.find((tie) => tie.orderLineId === orderLineId)!.again),
          })),
        ),
      ),
      into(
        stockEntryTable,
        all.flatMap(({ ground: { report, work }, effects }, at) => {
          const entry = {
            companyId,
            place: 'ours' as const,
            locationId: work.order.locationId,
            postedOn: workDate,
            documentKind: 'WR',
            documentId: idOf(at),
          };
          return [
            ...report.components.map(({ itemId, quantity, cost }) => ({ ...entry, itemId, quantity, cost })),
            ...(dec(report.good).gt(0)
              ? [{ ...entry, itemId: work.order.itemId, quantity: less(report.good), cost: less(effects.value) }]
              : []),
          ];
        }),
      ),
    ],
    journals: all.flatMap(({ ground: { report }, effects }, at) => {
      const entries = workReversalJournal(report, effects.value);
      return entries.length > 0 ? [{ source: { kind: 'WR' as const, id: idOf(at) }, postedOn: workDate, entries }] : [];
    }),
    made: all.map((_each, at) => ({ kind: 'WR' as const, id: idOf(at), number: numbers[at]! })),
  };
}

/** The same as an act of its own, or at the end of one that takes their shipment back. */
export async function takenBack(
  tx: Tx,
  doer: Doer,
  all: readonly TakenBack[],
  numbers: SerialEffects,
  /** What else the pieces move with than reports. */
  documentOf: (moved: MovedWith) => number | null = () => null,
): Promise<Omit<LeftToWrite, 'touched'>> {
  const posts = all.filter(({ ground, effects }) => workReversalJournal(ground.report, effects.value).length > 0);
  const { statements, number } = numbersAtLast(doer.companyId, { WR: all.length, JR: posts.length });
  const left = takenBackToWrite(
    doer,
    all,
    all.map(() => number('WR')),
  );
  const pieces = numbersToWrite(doer, numbers, (moved) => documentOf(moved) ?? newId(workReportTable, moved.at));
  const plans = left.journals.map((plan) => ({ ...plan, number: number('JR') }));
  return {
    statements: [...left.statements, ...pieces.statements, ...statements],
    insertions: [
      ...left.insertions,
      ...pieces.insertions,
      journalHeads(doer, plans),
      await journalEntries(tx, doer, plans),
    ],
    made: left.made,
  };
}

/** What moves the counters back: of the order and its parts, of its ties, of the order above it, and of the stock. */
function countersBack(
  effects: TakeBackEffects,
  report: ReportNow,
  { order }: LoadedWork,
  companyId: number,
): Statement[] {
  const at = { locationId: order.locationId };
  const again = [
    ...effects.ties.map((tie) => dec(tie.made).plus(tie.again)),
    ...effects.parents.map((each) => dec(each.again)),
  ];
  return [
    // What was held for lines is let go of before the goods leave: no more is held than is there.
    ...effects.ties.flatMap((tie) => tieBack(companyId, order, tie)),
    {
      sql: `UPDATE planned_order SET finished = finished - ?, scrapped = scrapped - ?, held = held + ?, in_work = ?, state = ?,
              version = version + 1, finished_on = NULL, planned_cost = IF(? = 'firm', NULL, planned_cost),
              started_on = IF(? = 'firm', NULL, started_on)
             WHERE company_id = ? AND id = ?`,
      values: [
        report.good,
        report.scrapped,
        again.reduce((sum, each) => sum.plus(each), dec('0')).toFixed(),
        effects.inWork,
        effects.state,
        effects.state,
        effects.state,
        companyId,
        order.id,
      ],
    },
    ...(effects.state === 'firm'
      ? ['planned_component', 'planned_operation'].map((table) => ({
          sql: `UPDATE ${table} SET planned_cost = 0 WHERE company_id = ? AND planned_order_id = ?`,
          values: [companyId, order.id],
        }))
      : []),
    ...report.components.map(({ componentId, quantity }) => ({
      sql: 'UPDATE planned_component SET used = used - ? WHERE company_id = ? AND id = ?',
      values: [quantity, companyId, componentId],
    })),
    ...report.operations.map(({ operationId, done, scrapped, minutes }) => ({
      sql: `UPDATE planned_operation SET done = done - ?, scrapped = scrapped - ?, minutes_done = minutes_done - ?
             WHERE company_id = ? AND id = ?`,
      values: [done, scrapped, minutes, companyId, operationId],
    })),
    ...effects.parents.map(({ componentId, again: more }) => ({
      sql: 'UPDATE planned_component SET covered = covered + ? WHERE company_id = ? AND id = ?',
      values: [more, companyId, componentId],
    })),
    ...report.components.map(({ itemId, quantity, cost }) =>
      stockStatement(companyId, { ...at, itemId, quantity, cost }),
    ),
    ...(dec(report.good).gt(0)
      ? [
          stockStatement(companyId, {
            ...at,
            itemId: order.itemId,
            quantity: less(report.good),
            cost: less(effects.value),
          }),
        ]
      : []),
  ];
}

/** What was made for a line is not held for it any more, and is to be made again for it, with what was let go of. */
function tieBack(
  companyId: number,
  { id, itemId, locationId }: LoadedWork['order'],
  { orderLineId, made, again }: TakeBackEffects['ties'][number],
): Statement[] {
  return [
    ...(dec(made).gt(0)
      ? [
          {
            sql: 'UPDATE sales_order_line SET reserved = reserved - ? WHERE company_id = ? AND id = ?',
            values: [made, companyId, orderLineId],
          },
          heldStatement(companyId, itemId, locationId, less(made)),
          {
            sql: 'UPDATE planned_tie SET made = made - ? WHERE company_id = ? AND planned_order_id = ? AND order_line_id = ?',
            values: [made, companyId, id, orderLineId],
          },
        ]
      : []),
    ...(dec(again).gt(0) ? [tiedStatement(companyId, { plannedId: id, orderLineId, quantity: again })] : []),
  ];
}

/** So much more of an order is for a line. */
export function tiedStatement(
  companyId: number,
  { plannedId, orderLineId, quantity }: { plannedId: number; orderLineId: number; quantity: string },
): Statement {
  return {
    sql: `INSERT INTO planned_tie (company_id, planned_order_id, order_line_id, quantity) VALUES (?, ?, ?, ?)
           ON DUPLICATE KEY UPDATE quantity = quantity + VALUES(quantity)`,
    values: [companyId, plannedId, orderLineId, quantity],
  };
}
