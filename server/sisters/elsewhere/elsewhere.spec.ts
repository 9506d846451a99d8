import type * as z from 'zod';
import type { listDue, openOffer, OfferRow, reconcileSister } from '@api/sisters';
import type { openOrder } from '@api/orders';
import type { openPurchase } from '@api/purchasing';
import type { Sisters } from '../../sample/sisters';
import { sistersWorld } from '../../testing/sisters-world';
import type { Visitor, World } from '../../testing/world';

type Row = z.output<typeof OfferRow>;
type Due = z.output<typeof listDue.out>['rows'][number];

const NAMES = { hbw: 'Hulu Bening Water Works', lgw: 'Lembah Gading Water' } as const;

describe('X2 sisters elsewhere: two installations, and files between them', () => {
  /** Ours, where Salmah buys; and hers, where Chandra sells. */
  let here: World;
  let there: World;
  let sisters: Sisters;
  let salmah: Visitor;
  let chandra: Visitor;
  /** The company elsewhere, as each installation knows it. */
  let lgw: number;
  let hbw: number;

  beforeAll(async () => {
    const ours = await sistersWorld();
    const hers = await sistersWorld();
    [here, there, salmah, chandra, sisters] = [ours.world, hers.world, ours.salmah, hers.chandra, ours.sisters];
    const renamed = 'UPDATE company SET code = ?, name = ? WHERE id = ?';
    await there.serving.database.run(renamed, ['OLD', 'Old Works', hers.sisters.hbw]);
    await there.serving.database.run(renamed, ['LGW', NAMES.lgw, hers.sisters.mbf]);
    const none = { transfer: 'ordinary', perCent: '0', takesFitting: false };
    lgw = await elsewhere(salmah, 'LGW', NAMES.lgw, 'SGD', 'exchange@lgw.example');
    hbw = await elsewhere(chandra, 'HBW', NAMES.hbw, 'MYR', '');
    await salmah.does('keepSister', { sisterId: sisters.mbf, customerId: null, vendorId: null, ...none });
    await chandra.does('keepSister', { sisterId: hers.sisters.hbw, customerId: null, vendorId: null, ...none });
    await salmah.does('keepSister', { sisterId: lgw, customerId: null, vendorId: sisters.vendorId, ...none });
    await chandra.does('keepSister', { sisterId: hbw, customerId: hers.sisters.customerId, vendorId: null, ...none });
  });
  afterAll(async () => {
    await here.end();
    await there.end();
  });
  afterEach(async () => expect([await here.verify(), await there.verify()]).toEqual([[], []]));

  async function elsewhere(who: Visitor, code: string, name: string, currency: string, email: string): Promise<number> {
    await who.does('keepElsewhere', { id: null, code, name, currency, email });
    const { rows } = await who.get<{ rows: { sister: { id: number; code: string } }[] }>('/api/sisters');
    return rows.find(({ sister }) => sister.code === code)!.sister.id;
  }
  const tray = async (who: Visitor, show = 'waiting') =>
    (await who.get<{ rows: Row[] }>(`/api/tray?show=${show}`)).rows;
  const due = async (who: Visitor) => (await who.get<{ rows: Due[] }>('/api/exchange/due')).rows;
  const seen = ({ id, kind, revision }: Row, more: object = {}) => ({ id, kind, revision, lines: [], ...more });
  const textOf = async (who: Visitor, world: World, id: number) => {
    const answer = await fetch(`${world.serving.address}/api/exchange/${id}/ubl`, { headers: { cookie: who.cookie } });
    expect(answer.status).toBe(200);
    return answer.text();
  };
  const fileOf = (text: string) => ({ name: 'from.xml', content: Buffer.from(text).toString('base64') });
  const broughtIn = async (who: Visitor, text: string) => {
    const answer = await who.post('/api/acts/bringInExchange/preview', fileOf(text));
    expect(answer.status).toBe(200);
    await who.does('bringInExchange', fileOf(text));
    return (answer.body as { effects: { does: string; folded: boolean } }).effects;
  };
  /** What waits to be sent goes as a file and is brought in at the other; what it was there. */
  async function goes(from: Visitor, how = 'file'): Promise<{ does: string[]; texts: string[] }> {
    const world = from === salmah ? here : there;
    const does: string[] = [];
    const texts: string[] = [];
    for (const row of await due(from)) {
      const text = await textOf(from, world, row.id);
      await from.does('sendExchange', { id: row.id, revision: row.revision, gone: row.gone, how });
      const shows = await broughtIn(from === salmah ? chandra : salmah, text);
      does.push(shows.folded ? `${shows.does}, folded` : shows.does);
      texts.push(text);
    }
    return { does, texts };
  }
  const bought = async (quantity: string, dueDate = '2027-03-20') => {
    const [purchase] = await salmah.does('enterPurchase', {
      vendorId: sisters.vendorId,
      shipToId: null,
      lines: [{ itemId: here.item('FV-900'), quantity, dueDate }],
    });
    return purchase!;
  };
  const order = (id: number) => chandra.get<z.output<typeof openOrder.out>>(`/api/orders/${id}`);
  const purchase = (id: number) => salmah.get<z.output<typeof openPurchase.out>>(`/api/purchases/${id}`);

  it('buys of a sister elsewhere: order, response, goods by number and invoice are each one thing, once', async () => {
    const ours = await bought('3');
    expect(await due(salmah)).toMatchObject([
      { kind: 'order', number: ours.number, returned: false, email: 'exchange@lgw.example', document: { id: ours.id } },
    ]);
    const { does, texts } = await goes(salmah, 'mail');
    expect(does).toEqual(['new']);
    // Sent twice it comes once.
    expect(await broughtIn(chandra, texts[0]!)).toMatchObject({ does: 'nothing' });
    const [row, ...others] = await tray(chandra);
    expect(others).toEqual([]);
    expect(row).toMatchObject({ kind: 'order', number: ours.number, first: '3 FV-900', sister: { name: NAMES.hbw } });
    expect((await chandra.refused('takeOffer', seen(row!))).codes).toEqual(['item-unpaired']);
    const offer = await chandra.get<z.output<typeof openOffer.out>>(`/api/tray/${row!.id}`);
    const { proposed } = await chandra.get<{ proposed: { ours: { id: number }; theirs: { id: number } }[] }>(
      `/api/sisters/${hbw}`,
    );
    expect(proposed).toMatchObject([{ theirs: { id: offer.items[0]!.theirs.id } }]);
    const pair = { itemId: proposed[0]!.ours.id, theirItemId: proposed[0]!.theirs.id, factor: '1' };
    await chandra.does('pairItems', { sisterId: hbw, pairs: [pair], removed: [] });
    const [sold] = await chandra.does('takeOffer', seen(row!));
    expect(await order(sold!.id)).toMatchObject({
      state: 'confirmed',
      customerReference: ours.number,
      lines: [{ quantity: '3', shipDate: '2027-03-20' }],
    });
    // Her answer is our order, as we have it: nothing waits, and she has it no more to do.
    expect(await goes(chandra)).toMatchObject({ does: ['new, folded'] });
    expect([await tray(salmah), await tray(chandra)]).toEqual([[], []]);
    const { lines } = await order(sold!.id);
    await chandra.does('shipLines', { orderId: sold!.id, lines: [{ lineId: lines[0]!.id, quantity: '2' }] });
    await chandra.does('invoiceCustomer', { orderId: sold!.id });
    expect(await goes(chandra)).toMatchObject({ does: ['new', 'new'] });
    // The invoice is told with its goods.
    const [goods, ...more] = await tray(salmah);
    expect(more).toEqual([]);
    expect(goods).toMatchObject({ kind: 'receipt', first: '2 FV-900' });
    expect(goods!.invoices).toHaveLength(1);
    // Which item of hers is ours is known by our own order.
    const opened = await salmah.get<z.output<typeof openOffer.out>>(`/api/tray/${goods!.id}`);
    const taken = await salmah.does('takeOffer', seen(goods!, { invoices: true }));
    expect(taken.map(({ kind }) => kind)).toEqual(['RC', 'VI']);
    expect(await purchase(ours.id)).toMatchObject({ lines: [{ received: '2', invoiced: '2' }] });
    expect(opened.items[0]!.numbers).toHaveLength(2);
    const found = await salmah.get<{ rows: { number: string }[] }>(`/api/serials?q=${opened.items[0]!.numbers[0]}`);
    expect(found.rows).toHaveLength(1);
    const books = await salmah.get<z.output<typeof reconcileSister.out>>(`/api/sisters/${lgw}/reconciliation`);
    expect(books.bought).toMatchObject({ rows: [{ why: 'same' }], totals: [{ currency: 'SGD', difference: '0' }] });
    const { rows: sent } = await salmah.get<{ rows: Due[] }>('/api/exchange/due?show=sent');
    expect(sent).toMatchObject([{ number: ours.number, sentOn: '2027-03-01' }]);
    // What was sent by mail is kept with its file.
    const { rows } = await salmah.get<{ rows: { id: number; recipient: string; document: { number: string } }[] }>(
      '/api/messages',
    );
    expect(rows[0]).toMatchObject({ recipient: 'exchange@lgw.example', document: { number: ours.number } });
    const kept = await fetch(`${here.serving.address}/api/messages/${rows[0]!.id}/attachment`, {
      headers: { cookie: salmah.cookie },
    });
    expect(kept.headers.get('content-type')).toContain('application/xml');
    expect(await kept.text()).toBe(texts[0]);
  });

  it('travels as a revision, in whatever order files come, and comes back otherwise', async () => {
    const ours = await bought('5');
    const { texts: first } = await goes(salmah);
    const [sold] = await chandra.does('takeOffer', seen((await tray(chandra))[0]!));
    await goes(chandra);
    const line = (await purchase(ours.id)).lines[0]!;
    const changed = async (quantity: string) => {
      const { version } = await purchase(ours.id);
      const typed = { id: line.id, itemId: here.item('FV-900'), quantity, price: '', dueDate: '2027-03-24' };
      await salmah.does('changePurchase', { purchaseId: ours.id, version, reason: 'another tank', lines: [typed] });
    };
    await changed('6');
    const [one] = await due(salmah);
    const revision1 = await textOf(salmah, here, one!.id);
    await changed('4');
    // What was looked at is another by now.
    const stale = { id: one!.id, revision: one!.revision, gone: false, how: 'file' };
    expect((await salmah.refused('sendExchange', stale)).codes).toEqual(['due-moved']);
    expect(await goes(salmah)).toMatchObject({ does: ['changed'] });
    // Those before it come late, and change nothing.
    expect(await broughtIn(chandra, revision1)).toMatchObject({ does: 'nothing' });
    expect(await broughtIn(chandra, first[0]!)).toMatchObject({ does: 'nothing' });
    const [row] = await tray(chandra);
    expect(row).toMatchObject({ changed: true, first: '4 FV-900' });
    // She can do three.
    const { items } = await chandra.get<z.output<typeof openOffer.out>>(`/api/tray/${row!.id}`);
    await chandra.does('takeOffer', seen(row!, { lines: [{ lineId: items[0]!.id, quantity: '3' }] }));
    expect(await order(sold!.id)).toMatchObject({ lines: [{ quantity: '3', shipDate: '2027-03-24' }] });
    expect(await goes(chandra)).toMatchObject({ does: ['changed'] });
    const [back] = await tray(salmah);
    expect(back).toMatchObject({ kind: 'purchase', changed: true, document: { number: ours.number } });
    await salmah.does('takeOffer', seen(back!));
    expect(await purchase(ours.id)).toMatchObject({ lines: [{ quantity: '3', dueDate: '2027-03-24' }] });
    // What we changed by hers goes to her as the next revision, and is what she has.
    expect(await goes(salmah)).toMatchObject({ does: ['changed, folded'] });
    expect([await tray(salmah), await tray(chandra), await due(salmah), await due(chandra)]).toEqual([[], [], [], []]);
    // Cancelled here, it is to be cancelled there, once.
    const { version } = await purchase(ours.id);
    await salmah.does('cancelPurchase', { purchaseId: ours.id, version, reason: 'the tank is late' });
    const { texts } = await goes(salmah);
    expect(texts[0]).toContain('<OrderCancellation');
    expect(await broughtIn(chandra, texts[0]!)).toMatchObject({ does: 'nothing' });
    const [ended] = await tray(chandra);
    expect(ended).toMatchObject({ gone: true });
    await chandra.does('takeOffer', seen(ended!));
    expect(await order(sold!.id)).toMatchObject({ state: 'cancelled' });
    // That she did so is told, and nothing more to do.
    expect(await goes(chandra)).toMatchObject({ does: ['changed, folded'] });
    expect(await tray(salmah)).toEqual([]);
  });

  it('comes back with a reason, and stands where it came from', async () => {
    const ours = await bought('9');
    await goes(salmah);
    const [row] = await tray(chandra);
    await chandra.does('returnOffer', {
      id: row!.id,
      kind: 'order',
      revision: row!.revision,
      reason: 'no vessel before May',
    });
    const [back] = await due(chandra);
    expect(back).toMatchObject({ returned: true, number: ours.number, document: null, reason: 'no vessel before May' });
    const asked = { id: back!.id, revision: back!.revision, gone: back!.gone };
    expect((await chandra.refused('sendExchange', { ...asked, how: 'mail' })).codes).toEqual(['how: no-mail-address']);
    const { does, texts } = await goes(chandra);
    expect(does).toEqual(['returned']);
    expect(await broughtIn(salmah, texts[0]!)).toMatchObject({ does: 'nothing' });
    expect(await tray(salmah, 'returned')).toMatchObject([{ number: ours.number, reason: 'no vessel before May' }]);
    // Changed, it waits there again.
    const { lines, version } = await purchase(ours.id);
    const typed = { id: lines[0]!.id, itemId: here.item('FV-900'), quantity: '1', price: '', dueDate: '2027-05-12' };
    await salmah.does('changePurchase', { purchaseId: ours.id, version, reason: 'in May then', lines: [typed] });
    expect(await goes(salmah)).toMatchObject({ does: ['changed'] });
    expect(await tray(chandra)).toMatchObject([
      { number: ours.number, state: 'open', changed: false, first: '1 FV-900' },
    ]);
    expect(await tray(salmah, 'returned')).toEqual([]);
    // What was returned and not sent when she changed it goes back no more.
    const again = (await tray(chandra)).find(({ number }) => number === ours.number)!;
    await chandra.does('returnOffer', { id: again.id, kind: 'order', revision: again.revision, reason: 'too few' });
    expect(await due(chandra)).toMatchObject([{ returned: true, number: ours.number }]);
    const now = await purchase(ours.id);
    const more = { ...typed, quantity: '3' };
    await salmah.does('changePurchase', {
      purchaseId: ours.id,
      version: now.version,
      reason: 'three then',
      lines: [more],
    });
    expect(await goes(salmah)).toMatchObject({ does: ['changed'] });
    expect(await due(chandra)).toEqual([]);
  });

  it('begins with her order: it is our purchase, and known to her by her own lines', async () => {
    const [customer] = await there.serving.database.rows<{ id: number; shipToId: number }>(
      `SELECT s.customer_id AS id, t.id AS ship_to_id FROM sister s
         JOIN ship_to t ON t.company_id = s.company_id AND t.customer_id = s.customer_id WHERE s.sister_id = ?`,
      [hbw],
    );
    const items = await there.serving.database.rows<{ id: number }>(
      "SELECT i.id FROM item i JOIN company c ON c.id = i.company_id AND c.code = 'LGW' WHERE i.number = 'FV-900'",
    );
    const line = { id: null, itemId: items[0]!.id, quantity: '2', shipDate: '2027-04-02', route: 'stock' };
    const [sold] = await chandra.does('saveOrder', {
      ...{ id: null, version: null, customerId: customer!.id, shipToId: customer!.shipToId, customerReference: '' },
      lines: [line],
    });
    expect(await due(chandra)).toEqual([]);
    await chandra.does('confirmOrder', { id: sold!.id, version: 1 });
    expect(await goes(chandra)).toMatchObject({ does: ['new'] });
    const [row] = await tray(salmah);
    expect(row).toMatchObject({ kind: 'purchase', number: sold!.number, changed: false, first: '2 FV-900' });
    const [ours] = await salmah.does('takeOffer', seen(row!));
    expect(ours).toMatchObject({ kind: 'PO' });
    expect(await goes(salmah)).toMatchObject({ does: ['new, folded'] });
    expect((await tray(chandra)).filter(({ number }) => number === ours!.number)).toEqual([]);
    // Her goods find our line by her number.
    const { lines } = await order(sold!.id);
    await chandra.does('shipLines', { orderId: sold!.id, lines: [{ lineId: lines[0]!.id, quantity: '2' }] });
    await goes(chandra);
    await salmah.does('takeOffer', seen((await tray(salmah))[0]!));
    expect(await purchase(ours!.id)).toMatchObject({ lines: [{ received: '2' }] });
  });

  it('refuses what is for somebody else, of nobody known, or no such file, and writes nothing', async () => {
    const ours = await bought('1');
    const row = (await due(salmah)).find(({ number }) => number === ours.number)!;
    const text = await textOf(salmah, here, row.id);
    const refusals = async (who: Visitor, changed: string) =>
      (await who.refused('bringInExchange', fileOf(changed))).codes;
    expect(await refusals(salmah, text)).toEqual(['file: file-of-nobody', 'file: file-for-another']);
    expect(await refusals(chandra, text.replaceAll('>HBW<', '>XYZ<'))).toEqual(['file: file-of-nobody']);
    expect(await refusals(chandra, text.replaceAll('>LGW<', '>MBF<'))).toEqual(['file: file-for-another']);
    expect(await refusals(chandra, text.replaceAll('Order>', 'Catalogue>').replace('<Order ', '<Catalogue '))).toEqual([
      'file: not-exchanged',
    ]);
    expect(await refusals(chandra, text.replace(/<cbc:IssueDate>.*<\/cbc:IssueDate>/, ''))).toEqual(['file: not-ubl']);
    expect(await refusals(chandra, text.replace('unitCode="EA">1<', 'unitCode="EA">-1<'))).toEqual([
      'lines.1: file-line-quantity',
    ]);
    expect(await refusals(chandra, 'no file')).toEqual(['file: file-unreadable']);
    // Who may not see what is owed sees no invoice in a file either.
    const invoiced = (await chandra.get<{ rows: Due[] }>('/api/exchange/due?show=sent')).rows.find(
      ({ kind }) => kind === 'invoice',
    )!;
    await there.serving.database.run(
      "UPDATE role SET rights = REPLACE(rights, 'see-debts', 'see-mail') WHERE name = 'Order administrator'",
    );
    there.serving.sessions.forget();
    const file = (id: number) =>
      fetch(`${there.serving.address}/api/exchange/${id}/ubl`, { headers: { cookie: chandra.cookie } });
    expect((await file(invoiced.id)).status).toBe(403);
    expect((await tray(chandra)).filter(({ number }) => number === ours.number)).toEqual([]);
    // Two bringing it in at once: one row.
    await Promise.all([1, 2].map(() => chandra.does('bringInExchange', fileOf(text))));
    expect((await tray(chandra)).filter(({ number }) => number === ours.number)).toHaveLength(1);
  });

  it('keeps companies elsewhere by a code of their own', async () => {
    const typed = { id: null, code: 'LGW', name: 'Another', currency: 'MYR', email: '' };
    expect((await salmah.refused('keepElsewhere', typed)).codes).toEqual(['code: company-code-taken']);
    await salmah.does('keepElsewhere', { ...typed, id: lgw, name: 'Lembah Gading Water Sdn', currency: 'SGD' });
    const { rows } = await salmah.get<{ rows: { sister: { name: string; elsewhere: boolean }; email: string }[] }>(
      '/api/sisters',
    );
    expect(rows.find(({ sister }) => sister.elsewhere)).toMatchObject({
      sister: { name: 'Lembah Gading Water Sdn' },
      email: '',
    });
    // A company of this installation is kept by nobody this way.
    expect((await salmah.raw('keepElsewhere', { ...typed, id: sisters.mbf, code: 'MBX' })).status).toBe(404);
  });
});
