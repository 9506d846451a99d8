import { servingUrl } from '../testing/process';
import { agreed, World } from '../testing/world';
import { connect, type Database } from '.';

describe('the user who serves', () => {
  let world: World;
  let served: Database;
  beforeAll(async () => {
    world = await World.make();
    served = connect(servingUrl(world.url), 1);
  });
  afterAll(async () => {
    await served.close();
    await world.end();
  });

  it.each([
    'TRUNCATE TABLE audit',
    'DROP TRIGGER audit_no_update',
    'DROP TABLE seal',
    'ALTER TABLE journal DROP COLUMN document_day',
    'CREATE TRIGGER audit_other BEFORE INSERT ON audit FOR EACH ROW SET NEW.act = 1',
    'CREATE TABLE audit_twin LIKE audit',
    'UPDATE audit SET origin = origin',
    'DELETE FROM access_log',
    "GRANT ALL ON *.* TO kampong_serving@'127.0.0.1'",
    'SET GLOBAL init_connect = "SET @x = 1"',
  ])('may not: %s', async (statement) => {
    const salmah = await world.visitor();
    await agreed(world, salmah);
    await expect(served.run(statement)).rejects.toThrow(/denied|written once/);
  });

  it('reads and writes rows, through the triggers of the owner', async () => {
    const period = 'SELECT closed_through FROM period WHERE company_id = ?';
    expect(await served.rows(period, [world.masters.companyId])).toEqual([{ closedThrough: null }]);
    expect(
      await served.run('UPDATE customer SET turn = turn + 1 WHERE company_id = ?', [world.masters.companyId]),
    ).toBeGreaterThan(1);
  });
});
