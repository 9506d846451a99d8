import type * as z from 'zod';
import type { openOffer, openSister, OfferRow, reconcileSister } from '@api/sisters';
import type { openOrder } from '@api/orders';
import type { openPurchase } from '@api/purchasing';
import { CHANDRA, laySisters, type Sisters } from '../sample/sisters';
import { Visitor, World, WORK_DATE } from '../testing/world';

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
    world = await World.make();
    sisters = await laySisters(world.serving.database, world.masters, WORK_DATE);
    salmah = await world.visitor();
    chandra = new Visitor(world.serving.address);
    expect((await chandra.signIn(CHANDRA.signIn, CHANDRA.password)).status).toBe(200);
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
    // The piece is one in both companies.
    const [piece] = receipt.items[0]!.numbers;
    const found = await salmah.get<{ rows: { number: string }[] }>(`/api/serials?q=${piece}`);
    expect(found.rows.map(({ number }) => number)).toEqual([piece]);
  });
});
