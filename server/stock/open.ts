import { pointOf } from '@core/kernel';
import { openingJournal } from '@core/ledger';
import { numbered } from '@core/serial';
import { adjustmentNeeds, decideOpenStock } from '@core/stock';
import * as contract from '@api/stock';
import { defineAct, numbersAtLast } from '../acts';
import { locationsOf } from '../catalogue';
import { into, newId } from '../db';
import { journalEntries, journalHeads } from '../ledger';
import { journalTable } from '../ledger/tables';
import { stockStatement } from '../on-hand';
import { loadStockAndNumbers, numbersToWrite } from '../serial';
import { stockEntryTable } from './tables';

/** The stock a company begins with, against the opening balance: one journal for all that is opened together. // U3 P3 */
export const openStock = defineAct(contract.openStock, {
  right: 'goods',
  says: 'open stock',
  done: 'stock opened',
  async load(tx, { lines }, { companyId }) {
    const items = await tx.rows<{ id: number; number: string; stocked: boolean }>(
      `SELECT id, number, stocked FROM item FORCE INDEX (item_number)
        WHERE company_id = ? AND number IN (?) ORDER BY id ${tx.forUpdate}`,
      [companyId, [...new Set(lines.map(({ item }) => item.trim()))]],
    );
    const locations = await locationsOf(tx, companyId);
    const [company] = await tx.rows<{ currency: string }>('SELECT currency FROM company WHERE id = ?', [companyId]);
    const byNumber = new Map(items.map((item) => [item.number.toLowerCase(), item]));
    const known = lines.map((line) => {
      const place = line.location.trim().toLowerCase();
      return {
        item: byNumber.get(line.item.trim().toLowerCase()) ?? null,
        location:
          (place === ''
            ? locations[0]
            : locations.find(({ code, name }) => code.toLowerCase() === place || name.toLowerCase() === place)) ?? null,
      };
    });
    const posted = await tx.rows<{ itemId: number; locationId: number }>(
      'SELECT DISTINCT item_id, location_id FROM stock_entry WHERE company_id = ? AND item_id IN (?)',
      [companyId, items.map(({ id }) => id)],
    );
    const points = known.flatMap(({ item, location }) => (item && location ? [pointOf(item.id, location.id)] : []));
    const { numbers } = await loadStockAndNumbers(tx, companyId, [...new Set(points)], {
      typed: lines.flatMap((line) => line.numbers),
    });
    return {
      lines: known,
      posted: new Set(posted.map(({ itemId, locationId }) => pointOf(itemId, locationId))),
      currency: company!.currency,
      numbers,
    };
  },
  decide: (ground, input, { workDate }) =>
    numbered(decideOpenStock(ground, input), ground.numbers, workDate, ({ lines }) =>
      lines.flatMap((line) =>
        adjustmentNeeds(line, input.lines[line.index]!.numbers).map((need) => ({
          ...need,
          field: `lines.${line.index}.numbers`,
        })),
      ),
    ),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ lines, cost }) => ({ lines: lines.length, cost }),
  async write(tx, { lines, cost, numbers }, _ground, doer) {
    const { companyId, workDate } = doer;
    const { statements, number } = numbersAtLast(companyId, { JR: 1 });
    // A journal that nothing else posts is its own source.
    const head = { number: number('JR'), source: { kind: 'JR' as const, id: 0 }, postedOn: workDate, opening: true };
    const plans = [{ ...head, entries: openingJournal(cost) }];
    const pieces = numbersToWrite(doer, numbers, () => newId(journalTable, 0));
    return {
      statements: [...lines.map((line) => stockStatement(companyId, line)), ...pieces.statements, ...statements],
      insertions: [
        journalHeads(doer, plans),
        await journalEntries(tx, doer, plans),
        into(
          stockEntryTable,
          lines.map((line) => ({
            companyId,
            itemId: line.itemId,
            place: 'ours' as const,
            locationId: line.locationId,
            quantity: line.quantity,
            cost: line.cost,
            postedOn: workDate,
            documentKind: 'JR',
            documentId: newId(journalTable, 0),
          })),
        ),
        ...pieces.insertions,
      ],
      made: [{ kind: 'JR' as const, id: newId(journalTable, 0), number: head.number }],
      touched: [],
    };
  },
});
