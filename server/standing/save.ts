import {
  decidePasted,
  decideStanding,
  decideState,
  firstDates,
  type StandingGround,
  type StandingSaved,
} from '@core/standing';
import * as contract from '@api/standing';
import { defineAct, takeNumbers, type Doer, type Touched } from '../acts';
import type { Sql, Tx } from '../db';
import { closedOf, datesOf, dueStatement, loadStanding, LOOKED_BACK } from './ground';
import { standingDateTable, standingLineTable, standingOrderTable, standingTermTable } from './tables';

/** What of items standing orders may name. */
export async function orderable(sql: Sql, companyId: number, ids: readonly number[]): Promise<StandingGround['items']> {
  const rows = await sql.rows<{ id: number; number: string; unit: string; outOfUse: boolean; units: string | null }>(
    `SELECT i.id, i.number, i.unit, i.out_of_use, (SELECT GROUP_CONCAT(u.unit SEPARATOR '\n') FROM item_unit u
        WHERE u.company_id = i.company_id AND u.item_id = i.id) AS units
       FROM item i WHERE i.company_id = ? AND i.id IN (?)`,
    [companyId, ids],
  );
  return new Map(
    rows.map(({ id, number, unit, outOfUse, units }) => [
      id,
      { number, outOfUse, units: [unit, ...(units ?? '').split('\n').filter((each) => each !== '')] },
    ]),
  );
}

/** Writes a new standing order; its id. */
export async function insertStanding(
  tx: Tx,
  doer: Doer,
  number: string,
  customerId: number,
  saved: StandingSaved,
): Promise<number> {
  const { companyId } = doer;
  const [id] = await tx.insert(standingOrderTable, [
    {
      companyId,
      number,
      customerId,
      shipToId: saved.shipToId,
      customerReference: saved.customerReference,
      firstDay: saved.firstDay,
      lastDay: saved.lastDay,
      aheadDays: saved.aheadDays,
      closed: saved.closed,
    },
  ]);
  await insertTerm(tx, companyId, id!, saved);
  return id!;
}

async function insertTerm(tx: Tx, companyId: number, id: number, { from, rule, lines }: StandingSaved): Promise<void> {
  const [termId] = await tx.insert(standingTermTable, [{ companyId, standingOrderId: id, fromDay: from, rule }]);
  await tx.insertPlain(
    standingLineTable,
    lines.map((line, at) => ({ companyId, termId: termId!, lineNo: at + 1, ...line })),
  );
}

/** A standing order made, or changed from a day on: what it said before holds until then. // S7 */
export const saveStanding = defineAct(contract.saveStanding, {
  right: 'orders',
  says: 'keep standing orders',
  done: 'standing order saved',
  expectedVersion: ({ id, version }) => (id === null ? null : { kind: 'ST', id, version: version ?? 0 }),
  async load(sql, input, { companyId }) {
    const loaded = input.id === null ? null : await loadStanding(sql, companyId, input.id);
    const customerId = loaded?.head.customerId ?? input.customerId;
    const [customer] = await sql.rows<{ id: number }>('SELECT id FROM customer WHERE company_id = ? AND id = ?', [
      companyId,
      customerId ?? 0,
    ]);
    const shipTos = await sql.rows<{ id: number }>('SELECT id FROM ship_to WHERE company_id = ? AND customer_id = ?', [
      companyId,
      customerId ?? 0,
    ]);
    return {
      loaded,
      ground: {
        now: loaded && { number: loaded.head.number, state: loaded.head.state, firstDay: loaded.head.firstDay },
        customer: customer ?? null,
        shipToIds: shipTos.map(({ id }) => id),
        items: await orderable(
          sql,
          companyId,
          input.lines.flatMap(({ itemId }) => itemId ?? []),
        ),
      },
      closed: loaded?.closed ?? (await closedOf(sql, companyId)),
    };
  },
  decide: ({ ground }, input, { workDate }) => decideStanding(ground, input, workDate),
  preview: (saved, { loaded, closed }) => ({
    dates: firstDates({ ...saved, said: loaded?.plan.said ?? new Map() }, saved, closed),
  }),
  async write(tx, saved, { loaded, ground }, doer) {
    const { companyId, workDate } = doer;
    if (!loaded) {
      const number = (await takeNumbers(tx, companyId, { ST: 1 }))('ST');
      const id = await insertStanding(tx, doer, number, ground.customer!.id, saved);
      await tx.batch([dueStatement(companyId, await loadStanding(tx, companyId, id), workDate)]);
      return { made: [{ kind: 'ST', id, number, version: 2 }], touched: [] };
    }
    const { head } = loaded;
    await tx.run(
      `UPDATE standing_order SET ship_to_id = ?, customer_reference = ?, first_day = ?, last_day = ?, ahead_days = ?, closed = ?
        WHERE company_id = ? AND id = ?`,
      [
        saved.shipToId,
        saved.customerReference,
        saved.firstDay < head.firstDay ? saved.firstDay : head.firstDay,
        saved.lastDay,
        saved.aheadDays,
        saved.closed,
        companyId,
        head.id,
      ],
    );
    // What was to hold from later on is overtaken: one change holds from its day until the next is typed.
    const overtaken = loaded.terms.filter(({ fromDay }) => fromDay >= saved.from).map(({ id }) => id);
    if (overtaken.length > 0) {
      await tx.run('DELETE FROM standing_line WHERE company_id = ? AND term_id IN (?)', [companyId, overtaken]);
      await tx.run('DELETE FROM standing_term WHERE company_id = ? AND id IN (?)', [companyId, overtaken]);
    }
    await insertTerm(tx, companyId, head.id, saved);
    await tx.batch([dueStatement(companyId, await loadStanding(tx, companyId, head.id), workDate)]);
    return {
      made: [],
      touched: [{ kind: 'ST', id: head.id, number: head.number, version: head.version + 1 }],
    };
  },
});

/** Paused, going on again, or ended: what was made stays. // S7 */
export const setStanding = defineAct(contract.setStanding, {
  right: 'orders',
  says: 'pause and end standing orders',
  done: 'standing order set',
  expectedVersion: ({ id, version }) => ({ kind: 'ST', id, version }),
  async load(sql, { id }, { companyId, workDate }) {
    const loaded = await loadStanding(sql, companyId, id);
    return { loaded, dates: datesOf(loaded, workDate, LOOKED_BACK) };
  },
  decide: ({ loaded: { head }, dates }, { state }, { workDate }) =>
    decideState({ number: head.number, state: head.state, dates }, state, workDate),
  preview: ({ state, skipped }) => ({ state, skipped: skipped.length }),
  async write(tx, { state, skipped }, { loaded }, { companyId, workDate }) {
    const { head, plan } = loaded;
    const said = new Map(plan.said);
    for (const day of skipped) said.set(day, { state: 'skipped', orderId: null, why: 'it was paused' });
    await tx.insertPlain(
      standingDateTable,
      skipped.map((day) => ({ companyId, standingOrderId: head.id, day, ...said.get(day)! })),
    );
    await tx.run('UPDATE standing_order SET state = ? WHERE company_id = ? AND id = ?', [state, companyId, head.id]);
    const now = { ...loaded, head: { ...head, state }, plan: { ...plan, said } };
    await tx.batch([dueStatement(companyId, now, workDate)]);
    return { made: [], touched: [{ kind: 'ST', id: head.id, number: head.number, version: head.version + 1 }] };
  },
});

/** Standing orders for many customers by pasted rows: those of one customer, rule and first day are one. // S7 */
export const pasteStanding = defineAct(contract.pasteStanding, {
  right: 'orders',
  says: 'keep standing orders',
  done: 'standing orders pasted',
  async load(sql, { rows }, { companyId }) {
    const customers = await sql.rows<{ id: number; number: string; name: string; shipToId: number | null }>(
      `SELECT c.id, c.number, c.name, (SELECT MIN(s.id) FROM ship_to s WHERE s.company_id = c.company_id AND s.customer_id = c.id) AS ship_to_id
         FROM customer c WHERE c.company_id = ? AND (c.number IN (?) OR c.name IN (?))`,
      [companyId, rows.map(({ customer }) => customer.trim()), rows.map(({ customer }) => customer.trim())],
    );
    const items = await sql.rows<{ id: number }>('SELECT id FROM item WHERE company_id = ? AND number IN (?)', [
      companyId,
      rows.map(({ item }) => item.trim()),
    ]);
    return {
      customers,
      items: await orderable(
        sql,
        companyId,
        items.map(({ id }) => id),
      ),
    };
  },
  decide: (ground, input, { workDate }) => decidePasted(ground, input, workDate),
  preview: (orders) => ({
    standing: orders.length,
    lines: orders.reduce((sum, { saved }) => sum + saved.lines.length, 0),
  }),
  async write(tx, orders, _ground, doer) {
    const { companyId, workDate } = doer;
    const number = await takeNumbers(tx, companyId, { ST: orders.length });
    const made: Touched[] = [];
    for (const { customerId, saved } of orders) {
      const text = number('ST');
      const id = await insertStanding(tx, doer, text, customerId, saved);
      await tx.batch([dueStatement(companyId, await loadStanding(tx, companyId, id), workDate)]);
      made.push({ kind: 'ST', id, number: text, version: 2 });
    }
    return { made, touched: [] };
  },
});
