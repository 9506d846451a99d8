import type * as z from 'zod';
import { locationAt } from '@core/kernel';
import type { openTrail } from '@api/ledger';
import type { openSerial } from '@api/serial';
import type { listCarriages, listStock } from '@api/stock';
import { Actor } from '../sample/actor';
import { EAST, layOpeningStock } from '../sample/opening-stock';
import { World, WORK_DATE, type Visitor } from '../testing/world';

type Carriages = z.output<typeof listCarriages.out>['rows'];
type Trail = z.output<typeof openTrail.out>;

const DUE = '2027-03-10';

describe('W6 goods under way between our places', () => {
  let world: World;
  let joko: Visitor;
  let salmah: Visitor;
  let item: number;

  beforeAll(async () => {
    world = await World.make();
    const { database } = world.serving;
    const actor = new Actor(database, world.masters.companyId, world.masters.people.get('joko')!, 'stock');
    await layOpeningStock(database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    [salmah, joko] = [await world.visitor(), await world.visitor('joko')];
    item = world.item('GAC-25');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const send = async (quantity: string, change: Record<string, unknown> = {}) => {
    const [journal] = await joko.does('moveBetween', {
      itemId: item,
      from: 0,
      to: EAST,
      quantity,
      arrivesOn: DUE,
      ...change,
    });
    const [row] = (await carriages()).filter(({ document }) => document.id === journal!.id);
    return { journal: journal!, id: row!.id };
  };
  const carriages = async (query = '') => (await joko.get<{ rows: Carriages }>(`/api/carriages${query}`)).rows;
  const arrives = (carriageId: number, quantity: string, to = EAST) => ({ carriageId, to, quantity });
  const places = async () =>
    (await salmah.get<z.output<typeof listStock.out>>('/api/stock?q=GAC-25')).rows.map(
      ({ location, onHand, free, coming }) => [location.name, onHand, free, coming],
    );

  it('are at neither place, are told as coming, and are promised from the day they arrive', async () => {
    const { journal, id } = await send('25');
    expect(await places()).toEqual([
      ['Main store', '235', '235', '0'],
      ['East coast store', '40', '40', '25'],
      ['Under way', '25', '0', '0'],
    ]);
    expect(await carriages('?state=under-way')).toMatchObject([
      {
        id,
        document: { kind: 'JR', id: journal.id },
        item: { number: 'GAC-25' },
        state: 'under way',
        quantity: '25',
        arrived: '0',
        from: { name: 'Main store' },
        to: { id: EAST, name: 'East coast store' },
        leftOn: WORK_DATE,
        dueDate: DUE,
        by: 'Joko',
        byNumber: false,
      },
    ]);
    const { rows } = await salmah.get<{ rows: { location: { name: string }; free: string }[] }>('/api/shelf?q=GAC-25');
    expect(rows.map(({ location, free }) => [location.name, free])).toEqual([
      ['Main store', '235'],
      ['East coast store', '40'],
    ]);
    const { id: customerId, shipTos } = world.masters.customers.get('Teratai Bay Resort')!;
    const line = { id: null, itemId: item, quantity: '60', shipDate: '2027-03-05', route: 'stock', locationId: EAST };
    const order = {
      id: null,
      version: null,
      customerId,
      shipToId: shipTos[0],
      customerReference: 'W-1',
      lines: [line],
    };
    const [draft] = await salmah.does('saveOrder', order);
    const { lines } = await salmah.get<{ lines: { ways: { atp: { day: string } } }[] }>(
      `/api/orders/${draft!.id}/promise/check`,
    );
    expect(lines[0]!.ways.atp.day).toBe(DUE);
    const seen = await salmah.get<{ supplies: { itemId: number; quantity: string; source: object }[] }>(
      `/api/items/${item}/availability`,
    );
    const coming = seen.supplies.filter((supply) => locationAt(supply.itemId) === EAST);
    expect(coming).toMatchObject([
      { quantity: '25', source: { kind: 'JR', number: journal.number, party: 'Main store' } },
    ]);
  });

  it('are a place that is in no list, where nothing goes out from, is counted or put right', async () => {
    const { rows } = await salmah.get<{ rows: { name: string }[] }>('/api/locations');
    expect(rows.map(({ name }) => name)).toEqual(['Main store', 'East coast store']);
    const kept = await salmah.get<{ rows: { cells: { code: string } }[] }>('/api/lists/locations');
    expect(kept.rows.map(({ cells }) => cells.code)).toEqual(['EAST', 'MAIN']);
    const way = 32_767;
    const put = { itemId: item, locationId: way, was: '25', now: '24', unitCost: '', reason: 'x' };
    expect((await joko.refused('adjustStock', put)).codes).toContain('locationId: unknown');
    const between = { itemId: item, from: way, to: 0, quantity: '1' };
    expect((await joko.refused('moveBetween', between)).codes).toEqual(['from: unknown']);
    const count = { locationId: way, groupId: null, itemIds: [item], blind: false };
    expect((await joko.refused('beginCount', count)).codes).toEqual(['locationId: unknown']);
  });

  it('arrive in parts, at another place too, and on another day than was said', async () => {
    const [first] = await carriages('?state=under-way');
    await joko.does('arrivesOn', { carriageId: first!.id, dueDate: '2027-03-12' });
    expect(await carriages('?state=under-way')).toMatchObject([{ dueDate: '2027-03-12' }]);
    expect((await joko.refused('arrive', arrives(first!.id, '26'))).codes).toEqual(['quantity: above-under-way']);
    await joko.does('arrive', arrives(first!.id, '10'));
    const [rest] = await joko.does('arrive', arrives(first!.id, '15', 0));
    expect(await places()).toEqual([
      ['Main store', '250', '250', '0'],
      ['East coast store', '50', '50', '0'],
      ['Under way', '0', '0', '0'],
    ]);
    expect(await carriages('?state=under-way')).toEqual([]);
    expect(await carriages()).toMatchObject([{ state: 'arrived', arrived: '25' }]);
    expect((await joko.refused('arrive', arrives(first!.id, '1'))).codes).toEqual(['not-under-way']);
    const later = { carriageId: first!.id, dueDate: '2027-03-15' };
    expect((await joko.refused('arrivesOn', later)).codes).toEqual(['not-under-way']);
    // What left is not taken back before what arrived of it.
    const leaving = { journalId: first!.document.id, reason: 'wrong van' };
    expect((await joko.refused('carryBack', leaving)).codes).toEqual(['arrived-first']);
    const [back] = await joko.does('carryBack', { journalId: rest!.id, reason: 'not ours' });
    expect(await carriages('?state=under-way')).toMatchObject([{ arrived: '10' }]);
    const trail = await salmah.get<Trail>(`/api/trail/JR/${rest!.id}`);
    expect(trail.adjustment).toMatchObject({ carried: true, reversedBy: { id: back!.id } });
    expect((await joko.refused('carryBack', { journalId: rest!.id, reason: 'x' })).codes).toEqual(['reversed-already']);
    expect((await joko.refused('carryBack', { journalId: back!.id, reason: 'x' })).codes).toEqual(['is-reversal']);
    await joko.does('arrive', arrives(first!.id, '15'));
  });

  it('never left after all, and what was there at once goes back as well', async () => {
    const before = await places();
    const { journal, id } = await send('7');
    await joko.does('carryBack', { journalId: journal.id, reason: 'van broke down' });
    expect(await places()).toEqual(before);
    expect((await carriages()).find((each) => each.id === id)).toMatchObject({ state: 'taken back' });
    expect((await joko.refused('arrive', arrives(id, '1'))).codes).toEqual(['not-under-way']);
    const [moved] = await joko.does('moveBetween', { itemId: item, from: 0, to: EAST, quantity: '3' });
    expect((await joko.refused('takeBackAdjustment', { journalId: moved!.id, reason: 'x' })).codes).toEqual([
      'no-adjustment',
    ]);
    await joko.does('carryBack', { journalId: moved!.id, reason: 'wrong shelf' });
    expect(await places()).toEqual(before);
    const [right] = await joko.does('adjustStock', {
      itemId: item,
      locationId: 0,
      was: before[0]![1]!,
      now: '10',
      unitCost: '',
      reason: 'counted',
    });
    expect((await joko.refused('carryBack', { journalId: right!.id, reason: 'x' })).codes).toEqual(['nothing-carried']);
    await joko.does('takeBackAdjustment', { journalId: right!.id, reason: 'counted wrong' });
  });

  it('arrive once for two at once, and by two taken back once', async () => {
    const { journal, id } = await send('5');
    const both = await Promise.all([joko.raw('arrive', arrives(id, '3')), salmah.raw('arrive', arrives(id, '3'))]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 422]);
    await joko.does('arrive', arrives(id, '2'));
    expect((await joko.refused('carryBack', { journalId: journal.id, reason: 'x' })).codes).toEqual(['arrived-first']);
    const { journal: other } = await send('4');
    const back = { journalId: other.id, reason: 'x' };
    const twice = await Promise.all([joko.raw('carryBack', back), salmah.raw('carryBack', back)]);
    expect(twice.map(({ status }) => status).sort()).toEqual([200, 422]);
  });

  it('are told to who keeps the stock on the day they are to arrive', async () => {
    const told = async (who = joko) =>
      (await who.get<{ rows: { kind: string; day: string; party: string; note: string }[] }>('/api/today')).rows.filter(
        ({ kind }) => kind === 'not-arrived',
      );
    const { id } = await send('2', { arrivesOn: WORK_DATE });
    await joko.does('arrive', arrives(id, '0.5'));
    expect(await told()).toMatchObject([{ day: WORK_DATE, party: 'East coast store', note: '1.5 GAC-25' }]);
    expect(await told(await world.visitor('rashid'))).toEqual([]);
    await joko.does('arrive', arrives(id, '1.5'));
    expect(await told()).toEqual([]);
  });

  it('keep their numbers, with what is within them', async () => {
    const pump = world.item('PM-15');
    const piece = async (number: string) => {
      const { rows } = await joko.get<{ rows: { id: number }[] }>(`/api/serials?item=${pump}&q=${number}`);
      return joko.get<z.output<typeof openSerial.out>>(`/api/serials/${rows[0]!.id}`);
    };
    const { journal, id } = await send('2', { itemId: pump, numbers: ['P15-00020', 'P15-00021'] });
    expect(await piece('P15-00020')).toMatchObject({ place: 'ours', location: 'Under way' });
    const some = { ...arrives(id, '1'), numbers: ['P15-00022'] };
    expect((await joko.refused('arrive', some)).codes).toEqual(['numbers: number-not-with']);
    const [arrival] = await joko.does('arrive', { ...some, numbers: ['P15-00021'] });
    expect(await piece('P15-00021')).toMatchObject({ location: 'East coast store' });
    await joko.does('carryBack', { journalId: arrival!.id, reason: 'x' });
    expect(await piece('P15-00021')).toMatchObject({ location: 'Under way' });
    // Where none is said, those that left with it arrive, whatever else is under way.
    const other = await send('1', { itemId: pump, numbers: ['P15-00001'] });
    const [both] = await joko.does('arrive', arrives(id, '2'));
    expect(await piece('P15-00001')).toMatchObject({ location: 'Under way' });
    await joko.does('carryBack', { journalId: both!.id, reason: 'x' });
    const [alone] = await joko.does('arrive', arrives(other.id, '1'));
    expect(await piece('P15-00001')).toMatchObject({ location: 'East coast store' });
    await joko.does('carryBack', { journalId: alone!.id, reason: 'x' });
    await joko.does('carryBack', { journalId: other.journal.id, reason: 'x' });
    await joko.does('carryBack', { journalId: journal.id, reason: 'x' });
    expect(await piece('P15-00021')).toMatchObject({ place: 'ours', location: 'Main store' });
  });
});
