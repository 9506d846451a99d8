import { RIGHTS, type Right } from '@api/access';
import { chanceOf } from '@core/kernel';
import { ROOMS } from '../rooms';
import { fixedTerm, PLAIN_HEAD } from '../sample/terms';
import { anyOf } from '../testing/any-input';
import { agreed, placed, World, WORK_DATE, type Visitor } from '../testing/world';

/** A right is asked for each effect, and every act asks for one. // U4 */
describe('rights', () => {
  let world: World;
  let all: Visitor;
  let some: Visitor;
  beforeAll(async () => {
    world = await World.make();
    await allow('Order administrator', RIGHTS);
    all = await world.visitor('salmah');
    some = await world.visitor('rashid');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  async function allow(role: string, rights: readonly Right[]): Promise<void> {
    await world.serving.database.run('UPDATE role SET rights = ? WHERE name = ?', [JSON.stringify(rights), role]);
    world.serving.sessions.forget();
  }
  /** Lets the visitor do everything but that. */
  const without = (right: Right) =>
    allow(
      'Sales manager',
      RIGHTS.filter((each) => each !== right),
    );

  it.each(
    ROOMS.flatMap(({ acts = [] }) => acts)
      .filter(({ right }) => right !== 'own')
      .map((act) => [act.endpoint.name, act] as const),
  )('%s is refused to who has every right but its own', async (name, act) => {
    let answer: { status: number; body: unknown } = { status: 400, body: null };
    // Until an input is one: what no schema takes, or names twice, is refused before anybody is asked about.
    const isNone = () => answer.status === 400 || JSON.stringify(answer.body).includes('"code":"named-again"');
    for (let seed = 1; isNone() && seed < 400; seed += 1) {
      const input = anyOf(act.endpoint.input, chanceOf(seed));
      const { success } = act.endpoint.input.safeParse(input);
      // Some acts ask for another right, by what they are asked to do.
      await without((success ? act.asked(input).right : act.right) as Right);
      answer = await some.raw(name, input);
    }
    expect(answer).toMatchObject({ status: 403, body: { refusals: [{ code: 'no-right' }] } });
  });

  /** Refused without that right, shown all the same, and done with it. */
  async function asksAlso(right: Right, act: string, input: unknown): Promise<void> {
    await without(right);
    expect((await some.refused(act, input)).codes).toEqual(['no-right']);
    const seen = (await some.post(`/api/acts/${act}/preview`, input)).body as { refusals: unknown[]; effects: unknown };
    expect(seen.refusals).toMatchObject([{ code: 'no-right' }]);
    expect(seen.effects).not.toBeNull();
    await allow('Sales manager', RIGHTS);
    await some.does(act, input);
  }

  it('of who buys: a buying agreement is released as a purchase', async () => {
    const [agreement] = await all.does('saveAgreement', {
      ...PLAIN_HEAD,
      side: 'buying',
      customerId: null,
      vendorId: world.masters.vendors.get('V-101'),
      title: 'Membranes',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      lines: [fixedTerm(world.item('RO-4040'), '100', '600')],
    });
    await all.does('putInForce', { id: agreement!.id, version: 1 });
    const { lines } = await all.get<{ lines: { id: number }[] }>(`/api/agreements/${agreement!.id}`);
    await asksAlso('purchases', 'releaseAgreement', {
      agreementId: agreement!.id,
      shipToId: null,
      customerReference: '',
      lines: [{ agreementLineId: lines[0]!.id, quantity: '5', shipDate: '2027-03-20' }],
    });
  });

  it('of who keeps credit limits, and of who buys, in lists', async () => {
    const rowOf = async (list: string, q: string) => {
      const { rows } = await all.get<{ rows: { id: number; stamp: string; cells: Record<string, string> }[] }>(
        `/api/lists/${list}?q=${q}`,
      );
      return rows[0]!;
    };
    const change = (
      list: string,
      row: { id: number; stamp: string; cells: Record<string, string> },
      cells: object,
    ) => ({
      list,
      changes: [{ id: row.id, stamp: row.stamp, cells: { ...row.cells, ...cells } }],
      removed: [],
    });
    const customer = await rowOf('customers', 'Teratai');
    await asksAlso('credit', 'keepList', change('customers', customer, { creditLimit: '999999' }));
    await without('credit');
    const again = await rowOf('customers', 'Teratai');
    const flag = again.cells['contractedOnly'] === 'yes' ? 'no' : 'yes';
    await some.does('keepList', change('customers', again, { contractedOnly: flag }));
    await some.does('keepList', change('customers', await rowOf('customers', 'Teratai'), again.cells));
    const asked = await rowOf('vendor-items', 'RO-4040');
    const [field] = Object.keys(asked.cells).filter((name) => /price/i.test(name));
    await asksAlso('purchases', 'keepList', change('vendor-items', asked, { [field!]: '601.5' }));
  });

  it('of who keeps goods: a credit note for goods that came back', async () => {
    const ids = await placed(world, all, await agreed(world, all), '4');
    const lines = [{ lineId: ids.purchaseLineId, quantity: '4' }];
    await all.does('receiveGoods', { purchaseId: ids.purchaseId, lines });
    const [invoice] = await all.does('invoiceCustomer', { orderId: ids.orderId });
    const [line] = await world.serving.database.rows<{ id: number }>(
      'SELECT id FROM customer_invoice_line WHERE invoice_id = ?',
      [invoice!.id],
    );
    const credit = { invoiceId: invoice!.id, kind: 'return', reason: 'Too many' };
    await asksAlso('goods', 'creditInvoice', {
      ...credit,
      lines: [{ invoiceLineId: line!.id, quantity: '1', unitPrice: '' }],
    });
    await without('goods');
    await some.does('creditInvoice', {
      ...credit,
      kind: 'price',
      lines: [{ invoiceLineId: line!.id, quantity: '', unitPrice: '700' }],
    });
  });

  it('of who sells: both ends of a tie are changed', async () => {
    const ids = await placed(world, all, await agreed(world, all), '4');
    const { rows } = await all.get<{
      rows: { tieId: number; shipDate: string; dueDate: string; quantity: string; shipToId: number | null }[];
    }>(`/api/ties?orderId=${ids.orderId}`);
    const { tieId, quantity, shipDate, dueDate, shipToId } = rows[0]!;
    const was = { quantity, shipDate, dueDate, shipToId };
    await asksAlso('orders', 'editPairs', { pairs: [{ tieId, was, shipDate: '2027-03-26' }], goodOnly: false });
    await without('orders');
    const now = { ...was, shipDate: '2027-03-26' };
    await some.does('editPairs', { pairs: [{ tieId, was: now, dueDate: '2027-03-22' }], goodOnly: false });
  });

  it('of who pays: wrapping up pays a prepayment out', async () => {
    const { id } = await agreed(world, all, {}, '10');
    await all.does('takePrepayment', { agreementId: id, agreementLineId: null, amount: '100', takenOn: WORK_DATE });
    const { version } = await all.get<{ version: number }>(`/api/agreements/${id}`);
    const input = { id, version, decision: 'waive', prepayments: 'return', carry: false, lastDay: null };
    await asksAlso('payments', 'wrapUpAgreement', input);
  });
});
