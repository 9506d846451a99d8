import { verify } from '../verify';
import { agreed, placed, World, WORK_DATE, type Visitor } from '../testing/world';

const CREDITED_AGAIN = `INSERT INTO credit_note_line
    (company_id, credit_note_id, invoice_line_id, order_line_id, tax_code_id, quantity, unit_price, net, tax_rate, uninvoiced)
  SELECT company_id, credit_note_id, invoice_line_id, order_line_id, tax_code_id, 0, unit_price, 4000, tax_rate, 6
    FROM credit_note_line`;

/** What is named in an input is named once, and what is kept stays within what the documents allow. // G5 */
describe('nothing is paid twice by naming it twice', () => {
  let world: World;
  let salmah: Visitor;
  let ids: Awaited<ReturnType<typeof placed>>;
  let agreement: { id: number; lineId: number };
  let invoiceId: number;
  let invoiceLineId: number;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    agreement = await agreed(world, salmah);
    ids = await placed(world, salmah, agreement, '5');
    const lines = [{ lineId: ids.purchaseLineId, quantity: '5' }];
    await salmah.does('receiveGoods', { purchaseId: ids.purchaseId, lines });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: ids.orderId });
    invoiceId = invoice!.id;
    const [line] = await world.serving.database.rows<{ id: number }>(
      'SELECT id FROM customer_invoice_line WHERE invoice_id = ?',
      [invoiceId],
    );
    invoiceLineId = line!.id;
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const credit = (times: number) => ({
    invoiceId,
    kind: 'price',
    reason: 'Agreed by phone',
    lines: Array.from({ length: times }, () => ({ invoiceLineId, quantity: '', unitPrice: '700' })),
  });

  it('P1 a price credit counts an invoice line once', async () => {
    const { codes } = await salmah.refused('creditInvoice', credit(500));
    expect(codes[0]).toBe('lines.1.invoiceLineId: named-again');
    const { status } = await salmah.raw('creditInvoice', credit(2));
    expect(status).toBe(422);
    const [note] = await salmah.does('creditInvoice', credit(1));
    const { net } = await salmah.get<{ net: string }>(`/api/credit-notes/${note!.id}`);
    expect(net).toBe('200');
  });

  it('every act refuses it where it is named again', async () => {
    const line = { id: ids.orderLineId, itemId: world.item('RO-4040'), quantity: '1', shipDate: null, route: 'stock' };
    const order = { id: ids.orderId, version: 1, customerId: null, shipToId: null, customerReference: '' };
    const call = { day: '2027-05-01', quantity: '1', skipped: false, rule: '' };
    const asked: [string, unknown, string][] = [
      ['saveOrder', { ...order, lines: [line, { ...line, id: null }, line] }, 'lines.2.id'],
      [
        'acceptPromise',
        {
          orderId: ids.orderId,
          version: 1,
          lines: [1, 2].map(() => ({ lineId: ids.orderLineId, way: 'atp', asked: WORK_DATE, day: WORK_DATE })),
        },
        'lines.1.lineId',
      ],
      [
        'savePlan',
        {
          id: agreement.id,
          version: 2,
          lines: [1, 2].map(() => ({ agreementLineId: agreement.lineId, calls: [call] })),
        },
        'lines.1.agreementLineId',
      ],
      [
        'enterVendorInvoice',
        {
          purchaseId: ids.purchaseId,
          vendorNumber: 'AR/9',
          invoiceDate: WORK_DATE,
          lines: [1, 2].map(() => ({ purchaseLineId: ids.purchaseLineId, quantity: '5', unitPrice: '600' })),
        },
        'lines.1.purchaseLineId',
      ],
      [
        'closeShort',
        { id: ids.orderId, version: 1, lineIds: [ids.orderLineId, ids.orderLineId], reason: 'not wanted' },
        'lineIds.1',
      ],
      ['untie', { tieIds: [1, 1] }, 'tieIds.1'],
    ];
    for (const [act, input, field] of asked) {
      expect([act, (await salmah.refused(act, input)).codes]).toEqual([act, [`${field}: named-again`]]);
      const preview = await salmah.post(`/api/acts/${act}/preview`, input);
      expect([act, preview.status]).toEqual([act, 422]);
    }
  });

  it('G5 verify tells what is above its bound, even where counters agree', async () => {
    const { database } = world.serving;
    const beyond: [string, string][] = [
      [
        `INSERT INTO credit_note (company_id, number, kind, customer_id, customer_invoice_id, currency, credit_date, net, tax, total)
         SELECT company_id, 'CN-0009', kind, customer_id, customer_invoice_id, currency, credit_date, 4000, 0, 4000 FROM credit_note`,
        'credited of an invoice',
      ],
      [CREDITED_AGAIN, 'net credited of an invoice line'],
      [CREDITED_AGAIN, 'quantity credited of an invoice line'],
      [
        `INSERT INTO rebate_entry (company_id, agreement_id, document_kind, document_id, posted_on, settled)
         SELECT company_id, id, 'CN', 1, first_day, 4000 FROM agreement`,
        'rebate settled',
      ],
      [
        `INSERT INTO planned_order (company_id, number, kind, item_id, start_date, due_date, quantity, held)
         SELECT company_id, 'PR-0001', 'make', item_id, ship_date, ship_date, 9, 9 FROM sales_order_line LIMIT 1;
         INSERT INTO planned_tie (company_id, planned_order_id, order_line_id, quantity)
         SELECT p.company_id, p.id, (SELECT MIN(l.id) FROM sales_order_line l), 9 FROM planned_order p`,
        'planned for an order line',
      ],
    ];
    for (const [tampering, what] of beyond) {
      const found = await database
        .transaction(async (tx) => {
          for (const each of tampering.split(';')) await tx.run(each);
          throw await verify(tx);
        })
        .catch((differences: unknown) => differences as string[]);
      expect([
        what,
        found.filter((each) => each.startsWith(`${what}:`) && each.includes('the documents allow')).length,
      ]).toEqual([what, 1]);
    }
  });

  it.each([
    ['open_item', 'SET settled = amount + 1'],
    ['sales_order_line', 'SET tied = quantity + 1'],
    ['sales_order_line', 'SET invoiced = shipped + 1'],
    ['purchase_order_line', 'SET tied = quantity + 1'],
    ['purchase_order_line', 'SET invoiced = received + 1'],
    ['tie', 'SET received = quantity + 1'],
  ])('the database itself refuses a counter of %s above its row: %s', async (table, change) => {
    await expect(world.serving.database.run(`UPDATE ${table} ${change}`)).rejects.toThrow(/CONSTRAINT .* failed/);
  });
});
