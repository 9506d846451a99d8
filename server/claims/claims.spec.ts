import { layDesk } from '../sample/desk';
import { layOpeningStock } from '../sample/opening-stock';
import { Actor } from '../sample/actor';
import { agreed, placed, WORK_DATE, World, type Visitor } from '../testing/world';

interface Support {
  version: number;
  lines: { id: number; sold: string; accrued: string; claimed: string }[];
}
interface Claim {
  version: number;
  amount: string;
  settled: string;
  withdrawn: boolean;
  lines: unknown[];
  moves: { kind: string; amount: string }[];
  owed: { openItemId: number; owed: string }[];
}

describe('S13 claims on vendors', () => {
  let world: World;
  let salmah: Visitor;
  let vendorId: number;

  beforeAll(async () => {
    world = await World.make();
    await layDesk(world.serving.database, world.masters, WORK_DATE, 7);
    const actor = new Actor(
      world.serving.database,
      world.masters.companyId,
      world.masters.people.get('joko')!,
      'stock',
    );
    await layOpeningStock(world.serving.database, world.masters, actor.doer(WORK_DATE), WORK_DATE);
    salmah = await world.visitor();
    const [vendor] = await world.serving.database.rows<{ id: number }>(
      "SELECT id FROM vendor WHERE company_id = ? AND number = 'V-101'",
      [world.masters.companyId],
    );
    vendorId = vendor!.id;
  });
  afterAll(() => world.end());
  afterEach(async () => {
    await count();
    expect(await world.verify()).toEqual([]);
  });

  const count = () => salmah.does('countSupport', {});
  const keep = async (change: Record<string, unknown> = {}) => {
    const [made] = await salmah.does('saveSupport', {
      id: null,
      version: null,
      name: 'Cartridges',
      vendorId,
      customerId: null,
      priceGroupId: null,
      promotionId: null,
      firstDay: WORK_DATE,
      lastDay: '2027-03-31',
      lines: [{ id: null, itemId: world.item('FC-10'), groupId: null, perUnit: '0.4' }],
      ...change,
    });
    return made!.id;
  };
  const open = (id: number) => salmah.get<Support>(`/api/support/${id}`);
  const claimOf = (id: number) => salmah.get<Claim>(`/api/claims/${id}`);
  const sold = async (quantity: string): Promise<{ invoiceId: number; lineId: number }> => {
    const customer = world.masters.customers.get('Kasturi Bottling')!;
    const [order] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId: customer.id,
      shipToId: customer.shipTos[0],
      customerReference: 'R-1',
      lines: [{ id: null, itemId: world.item('FC-10'), quantity, shipDate: '2027-03-08', route: 'stock' }],
    });
    await salmah.does('confirmOrder', { id: order!.id, version: 1 });
    const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`);
    await salmah.does('shipLines', { orderId: order!.id, lines: [{ lineId: lines[0]!.id, quantity }] });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: order!.id });
    const sheet = await salmah.get<{ lines: { id: number }[] }>(`/api/customer-invoices/${invoice!.id}`);
    return { invoiceId: invoice!.id, lineId: sheet.lines[0]!.id };
  };
  /** An invoice of the vendor that is owed: what it is owed by. */
  const owed = async (): Promise<number> => {
    const { purchaseId, purchaseLineId } = await placed(world, salmah, await agreed(world, salmah), '2');
    await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '2' }] });
    const [invoice] = await salmah.does('enterVendorInvoice', {
      purchaseId,
      vendorNumber: `A-${purchaseId}`,
      invoiceDate: WORK_DATE,
      lines: [{ purchaseLineId, quantity: '2', unitPrice: '620' }],
    });
    const { openItemId } = await salmah.get<{ openItemId: number }>(`/api/vendor-invoices/${invoice!.id}`);
    return openItemId;
  };

  it('accrue for each that is invoiced, go back with what is credited, and post', async () => {
    const id = await keep();
    const { invoiceId, lineId } = await sold('50');
    await count();
    expect((await open(id)).lines[0]).toMatchObject({ sold: '50', accrued: '20', claimed: '0' });
    await count();
    expect((await open(id)).lines[0]).toMatchObject({ accrued: '20' });
    await salmah.does('creditInvoice', {
      invoiceId,
      kind: 'return',
      reason: 'Wrong size',
      lines: [{ invoiceLineId: lineId, quantity: '20', unitPrice: '' }],
    });
    await count();
    expect((await open(id)).lines[0]).toMatchObject({ sold: '30', accrued: '12' });
    const { rows } = await salmah.get<{ rows: { amount: string }[] }>('/api/claimable');
    expect(rows).toMatchObject([{ amount: '12' }]);
    // What is promised later holds for what was invoiced within its days.
    const later = await keep({ name: 'Later' });
    await count();
    expect((await open(later)).lines[0]).toMatchObject({ sold: '30' });
    await salmah.does('setSupport', { id: later, version: 1, state: 'stopped', reason: 'Called off' });
    await sold('10');
    await count();
    expect((await open(later)).lines[0]).toMatchObject({ sold: '30' });
    const { version, lines } = await open(id);
    const change = (perUnit: string) => ({
      id,
      version,
      name: 'Cartridges',
      vendorId,
      customerId: null,
      priceGroupId: null,
      promotionId: null,
      firstDay: WORK_DATE,
      lastDay: '2027-03-31',
      lines: perUnit === '' ? [] : [{ id: lines[0]!.id, itemId: world.item('FC-10'), groupId: null, perUnit }],
    });
    expect((await salmah.refused('saveSupport', change(''))).codes).toEqual([
      'lines: required',
      'lines: support-line-used',
    ]);
    await salmah.does('saveSupport', change('0.5'));
    await count();
    expect((await open(id)).lines[0]).toMatchObject({ accrued: '16' });
  });

  it('are made once, settled against an invoice of the vendor, paid and given up in parts', async () => {
    await sold('100');
    await count();
    const made = await Promise.all([1, 2].map(() => salmah.raw('makeClaim', { vendorId, until: WORK_DATE })));
    expect(made.map(({ status }) => status).sort()).toEqual([200, 422]);
    const { rows } = await salmah.get<{ rows: { document: { id: number } }[] }>('/api/claims?state=open');
    const { id } = rows[0]!.document;
    const claim = await claimOf(id);
    await salmah.does('withdrawClaim', { id, version: 1, reason: 'Not yet' });
    expect((await claimOf(id)).withdrawn).toBe(true);
    const [again] = await salmah.does('makeClaim', { vendorId, until: WORK_DATE });
    expect((await claimOf(again!.id)).amount).toBe(claim.amount);
    const openItemId = await owed();
    const both = await Promise.all(
      [1, 2].map(() => salmah.raw('settleClaim', { id: again!.id, version: 1, openItemId, amount: '30' })),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await claimOf(again!.id)).owed.find((each) => each.openItemId === openItemId)!.owed).not.toBe('0');
    await salmah.does('receiveClaim', { id: again!.id, version: 2, amount: '5.50' });
    await salmah.does('loseClaim', { id: again!.id, version: 3, reason: 'They dispute it' });
    const end = await claimOf(again!.id);
    expect(end).toMatchObject({
      settled: claim.amount,
      moves: [{ kind: 'invoice', amount: '30' }, { kind: 'paid', amount: '5.5' }, { kind: 'lost' }],
    });
    expect((await salmah.refused('receiveClaim', { id: again!.id, version: 4, amount: '' })).codes).toEqual([
      'claim-not-open',
    ]);
    const joko = await world.visitor('joko');
    expect((await joko.refused('makeClaim', { vendorId, until: WORK_DATE })).codes).toEqual(['no-right']);
  });
});
