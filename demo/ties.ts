import { addDays, type Day } from '@core/kernel';
import type { Route } from '@core/catalogue';
import type { Database } from '../server/db';
import type { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';
import type { Timetable } from '../server/sample/timetable';

interface OrderPlan {
  customer: string;
  /** Days from the work date on which it is ordered and, where a vendor is named, placed. */
  on: number;
  reference?: string;
  shipTo?: number;
  lines: [item: string, quantity: string, route: Route, shipIn: number][];
  vendor?: string;
}

/** Tells what orders and their supply get into: special orders under way, purchases that are loose or out of step. */
export class Ties {
  constructor(
    private readonly database: Database,
    private readonly actor: Actor,
    private readonly masters: Masters,
    private readonly timetable: Timetable,
    private readonly workDate: Day,
  ) {}

  tell(): void {
    // Too late: the castings take fifteen days, and half of what the vendor sells is for our stock.
    this.ordered({
      customer: 'Bukit Jati Golf Links',
      on: -6,
      lines: [['PM-15', '3', 'special', 12]],
      vendor: 'V-105',
    });
    // Two orders of one customer whose goods came: they can go out together.
    const here = { customer: 'Padi Emas Food Works', on: -14, vendor: 'V-105' };
    this.ordered({ ...here, lines: [['VA-50A', '2', 'special', 15]] }, this.comesOn(-7, '2'));
    this.ordered({ ...here, lines: [['VA-50A', '3', 'special', 16]] }, this.comesOn(-6, '2'));
    // Out of step: the vendor told us a later day, and we wrote it down.
    this.ordered(
      { customer: 'Kolam Ceria Swim Club', on: -5, lines: [['RO-2540', '4', 'drop', 10]], vendor: 'V-101' },
      (orderId) => this.timetable.at(this.day(-2), () => this.late(orderId, 16, this.day(-2))),
    );
    // Loose: bought for the second clinic before it ordered.
    this.timetable.at(this.day(-3), async () => {
      await this.actor.does(
        'enterPurchase',
        {
          vendorId: this.masters.vendors.get('V-101')!,
          shipToId: this.masters.customers.get('Nilam Dialysis Centre')!.shipTos[1]!,
          lines: [{ itemId: this.masters.items.get('RO-2540')!.id, quantity: '6', dueDate: this.day(9) }],
        },
        this.day(-3),
      );
    });
  }

  private day(offset: number): Day {
    return addDays(this.workDate, offset);
  }

  private ordered(plan: OrderPlan, then: (orderId: number) => void = () => undefined): void {
    const on = this.day(plan.on);
    this.timetable.at(on, async () => {
      const customer = this.masters.customers.get(plan.customer)!;
      const [orderId] = await this.actor.does(
        'saveOrder',
        {
          id: null,
          version: null,
          customerId: customer.id,
          shipToId: customer.shipTos[plan.shipTo ?? 0],
          customerReference: plan.reference ?? '',
          lines: plan.lines.map(([item, quantity, route, shipIn]) => ({
            id: null,
            itemId: this.masters.items.get(item)!.id,
            quantity,
            route,
            shipDate: addDays(on, shipIn),
          })),
        },
        on,
      );
      await this.actor.does('confirmOrder', { id: orderId, version: 1 }, on);
      if (plan.vendor) {
        const lines = await this.database.rows<{ id: number }>(
          'SELECT id FROM sales_order_line WHERE order_id = ? AND on_bench = TRUE ORDER BY id',
          [orderId!],
        );
        const vendorId = this.masters.vendors.get(plan.vendor)!;
        await this.actor.does('placePurchases', { lines: lines.map(({ id }) => ({ orderLineId: id, vendorId })) }, on);
      }
      then(orderId!);
    });
  }

  /** Its purchase is received in part or whole on a day. */
  private comesOn(offset: number, quantity: string): (orderId: number) => void {
    return (orderId) =>
      this.timetable.at(this.day(offset), async () => {
        const [line] = await this.tied(orderId);
        const lines = [{ lineId: line!.purchaseLineId, quantity }];
        await this.actor.does('receiveGoods', { purchaseId: line!.purchaseId, lines }, this.day(offset));
      });
  }

  private async late(orderId: number, dueIn: number, on: Day): Promise<void> {
    const ties = await this.tied(orderId);
    await this.actor.does(
      'editPairs',
      {
        goodOnly: false,
        pairs: ties.map((tie) => ({
          tieId: tie.id,
          was: { quantity: tie.quantity, shipDate: tie.shipDate, dueDate: tie.dueDate, shipToId: tie.shipToId },
          dueDate: this.day(dueIn),
        })),
      },
      on,
    );
  }

  private tied(orderId: number) {
    return this.database.rows<{
      id: number;
      quantity: string;
      shipDate: Day;
      dueDate: Day;
      shipToId: number;
      purchaseId: number;
      purchaseLineId: number;
    }>(
      `SELECT t.id, t.quantity, sl.ship_date, pl.due_date, o.ship_to_id, pl.purchase_order_id AS purchase_id, pl.id AS purchase_line_id
         FROM sales_order o JOIN sales_order_line sl ON sl.order_id = o.id JOIN tie t ON t.order_line_id = sl.id
         JOIN purchase_order_line pl ON pl.id = t.purchase_line_id
        WHERE o.id = ? ORDER BY t.id`,
      [orderId],
    );
  }
}
