import { pointOf } from '@core/kernel';
import { adjustmentJournal } from '@core/ledger';
import { numbered, numbersShown, type SerialEffects } from '@core/serial';
import { adjustmentNeeds, decideAdjust, decideAdjustBack, writtenOff, type AdjustEffects } from '@core/stock';
import * as contract from '@api/stock';
import { defineAct, numbersAtLast, orNotFound, type Doer, type LeftToWrite } from '../acts';
import { locationsOf, ownCurrency } from '../catalogue';
import { into, newId, type Sql, type Tx } from '../db';
import { journalEntries, journalHeads } from '../ledger';
import { journalTable } from '../ledger/tables';
import { stockStatement } from '../on-hand';
import { loadStockAndNumbers, numbersToWrite } from '../serial';
import { loadOwnJournal } from './own-journal';
import { stockEntryTable } from './tables';

const NOTHING = { onHand: '0', reserved: '0', value: '0' };

/** An item whose stock is put right, one at a time: of one that was never there, no row of stock could be locked. */
async function loadItem(sql: Sql, companyId: number, itemId: number) {
  const [item] = await sql.rows<{ id: number; number: string; currency: string }>(
    `SELECT i.id, i.number, ${ownCurrency('i.company_id')} AS currency FROM item i
      WHERE i.company_id = ? AND i.id = ? ${sql.forUpdate}`,
    [companyId, itemId],
  );
  return orNotFound(item, 'This item');
}

/** Stock put right by hand: a journal of its own, with its reason. // W6 P1 P3 */
export const adjustStock = defineAct(contract.adjustStock, {
  right: 'goods',
  says: 'put stock right',
  done: 'stock put right',
  async load(tx, { itemId, locationId, numbers: typed = [] }, { companyId }) {
    const { currency, ...item } = await loadItem(tx, companyId, itemId);
    const point = pointOf(itemId, locationId);
    const { stock, numbers } = await loadStockAndNumbers(tx, companyId, [point], { typed });
    const location = (await locationsOf(tx, companyId)).find(({ id }) => id === locationId) ?? null;
    return { item, location, stock: stock.get(point) ?? NOTHING, currency, numbers };
  },
  decide: (ground, input, { workDate }) =>
    numbered(decideAdjust(ground, input), ground.numbers, workDate, (effects) =>
      adjustmentNeeds(effects, input.numbers ?? []),
    ),
  second: (effects, { item }) => writeOffs(item.number, effects),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ quantity, cost, currency, numbers }) => ({ quantity, cost, currency, numbers: numbersShown(numbers) }),
  write: (tx, effects, _ground, doer) => adjustmentToWrite(tx, effects, doer, null),
});

/** Takes back what a journal put right. // W6 P1 */
export const takeBackAdjustment = defineAct(contract.takeBackAdjustment, {
  right: 'goods',
  says: 'take back what was put right of stock',
  done: 'adjustment taken back',
  async load(tx, { journalId }, { companyId }) {
    const [moved] = await tx.rows<{ itemId: number }>(
      "SELECT item_id FROM stock_entry WHERE company_id = ? AND document_kind = 'JR' AND document_id = ? LIMIT 1",
      [companyId, journalId],
    );
    const item = moved && (await loadItem(tx, companyId, moved.itemId));
    const { number, reason, reverses, reversedBy } = await loadOwnJournal(tx, companyId, journalId);
    const entries = await tx.rows<{ itemId: number; locationId: number; quantity: string; cost: string }>(
      "SELECT item_id, location_id, quantity, cost FROM stock_entry WHERE company_id = ? AND document_kind = 'JR' AND document_id = ?",
      [companyId, journalId],
    );
    // What was carried from one place to another, or opened the books, gives no reason.
    const entry = entries.length === 1 && reason !== '' ? { ...entries[0]!, item: item!.number } : null;
    const point = entry && pointOf(entry.itemId, entry.locationId);
    const back = [{ kind: 'JR', id: journalId }];
    const { stock, numbers } = await loadStockAndNumbers(tx, companyId, point === null ? [] : [point], { back });
    const here = (point === null ? undefined : stock.get(point)) ?? NOTHING;
    const currency = item?.currency ?? '';
    return { journalId, journal: { number }, entry, reverses, reversedBy, stock: here, currency, numbers };
  },
  decide: (ground, input, { workDate }) =>
    numbered(decideAdjustBack(ground, input), ground.numbers, workDate, () => [
      {
        way: 'back',
        of: { kind: 'JR', id: ground.journalId },
        document: ground.journal.number,
        with: { kind: 'JR', at: 0 },
        from: 'out',
        heldAgain: [],
      },
    ]),
  second: (effects, { entry }) => writeOffs(entry!.item, effects),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ quantity, cost, currency }) => ({ quantity, cost, currency }),
  write: (tx, effects, { journalId }, doer) => adjustmentToWrite(tx, effects, doer, journalId),
});

function writeOffs(item: string, effects: AdjustEffects) {
  const words = writtenOff(item, effects);
  return words ? [{ kind: 'write-off' as const, words }] : [];
}

/** The journal of an adjustment with its stock entry, in the act's last trip. */
async function adjustmentToWrite(
  tx: Tx,
  { itemId, locationId, quantity, cost, reason, numbers }: AdjustEffects & { numbers: SerialEffects },
  doer: Doer,
  reversesId: number | null,
): Promise<LeftToWrite> {
  const { companyId, workDate } = doer;
  const { statements, number } = numbersAtLast(companyId, { JR: 1 });
  // A journal that nothing else posts is its own source.
  const head = { number: number('JR'), source: { kind: 'JR' as const, id: 0 }, postedOn: workDate, reason, reversesId };
  const plans = [{ ...head, entries: adjustmentJournal(cost) }];
  const pieces = numbersToWrite(doer, numbers, () => newId(journalTable, 0));
  return {
    statements: [
      stockStatement(companyId, { itemId, locationId, quantity, cost }),
      ...pieces.statements,
      ...statements,
    ],
    insertions: [
      journalHeads(doer, plans),
      await journalEntries(tx, doer, plans),
      into(stockEntryTable, [
        {
          companyId,
          itemId,
          place: 'ours' as const,
          locationId,
          quantity,
          cost,
          postedOn: workDate,
          documentKind: 'JR',
          documentId: newId(journalTable, 0),
        },
      ]),
      ...pieces.insertions,
    ],
    made: [{ kind: 'JR' as const, id: newId(journalTable, 0), number: head.number }],
    touched: [],
  };
}
