import { verifyAndTell } from '../verify';
import { verifyingIsDue } from '../jobs';
import { agreed, World } from '../testing/world';

interface Upkeep {
  jobs: { job: string; well: boolean; found: string }[];
  comings: { what: string; name: string; from: string; detail: string; session: string }[];
}

describe('upkeep', () => {
  let world: World;
  beforeAll(async () => {
    world = await World.make();
  });
  afterAll(() => world.end());

  it('shows who may how the last check went and who came and went, and nobody else', async () => {
    const [salmah, joko] = await Promise.all([world.visitor(), world.visitor('joko')]);
    const answer = await fetch(`${world.serving.address}/api/upkeep`, { headers: { cookie: joko.cookie } });
    expect([answer.status, ((await answer.json()) as { refusals: { code: string }[] }).refusals[0]!.code]).toEqual([
      403,
      'no-right-to-see',
    ]);
    await salmah.signIn('nobody', 'wrong');
    const agreement = await agreed(world, salmah);
    expect(await verifyAndTell(world.serving.database)).toEqual([]);
    await world.serving.database.run('UPDATE agreement_line SET released = 3 WHERE id = ?', [agreement.lineId]);
    expect(await verifyAndTell(world.serving.database)).not.toEqual([]);
    const { jobs, comings } = await salmah.get<Upkeep>('/api/upkeep');
    expect(jobs).toMatchObject([
      { job: 'verify', well: false },
      { job: 'verify', well: true, found: '0 differences' },
    ]);
    expect(jobs[0]!.found).toMatch(/^\d+ differences: .*released/);
    expect(comings.map(({ what, name }) => `${what} ${name}`).sort()).toEqual([
      'refused nobody',
      'signed-in Joko',
      'signed-in Salmah',
    ]);
    const [one, other] = comings.filter(({ what }) => what === 'signed-in');
    expect(one!.session).toMatch(/^[0-9a-f]{8}$/);
    expect(one!.session).not.toBe(other!.session);
  });

  it('checks when it is due, by one of several servers', async () => {
    const { database } = world.serving;
    let now = Date.now();
    const due = () => verifyingIsDue(database, { now: () => new Date(now) }, 24);
    expect((await Promise.all([due(), due(), due()])).filter(Boolean)).toHaveLength(1);
    now += 24 * 3_600_000 - 60_000;
    expect(await due()).toBe(false);
    now += 120_000;
    expect(await due()).toBe(true);
    expect(await verifyingIsDue(database, { now: () => new Date(now + 1e12) }, 0)).toBe(false);
  });
});
