import { dec } from '@core/kernel';
import { workJournal } from '@core/ledger';
import { decideReport, type ReportEffects } from '@core/workshop';
import * as contract from '@api/workshop';
import { defineAct, numbersAtLast, type Doer, type LeftToWrite, type Touched } from '../acts';
import { into, newId, type Statement, type Tx } from '../db';
import { journalEntries, journalHeads } from '../ledger';
import { heldStatement } from '../orders';
import { stockStatement } from '../stock';
import { stockEntryTable } from '../stock/tables';
import { loadWork, type LoadedWork } from './store';
import { workReportComponentTable, workReportOperationTable, workReportTable, workReportTieTable } from './tables';

export const WORK_KIND = { make: 'PR', assemble: 'AS' } as const;

/** What was done on an order: a work report, with its stock entries and its journal. // W3 P3 */
export const reportWork = defineAct(contract.reportWork, {
  right: 'work',
  says: 'report work',
  done: 'work reported',
  load: (tx, { workId }, { companyId }) => loadWork(tx, companyId, workId),
  decide: (ground, input) => decideReport(ground, input),
  posts: (_effects, { workDate }) => workDate,
  preview: (effects, { order, ties }) => ({
    ...effects,
    ties: effects.ties.map(({ orderLineId, made, released }) => {
      const tie = ties.find((each) => each.orderLineId === orderLineId)!;
      return { order: { kind: 'SO' as const, ...tie.order }, lineNo: tie.lineNo, made, released };
    }),
    left: dec(order.quantity).minus(effects.finished).minus(effects.allScrapped).toFixed(),
  }),
  write: (tx, effects, ground, doer, input) => reportToWrite(tx, effects, ground, doer, input.operationId),
});

/** The documents an order's report touches: itself and the orders it is for. */
export function touchedByWork({ order, ties, version }: LoadedWork): Touched[] {
  const orders = new Map(ties.map((tie) => [tie.order.id, tie.order]));
  return [
    { kind: WORK_KIND[order.kind], id: order.id, number: order.number, version: version + 1 },
    ...[...orders.values()].map((each) => ({ kind: 'SO' as const, ...each })),
  ];
}

async function reportToWrite(
  tx: Tx,
  effects: ReportEffects,
  ground: LoadedWork,
  doer: Doer,
  operationId: number | null,
): Promise<LeftToWrite> {
  const { companyId, personId, workDate } = doer;
  const { order } = ground;
  const reportId = newId(workReportTable, 0);
  const entries = workJournal(effects);
  const { statements, number } = numbersAtLast(companyId, { WR: 1, JR: entries.length > 0 ? 1 : 0 });
  const reportNumber = number('WR');
  const plans =
    entries.length > 0
      ? [{ number: number('JR'), source: { kind: 'WR' as const, id: reportId }, postedOn: workDate, entries }]
      : [];
  const base = { companyId, reportId };
  const entry = {
    companyId,
    place: 'ours' as const,
    locationId: order.locationId,
    postedOn: workDate,
    documentKind: 'WR',
    documentId: reportId,
  };
  const output = dec(effects.good).gt(0)
    ? [{ ...entry, itemId: order.itemId, quantity: effects.good, cost: effects.outputCost }]
    : [];
  return {
    statements: [...workStatements(effects, ground, doer), ...statements],
    insertions: [
      into(
        workReportTable,
        [
          {
            companyId,
            number: reportNumber,
            plannedOrderId: order.id,
            operationId,
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
          },
        ],
        { ids: true },
      ),
      into(
        workReportComponentTable,
        effects.components.map(({ componentId, itemId, quantity, cost }) => ({
          ...base,
          componentId,
          itemId,
          quantity,
          cost,
        })),
      ),
      into(
        workReportOperationTable,
        effects.operations.map((each) => ({ ...base, ...each })),
      ),
      into(
        workReportTieTable,
        effects.ties.map((each) => ({ ...base, ...each })),
      ),
      into(stockEntryTable, [
        ...effects.components.map(({ itemId, quantity, cost }) => ({
          ...entry,
          itemId,
          quantity: `-${quantity}`,
          cost: dec(cost).neg().toFixed(),
        })),
        ...output,
      ]),
      journalHeads(doer, plans),
      await journalEntries(tx, doer, plans),
    ],
    made: [{ kind: 'WR' as const, id: reportId, number: reportNumber }],
    touched: touchedByWork(ground),
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
