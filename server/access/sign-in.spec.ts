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

  it('limits attempts by name', async () => {
    const visitor = new Visitor(world.serving.address);
    for (let tries = 0; tries < 8; tries += 1) await visitor.signIn('joko', 'nonsense');
    const refused = refusalsOf(await visitor.signIn('joko', 'pallet-rain'));
    expect(refused).toMatchObject({ status: 429, codes: ['password: too-many-attempts'] });
    expect((await visitor.signIn('farida', 'ledger-lime')).status).toBe(200);
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
