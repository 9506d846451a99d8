import { agreed, placed, World, WORK_DATE, type Visitor } from '../testing/world';

interface Row {
  id: number;
  stamp: string;
  cells: Record<string, string>;
}

describe('U2 accounts of groups of items', () => {
  let world: World;
  let salmah: Visitor;
  let agreement: { id: number; lineId: number };
  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    agreement = await agreed(world, salmah, {}, '1000');
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const rows = async (list: string) => (await salmah.get<{ rows: Row[] }>(`/api/lists/${list}`)).rows;
  const keep = (list: string, changes: unknown[], removed: unknown[] = []) => ({ list, changes, removed });
  const over = ({ id, stamp, cells }: Row, other: Record<string, string>) => ({
    id,
    stamp,
    cells: { ...cells, ...other },
  });
  const added = (code: string, shares: string) => ({
    id: null,
    stamp: '',
    cells: { code, name: `For ${code}`, shares },
  });
  const posted = async (kind: string, id: number) =>
    (
      await world.serving.database.rows<{ code: string; amount: string }>(
        `SELECT a.code, e.amount FROM journal j
           JOIN journal_entry e ON e.company_id = j.company_id AND e.journal_id = j.id
           JOIN account a ON a.company_id = e.company_id AND a.id = e.account_id
          WHERE j.document_kind = ? AND j.document_id = ? AND COALESCE(a.posting_role, a.shares_role) IN ('revenue', 'cost-of-sales')
          ORDER BY e.id`,
        [kind, id],
      )
    ).map(({ code, amount }) => `${code} ${amount}`);
  const groupOf = async () => {
    const [{ code }] = (await world.serving.database.rows<{ code: string }>(
      `SELECT g.code FROM item i JOIN item_group g ON g.company_id = i.company_id AND g.id = i.item_group_id WHERE i.id = ?`,
      [world.item('RO-4040')],
    )) as [{ code: string }];
    return (await rows('group-accounts')).find(({ cells }) => cells['code'] === code)!;
  };
  const sold = async (quantity: string) => {
    const purchase = await placed(world, salmah, agreement, quantity);
    const lines = [{ lineId: purchase.purchaseLineId, quantity }];
    const made = await salmah.does('receiveGoods', { purchaseId: purchase.purchaseId, lines });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: purchase.orderId });
    return { ...purchase, shipment: made.find(({ kind }) => kind === 'SH')!, invoice: invoice! };
  };

  it('are made for what they share, and only that is posted to them', async () => {
    await salmah.does('keepList', keep('accounts', [added('4010', 'revenue'), added('5010', 'cost-of-sales')]));
    const group = await groupOf();
    const refused = await salmah.refused(
      'keepList',
      keep('group-accounts', [over(group, { revenue: '5010', cost: '4000' })]),
    );
    expect(refused.codes).toEqual(['changes.0.revenue: unknown', 'changes.0.cost: unknown']);
    const before = await sold('2');
    expect(await posted('SH', before.shipment.id)).toEqual(['5000 1240']);
    await salmah.does('keepList', keep('group-accounts', [over(group, { revenue: '4010', cost: '5010' })]));

    const { shipment, invoice, purchaseId, purchaseLineId } = await sold('3');
    expect(await posted('SH', shipment.id)).toEqual(['5010 1860']);
    expect(await posted('CI', invoice.id)).toEqual(['4010 -2220']);
    // What the vendor asks beyond that is cost of sales of the same group, and leaves it where it stands.
    const [asked] = await salmah.does('enterVendorInvoice', {
      purchaseId,
      vendorNumber: 'AR/9',
      invoiceDate: WORK_DATE,
      lines: [{ purchaseLineId, quantity: '3', unitPrice: '630' }],
    });
    expect(await posted('VI', asked!.id)).toEqual(['5010 30']);
    await salmah.does('keepList', keep('group-accounts', [over(await groupOf(), { revenue: '4010', cost: '' })]));
    const [back] = await salmah.does('takeBackInvoice', { invoiceId: asked!.id, reason: 'Wrong price' });
    expect(await posted('VI', back!.id)).toEqual(['5010 -30']);
    const [note] = await salmah.does('creditInvoice', {
      invoiceId: invoice.id,
      kind: 'reversal',
      reason: 'x',
      lines: [],
    });
    expect(await posted('CN', note!.id)).toEqual(['4010 2220']);
    await salmah.does('reverseMovement', { kind: 'SH', id: shipment.id, reason: 'Never came' });
  });

  it('stay as long as something is posted there, and so do those for all; an unused one goes', async () => {
    await salmah.does('keepList', keep('accounts', [added('4020', 'revenue')]));
    const accounts = await rows('accounts');
    const named = (code: string) => accounts.find(({ cells }) => cells['code'] === code)!;
    const gone = (code: string) => keep('accounts', [], [{ id: named(code).id, stamp: named(code).stamp }]);
    expect((await salmah.refused('keepList', gone('4010'))).codes).toEqual(['removed.0: row-in-use']);
    // Nothing was posted there yet: it is for what will be.
    expect((await salmah.refused('keepList', gone('6920'))).codes).toEqual(['removed.0: row-in-use']);
    const moved = keep('accounts', [over(named('4020'), { shares: 'cost-of-sales' })]);
    expect((await salmah.refused('keepList', moved)).codes).toEqual(['changes.0.shares: only-new']);
    await salmah.does('keepList', gone('4020'));
  });
});
