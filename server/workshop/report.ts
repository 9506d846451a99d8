import { dec } from '@core/kernel';
import { workJournal } from '@core/ledger';
import { numbered, numbersShown, type SerialEffects } from '@core/serial';
import { decideReport, reportNeeds, type ReportEffects } from '@core/workshop';
import * as contract from '@api/workshop';
import { defineAct, numbersAtLast, type Doer, type LeftToWrite, type Touched } from '../acts';
import { into, newId, type Insertion, type Piece, type Statement, type TextPiece, type Tx } from '../db';
import { journalEntries, journalHeads, type JournalPlan } from '../ledger';
import { heldStatement, stockStatement } from '../on-hand';
import { numbersToWrite } from '../serial';
import { stockEntryTable } from '../stock/tables';
import { loadWork, type LoadedWork } from './store';
import { workReportComponentTable, workReportOperationTable, workReportTable, workReportTieTable } from './tables';

export const WORK_KIND = { make: 'PR', assemble: 'AS' } as const;

/** What was done on an order: a work report, with its stock entries and its journal. // W3 P3 */
export const reportWork = defineAct(contract.reportWork, {
  right: 'work',
  says: 'report work',
  done: 'work reported',
  load: (tx, { workId, numbers = [], used }, { companyId }) =>
    loadWork(tx, companyId, workId, { typed: [...numbers, ...used.flatMap((each) => each.numbers ?? [])] }),
  decide: (ground, input, { workDate }) =>
    numbered(decideReport(ground, input), ground.numbers, workDate, (effects) =>
      reportNeeds(ground, effects, 0, {
        made: input.numbers ?? [],
        used: input.used.map(({ componentId, numbers = [] }, at) => ({
          componentId,
          numbers,
          field: `used.${at}.numbers`,
        })),
        field: 'numbers',
      }),
    ),
  posts: (_effects, { workDate }) => workDate,
  preview: (effects, { order, ties }) => ({
    ...effects,
    ties: effects.ties.map(({ orderLineId, made, released }) => {
      const tie = ties.find((each) => each.orderLineId === orderLineId)!;
      return { order: { kind: 'SO' as const, ...tie.order }, lineNo: tie.lineNo, made, released };
    }),
    left: dec(order.quantity).minus(effects.finished).minus(effects.allScrapped).toFixed(),
    numbers: numbersShown(effects.numbers),
  }),
  write: (tx, effects, work, doer, { operationId }) =>
    reportToWrite(tx, { effects, work, operationId, shipmentId: null }, effects.numbers, doer),
});

/** The documents an order's report touches: itself and the orders it is for. */
export function touchedByWork({ order, ties, version }: LoadedWork): Touched[] {
  const orders = new Map(ties.map((tie) => [tie.order.id, tie.order]));
  return [
    { kind: WORK_KIND[order.kind], id: order.id, number: order.number, version: version + 1 },
    ...[...orders.values()].map((each) => ({ kind: 'SO' as const, ...each })),
  ];
}

/** A report to be written: what it does, of which order, at which operation, and with which shipment. // P5 */
export interface ReportToWrite {
  effects: ReportEffects;
  work: LoadedWork;
  operationId: number | null;
  shipmentId: Piece | null;
}

/** What reports leave to be written, beside the numbers and journals of the act they are part of. */
export interface ReportsToWrite {
  statements: Statement[];
  insertions: Insertion[];
  /** Not yet numbered. */
  journals: Omit<JournalPlan, 'number'>[];
  made: LeftToWrite['made'];
}

/**
 * What writes reports of work: counters, the reports with what hangs on them, and their stock entries; each has the
 * number that was taken for it. // W3 P1 P3
 */
export function reportsToWrite(
  doer: Doer,
  reports: readonly ReportToWrite[],
  numbers: readonly TextPiece[],
): ReportsToWrite {
  const { companyId, personId, workDate } = doer;
  const idOf = (at: number) => newId(workReportTable, at);
  const base = (at: number) => ({ companyId, reportId: idOf(at) });
  const entry = ({ order }: LoadedWork, at: number) => ({
    companyId,
    place: 'ours' as const,
    locationId: order.locationId,
    postedOn: workDate,
    documentKind: 'WR',
    documentId: idOf(at),
  });
  return {
    statements: reports.flatMap(({ effects, work }) => workStatements(effects, work, doer)),
    insertions: [
      into(
        workReportTable,
        reports.map(({ effects, work, operationId, shipmentId }, at) => ({
          companyId,
          number: numbers[at]!,
          plannedOrderId: work.order.id,
          operationId,
          shipmentId,
          personId,
          postedOn: workDate,
          good: effects.good,
          scrapped: effects.scrapped,
          materialCost: effects.materialCost,
          labourCost: effects.labourCost,
          outputCost: effects.outputCost,
          scrapCost: effects.scrapCost,
          variance: effects.variance,
          forParent: effects.forParent,
          parentReleased: effects.parentReleased,
          finishes: effects.state === 'finished',
        })),
        { ids: true },
      ),
      into(
        workReportComponentTable,
        reports.flatMap(({ effects }, at) =>
          effects.components.map(({ componentId, itemId, quantity, cost }) => ({
            ...base(at),
            componentId,
            itemId,
            quantity,
            cost,
          })),
        ),
      ),
      into(
        workReportOperationTable,
        reports.flatMap(({ effects }, at) => effects.operations.map((each) => ({ ...base(at), ...each }))),
      ),
      into(
        workReportTieTable,
        reports.flatMap(({ effects }, at) => effects.ties.map((each) => ({ ...base(at), ...each }))),
      ),
      into(
        stockEntryTable,
        reports.flatMap(({ effects, work }, at) => [
          ...effects.components.map(({ itemId, quantity, cost }) => ({
            ...entry(work, at),
            itemId,
            quantity: `-${quantity}`,
            cost: dec(cost).neg().toFixed(),
          })),
          ...(dec(effects.good).gt(0)
            ? [{ ...entry(work, at), itemId: work.order.itemId, quantity: effects.good, cost: effects.outputCost }]
            : []),
        ]),
      ),
    ],
    journals: reports.flatMap(({ effects }, at) => {
      const entries = workJournal(effects);
      return entries.length > 0 ? [{ source: { kind: 'WR' as const, id: idOf(at) }, postedOn: workDate, entries }] : [];
    }),
    made: reports.map((_report, at) => ({ kind: 'WR' as const, id: idOf(at), number: numbers[at]! })),
  };
}

/** Whether a report posts anything. */
export const workPosts = (effects: ReportEffects): boolean => workJournal(effects).length > 0;

async function reportToWrite(tx: Tx, report: ReportToWrite, numbers: SerialEffects, doer: Doer): Promise<LeftToWrite> {
  const { statements, number } = numbersAtLast(doer.companyId, { WR: 1, JR: workPosts(report.effects) ? 1 : 0 });
  const left = reportsToWrite(doer, [report], [number('WR')]);
  const pieces = numbersToWrite(doer, numbers, ({ at }) => newId(workReportTable, at));
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
    touched: touchedByWork(report.work),
  };
}

/** What moves the counters of the order, its parts, its ties, the order above it, and the stock. */
function workStatements(effects: ReportEffects, { order }: LoadedWork, { companyId, workDate }: Doer): Statement[] {
  const at = { locationId: order.locationId };
  const held = effects.ties.reduce((sum, tie) => sum.plus(tie.made).plus(tie.released), dec('0'));
  return [
    ...plannedStatements(effects, companyId),
    {
      sql: `UPDATE planned_order SET finished = ?, scrapped = ?, held = held - ?, in_work = ?, state = ?, version = version + 1,
              planned_cost = COALESCE(?, planned_cost), started_on = COALESCE(started_on, ?), finished_on = ?
             WHERE company_id = ? AND id = ?`,
      values: [
        effects.finished,
        effects.allScrapped,
        held.plus(effects.forParent).plus(effects.parentReleased).toFixed(),
        effects.inWork,
        effects.state,
        effects.planned?.cost ?? null,
        workDate,
        effects.state === 'finished' ? workDate : null,
        companyId,
        order.id,
      ],
    },
    ...effects.components.map(({ componentId, quantity }) => ({
      sql: 'UPDATE planned_component SET used = used + ? WHERE company_id = ? AND id = ?',
      values: [quantity, companyId, componentId],
    })),
    ...effects.operations.map(({ operationId, done, scrapped, minutes }) => ({
      sql: `UPDATE planned_operation SET done = done + ?, scrapped = scrapped + ?, minutes_done = minutes_done + ?
             WHERE company_id = ? AND id = ?`,
      values: [done, scrapped, minutes, companyId, operationId],
    })),
    ...effects.parents.map(({ componentId, made, released }) => ({
      sql: 'UPDATE planned_component SET covered = covered - ? WHERE company_id = ? AND id = ?',
      values: [dec(made).plus(released).toFixed(), companyId, componentId],
    })),
    ...effects.components.map(({ itemId, quantity, cost }) =>
      stockStatement(companyId, { ...at, itemId, quantity: `-${quantity}`, cost: dec(cost).neg().toFixed() }),
    ),
    ...(dec(effects.good).gt(0)
      ? [stockStatement(companyId, { ...at, itemId: order.itemId, quantity: effects.good, cost: effects.outputCost })]
      : []),
    ...effects.ties.flatMap((tie) => tieStatements(companyId, order, tie)),
  ];
}

/** What an order is reckoned to cost, part by part, kept from its first report on. */
function plannedStatements({ planned }: ReportEffects, companyId: number): Statement[] {
  const kept = (table: string, all: readonly { id: number; cost: string }[]) =>
    all.map(({ id, cost }) => ({
      sql: `UPDATE ${table} SET planned_cost = ? WHERE company_id = ? AND id = ?`,
      values: [cost, companyId, id],
    }));
  return planned
    ? [...kept('planned_component', planned.components), ...kept('planned_operation', planned.operations)]
    : [];
}

/** What was made for a line is held for it; what will not come is let go of. */
function tieStatements(
  companyId: number,
  { id, itemId, locationId }: LoadedWork['order'],
  { orderLineId, made, released }: ReportEffects['ties'][number],
): Statement[] {
  const which = 'company_id = ? AND planned_order_id = ? AND order_line_id = ?';
  const key = [companyId, id, orderLineId];
  return [
    ...(dec(made).gt(0)
      ? [
          {
            sql: 'UPDATE sales_order_line SET reserved = reserved + ? WHERE company_id = ? AND id = ?',
            values: [made, companyId, orderLineId],
          },
          heldStatement(companyId, itemId, locationId, made),
          { sql: `UPDATE planned_tie SET made = made + ? WHERE ${which}`, values: [made, ...key] },
        ]
      : []),
    ...(dec(released).gt(0)
      ? [
          { sql: `DELETE FROM planned_tie WHERE ${which} AND made = 0 AND quantity = ?`, values: [...key, released] },
          {
            sql: `UPDATE planned_tie SET quantity = quantity - ? WHERE ${which} AND quantity - made >= ?`,
            values: [released, ...key, released],
          },
        ]
      : []),
  ];
}
