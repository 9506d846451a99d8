import { into } from '../db';
import { randomUUID } from 'node:crypto';
import { keepList } from '@api/lists';
import { fixedTerm, PLAIN_HEAD } from '../sample/terms';
import { agreed, placed, releaseOf, World, WORK_DATE, type Visitor } from '../testing/world';
import { defineAct, GroundMoved } from './act';
import { previewAct, runAct } from './run-act';
import { locationTable } from '../catalogue/tables';

describe('acts', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  it('A5 two people releasing the last units at once: one succeeds, the other is told what is left', async () => {
    const agreement = await agreed(world, salmah, {}, '10');
    const rashid = await world.visitor('rashid');
    const answers = await Promise.all([
      salmah.raw('releaseAgreement', releaseOf(world, agreement, '7')),
      rashid.raw('releaseAgreement', releaseOf(world, agreement, '7')),
    ]);
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 422]);
    const refused = answers.find((answer) => answer.status === 422)!.body as {
      refusals: { facts: { left: string }; sentence: string }[];
    };
    expect(refused.refusals[0]!.facts.left).toBe('3');
    expect(refused.refusals[0]!.sentence).toContain('ask 3 or less');
  });

  it('P2 the same act sent twice with one key happens once and answers the same', async () => {
    const agreement = await agreed(world, salmah);
    const key = randomUUID();
    const input = releaseOf(world, agreement, '5');
    const together = await Promise.all([1, 2, 3].map(() => salmah.raw('releaseAgreement', input, key)));
    const later = await salmah.raw('releaseAgreement', input, key);
    for (const answer of [...together, later]) expect(answer).toEqual(together[0]);
    const sheet = await salmah.get<{ values: { released: string } }>(`/api/agreements/${agreement.id}`);
    expect(sheet.values.released).toBe('3700');
  });

  it('P2 an act that can no longer be done still answers its own key as the first time', async () => {
    const ids = await placed(world, salmah, await agreed(world, salmah), '4');
    const key = randomUUID();
    const input = { purchaseId: ids.purchaseId, lines: [{ lineId: ids.purchaseLineId, quantity: '4' }] };
    const first = await salmah.does('receiveGoods', input, key);
    expect(await salmah.does('receiveGoods', input, key)).toEqual(first);
    expect((await salmah.refused('receiveGoods', input)).codes).toEqual(['lines.0.quantity: above-open']);
  });

  it('P2 a key of any table that is there already is not taken for the act having been done before', async () => {
    const { database } = world.serving;
    const { companyId, personId } = await world.doer('salmah');
    const doer = { companyId, personId, rights: ['lists' as const], workDate: WORK_DATE, origin: 'test' };
    const actWith = (ids: number[]) =>
      defineAct(keepList, {
        right: 'lists',
        says: 'make a location',
        done: 'made',
        load: () => Promise.resolve(null),
        decide: () => ({ ok: true, effects: ids.shift()!, warnings: [] }),
        preview: () => ({ added: 1, changed: 0, removed: 0 }),
        write: (_, id) =>
          Promise.resolve({
            made: [],
            touched: [],
            statements: [],
            insertions: [into(locationTable, [{ companyId, id, code: `L${id}`, name: `Place ${id}` }])],
          }),
      });
    const input = { list: 'locations', changes: [], removed: [] };
    const does = (ids: number[]) => runAct(database, actWith(ids).asked(input), doer, randomUUID());
    expect(await does([77])).toMatchObject({ ok: true });
    // Begun again, it finds another number; where it never does, that is what is said.
    expect(await does([77, 78])).toMatchObject({ ok: true });
    await expect(does([78, 78, 78])).rejects.toMatchObject({ errno: 1062 });
    await database.run('DELETE FROM location WHERE company_id = ? AND id IN (77, 78)', [companyId]);
  });

  it('what is prepared before is prepared again where the ground moved, a few times, and then it is said', async () => {
    const { database } = world.serving;
    const { companyId, personId } = await world.doer('salmah');
    const doer = { companyId, personId, rights: ['lists' as const], workDate: WORK_DATE, origin: 'test' };
    // The ground as it was prepared on, and as it is when it is loaded; each preparation sees what is there by then.
    const actOn = (grounds: number[]) => {
      const told = { prepared: 0, written: 0 };
      const act = defineAct(keepList, {
        right: 'lists',
        says: 'rely on a ground',
        done: 'relied',
        prepare: () => Promise.resolve(((told.prepared += 1), grounds[0]!)),
        load: (_sql, _input, _doer, prepared) => {
          const now = grounds.length > 1 ? grounds.splice(0, 1)[0]! : grounds[0]!;
          const moved = now !== grounds[0];
          return moved ? Promise.reject(new GroundMoved()) : Promise.resolve(prepared);
        },
        decide: (ground) => ({ ok: true, effects: ground, warnings: [] }),
        preview: (effects) => ({ added: effects, changed: 0, removed: 0 }),
        write: () => Promise.resolve((told.written += 1)).then(() => ({ made: [], touched: [] })),
      });
      return { told, asked: act.asked({ list: 'locations', changes: [], removed: [] }) };
    };
    const still = actOn([7]);
    expect(await runAct(database, still.asked, doer, randomUUID())).toMatchObject({ ok: true });
    expect(still.told).toEqual({ prepared: 1, written: 1 });
    const moving = actOn([7, 8, 9]);
    expect(await runAct(database, moving.asked, doer, randomUUID())).toMatchObject({ ok: true });
    expect(moving.told).toEqual({ prepared: 3, written: 1 });
    const shown = actOn([7, 8]);
    expect(await previewAct(database, shown.asked, doer)).toMatchObject({ effects: { added: 8 } });
    expect(shown.told).toEqual({ prepared: 2, written: 0 });
    const restless = actOn([1, 2, 3, 4, 5, 6, 7]);
    const busy = { refusals: [{ code: 'busy' }] };
    expect(await runAct(database, restless.asked, doer, randomUUID())).toMatchObject({ ok: false, ...busy });
    expect(restless.told).toEqual({ prepared: 4, written: 0 });
    expect(await previewAct(database, actOn([1, 2, 3, 4, 5, 6, 7]).asked, doer)).toMatchObject(busy);
  });

  it('refuses a key with other content, and a post without a key', async () => {
    const agreement = await agreed(world, salmah);
    const key = randomUUID();
    await salmah.does('releaseAgreement', releaseOf(world, agreement, '1'), key);
    const other = await salmah.refused('releaseAgreement', releaseOf(world, agreement, '2'), key);
    expect(other.codes).toEqual(['key-reused']);
    expect((await salmah.post('/api/acts/releaseAgreement', releaseOf(world, agreement, '1'))).status).toBe(400);
  });

  it('G2 refuses an old version and says who changed it', async () => {
    const [agreement] = await salmah.does('saveAgreement', termsOf(world, null, null, 'First'));
    const rashid = await world.visitor('rashid');
    await rashid.does('saveAgreement', termsOf(world, agreement!.id, 1, 'By Rashid'));
    const stale = await salmah.refused('saveAgreement', termsOf(world, agreement!.id, 1, 'By Salmah'));
    expect(stale).toMatchObject({ status: 409, codes: ['stale'] });
    expect(stale.sentences[0]).toContain('changed by Rashid');
    const sheet = await salmah.get<{ title: string; version: number }>(`/api/agreements/${agreement!.id}`);
    expect(sheet).toMatchObject({ title: 'By Rashid', version: 2 });
  });

  it('a preview is the act itself without its write', async () => {
    const agreement = await agreed(world, salmah);
    const preview = async (quantity: string) =>
      (await salmah.post('/api/acts/releaseAgreement/preview', releaseOf(world, agreement, quantity))).body as {
        refusals: { code: string }[];
        effects: { net: string; left: { left: string }[] } | null;
      };
    expect((await preview('12')).effects).toMatchObject({ net: '8880', left: [{ left: '88' }] });
    // What is refused is shown as well, as far as it can be told.
    const above = await preview('101');
    expect(above.refusals[0]!.code).toBe('above-limit');
    expect(above.effects).toMatchObject({ net: '74740', left: [{ left: '-1' }] });
    const sheet = await salmah.get<{ values: { released: string } }>(`/api/agreements/${agreement.id}`);
    expect(sheet.values.released).toBe('0');
  });

  it('a role without the right is refused, and a document of another company is not there', async () => {
    const joko = await world.visitor('joko');
    const agreement = await agreed(world, salmah);
    expect((await joko.refused('releaseAgreement', releaseOf(world, agreement, '1'))).status).toBe(403);
    const sister = await world.visitor('rashid');
    await sister.post('/api/company', { companyId: world.masters.sisterId });
    expect((await sister.refused('releaseAgreement', releaseOf(world, agreement, '1'))).codes).toEqual(['not-found']);
    const seen = await sister.get<{ status: number }>(`/api/agreements/${agreement.id}`);
    expect(seen.status).toBe(404);
  });

  it('P1 G1 postings and the audit log cannot be changed or deleted, whoever is connected', async () => {
    const ids = await placed(world, salmah, await agreed(world, salmah), '1');
    await salmah.does('shipLines', { orderId: ids.orderId, lines: [{ lineId: ids.orderLineId, quantity: '1' }] });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId: ids.orderId });
    await salmah.does('enterVendorInvoice', {
      purchaseId: ids.purchaseId,
      vendorNumber: 'INV-ONCE',
      invoiceDate: '2027-03-01',
      lines: [{ purchaseLineId: ids.purchaseLineId, quantity: '1', unitPrice: '620' }],
    });
    const { openItemId } = await salmah.get<{ openItemId: number }>(`/api/customer-invoices/${invoice!.id}`);
    await salmah.does('recordPayment', { openItemId, amount: '1', paidOn: '2027-03-01' });
    const tables = [
      'receipt',
      'receipt_line',
      'shipment',
      'shipment_line',
      'stock_entry',
      'customer_invoice',
      'customer_invoice_line',
      'vendor_invoice',
      'vendor_invoice_line',
      'invoice_tax',
      'payment',
      'journal',
      'journal_entry',
      'audit',
      'audit_document',
    ];
    for (const table of tables) {
      const [row] = await world.serving.database.rows<{ count: number }>(`SELECT COUNT(*) AS count FROM ${table}`);
      expect(row!.count).toBeGreaterThan(0);
      await expect(world.serving.database.run(`UPDATE ${table} SET company_id = company_id`)).rejects.toThrow(
        'written once',
      );
      await expect(world.serving.database.run(`DELETE FROM ${table}`)).rejects.toThrow('written once');
    }
  });

  it('G4 refuses bad input of any kind and writes nothing', async () => {
    const before = await world.serving.database.rows<{ count: number }>('SELECT COUNT(*) AS count FROM audit');
    for (const input of [
      null,
      7,
      [],
      {},
      { agreementId: 'x' },
      { agreementId: 1, lines: 'many' },
      { ...releaseOf(world, { id: 1, lineId: 1 }, '9'.repeat(60)) },
    ]) {
      const answer = await salmah.raw('releaseAgreement', input);
      expect(answer.status).toBe(400);
      expect(JSON.stringify(answer.body)).not.toMatch(/zod|stack|sql/i);
    }
    expect(await world.serving.database.rows('SELECT COUNT(*) AS count FROM audit')).toEqual(before);
  });
});

function termsOf(world: World, id: number | null, version: number | null, title: string) {
  return {
    ...PLAIN_HEAD,
    id,
    version,
    customerId: world.masters.customers.get('Kasturi Bottling')!.id,
    title,
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    limitPolicy: 'warn' as const,
    tolerancePercent: '5',
    lines: [fixedTerm(world.item('VA-50A'), '30', '1090')],
  };
}
