import { addDays, type Day } from '@core/kernel';
import type { Database } from '../server/db';
import { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';
import { itemVendorTable } from '../server/catalogue/tables';
import { vendorTable } from '../server/parties/tables';
import { laySisters, type Sisters } from '../server/sample/sisters';

/** Items that are bought of Muara Bening, and when they are wanted: days from the work date. */
interface Bought {
  quantity: string;
  due: number;
  /** A customer of ours it goes straight to. */
  to?: string;
}

/** What goes on with Muara Bening: offers in both trays, one told twice; a vessel half shipped straight to a customer. */
export async function laySisterStory(database: Database, actor: Actor, masters: Masters, workDate: Day): Promise<void> {
  const sisters = await laySisters(database, masters, addDays(workDate, -40));
  const hers = new Actor(database, sisters.mbf, sisters.personId, 'demo-mbf');
  await new SisterStory(database, actor, hers, masters, sisters, workDate).tell();
}

class SisterStory {
  constructor(
    private readonly database: Database,
    private readonly ours: Actor,
    private readonly hers: Actor,
    private readonly masters: Masters,
    private readonly sisters: Sisters,
    private readonly workDate: Day,
  ) {}

  private on = (days: number) => addDays(this.workDate, days);

  async tell(): Promise<void> {
    // Bought, shipped, received and invoiced, and entered here: both say the same.
    const first = await this.taken({ quantity: '2', due: -12 }, -26);
    await this.ship(first, '2', -14);
    await this.take('receipt', this.ours, -12);
    await this.hers.does('invoiceCustomer', { orderId: first }, this.on(-12));
    await this.take('invoice', this.ours, -11);
    // Received, and its invoice waits.
    const second = await this.taken({ quantity: '1', due: -4 }, -16);
    await this.ship(second, '1', -6);
    await this.take('receipt', this.ours, -4);
    await this.hers.does('invoiceCustomer', { orderId: second }, this.on(-3));
    // Straight to a customer, half of it shipped.
    const straight = await this.taken({ quantity: '2', due: 6, to: 'Kasturi Bottling' }, -9);
    await this.ship(straight, '1', -2);
    // Shipped and invoiced: one thing to do here.
    const third = await this.taken({ quantity: '2', due: 3 }, -8);
    await this.ship(third, '2', -1);
    await this.hers.does('invoiceCustomer', { orderId: third }, this.on(-1));
    // Both typed it: told twice.
    await this.buy({ quantity: '3', due: 16 }, -1);
    await this.sell('3', 16, -1);
    // Waits there; and one that came back.
    await this.buy({ quantity: '4', due: 24 }, 0);
    const early = await this.buy({ quantity: '5', due: 2 }, -1);
    await this.giveBack(early, 'Nothing is free before the end of the month; ask for the 28th.', 0);
    await this.buyElsewhere();
  }

  /** A sister in another installation: what is ordered of her waits to be sent. */
  private async buyElsewhere(): Promise<void> {
    const { hbw } = this.sisters;
    const itemId = this.masters.items.get('FV-1200')!.id;
    const typed = { code: 'LGW', name: 'Lembah Gading Water', currency: 'MYR', email: 'exchange@gading.example' };
    await this.ours.does('keepElsewhere', { id: null, ...typed }, this.workDate);
    const [sister] = await this.database.rows<{ id: number }>("SELECT id FROM company WHERE code = 'LGW'");
    const [terms] = await this.database.rows<{ id: number }>(
      "SELECT id FROM payment_terms WHERE company_id = ? AND name = '30 days'",
      [hbw],
    );
    const vendorId = await this.database.transaction(async (tx) => {
      const party = { number: 'V-202', name: typed.name, phone: '07-5550 4410', currency: typed.currency };
      const [id] = await tx.insert(vendorTable, [{ companyId: hbw, ...party, paymentTermsId: terms!.id }]);
      const pays = { unitPrice: '5480', leadDays: 21, preferred: false, minimum: '0', multiple: '0' };
      await tx.insertPlain(itemVendorTable, [{ companyId: hbw, itemId, vendorId: id!, ...pays }]);
      return id!;
    });
    const half = { customerId: null, vendorId, transfer: 'ordinary', perCent: '0', takesFitting: false };
    await this.ours.does('keepSister', { sisterId: sister!.id, ...half }, this.workDate);
    const lines = [{ itemId, quantity: '2', dueDate: this.on(30) }];
    await this.ours.does('enterPurchase', { vendorId, shipToId: null, lines }, this.workDate);
  }

  private async buy({ quantity, due, to }: Bought, day: number): Promise<number> {
    const itemId = this.masters.items.get('FV-900')!.id;
    const { vendorId } = this.sisters;
    if (to === undefined) {
      const [id] = await this.ours.does(
        'enterPurchase',
        { vendorId, shipToId: null, lines: [{ itemId, quantity, dueDate: this.on(due) }] },
        this.on(day),
      );
      return id!;
    }
    const { id: customerId, shipTos } = this.masters.customers.get(to)!;
    const line = { id: null, itemId, quantity, shipDate: this.on(due), route: 'drop' };
    const [orderId] = await this.ours.does(
      'saveOrder',
      { id: null, version: null, customerId, shipToId: shipTos[0], customerReference: 'KB-310', lines: [line] },
      this.on(day),
    );
    await this.ours.does('confirmOrder', { id: orderId!, version: 1 }, this.on(day));
    const [row] = await this.database.rows<{ id: number }>(
      'SELECT id FROM sales_order_line WHERE company_id = ? AND order_id = ?',
      [this.sisters.hbw, orderId!],
    );
    const [id] = await this.ours.does('placePurchases', { lines: [{ orderLineId: row!.id, vendorId }] }, this.on(day));
    return id!;
  }

  /** Bought of her and taken there the day after; her order. */
  private async taken(bought: Bought, day: number): Promise<number> {
    await this.buy(bought, day);
    return this.take('order', this.hers, day + 1);
  }

  /** Takes what waits of a kind; what it became. */
  private async take(kind: string, who: Actor, day: number): Promise<number> {
    const [offer] = await this.waiting(who.companyId, kind);
    const [id] = await who.does('takeOffer', { ...offer!, lines: [] }, this.on(day));
    return id!;
  }

  private waiting(companyId: number, kind: string) {
    return this.database.rows<{ id: number; kind: string; revision: number }>(
      "SELECT id, kind, revision FROM offer WHERE company_id = ? AND kind = ? AND state = 'open' ORDER BY id LIMIT 1",
      [companyId, kind],
    );
  }

  private async ship(orderId: number, quantity: string, day: number): Promise<void> {
    const [line] = await this.database.rows<{ id: number }>(
      'SELECT id FROM sales_order_line WHERE company_id = ? AND order_id = ?',
      [this.sisters.mbf, orderId],
    );
    await this.hers.does('shipLines', { orderId, lines: [{ lineId: line!.id, quantity }] }, this.on(day));
  }

  private async sell(quantity: string, ships: number, day: number): Promise<void> {
    const line = {
      id: null,
      itemId: this.sisters.items.get('FV-900')!,
      quantity,
      shipDate: this.on(ships),
      route: 'stock',
    };
    const { customerId, shipToId } = this.sisters;
    const [id] = await this.hers.does(
      'saveOrder',
      { id: null, version: null, customerId, shipToId, customerReference: 'by phone', lines: [line] },
      this.on(day),
    );
    await this.hers.does('confirmOrder', { id: id!, version: 1 }, this.on(day));
  }

  private async giveBack(purchaseId: number, reason: string, day: number): Promise<void> {
    const [offer] = await this.database.rows<{ id: number; kind: string; revision: number }>(
      "SELECT id, kind, revision FROM offer WHERE from_id = ? AND kind = 'order' AND source_id = ?",
      [this.sisters.hbw, purchaseId],
    );
    await this.hers.does('returnOffer', { ...offer!, reason }, this.on(day));
  }
}
