import type * as z from 'zod';
import type { itemOptions } from '@api/catalogue';
import type { openOrder, saveOrder } from '@api/orders';
import type { openWork } from '@api/workshop';
import { World, type Visitor } from '../testing/world';

type Sheet = z.output<typeof openOrder.out>;
type Work = z.output<typeof openWork.out>;
interface Kept {
  id: number;
  stamp: string;
  cells: Record<string, string>;
}
type Previewed = { effects: z.output<typeof saveOrder.preview>; warnings: { code: string; sentence: string }[] };

describe('W2 what is chosen for a line', () => {
  let world: World;
  let salmah: Visitor;
  let joko: Visitor;
  /** Options of the small skid, by their component. */
  let options: Map<string, number>;

  beforeAll(async () => {
    world = await (await World.make()).withWorks();
    salmah = await world.visitor();
    joko = await world.visitor('joko');
    const { groups } = await salmah.get<z.output<typeof itemOptions.out>>(`/api/items/${world.item('SK-D2')}/options`);
    options = new Map(groups.flatMap((group) => group.options.map(({ id, component }) => [component.number, id])));
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const ids = (...names: string[]) => names.map((name) => options.get(name)!);
  const typed = (optionIds: number[] | undefined, change: object = {}, head: object = {}) => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item('SK-D2'), quantity: '1', shipDate: '2027-04-30', route: 'assemble' };
    return {
      id: null,
      version: null,
      customerId: id,
      shipToId: shipTos[0],
      customerReference: 'KB-9',
      lines: [{ ...line, ...(optionIds ? { optionIds } : {}), ...change }],
      ...head,
    };
  };
  const opened = (id: number) => salmah.get<Sheet>(`/api/orders/${id}`);
  const preview = async (input: unknown) => (await salmah.post('/api/acts/saveOrder/preview', input)).body as Previewed;
  const price = async (input: unknown) => Number((await preview(input)).effects.lines[0]!.unitPrice);

  it('puts its price on the line, step by step', async () => {
    const plain = await price(typed([]));
    expect(await price(typed(ids('PM-30', 'SK-PANEL-R')))).toBe(plain + 1280 + 660);
    const { effects } = await preview(typed(ids('SK-TRAY'), { quantity: '2' }));
    expect(effects.lines[0]!.steps.map(({ kind, source, amount }) => [kind, source, amount])).toContainEqual([
      'options',
      'SK-TRAY',
      '480',
    ]);
    // A typed price is all of it.
    expect(await price(typed(ids('SK-TRAY'), { price: '9000' }))).toBe(9000);
  });

  it('is refused at its line where it does not go together, and where it is not made', async () => {
    const refused = async (optionIds: number[], change = {}) =>
      (await salmah.refused('saveOrder', typed(optionIds, change))).codes;
    expect(await refused(ids('PM-30'))).toEqual(['lines.0.optionIds: option-needs']);
    expect(await refused(ids('SK-TRAY', 'SK-COVER'))).toEqual(['lines.0.optionIds: option-excludes']);
    expect(await refused([999_999])).toEqual(['lines.0.optionIds: option-unknown']);
    expect(await refused(ids('SK-TRAY'), { route: 'stock' })).toEqual(['lines.0.route: options-not-made']);
    expect(await refused(ids('SK-TRAY'), { itemId: world.item('UV-40') })).toEqual([
      'lines.0.optionIds: option-unknown',
    ]);
  });

  it('stays with its line until something else is chosen', async () => {
    const [order] = await salmah.does('saveOrder', typed(ids('SK-TRAY')));
    const kept = await opened(order!.id);
    expect(kept.lines[0]).toMatchObject({ hasOptions: true, options: [{ number: 'SK-TRAY', name: 'Drip tray' }] });
    const again = (optionIds: number[] | undefined, quantity: string, version: number) =>
      typed(optionIds, { id: kept.lines[0]!.id, quantity }, { id: order!.id, version });
    await salmah.does('saveOrder', again(undefined, '2', 1));
    expect((await opened(order!.id)).lines[0]).toMatchObject({ quantity: '2', options: [{ number: 'SK-TRAY' }] });
    await salmah.does('saveOrder', again(ids('SK-COVER'), '2', 2));
    const other = await opened(order!.id);
    expect(other.lines[0]!.options.map(({ number }) => number)).toEqual(['SK-COVER']);
    expect(Number(other.lines[0]!.unitPrice)).toBe(Number(kept.lines[0]!.unitPrice) - 240 + 390);
    await salmah.does('saveOrder', again([], '2', 3));
    expect((await opened(order!.id)).lines[0]!.options).toEqual([]);
    await salmah.does('saveOrder', again(ids('SK-COVER'), '2', 4));
    const { lines, ...gone } = again([], '1', 5);
    await salmah.does('saveOrder', { ...gone, lines: [{ ...lines[0]!, id: null }] });
    expect((await opened(order!.id)).lines[0]!.options).toEqual([]);
  });

  it('goes into what is made for the line, instead of what it replaces; and out with it', async () => {
    const [order] = await salmah.does('saveOrder', typed(ids('PM-30', 'SK-PANEL-R', 'SK-COVER')));
    const [made] = await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const work = await salmah.get<Work>(`/api/workshop/${made!.id}`);
    expect(work.item.number).toBe('SK-D2');
    expect(work.components.map(({ item, quantity, operationNo }) => [item.number, quantity, operationNo])).toEqual([
      ['SK-FRAME', '1', 10],
      ['PM-30', '2', 10],
      ['TUBE-12', '6.3', 20],
      ['SK-PANEL-R', '1', 20],
      ['SK-COVER', '1', 30],
    ]);
    const { lines } = await opened(order!.id);
    const [shipment] = await joko.does('shipLines', {
      orderId: order!.id,
      lines: [{ lineId: lines[0]!.id, quantity: '1' }],
    });
    expect(shipment!.kind).toBe('SH');
    const over = await salmah.get<Work>(`/api/workshop/${made!.id}`);
    expect(over.state).toBe('finished');
    expect(over.components.find(({ item }) => item.number === 'PM-30')!.used).toBe('2');
  });

  it('keeps its own parts where it is laid for another quantity', async () => {
    const [order] = await salmah.does('saveOrder', typed(ids('SK-TRAY')));
    const [made] = await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const work = await salmah.get<Work>(`/api/workshop/${made!.id}`);
    await salmah.does('changeWork', { workId: made!.id, version: work.version, quantity: '2', due: '2027-04-30' });
    const twice = await salmah.get<Work>(`/api/workshop/${made!.id}`);
    expect(twice.components.find(({ item }) => item.number === 'SK-TRAY')!.quantity).toBe('2');
  });

  it('says which of the chosen parts are short while it is typed', async () => {
    const said = async (optionIds: number[]) =>
      (await preview(typed(optionIds, { quantity: '4' }))).warnings
        .filter(({ code }) => code === 'parts-short')
        .map(({ sentence }) => sentence.split(';')[0]);
    const pumps = 'SK-D2 takes 8 of PM-30';
    expect(await said(ids('PM-30', 'SK-PANEL-R'))).toContain(pumps);
    expect(await said([])).not.toContain(pumps);
  });

  it('is made for its line alone: neither from stock nor held of it; and not chosen for what is planned already', async () => {
    const [order] = await salmah.does('saveOrder', typed(ids('SK-TRAY')));
    const [made] = await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const { lines } = await opened(order!.id);
    const lineId = lines[0]!.id;
    await salmah.does('untieWork', { plannedId: made!.id, orderLineId: lineId });
    // What was made as it is for it fits it again, and no line that was chosen another way.
    const [other] = await salmah.does('saveOrder', typed([], { route: 'stock' }));
    await salmah.does('confirmOrder', { id: other!.id, version: 1 });
    const otherId = (await opened(other!.id)).lines[0]!.id;
    const meilin = await world.visitor('meilin');
    const fits = async (id: number) =>
      (await meilin.get<{ fits: { plannedId: number }[] }>(`/api/order-lines/${id}/work`)).fits.map(
        (fit) => fit.plannedId,
      );
    expect(await fits(lineId)).toContain(made!.id);
    expect(await fits(otherId)).not.toContain(made!.id);
    const tie = { plannedId: made!.id, orderLineId: otherId, quantity: '1' };
    expect((await meilin.refused('tieWork', { ties: [tie] })).codes).toEqual(['ties.0.plannedId: work-other-options']);
    const supply = async (change: object) =>
      (
        await salmah.refused('supplyLine', {
          orderLineId: lineId,
          route: 'assemble',
          reserve: '',
          lift: false,
          ...change,
        })
      ).codes;
    expect(await supply({ route: 'stock' })).toEqual(['route: options-not-made']);
    expect(await supply({ reserve: '1' })).toContain('reserve: options-not-made');
    const [plain] = await salmah.does('saveOrder', typed([]));
    const draft = await opened(plain!.id);
    const asked = { lineId: draft.lines[0]!.id, asked: draft.lines[0]!.shipDate, way: 'nothing' };
    const { lines: checked } = await salmah.get<{ lines: { ways: Record<string, { day: string }> }[] }>(
      `/api/orders/${plain!.id}/promise/check`,
    );
    await (
      await world.visitor('meilin')
    ).does('acceptPromise', {
      orderId: plain!.id,
      version: draft.version,
      lines: [{ ...asked, day: checked[0]!.ways['nothing']!.day }],
    });
    const now = await opened(plain!.id);
    const again = typed(ids('SK-TRAY'), { id: now.lines[0]!.id }, { id: plain!.id, version: now.version });
    expect((await salmah.refused('saveOrder', again)).codes).toEqual(['lines.0.quantity: line-planned']);
  });

  it('is not promised by what is made another way', async () => {
    const [order] = await salmah.does('saveOrder', typed(ids('SK-TRAY')));
    const { lines } = await salmah.get<{
      lines: { ways: Record<string, { day: string | null; trouble: string | null }> }[];
    }>(`/api/orders/${order!.id}/promise/check`);
    expect(JSON.stringify(lines[0]!.ways['have'])).toMatch(/made for it with what was chosen/);
  });

  it('is made of nothing that is out of use, and says so at its line', async () => {
    const say = async (outOfUse: string) => {
      const { rows } = await salmah.get<{ rows: Kept[] }>('/api/lists/items?q=SK-FRAME');
      const [row] = rows;
      const changes = [{ id: row!.id, stamp: row!.stamp, cells: { ...row!.cells, outOfUse } }];
      await (await world.visitor('rashid')).does('keepList', { list: 'items', changes, removed: [] });
    };
    const [order] = await salmah.does('saveOrder', typed([]));
    await say('yes');
    const confirm = await salmah.refused('confirmOrder', { id: order!.id, version: 1 });
    expect(confirm.codes).toEqual(['lines.0.route: component-out-of-use']);
    const stock = await salmah.refused('newWork', { itemId: world.item('SK-D2'), quantity: '1', due: null });
    expect(stock.codes).toEqual(['itemId: component-out-of-use']);
    const sold = await salmah.refused('saveOrder', typed([], { itemId: world.item('SK-FRAME'), route: 'stock' }));
    expect(sold.codes).toEqual(['lines.0.itemId: item-out-of-use']);
    await say('no');
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
  });

  it('is kept as lists: what one needs is told once, and what was sold is not taken away', async () => {
    const keep = (list: string, cells: Record<string, string>) => ({
      list,
      changes: [{ id: null, stamp: '', cells }],
      removed: [],
    });
    await salmah.does('keepList', keep('option-groups', { item: 'FV-900', name: 'Lining', atMost: '1' }));
    await salmah.does('keepList', keep('options', { group: 'FV-900 Lining', component: 'TUBE-12', quantity: '3' }));
    const circle = await salmah.refused(
      'keepList',
      keep('options', { group: 'FV-900 Lining', component: 'FV-900', quantity: '1' }),
    );
    expect(circle.codes).toEqual(['changes.0.component: bom-circle']);
    const unknown = await salmah.refused(
      'keepList',
      keep('options', { group: 'FV-900 Colour', component: 'TUBE-12', quantity: '1' }),
    );
    expect(unknown.codes[0]).toMatch(/^changes\.0\.group: /);
    const twice = { option: 'SK-D2 Pumps PM-30', kind: 'needs', other: 'SK-D2 Panel SK-PANEL-R' };
    expect((await salmah.refused('keepList', keep('option-rules', twice))).codes).toEqual(['changes.0: row-twice']);
    const { rows } = await salmah.get<{ rows: Kept[] }>('/api/lists/options?q=SK-TRAY');
    const { id, stamp } = rows[0]!;
    const removed = await salmah.refused('keepList', { list: 'options', changes: [], removed: [{ id, stamp }] });
    expect(removed.codes).toEqual(['removed.0: row-in-use']);
  });
});
