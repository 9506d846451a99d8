import { agreed, placed, releaseOf, WORK_DATE, World, type Visitor } from '../testing/world';
import { unsetDocument } from './printed';

/** All that is said on a document, in its order. */
function textsIn(content: unknown): string[] {
  if (typeof content === 'string') return [content];
  if (Array.isArray(content)) return content.flatMap(textsIn);
  if (typeof content !== 'object' || content === null) return [];
  const { text, stack, columns, table, image } = content as Record<string, unknown>;
  const inner = [text, stack, columns, (table as { body?: unknown } | undefined)?.body];
  return [...inner.flatMap(textsIn), ...(image === undefined ? [] : ['a picture'])];
}

const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

describe('documents as an authority accepts them', () => {
  let world: World;
  let salmah: Visitor;
  let rashid: Visitor;
  let ids: Awaited<ReturnType<typeof placed>>;
  let invoiceId: number;

  beforeAll(async () => {
    world = await World.make();
    [salmah, rashid] = [await world.visitor(), await world.visitor('rashid')];
    ids = await placed(world, salmah, await agreed(world, salmah), '12');
    await salmah.does('receiveGoods', {
      purchaseId: ids.purchaseId,
      lines: [{ lineId: ids.purchaseLineId, quantity: '12' }],
    });
    invoiceId = (await salmah.does('invoiceCustomer', { orderId: ids.orderId }))[0]!.id;
  });
  afterAll(() => world.end());

  const paper = async (kind: 'SO' | 'PO' | 'SH' | 'CI', id: number) => {
    const { database } = world.serving;
    const unset = (await database.snapshot((sql) => unsetDocument(sql, world.masters.companyId, { kind, id })))!;
    return { all: textsIn(unset.content), whole: textsIn(unset.content).join(' | '), foot: unset.foot! };
  };
  const shipment = async () => {
    const { documents } = await salmah.get<{ documents: { document: { kind: string; id: number } }[] }>(
      `/api/orders/${ids.orderId}`,
    );
    return documents.find(({ document }) => document.kind === 'SH')!.document.id;
  };

  it('an invoice has us and them with tax numbers, tax by code, what it refers to, and where to pay', async () => {
    const { whole, foot } = await paper('CI', invoiceId);
    for (const said of [
      'Hulu Bening Water Works',
      'Jalan Hulu Air 12',
      '48200 Serendah, Malaysia',
      'Teratai Bay Resort',
      'Jalan Pantai 1 | 22300 Kuala Besut',
      'tax number ST-0922-0201',
      'Your reference | TBR-7781',
      'Our order | SO-0001',
      'Supplied | Mon 1 Mar 2027',
      'S6: 6 % of 8,880.00 | 532.80',
      'Total | 9,412.80',
      'Please pay to Bank Muara Contoh, account 5550 1234 8800, naming CI-0001.',
    ]) {
      expect(whole).toContain(said);
    }
    expect(foot).toBe('Hulu Bening Water Works · registered 2010-0100-HBW · tax number ST-0300-1200');
  });

  it('names items as the customer does, ours in small, on confirmation, delivery note and invoice', async () => {
    const customer = 'Teratai Bay Resort';
    await salmah.does('keepList', {
      list: 'their-numbers',
      changes: [{ id: null, stamp: '', cells: { customer, item: 'RO-4040', number: 'TBR-MEM' } }],
      removed: [],
    });
    for (const [kind, id] of [
      ['SO', ids.orderId],
      ['SH', await shipment()],
      ['CI', invoiceId],
    ] as const) {
      const { all } = await paper(kind, id);
      expect(all.slice(all.indexOf('TBR-MEM'), all.indexOf('TBR-MEM') + 2)).toEqual(['TBR-MEM', 'RO-4040']);
    }
    // A delivery note names no price, a purchase no bank of ours.
    expect((await paper('SH', await shipment())).whole).not.toContain('740');
    for (const [kind, id] of [
      ['PO', ids.purchaseId],
      ['SO', ids.orderId],
    ] as const) {
      expect((await paper(kind, id)).whole).not.toContain('Please pay');
    }
  });

  it('a customer without an address of its own is where goods go to', async () => {
    const cells = { street: '', postcode: '', town: '', country: '', taxNumber: '' };
    const { rows } = await salmah.get<{ rows: { id: number; stamp: string; cells: { number: string } }[] }>(
      '/api/lists/customer-papers',
    );
    const row = rows.find((each) => each.cells.number === 'C-201')!;
    await salmah.does('keepList', {
      list: 'customer-papers',
      changes: [{ id: row.id, stamp: row.stamp, cells: { ...row.cells, ...cells } }],
      removed: [],
    });
    const { whole } = await paper('CI', invoiceId);
    expect(whole).toContain('Teratai Bay Resort | Jalan Pantai 3 | 22300 Kuala Besut');
  });

  it('is in the language its party reads, with what we write at the end of it', async () => {
    const keep = async (
      list: string,
      find: (cells: Record<string, string>) => boolean,
      change: Record<string, string>,
    ) => {
      const { rows } = await rashid.get<{ rows: { id: number; stamp: string; cells: Record<string, string> }[] }>(
        `/api/lists/${list}`,
      );
      const row = rows.find(({ cells }) => find(cells))!;
      await rashid.does('keepList', {
        list,
        changes: [{ id: row.id, stamp: row.stamp, cells: { ...row.cells, ...change } }],
        removed: [],
      });
    };
    expect((await paper('CI', invoiceId)).whole).toContain('Goods stay ours until they are paid in full.');
    await keep('customer-papers', ({ number }) => number === 'C-201', { language: 'ms' });
    await keep('paper-texts', ({ document, language }) => document === 'CI' && language === 'ms', {
      text: 'Barang dijual tidak boleh dipulangkan.',
    });
    const { whole, foot } = await paper('CI', invoiceId);
    for (const said of [
      'Invois CI-0001',
      'Nombor anda dengan kami C-201',
      'Rujukan anda | TBR-7781',
      'Dibekalkan | Isn 1 Mac 2027',
      'Amaun, MYR',
      '12 piece',
      'S6: 6 % daripada 8,880.00 | 532.80',
      'Jumlah | 9,412.80',
      'Sila bayar kepada Bank Muara Contoh, akaun 5550 1234 8800, dengan menyatakan CI-0001.',
      'Barang dijual tidak boleh dipulangkan.',
    ]) {
      expect(whole).toContain(said);
    }
    for (const english of ['Invoice', 'Your ', 'Total', 'Please', 'Goods stay']) expect(whole).not.toContain(english);
    expect(foot).toContain('nombor cukai ST-0300-1200');
    expect((await paper('SH', await shipment())).whole).toContain('Diterima dalam keadaan baik:');
    expect((await paper('SO', ids.orderId)).whole).toContain('Pengesahan pesanan SO-0001');
    // A vendor reads what it reads.
    expect((await paper('PO', ids.purchaseId)).whole).toContain('Purchase order PO-');
    await keep('vendor-papers', ({ number }) => number === 'V-101', { language: 'ms' });
    expect((await paper('PO', ids.purchaseId)).whole).toContain('Pesanan belian PO-');
    const draft = await salmah.get<{ subject: string; body: string }>(`/api/documents/CI/${invoiceId}/message`);
    expect(draft).toMatchObject({ subject: 'Invois CI-0001' });
    expect(draft.body).toContain('bersama ini invois kami CI-0001.');
    await keep('customer-papers', ({ number }) => number === 'C-201', { language: 'en' });
  });

  it('bears our logo where there is one; who looks after Kampong puts it there', async () => {
    expect((await paper('CI', invoiceId)).all).not.toContain('a picture');
    const joko = await world.visitor('joko');
    expect((await joko.refused('keepLogo', { image: PIXEL })).codes).toEqual(['no-right']);
    expect((await rashid.refused('keepLogo', { image: 'R0lGODlh' })).codes).toEqual(['image: not-an-image']);
    await rashid.does('keepLogo', { image: PIXEL });
    expect((await salmah.get<{ logo: string }>('/api/letterhead')).logo).toBe(`data:image/png;base64,${PIXEL}`);
    expect((await paper('CI', invoiceId)).all).toContain('a picture');
    const answer = await fetch(`${world.serving.address}/api/documents/CI/${invoiceId}/pdf`, {
      headers: { cookie: salmah.cookie },
    });
    expect(
      Buffer.from(await answer.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
    await rashid.does('keepLogo', { image: '' });
    expect((await salmah.get<{ logo: string | null }>('/api/letterhead')).logo).toBeNull();
  });

  it('an invoice for several orders names them, and each line its own', async () => {
    const agreement = await agreed(world, salmah, { title: 'More membranes' });
    const orders: { id: number; number: string }[] = [];
    for (const customerReference of ['TBR-1', 'TBR-2']) {
      const [order] = await salmah.does('releaseAgreement', { ...releaseOf(world, agreement, '2'), customerReference });
      await salmah.does('confirmOrder', { id: order!.id, version: 1 });
      orders.push(order!);
      const { rows } = await salmah.get<{ rows: { orderLineId: number; proposal: { vendorId: number } }[] }>(
        `/api/bench?orderId=${order!.id}`,
      );
      const [bought] = await salmah.does('placePurchases', {
        lines: [{ orderLineId: rows[0]!.orderLineId, vendorId: rows[0]!.proposal.vendorId }],
      });
      const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/purchases/${bought!.id}`);
      await salmah.does('receiveGoods', { purchaseId: bought!.id, lines: [{ lineId: lines[0]!.id, quantity: '2' }] });
    }
    const [first, second] = orders as [{ id: number; number: string }, { id: number; number: string }];
    const [made] = await salmah.does('invoiceCustomer', {
      orderId: first.id,
      others: [second.id],
      invoiceDate: WORK_DATE,
    });
    const { whole } = await paper('CI', made!.id);
    expect(whole).toContain(`Our orders | ${first.number}, ${second.number}`);
    expect(whole).toContain('Your reference | TBR-1, TBR-2');
    expect(whole).toContain(`${second.number}, SH-`);
    expect(await world.verify()).toEqual([]);
  });
});
