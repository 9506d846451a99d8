import { addDays, chanceOf, type Chance } from '@core/kernel';
import { check, WAYS, type GroundRows, type Way } from '@core/promise';
import { Actor } from '../../sample/actor';
import { EAST, layOpeningStock } from '../../sample/opening-stock';
import { layWorks } from '../../sample/works';
import { settledRun, World, WORK_DATE, type Visitor } from '../../testing/world';

interface OrderGround {
  order: { version: number };
  rows: GroundRows;
  lines: { id: number; point: number; quantity: string; asked: string }[];
}
interface OrderSheet {
  version: number;
  lines: { id: number; quantity: string; shipped: string; cancelled: string }[];
}
interface BenchRow {
  planned: { id: number } | null;
  proposal: { vendorId: number } | null;
}

interface PurchaseSheet {
  lines: { id: number; quantity: string; received: string }[];
}
interface RunShown {
  run: {
    id: number;
    state: string;
    moved: { lineId: number; is: string | null; taken: boolean }[];
    proposals: { at: number; taken: unknown }[];
  } | null;
}

const ITEMS = ['SK-D2', 'SK-D4', 'FV-900', 'UV-40', 'UV-LAMP', 'PM-15', 'TUBE-12'] as const;
const UNTIL = addDays(WORK_DATE, 200);

type Answer = { status: number; body: unknown };

/** What planners, the desk and the store might do one after the other, in any order. */
class PromiseWalk {
  private readonly orders: number[] = [];
  private readonly purchases: number[] = [];
  readonly done = new Map<string, number>();
  refused = 0;

  constructor(
    private readonly world: World,
    private readonly visitor: Visitor,
    private readonly chance: Chance,
  ) {}

  async step(): Promise<void> {
    const [name, does] = this.chance.pick(this.steps);
    const answer = await does();
    if (!answer) return;
    // Anything but an answer or a refusal is a fault of ours.
    if (![200, 404, 409, 422].includes(answer.status)) throw new Error(`${name}: ${JSON.stringify(answer.body)}`);
    if (answer.status !== 200) {
      this.refused += 1;
      return;
    }
    this.done.set(name, (this.done.get(name) ?? 0) + 1);
    for (const { kind, id } of (answer.body as { made: { kind: string; id: number }[] }).made) {
      if (kind === 'SO') this.orders.push(id);
      if (kind === 'PO') this.purchases.push(id);
    }
  }

  private readonly steps: (readonly [string, () => Promise<Answer | null>])[] = [
    ['order', () => this.order()],
    ['order', () => this.order()],
    ['promise', () => this.promise()],
    ['promise', () => this.promise()],
    ['take back', () => this.takeBack()],
    ['ship', () => this.ship()],
    ['ship', () => this.ship()],
    ['receive', () => this.receive()],
    ['plan', () => this.plan(this.chance.whole(1, 3) === 1)],
    ['promise again', () => this.promiseAgain()],
    ['cancel', () => this.cancel()],
    ['place', () => this.place()],
    ['firm', () => this.firm()],
  ];

  private async order(): Promise<Answer> {
    const { id, shipTos } = this.world.masters.customers.get('Kasturi Bottling')!;
    const lines = Array.from({ length: this.chance.whole(1, 3) }, () => ({
      id: null,
      itemId: this.world.item(this.chance.pick(ITEMS)),
      quantity: String(this.chance.whole(1, 6)),
      shipDate: addDays(WORK_DATE, this.chance.whole(1, 70)),
      route: 'stock',
      locationId: this.chance.whole(1, 4) === 1 ? EAST : 0,
    }));
    const input = { id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'W', lines };
    const answer = await this.visitor.raw('saveOrder', input);
    const [made] = (answer.body as { made: { id: number }[] }).made;
    if (this.chance.whole(1, 5) > 1) await this.visitor.does('confirmOrder', { id: made!.id, version: 1 });
    return answer;
  }

  private async promise(): Promise<Answer | null> {
    if (this.orders.length === 0) return null;
    const orderId = this.chance.pick(this.orders);
    const ask = await this.visitor.get<OrderGround>(`/api/orders/${orderId}/promise`);
    const together = this.chance.whole(1, 3) === 1;
    const asks = ask.lines.map((line) => ({
      key: String(line.id),
      itemId: line.point,
      quantity: line.quantity,
      asked: line.asked,
      way: this.chance.pick(WAYS) as Way,
    }));
    const told = check(ask.rows, asks, together).map((line) => line.chosen);
    if (told.length === 0 || told.some((each) => each.day === null)) return null;
    const lines = told.map((each, at) => ({
      lineId: ask.lines[at]!.id,
      way: asks[at]!.way,
      asked: asks[at]!.asked,
      day: each.day,
    }));
    return this.visitor.raw('acceptPromise', { orderId, version: ask.order.version, together, lines });
  }

  private async sheet(orderId: number): Promise<OrderSheet> {
    return this.visitor.get<OrderSheet>(`/api/orders/${orderId}`);
  }

  private async takeBack(): Promise<Answer | null> {
    if (this.orders.length === 0) return null;
    const orderId = this.chance.pick(this.orders);
    return this.visitor.raw('takeBackPromise', { orderId, version: (await this.sheet(orderId)).version });
  }

  private async cancel(): Promise<Answer | null> {
    if (this.orders.length === 0) return null;
    const id = this.chance.pick(this.orders);
    return this.visitor.raw('cancelOrder', { id, version: (await this.sheet(id)).version });
  }

  private async ship(): Promise<Answer | null> {
    if (this.orders.length === 0) return null;
    const orderId = this.chance.pick(this.orders);
    const { lines } = await this.sheet(orderId);
    const open = lines.filter((line) => Number(line.quantity) - Number(line.cancelled ?? 0) > Number(line.shipped));
    if (open.length === 0) return null;
    const line = this.chance.pick(open);
    const left = Number(line.quantity) - Number(line.cancelled ?? 0) - Number(line.shipped);
    const quantity = String(this.chance.whole(1, left));
    return this.visitor.raw('shipLines', { orderId, lines: [{ lineId: line.id, quantity }] });
  }

  private async receive(): Promise<Answer | null> {
    if (this.purchases.length === 0) return null;
    const purchaseId = this.chance.pick(this.purchases);
    const { lines } = await this.visitor.get<PurchaseSheet>(`/api/purchases/${purchaseId}`);
    const open = lines.filter((line) => Number(line.quantity) > Number(line.received));
    if (open.length === 0) return null;
    const { id, quantity, received } = this.chance.pick(open);
    const left = String(Number(quantity) - Number(received));
    return this.visitor.raw('receiveGoods', { purchaseId, lines: [{ lineId: id, quantity: left }] });
  }

  /** Places some of what is planned to be bought. // T12 */
  private async place(): Promise<Answer | null> {
    const { rows } = await this.visitor.get<{ rows: BenchRow[] }>('/api/bench?rows=200');
    const planned = rows
      .filter((row) => row.planned && row.proposal && this.chance.whole(1, 2) === 1)
      .map((row) => ({ plannedId: row.planned!.id, vendorId: row.proposal!.vendorId }));
    return planned.length === 0 ? null : this.visitor.raw('placePurchases', { lines: [], planned });
  }

  private async firm(): Promise<Answer | null> {
    const { rows } = await this.visitor.get<{ rows: { id: number; kind: string; state: string }[] }>(
      '/api/planned?rows=200',
    );
    const made = rows.filter((row) => row.kind !== 'buy');
    if (made.length === 0) return null;
    const { id, state } = this.chance.pick(made);
    return this.visitor.raw('makeFirm', { orderIds: [id], firm: state === 'planned' });
  }

  private async settled(path: string) {
    const run = await settledRun<NonNullable<RunShown['run']>>(this.visitor, path);
    if (run.state !== 'done') throw new Error(`the run of ${path} ${run.state}`);
    return run;
  }

  /** Plans everything, and takes all of it or some. */
  async plan(all: boolean): Promise<Answer | null> {
    await this.visitor.does('startPlanning', { until: UNTIL, itemIds: [] });
    const { id, proposals } = await this.settled('/api/planning?rows=2000');
    const at = proposals.map((each) => each.at).filter(() => all || this.chance.whole(1, 2) === 1);
    return at.length === 0 ? null : this.visitor.raw('takeProposals', { id, at });
  }

  private async promiseAgain(): Promise<Answer | null> {
    await this.visitor.does('startRepromise', {});
    const { id, moved } = await this.settled('/api/repromise');
    const lineIds = moved.filter((line) => line.is !== null).map((line) => line.lineId);
    const some = lineIds.filter(() => this.chance.whole(1, 3) > 1);
    return some.length === 0 ? null : this.visitor.raw('applyRepromise', { id, lineIds: some });
  }
}

describe('a walk of promises, plans and movements', () => {
  let world: World;

  beforeAll(async () => {
    world = await World.make();
    const { database } = world.serving;
    await layWorks(database, world.masters, WORK_DATE);
    const actor = new Actor(database, world.masters.companyId, world.masters.people.get('joko')!, 'stock');
    await layOpeningStock(database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
  });
  afterAll(() => world.end());

  /** Centres may be planned over, never below nothing; what is held is never more than there is of it. */
  const sound = async () => {
    const [wrong] = await world.serving.database.rows<{ held: number; loads: number; orphans: number }>(
      `SELECT (SELECT COUNT(*) FROM planned_order WHERE held > quantity) AS held,
              (SELECT COUNT(*) FROM centre_hold l JOIN planned_operation o ON o.company_id = l.company_id AND o.id = l.planned_operation_id
                 JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id WHERE NOT p.open) AS loads,
              (SELECT COUNT(*) FROM stock WHERE on_hand < reserved OR reserved < 0) AS orphans`,
    );
    return wrong;
  };

  const rare: Record<string, number> = {};

  it.each([31, 32, 33])('keeps every count, whatever is done (seed %i)', async (seed) => {
    const walk = new PromiseWalk(world, await world.visitor(), chanceOf(seed));
    for (let step = 0; step < 60; step += 1) {
      await walk.step();
      expect(await world.verify()).toEqual([]);
      expect(await sound()).toEqual({ held: 0, loads: 0, orphans: 0 });
    }
    for (const name of ['ship', 'place', 'firm']) rare[name] = (rare[name] ?? 0) + (walk.done.get(name) ?? 0);
    const often = ['order', 'promise', 'plan'];
    expect(often.filter((name) => !walk.done.has(name))).toEqual([]);
    // Taken as a whole, the next plan is empty; the one after a cancellation may free what lay below it first.
    for (let turn = 0; turn < 6 && (await walk.plan(true)); turn += 1) expect(await world.verify()).toEqual([]);
    expect(await walk.plan(true)).toBeNull();
  });

  it('did what is seldom done as well', () => expect(Object.values(rare).every((count) => count > 0)).toBe(true));
});
