import { randomUUID } from 'node:crypto';
import { CounterDesk } from '../testing/counter-desk';
import { PLAIN_HEAD, fixedTerm } from '../sample/terms';
import type { Visitor } from '../testing/world';

describe('a day at the counter', () => {
  let desk: CounterDesk;
  let salmah: Visitor;

  beforeAll(async () => {
    desk = await CounterDesk.make();
    salmah = await desk.world.visitor();
    await desk.open();
    await desk.open(desk.laid.tillIds[1], '10');
  });
  afterAll(() => desk.world.end());
  afterEach(async () => expect(await desk.world.verify()).toEqual([]));

  const teratai = () => desk.world.masters.customers.get('Teratai Bay Resort')!.id;
  const kolam = () => desk.world.masters.customers.get('Kolam Ceria Swim Club')!.id;

  /** An amount that ends in cents, to be paid by card. */
  async function carded(orderId: number, amount: string) {
    await desk.hafiz.does('askCard', { tillId: desk.till, orderId, amount });
    const { cards } = await desk.at([orderId]);
    return cards.at(-1)!.id;
  }

  it('charges a card once, however often a silent terminal is asked', async () => {
    const order = await desk.keep([['FC-10', '1']]);
    const { due } = await desk.at([order]);
    const silent = `${Math.floor(Number(due.toPay))}.02`;
    const part = Number(silent) > Number(due.toPay) ? `${Math.floor(Number(due.toPay)) - 1}.02` : silent;
    const id = await carded(order, part);
    expect((await desk.hafiz.refused('hearCard', { id })).codes).toEqual(['card-silent']);
    // A card nobody heard of is on no slip, and keeps the drawer open.
    expect((await desk.hafiz.refused('sellAtTill', await desk.selling([order], { cardIds: [id] }))).codes).toEqual([
      'cardIds.0: card-not-taken',
    ]);
    expect((await desk.hafiz.refused('closeDrawer', { tillId: desk.till, counts: [], reason: '' })).codes).toEqual([
      'cards-hanging',
    ]);
    await desk.hafiz.does('hearCard', { id });
    expect((await desk.hafiz.refused('hearCard', { id })).codes).toEqual(['card-settled']);
    const [charge] = await desk.world.serving.database.rows<{ asked: number; amount: string }>(
      'SELECT asked, amount FROM terminal_charge WHERE reference LIKE ?',
      [`%-${id}`],
    );
    expect(charge).toEqual({ asked: 3, amount: part });
    const slip = await desk.slip(await desk.sell([order], { cardIds: [id], cash: '20.00' }));
    expect(slip.payments.map(({ kind }) => kind)).toEqual(['card', 'cash']);
    // It is on a slip now: no other can use it, and it is not given back.
    const next = await desk.keep([['FC-10', '1']]);
    expect((await desk.hafiz.refused('sellAtTill', await desk.selling([next], { cardIds: [id] }))).codes).toEqual([
      'cardIds.0: card-not-taken',
    ]);
    expect((await desk.hafiz.refused('giveBackCard', { id })).codes).toEqual(['card-settled']);
  });

  it('keeps a refused card off the slip, and gives back one that was charged too much', async () => {
    const order = await desk.keep([['FC-10', '2']]);
    const refused = await carded(order, '3.01');
    await desk.hafiz.does('hearCard', { id: refused });
    expect((await desk.at([order])).cards).toEqual([]);
    const more = await carded(order, '900.00');
    await desk.hafiz.does('hearCard', { id: more });
    expect((await desk.hafiz.refused('sellAtTill', await desk.selling([order], { cardIds: [more] }))).codes).toEqual([
      'cardIds: card-above',
    ]);
    await desk.hafiz.does('giveBackCard', { id: more });
    await desk.hafiz.does('hearCard', { id: more });
    const [charge] = await desk.world.serving.database.rows<{ state: string }>(
      'SELECT state FROM terminal_charge WHERE reference LIKE ?',
      [`%-${more}`],
    );
    expect(charge!.state).toBe('given-back');
    await desk.sell([order], { cash: '50.00' });
  });

  it('draws a prepayment once where two tills would, and keeps it for who came first', async () => {
    const [agreement] = await salmah.does('saveAgreement', {
      ...PLAIN_HEAD,
      customerId: kolam(),
      title: 'Cartridges',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      signedOn: '2026-12-20',
      lines: [fixedTerm(desk.world.item('FC-10'), '500', '5')],
    });
    await salmah.does('putInForce', { id: agreement!.id, version: 1 });
    await salmah.does('takePrepayment', {
      agreementId: agreement!.id,
      agreementLineId: null,
      amount: '50.00',
      takenOn: '2027-03-01',
    });
    const first = await desk.keep([['FC-10', '8']], { customerId: kolam() });
    const second = await desk.keep([['FC-10', '8']], { customerId: kolam() });
    expect((await desk.at([first])).due.covered).toBe('40');
    expect((await desk.at([second])).due.covered).toBe('10');
    const [one, two] = await Promise.all([
      desk.selling([first], { cash: '100.00' }),
      desk.selling([second], { cash: '100.00', tillId: desk.laid.tillIds[1] }),
    ]);
    const answers = await Promise.all([desk.hafiz.raw('sellAtTill', one), desk.hafiz.raw('sellAtTill', two)]);
    expect(answers.map(({ status }) => status)).toEqual([200, 200]);
    const [prepayment] = await desk.world.serving.database.rows<{ drawn: string }>(
      'SELECT drawn FROM prepayment WHERE agreement_id = ?',
      [agreement!.id],
    );
    expect(prepayment!.drawn).toBe('50');
  });

  it('sells the last piece once', async () => {
    const { database } = desk.world.serving;
    const [stock] = await database.rows<{ free: string }>(
      'SELECT SUM(on_hand - reserved) AS free FROM stock WHERE item_id = ? AND location_id = 0',
      [desk.world.item('GAC-25')],
    );
    const orders = [await desk.keep([['GAC-25', stock!.free]]), await desk.keep([['GAC-25', stock!.free]])];
    const inputs = await Promise.all(
      orders.map((id, at) => desk.selling([id], { cash: '99999.00', tillId: desk.laid.tillIds[at] })),
    );
    const answers = await Promise.all(inputs.map((input) => desk.hafiz.raw('sellAtTill', input)));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
  });

  it('does once what is sent twice', async () => {
    const order = await desk.keep([['SALT-25', '1']]);
    const input = await desk.selling([order], { cash: '50.00' });
    const key = randomUUID();
    const [first, again] = [
      await desk.hafiz.does('sellAtTill', input, key),
      await desk.hafiz.does('sellAtTill', input, key),
    ];
    expect(again).toEqual(first);
    expect((await desk.hafiz.refused('sellAtTill', input)).codes).toEqual(['stale']);
  });

  it('pays orders of one customer together, those begun at the desk too, and on account within the limit', async () => {
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: teratai(),
      shipToId: desk.world.masters.customers.get('Teratai Bay Resort')!.shipTos[0],
      customerReference: 'TBR-1',
      lines: [{ id: null, itemId: desk.world.item('SALT-25'), quantity: '3', shipDate: '2027-03-04', route: 'stock' }],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const other = await desk.keep([['SALT-25', '2']], { customerId: kolam() });
    expect(
      (await desk.hafiz.refused('sellAtTill', await desk.selling([order!.id, other], { cash: '500.00' }))).codes,
    ).toEqual(['orders.1: other-at-till']);
    const slip = await desk.slip(await desk.sell([order!.id], { onAccount: true }));
    expect(slip.payments).toMatchObject([{ kind: 'account' }]);
    expect(slip.invoice).not.toBeNull();
    const limited = await desk.keep([['SALT-25', '600']], { customerId: kolam() });
    await desk.world.serving.database.run('UPDATE customer SET credit_limit = 10 WHERE id = ?', [kolam()]);
    expect((await desk.hafiz.refused('sellAtTill', await desk.selling([limited], { onAccount: true }))).codes).toEqual([
      'creditReason: over-credit',
    ]);
    await desk.sell([limited], { cash: '20000.00' });
  });

  it('takes goods back to the money they came by: card first, then cash; once, and within the days allowed', async () => {
    const order = await desk.keep([['FC-10', '10']]);
    const id = await carded(order, '20.00');
    await desk.hafiz.does('hearCard', { id });
    const slipId = await desk.sell([order], { cardIds: [id], cash: '100.00' });
    const { lines } = await desk.slip(slipId);
    const before = await desk.drawer();
    const back = (quantity: string) => ({
      tillId: desk.till,
      slipId,
      reason: 'Wrong size',
      lines: [{ invoiceLineId: lines[0]!.id, quantity }],
    });
    const [half] = await desk.hafiz.does('bringBack', back('5'));
    const paidBack = await desk.slip(half!.id);
    expect(paidBack.payments.map(({ kind }) => kind)).toEqual(['card', 'cash']);
    expect(paidBack.payments[0]!.invoiced).toBe('-20');
    expect(Number((await desk.drawer())!.cash)).toBeLessThan(Number(before!.cash));
    expect((await desk.slip(slipId)).lines[0]!.left).toBe('5');
    expect((await desk.hafiz.refused('bringBack', back('6'))).codes).toEqual(['lines.0.quantity: above-credit']);
    await desk.hafiz.does('bringBack', back('5'));
    // Both went back to the card by one asking each; what the terminal has not heard yet is still to be.
    const hanging = await desk.world.serving.database.rows<{ id: number }>(
      'SELECT id FROM card_payment WHERE hanging = TRUE AND back = TRUE',
    );
    expect(hanging).toHaveLength(1);
    await desk.hafiz.does('hearCard', { id: hanging[0]!.id });
    await desk.world.workOn('2027-03-16');
    expect((await desk.hafiz.refused('bringBack', back('1'))).codes).toEqual(['too-late-back']);
    await desk.world.workOn('2027-03-01');
  });

  it('leaves what was paid on account to the customer’s credit, to be used as a voucher', async () => {
    await desk.world.serving.database.run('UPDATE customer SET credit_limit = NULL WHERE id = ?', [kolam()]);
    const order = await desk.keep([['SALT-25', '4']], { customerId: kolam() });
    const slipId = await desk.sell([order], { onAccount: true });
    // The invoice is paid by bank before the goods come back.
    const slip = await desk.slip(slipId);
    const invoice = await salmah.get<{ openItemId: number; owed: string }>(
      `/api/customer-invoices/${slip.invoice!.id}`,
    );
    await salmah.does('recordPayment', { openItemId: invoice.openItemId, amount: invoice.owed, paidOn: '2027-03-01' });
    await desk.hafiz.does('bringBack', {
      tillId: desk.till,
      slipId,
      reason: 'Torn bags',
      lines: [{ invoiceLineId: slip.lines[0]!.id, quantity: '4' }],
    });
    const next = await desk.keep([['SALT-25', '6']], { customerId: kolam() });
    const { vouchers, due } = await desk.at([next]);
    expect(vouchers).toHaveLength(1);
    const use = [{ creditNoteId: vouchers[0]!.creditNoteId, amount: '' }];
    expect(
      (
        await desk.hafiz.refused(
          'sellAtTill',
          await desk.selling([next], { vouchers: [{ ...use[0], amount: '9999' }] }),
        )
      ).codes,
    ).toEqual(['vouchers.0.amount: voucher-above']);
    const paid = await desk.slip(await desk.sell([next], { vouchers: use, cash: '500.00' }));
    expect(paid.payments.map(({ kind }) => kind)).toEqual(['voucher', 'cash']);
    expect(paid.payments[0]!.invoiced).toBe(vouchers[0]!.left);
    expect(Number(due.invoiced)).toBeGreaterThan(Number(vouchers[0]!.left));
  });

  it('pays a deposit back out of the drawer, once', async () => {
    const order = await desk.keep([['SALT-25', '5', '2027-03-09']]);
    const [line] = (await desk.at([order])).lines;
    await desk.sell([order], { take: [{ lineId: line!.id, quantity: '' }], cash: '500.00' });
    const [deposit] = await desk.world.serving.database.rows<{ id: number }>(
      'SELECT id FROM prepayment WHERE order_id = ?',
      [order],
    );
    await desk.hafiz.does('payBackDeposit', { tillId: desk.till, prepaymentId: deposit!.id });
    expect(
      (await desk.hafiz.refused('payBackDeposit', { tillId: desk.till, prepaymentId: deposit!.id })).codes,
    ).toEqual(['deposit-used']);
    const sheet = await salmah.get<{ heldFor: { id: number; kind: string }; left: string }>(
      `/api/prepayments/${deposit!.id}`,
    );
    expect(sheet).toMatchObject({ heldFor: { kind: 'SO', id: order }, left: '0' });
  });

  it('counts the drawer at night: what differs asks why, and is posted', async () => {
    await desk.hafiz.does('moveDrawer', { tillId: desk.till, amount: '-50.00', reason: 'Paid the courier' });
    expect(
      (await desk.hafiz.refused('moveDrawer', { tillId: desk.till, amount: '-99999.00', reason: 'x' })).codes,
    ).toEqual(['amount: not-in-drawer']);
    expect((await desk.hafiz.refused('moveDrawer', { tillId: desk.till, amount: '0.03', reason: '' })).codes).toEqual([
      'amount: no-such-change',
      'reason: required',
    ]);
    const { cash, id } = (await desk.drawer())!;
    const short = Math.round((Number(cash) - 2) * 20);
    const counts = [{ piece: '0.05', count: String(short) }];
    expect((await desk.hafiz.refused('closeDrawer', { tillId: desk.till, counts, reason: '' })).codes).toEqual([
      'reason: drawer-differs',
    ]);
    await desk.hafiz.does('closeDrawer', { tillId: desk.till, counts, reason: 'Two short' });
    const sheet = await desk.hafiz.get<{
      counted: string;
      cash: string;
      takings: { kind: string }[];
      slips: { count: number };
    }>(`/api/drawers/${id}`);
    expect(Number(sheet.cash) - Number(sheet.counted)).toBeCloseTo(2, 5);
    expect(sheet.takings.map(({ kind }) => kind)).toEqual(['cash', 'card', 'voucher', 'account']);
    expect((await desk.hafiz.refused('closeDrawer', { tillId: desk.till, counts, reason: 'x' })).codes).toEqual([
      'drawer-closed',
    ]);
  });

  it('finds by number, name, phone, bar code and slip', async () => {
    const found = (q: string) =>
      desk.hafiz.get<{
        items: { number: string; many: string }[];
        parties: { customer: { name: string }; contact: { name: string } | null }[];
        orders: unknown[];
        slips: { slip: { number: string } }[];
      }>(`/api/counter/find?q=${encodeURIComponent(q)}`);
    expect((await found('fc-10')).items[0]).toMatchObject({ number: 'FC-10', many: '1' });
    expect((await found('0135550 5001')).parties).toMatchObject([{ contact: { name: 'Rahim the plumber' } }]);
    const [code] = await desk.world.serving.database.rows<{ code: string }>(
      'SELECT code FROM item_bar_code WHERE quantity = 25',
    );
    expect((await found(code!.code.slice(1))).items).toMatchObject([{ number: 'FC-10', many: '25' }]);
    expect((await found(`(01)${code!.code}(30)2`)).items).toMatchObject([{ number: 'FC-10' }]);
    expect((await found('sl-1')).slips).toMatchObject([{ slip: { number: 'SL-0001' } }]);
    expect((await found('teratai')).parties[0]!.customer.name).toBe('Teratai Bay Resort');
  });

  it('lets a counter clerk do nothing else', async () => {
    expect(
      (
        await desk.hafiz.refused('saveOrder', {
          id: null,
          version: null,
          customerId: teratai(),
          shipToId: null,
          customerReference: '',
          lines: [],
        })
      ).codes,
    ).toEqual(['no-right']);
    const joko = await desk.world.visitor('joko');
    expect(
      (
        await joko.refused('keepAtCounter', {
          id: null,
          version: null,
          tillId: desk.till,
          customerId: null,
          contactId: null,
          lines: [{ id: null, itemId: desk.world.item('SALT-25'), quantity: '1' }],
        })
      ).codes,
    ).toEqual(['no-right']);
  });
});
