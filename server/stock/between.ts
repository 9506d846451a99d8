import { pointOf } from '@core/kernel';
import { betweenJournal } from '@core/ledger';
import { numbered, numbersShown, type SerialEffects, type SerialNeed } from '@core/serial';
import { decideBetween, type CarriedEffects } from '@core/stock';
import * as contract from '@api/stock';
import { defineAct, numbersAtLast, orNotFound, type Doer, type LeftToWrite } from '../acts';
import { locationsOf } from '../catalogue';
import { into, newId, type Tx } from '../db';
import { journalEntries, journalHeads } from '../ledger';
import { stockStatement } from '../on-hand';
import { loadStockAndNumbers, numbersToWrite } from '../serial';
import { journalTable } from '../ledger/tables';
import { carriageTable, stockEntryTable } from './tables';

const NOTHING = { onHand: '0', reserved: '0', value: '0' };

/** Goods carried from one of our places to another: a journal of its own, with an entry for either. // P1 P3 */
export const moveBetween = defineAct(contract.moveBetween, {
  right: 'goods',
  says: 'move goods between our places',
  done: 'moved between our places',
  async load(tx, input, { companyId }) {
    const [item] = await tx.rows<{ id: number; number: string; currency: string }>(
      `SELECT i.id, i.number, c.currency FROM item i JOIN company c ON c.id = i.company_id
        WHERE i.company_id = ? AND i.id = ?`,
      [companyId, input.itemId],
    );
    const { currency, ...about } = orNotFound(item, 'This item');
    const from = pointOf(input.itemId, input.from);
    const points = [from, pointOf(input.itemId, input.to)];
    const { stock, numbers } = await loadStockAndNumbers(tx, companyId, points, { typed: input.numbers ?? [] });
    const locations = new Map((await locationsOf(tx, companyId)).map(({ id, name }) => [id, name]));
    return { item: about, from: input.from, locations, stock: stock.get(from) ?? NOTHING, currency, numbers };
  },
  decide: (ground, { from, to, quantity, arrivesOn, numbers = [] }, { workDate }) =>
    numbered(
      decideBetween(ground, { from, to, quantity, arrivesOn: arrivesOn ?? '' }, workDate),
      ground.numbers,
      workDate,
      (effects) => [carriedNumbers(effects, numbers)],
    ),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ quantity, value, numbers }) => ({ quantity, value, numbers: numbersShown(numbers) }),
  async write(tx, effects, { from }, doer) {
    const { itemId, quantity, carriage } = effects;
    const plan = await carriedToWrite(tx, effects, doer);
    if (!carriage) return plan;
    const row = {
      companyId: doer.companyId,
      journalId: newId(journalTable, 0),
      itemId,
      fromId: from,
      madeBy: doer.personId,
    };
    // Where they are to arrive they are told as coming, though nothing of them was ever there.
    const there = stockStatement(doer.companyId, { itemId, locationId: carriage.toId, quantity: '0', cost: '0' });
    return {
      ...plan,
      statements: [there, ...plan.statements],
      insertions: [...plan.insertions, into(carriageTable, [{ ...row, quantity, ...carriage }])],
    };
  },
});

/** The pieces that goods carried are. // P6 */
export const carriedNumbers = ({ itemId, quantity, moves }: CarriedEffects, typed: readonly string[]): SerialNeed => ({
  way: 'between',
  itemId,
  locationId: moves[0].locationId,
  toId: moves[1].locationId,
  quantity,
  with: { kind: 'JR', at: 0 },
  field: 'numbers',
  typed,
});

/** The journal of goods carried with a stock entry for either place, in the act's last trip. */
export async function carriedToWrite(
  tx: Tx,
  { itemId, value, moves, numbers }: CarriedEffects & { numbers: SerialEffects },
  doer: Doer,
  as: { reason?: string; reversesId?: number } = {},
): Promise<LeftToWrite> {
  const { companyId, workDate } = doer;
  const { statements, number } = numbersAtLast(companyId, { JR: 1 });
  // A journal that nothing else posts is its own source.
  const plan = { number: number('JR'), source: { kind: 'JR' as const, id: 0 }, postedOn: workDate, ...as };
  const plans = [{ ...plan, entries: betweenJournal(value) }];
  const pieces = numbersToWrite(doer, numbers, () => newId(journalTable, 0));
  return {
    statements: [
      ...moves.map((move) => stockStatement(companyId, { itemId, ...move })),
      ...pieces.statements,
      ...statements,
    ],
    insertions: [
      journalHeads(doer, plans),
      await journalEntries(tx, doer, plans),
      into(
        stockEntryTable,
        moves.map((move) => ({
          companyId,
          itemId,
          place: 'ours' as const,
          ...move,
          postedOn: workDate,
          documentKind: 'JR',
          documentId: newId(journalTable, 0),
        })),
      ),
      ...pieces.insertions,
    ],
    made: [{ kind: 'JR' as const, id: newId(journalTable, 0), number: plan.number }],
    touched: [],
  };
}
