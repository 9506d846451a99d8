import type * as z from 'zod';
import type { openSister, reconcileSister } from '@api/sisters';
import type { openOrder } from '@api/orders';
import type { Sisters } from '../sample/sisters';
import { sistersWorld } from '../testing/sisters-world';
import type { Visitor, World } from '../testing/world';

describe('X1 taxes of a pair', () => {
  let world: World;
  let sisters: Sisters;
  let salmah: Visitor;
  let chandra: Visitor;

  beforeAll(async () => {
    ({ world, sisters, salmah, chandra } = await sistersWorld());
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const waiting = async (who: Visitor) => {
    const { rows } = await who.get<{ rows: { id: number; kind: string; revision: number }[] }>('/api/tray');
    const { id, kind, revision } = rows[0]!;
    return { id, kind, revision, lines: [] };
  };
  const pair = () => salmah.get<z.output<typeof openSister.out>>(`/api/sisters/${sisters.mbf}`);

  it('holds an invoice whose tax is none of ours until somebody says which it is; then both owe the same', async () => {
    const { database } = world.serving;
    // At hers the rate has changed, and ours has a code for it.
    await database.run('UPDATE tax_code SET rate = 9 WHERE company_id = ?', [sisters.mbf]);
    await database.run("INSERT INTO tax_code (company_id, code, name, rate) VALUES (?, 'I9', 'Import 9 %', 9)", [
      sisters.hbw,
    ]);
    await salmah.does('enterPurchase', {
      vendorId: sisters.vendorId,
      shipToId: null,
      lines: [{ itemId: world.item('FV-900'), quantity: '2', dueDate: '2027-03-20' }],
    });
    const [sold] = await chandra.does('takeOffer', await waiting(chandra));
    const { lines } = await chandra.get<z.output<typeof openOrder.out>>(`/api/orders/${sold!.id}`);
    await chandra.does('shipLines', { orderId: sold!.id, lines: [{ lineId: lines[0]!.id, quantity: '2' }] });
    await salmah.does('takeOffer', await waiting(salmah));
    await chandra.does('invoiceCustomer', { orderId: sold!.id });
    const invoice = await waiting(salmah);
    expect(invoice.kind).toBe('invoice');
    const held = await salmah.refused('takeOffer', invoice);
    expect(held.codes).toEqual(['tax-unpaired']);
    expect(held.sentences[0]).toContain('is taxed S6 (9 %) by Muara Bening Fabrication');
    const { taxes, ourTaxes } = await pair();
    expect(taxes).toMatchObject([{ theirs: { code: 'S6', rate: '9' }, ours: null }]);
    const ours = ourTaxes.find(({ code }) => code === 'I9')!;
    const said = { theirTaxCodeId: taxes[0]!.theirs.id, taxCodeId: ours.id };
    await salmah.does('pairTaxes', { sisterId: sisters.mbf, taxes: [said] });
    expect((await pair()).taxes).toMatchObject([{ ours: { code: 'I9' } }]);
    await salmah.does('takeOffer', invoice);
    const books = await salmah.get<z.output<typeof reconcileSister.out>>(`/api/sisters/${sisters.mbf}/reconciliation`);
    expect(books.bought).toMatchObject({ rows: [{ why: 'same' }], totals: [{ difference: '0' }] });
    const unknown = { theirTaxCodeId: taxes[0]!.theirs.id, taxCodeId: taxes[0]!.theirs.id };
    expect((await salmah.refused('pairTaxes', { sisterId: sisters.mbf, taxes: [unknown] })).codes).toEqual([
      'taxes.0.taxCodeId: unknown',
    ]);
    await salmah.does('pairTaxes', { sisterId: sisters.mbf, taxes: [{ ...said, taxCodeId: null }] });
    expect((await pair()).taxes).toMatchObject([{ ours: null }]);
  });
});
