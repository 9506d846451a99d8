import { cp, mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection, type Connection } from 'mysql2/promise';
import { MIGRATIONS } from '.';
import { migrate } from './migrate';

/** What a database held before a migration changed how it is held. */
describe('what is carried over', () => {
  let admin: Connection;
  let older: string;
  const name = `t_${process.pid}_carried`;
  const url = new URL(process.env['TEST_DATABASE_URL'] ?? '');
  url.pathname = `/${name}`;

  beforeAll(async () => {
    admin = await createConnection({ uri: process.env['TEST_DATABASE_URL']!, multipleStatements: true });
    older = await mkdtemp(join(tmpdir(), 'kampong-older-'));
    await admin.query(`DROP DATABASE IF EXISTS ${name}; CREATE DATABASE ${name}; USE ${name}`);
  });
  afterAll(async () => {
    await admin.query(`DROP DATABASE ${name}`);
    await admin.end();
    await rm(older, { recursive: true });
  });

  it('minutes of a day become hours of machines, none of them lost, and none on one machine at once (T5)', async () => {
    for (const file of await readdir(MIGRATIONS)) {
      if (file < '0048') await cp(join(MIGRATIONS, file), join(older, file));
    }
    await migrate(url.href, older);
    await admin.query(`SET FOREIGN_KEY_CHECKS = 0;
      INSERT INTO work_centre (company_id, id, code, name, machines, shift_minutes, calendar_id) VALUES
        (1, 1, 'WELD', 'Welding', 2, 480, 1), (1, 2, 'OVEN', 'Oven', 1, 1200, 1), (1, 3, 'STILL', 'Still', 1, 0, 1);
      INSERT INTO planned_operation (company_id, id, planned_order_id, no, name, work_centre_id, minutes, first_day, last_day)
        SELECT 1, seq, 1, seq, 'work', 1, 1, '2027-03-01', '2027-03-01' FROM seq_1_to_5;
      INSERT INTO centre_load (company_id, work_centre_id, day, planned_operation_id, minutes) VALUES
        (1, 1, '2027-03-01', 1, 300), (1, 1, '2027-03-01', 2, 500), (1, 1, '2027-03-01', 3, 200),
        (1, 1, '2027-03-02', 2, 960), (1, 2, '2027-03-01', 4, 1200), (1, 3, '2027-03-01', 5, 60);
      SET FOREIGN_KEY_CHECKS = 1`);
    const read = async (sql: string) => {
      const [rows] = await admin.query(sql);
      return (rows as object[]).map((row) => Object.values(row) as unknown[]);
    };
    const before = await read(
      'SELECT planned_operation_id, CAST(SUM(minutes) AS SIGNED) FROM centre_load GROUP BY 1 ORDER BY 1',
    );
    expect(await migrate(url.href, MIGRATIONS)).toContain('0048_work_to_the_minute.sql');
    expect(await read('SELECT code, hours FROM work_centre ORDER BY id')).toEqual([
      ['WELD', '08:00-16:00'],
      ['OVEN', '04:00-24:00'],
      ['STILL', ''],
    ]);
    expect(
      await read('SELECT planned_operation_id, CAST(SUM(minutes) AS SIGNED) FROM centre_hold GROUP BY 1 ORDER BY 1'),
    ).toEqual(before);
    expect(
      await read(
        `SELECT planned_operation_id, CAST(day AS CHAR), from_minute, until_minute, machines FROM centre_hold
          WHERE work_centre_id < 3 ORDER BY 2, 1, 3`,
      ),
    ).toEqual([
      // The first 300 and 180 of the second on one machine, its other 320 and 160 on the second; 40 stand beside them.
      [1, '2027-03-01', 480, 780, 1],
      [2, '2027-03-01', 480, 800, 1],
      [2, '2027-03-01', 780, 960, 1],
      [3, '2027-03-01', 480, 520, 1],
      [3, '2027-03-01', 800, 960, 1],
      [4, '2027-03-01', 240, 1440, 1],
      [2, '2027-03-02', 480, 960, 2],
    ]);
  });
});
