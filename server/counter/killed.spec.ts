import { CounterDesk } from '../testing/counter-desk';

/** A sale that breaks in its middle leaves nothing of itself; a card that was charged for it is used by the next try. // P2 C2 */
describe('a sale that breaks in its middle', () => {
  let desk: CounterDesk;
  beforeAll(async () => {
    desk = await CounterDesk.make();
    await desk.open();
  });
  afterAll(() => desk.world.end());
  afterEach(async () => expect(await desk.world.verify()).toEqual([]));

  it.each(['slip_payment', 'payment', 'slip', 'customer_invoice_line', 'shipment_line'])(
    'leaves nothing where %s cannot be written, and loses no card',
    async (table) => {
      const order = await desk.keep([['FC-10', '4']]);
      const { due } = await desk.at([order]);
      await desk.hafiz.does('askCard', { tillId: desk.till, orderId: order, amount: Number(due.toPay).toFixed(2) });
      const [card] = (await desk.at([order])).cards;
      await desk.hafiz.raw('hearCard', { id: card!.id });
      await desk.hafiz.raw('hearCard', { id: card!.id });
      const { database } = desk.world.serving;
      const before = await desk.drawer();
      const input = await desk.selling([order], { cardIds: [card!.id] });
      await database.run(
        `CREATE TRIGGER broken_${table} BEFORE INSERT ON ${table} FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'broken'`,
      );
      expect((await desk.hafiz.raw('sellAtTill', input)).status).toBe(500);
      await database.run(`DROP TRIGGER broken_${table}`);
      expect(await desk.drawer()).toEqual(before);
      expect((await desk.at([order])).orders[0]!.state).toBe('draft');
      // The till, Today and the next try know of the card.
      const { rows } = await desk.hafiz.get<{ rows: { kind: string; document: { id: number } }[] }>('/api/today');
      expect(rows.filter(({ kind }) => kind === 'card-hanging').map(({ document }) => document.id)).toContain(order);
      const slip = await desk.slip(await desk.sell([order], { cardIds: [card!.id] }));
      expect(slip.payments.map(({ kind }) => kind)).toEqual(['card']);
      const [charges] = await database.rows<{ n: number }>(
        'SELECT COUNT(*) AS n FROM terminal_charge WHERE reference LIKE ?',
        [`%-${card!.id}`],
      );
      expect(charges!.n).toBe(1);
    },
  );
});
