import { layCounter, type CounterLaid } from '../sample/counter';
import { layDesk } from '../sample/desk';
import { HAFIZ } from '../sample/people';
import { Visitor, World, WORK_DATE } from './world';

export interface Slip {
  document: { id: number; number: string };
  total: string;
  covered: string;
  deposited: string;
  change: string;
  invoice: { id: number; number: string } | null;
  creditNote: { id: number } | null;
  payments: { kind: string; invoiced: string; deposited: string; rounding: string }[];
  lines: { id: number; left: string; quantity: string; item: { number: string } }[];
  waiting: { item: { number: string }; quantity: string; shipDate: string }[];
}

interface AtTill {
  orders: { order: { id: number }; version: number; state: string }[];
  lines: {
    id: number;
    orderId: number;
    item: { number: string };
    here: string;
    toGo: string;
    words: string[];
    amount: string;
    permit: { number: string } | null;
  }[];
  due: {
    total: string;
    covered: string;
    invoiced: string;
    toPay: string;
    inCash: string;
    deposits: { amount: string }[];
  };
  cards: { id: number; state: string; amount: string }[];
  vouchers: { creditNoteId: number; left: string }[];
}

/** A world with a counter, and what is done at it, in few words. */
export class CounterDesk {
  private constructor(
    readonly world: World,
    readonly laid: CounterLaid,
    readonly hafiz: Visitor,
  ) {}

  static async make(): Promise<CounterDesk> {
    const world = await World.make();
    await world.withWorks();
    await layDesk(world.serving.database, world.masters, WORK_DATE, 7);
    const laid = await layCounter(world.serving.database, world.masters, WORK_DATE);
    const hafiz = new Visitor(world.serving.address);
    await hafiz.signIn(HAFIZ.signIn, HAFIZ.password);
    return new CounterDesk(world, laid, hafiz);
  }

  get till(): number {
    return this.laid.tillIds[0]!;
  }

  open(tillId = this.till, fifties = '4') {
    const counts = [
      { piece: '50', count: fifties },
      { piece: '0.05', count: '20' },
    ];
    return this.hafiz.does('openDrawer', { tillId, counts });
  }

  async keep(
    lines: readonly (readonly [item: string, quantity: string, shipDate?: string])[],
    who: { customerId?: number | null; contactId?: number | null; id?: number; version?: number } = {},
  ): Promise<number> {
    const made = await this.hafiz.does('keepAtCounter', {
      id: null,
      version: null,
      tillId: this.till,
      customerId: null,
      contactId: null,
      lines: lines.map(([item, quantity, shipDate]) => ({
        id: null,
        itemId: this.world.item(item),
        quantity,
        ...(shipDate ? { shipDate } : {}),
      })),
      ...who,
    });
    return made[0]?.id ?? who.id!;
  }

  at(orderIds: readonly number[], query = ''): Promise<AtTill> {
    return this.hafiz.get<AtTill>(`/api/till/slip?orders=${orderIds.join(',')}${query}`);
  }

  /** What is sent to sell orders: all that is here is taken along, paid as told. */
  async selling(orderIds: readonly number[], how: Record<string, unknown> = {}, query = '') {
    const now = await this.at(orderIds, query);
    return {
      tillId: this.till,
      orders: now.orders.map(({ order, version }) => ({ id: order.id, version })),
      take: now.lines.map(({ id, here }) => ({ lineId: id, quantity: here })),
      later: false,
      cash: '',
      cardIds: [],
      vouchers: [],
      onAccount: false,
      ...how,
    };
  }

  async sell(orderIds: readonly number[], how: Record<string, unknown> = {}): Promise<number> {
    const [slip] = await this.hafiz.does('sellAtTill', await this.selling(orderIds, how));
    return slip!.id;
  }

  slip(id: number): Promise<Slip> {
    return this.hafiz.get<Slip>(`/api/slips/${id}`);
  }

  async drawer(): Promise<{ cash: string; id: number } | null> {
    const { rows } = await this.hafiz.get<{
      rows: { id: number; drawer: { cash: string; document: { id: number } } | null }[];
    }>('/api/tills');
    const { drawer } = rows.find(({ id }) => id === this.till)!;
    return drawer && { cash: drawer.cash, id: drawer.document.id };
  }
}
