import type { Day } from '@core/kernel';
import { refuse, sentenceOf } from '@core/refusals';
import { decideMake, decideSkip, nextDue } from '@core/standing';
import * as contract from '@api/standing';
import { actNamed, defineAct, doWithin, Refused, type Doer, type Touched } from '../acts';
import type { Sql, Tx } from '../db';
import { datesOf, dueStatement, loadStanding, LOOKED_BACK } from './ground';
import { standingDateTable } from './tables';

const MOST_WHY = 400;

async function loadDate(sql: Sql, { companyId, workDate }: Doer, id: number, day: Day) {
  const loaded = await loadStanding(sql, companyId, id);
  const date = datesOf(loaded, workDate, LOOKED_BACK).find((each) => each.day === day) ?? null;
  return { loaded, date, number: loaded.head.number, state: loaded.head.state };
}

const standingOf = ({ head }: { head: { id: number; number: string; version: number } }): Touched => ({
  kind: 'ST',
  id: head.id,
  number: head.number,
  version: head.version + 1,
});

/** Keeps what was said or done about a date, and when the next is due. */
async function say(
  tx: Tx,
  { companyId, workDate }: Doer,
  { loaded }: Awaited<ReturnType<typeof loadDate>>,
  day: Day,
  said: { state: 'skipped' | 'made' | 'refused'; orderId: number | null; why: string } | null,
): Promise<void> {
  const { head } = loaded;
  await tx.run(
    "DELETE FROM standing_date WHERE company_id = ? AND standing_order_id = ? AND day = ? AND state <> 'made'",
    [companyId, head.id, day],
  );
  if (said) {
    const why = said.why.slice(0, MOST_WHY);
    await tx.insertPlain(standingDateTable, [{ companyId, standingOrderId: head.id, day, ...said, why }]);
  }
  const plan = { ...loaded.plan, said: new Map(loaded.plan.said) };
  if (said) plan.said.set(day, said);
  else plan.said.delete(day);
  await tx.batch([dueStatement(companyId, { ...loaded, plan }, workDate)]);
}

/**
 * Makes the order of a date: at the prices, permits, agreements and credit of the day it is made. What stands against
 * confirming leaves it a draft, with the reason; what cannot even be ordered stands as refused. // S7
 */
export const makeStanding = defineAct(contract.makeStanding, {
  right: 'orders',
  says: 'make orders of standing orders',
  done: 'order of a standing order made',
  load: (sql, { id, day }, doer) => loadDate(sql, doer, id, day),
  decide: (ground, { day }, { origin, workDate }) =>
    decideMake(ground, day, workDate, origin === 'clock' ? 'clock' : 'person'),
  preview: ({ shipDay }) => ({ shipDay }),
  async write(tx, { shipDay, passed }, ground, doer, { day }) {
    const { head, terms } = ground.loaded;
    const term = terms.find(({ id }) => id === ground.date!.termId)!;
    const refused = async (refusals: Refused['refusals']) => {
      await say(tx, doer, ground, day, { state: 'refused', orderId: null, why: refusals.map(sentenceOf).join(' ') });
      return { made: [], touched: [standingOf(ground.loaded)] };
    };
    if (passed) return refused([refuse('date-passed', 'day', { day })]);
    let saved;
    try {
      saved = await doWithin(
        tx,
        actNamed('saveOrder')!,
        {
          id: null,
          version: null,
          customerId: head.customerId,
          shipToId: head.shipToId,
          customerReference: head.customerReference,
          lines: await linesOf(tx, doer.companyId, term.lines, shipDay),
        },
        doer,
      );
    } catch (error) {
      if (error instanceof Refused) return refused(error.refusals);
      throw error;
    }
    const [order] = saved.made;
    let why = '';
    let made: Touched = order!;
    const touched = [...saved.touched];
    try {
      const confirmed = await doWithin(tx, actNamed('confirmOrder')!, { id: order!.id, version: 1 }, doer);
      made = confirmed.touched.find(({ kind, id }) => kind === 'SO' && id === made.id) ?? made;
      touched.push(...confirmed.made, ...confirmed.touched.filter((each) => each !== made));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      why = error.refusals.map(sentenceOf).join(' ');
    }
    await say(tx, doer, ground, day, { state: 'made', orderId: order!.id, why });
    return { made: [made], touched: [...touched, standingOf(ground.loaded)] };
  },
});

/** The lines of an order of it: each by the way its item goes, from stock where it lies there. */
async function linesOf(
  sql: Sql,
  companyId: number,
  lines: readonly { itemId: number; quantity: string; unit: string }[],
  shipDate: Day,
) {
  const routes = await sql.rows<{ id: number; route: string; kept: number }>(
    `SELECT i.id, i.route, EXISTS (SELECT 1 FROM stock s WHERE s.company_id = i.company_id AND s.item_id = i.id AND s.on_hand > 0) AS kept
       FROM item i WHERE i.company_id = ? AND i.id IN (?)`,
    [companyId, lines.map(({ itemId }) => itemId)],
  );
  const routeOf = new Map(routes.map(({ id, route, kept }) => [id, kept === 1 ? 'stock' : route]));
  return lines.map(({ itemId, quantity, unit }) => ({
    id: null,
    itemId,
    quantity,
    shipDate,
    route: routeOf.get(itemId) ?? 'stock',
    ...(unit === '' ? {} : { unit }),
  }));
}

/** Skips one date with why, or takes that back. // S7 */
export const skipStanding = defineAct(contract.skipStanding, {
  right: 'orders',
  says: 'skip dates of standing orders',
  done: 'date of a standing order skipped',
  load: (sql, { id, day }, doer) => loadDate(sql, doer, id, day),
  decide: (ground, input) => decideSkip(ground, input),
  preview: () => ({}),
  async write(tx, { why }, ground, doer, { day, skipped }) {
    await say(tx, doer, ground, day, skipped ? { state: 'skipped', orderId: null, why } : null);
    return { made: [], touched: [standingOf(ground.loaded)] };
  },
});

/** Standing orders looked at in one go. */
const DUE_PAGE = 200;

/**
 * Dates that are due on a day: of each standing order that is due the first; made (or refused), the next is due or none.
 * One whose date moved since, as we are closed on it, is due no more and stands in nobody's way. Cost: a page of them.
 */
export async function dueDates(sql: Sql, companyId: number, workDate: Day): Promise<{ id: number; day: Day }[]> {
  let after: { id: number; dueOn: Day } = { id: 0, dueOn: '0000-01-01' };
  for (;;) {
    const due = await sql.rows<{ id: number; dueOn: Day }>(
      `SELECT id, due_on FROM standing_order FORCE INDEX (standing_order_due)
        WHERE company_id = ? AND state = 'active' AND due_on <= ? AND (due_on > ? OR (due_on = ? AND id > ?))
        ORDER BY due_on, id LIMIT ${DUE_PAGE}`,
      [companyId, workDate, after.dueOn, after.dueOn, after.id],
    );
    const dates: { id: number; day: Day }[] = [];
    for (const { id } of due) {
      const loaded = await loadStanding(sql, companyId, id);
      const next = nextDue(datesOf(loaded, workDate, LOOKED_BACK), loaded.head.aheadDays);
      if (next && next.on <= workDate) dates.push({ id, day: next.day });
    }
    if (dates.length > 0 || due.length < DUE_PAGE) return dates;
    after = due.at(-1)!;
  }
}
