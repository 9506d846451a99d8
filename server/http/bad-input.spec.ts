import { World, type Visitor } from '../testing/world';

/** What no screen sends: refused at its place, and never a fault of the server. // G3 G4 */
describe('bad input', () => {
  let world: World;
  let salmah: Visitor;
  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const asked = async (path: string, init: RequestInit = {}) => {
    const response = await fetch(world.serving.address + path, { headers: { cookie: salmah.cookie }, ...init });
    await response.text();
    return response.status;
  };

  it.each([
    ['/api/agreements/1%2F2', 400],
    ['/api/agreements/%2E%2E%2Fpersons', 400],
    ['/api/agreements/%E0%A4%A', 400],
    ['/%E0%A4%A', 400],
    ['/api/agreements/%00', 400],
    ['/api/agreements?q=%ED%A0%80', 200],
    ['/api/agreements?rows=NaN', 400],
    ['/api/agreements?q[]=1', 200],
    ['/api/agreements?q=a&q=b', 400],
    ['/api/find?q=%00', 400],
    ['/api/documents/XX/1/trail', 404],
    ['/..%2F..%2Fetc%2Fpasswd', 403],
  ])('in an address: %s', async (path, status) => {
    expect(await asked(path)).toBe(status);
  });

  it.each([
    ['an unknown encoding', { 'Content-Encoding': 'sdch' }, '{}', 415],
    ['a broken encoding', { 'Content-Encoding': 'gzip' }, 'not gzip', 400],
    ['no JSON', {}, '{"a":', 400],
    ['no object', {}, '[]', 400],
    ['an unknown kind', { 'Content-Type': 'text/csv' }, 'a,b', 400],
    ['an unknown character set', { 'Content-Type': 'application/json; charset=ebcdic' }, '{}', 400],
    ['a depth without end', {}, `${'['.repeat(200_000)}${']'.repeat(200_000)}`, 400],
    ['a name all objects have', {}, '{"__proto__":{"id":1},"constructor":1}', 400],
  ])('in a body: %s', async (_what, headers, body, status) => {
    const sent = {
      'Content-Type': 'application/json',
      cookie: salmah.cookie,
      'X-Kampong-Token': salmah.token,
      'Idempotency-Key': 'bad-input-key',
      ...headers,
    };
    expect(await asked('/api/acts/saveOrder/preview', { method: 'POST', headers: sent, body })).toBe(status);
  });

  const order = (change: object) => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item('SALT-25'), quantity: '1', shipDate: '2027-03-08', route: 'stock' };
    const head = { id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'KB-1' };
    return { ...head, lines: [{ ...line, ...change }] };
  };

  it.each(['half a letter: \ud83d', 'a bell: \u0007', 'no character: \ufffe'])('in a text: %j', async (reason) => {
    const sent = order({ price: '20', reason });
    expect((await salmah.refused('saveOrder', sent)).codes).toEqual(['lines.0.reason: bad-text']);
    const preview = await salmah.post('/api/acts/saveOrder/preview', sent);
    expect(preview.status).toBe(400);
  });

  it('keeps whole letters of any script, tabs and ends of lines', async () => {
    const reason = '😀 ünïcödé ١٢\tand\nmore';
    await salmah.does('saveOrder', order({ price: '20', reason }));
    const [line] = await world.serving.database.rows<{ priceReason: string }>(
      'SELECT price_reason FROM sales_order_line ORDER BY id DESC LIMIT 1',
    );
    expect(line!.priceReason).toBe(reason);
  });
});
