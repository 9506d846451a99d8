import { verifyAndTell } from '../verify';
import { verifyingIsDue } from '../jobs';
import { agreed, World } from '../testing/world';

interface Upkeep {
  jobs: { job: string; well: boolean; found: string }[];
  comings: { what: string; name: string; from: string; detail: string; session: string }[];
  here: { person: string; windows: number }[];
  attention: { what: string; count: number; day: string | null }[];
  storage: { bytes: number; tables: { name: string; rows: number; bytes: number }[] };
  versions: { node: string; database: string; migration: string };
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
    await world.visitor('joko');
    const { jobs, comings, here, attention, storage, versions } = await salmah.get<Upkeep>('/api/upkeep');
    expect(here.map(({ person, windows }) => `${person} ${windows}`).sort()).toEqual(['Joko 2', 'Salmah 1']);
    // The check found something just now, and nothing was ever copied.
    expect(attention.map(({ what, count }) => `${what} ${count}`)).toEqual(
      expect.arrayContaining(['differs 1', 'not-copied 0']),
    );
    expect(attention.map(({ what }) => what)).not.toContain('not-checked');
    await world.serving.database.run('UPDATE job_result SET at = at - INTERVAL 27 HOUR');
    const later = await salmah.get<Upkeep>('/api/upkeep');
    expect(later.attention.find(({ what }) => what === 'not-checked')).toMatchObject({ count: 2 });
    await world.serving.database.run('UPDATE job_result SET at = at + INTERVAL 27 HOUR');
    expect(storage.bytes).toBeGreaterThanOrEqual(storage.tables.reduce((all, { bytes }) => all + bytes, 0));
    expect(storage.tables).toHaveLength(8);
    expect(versions).toMatchObject({ node: process.version, migration: expect.stringMatching(/^\d{4}_\w+/) as string });
    expect(jobs).toMatchObject([
      { job: 'verify', well: false },
      { job: 'verify', well: true, found: '0 differences' },
    ]);
    expect(jobs[0]!.found).toMatch(/^\d+ differences: .*released/);
    expect(comings.map(({ what, name }) => `${what} ${name}`).sort()).toEqual([
      'refused nobody',
      'signed-in Joko',
      'signed-in Joko',
      'signed-in Salmah',
    ]);
    const [one, other] = comings.filter(({ what }) => what === 'signed-in');
    expect(one!.session).toMatch(/^[0-9a-f]{8}$/);
    expect(one!.session).not.toBe(other!.session);
  });

  it('tells what waits for whoever runs it: files, invitations, tokens that end, rates that are old', async () => {
    const { database } = world.serving;
    const salmah = await world.visitor();
    const told = async () =>
      (await salmah.get<Upkeep>('/api/upkeep')).attention.map(({ what, count }) => `${what} ${count}`);
    const rated = (day: string) => database.run('UPDATE exchange_rate SET day = ?', [day]);
    await rated('2027-02-10');
    const quiet = await told();
    for (const what of ['files', 'invitations', 'tokens', 'rates']) expect(quiet.join()).not.toContain(what);
    const { companyId } = world.masters;
    const person = world.masters.people.get('salmah')!;
    await database.run(
      `INSERT INTO bring_in (company_id, person_id, list, file_name, left_out, state, row_count, work_date)
        VALUES (?, ?, 'items', 'items.csv', '[]', 'ready', 3, '2027-03-01')`,
      [companyId, person],
    );
    await database.run(
      `INSERT INTO invitation (company_id, token_hash, name, role_id, invited_by, expires_at)
        SELECT ?, UNHEX(SHA2('a', 256)), 'Ravi', MIN(id), ?, CURRENT_TIMESTAMP + INTERVAL 3 DAY FROM role WHERE company_id = ?`,
      [companyId, person, companyId],
    );
    await database.run(
      `INSERT INTO program_token (company_id, token_hash, name, rights, last_day, person_id)
        VALUES (?, UNHEX(SHA2('b', 256)), 'scales', '[]', CURRENT_DATE + INTERVAL 3 DAY, ?)`,
      [companyId, person],
    );
    await database.run("UPDATE vendor SET currency = 'USD' WHERE number = 'V-101'");
    await rated('2027-01-20');
    expect(await told()).toEqual(
      expect.arrayContaining(['files 1', 'invitations 1', 'tokens 1', expect.stringMatching(/^rates [12]$/)]),
    );
    // What is put right is gone.
    await database.run("UPDATE program_token SET ended = TRUE WHERE name = 'scales'");
    await database.run("UPDATE invitation SET withdrawn = TRUE WHERE name = 'Ravi'");
    await database.run("UPDATE bring_in SET state = 'taken'");
    await rated('2027-02-10');
    expect(await told()).toEqual(quiet);
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
