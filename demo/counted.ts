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
}
