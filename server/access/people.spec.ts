import { createHash, randomBytes } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { ROLES } from '../setup/company';
import { ROOMS } from '../rooms';
import { EmptyWorld, ZAINAB } from '../testing/empty';
import { refusalsOf, type Visitor } from '../testing/world';

describe('U4 people', () => {
  let world: EmptyWorld;
  let zainab: Visitor;
  // Links hold from the moment they are made by the machine's own clock.
  let now = new Date();
  const dayOf = (at: Date) => at.toISOString().slice(0, 10);
  const later = (days: number) => new Date(now.getTime() + days * 86_400_000);
  beforeAll(async () => {
    world = await EmptyWorld.make({ now: () => now });
    zainab = await world.begun();
  });
  afterAll(() => world.end());

  const word = () => {
    const token = randomBytes(24).toString('base64url');
    return { token, tokenHash: createHash('sha256').update(token).digest('hex') };
  };
  interface People {
    people: { id: number; name: string; roleId: number; outOfUse: boolean; secondFactor: boolean }[];
    roles: { id: number; name: string; rights: string[] }[];
    tokens: { id: number }[];
  }
  const people = () => zainab.get<People>('/api/company-people');
  const roleId = async (name: string) => (await people()).roles.find((role) => role.name === name)!.id;
  const join = async (role: string, signIn: string, password = 'pallet-otter-sun') => {
    const { token, tokenHash } = word();
    await zainab.does('invitePerson', { name: signIn, roleId: await roleId(role), days: 7, tokenHash });
    const visitor = world.nobody();
    const answer = await visitor.post('/api/join', { token, name: signIn, signIn, password });
    visitor.token = (answer.body as { token: string }).token;
    return { visitor, answer, token };
  };
  const status = async (visitor: Visitor, path: string) =>
    (await fetch(`${world.serving.address}/api${path}`, { headers: { cookie: visitor.cookie } })).status;

  it('come by a link once, within its days, and are out at once', async () => {
    const { visitor, answer, token } = await join('Stock keeper', 'karim');
    expect(answer).toMatchObject({ status: 200, body: { role: 'Stock keeper', company: { code: 'SJP' } } });
    expect(refusalsOf(await world.nobody().post('/api/invited', { token })).codes).toEqual(['invitation-gone']);
    expect(
      refusalsOf(await world.nobody().post('/api/join', { token, name: 'x', signIn: 'y', password: 'z' })).codes,
    ).toEqual(['invitation-gone']);
    const karim = (await people()).people.find(({ name }) => name === 'karim')!;
    expect([await status(visitor, '/stock'), await status(visitor, '/company-people')]).toEqual([200, 403]);
    await zainab.does('changePerson', { personId: karim.id, roleId: karim.roleId, outOfUse: true });
    expect(await status(visitor, '/stock')).toBe(401);
    expect(refusalsOf(await world.nobody().signIn('karim', 'pallet-otter-sun')).codes).toEqual([
      'password: wrong-sign-in',
    ]);
    await zainab.does('changePerson', { personId: karim.id, roleId: karim.roleId, outOfUse: false });
    expect((await world.nobody().signIn('karim', 'pallet-otter-sun')).status).toBe(200);
    const late = word();
    await zainab.does('invitePerson', { name: 'Late', roleId: karim.roleId, days: 1, tokenHash: late.tokenHash });
    expect((await world.nobody().post('/api/invited', { token: late.token })).status).toBe(200);
    await world.serving.database.run("UPDATE invitation SET expires_at = '2020-02-01' WHERE name = 'Late'");
    expect((await world.nobody().post('/api/invited', { token: late.token })).status).toBe(422);
  });

  it('of two who come by one link at once, one comes', async () => {
    const { token, tokenHash } = word();
    await zainab.does('invitePerson', { name: 'One', roleId: await roleId('Buyer'), days: 7, tokenHash });
    const answers = await Promise.all(
      ['one.a', 'one.b'].map((signIn) =>
        world.nobody().post('/api/join', { token, name: 'One', signIn, password: 'pallet-otter-sun' }),
      ),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
  });

  it('lose a right as soon as their role does', async () => {
    const { visitor } = await join('Buyer', 'buyer');
    const role = (await people()).roles.find(({ name }) => name === 'Buyer')!;
    expect(await status(visitor, '/kept.csv?list=items')).toBe(403);
    await zainab.does('keepRole', { id: role.id, name: role.name, rights: [...role.rights, 'lists'] });
    expect(await status(visitor, '/kept.csv?list=items')).toBe(200);
    await zainab.does('keepRole', { id: role.id, name: role.name, rights: role.rights });
    expect(await status(visitor, '/kept.csv?list=items')).toBe(403);
  });

  it('change their password, and every other session of theirs ends', async () => {
    const { visitor } = await join('Planner', 'planner');
    const other = world.nobody();
    await other.signIn('planner', 'pallet-otter-sun');
    const change = (body: object) => visitor.post('/api/own/password', body);
    expect(refusalsOf(await change({ now: 'no', then: 'river-otter-moon' })).codes).toEqual(['now: password-wrong']);
    expect(refusalsOf(await change({ now: 'pallet-otter-sun', then: 'password12' })).codes).toEqual([
      'then: password-common',
    ]);
    expect(await change({ now: 'pallet-otter-sun', then: 'river-otter-moon' })).toMatchObject({ body: { ended: 1 } });
    expect([await status(visitor, '/stock'), await status(other, '/stock')]).toEqual([200, 401]);
    await other.signIn('planner', 'river-otter-moon');
    const own = await visitor.get<{ sessions: { mark: string; this: boolean }[] }>('/api/own');
    expect(own.sessions.map((session) => session.this).sort()).toEqual([false, true]);
    await visitor.post('/api/own/sessions', { mark: own.sessions.find((session) => !session.this)!.mark });
    expect([await status(visitor, '/stock'), await status(other, '/stock')]).toEqual([200, 401]);
  });

  it('sign in with a second factor, each code once (RFC 6238)', async () => {
    const { visitor } = await join('Accounts clerk', 'farid');
    const password = 'pallet-otter-sun';
    const { body } = await visitor.post('/api/own/second-factor/begin', { password });
    const { secret, picture } = body as { secret: string; picture: string };
    expect(picture).toMatch(/^data:image\/svg\+xml;base64,/);
    const code = () =>
      new TOTP({ secret: Secret.fromBase32(secret), digits: 6, period: 30 }).generate({ timestamp: now.getTime() });
    expect(
      refusalsOf(await visitor.post('/api/own/second-factor', { password, secret, code: '000000' })).codes,
    ).toEqual(['code: code-wrong']);
    expect(await visitor.post('/api/own/second-factor', { password, secret, code: code() })).toMatchObject({
      body: { secondFactor: true },
    });
    const signIn = (given: string) => world.nobody().post('/api/sign-in', { signIn: 'farid', password, code: given });
    expect(refusalsOf(await signIn('')).codes).toEqual(['code: code-needed']);
    // The code that turned it on is used up.
    expect(refusalsOf(await signIn(code())).codes).toEqual(['code: code-wrong']);
    now = new Date(now.getTime() + 60_000);
    const both = await Promise.all([signIn(code()), signIn(code())]);
    expect(both.map((answer) => answer.status).sort()).toEqual([200, 422]);
    // A link lets nobody past it either.
    const again = word();
    await zainab.does('invitePerson', {
      name: 'Farid',
      roleId: await roleId('Buyer'),
      days: 7,
      tokenHash: again.tokenHash,
    });
    const came = await world
      .nobody()
      .post('/api/join', { token: again.token, name: 'Farid', signIn: 'farid', password });
    expect(refusalsOf(came).codes).toEqual(['code: code-needed']);
    await visitor.post('/api/own/second-factor', { password, secret: '', code: '' });
    expect((await signIn('')).status).toBe(200);
  });

  it('programs work by a token, with its rights, until its day or its end', async () => {
    const { token, tokenHash } = word();
    await zainab.does('makeToken', { name: 'Scale', rights: ['lists'], lastDay: dayOf(later(1)), tokenHash });
    const ask = async (path: string, init: RequestInit = {}) =>
      (
        await fetch(`${world.serving.address}/api${path}`, {
          ...init,
          headers: {
            Authorization: `Bearer ${token}`,
            'Content-Type': 'application/json',
            'Idempotency-Key': 'key-12345678',
          },
        })
      ).status;
    expect([await ask('/lists/items'), await ask('/company-people')]).toEqual([200, 403]);
    // What is a session’s is no program’s.
    const post = (path: string, body: object) => ask(path, { method: 'POST', body: JSON.stringify(body) });
    expect(await Promise.all([ask('/events'), ask('/own'), post('/company', { companyId: 1 })])).toEqual([
      401, 401, 401,
    ]);
    expect(await post('/own/sessions', { mark: 'abcdef12' })).toBe(401);
    const terms = {
      list: 'terms',
      changes: [{ id: null, stamp: '', cells: { name: '7 days', days: '7' } }],
      removed: [],
    };
    expect(await ask('/acts/keepList', { method: 'POST', body: JSON.stringify(terms) })).toBe(200);
    const was = now;
    now = later(3);
    expect(await ask('/lists/items')).toBe(401);
    now = was;
    expect(await ask('/lists/items')).toBe(200);
    await zainab.does('endToken', { id: (await people()).tokens[0]!.id });
    expect(await ask('/lists/items')).toBe(401);
  });

  it('the trail tells who did what, by person, act and document', async () => {
    interface Changes {
      rows: { person: string; act: string; input: string; fields: { what: string; was: string; is: string }[] }[];
    }
    const by = async (query: string) => (await zainab.get<Changes>(`/api/changes?${query}`)).rows;
    expect((await by('act=token%20made')).map(({ person }) => person)).toEqual(['Zainab']);
    expect(await by('person=nobody')).toEqual([]);
    expect((await by('act=keepList'))[0]).toMatchObject({
      act: 'lists kept',
      input: expect.stringContaining('7 days') as string,
      fields: [{ what: 'Payment terms 7 days', was: '', is: 'new' }],
    });
  });

  it.each(Object.keys(ROLES).filter((name) => name !== 'Owner'))(
    'every read by role: %s sees what it may, and is refused all else',
    async (name) => {
      const { visitor } = await join(name, `role.${Object.keys(ROLES).indexOf(name)}`);
      const reads = ROOMS.flatMap(({ answers = [] }) => answers)
        .map(({ endpoint }) => endpoint)
        .filter(({ open, method }) => !open && method === 'GET');
      const seen = await Promise.all(
        reads.map(async ({ name: read, path, needs }) => {
          const refused = (await status(visitor, path.replace(/:\w+/g, '1'))) === 403;
          return refused === (needs !== undefined && !ROLES[name]!.some((right) => right === needs)) ? '' : read;
        }),
      );
      expect(seen.filter(Boolean)).toEqual([]);
    },
  );

  it('nobody signs in as the first visitor without the password', async () => {
    expect((await world.nobody().signIn(ZAINAB.signIn, 'river-otter-lamb')).status).toBe(422);
  });
});
