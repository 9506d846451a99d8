import { ROOMS } from '../rooms';
import type { Sisters } from '../sample/sisters';
import { wholeThread } from '../testing/whole-thread';
import { sistersWorld } from '../testing/sisters-world';
import { agreed, type Visitor, type World } from '../testing/world';
import { DOCUMENT_KINDS } from '@core/kernel';

/** Companies share the installation and nothing else: whoever works in one is told nothing of another. // X1 */
describe('X1 sister companies are apart', () => {
  let world: World;
  let sisters: Sisters;
  let salmah: Visitor;
  let chandra: Visitor;
  /** What only our documents tell of. */
  const OURS = /Teratai|Arus Membrane|RO-4040|Puan Rohani/;
  const ids = new Map<string, number[]>();

  beforeAll(async () => {
    ({ world, sisters, salmah, chandra } = await sistersWorld());
    await wholeThread(world, salmah, await agreed(world, salmah), '2', 'AR/5');
    const tables = await world.serving.database.rows<{ name: string }>(
      `SELECT a.TABLE_NAME AS name FROM information_schema.COLUMNS a JOIN information_schema.COLUMNS b
          ON b.TABLE_SCHEMA = a.TABLE_SCHEMA AND b.TABLE_NAME = a.TABLE_NAME AND b.COLUMN_NAME = 'id'
        WHERE a.TABLE_SCHEMA = DATABASE() AND a.COLUMN_NAME = 'company_id'`,
    );
    for (const { name } of tables) {
      const rows = await world.serving.database.rows<{ id: number }>(
        `SELECT id FROM ${name} WHERE company_id = ? ORDER BY id LIMIT 4`,
        [sisters.hbw],
      );
      ids.set(
        name,
        rows.map(({ id }) => id),
      );
    }
  });
  afterAll(() => world.end());

  const asked = async (who: Visitor, path: string) => {
    const answer = await fetch(`${world.serving.address}/api${path}`, { headers: { cookie: who.cookie } });
    return { status: answer.status, text: await answer.text() };
  };
  /** Every address of an endpoint with what is ours in it. */
  function paths(path: string): string[] {
    const some = [...new Set([...ids.values()].flat())].slice(0, 40);
    let found = [path];
    if (path.includes(':kind'))
      found = found.flatMap((each) => DOCUMENT_KINDS.map((kind) => each.replace(':kind', kind)));
    while (found.some((each) => /:\w+/.test(each))) {
      found = found.flatMap((each) =>
        /:\w+/.test(each) ? some.map((id) => each.replace(/:\w+/, String(id))) : [each],
      );
    }
    return found;
  }

  it('answers nobody of one company with what is another’s, by any endpoint, whatever id is asked for', async () => {
    const told: string[] = [];
    let answered = 0;
    let ours = 0;
    const reads = ROOMS.flatMap(({ answers = [], files = [] }) => [
      ...answers
        .filter(({ endpoint }) => endpoint.method === 'GET' && !endpoint.open)
        .map(({ endpoint }) => endpoint.path),
      ...files.filter(({ open }) => !open).map(({ path }) => path),
    ]).filter((path) => !path.includes('events'));
    for (const path of reads) {
      for (const one of paths(path)) {
        const { status, text } = await asked(chandra, one);
        if (status === 200) answered += 1;
        // Who may pair items is told how the sister calls hers, and nothing else of them.
        if (path === '/sisters/:id') expect(text).not.toMatch(/Teratai|Arus|Rohani|"(815|740|620)"/);
        else if (OURS.test(text)) told.push(`${one}: ${OURS.exec(text)![0]}`);
      }
      // The same asked by us does tell of it, somewhere: the test is not blind.
      if (!path.includes(':') && OURS.test((await asked(salmah, path)).text)) ours += 1;
    }
    expect(told).toEqual([]);
    expect(answered).toBeGreaterThan(30);
    expect(ours).toBeGreaterThan(5);
  });

  it('does nothing of one company’s for who works in another', async () => {
    const before = await world.verify();
    const act = async (name: string, input: object) => (await chandra.raw(name, input)).status;
    const [orderId] = ids.get('sales_order')!;
    const [purchaseId] = ids.get('purchase_order')!;
    const [agreementId] = ids.get('agreement')!;
    expect([
      await act('cancelOrder', { id: orderId, version: 2, reason: 'x' }),
      await act('shipLines', { orderId, lines: [] }),
      await act('cancelPurchase', { purchaseId, version: 1, reason: 'x' }),
      await act('receiveGoods', { purchaseId, lines: [] }),
      await act('invoiceCustomer', { orderId }),
      await act('endAgreement', { id: agreementId, version: 2 }),
    ]).toEqual(expect.not.arrayContaining([200]));
    expect(await world.verify()).toEqual(before);
  });
});
