import { agreed, placed, refusalsOf, World, type Visitor } from '../testing/world';

interface Asked {
  kinds: string[];
  rows: {
    id: number;
    words: string;
    person: string;
    state: string;
    word: string;
    mine: boolean;
    mayApprove: boolean;
  }[];
}

describe('G7 a second person', () => {
  let world: World;
  let salmah: Visitor;
  let farida: Visitor;
  let rashid: Visitor;
  let openItemId: number;
  beforeAll(async () => {
    world = await World.make();
    [salmah, farida, rashid] = await Promise.all([world.visitor(), world.visitor('farida'), world.visitor('rashid')]);
    const ids = await placed(world, salmah, await agreed(world, salmah), '4');
    await salmah.does('receiveGoods', {
      purchaseId: ids.purchaseId,
      lines: [{ lineId: ids.purchaseLineId, quantity: '4' }],
    });
    const [invoice] = await farida.does('enterVendorInvoice', {
      purchaseId: ids.purchaseId,
      vendorNumber: 'V-77',
      invoiceDate: '2027-03-01',
      lines: [{ purchaseLineId: ids.purchaseLineId, quantity: '4', unitPrice: '602' }],
    });
    ({ openItemId } = await farida.get<{ openItemId: number }>(`/api/vendor-invoices/${invoice!.id}`));
  });
  afterEach(async () => expect(await world.verify()).toEqual([]));
  afterAll(() => world.end());

  const pay = (amount: string) => ({ openItemId, amount, paidOn: '2027-03-01' });
  const askedOf = async (visitor: Visitor) => (await visitor.get<Asked>('/api/asked')).rows;
  const payments = async () =>
    (await world.serving.database.rows<{ count: number }>('SELECT COUNT(*) AS count FROM payment'))[0]!.count;
  const asks = async (visitor: Visitor, act: string, input: object, key?: string) => {
    const { status, body } = await visitor.raw(act, input, key);
    expect([status, body]).toMatchObject([202, { made: [], touched: [], asked: expect.any(Number) }]);
    return (body as { asked: number }).asked;
  };

  it('is not waited for where the company does not say so', async () => {
    expect((await farida.does('recordPayment', pay('1'))).map(({ kind }) => kind)).toEqual(['PY']);
  });

  it('is waited for: nothing is done before another one approves it, and then once', async () => {
    await salmah.does('keepSecondPerson', { kinds: ['money-out', 'credit-limit', 'vendor-price', 'write-off'] });
    const seen = await farida.post('/api/acts/recordPayment/preview', pay('100'));
    expect((seen.body as { warnings: { code: string }[] }).warnings.map(({ code }) => code)).toEqual(['second-person']);
    const id = await asks(farida, 'recordPayment', pay('100'), 'one-key-twice');
    expect(await asks(farida, 'recordPayment', pay('100'), 'one-key-twice')).toBe(id);
    expect(await payments()).toBe(1);
    expect(await askedOf(farida)).toMatchObject([
      { id, words: expect.stringMatching(/^Pay \w+ 100\.00 of VI-/), mine: true, mayApprove: false },
    ]);
    expect(await askedOf(salmah)).toMatchObject([{ id, person: 'Farida', mine: false, mayApprove: true }]);
    // He may approve, but not pay.
    expect(await askedOf(rashid)).toEqual([]);
    expect((await farida.refused('approveAsked', { id })).codes).toEqual(['asked-own']);
    expect((await rashid.refused('approveAsked', { id })).codes).toEqual(['no-right']);
    expect((await (await world.visitor('joko')).refused('approveAsked', { id })).codes).toEqual(['no-right']);
    const answers = await Promise.all([1, 2, 3].map(() => salmah.raw('approveAsked', { id })));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422, 422]);
    expect(refusalsOf(answers.find(({ status }) => status === 422)!).codes).toEqual(['asked-decided']);
    expect(await payments()).toBe(2);
    expect(await askedOf(salmah)).toEqual([]);
    // Money that comes in waits for nobody.
    expect(await asks(farida, 'recordPayment', pay('1'))).toBeGreaterThan(id);
  });

  it('returns it with why, who asked finds that; who asked may take it back', async () => {
    const [first] = await askedOf(farida);
    expect((await salmah.refused('returnAsked', { id: first!.id, word: '' })).codes).toEqual(['word: required']);
    await salmah.does('returnAsked', { id: first!.id, word: 'Wait for their credit note' });
    expect(await askedOf(farida)).toMatchObject([
      { state: 'returned', word: 'Wait for their credit note', mine: true },
    ]);
    expect((await salmah.refused('approveAsked', { id: first!.id })).codes).toEqual(['asked-decided']);
    const id = await asks(farida, 'recordPayment', pay('2'));
    expect((await rashid.raw('returnAsked', { id, word: 'no' })).status).toBe(200);
    const other = await asks(farida, 'recordPayment', pay('2'));
    await farida.does('returnAsked', { id: other, word: '' });
    expect((await askedOf(farida)).map(({ state }) => state)).toEqual(['returned', 'returned']);
    expect(await payments()).toBe(2);
  });

  it('what was asked for before its act took something else is refused, and can be returned', async () => {
    const id = await asks(farida, 'recordPayment', pay('2'));
    await world.serving.database.run("UPDATE asked_act SET input = JSON_REMOVE(input, '$.paidOn') WHERE id = ?", [id]);
    expect((await salmah.refused('approveAsked', { id })).codes).toEqual(['asked-before-change']);
    await salmah.does('returnAsked', { id, word: 'Ask anew.' });
    expect((await askedOf(farida))[0]).toMatchObject({ id, state: 'returned', word: 'Ask anew.' });
  });

  it('finds it as it is now: what does not fit any more is refused and stays to be returned', async () => {
    const { owed } = await farida.get<{ owed: string }>(
      `/api/vendor-invoices/${(await world.serving.database.rows<{ id: number }>('SELECT MAX(id) AS id FROM vendor_invoice'))[0]!.id}`,
    );
    const all = await asks(farida, 'recordPayment', pay(owed));
    const part = await asks(farida, 'recordPayment', pay('5'));
    await salmah.does('approveAsked', { id: part });
    expect((await salmah.refused('approveAsked', { id: all })).codes).toEqual(['amount: above-owed']);
    await salmah.does('returnAsked', { id: all, word: 'Less is owed now' });
  });

  it('sees credit limits and what vendors ask with what they were', async () => {
    const rowOf = async (list: string, q: string) =>
      (
        await salmah.get<{ rows: { id: number; stamp: string; cells: Record<string, string> }[] }>(
          `/api/lists/${list}?q=${q}`,
        )
      ).rows[0]!;
    const keep = (list: string, row: Awaited<ReturnType<typeof rowOf>>, cells: object) => ({
      list,
      changes: [{ id: row.id, stamp: row.stamp, cells: { ...row.cells, ...cells } }],
      removed: [],
    });
    const customer = await rowOf('customers', 'Teratai');
    const id = await asks(rashid, 'keepList', keep('customers', customer, { creditLimit: '90000' }));
    const [row] = await world.serving.database.rows<{ words: string }>('SELECT words FROM asked_act WHERE id = ?', [
      id,
    ]);
    expect(row!.words).toMatch(/^Credit limits: C-\d+: .* to 90000$/);
    // Salmah keeps lists, but no credit limits.
    expect((await salmah.refused('approveAsked', { id })).codes).toEqual(['no-right']);
    // Another flag of a customer waits for nobody, and outruns what was asked for.
    const flag = customer.cells['contractedOnly'] === 'yes' ? 'no' : 'yes';
    await salmah.does('keepList', keep('customers', customer, { contractedOnly: flag }));
    await world.serving.database.run(
      "UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'credit') WHERE name = 'Order administrator'",
    );
    world.serving.sessions.forget();
    expect((await salmah.refused('approveAsked', { id })).codes).toEqual(['changes.0: row-changed']);
    const again = await asks(
      rashid,
      'keepList',
      keep('customers', await rowOf('customers', 'Teratai'), { creditLimit: '90000' }),
    );
    await salmah.does('approveAsked', { id: again });
    expect((await rowOf('customers', 'Teratai')).cells['creditLimit']).toBe('90000');
    await asks(salmah, 'keepList', keep('vendor-items', await rowOf('vendor-items', 'RO-4040'), { price: '601.5' }));
  });

  it('is no longer wanted once a second person says so', async () => {
    const id = await asks(salmah, 'keepSecondPerson', { kinds: ['money-out'] });
    expect((await salmah.get<Asked>('/api/asked')).kinds).toHaveLength(4);
    await rashid.does('approveAsked', { id });
    expect((await salmah.get<Asked>('/api/asked')).kinds).toEqual(['money-out']);
    await salmah.does('keepSecondPerson', { kinds: ['money-out', 'write-off'] });
  });
});
