import { addDays, MAIN_LOCATION, type Day } from '@core/kernel';
import type { Database } from '../server/db';
import type { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';
import { EAST } from '../server/sample/opening-stock';

/** What goes out from the second place and comes to it: some of three orders, a purchase for it, and what is under way. */
export async function layEast(database: Database, actor: Actor, masters: Masters, workDate: Day): Promise<void> {
  const order = async (customer: string, item: string, quantity: string, inDays: number) => {
    const { id: customerId, shipTos } = masters.customers.get(customer)!;
    const [id] = await actor.does(
      'saveOrder',
      {
        id: null,
        version: null,
        customerId,
        shipToId: shipTos[0],
        customerReference: `EAST ${item}`,
        lines: [
          {
            id: null,
            itemId: masters.items.get(item)!.id,
            quantity,
            route: 'stock',
            locationId: EAST,
            shipDate: addDays(workDate, inDays),
          },
        ],
      },
      workDate,
    );
    await actor.does('confirmOrder', { id, version: 1 }, workDate);
  };
  await order('Kolam Ceria Swim Club', 'UV-40', '2', 9);
  await order('Teratai Bay Resort', 'GAC-25', '30', 11);
  await order('Padi Emas Food Works', 'GAC-25', '25', 20);
  const purchase = {
    vendorId: masters.vendors.get('V-104')!,
    shipToId: null,
    locationId: EAST,
    lines: [{ itemId: masters.items.get('GAC-25')!.id, quantity: '20', dueDate: addDays(workDate, 16) }],
  };
  await actor.does('enterPurchase', purchase, workDate);
  // On its way there: a lamp unit that arrived of two, and two pumps that are to be there today. // W6
  const carry = async (item: string, left: number, inDays: number) => {
    const carried = { itemId: masters.items.get(item)!.id, from: MAIN_LOCATION, to: EAST, quantity: '2' };
    const arrivesOn = addDays(workDate, inDays);
    await actor.does('moveBetween', { ...carried, arrivesOn }, addDays(workDate, left));
  };
  await carry('UV-40', -3, 2);
  await carry('PM-15', -2, 0);
  const [lamps] = await database.rows<{ id: number }>(
    `SELECT w.id FROM carriage w JOIN item i ON i.company_id = w.company_id AND i.id = w.item_id
      WHERE w.company_id = ? AND i.number = 'UV-40'`,
    [masters.companyId],
  );
  await actor.does('arrive', { carriageId: lamps!.id, to: EAST, quantity: '1' }, workDate);
}
