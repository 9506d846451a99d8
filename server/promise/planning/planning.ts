import { createHash } from 'node:crypto';
import { itemAt, type Day } from '@core/kernel';
import { decidePlanning, decideTakeProposals, type Proposal, type ProposalEffects } from '@core/promise';
import * as contract from '@api/promise';
import { defineAct, GroundMoved, takeNumbers, orNotFound, type Doer, type Touched } from '../../acts';
import { counterStatements, loadAgreements, loadOffers } from '../../agreements';
import { locationsOf } from '../../catalogue';
import { takeTurn, type Columns, type Sql, type Tx } from '../../db';
import {
  agreementsTouched,
  answerStatements,
  boughtItems,
  insertPurchases,
  loadForAnswer,
  touchedByAnswer,
  vendorsOf,
} from '../../supply';
import { cancelPlanned, KIND, loadStatement, operationRows, writePlanned } from '../asking/acts';
import { HORIZON } from '../ground/ground';
import { familyOf, groundOfPlanning } from '../ground/planning-ground';
import { foundOf, RUN, type RunRow, type TakenOf } from './planning-reads';
import { LOST_SECONDS } from '../again/repromise';
import { plannedOnThread } from '../runs/on-thread';
import type { PlannedOrder } from '../tables';
import { promiseRunTable } from '../tables';

export const startPlanning = defineAct(contract.startPlanning, {
  right: 'plan',
  says: 'plan what items need',
  done: 'planning begun',
  async load(tx, input, doer) {
    // Two who begin at once go one after the other: the second sees the run of the first.
    await takeTurn(tx, 'promise_turn', [doer.companyId]);
    const [going] = await tx.rows<{ id: number }>(
      `SELECT id FROM promise_run WHERE company_id = ? AND kind = 'plan' AND state IN ('waiting', 'running')
          AND beat_at > NOW(3) - INTERVAL ? SECOND LIMIT 1`,
      [doer.companyId, LOST_SECONDS],
    );
    const items = await tx.rows<{ id: number }>(
      `SELECT id FROM item WHERE company_id = ? ${input.itemIds.length > 0 ? 'AND id IN (?)' : ''}`,
      [doer.companyId, ...(input.itemIds.length > 0 ? [input.itemIds] : [])],
    );
    return { going: going !== undefined, items: new Set(items.map((item) => item.id)), horizon: HORIZON };
  },
  decide: (ground, input, doer) => decidePlanning(ground, input, doer.workDate),
  preview: ({ items }) => ({ items }),
  async write(tx, { items, until }, _ground, doer, input) {
    await tx.insert(promiseRunTable, [
      {
        companyId: doer.companyId,
        kind: 'plan',
        personId: doer.personId,
        workDate: doer.workDate,
        untilDay: until,
        itemIds: JSON.stringify(input.itemIds),
        total: items,
      },
    ]);
    return { made: [], touched: [] };
  },
});

/** A run with the proposals that are asked of it, and the ground they stand on as it is now. */
async function standing(sql: Sql, companyId: number, workDate: Day, input: { id: number; at: readonly number[] }) {
  const { run, asked, ...found } = await askedOf(sql, companyId, input);
  const chosen = JSON.parse(run.itemIds) as number[];
  const items = new Set(asked.map((each) => itemAt(each.itemId)));
  const family = chosen.length > 0 ? chosen : await familyOf(sql, companyId, [...items]);
  const ground = await groundOfPlanning(sql, companyId, workDate, family);
  const stamp = createHash('sha256').update(JSON.stringify(ground)).digest('hex');
  return { ...found, run, asked, ...ground, stamp };
}

async function askedOf(sql: Sql, companyId: number, { id, at }: { id: number; at: readonly number[] }) {
  const [row] = await sql.rows<RunRow>(
    `SELECT ${RUN} FROM promise_run WHERE company_id = ? AND id = ? AND kind = 'plan'`,
    [companyId, id],
  );
  const run = orNotFound(row, 'This run');
  const { proposals } = foundOf(run);
  return { run, proposals, asked: at.flatMap((each) => proposals[each] ?? []) };
}

export const takeProposals = defineAct(contract.takeProposals, {
  right: 'plan',
  says: 'take what a planning run proposes',
  done: 'proposals taken',
  // The run is made anew on a thread, while nobody waits for it; taking holds its ground against the one it locks.
  async prepare(database, input, { companyId, workDate }) {
    const { rows, forecast, run, stamp } = await database.snapshot((sql) => standing(sql, companyId, workDate, input));
    return { stamp, now: await plannedOnThread({ rows, forecast, until: run.untilDay }) };
  },
  async load(tx, input, doer, prepared) {
    const { companyId, workDate } = doer;
    const { asked } = await askedOf(tx, companyId, input);
    const places = asked.flatMap((each) => (each.kind === 'place' ? [each] : []));
    const vendorIds = [...new Set(places.flatMap(({ vendorId }) => vendorId ?? []))];
    const purchaseIds = [
      ...new Set(asked.flatMap((each) => (each.kind !== 'place' && each.source.kind === 'PO' ? [each.source.id] : []))),
    ].sort((a, b) => a - b);
    // The lock order: agreements, the turn, purchases.
    const buying = await loadOffers(tx, companyId, { vendorIds, day: workDate });
    const agreed = await tx.rows<{ id: number }>(
      `SELECT DISTINCT al.agreement_id AS id FROM purchase_order_line l
         JOIN agreement_line al ON al.company_id = l.company_id AND al.id = l.agreement_line_id
        WHERE l.company_id = ? AND l.purchase_order_id IN (?)`,
      [companyId, purchaseIds],
    );
    await loadAgreements(
      tx,
      companyId,
      agreed.map((each) => each.id),
    );
    await takeTurn(tx, 'promise_turn', [companyId]);
    const purchases = [];
    for (const id of purchaseIds) purchases.push(await loadForAnswer(tx, companyId, id));
    // Read under the turn: what another took of this run meanwhile is taken, and nobody plans on this ground.
    const { run, proposals, rows, stamp } = await standing(tx, companyId, workDate, input);
    if (stamp !== prepared.stamp) throw new GroundMoved();
    const moving = asked.flatMap((each) =>
      each.kind !== 'place' && each.source.kind !== 'PO' ? [each.source.id] : [],
    );
    const planned = await tx.rows<Columns<PlannedOrder, 'id startDate number kind'>>(
      'SELECT id, start_date, number, kind FROM planned_order WHERE company_id = ? AND id IN (?)',
      [companyId, moving],
    );
    return {
      run,
      proposals,
      taken: JSON.parse(run.taken) as TakenOf,
      rows,
      now: prepared.now,
      starts: new Map(planned.map((each) => [each.id, each.startDate])),
      planned,
      purchases,
      buying: buying.map((offer) => ({ ...offer, vendorId: offer.vendorId ?? 0 })),
      vendors: await vendorsOf(tx, companyId, vendorIds),
      locationIds: (await locationsOf(tx, companyId)).map((each) => each.id),
      items: await boughtItems(
        tx,
        companyId,
        places.map((each) => itemAt(each.itemId)),
        workDate,
      ),
    };
  },
  decide: (ground, input, doer) =>
    decideTakeProposals(ground, input.at, doer.workDate, doer.rights.includes('purchases')),
  preview: ({ orders, bought, moved, cancelled, changed }) => {
    const lines = changed.flatMap((each) => each.lines);
    return {
      planned: orders.length,
      purchases: bought.length,
      moved: moved.length + lines.filter((line) => !line.stops).length,
      cancelled: cancelled.length + lines.filter((line) => line.stops).length,
    };
  },
  async write(tx, effects, { run, taken, proposals, purchases, planned, buying }, doer, input) {
    const { companyId } = doer;
    const outcome = new Map<string, Touched>();
    await cancelPlanned(tx, doer, effects.cancelled);
    await movePlanned(tx, doer, effects.moved);
    const orders = await writePlanned(tx, doer, effects.orders);
    effects.orders.forEach((order, at) => outcome.set(order.field, orders[at]!));
    const released = effects.bought.flatMap((each) => each.effects.released);
    const number = await takeNumbers(
      tx,
      companyId,
      { PO: effects.bought.length },
      counterStatements(companyId, 'released', released),
    );
    const placed = await insertPurchases(
      tx,
      doer,
      effects.bought.map((each) => each.effects.purchase),
      () => number('PO'),
    );
    effects.bought.forEach(({ fields }, at) => fields.forEach((field) => outcome.set(field, placed[at]!)));
    const touched: Touched[] = [];
    for (const { purchaseId, effects: answer, fields } of effects.answers) {
      const purchase = purchases.find((each) => each.purchase.id === purchaseId)!;
      // Their answer was to the days that stood before.
      await tx.batch(answerStatements(companyId, purchaseId, answer, null));
      touched.push(...touchedByAnswer(purchase));
      fields.forEach((field) => outcome.set(field, { kind: 'PO', id: purchaseId, number: purchase.purchase.number }));
    }
    for (const row of planned) {
      touched.push({ kind: KIND[row.kind], id: row.id, number: row.number });
    }
    const takenNow: TakenOf = { ...taken };
    input.at.forEach((at, index) => {
      const proposal = proposals[at]!;
      const { kind, id, number: made } = outcome.get(`at.${index}`) ?? sourceOf(proposal);
      takenNow[at] = { kind, id, number: made };
    });
    await tx.run('UPDATE promise_run SET taken = ? WHERE company_id = ? AND id = ?', [
      JSON.stringify(takenNow),
      companyId,
      run.id,
    ]);
    return { made: [...orders, ...placed], touched: [...touched, ...agreementsTouched(buying, released)] };
  },
});

const sourceOf = (proposal: Proposal) =>
  proposal.kind === 'place' ? { kind: 'PL', id: 0, number: '' } : proposal.source;

/** Planned orders move with what they need; their operations are laid anew. */
async function movePlanned(tx: Tx, doer: Doer, moved: ProposalEffects['moved']): Promise<void> {
  if (moved.length === 0) return;
  const { companyId } = doer;
  const ids = moved.map((each) => each.id);
  await tx.batch([
    loadStatement(companyId, ids),
    {
      sql: 'DELETE FROM planned_operation WHERE company_id = ? AND planned_order_id IN (?)',
      values: [companyId, ids],
    },
    ...moved.flatMap(({ id, by }) => [
      {
        sql: `UPDATE planned_order SET start_date = start_date + INTERVAL ? DAY, due_date = due_date + INTERVAL ? DAY,
                version = version + 1 WHERE company_id = ? AND id = ?`,
        values: [by, by, companyId, id],
      },
      {
        sql: `UPDATE planned_component SET needed_on = needed_on + INTERVAL ? DAY
               WHERE company_id = ? AND planned_order_id = ?`,
        values: [by, companyId, id],
      },
    ]),
  ]);
  await operationRows(
    tx,
    doer,
    moved.flatMap(({ id, operations }) => operations.map((operation) => ({ operation, orderId: id }))),
  );
}
