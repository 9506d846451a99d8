import type * as z from 'zod';
import type { OfferRow, reconcileSister } from '@api/sisters';
import type { openOrder } from '@api/orders';
import type { openPurchase } from '@api/purchasing';
import { chanceOf, dec, sum, type Chance } from '@core/kernel';
import type { Sisters } from '../sample/sisters';
import { sistersWorld } from '../testing/sisters-world';
import type { Visitor, World } from '../testing/world';

type Row = z.output<typeof OfferRow>;
type Order = z.output<typeof openOrder.out>;
type Purchase = z.output<typeof openPurchase.out>;
type Step = () => Promise<unknown>;

/** Acts at both ends, in any order, some sent twice at once: what is refused is refused, and everything is there once. */
describe('X any sequence of what sisters do', () => {
  let world: World;
  let sisters: Sisters;
  let salmah: Visitor;
  let chandra: Visitor;

  beforeAll(async () => {
    ({ world, sisters, salmah, chandra } = await sistersWorld());
  });
  afterAll(() => world.end());

  const day = (chance: Chance) => `2027-0${chance.whole(3, 5)}-${chance.whole(10, 28)}`;
  /** Sent once, or twice at once under two keys: at most one of both happens. */
  async function maybeTwice(chance: Chance, who: Visitor, act: string, input: unknown): Promise<number> {
    const times = chance.next() < 0.3 ? 2 : 1;
    const answers = await Promise.all(Array.from({ length: times }, () => who.raw(act, input)));
    for (const { status, body } of answers) {
      if (status >= 500) throw new Error(`${act}: ${JSON.stringify(body)}`);
    }
    return answers.filter(({ status }) => status === 200).length;
  }
  const tray = async (who: Visitor) => (await who.get<{ rows: Row[] }>('/api/tray?rows=200')).rows;
  const documents = async (who: Visitor, of: 'orders' | 'purchases', state: string) =>
    (await who.get<{ rows: { id: number }[] }>(`/api/${of}?state=${state}&rows=50`)).rows;

  function steps(chance: Chance): Step[] {
    const pick = <T>(of: readonly T[]): T | undefined => of[chance.whole(0, Math.max(0, of.length - 1))];
    const item = () => world.item('FV-900');
    const buy = (shipToId: number | null) =>
      maybeTwice(chance, salmah, 'enterPurchase', {
        vendorId: sisters.vendorId,
        shipToId,
        lines: [{ itemId: item(), quantity: String(chance.whole(1, 4)), dueDate: day(chance) }],
      });
    const offerTo = async (who: Visitor) => pick(await tray(who));
    const take = async (who: Visitor) => {
      const row = await offerTo(who);
      if (!row) return;
      const { items } = await who.get<{ items: { id: number; quantity: string }[] }>(`/api/tray/${row.id}`);
      const otherwise = chance.next() < 0.3 && !row.changed && !row.gone && row.kind !== 'invoice';
      const done = await maybeTwice(chance, who, 'takeOffer', {
        id: row.id,
        kind: row.kind,
        revision: row.revision,
        draft: chance.next() < 0.1,
        invoices: chance.next() < 0.5,
        lines: otherwise ? [{ lineId: items[0]!.id, quantity: String(chance.whole(1, 4)) }] : [],
      });
      expect(done).toBeLessThan(2);
    };
    const herOrder = async () => {
      const row = pick(await documents(chandra, 'orders', 'confirmed'));
      return row ? chandra.get<Order>(`/api/orders/${row.id}`) : null;
    };
    return [
      () => buy(null),
      () => buy(world.masters.customers.get('Kasturi Bottling')!.shipTos[0]!),
      async () => {
        const line = {
          id: null,
          itemId: sisters.items.get('FV-900')!,
          quantity: '2',
          shipDate: day(chance),
          route: 'stock',
        };
        const { customerId, shipToId } = sisters;
        const head = { id: null, version: null, customerId, shipToId, customerReference: '' };
        const [draft] = await chandra.does('saveOrder', { ...head, lines: [line] });
        await chandra.raw('confirmOrder', { id: draft!.id, version: 1 });
      },
      () => take(chandra),
      () => take(chandra),
      () => take(salmah),
      () => take(salmah),
      async () => {
        const who = chance.next() < 0.5 ? salmah : chandra;
        const row = await offerTo(who);
        if (!row) return;
        const { id, kind, revision } = row;
        if (chance.next() < 0.4) await who.raw('returnOffer', { id, kind, revision, reason: 'not now' });
        else await who.raw('setAsideOffer', { id, kind, revision, reason: '', untilDay: '2027-03-09' });
      },
      async () => {
        const who = chance.next() < 0.5 ? salmah : chandra;
        const row = (await tray(who)).find(({ sameAs }) => sameAs !== null);
        if (!row) return;
        await maybeTwice(chance, who, 'sameAsOffer', {
          id: row.id,
          kind: row.kind,
          revision: row.revision,
          documentId: row.sameAs!.id,
        });
      },
      async () => {
        const row = pick(await documents(salmah, 'purchases', 'placed'));
        if (!row) return;
        const purchase = await salmah.get<Purchase>(`/api/purchases/${row.id}`);
        if (chance.next() < 0.25) {
          const input = { purchaseId: row.id, version: purchase.version, reason: 'no need' };
          return maybeTwice(chance, salmah, 'cancelPurchase', input);
        }
        const [line] = purchase.lines;
        return maybeTwice(chance, salmah, 'changePurchase', {
          purchaseId: row.id,
          version: purchase.version,
          reason: 'they rang',
          lines: [
            { id: line!.id, itemId: item(), quantity: String(chance.whole(1, 5)), price: '', dueDate: day(chance) },
          ],
        });
      },
      async () => {
        const order = await herOrder();
        if (!order) return;
        const input = { id: order.id, version: order.version, reason: 'the lining takes longer' };
        if (chance.next() < 0.2) return maybeTwice(chance, chandra, 'cancelOrder', input);
        return maybeTwice(chance, chandra, 'changeOrder', {
          ...input,
          shipToId: order.shipTo?.id ?? null,
          customerReference: order.customerReference,
          lines: order.lines.map((line) => ({
            id: line.id,
            itemId: line.item.id,
            quantity: line.quantity,
            shipDate: day(chance),
            route: line.route,
            agreementLineId: null,
          })),
        });
      },
      async () => {
        const order = await herOrder();
        const line = order?.lines[0];
        if (!order || !line) return;
        const quantity = String(chance.whole(1, 2));
        return maybeTwice(chance, chandra, 'shipLines', { orderId: order.id, lines: [{ lineId: line.id, quantity }] });
      },
      async () => {
        const order = await herOrder();
        if (order) await maybeTwice(chance, chandra, 'invoiceCustomer', { orderId: order.id });
      },
      async () => {
        const order = await herOrder();
        const shipment = order && pick(order.documents.filter(({ document }) => document.kind === 'SH'));
        if (!shipment) return;
        const input = { kind: 'SH', id: shipment.document.id, reason: 'came back' };
        return maybeTwice(chance, chandra, 'reverseMovement', input);
      },
    ];
  }

  it.each([3, 4, 5])('keeps each thing once, both books in balance, seed %i', async (seed) => {
    const chance = chanceOf(seed);
    const all = steps(chance);
    for (let at = 0; at < 70; at += 1) {
      await all[chance.whole(0, all.length - 1)]!();
      if (at % 10 === 9) expect(await world.verify()).toEqual([]);
    }
    expect(await world.verify()).toEqual([]);
    // What they say they are owed and we say we owe differs by what the rows name.
    const { bought } = await salmah.get<z.output<typeof reconcileSister.out>>(
      `/api/sisters/${sisters.mbf}/reconciliation`,
    );
    const named = sum(
      bought.rows
        .filter(({ why }) => why !== 'same')
        .map(({ theySay, weSay }) => dec(theySay ?? '0').minus(weSay ?? '0')),
    );
    expect(named.toFixed()).toBe(dec(bought.totals[0]?.difference ?? '0').toFixed());
    // No source was offered twice, and no line is one with two of ours.
    const { database } = world.serving;
    expect(
      await database.rows(
        'SELECT from_id, kind, source_id FROM offer GROUP BY from_id, kind, source_id HAVING COUNT(*) > 1',
      ),
    ).toEqual([]);
    // What came of joined purchases is never more than what she shipped.
    expect(
      await database.rows(
        `SELECT p.id, p.received, SUM(s.shipped * x.factor) AS shipped FROM sister_line x
           JOIN purchase_order_line p ON p.company_id = x.buyer_id AND p.id = x.purchase_line_id
           JOIN sales_order_line s ON s.company_id = x.seller_id AND s.id = x.sales_line_id
          GROUP BY p.company_id, p.id HAVING p.received > SUM(s.shipped * x.factor)
            AND NOT EXISTS (SELECT 1 FROM offer f WHERE f.kind = 'receipt' AND f.gone <> f.taken_gone)`,
      ),
    ).toEqual([]);
  });
});
