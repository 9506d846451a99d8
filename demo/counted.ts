import { MAIN_LOCATION, dec, type Day } from '@core/kernel';
import type { Database } from '../server/db';
import type { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';

/** Counted by hand, and another number than was known. // W6 */
const COUNTED: readonly [item: string, difference: string, reason: string][] = [
  ['SALT-25', '-3', 'torn bags, swept up'],
  ['FC-20', '12', 'a box behind the rack'],
];

/** What was found of stock when some of it was counted. */
export async function layCounted(database: Database, actor: Actor, masters: Masters, workDate: Day): Promise<void> {
  for (const [item, difference, reason] of COUNTED) {
    const itemId = masters.items.get(item)!.id;
    const [stock] = await database.rows<{ onHand: string }>(
      'SELECT on_hand FROM stock WHERE company_id = ? AND item_id = ? AND location_id = ?',
      [masters.companyId, itemId, MAIN_LOCATION],
    );
    const now = dec(stock!.onHand).plus(difference).toFixed();
    const typed = { itemId, locationId: MAIN_LOCATION, was: stock!.onHand, now, unitCost: '', reason };
    await actor.does('adjustStock', typed, workDate);
  }
  await countCartridges(database, actor, masters, workDate);
}

/** A count with a difference, half done: two cartridges fewer than were known, and a line nobody came to yet. // W6 */
async function countCartridges(database: Database, actor: Actor, masters: Masters, workDate: Day): Promise<void> {
  const itemIds = ['FC-10', 'FC-20', 'GAC-25'].map((item) => masters.items.get(item)!.id);
  const begun = { locationId: MAIN_LOCATION, groupId: null, itemIds, blind: false };
  const [countId] = await actor.does('beginCount', begun, workDate);
  const lines = await database.rows<{ lineId: number; onHand: string }>(
    `SELECT l.id AS line_id, COALESCE(s.on_hand, 0) AS on_hand FROM count_line l
       LEFT JOIN stock s ON s.company_id = l.company_id AND s.item_id = l.item_id AND s.location_id = ?
      WHERE l.company_id = ? AND l.count_sheet_id = ? ORDER BY l.line_no`,
    [MAIN_LOCATION, masters.companyId, countId!],
  );
  const counted = lines.slice(0, 2).map(({ lineId, onHand }, at) => ({
    lineId,
    counted: dec(onHand)
      .minus(at === 0 ? 2 : 0)
      .toFixed(),
    unitCost: '',
  }));
  await actor.does('enterCount', { countId, lines: counted }, workDate);
}
