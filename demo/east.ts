import { addDays, type Day } from '@core/kernel';
import type { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';
import { EAST } from '../server/sample/opening-stock';

/** What goes out from the second place and comes to it: some of three orders, and a purchase for it. */
export async function layEast(actor: Actor, masters: Masters, workDate: Day): Promise<void> {
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
}
