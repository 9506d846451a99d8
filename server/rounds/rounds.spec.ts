import { WORK_DATE, World, type Visitor } from '../testing/world';

interface Run {
  stops: {
    shipToId: number;
    weight: string;
    over: boolean;
    loaded: boolean;
    lines: { lineId: number; now: string; loaded: string }[];
  }[];
  weight: string;
  overWeight: string;
  shipped: { shipment: { id: number } }[];
}

describe('delivery rounds', () => {
  let world: World;
  let joko: Visitor;
  let salmah: Visitor;
  let roundId: number;
  const DAY = '2027-03-02';

  const customer = (name: string) => world.masters.customers.get(name)!;
  const run = () => joko.get<Run>(`/api/rounds/${roundId}/runs/${DAY}`);

  async function ordered(name: string, quantity: string, shipDate = DAY, address = 0): Promise<number> {
    const { id: customerId, shipTos } = customer(name);
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId,
      shipToId: shipTos[address],
      customerReference: 'R-1',
      lines: [{ id: null, itemId: world.item('SALT-25'), quantity, shipDate, route: 'stock' }],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    return order!.id;
  }

  beforeAll(async () => {
    world = await World.make();
    await world.withWorks();
    await world.serving.database.run("UPDATE item SET weight = 25, volume = 0.03 WHERE number = 'SALT-25'");
    joko = await world.visitor('joko');
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  beforeEach(() => world.workOn(WORK_DATE));
  afterEach(async () => expect(await world.verify()).toEqual([]));

  it('has its days, its vehicle and its stops; an address is on one', async () => {
    const stops = [
      customer('Padi Emas Food Works').shipTos[0],
      customer('Teratai Bay Resort').shipTos[1],
      customer('Rumah Hijau Growers').shipTos[0],
    ];
    const typed = {
      id: null,
      version: null,
      name: 'Northern round',
      week: '0100100',
      vehicle: 'Van 2',
      mostWeight: '600',
      mostVolume: '',
      stops,
    };
    await joko.does('saveRound', typed);
    const { rows } = await joko.get<{
      rows: { id: number; version: number; days: string[]; stops: { label: string }[] }[];
    }>('/api/rounds');
    expect(rows).toMatchObject([
      {
        days: [DAY, '2027-03-05', '2027-03-09'],
        stops: [{ label: 'Gate 2' }, { label: 'Hill Villas' }, { label: 'Greenhouse 4' }],
      },
    ]);
    roundId = rows[0]!.id;
    expect((await joko.refused('saveRound', { ...typed, name: 'Other' })).codes).toEqual([
      'stops.0: on-another-round',
      'stops.1: on-another-round',
      'stops.2: on-another-round',
    ]);
    expect((await joko.refused('saveRound', typed)).codes).toContain('name: round-named');
    // Driven the other way about; two at once: the second sees an older one.
    await joko.does('saveRound', { ...typed, id: roundId, version: 1, stops: [...stops].reverse() });
    expect((await joko.refused('saveRound', { ...typed, id: roundId, version: 1 })).codes).toEqual(['round-changed']);
    const devan = await world.visitor('meilin');
    expect((await devan.refused('saveRound', { ...typed, name: 'X' })).codes).toEqual(['no-right']);
  });

  it('gathers what ships to its addresses by its day, in their order, weighed over the vehicle', async () => {
    await ordered('Padi Emas Food Works', '12');
    await ordered('Rumah Hijau Growers', '8', WORK_DATE);
    await ordered('Rumah Hijau Growers', '8', '2027-03-08');
    await ordered('Teratai Bay Resort', '6', DAY, 0);
    await ordered('Teratai Bay Resort', '9', DAY, 1);
    const { stops, weight, overWeight } = await run();
    expect(stops.map(({ shipToId, weight: each, over }) => [shipToId, each, over])).toEqual([
      [customer('Rumah Hijau Growers').shipTos[0], '200', false],
      [customer('Teratai Bay Resort').shipTos[1], '225', false],
      [customer('Padi Emas Food Works').shipTos[0], '300', true],
    ]);
    expect({ weight, overWeight }).toEqual({ weight: '725', overWeight: '125' });
  });

  it('is loaded, and shipped stop by stop in one act', async () => {
    const { stops } = await run();
    const [first, , last] = stops;
    expect((await joko.refused('shipStop', { roundId, day: DAY, shipToId: last!.shipToId })).codes).toEqual([
      'nothing-loaded',
    ]);
    expect(
      (
        await joko.refused('loadRun', {
          roundId,
          day: DAY,
          lines: [{ lineId: last!.lines[0]!.lineId, quantity: '13' }],
        })
      ).codes,
    ).toEqual(['lines.0.quantity: not-to-load']);
    await joko.does('loadRun', {
      roundId,
      day: DAY,
      lines: [
        { lineId: last!.lines[0]!.lineId, quantity: '7' },
        { lineId: first!.lines[0]!.lineId, quantity: '8' },
      ],
    });
    // On one vehicle at a time.
    expect(
      (
        await joko.refused('loadRun', {
          roundId,
          day: '2027-03-05',
          lines: [{ lineId: last!.lines[0]!.lineId, quantity: '1' }],
        })
      ).codes,
    ).toEqual(['lines.0.quantity: loaded-elsewhere']);
    await world.workOn(DAY);
    const [shipment] = await joko.does('shipStop', { roundId, day: DAY, shipToId: last!.shipToId });
    expect(shipment!.kind).toBe('SH');
    const after = await run();
    expect(after.shipped.map(({ shipment: { id } }) => id)).toEqual([shipment!.id]);
    expect(after.stops.find(({ shipToId }) => shipToId === last!.shipToId)!.lines).toMatchObject([
      { now: '5', loaded: '0' },
    ]);
    expect(after.stops[0]!.loaded).toBe(true);
    // Twice at once: once.
    const answers = await Promise.all(
      [1, 2].map(() => joko.raw('shipStop', { roundId, day: DAY, shipToId: first!.shipToId })),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
  });

  it('is put out of use, and its addresses are free for another', async () => {
    await joko.does('dropRound', { id: roundId, version: 2 });
    expect((await joko.get<{ rows: unknown[] }>('/api/rounds')).rows).toEqual([]);
    expect((await joko.get<{ rows: { round: string }[] }>('/api/rounds/addresses?q=gate')).rows).toMatchObject([
      { round: '' },
    ]);
  });
});
