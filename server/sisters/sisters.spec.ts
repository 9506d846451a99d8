import type * as z from 'zod';
import type {
  openOffer,
  openSister,
  OfferRow,
  reconcileSister,
  peggingBeyond,
  sisterDays,
  threadBeyond,
} from '@api/sisters';
import type { openOrder } from '@api/orders';
import type { openPurchase } from '@api/purchasing';
import { pino } from 'pino';
import { systemClock } from '../clock';
import { tick } from '../jobs/jobs';
import type { Sisters } from '../sample/sisters';
import { sistersWorld } from '../testing/sisters-world';
import { type Visitor, type World, WORK_DATE } from '../testing/world';

type Row = z.output<typeof OfferRow>;
type Offer = z.output<typeof openOffer.out>;
type Order = z.output<typeof openOrder.out>;
type Purchase = z.output<typeof openPurchase.out>;

describe('X sister companies', () => {
  let world: World;
  let sisters: Sisters;
  /** Who works with us, and who with Muara Bening. */
  let salmah: Visitor;
  let chandra: Visitor;

  beforeAll(async () => {
    ({ world, sisters, salmah, chandra } = await sistersWorld());
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const tray = async (who: Visitor, show = 'waiting') =>
    (await who.get<{ rows: Row[] }>(`/api/tray?show=${show}`)).rows;
  const offerOf = (who: Visitor, row: Row) => who.get<Offer>(`/api/tray/${row.id}`);
  const named = async (who: Visitor, number: string, kind?: Row['kind']) => {
    const rows = await tray(who);
    const row = rows.find((each) => each.number === number && (kind === undefined || each.kind === kind));
    if (!row) throw new Error(`no ${number} among ${rows.map((each) => each.number).join()}`);
    return row;
  };
  const seen = ({ id, kind, revision }: Row, more: object = {}) => ({ id, kind, revision, lines: [], ...more });
  const bought = async (quantity: string, more: object = {}) => {
    const [purchase] = await salmah.does('enterPurchase', {
      vendorId: sisters.vendorId,
      shipToId: null,
      lines: [{ itemId: world.item('FV-900'), quantity, dueDate: '2027-03-20' }],
      ...more,
    });
    return purchase!;
  };
  const order = (id: number) => chandra.get<Order>(`/api/orders/${id}`);
  const purchase = (id: number) => salmah.get<Purchase>(`/api/purchases/${id}`);

  it('buys of a sister: her order, her shipment and her invoice are ours, each once, to the cent', async () => {
    const bought4 = await bought('4');
    const row = await named(chandra, bought4.number);
    expect(row).toMatchObject({
      kind: 'order',
      state: 'open',
      first: '4 FV-900',
      sister: { name: 'Hulu Bening Water Works' },
      document: null,
    });
    const sheet = await offerOf(chandra, row);
    expect(sheet.items).toMatchObject([
      { theirs: { number: 'FV-900' }, ours: { number: 'FV-900' }, quantity: '4', price: '931' },
    ]);
    const twice = await Promise.all([chandra.raw('takeOffer', seen(row)), chandra.raw('takeOffer', seen(row))]);
    expect(twice.map(({ status }) => status).sort()).toEqual([200, 422]);
    expect((await chandra.refused('takeOffer', seen(row))).codes).toEqual(['offer-taken']);
    const made = twice.find(({ status }) => status === 200)!.body as { made: { id: number; kind: string }[] };
    const sold = await order(made.made[0]!.id);
    expect(sold).toMatchObject({
      state: 'confirmed',
      customerReference: bought4.number,
      currency: 'SGD',
      // Her list price less 5 %.
      lines: [{ quantity: '4', unitPrice: '931', shipDate: '2027-03-20' }],
    });
    // Her order is ours already: nothing is offered back.
    expect(await tray(salmah)).toEqual([]);

    await chandra.does('shipLines', { orderId: sold.id, lines: [{ lineId: sold.lines[0]!.id, quantity: '3' }] });
    const [shipped] = await tray(salmah);
    expect(shipped).toMatchObject({ kind: 'receipt', first: '3 FV-900' });
    const receipt = await offerOf(salmah, shipped!);
    expect(receipt.items[0]!.numbers).toHaveLength(3);
    await chandra.does('invoiceCustomer', { orderId: sold.id });
    // The invoice waits with the goods it is for, and is not a second thing to do.
    const [folded, ...others] = await tray(salmah);
    expect(others).toEqual([]);
    expect(folded!.invoices).toHaveLength(1);
    const taken = await salmah.does('takeOffer', seen(folded!, { invoices: true }));
    expect(taken.map(({ kind }) => kind)).toEqual(['RC', 'VI']);
    expect(await tray(salmah)).toEqual([]);
    const now = await purchase(bought4.id);
    expect(now.lines[0]).toMatchObject({ received: '3', invoiced: '3' });
    const books = await salmah.get<z.output<typeof reconcileSister.out>>(`/api/sisters/${sisters.mbf}/reconciliation`);
    expect(books.bought.rows).toMatchObject([{ why: 'same' }]);
    expect(books.bought.totals).toMatchObject([{ currency: 'SGD', difference: '0' }]);
    expect(books.accounts).toEqual([
      {
        account: 'Receivable and payable',
        ours: 'bought',
        currency: 'SGD',
        theySay: '2960.58',
        weSay: '2960.58',
        difference: '0',
        falls: '2960.58',
      },
      {
        account: 'Revenue and purchases this month',
        ours: 'bought',
        currency: 'SGD',
        theySay: '2793',
        weSay: '2793',
        difference: '0',
        falls: '2793',
      },
    ]);
    // The piece is one in both companies.
    const [piece] = receipt.items[0]!.numbers;
    const found = await salmah.get<{ rows: { number: string }[] }>(`/api/serials?q=${piece}`);
    expect(found.rows.map(({ number }) => number)).toEqual([piece]);
  });

  it('goes straight to our customer: her shipment is our receipt and our shipment, in one act, and back again', async () => {
    const { id: customerId, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item('FV-900'), quantity: '2', shipDate: '2027-03-22', route: 'drop' };
    const [ours] = await salmah.does('saveOrder', {
      id: null,
      version: null,
      customerId,
      shipToId: shipTos[0],
      customerReference: '',
      lines: [line],
    });
    await salmah.does('confirmOrder', { id: ours!.id, version: 1 });
    const ourOrder = () => salmah.get<Order>(`/api/orders/${ours!.id}`);
    const [placed] = await salmah.does('placePurchases', {
      lines: [{ orderLineId: (await ourOrder()).lines[0]!.id, vendorId: sisters.vendorId }],
    });
    const row = await named(chandra, placed!.number);
    expect(row.forWhom).toBe('Kasturi Bottling');
    const [sold] = await chandra.does('takeOffer', seen(row));
    const hers = await order(sold!.id);
    expect(hers.shipTo!.label).toBe('Kasturi Bottling, Line 1 store');
    const [shipped] = await chandra.does('shipLines', {
      orderId: sold!.id,
      lines: [{ lineId: hers.lines[0]!.id, quantity: '1' }],
    });
    // Nothing to take: it is received and shipped.
    expect(await tray(salmah)).toEqual([]);
    expect((await purchase(placed!.id)).lines[0]).toMatchObject({ received: '1' });
    expect((await ourOrder()).lines[0]).toMatchObject({ shipped: '1' });
    const [piece] = (await order(sold!.id)).lines[0]!.numbers;
    expect((await ourOrder()).lines[0]!.numbers.map(({ number }) => number)).toEqual([piece!.number]);
    // The thread goes on at hers, whole for who works there too; for who does not it stops at the door.
    const rashid = await world.visitor('rashid');
    const beyond = async (who: Visitor, lineId: number) =>
      (await who.get<z.output<typeof threadBeyond.out>>(`/api/threads/${lineId}/sisters`)).ends;
    const ourLine = (await ourOrder()).lines[0]!.id;
    const [whole] = await beyond(rashid, ourLine);
    expect(whole).toMatchObject({ company: { code: 'MBF' }, number: hers.number });
    expect(whole!.thread!.beads.find(({ stage }) => stage === 'shipped')?.part?.quantity).toBe('1');
    const pegged = async (who: Visitor, kind: string, id: number) =>
      (await who.get<z.output<typeof peggingBeyond.out>>(`/api/pegging/${kind}/${id}/sisters`)).ends;
    for (const [kind, id] of [
      ['SO', ours!.id],
      ['PO', placed!.id],
    ] as const) {
      const [end, ...more] = await pegged(rashid, kind, id);
      expect(more).toEqual([]);
      expect(end).toMatchObject({ company: { code: 'MBF' }, number: hers.number, side: 'down' });
      expect(end!.rows!.every(({ quantity }) => Number(quantity) > 0)).toBe(true);
    }
    expect(await pegged(chandra, 'SO', sold!.id)).toEqual([
      expect.objectContaining({ number: placed!.number, side: 'up', rows: null }),
    ]);
    const [door] = await beyond(chandra, hers.lines[0]!.id);
    expect(door).toEqual({
      company: expect.objectContaining({ code: 'HBW' }) as unknown,
      number: placed!.number,
      thread: null,
    });
    // Our own trail tells of it.
    const trail = await salmah.get<{ changes: { act: string; person: string }[] }>(`/api/trail/PO/${placed!.id}`);
    expect(trail.changes[0]).toMatchObject({ act: 'received', person: 'Chandra' });
    // Taken back from her end, and shipped again, and taken back from ours.
    await chandra.does('reverseMovement', { kind: 'SH', id: shipped!.id, reason: 'wrong vessel' });
    expect([(await purchase(placed!.id)).lines[0]!.received, (await ourOrder()).lines[0]!.shipped]).toEqual(['0', '0']);
    await chandra.does('shipLines', { orderId: sold!.id, lines: [{ lineId: hers.lines[0]!.id, quantity: '2' }] });
    const moves = (await ourOrder()).documents.filter(({ document }) => document.kind === 'SH');
    const last = moves.reduce((newest, each) => (each.document.id > newest.document.id ? each : newest)).document;
    await salmah.does('reverseMovement', { kind: 'SH', id: last.id, reason: 'refused at the gate' });
    expect([(await order(sold!.id)).lines[0]!.shipped, (await ourOrder()).lines[0]!.shipped]).toEqual(['0', '0']);
  });

  it('travels as a revision: what changed is shown, taken on the other side, and bounces no further', async () => {
    const po = await bought('2');
    const row = await named(chandra, po.number);
    const [sold] = await chandra.does('takeOffer', seen(row));
    const now = await purchase(po.id);
    const change = (quantity: string, dueDate: string) => ({
      purchaseId: po.id,
      version: 0,
      reason: 'they need one more',
      lines: [{ id: now.lines[0]!.id, itemId: world.item('FV-900'), quantity, price: '', dueDate }],
    });
    await salmah.does('changePurchase', { ...change('3', '2027-03-25'), version: now.version });
    const changed = await named(chandra, po.number);
    expect(changed).toMatchObject({ changed: true, state: 'taken', document: { id: sold!.id } });
    const sheet = await offerOf(chandra, changed);
    expect(sheet.items[0]).toMatchObject({
      quantity: '3',
      day: '2027-03-25',
      now: { quantity: '2', day: '2027-03-20' },
    });
    expect((await chandra.refused('takeOffer', seen(row))).codes).toEqual(['offer-moved']);
    await chandra.does('takeOffer', seen(changed));
    expect((await order(sold!.id)).lines[0]).toMatchObject({ quantity: '3', shipDate: '2027-03-25' });
    expect([await tray(chandra), await tray(salmah)]).toEqual([[], []]);
    // She can ship later than that: it comes back as hers.
    const hers = await order(sold!.id);
    await chandra.does('changeOrder', {
      id: sold!.id,
      version: hers.version,
      shipToId: hers.shipTo!.id,
      customerReference: hers.customerReference,
      reason: 'the lining takes longer',
      lines: hers.lines.map((line) => ({
        id: line.id,
        itemId: line.item.id,
        quantity: line.quantity,
        shipDate: '2027-03-30',
        route: line.route,
        agreementLineId: null,
      })),
    });
    const back = await named(salmah, hers.number);
    expect(back).toMatchObject({ kind: 'purchase', changed: true, document: { id: po.id } });
    await salmah.does('takeOffer', seen(back));
    expect((await purchase(po.id)).lines[0]).toMatchObject({ quantity: '3', dueDate: '2027-03-30' });
    expect([await tray(chandra), await tray(salmah)]).toEqual([[], []]);
    // Cancelled here, it is cancelled there by one act of hers.
    await salmah.does('cancelPurchase', {
      purchaseId: po.id,
      version: (await purchase(po.id)).version,
      reason: 'no need',
    });
    const gone = await named(chandra, po.number);
    expect(gone.gone).toBe(true);
    await chandra.does('takeOffer', seen(gone));
    expect((await order(sold!.id)).state).toBe('cancelled');
    expect([await tray(chandra), await tray(salmah)]).toEqual([[], []]);
  });

  it('is taken with another quantity and day, which the sender hears of', async () => {
    const po = await bought('5');
    const row = await named(chandra, po.number);
    const { items } = await offerOf(chandra, row);
    const typed = (quantity: string, day: string) => seen(row, { lines: [{ lineId: items[0]!.id, quantity, day }] });
    expect((await chandra.refused('takeOffer', typed('x', '2027-03-28'))).codes).toEqual([
      'lines.0.quantity: not-a-number',
    ]);
    expect((await chandra.refused('takeOffer', typed('0', '2027-03-28'))).codes).toEqual(['lines: nothing-asked']);
    await chandra.does('takeOffer', typed('4', '2027-03-28'));
    const [answer] = await tray(salmah);
    expect(answer).toMatchObject({ kind: 'purchase', changed: true, document: { number: po.number } });
    await salmah.does('takeOffer', seen(answer!));
    expect((await purchase(po.id)).lines[0]).toMatchObject({ quantity: '4', dueDate: '2027-03-28' });
    expect([await tray(chandra), await tray(salmah)]).toEqual([[], []]);
  });

  it('comes back with a reason and stands at its sender; changed, it is offered anew; set aside, it waits', async () => {
    const po = await bought('1');
    const row = await named(chandra, po.number);
    expect((await chandra.refused('returnOffer', seen(row, { reason: ' ' }))).codes).toEqual(['reason: required']);
    const both = await Promise.all([
      chandra.raw('returnOffer', seen(row, { reason: 'not before May' })),
      chandra.raw('takeOffer', seen(row)),
    ]);
    // One of the two, never both.
    expect(both.map(({ status }) => status).sort()).toEqual([200, 422]);
    if (both[0]!.status !== 200) return;
    expect(await tray(salmah, 'returned')).toMatchObject([{ number: po.number, reason: 'not before May' }]);
    expect((await chandra.refused('takeOffer', seen(row))).codes).toEqual(['offer-returned']);
    const now = await purchase(po.id);
    await salmah.does('changePurchase', {
      purchaseId: po.id,
      version: now.version,
      reason: 'May it is',
      lines: [{ id: now.lines[0]!.id, itemId: world.item('FV-900'), quantity: '1', price: '', dueDate: '2027-05-03' }],
    });
    const again = await named(chandra, po.number);
    expect(again.state).toBe('open');
    const aside = (untilDay: string | null) => seen(again, { reason: 'ask the welders', untilDay });
    expect((await chandra.refused('setAsideOffer', aside(null))).codes).toEqual(['untilDay: required']);
    expect((await chandra.refused('setAsideOffer', aside(WORK_DATE))).codes).toEqual(['untilDay: day-not-ahead']);
    await chandra.does('setAsideOffer', aside('2027-03-04'));
    expect(await named(chandra, po.number)).toMatchObject({ state: 'aside', untilDay: '2027-03-04' });
    // Its sender needs it no more.
    await salmah.does('cancelPurchase', { purchaseId: po.id, version: now.version + 1, reason: 'no need' });
    expect((await chandra.refused('takeOffer', seen(again))).codes).toEqual(['offer-gone']);
    expect(await tray(chandra)).toEqual([]);
  });

  it('begins at either end: her order becomes our purchase; what crossed is said to be the same and joined', async () => {
    const sell = async (quantity: string) => {
      const [draft] = await chandra.does('saveOrder', {
        id: null,
        version: null,
        customerId: sisters.customerId,
        shipToId: sisters.shipToId,
        customerReference: 'phone',
        lines: [{ id: null, itemId: sisters.items.get('FV-900')!, quantity, shipDate: '2027-03-19', route: 'stock' }],
      });
      await chandra.does('confirmOrder', { id: draft!.id, version: 1 });
      return draft!;
    };
    const first = await sell('1');
    const [made] = await salmah.does('takeOffer', seen(await named(salmah, first.number)));
    expect(await purchase(made!.id)).toMatchObject({ state: 'placed', currency: 'SGD', lines: [{ quantity: '1' }] });
    expect([await tray(chandra), await tray(salmah)]).toEqual([[], []]);

    // Both typed it: one thing, told twice.
    const [po, so] = [await bought('6'), await sell('6')];
    const [theirs, ours] = [await named(chandra, po.number), await named(salmah, so.number)];
    expect([theirs.sameAs?.number, ours.sameAs?.number]).toEqual([so.number, po.number]);
    const other = await bought('7');
    expect(
      (await chandra.refused('sameAsOffer', seen(await named(chandra, other.number), { documentId: so.id }))).codes,
    ).toEqual(['not-the-same']);
    await chandra.does('sameAsOffer', seen(theirs, { documentId: so.id }));
    expect((await salmah.refused('takeOffer', seen(ours))).codes).toEqual(['offer-taken']);
    expect((await salmah.refused('sameAsOffer', seen(ours, { documentId: po.id }))).codes).toEqual(['offer-taken']);
    // Shipped, it is received on that purchase.
    const hers = await order(so.id);
    await chandra.does('shipLines', { orderId: so.id, lines: [{ lineId: hers.lines[0]!.id, quantity: '1' }] });
    await salmah.does('takeOffer', seen((await tray(salmah)).find(({ kind }) => kind === 'receipt')!));
    expect((await purchase(po.id)).lines[0]).toMatchObject({ received: '1' });
    await chandra.does('returnOffer', seen(await named(chandra, other.number), { reason: 'too many' }));
  });

  it('changes a draft it was taken as, and waits again where its goods are taken back by who received them', async () => {
    const po = await bought('2');
    const [so] = await chandra.does('takeOffer', seen(await named(chandra, po.number), { draft: true }));
    const now = await purchase(po.id);
    await salmah.does('changePurchase', {
      purchaseId: po.id,
      version: now.version,
      reason: 'two more',
      lines: [{ id: now.lines[0]!.id, itemId: world.item('FV-900'), quantity: '4', price: '', dueDate: '2027-03-20' }],
    });
    await chandra.does('takeOffer', seen(await named(chandra, po.number)));
    expect(await order(so!.id)).toMatchObject({ state: 'draft', lines: [{ quantity: '4' }] });
    const draft = await order(so!.id);
    await chandra.does('confirmOrder', { id: so!.id, version: draft.version });
    expect([await tray(chandra), await tray(salmah)]).toEqual([[], []]);

    // Shipped twice, invoiced once: the invoice waits for the last of both.
    for (const quantity of ['1', '3']) {
      await chandra.does('shipLines', { orderId: so!.id, lines: [{ lineId: draft.lines[0]!.id, quantity }] });
    }
    await chandra.does('invoiceCustomer', { orderId: so!.id });
    const [second, first, ...more] = await tray(salmah);
    expect([second!.invoices, first!.invoices, more]).toEqual([[], [], []]);
    const [receipt] = await salmah.does('takeOffer', seen(first!));
    expect((await tray(salmah)).map(({ invoices }) => invoices.length)).toEqual([1]);
    await salmah.does('reverseMovement', { kind: 'RC', id: receipt!.id, reason: 'counted wrong' });
    expect((await tray(salmah)).map(({ number }) => number)).toEqual([second!.number, first!.number]);
    await salmah.does('takeOffer', seen(await named(salmah, first!.number)));
    const taken = await salmah.does('takeOffer', seen(await named(salmah, second!.number), { invoices: true }));
    expect(taken.map(({ kind }) => kind)).toEqual(['RC', 'VI']);
    expect((await purchase(po.id)).lines[0]).toMatchObject({ received: '4', invoiced: '4' });
  });

  it('knows an invoice that was typed by hand, whichever came first', async () => {
    const po = await bought('1');
    const [so] = await chandra.does('takeOffer', seen(await named(chandra, po.number)));
    const hers = await order(so!.id);
    await chandra.does('shipLines', { orderId: so!.id, lines: [{ lineId: hers.lines[0]!.id, quantity: '1' }] });
    await salmah.does('takeOffer', seen((await tray(salmah)).find(({ kind }) => kind === 'receipt')!));
    const [invoice] = await chandra.does('invoiceCustomer', { orderId: so!.id });
    const offered = await named(salmah, invoice!.number);
    const line = (await purchase(po.id)).lines[0]!;
    await salmah.does('enterVendorInvoice', {
      purchaseId: po.id,
      vendorNumber: invoice!.number,
      invoiceDate: WORK_DATE,
      lines: [{ purchaseLineId: line.id, quantity: '1', unitPrice: '931' }],
    });
    expect(await tray(salmah)).toEqual([]);
    expect((await salmah.refused('takeOffer', seen(offered))).codes).toEqual(['offer-taken']);
  });

  it('holds what names an item nobody paired, and takes it once it is', async () => {
    const [po] = await salmah.does('enterPurchase', {
      vendorId: sisters.vendorId,
      shipToId: null,
      lines: [{ itemId: world.item('FV-1200'), quantity: '2', dueDate: '2027-04-01' }],
    });
    const row = await named(chandra, po!.number);
    expect((await chandra.refused('takeOffer', seen(row))).sentences).toEqual([
      'FV-1200 of Hulu Bening Water Works is not paired with an item of ours; say which it is.',
    ]);
    const pair = await chandra.get<z.output<typeof openSister.out>>(`/api/sisters/${sisters.hbw}`);
    expect(pair.proposed.map(({ ours, theirs }) => [ours.number, theirs.number])).toEqual([['FV 1200', 'FV-1200']]);
    const itemId = sisters.items.get('FV 1200')!;
    const paired = (pairs: object[], removed: number[] = []) => ({ sisterId: sisters.hbw, pairs, removed });
    expect(
      (await chandra.refused('pairItems', paired([{ itemId, theirItemId: world.item('FV-900'), factor: '1' }]))).codes,
    ).toEqual(['pairs.0.theirItemId: paired-already']);
    expect(
      (await chandra.refused('pairItems', paired([{ itemId, theirItemId: world.item('FV-1200'), factor: '0' }]))).codes,
    ).toEqual(['pairs.0.factor: not-above-zero']);
    await chandra.does('pairItems', paired([{ itemId, theirItemId: world.item('FV-1200'), factor: '2' }]));
    const [so] = await chandra.does('takeOffer', seen(row, { draft: true }));
    // Two of hers are one of ours.
    expect(await order(so!.id)).toMatchObject({ state: 'draft', lines: [{ quantity: '4' }] });
    await chandra.does('confirmOrder', { id: so!.id, version: 1 });
    expect([await tray(chandra), await tray(salmah)]).toEqual([[], []]);
    await chandra.does('pairItems', paired([], [itemId]));
  });

  it('shows nothing of one company to the other', async () => {
    const po = await bought('1');
    const row = await named(chandra, po.number);
    // Ours, offered to her: not ours to open or take.
    const status = async (who: Visitor, path: string) =>
      (await fetch(world.serving.address + path, { headers: { cookie: who.cookie } })).status;
    expect(await status(salmah, `/api/tray/${row.id}`)).toBe(404);
    expect(await status(chandra, `/api/tray/${row.id}`)).toBe(200);
    expect((await salmah.raw('takeOffer', seen(row))).status).toBe(404);
    expect(await status(chandra, `/api/purchases/${po.id}`)).toBe(404);
    await chandra.does('returnOffer', seen(row, { reason: 'only a test' }));
  });

  it('is said who she is, once, and at which price', async () => {
    const keep = (more: object) => ({
      sisterId: sisters.pbt,
      customerId: null,
      vendorId: null,
      transfer: 'ordinary',
      perCent: '0',
      takesFitting: false,
      ...more,
    });
    const codes = async (more: object) => (await salmah.refused('keepSister', keep(more))).codes;
    // At the one of both that is another's.
    expect(await codes({ vendorId: sisters.vendorId })).toEqual(['vendorId: party-of-sister']);
    const hers = await chandra.refused('keepSister', keep({ customerId: sisters.customerId }));
    expect(hers.codes).toEqual(['customerId: party-of-sister']);
    expect(await codes({ vendorId: 999999 })).toEqual(['vendorId: unknown']);
    expect(await codes({ sisterId: sisters.hbw })).toEqual(['sisterId: unknown']);
    expect(await codes({ transfer: 'list-less', perCent: '100' })).toEqual(['perCent: share-of-all']);
    expect(await codes({ perCent: 'x' })).toEqual(['perCent: not-a-number']);
    await salmah.does(
      'keepSister',
      keep({ vendorId: world.masters.vendors.get('V-101'), transfer: 'cost-plus', perCent: '8' }),
    );
    const { rows } = await salmah.get<{
      rows: { sister: { code: string }; half: { vendor: { number: string } | null } }[];
    }>('/api/sisters');
    expect(rows.map(({ sister, half }) => [sister.code, half.vendor?.number])).toEqual([
      ['MBF', 'V-201'],
      ['PBT', 'V-101'],
    ]);
    await salmah.does('keepSister', keep({}));
  });

  it('is taken by itself where that is the rule and it fits; what does not stays', async () => {
    const { database } = world.serving;
    const rule = (takesFitting: boolean) =>
      chandra.does('keepSister', {
        sisterId: sisters.hbw,
        customerId: sisters.customerId,
        vendorId: null,
        transfer: 'list-less',
        perCent: '5',
        takesFitting,
      });
    const fits = await bought('1');
    const [unknown] = await salmah.does('enterPurchase', {
      vendorId: sisters.vendorId,
      shipToId: null,
      lines: [{ itemId: world.item('FV-1200'), quantity: '1', dueDate: '2027-04-01' }],
    });
    const look = () => tick({ database, clock: systemClock, log: pino({ level: 'silent' }) });
    await look();
    expect((await named(chandra, fits.number)).state).toBe('open');
    await rule(true);
    await look();
    expect((await tray(chandra)).map(({ number }) => number)).toEqual([unknown!.number]);
    const [taken] = (await tray(chandra, 'done')).filter(({ number }) => number === fits.number);
    expect(taken).toMatchObject({ state: 'taken', document: { kind: 'SO' } });
    await rule(false);
    await chandra.does('returnOffer', seen(await named(chandra, unknown!.number), { reason: 'not made any more' }));
  });

  it('says from when she could ship what would be bought of her, by what she has, and nothing more of it', async () => {
    const asked = async (who: Visitor, vendorId: number, ...lines: [item: string, quantity: string, due: string][]) =>
      (
        await who.post('/api/sisters/days', {
          vendorId,
          lines: lines.map(([item, quantity, due], at) => ({
            key: String(at),
            itemId: world.item(item),
            quantity,
            due,
          })),
        })
      ).body as z.output<typeof sisterDays.out>;
    const itemId = sisters.items.get('GRATE-40')!;
    const pair = { itemId, theirItemId: world.item('SALT-25'), factor: '1' };
    await chandra.does('pairItems', { sisterId: sisters.hbw, pairs: [pair], removed: [] });
    const answer = await asked(
      salmah,
      sisters.vendorId,
      ['SALT-25', '40', '2027-06-10'],
      ['SALT-25', '41', '2027-06-10'],
      ['FV-1200', '1', '2027-06-10'],
      ['SALT-25', 'x', '2027-06-10'],
    );
    expect(answer.sister).toBe('Muara Bening Fabrication');
    // She has it; more than she has and nobody makes; what is not paired; what is no number.
    expect(answer.lines.map(({ first, late }) => [first !== null, late])).toEqual([
      [true, false],
      [false, false],
      [false, false],
      [false, false],
    ]);
    const early = await asked(salmah, sisters.vendorId, ['SALT-25', '1', '2027-02-01']);
    expect(early.lines[0]).toMatchObject({ late: true });
    expect(Object.keys(early.lines[0]!).sort()).toEqual(['first', 'key', 'late']);
    expect(await asked(salmah, world.masters.vendors.get('V-101')!, ['FV-900', '1', '2027-06-10'])).toEqual({
      sister: '',
      lines: [],
    });
    expect(await asked(chandra, sisters.vendorId, ['FV-900', '1', '2027-06-10'])).toEqual({ sister: '', lines: [] });
    await chandra.does('pairItems', { sisterId: sisters.hbw, pairs: [], removed: [itemId] });
  });
});
