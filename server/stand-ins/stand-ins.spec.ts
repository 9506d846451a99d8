import { pino } from 'pino';
import { layDesk } from '../sample/desk';
import { systemClock } from '../clock';
import { tick } from '../jobs/jobs';
import { agreed, placed, World, WORK_DATE, type Visitor } from '../testing/world';

interface Purchase {
  state: string;
  answeredOn: string | null;
  shares: { received: number; invoiced: number };
  documents: { document: { kind: string } }[];
}

describe('outside parties while the work date moves', () => {
  let world: World;
  let salmah: Visitor;
  const purchases: number[] = [];

  beforeAll(async () => {
    world = await World.make();
    await world.serving.database.run('UPDATE company SET demo = TRUE');
    await layDesk(world.serving.database, world.masters, WORK_DATE, 7);
    salmah = await world.visitor();
    const agreement = await agreed(world, salmah, {}, '1000');
    for (let count = 0; count < 12; count += 1) {
      purchases.push((await placed(world, salmah, agreement, '5')).purchaseId);
    }
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const look = () => tick({ database: world.serving.database, clock: systemClock, log: pino({ level: 'silent' }) });
  const moveTo = async (workDate: string) => {
    await salmah.does('moveWorkDate', { workDate });
    await Promise.all([look(), look()]);
  };
  const open = (id: number) => salmah.get<Purchase>(`/api/purchases/${id}`);
  const all = () => Promise.all(purchases.map(open));

  it('leave a demo that was just laid as it is', async () => {
    await look();
    await look();
    expect(
      (await all()).every(
        (each) => each.answeredOn === null && each.documents.every(({ document }) => document.kind !== 'RC'),
      ),
    ).toBe(true);
  });

  it('answer the day after', async () => {
    await moveTo('2027-03-02');
    expect((await all()).every((each) => each.answeredOn === '2027-03-02')).toBe(true);
  });

  it('deliver and invoice in time, all of it once', async () => {
    for (const day of [
      '2027-03-09',
      '2027-03-12',
      '2027-03-15',
      '2027-03-20',
      '2027-03-26',
      '2027-04-05',
      '2027-04-08',
    ]) {
      await moveTo(day);
    }
    const after = await all();
    expect(after.map((each) => each.shares)).toEqual(after.map(() => ({ received: 1, invoiced: 1 })));
    expect(after.every((each) => each.state === 'closed')).toBe(true);
    // Some came in two parts.
    const parts = after.map((each) => each.documents.filter(({ document }) => document.kind === 'RC').length);
    expect(Math.min(...parts)).toBe(1);
    const trail = await world.serving.database.rows<{ name: string }>(
      "SELECT DISTINCT p.name FROM audit a JOIN person p ON p.id = a.person_id WHERE a.act = 'receiveGoods'",
    );
    expect(trail.map((row) => row.name)).toEqual(['Vendors and markets (stand-in)']);
  });

  it('give market prices for the weeks that passed', async () => {
    const { rows } = await salmah.get<{ rows: { cells: { day: string } }[] }>('/api/lists/market-values?rows=3');
    expect(rows.map((row) => row.cells.day)).toEqual(['2027-04-05', '2027-03-29', '2027-03-22']);
  });

  it('do nothing on days that were before', async () => {
    const before = await all();
    await moveTo('2027-03-20');
    expect(await all()).toEqual(before);
  });
});
