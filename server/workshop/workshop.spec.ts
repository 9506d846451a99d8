import type * as z from 'zod';
import type { openTrail } from '@api/ledger';
import type { listWork, openWork, openWorkReport, workForLine } from '@api/workshop';
import { Actor } from '../sample/actor';
import { layOpeningStock } from '../sample/opening-stock';
import { layWorks } from '../sample/works';
import { World, WORK_DATE, type Visitor } from '../testing/world';

type Work = z.output<typeof openWork.out>;
type Report = z.output<typeof openWorkReport.out>;
type Trail = z.output<typeof openTrail.out>;
type Fits = z.output<typeof workForLine.out>;

describe('W3 what is made', () => {
  let world: World;
  let meilin: Visitor;
  let salmah: Visitor;
  let suresh: Visitor;

  beforeAll(async () => {
    world = await World.make();
    const { database } = world.serving;
    await layWorks(database, world.masters, WORK_DATE);
    const actor = new Actor(database, world.masters.companyId, world.masters.people.get('joko')!, 'stock');
    await layOpeningStock(database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    meilin = await world.visitor('meilin');
    salmah = await world.visitor();
    suresh = await world.visitor('suresh');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const make = async (item: string, quantity: string) => {
    const [made] = await meilin.does('newWork', { itemId: world.item(item), quantity, due: null });
    return made!.id;
  };
  const open = (id: number) => salmah.get<Work>(`/api/workshop/${id}`);
  const report = (workId: number, change: Record<string, unknown> = {}) => ({
    workId,
    operationId: null,
    good: '',
    scrapped: '',
    used: [],
    worked: [],
    finish: false,
    ...change,
  });

  it('is begun and made a piece at a time, at what it was reckoned to cost, until it is all there', async () => {
    const id = await make('UV-40', '2');
    expect(await open(id)).toMatchObject({ state: 'firm', finished: '0', untied: '2' });
    const [first] = await suresh.does('reportWork', report(id, { good: '1' }));
    console.log(JSON.stringify(await open(id), null, 1));
    console.log(JSON.stringify((await salmah.get<Trail>(`/api/trail/WR/${first!.id}`)).journals, null, 1));
  });
});
