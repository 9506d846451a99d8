import { RIGHTS, type Right } from '@api/access';
import { ROOMS } from '../rooms';
import { agreed, placed, World, type Visitor } from '../testing/world';

describe('G7 rights to see', () => {
  let world: World;
  let salmah: Visitor;
  let joko: Visitor;
  let ids: Awaited<ReturnType<typeof placed>>;
  let receiptId: number;
  let invoiceId: number;
  beforeAll(async () => {
    world = await World.make();
    [salmah, joko] = await Promise.all([world.visitor(), world.visitor('joko')]);
    ids = await placed(world, salmah, await agreed(world, salmah), '4');
    const made = await salmah.does('receiveGoods', {
      purchaseId: ids.purchaseId,
      lines: [{ lineId: ids.purchaseLineId, quantity: '4' }],
    });
    receiptId = made.find(({ kind }) => kind === 'RC')!.id;
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: ids.orderId });
    invoiceId = invoice!.id;
  });
  afterAll(() => world.end());

  const statusOf = async (visitor: Visitor, path: string) =>
    (await fetch(`${world.serving.address}/api${path}`, { headers: { cookie: visitor.cookie } })).status;
  const letJoko = async (...rights: Right[]) => {
    await world.serving.database.run("UPDATE role SET rights = ? WHERE name = 'Stock keeper'", [
      JSON.stringify(rights),
    ]);
    world.serving.sessions.forget();
  };
  afterEach(() => letJoko('goods', 'send', 'work-date'));

  it('costs: movements, stock entries and journals are shown without them', async () => {
    const cost = async (visitor: Visitor) => {
      const sheet = await visitor.get<{ cost: string; lines: { unitCost: string; quantity: string }[] }>(
        `/api/receipts/${receiptId}`,
      );
      return [sheet.cost, sheet.lines[0]!.unitCost, sheet.lines[0]!.quantity];
    };
    expect(await cost(salmah)).toEqual(['2480', '620', '4']);
    expect(await cost(joko)).toEqual(['', '', '4']);
    const trail = (visitor: Visitor) =>
      visitor.get<{ journals: unknown[]; stockEntries: { cost: string; quantity: string }[] }>(
        `/api/trail/RC/${receiptId}`,
      );
    expect((await trail(salmah)).journals).toHaveLength(1);
    expect(await trail(joko)).toMatchObject({ journals: [], stockEntries: [{ cost: '', quantity: '4' }] });
    const more = await placed(world, salmah, await agreed(world, salmah), '2');
    const lines = [{ lineId: more.purchaseLineId, quantity: '2' }];
    const preview = async (visitor: Visitor) =>
      (
        (await visitor.post('/api/acts/receiveGoods/preview', { purchaseId: more.purchaseId, lines })).body as {
          effects: { receipts: { cost: string }[]; shipments: { cost: string }[] };
        }
      ).effects;
    await letJoko('goods');
    expect(await preview(joko)).toMatchObject({ receipts: [{ cost: '' }], shipments: [{ cost: '' }] });
    await letJoko('goods', 'see-costs');
    expect(await preview(joko)).toMatchObject({ receipts: [{ cost: '1240' }], shipments: [{ cost: '1240' }] });
  });

  it('costs: what vendors ask', async () => {
    const asked = async (visitor: Visitor) => {
      const sheet = await visitor.get<{
        net: string;
        lines: { quantity: string; unitPrice: string; amount: string }[];
      }>(`/api/purchases/${ids.purchaseId}`);
      const [{ unitPrice, amount, quantity } = sheet.lines[0]!] = sheet.lines;
      return [sheet.net, unitPrice, amount, quantity];
    };
    expect(await asked(salmah)).toEqual(['2480', '620', '2480', '4']);
    expect(await asked(joko)).toEqual(['', '', '', '4']);
    const item = await joko.get<{ stockValue: string; vendors: { unitPrice: string; leadDays: number }[] }>(
      `/api/items/${world.item('RO-4040')}`,
    );
    expect(item).toMatchObject({ stockValue: '', vendors: [{ unitPrice: '' }] });
    // Found to be bought from a vendor, an item has their price beside ours.
    const vendorId = world.masters.vendors.get('V-101')!;
    const found = async (visitor: Visitor, query: string) =>
      (await visitor.get<{ rows: { vendorPrice: string }[] }>(`/api/items?q=RO-4040${query}`)).rows[0]!.vendorPrice;
    expect(await found(salmah, `&vendorId=${vendorId}`)).toBe('620');
    expect([await found(joko, `&vendorId=${vendorId}`), await found(salmah, '')]).toEqual(['', '']);
    const { rows } = await joko.get<{ rows: { net: string }[] }>('/api/purchases');
    expect(new Set(rows.map(({ net }) => net))).toEqual(new Set(['']));
  });

  it.each([
    ['PO', 'see-costs'],
    ['AG', 'see-agreements'],
    ['CI', 'see-debts'],
  ] as const)('the print of %s asks for %s', async (kind, right) => {
    const path = `/documents/${kind}/${{ PO: ids.purchaseId, AG: 1, CI: invoiceId }[kind]}/pdf`;
    await letJoko(...RIGHTS.filter((each) => each !== right));
    expect(await statusOf(joko, path)).toBe(403);
    await letJoko(right);
    expect(await statusOf(joko, path)).toBe(200);
  });

  it('debts: balances and invoices', async () => {
    const customerId = world.masters.customers.get('Teratai Bay Resort')!.id;
    const owes = async (visitor: Visitor) => {
      const { balance, openItems } = await visitor.get<{ balance: string; openItems: unknown[] }>(
        `/api/customers/${customerId}`,
      );
      return [balance, openItems.length];
    };
    expect(await owes(joko)).toEqual(['', 0]);
    expect((await owes(salmah))[1]).toBe(1);
    for (const path of ['/invoices?side=customer', `/customer-invoices/${invoiceId}`]) {
      expect([await statusOf(salmah, path), await statusOf(joko, path)]).toEqual([200, 403]);
    }
    await letJoko('see-debts');
    expect(await owes(joko)).toEqual(await owes(salmah));
    expect(await statusOf(joko, `/customer-invoices/${invoiceId}`)).toBe(200);
  });

  it.each([
    ['see-agreements', ['/agreements', '/agreements.csv', '/agreements/1', '/fulfilment.csv']],
    ['see-mail', ['/messages', '/message-drafts']],
  ] as const)('%s', async (right, paths) => {
    await letJoko(...RIGHTS.filter((each) => each !== right));
    expect(await Promise.all(paths.map((path) => statusOf(joko, path)))).toEqual(paths.map(() => 403));
    await letJoko(right);
    const files = paths.map((path) => path.includes('.csv'));
    expect(await Promise.all(paths.map((path) => statusOf(joko, path)))).toEqual(files.map((is) => (is ? 403 : 200)));
    await letJoko(right, 'export');
    expect(await Promise.all(paths.map((path) => statusOf(joko, path)))).toEqual(paths.map(() => 200));
  });

  it('to write to others: documents go to the party that they are for', async () => {
    const document = { kind: 'SO', id: ids.orderId };
    await world.serving.database.run(
      "UPDATE customer SET email = 'stores@teratai.example' WHERE name = 'Teratai Bay Resort'",
    );
    const { recipient } = await joko.get<{ recipient: string }>(`/api/documents/SO/${ids.orderId}/message`);
    const message = { ...document, subject: 'Order', body: 'Attached.' };
    expect((await joko.refused('sendDocument', { ...message, recipient: 'me@home.example' })).codes).toEqual([
      'no-right',
    ]);
    await joko.does('sendDocument', { ...message, recipient: recipient.toUpperCase() });
    await letJoko('send', 'write-to-others');
    await joko.does('sendDocument', { ...message, recipient: 'me@home.example' });
  });

  it('Today stands without what one may not see', async () => {
    const kinds = async (visitor: Visitor) =>
      new Set((await visitor.get<{ rows: { kind: string }[] }>('/api/today')).rows.map(({ kind }) => kind));
    expect((await kinds(salmah)).has('invoice-owed')).toBe(true);
    expect((await kinds(joko)).has('invoice-owed')).toBe(false);
  });

  /** Reads that whoever works in the company may make: said here, so that a new one is thought about. */
  const FOR_ALL = [
    // What sisters send is for whoever works in the company; prices and books in it ask for their own right.
    'listTray',
    'openOffer',
    'missing',
    'listSeries',
    // What is one’s own.
    'openOwn',
    'changePassword',
    'endOwnSession',
    'beginSecondFactor',
    'keepSecondFactor',
    'listSisters',
    'openSister',
    'threadBeyond',
    'sisterDays',
    'openStanding',
    // One's own, and what others earn for who may see that.
    'commissionOf',
    'openStatement',
    'listStanding',
    'listRounds',
    'roundAddresses',
    'runSheet',
    'openAsked',
    'listSerials',
    'openSerial',
    'serialsHere',
    'signOut',
    'chooseCompany',
    'findOffers',
    'listViews',
    'openLetterhead',
    'orderSupplies',
    'itemWork',
    'itemGroups',
    'renewCalendar',
    'openAvailability',
    'openPromiseGround',
    'checkPromise',
    'tryPromise',
    'brokenPromises',
    'openRepromise',
    'openPlanning',
    'openPegging',
    'peggingBeyond',
    'listHolds',
    'listPlanned',
    'openPlanned',
    'openLoad',
    'listWork',
    'openWork',
    'openWorkReport',
    'workForLine',
    'linesForWork',
    'openCentreWork',
    'openWorkshopDays',
    'openToInvoice',
    'locations',
    'listGoingOut',
    'possibleDays',
    'listStock',
    'listCarriages',
    'listCounts',
    'openCount',
    'findItems',
    'itemOptions',
    'openItem',
    'customerDesk',
    'usualBasket',
    'vendorBasket',
    'shelf',
    'matchItems',
    'find',
    'openTrail',
    'openPeriods',
    'stockEntries',
    'openList',
    'findNamed',
    'draftMessage',
    'listOrders',
    'openOrder',
    'salesPeople',
    'findCustomers',
    'findVendors',
    'openCustomer',
    'openVendor',
    'listPurchases',
    'openPurchase',
    'alsoWaiting',
    'openReceipt',
    'openShipment',
    'listBench',
    'openThread',
    'threadsOfOrder',
    'threadOfDocument',
    'findSupplies',
    'findSales',
    'listPairs',
    'today',
  ];

  const endpoints = ROOMS.flatMap(({ answers = [] }) => answers).map(({ endpoint }) => endpoint);
  const files = ROOMS.flatMap(({ files: all = [] }) => all);
  const addressOf = (path: string) => path.replace(/:\w+/g, '1');

  it('every endpoint is open, asks for a right, or is said to be for all', () => {
    const silent = endpoints.filter(({ open, needs, name }) => !open && needs === undefined && !FOR_ALL.includes(name));
    expect(silent.map(({ name }) => name)).toEqual([]);
  });

  it.each(
    endpoints
      .filter(({ open, method }) => !open && method === 'GET')
      .map(({ name, path, needs }) => [name, path, needs] as const),
  )('%s: nobody without a session, nobody without its right, nobody of another company', async (_name, path, needs) => {
    const address = addressOf(path);
    expect((await fetch(`${world.serving.address}/api${address}`)).status).toBe(401);
    if (needs) {
      await letJoko(...RIGHTS.filter((each) => each !== needs));
      expect(await statusOf(joko, address)).toBe(403);
    }
  });

  it.each(files.filter(({ open }) => !open).map(({ path, needs }) => [path, needs] as const))(
    'the file %s: nobody without a session or its right',
    async (path, needs) => {
      expect((await fetch(`${world.serving.address}/api${addressOf(path)}`)).status).toBe(401);
      if (!needs) return;
      await letJoko(...RIGHTS.filter((each) => each !== needs));
      expect(await statusOf(joko, addressOf(path))).toBe(403);
    },
  );
});
