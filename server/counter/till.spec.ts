import { CounterDesk } from '../testing/counter-desk';

describe('selling at the till', () => {
  let desk: CounterDesk;

  beforeAll(async () => {
    desk = await CounterDesk.make();
  });
  afterAll(() => desk.world.end());
  afterEach(async () => expect(await desk.world.verify()).toEqual([]));

  it('sells nothing while the drawer is closed, and says the way out', async () => {
    const order = await desk.keep([['SALT-25', '2']]);
    const refused = await desk.hafiz.refused('sellAtTill', await desk.selling([order], { cash: '100.00' }));
    expect(refused.sentences).toEqual(['The drawer of Front counter is closed; open it with what is counted into it.']);
    await desk.open();
    expect(await desk.drawer()).toMatchObject({ cash: '201' });
  });

  it('hands over, invoices and is paid in one act: cash rounded, change given, the drawer grown', async () => {
    const order = await desk.keep([
      ['SALT-25', '2'],
      ['FC-10', '3'],
    ]);
    const { due, lines } = await desk.at([order]);
    expect(lines.map(({ toGo, here }) => [toGo, here])).toEqual([
      ['2', '2'],
      ['3', '3'],
    ]);
    const before = await desk.drawer();
    const slip = await desk.slip(await desk.sell([order], { cash: '200.00' }));
    expect(slip.total).toBe(due.total);
    expect(slip.payments).toEqual([expect.objectContaining({ kind: 'cash', invoiced: due.invoiced, deposited: '0' })]);
    expect(Number(slip.change)).toBeCloseTo(200 - Number(due.inCash), 5);
    expect(Number((await desk.drawer())!.cash)).toBeCloseTo(Number(before!.cash) + Number(due.inCash), 5);
    const sold = await desk.world.visitor('salmah');
    const sheet = await sold.get<{ state: string; lines: { shipped: string; invoiced: string; paidShare: number }[] }>(
      `/api/orders/${order}`,
    );
    expect(sheet.state).toBe('closed');
    expect(sheet.lines.map(({ shipped, invoiced, paidShare }) => [shipped, invoiced, paidShare])).toEqual([
      ['2', '2', 1],
      ['3', '3', 1],
    ]);
  });

  it('refuses less money than is to pay, and what nobody can owe; nothing is done by that', async () => {
    const order = await desk.keep([['SALT-25', '1']]);
    const { due } = await desk.at([order]);
    const refused = (how: Record<string, unknown>) =>
      desk.selling([order], how).then((input) => desk.hafiz.refused('sellAtTill', input));
    expect((await refused({ cash: '1.00' })).codes).toEqual(['cash: cash-short']);
    expect((await refused({})).codes).toEqual(['cash: not-paid']);
    expect((await refused({ onAccount: true })).codes).toEqual(['onAccount: nobody-to-owe']);
    expect((await refused({ cardIds: [99] })).codes).toEqual(['cardIds.0: card-not-taken']);
    expect((await desk.at([order])).due).toEqual(due);
  });

  it('takes a deposit for what is not taken along, and draws it when that is fetched', async () => {
    const order = await desk.keep([
      ['SALT-25', '4'],
      ['FC-10', '2', '2027-03-05'],
    ]);
    const { due } = await desk.at([order]);
    expect(due.deposits).toHaveLength(1);
    expect(Number(due.toPay)).toBeGreaterThan(Number(due.invoiced));
    const now = await desk.at([order]);
    const take = [{ lineId: now.lines[0]!.id, quantity: '3' }];
    const paid = await desk.at([order], `&take=${take[0]!.lineId}:3`);
    const slip = await desk.slip(await desk.sell([order], { take, cash: '500.00' }));
    expect(slip.deposited).toBe(paid.due.deposits[0]!.amount);
    expect(slip.waiting).toMatchObject([
      { item: { number: 'SALT-25' }, quantity: '1' },
      { item: { number: 'FC-10' }, quantity: '2', shipDate: '2027-03-05' },
    ]);
    // Fetched: nothing is to pay any more, all of it was.
    const later = await desk.at(
      [order],
      `&take=${now.lines.map(({ id }, at) => `${id}:${at === 0 ? 1 : 2}`).join(',')}`,
    );
    expect(later.due.toPay).toBe('0');
    const fetched = await desk.slip(
      await desk.sell([order], {
        take: now.lines.map(({ id }, at) => ({ lineId: id, quantity: at === 0 ? '1' : '2' })),
      }),
    );
    expect(fetched).toMatchObject({ deposited: '0', payments: [], waiting: [] });
    expect(fetched.covered).toBe(fetched.total);
  });

  it('lets what is not taken along be paid when it is fetched', async () => {
    const order = await desk.keep([['SALT-25', '2']]);
    const [line] = (await desk.at([order])).lines;
    const slip = await desk.slip(
      await desk.sell([order], { take: [{ lineId: line!.id, quantity: '1' }], later: true, cash: '100.00' }),
    );
    expect(slip).toMatchObject({ deposited: '0', waiting: [{ quantity: '1' }] });
  });

  it('asks a permit of the person who buys, by name', async () => {
    const contactId = desk.laid.contacts.get('Uncle Lim')!;
    const order = await desk.keep([['HY-25', '1']], { contactId });
    expect((await desk.at([order])).lines[0]!.words).toEqual([
      expect.stringMatching(/^Uncle Lim .*handling permit.*HY-25/),
    ]);
    const refused = await desk.hafiz.refused('sellAtTill', await desk.selling([order], { cash: '500.00' }));
    expect(refused.codes).toEqual(['lines.0.itemId: permit-missing']);
    expect(refused.sentences[0]).toMatch(/Uncle Lim/);
    const with_ = await desk.keep([['HY-25', '1']], { contactId: desk.laid.contacts.get('Rahim the plumber')! });
    expect((await desk.at([with_])).lines[0]!.permit).toMatchObject({ number: 'HP-5001' });
    await desk.sell([with_], { cash: '500.00' });
    // One that ran out is none.
    const lapsed = await desk.keep([['HY-25', '1']], { contactId: desk.laid.contacts.get('Kavitha Pipes')! });
    expect((await desk.at([lapsed])).lines[0]!.words).toHaveLength(1);
  });

  it('asks for their reference where the customer wants one', async () => {
    const customerId = desk.world.masters.customers.get('Teratai Bay Resort')!.id;
    const order = await desk.keep([['SALT-25', '1']], { customerId });
    const refused = await desk.hafiz.refused('sellAtTill', await desk.selling([order], { cash: '50.00' }));
    expect(refused.codes).toEqual(['customerReference: reference-required']);
    const { orders, lines } = await desk.at([order]);
    await desk.hafiz.does('keepAtCounter', {
      id: order,
      version: orders[0]!.version,
      tillId: desk.till,
      customerId,
      contactId: null,
      reference: 'TBR-9',
      lines: [{ id: lines[0]!.id, itemId: desk.world.item('SALT-25'), quantity: '1' }],
    });
    await desk.sell([order], { cash: '50.00' });
  });
});
