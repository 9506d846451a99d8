import { decideCloseDrawer, decideDrawerMove, decideOpenDrawer, type PieceCount } from '@core/counter';
import { dec } from '@core/kernel';
import { drawerClosedJournal, drawerMoveJournal } from '@core/ledger';
import * as contract from '@api/counter';
import { defineAct, takeNumbers, type Doer, type Touched } from '../acts';
import type { Tx } from '../db';
import { postJournals } from '../ledger';
import { drawerCountTable, drawerMoveTable, drawerTable } from './tables';
import { loadTill } from './tills';

const journalOf = async (tx: Tx, doer: Doer, id: number, entries: ReturnType<typeof drawerMoveJournal>) => {
  if (entries.length === 0) return;
  const number = await takeNumbers(tx, doer.companyId, { JR: 1 });
  await postJournals(tx, doer, [
    { number: number('JR'), source: { kind: 'DR', id }, postedOn: doer.workDate, entries, currency: null },
  ]);
};

const countRows = (companyId: number, drawerId: number, counts: readonly PieceCount[]) =>
  counts.map(({ piece, count }) => ({ companyId, drawerId, piece, count: Number(count) }));

/** Opens the drawer of a till with what is counted into it, out of the bank. // C4 */
export const openDrawer = defineAct(contract.openDrawer, {
  right: 'counter',
  says: 'open drawers',
  done: 'drawer opened',
  load: (sql, { tillId }, { companyId }) => loadTill(sql, companyId, tillId),
  decide: (till, input) => decideOpenDrawer(till, input),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ float }) => ({ float }),
  async write(tx, { float }, till, doer) {
    const { companyId } = doer;
    const number = (await takeNumbers(tx, companyId, { DR: 1 }))('DR');
    const [id] = await tx.insert(drawerTable, [
      {
        companyId,
        number,
        tillId: till.id,
        openedBy: doer.personId,
        openedOn: doer.workDate,
        putIn: float,
        cash: float,
      },
    ]);
    await journalOf(tx, doer, id!, drawerMoveJournal(dec(float)));
    return { made: [{ kind: 'DR', id: id!, number }], touched: [] };
  },
});

const touchedDrawer = ({
  drawer,
  version,
}: {
  drawer: { id: number; number: string } | null;
  version: number;
}): Touched => ({
  kind: 'DR',
  id: drawer!.id,
  number: drawer!.number,
  version: version + 1,
});

/** Money put into an open drawer, or taken out, with why. // C4 */
export const moveDrawer = defineAct(contract.moveDrawer, {
  right: 'counter',
  says: 'put money into drawers',
  done: 'money moved in a drawer',
  load: (sql, { tillId }, { companyId }) => loadTill(sql, companyId, tillId),
  decide: (till, input) => decideDrawerMove(till, input),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ amount }) => ({ amount }),
  async write(tx, { amount, reason }, till, doer) {
    const { companyId } = doer;
    const drawerId = till.drawer!.id;
    await tx.run('UPDATE drawer SET cash = cash + ?, version = version + 1 WHERE company_id = ? AND id = ?', [
      amount,
      companyId,
      drawerId,
    ]);
    await tx.insertPlain(drawerMoveTable, [{ companyId, drawerId, amount, reason, movedBy: doer.personId }]);
    await journalOf(tx, doer, drawerId, drawerMoveJournal(dec(amount)));
    return { made: [], touched: [touchedDrawer(till)] };
  },
});

/** Closes the drawer with what is counted in it: that goes to the bank, and what it differs by is posted. // C4 */
export const closeDrawer = defineAct(contract.closeDrawer, {
  right: 'counter',
  says: 'close drawers',
  done: 'drawer closed',
  async load(sql, { tillId }, { companyId }) {
    const till = await loadTill(sql, companyId, tillId);
    const [cards] = await sql.rows<{ hanging: number }>(
      'SELECT COUNT(*) AS hanging FROM card_payment WHERE company_id = ? AND till_id = ? AND hanging = TRUE',
      [companyId, tillId],
    );
    return { ...till, hanging: cards!.hanging };
  },
  decide: (till, input) => decideCloseDrawer(till, input),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ counted, expected, difference }) => ({ counted, expected, difference }),
  async write(tx, { counted, expected, reason, counts }, till, doer) {
    const { companyId } = doer;
    const drawerId = till.drawer!.id;
    await tx.run(
      'UPDATE drawer SET closed_by = ?, closed_on = ?, counted = ?, reason = ?, version = version + 1 WHERE company_id = ? AND id = ?',
      [doer.personId, doer.workDate, counted, reason, companyId, drawerId],
    );
    if (counts.length > 0) await tx.insertPlain(drawerCountTable, countRows(companyId, drawerId, counts));
    await journalOf(tx, doer, drawerId, drawerClosedJournal(dec(counted), dec(expected)));
    return { made: [], touched: [touchedDrawer(till)] };
  },
});
