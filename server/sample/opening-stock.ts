import { dec, lineAmount, type Day } from '@core/kernel';
import { adjustmentJournal } from '@core/ledger';
import { numberBy } from '@core/serial';
import { takeNumbers, type Doer } from '../acts/index';
import type { Database } from '../db/index';
import { postJournals } from '../ledger/index';
import { type Masters } from './masters';
import { locationTable } from '../catalogue/tables';
import { serialEntryTable, serialTable } from '../serial/tables';
import { stockEntryTable, stockTable } from '../stock/tables';
import { OPENING_STOCK } from './items';

/** The demo's second place. */
export const EAST = 1;

/** Opens the second place and puts the opening stock on hand: stock, entries, and one journal that names itself as its source. */
export function layOpeningStock(database: Database, masters: Masters, doer: Doer, day: Day): Promise<void> {
  return database.transaction(async (tx) => {
    await tx.insertPlain(locationTable, [
      { companyId: doer.companyId, id: EAST, code: 'EAST', name: 'East coast store' },
    ]);
    const lines = OPENING_STOCK.map((line) => ({
      locationId: line.at,
      itemId: masters.items.get(line.item)!.id,
      quantity: line.quantity,
      pattern: masters.items.get(line.item)!.serial,
      value: lineAmount(dec(line.quantity), dec(line.cost), 'MYR').toFixed(),
    }));
    const total = lines.reduce((sum, line) => sum.plus(line.value), dec(0)).toFixed();
    const [last] = await tx.rows<{ id: number | null }>('SELECT MAX(id) AS id FROM journal');
    const number = await takeNumbers(tx, doer.companyId, { JR: 1 });
    const [journal] = await postJournals(tx, doer, [
      {
        number: number('JR'),
        source: { kind: 'JR', id: (last!.id ?? 0) + 1 },
        postedOn: day,
        entries: adjustmentJournal(total),
      },
    ]);
    await tx.insertPlain(
      stockEntryTable,
      lines.map((line) => ({
        companyId: doer.companyId,
        itemId: line.itemId,
        place: 'ours',
        locationId: line.locationId,
        quantity: line.quantity,
        cost: line.value,
        postedOn: day,
        documentKind: 'JR',
        documentId: journal!.id,
      })),
    );
    await tx.insertPlain(
      stockTable,
      lines.map((line) => ({
        companyId: doer.companyId,
        itemId: line.itemId,
        locationId: line.locationId,
        onHand: line.quantity,
        value: line.value,
      })),
    );
    for (const { itemId, locationId, quantity, pattern } of lines) {
      if (pattern === null) continue;
      const ids = await tx.insert(
        serialTable,
        Array.from({ length: Number(quantity) }, (_each, at) => ({
          companyId: doer.companyId,
          itemId,
          number: numberBy(pattern, at + 1, day),
          place: 'ours' as const,
          locationId,
          bornKind: 'JR',
          bornId: journal!.id,
          bornOn: day,
        })),
      );
      await tx.insertPlain(
        serialEntryTable,
        ids.map((serialId) => ({
          companyId: doer.companyId,
          serialId,
          documentKind: 'JR',
          documentId: journal!.id,
          locationId,
          quantity: 1,
          postedOn: day,
        })),
      );
      await tx.run('UPDATE serial_series SET next_count = ? WHERE company_id = ? AND item_id = ?', [
        ids.length + 1,
        doer.companyId,
        itemId,
      ]);
    }
  });
}
