import { createConnection } from 'mysql2/promise';
import { agreed, placed, World } from '../testing/world';
import { seal } from './seal';

describe('U6 seals', () => {
  let world: World;
  let at = new Date();
  const clock = { now: () => at };
  beforeAll(async () => {
    world = await World.make();
  });
  afterAll(() => world.end());

  const sealLater = () => {
    at = new Date(Date.now() + 60_000);
    return seal(world.serving.database, clock);
  };
  /** Changes what is written once, as one could who owns the database. */
  const tamper = async (table: string, statement: string) => {
    const owner = await createConnection(world.url);
    const [triggers] = await owner.query<never[]>('SHOW TRIGGERS LIKE ?', [table]);
    const made: string[] = [];
    for (const { Trigger: name } of triggers as { Trigger: string }[]) {
      const [[shown]] = (await owner.query(`SHOW CREATE TRIGGER ${name}`)) as unknown as [[Record<string, string>]];
      made.push(shown['SQL Original Statement']!);
      await owner.query(`DROP TRIGGER ${name}`);
    }
    await owner.query(statement);
    for (const text of made) await owner.query(text);
    await owner.end();
  };

  it('hold what was written and has settled, once, however many seal at once', async () => {
    const salmah = await world.visitor();
    const ids = await placed(world, salmah, await agreed(world, salmah), '6');
    await salmah.does('receiveGoods', {
      purchaseId: ids.purchaseId,
      lines: [{ lineId: ids.purchaseLineId, quantity: '6' }],
    });
    at = new Date();
    await seal(world.serving.database, clock);
    const count = async () =>
      (
        await world.serving.database.rows<{ rows: string }>(
          "SELECT SUM(row_count) AS `rows` FROM seal WHERE kind = 'audit'",
        )
      )[0]!.rows;
    // What is young may still be joined by one of a smaller number.
    expect(Number(await count())).toBe(0);
    await Promise.all([sealLater(), sealLater(), sealLater()]);
    const [there] = await world.serving.database.rows<{ count: number }>('SELECT COUNT(*) AS count FROM audit');
    expect(Number(await count())).toBe(there!.count);
    expect(await world.verify()).toEqual([]);
    expect(await sealLater()).toBe(0);
    await salmah.does('invoiceCustomer', { orderId: ids.orderId });
    expect(await sealLater()).toBeGreaterThanOrEqual(2);
    expect(await world.verify()).toEqual([]);
  });

  it.each([
    ['audit', 'UPDATE audit SET person_id = person_id + 1 ORDER BY id LIMIT 1'],
    ['access_log', "UPDATE access_log SET origin = '203.0.113.9' ORDER BY id LIMIT 1"],
    ['stock_entry', 'UPDATE stock_entry SET cost = cost + 1 ORDER BY id DESC LIMIT 1'],
  ])('tell a row of %s that was changed by who owns the database', async (table, statement) => {
    await sealLater();
    await tamper(table, statement);
    const kind = { audit: 'audit', access_log: 'access', stock_entry: 'stock' }[table]!;
    expect(await world.verify()).toEqual(
      expect.arrayContaining([expect.stringMatching(`seal of ${kind}: rows 1 to \\d+ are not what was sealed`)]),
    );
  });

  it('tell entries of a journal that were changed in balance', async () => {
    await tamper('journal_entry', 'UPDATE journal_entry SET amount = amount * 2 WHERE journal_id = 1');
    expect((await world.verify()).filter((each) => each.includes('seal of journal'))).toHaveLength(1);
    expect((await world.verify()).filter((each) => each.includes('balance'))).toEqual([]);
  });

  it('tell a row that was taken out', async () => {
    const other = await World.make();
    const salmah = await other.visitor();
    await agreed(other, salmah);
    at = new Date(Date.now() + 60_000);
    await seal(other.serving.database, clock);
    expect(await other.verify()).toEqual([]);
    const owner = await createConnection(other.url);
    await owner.query('DROP TRIGGER audit_no_delete');
    await owner.query('DROP TRIGGER audit_document_no_delete');
    await owner.query('DELETE FROM audit_document');
    await owner.query('DELETE FROM audit ORDER BY id DESC LIMIT 1');
    await owner.end();
    expect((await other.verify()).filter((each) => each.startsWith('seal of audit'))).toHaveLength(1);
    await other.end();
  });
});
