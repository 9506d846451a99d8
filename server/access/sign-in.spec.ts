import { refusalsOf, Visitor, World } from '../testing/world';

describe('signing in', () => {
  let world: World;
  beforeAll(async () => {
    world = await World.make();
  });
  afterAll(() => world.end());

  it('gives a cookie no script can read and keeps only hashes', async () => {
    const response = await fetch(`${world.serving.address}/api/sign-in`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ signIn: 'Salmah', password: 'jetty-lantern' }),
    });
    expect(response.status).toBe(200);
    const cookie = response.headers.get('set-cookie')!;
    expect(cookie).toMatch(/httponly/i);
    expect(cookie).toMatch(/samesite=strict/i);
    const [person] = await world.serving.database.rows<{ passwordHash: string }>(
      "SELECT password_hash FROM person WHERE sign_in = 'salmah'",
    );
    expect(person!.passwordHash).toMatch(/^\$argon2id\$/);
    const token = /kampong=([^;]+)/.exec(cookie)![1]!;
    const [session] = await world.serving.database.rows<{ tokenHash: Buffer }>('SELECT token_hash FROM session');
    expect(session!.tokenHash.toString('base64url')).not.toContain(token);
  });

  it('answers a wrong password and an unknown name alike', async () => {
    const visitor = new Visitor(world.serving.address);
    const wrong = refusalsOf(await visitor.signIn('devan', 'nonsense'));
    const unknown = refusalsOf(await visitor.signIn('nobody', 'nonsense'));
    expect(wrong).toEqual(unknown);
    expect(wrong.codes).toEqual(['password: wrong-sign-in']);
  });

  const guesses = async (name: string, times: number) => {
    const answers = await Promise.all(
      Array.from({ length: times }, (_, at) => new Visitor(world.serving.address).signIn(name, `guess ${at}`)),
    );
    return answers.map(({ status }) => status);
  };

  it('looks at five passwords of a name, however many come at once, then lets it wait', async () => {
    const statuses = await guesses('joko', 100);
    expect(statuses.filter((status) => status === 422)).toHaveLength(5);
    expect(statuses.filter((status) => status === 429)).toHaveLength(95);
    const refused = await new Visitor(world.serving.address).signIn('joko', 'pallet-rain');
    expect(refusalsOf(refused)).toMatchObject({ status: 429, codes: ['password: too-many-attempts'] });
    // Who guesses at one name keeps nobody else out.
    expect((await new Visitor(world.serving.address).signIn('farida', 'ledger-lime')).status).toBe(200);
  });

  it('lets a person in on their own device while others guess at the name, and gives back what fitted', async () => {
    const own = new Visitor(world.serving.address);
    for (let times = 0; times < 8; times += 1) expect((await own.signIn('meilin', 'sluice-plan')).status).toBe(200);
    await guesses('meilin', 20);
    expect((await new Visitor(world.serving.address).signIn('meilin', 'sluice-plan')).status).toBe(429);
    expect((await own.signIn('meilin', 'sluice-plan')).status).toBe(200);
    // A device that several share is known for each of them.
    expect((await own.signIn('rashid', 'tide-chart')).status).toBe(200);
    expect((await own.signIn('meilin', 'sluice-plan')).status).toBe(200);
    // It is limited as well.
    for (let times = 0; times < 5; times += 1) expect((await own.signIn('meilin', 'nonsense')).status).toBe(422);
    expect((await own.signIn('meilin', 'sluice-plan')).status).toBe(429);
  });

  it('waits longer each time it is tried again', async () => {
    const { database } = world.serving;
    const waited: number[] = [];
    for (const minutes of [1, 2, 4, 8, 15, 15]) {
      await guesses('rashid', 6);
      const { refusals } = (await new Visitor(world.serving.address).signIn('rashid', 'x')).body as {
        refusals: { facts: { minutes: string } }[];
      };
      waited.push(Number(refusals[0]!.facts.minutes) - minutes);
      await database.run("UPDATE sign_in_attempt SET expire = 1 WHERE `key` LIKE 'try:%rashid'");
    }
    expect(waited).toEqual([0, 0, 0, 0, 0, 0]);
  });

  it('answers where what it counts cannot be kept, and goes on', async () => {
    const { database } = world.serving;
    await database.run('RENAME TABLE sign_in_attempt TO away');
    expect((await new Visitor(world.serving.address).signIn('devan', 'nonsense')).status).toBe(500);
    await database.run('RENAME TABLE away TO sign_in_attempt');
    expect((await new Visitor(world.serving.address).signIn('devan', 'nonsense')).status).toBe(422);
  });

  it('keeps a wait once, however often it is tried meanwhile', async () => {
    const { database } = world.serving;
    const kept = async () => (await database.rows("SELECT id FROM access_log WHERE name = 'nobody-at-all'")).length;
    await guesses('nobody-at-all', 40);
    expect(await kept()).toBe(6);
  });

  it('keeps who came and went, who was kept out, and what was taken along, and lets nobody rewrite it', async () => {
    const { database } = world.serving;
    const [before] = await database.rows<{ id: number | null }>('SELECT MAX(id) AS id FROM access_log');
    const visitor = new Visitor(world.serving.address);
    await visitor.signIn('devan', 'not this');
    await visitor.signIn('devan', 'harbour-crate');
    await fetch(`${world.serving.address}/api/agreements.csv`, { headers: { cookie: visitor.cookie } });
    await visitor.post('/api/sign-out', {});
    const kept = await database.rows<{ what: string; name: string; personId: number | null; origin: string }>(
      'SELECT what, name, person_id, origin FROM access_log WHERE id > ? ORDER BY id',
      [before!.id ?? 0],
    );
    expect(kept.map(({ what, name }) => `${what} ${name}`)).toEqual([
      'refused devan',
      'signed-in Devan',
      'export Devan',
      'signed-out Devan',
    ]);
    expect(kept.map(({ personId }) => personId !== null)).toEqual([false, true, true, true]);
    for (const { origin } of kept) expect(origin).toBe('127.0.0.1');
    await expect(database.run("UPDATE access_log SET name = 'x'")).rejects.toThrow('access_log is written once');
    await expect(database.run('DELETE FROM access_log')).rejects.toThrow('access_log is written once');
  });

  it('refuses a post without the token of the session, and everything once signed out', async () => {
    const visitor = await world.visitor();
    const { token } = visitor;
    visitor.token = 'forged';
    expect((await visitor.raw('invoiceCustomer', { orderId: 1 })).status).toBe(401);
    visitor.token = token;
    await visitor.post('/api/sign-out', {});
    expect((await visitor.get<{ status: number }>('/api/today')).status).toBe(401);
  });

  it('sends strict headers and no words of the inside', async () => {
    const response = await fetch(`${world.serving.address}/api/nothing-here`);
    expect(response.status).toBe(404);
    expect(response.headers.get('content-type')).toContain('application/problem+json');
    const policy = response.headers.get('content-security-policy')!;
    expect(policy).toContain("default-src 'self'");
    expect(policy).not.toContain('unsafe');
    expect(response.headers.get('x-content-type-options')).toBe('nosniff');
  });

  it('describes itself', async () => {
    const description = (await (await fetch(`${world.serving.address}/api/openapi.json`)).json()) as {
      openapi: string;
      paths: Record<string, unknown>;
    };
    expect(description.openapi).toBe('3.1.0');
    expect(Object.keys(description.paths)).toEqual(
      expect.arrayContaining([
        '/api/agreements/{id}',
        '/api/acts/releaseAgreement',
        '/api/acts/releaseAgreement/preview',
      ]),
    );
  });
});
