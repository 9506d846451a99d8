import { addDays, type Day } from '@core/kernel';
import type { Database } from '../server/db';
import type { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';
import type { Timetable } from '../server/sample/timetable';

interface Ordered {
  customer: string;
  reference: string;
  item: string;
  quantity: string;
  /** Days from the work date. */
  ships: number;
  route: 'stock' | 'assemble';
}

/** Works the demo's workshop: a vessel half made for a customer, an order for nobody, an assembly short of one component. */
export class WorkshopStory {
  constructor(
    private readonly database: Database,
    private readonly actor: Actor,
    private readonly masters: Masters,
    private readonly timetable: Timetable,
    private readonly workDate: Day,
  ) {}

  tell(): void {
    this.at(-9, async (day) => {
      const vessels = await this.make('FV-900', '2', day);
      // Its shells were rolled the same day.
      const [shells] = await this.database.rows<{ id: number }>(
        "SELECT id FROM planned_order WHERE company_id = ? AND parent_id = ? AND kind = 'make'",
        [this.masters.companyId, vessels],
      );
      await this.actor.does('makeFirm', { orderIds: [shells!.id], firm: true }, day);
      await this.report(shells!.id, null, { good: '2' }, day);
      const line = await this.ordered(
        {
          customer: 'Padi Emas Food Works',
          reference: 'PE-455',
          item: 'FV-900',
          quantity: '2',
          ships: 4,
          route: 'stock',
        },
        day,
      );
      await this.actor.does('tieWork', { ties: [{ plannedId: vessels, orderLineId: line, quantity: '2' }] }, day);
      this.at(-6, (on) => this.report(vessels, 'Weld', { good: '2' }, on));
      this.at(-4, (on) => this.report(vessels, 'Line', { good: '1' }, on));
      this.at(-3, (on) => this.report(vessels, 'Pressure test', { good: '1' }, on));
      this.at(-1, (on) => this.report(vessels, 'Line', { good: '1' }, on));
    });
    // A skid that went out as it was assembled, with the pumps that are in it.
    this.at(-8, async (day) => {
      const line = await this.ordered(
        {
          customer: 'Sinar Laut Ferries',
          reference: 'SL-77',
          item: 'SK-D2',
          quantity: '1',
          ships: -7,
          route: 'assemble',
        },
        day,
      );
      this.at(-7, (on) => this.ship(line, '1', on));
    });
    this.at(-5, async (day) => {
      await this.make('FV-SHELL9', '1', day);
    });
    this.at(-1, async (day) => {
      await this.make('UV-40', '12', day);
      // Assembled as it goes out.
      await this.ordered(
        {
          customer: 'Rumah Hijau Growers',
          reference: 'RH-118',
          item: 'SK-D2',
          quantity: '1',
          ships: 9,
          route: 'assemble',
        },
        day,
      );
    });
  }

  private at(offset: number, does: (day: Day) => Promise<void>): void {
    const day = addDays(this.workDate, offset);
    this.timetable.at(day, () => does(day));
  }

  private async make(item: string, quantity: string, day: Day): Promise<number> {
    const itemId = this.masters.items.get(item)!.id;
    const [id] = await this.actor.does('newWork', { itemId, quantity, due: null }, day);
    return id!;
  }

  /** A confirmed order of one line; that line. */
  private async ordered(of: Ordered, day: Day): Promise<number> {
    const { id: customerId, shipTos } = this.masters.customers.get(of.customer)!;
    const line = {
      id: null,
      itemId: this.masters.items.get(of.item)!.id,
      quantity: of.quantity,
      shipDate: addDays(this.workDate, of.ships),
      route: of.route,
      agreementLineId: null,
    };
    const head = { id: null, version: null, customerId, shipToId: shipTos[0], customerReference: of.reference };
    const [orderId] = await this.actor.does('saveOrder', { ...head, lines: [line] }, day);
    await this.actor.does('confirmOrder', { id: orderId, version: 1 }, day);
    const [row] = await this.database.rows<{ id: number }>(
      'SELECT id FROM sales_order_line WHERE company_id = ? AND order_id = ?',
      [this.masters.companyId, orderId!],
    );
    return row!.id;
  }

  private async ship(lineId: number, quantity: string, day: Day): Promise<void> {
    const [row] = await this.database.rows<{ orderId: number }>(
      'SELECT order_id FROM sales_order_line WHERE company_id = ? AND id = ?',
      [this.masters.companyId, lineId],
    );
    await this.actor.does('shipLines', { orderId: row!.orderId, lines: [{ lineId, quantity }] }, day);
  }

  private async report(workId: number, operation: string | null, done: { good: string }, day: Day): Promise<void> {
    const [found] = await this.database.rows<{ id: number }>(
      'SELECT id FROM planned_operation WHERE company_id = ? AND planned_order_id = ? AND name = ?',
      [this.masters.companyId, workId, operation ?? ''],
    );
    const typed = {
      workId,
      operationId: found?.id ?? null,
      scrapped: '',
      used: [],
      worked: [],
      finish: false,
      ...done,
    };
    await this.actor.does('reportWork', typed, day);
  }
}
