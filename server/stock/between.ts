import { pointOf } from '@core/kernel';
import { betweenJournal } from '@core/ledger';
import { numbered, numbersShown } from '@core/serial';
import { decideBetween } from '@core/stock';
import * as contract from '@api/stock';
import { defineAct, numbersAtLast, orNotFound } from '../acts';
import { locationsOf } from '../catalogue';
import { into, newId } from '../db';
import { journalEntries, journalHeads } from '../ledger';
import { stockStatement } from '../on-hand';
import { loadStockAndNumbers, numbersToWrite } from '../serial';
import { journalTable } from '../ledger/tables';
import { stockEntryTable } from './tables';

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
    return { item: about, locations, stock: stock.get(from) ?? NOTHING, currency, numbers };
  },
  decide: (ground, { from, to, quantity, numbers = [] }, { workDate }) =>
    numbered(decideBetween(ground, { from, to, quantity }), ground.numbers, workDate, (effects) => [
      {
        way: 'between',
        itemId: effects.itemId,
        locationId: from,
        toId: to,
        quantity: effects.quantity,
        with: { kind: 'JR', at: 0 },
        field: 'numbers',
        typed: numbers,
      },
    ]),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ quantity, value, numbers }) => ({ quantity, value, numbers: numbersShown(numbers) }),
  async write(tx, { itemId, value, moves, numbers }, _ground, doer) {
    const { companyId, workDate } = doer;
    const { statements, number } = numbersAtLast(companyId, { JR: 1 });
    // A journal that nothing else posts is its own source.
    const plan = { number: number('JR'), source: { kind: 'JR' as const, id: 0 }, postedOn: workDate };
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
  },
});
