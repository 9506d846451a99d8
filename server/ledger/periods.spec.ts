import { agreed, placed, World, type Visitor } from '../testing/world';

interface Periods {
  closedThrough: string | null;
  months: { month: string; closed: boolean; over: boolean; journals: number; late: number; moves: object[] }[];
}

describe('P9 closed months', () => {
  let world: World;
  let farida: Visitor;
  let salmah: Visitor;
  beforeAll(async () => {
    world = await World.make();
    [farida, salmah] = await Promise.all([world.visitor('farida'), world.visitor()]);
  });
  afterAll(() => world.end());

  const periods = () => farida.get<Periods>('/api/periods');
  const warnings = async (visitor: Visitor, act: string, input: object) => {
    const { body } = await visitor.post(`/api/acts/${act}/preview`, input);
    return (body as { warnings: { sentence: string }[] }).warnings.map(({ sentence }) => sentence);
  };
  const lastJournals = () =>
    world.serving.database.rows<{ postedOn: string; documentDay: string | null }>(
      'SELECT posted_on, document_day FROM journal ORDER BY id DESC LIMIT 2',
    );

  it('are closed by who may, once they are over', async () => {
    expect((await salmah.refused('closeMonth', { month: '2027-02' })).codes).toEqual(['no-right']);
    expect((await farida.refused('closeMonth', { month: '2027-03' })).codes).toEqual(['month: month-runs']);
    await farida.does('closeMonth', { month: '2027-02' });
    const { closedThrough, months } = await periods();
    expect(closedThrough).toBe('2027-02-28');
    expect(months[0]).toMatchObject({ month: '2027-03', closed: false, over: false });
    expect(await world.verify()).toEqual([]);
  });

  it('take no posting, whatever posts it: it goes on the first open day and keeps its own', async () => {
    const agreement = await agreed(world, salmah);
    const ids = await placed(world, salmah, agreement, '6');
    const receive = { purchaseId: ids.purchaseId, lines: [{ lineId: ids.purchaseLineId, quantity: '2' }] };
    await salmah.does('receiveGoods', receive);
    expect(await lastJournals()).toEqual(Array(2).fill({ postedOn: '2027-03-01', documentDay: null }));
    // The work date of the day before: its month is closed.
    await world.workOn('2027-02-26');
    expect(await warnings(salmah, 'receiveGoods', receive)).toEqual([
      'The month of Fri 26 Feb 2027 is closed: this keeps its day and is posted on Mon 1 Mar 2027.',
    ]);
    const [receipt] = await salmah.does('receiveGoods', receive);
    expect(await lastJournals()).toEqual(Array(2).fill({ postedOn: '2027-03-01', documentDay: '2027-02-26' }));
    const sheet = await salmah.get<{ postedOn: string }>(`/api/receipts/${receipt!.id}`);
    expect(sheet.postedOn).toBe('2027-02-26');
    const trail = await salmah.get<{ journals: { postedOn: string; documentDay: string }[] }>(
      `/api/trail/RC/${receipt!.id}`,
    );
    expect(trail.journals[0]).toMatchObject({ postedOn: '2027-03-01', documentDay: '2027-02-26' });
    const [entry] = await world.serving.database.rows<{ postedOn: string }>(
      'SELECT posted_on FROM stock_entry ORDER BY id DESC LIMIT 1',
    );
    expect(entry!.postedOn).toBe('2027-03-01');
    await world.workOn('2027-03-01');
    expect(await warnings(salmah, 'receiveGoods', receive)).toEqual([]);
    expect((await periods()).months[0]).toMatchObject({ month: '2027-03', late: 2 });
    expect(await world.verify()).toEqual([]);
  });

  it('wait for what is just being posted, and what is posted after sees them closed', async () => {
    const ids = await placed(world, salmah, await agreed(world, salmah), '4');
    await salmah.does('receiveGoods', {
      purchaseId: ids.purchaseId,
      lines: [{ lineId: ids.purchaseLineId, quantity: '4' }],
    });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: ids.orderId });
    const { openItemId } = await salmah.get<{ openItemId: number }>(`/api/customer-invoices/${invoice!.id}`);
    await world.workOn('2027-04-01');
    const pay = () => salmah.raw('recordPayment', { openItemId, amount: '1', paidOn: '2027-03-31' });
    const answers = await Promise.all([
      ...Array.from({ length: 12 }, pay),
      farida.raw('closeMonth', { month: '2027-03' }),
      ...Array.from({ length: 12 }, pay),
    ]);
    expect(answers.map(({ status }) => status)).toEqual(Array(25).fill(200));
    const posted = await world.serving.database.rows<{ postedOn: string; documentDay: string | null; late: boolean }>(
      `SELECT j.posted_on, j.document_day, j.created_at > p.closed_at AS late
         FROM journal j JOIN period p ON p.company_id = j.company_id WHERE j.document_kind = 'PY'`,
    );
    expect(posted).toHaveLength(24);
    for (const { postedOn, documentDay } of posted) {
      expect([postedOn, documentDay]).toEqual(
        documentDay === null ? ['2027-03-31', null] : ['2027-04-01', '2027-03-31'],
      );
    }
    expect(await world.verify()).toEqual([]);
  });

  it('are opened again from the last one back, with why, and that is kept', async () => {
    expect((await farida.refused('reopenMonth', { month: '2027-03', reason: '' })).codes).toEqual(['reason: required']);
    expect((await farida.refused('reopenMonth', { month: '2027-02', reason: 'x' })).codes).toEqual([
      'month: month-not-last',
    ]);
    await farida.does('reopenMonth', { month: '2027-03', reason: 'A freight invoice came late' });
    const { months } = await periods();
    expect(months.find(({ month }) => month === '2027-03')).toMatchObject({
      closed: false,
      moves: [
        { closed: true, reason: '', person: 'Farida' },
        { closed: false, reason: 'A freight invoice came late', person: 'Farida' },
      ],
    });
    await expect(world.serving.database.run("UPDATE period_move SET reason = 'x'")).rejects.toThrow('written once');
  });

  it('two who close the same month close it once', async () => {
    const answers = await Promise.all([1, 2].map(() => farida.raw('closeMonth', { month: '2027-03' })));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
  });
});
