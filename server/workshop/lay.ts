import { decideLayRest, lateFrom, type LaidWork, type LayEffects, type WaitsFor } from '@core/promise';
import { refuse } from '@core/refusals';
import { openTies, throughOf, tooLateFor, type LaidNow } from '@core/workshop';
import * as contract from '@api/workshop';
import type { Day } from '@core/kernel';
import { defineAct, type Doer, type Touched } from '../acts';
import { into, takeTurn, type Sql, type Statement, type Tx } from '../db';
import { headStatement, restGround } from '../promise';
import { centreHoldTable } from '../promise/tables';
import { holdsOf, laidNow, laidOrderStatement, laidStatements } from './laid';
import { touchedByWork, WORK_KIND } from './report';
import { loadWork, type LoadedWork } from './store';

/** What is left of an order is laid for another day or at another work centre, by somebody who sees what that moves. // T5 W3 */
export const layWork = defineAct(contract.layWork, {
  right: 'plan',
  says: 'lay production orders again',
  done: 'order laid again',
  expectedVersion: ({ workId, version }) => ({ kind: 'PR', id: workId, version }),
  load: (tx, { workId, operationId, centreId }, { companyId, workDate }) =>
    loadLaid(tx, companyId, workDate, { workId, operationId, centreId }),
  decide: ({ rows, laid }, input) => decideLayRest(rows, laid, input),
  preview({ due, operations }, { work, centres, parties, above, waits }) {
    return {
      due,
      was: work.due,
      operations: operations.map(({ name, centreId, begins, lastDay }) => ({
        name,
        centre: centres.get(centreId)!,
        firstDay: begins,
        lastDay,
      })),
      lines: openTies(work.ties).map(({ orderLineId, order, lineNo, shipDate }) => ({
        order: { kind: 'SO' as const, ...order },
        party: parties.get(orderLineId)!,
        lineNo,
        shipDate,
        late: shipDate < due,
      })),
      above: above && { ...above, late: above.neededOn <= due },
      waits: waits.filter((each) => each.due >= operations[0]!.begins),
      firm: work.order.state === 'planned',
    };
  },
  async write(tx, effects, ground, doer, { moveLines }) {
    await layAgain(tx, effects, ground, doer, { moveLines });
    return { made: [], touched: movedBy(ground.work, effects, moveLines) };
  },
});

/**
 * What is late is laid again by itself, from today on, at its own work centres: so is what waits for it. The lines that
 * ship before go with it, and are told until their customer knows. // W3
 */
export const layLate = defineAct(contract.layLate, {
  right: 'plan',
  says: 'lay late production orders again',
  done: 'laid again, being late',
  async load(tx, { workId }, { companyId, workDate }) {
    const work = await loadWork(tx, companyId, workId);
    const operations = await laidNow(tx, companyId, work);
    const waits = await tx.rows<WaitsFor>(
      `SELECT o.id AS operation_id, c.due_date AS there FROM planned_order c
         JOIN planned_component k ON k.company_id = c.company_id AND k.planned_order_id = c.parent_id AND k.item_id = c.item_id
          AND k.used < k.quantity AND k.needed_on < c.due_date
         JOIN planned_operation o ON o.company_id = k.company_id AND o.planned_order_id = k.planned_order_id AND o.no = k.operation_no
        WHERE c.company_id = ? AND c.parent_id = ? AND c.open AND c.state IN ('firm', 'running')`,
      [companyId, workId],
    );
    const from = lateFrom(laidOf(work, operations), workDate, waits);
    const operation = operations.find(({ id }) => id === from?.operationId) ?? operations[0];
    const asked = { workId, operationId: operation?.id ?? 0, centreId: operation?.centreId ?? 0 };
    return { ...(await loadLaid(tx, companyId, workDate, asked)), from, asked };
  },
  decide: ({ rows, laid, from, asked }) =>
    from
      ? decideLayRest(rows, laid, { ...asked, day: from.day })
      : { ok: false, refusals: [refuse('work-in-time', '', { work: laid.number })] },
  preview: ({ due }, { work }) => ({ due, was: work.due }),
  async write(tx, effects, ground, doer) {
    await layAgain(tx, effects, ground, doer, {
      moveLines: true,
      lateId: ground.from?.late ? ground.from.operationId : null,
    });
    return { made: [], touched: movedBy(ground.work, effects, true) };
  },
});

/**
 * The running orders with an operation that should be over before a day and is not, and those that wait for a part of
 * one that was late. Walks the open orders. // W3
 */
export async function lateWorks(sql: Sql, companyId: number, workDate: Day): Promise<number[]> {
  const rows = await sql.rows<{ id: number }>(
    `SELECT p.id FROM planned_order p FORCE INDEX (planned_order_open)
      WHERE p.company_id = ? AND p.open = TRUE AND p.kind <> 'buy' AND p.state = 'running'
        AND EXISTS (SELECT 1 FROM planned_operation w WHERE w.company_id = p.company_id AND w.planned_order_id = p.id
          AND w.last_day < ? AND w.done + w.scrapped < p.quantity - p.scrapped + w.scrapped)
     UNION
     SELECT u.id FROM planned_order p FORCE INDEX (planned_order_open)
       JOIN planned_order u ON u.company_id = p.company_id AND u.id = p.parent_id AND u.open AND u.state IN ('firm', 'running')
       JOIN planned_component k ON k.company_id = u.company_id AND k.planned_order_id = u.id AND k.item_id = p.item_id
        AND k.used < k.quantity AND k.needed_on < p.due_date
      WHERE p.company_id = ? AND p.open = TRUE AND p.kind <> 'buy' AND p.state = 'running' AND p.due_date >= ?
        AND EXISTS (SELECT 1 FROM planned_operation w WHERE w.company_id = p.company_id AND w.planned_order_id = p.id
          AND w.late_since IS NOT NULL)
      ORDER BY id`,
    [companyId, workDate, companyId, workDate],
  );
  return rows.map(({ id }) => id);
}

async function layAgain(
  tx: Tx,
  effects: LayEffects,
  { work }: Pick<Laid, 'work'>,
  doer: Doer,
  { moveLines, lateId = null }: { moveLines: boolean; lateId?: number | null },
): Promise<void> {
  const late = moveLines ? tooLateFor(work.ties, effects.due) : [];
  const begins = effects.operations.find(({ id }) => id === work.operations[0]?.id);
  await tx.batch([
    ...laidStatements(doer.companyId, effects.operations, lateId),
    laidOrderStatement(doer.companyId, work.order.id, effects.due, begins?.firstDay ?? null),
    ...late.flatMap((tie) => laterStatements(tie, effects, doer)),
  ]);
  await tx.insertBatch([into(centreHoldTable, holdsOf(doer.companyId, effects.operations))]);
}

/** What was laid again, and the orders whose lines went with it, each with the days they had and have. // S8 */
function movedBy(work: LoadedWork, { due }: LayEffects, moveLines: boolean): Touched[] {
  const moved = moveLines ? tooLateFor(work.ties, due) : [];
  return touchedByWork(work).map((document) => {
    if (document.kind !== 'SO') return { ...document, fields: [{ what: 'due', was: work.due, is: due }] };
    const fields = moved
      .filter(({ order }) => order.id === document.id)
      .map(({ lineNo, shipDate }) => ({ what: `ship date of line ${lineNo}`, was: shipDate, is: due }));
    return { ...document, fields };
  });
}

/** An order as laying it again needs it. */
const laidOf = (work: LoadedWork, operations: readonly LaidNow[]): LaidWork => ({
  number: work.order.number,
  state: work.order.state,
  quantity: work.order.quantity,
  operations: operations.map((operation) => ({ ...operation, through: throughOf(operation).toFixed() })),
});

type Laid = Awaited<ReturnType<typeof loadLaid>>;

async function loadLaid(
  sql: Sql,
  companyId: number,
  workDate: string,
  { workId, operationId, centreId }: { workId: number; operationId: number; centreId: number },
) {
  const work = await loadWork(sql, companyId, workId);
  await takeTurn(sql, 'promise_turn', [companyId]);
  const operations = await laidNow(sql, companyId, work);
  const from = operations.findIndex(({ id }) => id === operationId);
  const laid = laidOf(work, operations);
  const centreIds = [...new Set([...operations.map((each) => each.centreId), centreId])];
  const keptIds = operations.slice(0, Math.max(0, from)).map(({ id }) => id);
  const names = await sql.rows<{ id: number; name: string }>(
    'SELECT id, name FROM work_centre WHERE company_id = ? AND id IN (?)',
    [companyId, centreIds],
  );
  const parties = await sql.rows<{ id: number; party: string }>(
    `SELECT l.id, c.name AS party FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id WHERE l.company_id = ? AND l.id IN (?)`,
    [companyId, work.ties.map(({ orderLineId }) => orderLineId)],
  );
  return {
    work,
    laid,
    rows: await restGround(sql, companyId, workDate, { workId, centreIds, keptIds }),
    centres: new Map(names.map(({ id, name }) => [id, name])),
    parties: new Map(parties.map(({ id, party }) => [id, party])),
    ...(await aroundOf(sql, companyId, workId)),
  };
}

/** The order one is for, with the day it needs it; and what is made or bought for it and not there yet. */
async function aroundOf(sql: Sql, companyId: number, workId: number) {
  const [above] = await sql.rows<{ id: number; number: string; kind: 'make' | 'assemble'; neededOn: string | null }>(
    `SELECT u.id, u.number, u.kind, (SELECT MIN(k.needed_on) FROM planned_component k
              WHERE k.company_id = u.company_id AND k.planned_order_id = u.id AND k.item_id = p.item_id) AS needed_on
       FROM planned_order p JOIN planned_order u ON u.company_id = p.company_id AND u.id = p.parent_id AND u.open
      WHERE p.company_id = ? AND p.id = ?`,
    [companyId, workId],
  );
  const waits = await sql.rows<{ item: string; work: string; due: string }>(
    `SELECT i.number AS item, p.number AS work, p.due_date AS due FROM planned_order p
       JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
      WHERE p.company_id = ? AND p.parent_id = ? AND p.open ORDER BY p.due_date, p.id`,
    [companyId, workId],
  );
  const work = above && { kind: WORK_KIND[above.kind], id: above.id, number: above.number };
  return { above: above?.neededOn && work ? { work, neededOn: above.neededOn } : null, waits };
}

/** A line ships on the day what is made for it is there. */
function laterStatements(
  { orderLineId, order }: Laid['work']['ties'][number],
  { due }: LayEffects,
  doer: Doer,
): Statement[] {
  return [
    {
      sql: `UPDATE sales_order_line SET moved_from = COALESCE(moved_from, ship_date), promised_date = ?, ship_date = ?
             WHERE company_id = ? AND id = ?`,
      values: [due, due, doer.companyId, orderLineId],
    },
    headStatement(doer, order.id),
  ];
}
