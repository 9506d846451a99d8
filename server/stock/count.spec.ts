import type * as z from 'zod';
import type { openTrail } from '@api/ledger';
import type { listCounts, openCount } from '@api/stock';
import { World, WORK_DATE, type Visitor } from '../testing/world';

type Count = z.output<typeof openCount.out>;
type Trail = z.output<typeof openTrail.out>;

describe('W6 stock counted by sheets', () => {
  let world: World;
  let joko: Visitor;
  let salmah: Visitor;
  let items: number[];

  beforeAll(async () => {
    world = await World.make();
    joko = await world.visitor('joko');
    salmah = await world.visitor();
    items = ['FC-10', 'FC-20', 'GAC-25'].map((each) => world.item(each));
    for (const [at, now] of ['40', '30', '12'].entries()) {
      const adjusted = { itemId: items[at]!, locationId: 0, was: '0', now, unitCost: '2', reason: 'opened' };
      await salmah.does('adjustStock', adjusted);
    }
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const begin = async (change: Record<string, unknown> = {}) => {
    const input = { locationId: 0, groupId: null, itemIds: items, blind: false, ...change };
    const [made] = await joko.does('beginCount', input);
    return made!.id;
  };
  const open = (id: number, by = salmah) => by.get<Count>(`/api/counts/${id}`);
  const enter = async (id: number, counted: readonly string[], unitCost = '') => {
    const { rows } = await open(id);
    const lines = counted.map((each, at) => ({ lineId: rows[at]!.id, counted: each, unitCost }));
    return { countId: id, lines };
  };
  const post = async (id: number, reason = 'year end') => ({ countId: id, version: (await open(id)).version, reason });
  const onHand = async (itemId: number) => {
    const [row] = await world.serving.database.rows<{ onHand: string; value: string }>(
      'SELECT on_hand, value FROM stock WHERE item_id = ? AND location_id = 0',
      [itemId],
    );
    return [row!.onHand, row!.value];
  };

  it('shows each difference in quantity and worth, posts them in one journal, and is taken back by a count that names it', async () => {
    const id = await begin();
    await joko.does('enterCount', await enter(id, ['38', '30', '15']));
    expect(
      (await open(id)).rows.map(({ known, counted, difference, cost }) => [known, counted, difference, cost]),
    ).toEqual([
      ['40', '38', '-2', '-4'],
      ['30', '30', '0', '0'],
      ['12', '15', '3', '6'],
    ]);
    expect((await joko.refused('postCount', await post(id, ' '))).codes).toEqual(['reason: required']);
    await joko.does('postCount', await post(id));
    expect(await open(id)).toMatchObject({ state: 'posted', postedOn: WORK_DATE, reason: 'year end', cost: '2' });
    expect(await onHand(items[0]!)).toEqual(['38', '76']);
    expect(await onHand(items[2]!)).toEqual(['15', '30']);
    const trail = await salmah.get<Trail>(`/api/trail/CT/${id}`);
    expect(
      trail.journals.flatMap(({ entries }) => entries.map(({ name, debit, credit }) => [name, debit, credit])),
    ).toEqual([
      ['Inventory', '2', null],
      ['Stock differences', null, '2'],
    ]);
    expect((await joko.refused('enterCount', await enter(id, ['1']))).codes).toEqual(['count-not-open']);
    await joko.does('takeBackCount', { countId: id, reason: 'the wrong shelf' });
    expect(await onHand(items[0]!)).toEqual(['40', '80']);
    expect(await onHand(items[2]!)).toEqual(['12', '24']);
    expect(await open(id)).toMatchObject({ reversedBy: { kind: 'CT' } });
    expect((await joko.refused('takeBackCount', { countId: id, reason: 'again' })).codes).toEqual(['reversed-already']);
  });

  it('counts against what was known when it was counted: what moves meanwhile is no difference', async () => {
    const id = await begin();
    await joko.does('enterCount', await enter(id, ['39']));
    const { id: customerId, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: items[0]!, quantity: '10', shipDate: WORK_DATE, route: 'stock' };
    const head = { id: null, version: null, customerId, shipToId: shipTos[0], customerReference: 'KB' };
    const [order] = await salmah.does('saveOrder', { ...head, lines: [line] });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const sheet = await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`);
    await joko.does('shipLines', { orderId: order!.id, lines: [{ lineId: sheet.lines[0]!.id, quantity: '10' }] });
    const preview = await joko.post('/api/acts/postCount/preview', await post(id));
    expect(preview.body).toMatchObject({
      warnings: [{ code: 'some-not-counted', facts: { lines: '2' } }],
      effects: { lines: [{ difference: '-1' }], notCounted: 2 },
    });
    await joko.does('postCount', await post(id));
    expect(await onHand(items[0]!)).toEqual(['29', '58']);
  });

  it('does not tell what is known on a blind one, nor what it is worth to who may not see it', async () => {
    const id = await begin({ blind: true });
    await joko.does('enterCount', await enter(id, ['28']));
    expect((await open(id, joko)).rows[0]).toMatchObject({ known: '', counted: '28', difference: '', cost: '' });
    await joko.does('postCount', await post(id));
    expect((await open(id, joko)).rows[0]).toMatchObject({ difference: '-1', cost: '' });
    expect((await open(id)).rows[0]).toMatchObject({ known: '29', difference: '-1', cost: '-2' });
    await joko.does('takeBackCount', { countId: id, reason: 'recounted' });
  });

  it('stands for each item on one sheet at a time; what is found is added; one that was begun is thrown away', async () => {
    const id = await begin({ itemIds: [items[0]!] });
    expect(
      (await joko.refused('beginCount', { locationId: 0, groupId: null, itemIds: items, blind: false })).codes,
    ).toEqual(['itemIds.0: being-counted']);
    const other = await begin({ itemIds: [] });
    expect((await open(other)).rows.map(({ item }) => item.number)).not.toContain('FC-10');
    expect((await joko.refused('addToCount', { countId: other, itemId: items[0]! })).codes).toEqual([
      'itemId: being-counted',
    ]);
    const pump = world.item('UV-LAMP');
    await joko.does('addToCount', { countId: id, itemId: pump });
    expect((await joko.refused('addToCount', { countId: id, itemId: pump })).codes).toEqual(['itemId: on-the-sheet']);
    // Of what was never here, what one costs must be said.
    const { rows } = await open(id);
    const two = { countId: id, lines: [{ lineId: rows[1]!.id, counted: '2', unitCost: '' }] };
    await joko.does('enterCount', two);
    expect((await open(id)).rows[1]).toMatchObject({ needsCost: true });
    expect((await joko.refused('postCount', await post(id))).codes).toEqual(['lines.1.unitCost: required']);
    await joko.does('enterCount', { ...two, lines: [{ ...two.lines[0]!, unitCost: '880' }] });
    await joko.does('postCount', await post(id));
    expect(await onHand(pump)).toEqual(['2', '1760']);
    await joko.does('cancelCount', { countId: other, version: (await open(other)).version });
    const { rows: all } = await salmah.get<z.output<typeof listCounts.out>>('/api/counts?state=cancelled');
    expect(all.map(({ document }) => document.id)).toEqual([other]);
    expect((await joko.refused('cancelCount', { countId: id, version: (await open(id)).version })).codes).toEqual([
      'count-not-open',
    ]);
  });

  it('refuses what cannot be counted, at its line', async () => {
    const id = await begin({ itemIds: [items[1]!] });
    const codes = async (counted: string) => (await joko.refused('enterCount', await enter(id, [counted]))).codes;
    expect(await codes('many')).toEqual(['lines.0.counted: not-a-number']);
    expect(await codes('-1')).toEqual(['lines.0.counted: not-a-number']);
    expect(await codes('1.5')).toEqual(['lines.0.counted: whole-pieces']);
    expect((await joko.refused('postCount', await post(id))).codes).toEqual(['nothing-counted']);
    const unknown = { countId: id, lines: [{ lineId: 999999, counted: '1', unitCost: '' }] };
    expect((await joko.refused('enterCount', unknown)).codes).toEqual(['lines.0.lineId: unknown']);
    await joko.does('enterCount', await enter(id, ['4']));
    await joko.does('enterCount', await enter(id, ['']));
    expect((await open(id)).rows[0]).toMatchObject({ counted: null, countedBy: '' });
    await joko.does('cancelCount', { countId: id, version: (await open(id)).version });
  });

  it('is on paper with a bar code for each item, and its labels', async () => {
    const id = await begin();
    for (const what of ['sheet', 'labels']) {
      const answer = await fetch(`${world.serving.address}/api/counts/${id}/${what}.pdf`, {
        headers: { cookie: joko.cookie },
      });
      expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'application/pdf']);
      const bytes = Buffer.from(await answer.arrayBuffer());
      expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
      expect(bytes.length).toBeGreaterThan(2000);
    }
    await joko.does('cancelCount', { countId: id, version: (await open(id)).version });
  });

  it('posts once, when two post it at the same moment', async () => {
    const id = await begin({ itemIds: [items[2]!] });
    await joko.does('enterCount', await enter(id, ['10']));
    const input = await post(id);
    const before = await onHand(items[2]!);
    const answers = await Promise.all([joko, salmah].map((each) => each.raw('postCount', input)));
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    expect(Number((await onHand(items[2]!))[0])).toBe(Number(before[0]) - 2);
  });
});
