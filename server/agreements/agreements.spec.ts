import { fixedTerm } from '../sample/terms';
import { agreed, releaseOf, World, type Visitor } from '../testing/world';

interface Sheet {
  limitPolicy: string;
  probabilityPercent: string;
  priority: number;
  notes: string;
  values: Record<string, string>;
  lines: Record<string, unknown>[];
}

describe('agreements', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const sheetOf = (id: number) => salmah.get<Sheet>(`/api/agreements/${id}`);
  const linesOf = async (orderId: number) =>
    (
      await salmah.get<{
        lines: { quantity: string; unitPrice: string; amount: string; agreementLineId: number | null }[];
      }>(`/api/orders/${orderId}`)
    ).lines.map((line) => [line.quantity, line.unitPrice, line.amount, line.agreementLineId !== null]);

  it('A3 A5 A6 A13 keeps every term as it was agreed', async () => {
    const terms = {
      limitPolicy: 'split',
      probabilityPercent: '62.5',
      priority: '2',
      notes: 'Called off on Mondays.',
      lines: [
        fixedTerm(world.item('FC-20'), '1000', '8.5', {
          breaks: [
            { from: '100', value: '8.25' },
            { from: '500', value: '8' },
          ],
          leastRelease: '50',
          releaseMultiple: '25',
          notes: 'Boxes of 25.',
        }),
        fixedTerm(world.item('RO-4040'), '10', '12.5', { priceKind: 'discount', breaks: [{ from: '5', value: '15' }] }),
        fixedTerm(world.item('VA-50A'), '4', '', { priceKind: 'none' }),
      ],
    };
    const { id } = await agreed(world, salmah, terms);
    const sheet = await sheetOf(id);
    expect(sheet).toMatchObject({
      limitPolicy: 'split',
      probabilityPercent: '62.5',
      priority: 2,
      notes: 'Called off on Mondays.',
    });
    for (const [index, line] of terms.lines.entries()) {
      const { itemId: _itemId, groupId: _groupId, ...rest } = line;
      expect(sheet.lines[index]).toMatchObject(rest);
    }
    // 1000 at 8.50, 10 at 815 less 12.5 %, 4 at the list price.
    const list = Number(sheet.lines[2]!['listPrice']);
    expect(sheet.values['committed']).toBe(String(8500 + 7131.25 + 4 * list));
  });

  it('A5 split sells what fits as agreed and the rest at the list price, on two lines of one order', async () => {
    const agreement = await agreed(world, salmah, { limitPolicy: 'split' }, '10');
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '12'));
    expect(await linesOf(order!.id)).toEqual([
      ['10', '740', '7400', true],
      ['2', '815', '1630', false],
    ]);
    expect((await sheetOf(agreement.id)).values['released']).toBe('7400');
    const [next] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '1'));
    expect(await linesOf(next!.id)).toEqual([['1', '815', '815', false]]);
  });

  it('A3 A6 takes the price of the break a release reaches, and holds it to its least quantity and multiple', async () => {
    const term = fixedTerm(world.item('RO-4040'), '100', '740', {
      breaks: [{ from: '20', value: '700' }],
      leastRelease: '10',
      releaseMultiple: '5',
    });
    const agreement = await agreed(world, salmah, { lines: [term] });
    expect((await salmah.refused('releaseAgreement', releaseOf(world, agreement, '5'))).codes).toEqual([
      'lines.0.quantity: below-least',
    ]);
    expect((await salmah.refused('releaseAgreement', releaseOf(world, agreement, '12'))).codes).toEqual([
      'lines.0.quantity: not-a-multiple',
    ]);
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '20'));
    expect(await linesOf(order!.id)).toEqual([['20', '700', '14000', true]]);
  });

  it.each([
    ['refuse', 100, 0],
    ['split', 100, 60],
    ['warn', 160, 0],
    ['keep', 160, 0],
  ])('A5 16 people releasing at once under %s: %i as agreed, %i beyond', async (limitPolicy, counted, beyond) => {
    const agreement = await agreed(world, salmah, { limitPolicy }, '100');
    await Promise.all(
      Array.from({ length: 16 }, () => salmah.raw('releaseAgreement', releaseOf(world, agreement, '10'))),
    );
    const [sold] = await world.serving.database.rows<{ counted: string; beyond: string }>(
      `SELECT SUM(IF(l.agreement_line_id IS NULL, 0, l.quantity)) AS counted,
              SUM(IF(l.agreement_line_id IS NULL, l.quantity, 0)) AS beyond
         FROM sales_order o JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
        WHERE o.agreement_id = ?`,
      [agreement.id],
    );
    expect([Number(sold!.counted), Number(sold!.beyond)]).toEqual([counted, beyond]);
    expect((await sheetOf(agreement.id)).lines[0]!['released']).toBe(String(counted));
  });

  it('A7 A8 a plan is used up by the releases nearest to it, and the forecast counts nothing twice', async () => {
    const agreement = await agreed(world, salmah);
    const call = (day: string, quantity: string, skipped = false) => ({ day, quantity, skipped, rule: '' });
    const plan = (version: number, ...calls: ReturnType<typeof call>[]) => ({
      id: agreement.id,
      version,
      lines: [{ agreementLineId: agreement.lineId, calls }],
    });
    await salmah.does(
      'savePlan',
      plan(2, call('2027-03-15', '10'), call('2027-04-15', '10'), call('2027-05-15', '10', true)),
    );
    await salmah.does('releaseAgreement', releaseOf(world, agreement, '12'));
    const sheet = await sheetOf(agreement.id);
    expect((sheet.lines[0]!['calls'] as { rest: string }[]).map((each) => each.rest)).toEqual(['0', '8', '0']);
    const progress = await salmah.get<Record<string, unknown>>(`/api/agreement-lines/${agreement.lineId}/progress`);
    // Nothing shipped yet: no rate. 12 released and 8 still planned.
    expect(progress).toMatchObject({ shipped: '0', open: '12', planned: '8', rate: '0', atEnd: '20', remainder: '80' });
    expect(progress).toMatchObject({ runOut: null, weightedValue: '65120' });
    expect((await salmah.refused('savePlan', plan(2, call('2027-03-15', '1')))).codes).toEqual(['stale']);
    expect((await salmah.refused('savePlan', plan(3, call('2028-03-15', '1')))).codes).toEqual([
      'lines.0.calls.0.day: outside-period',
    ]);
    await salmah.does('savePlan', plan(3));
    expect((await sheetOf(agreement.id)).lines[0]!['calls']).toEqual([]);
  });

  it('A2 A11 a paused agreement releases nothing; wrapped up, what is left is waived or goes into a renewal', async () => {
    const agreement = await agreed(world, salmah);
    const version = { current: 2 };
    const step = async (name: string, change: Record<string, unknown>) => {
      const made = await salmah.does(name, { id: agreement.id, version: version.current, ...change });
      version.current += 1;
      return made;
    };
    await step('pauseAgreement', { pause: true });
    expect((await salmah.refused('releaseAgreement', releaseOf(world, agreement, '1'))).sentences[0]).toContain(
      'is paused and cannot be released; let it go on first.',
    );
    await step('pauseAgreement', { pause: false });
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '30'));
    const wrap = { id: agreement.id, lastDay: null, carry: false };
    const undecided = await salmah.refused('wrapUpAgreement', { ...wrap, version: version.current, decision: 'end' });
    expect(undecided.codes).toEqual(['decision: remainder-undecided']);
    const seen = await salmah.post('/api/acts/wrapUpAgreement/preview', {
      ...wrap,
      version: version.current,
      decision: 'renew',
      carry: true,
    });
    expect((seen.body as { effects: unknown }).effects).toMatchObject({
      left: [{ item: 'RO-4040', quantity: '70' }],
      openOrders: [{ number: order!.number }],
      owed: '0',
      renewal: { firstDay: '2028-01-01', lastDay: '2028-12-30', value: '125800' },
    });
    await step('wrapUpAgreement', { ...wrap, decision: 'extend', lastDay: '2028-01-31' });
    const [renewal] = await step('wrapUpAgreement', { ...wrap, decision: 'renew', carry: true });
    expect(await sheetOf(agreement.id)).toMatchObject({
      state: 'ended',
      lastDay: '2028-01-31',
      endedOn: '2027-03-01',
      renewedAs: { number: renewal!.number },
    });
    expect(await sheetOf(renewal!.id)).toMatchObject({ state: 'draft', values: { committed: '125800' } });
    await salmah.does('cancelAgreement', { id: renewal!.id, version: 1 });
    expect((await salmah.refused('releaseAgreement', releaseOf(world, agreement, '1'))).status).toBe(422);
  });

  it('A11 what is past its last day stands in Today until it is wrapped up, paused or with nothing left too', async () => {
    const past = async (id: number) =>
      (
        await salmah.get<{ rows: { kind: string; document: { kind: string; id: number }; amount: string }[] }>(
          '/api/today',
        )
      ).rows
        .filter((row) => row.kind === 'agreement-past' && row.document.id === id)
        .map((row) => row.amount);
    const agreement = await agreed(world, salmah, { lastDay: '2027-03-01' });
    expect(await past(agreement.id)).toEqual([]);
    await salmah.does('pauseAgreement', { id: agreement.id, version: 2, pause: true });
    await world.workOn('2027-03-02');
    try {
      expect(await past(agreement.id)).toEqual(['74000']);
      const wrap = { id: agreement.id, version: 3, decision: 'waive', lastDay: null, carry: false };
      await salmah.does('wrapUpAgreement', wrap);
      expect(await past(agreement.id)).toEqual([]);
    } finally {
      await world.workOn('2027-03-01');
    }
  });
});
