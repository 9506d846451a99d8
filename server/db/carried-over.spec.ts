import { cp, mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection, type Connection } from 'mysql2/promise';
import { MIGRATIONS } from '.';
import { migrate } from './migrate';

/** What a database held before a migration changed how it is held. */
describe('what is carried over', () => {
  let admin: Connection;
  const name = `t_${process.pid}_carried`;
  const url = new URL(process.env['TEST_DATABASE_URL'] ?? '');
  url.pathname = `/${name}`;

  beforeAll(async () => {
    admin = await createConnection({ uri: process.env['TEST_DATABASE_URL']!, multipleStatements: true });
  });
  beforeEach(() => admin.query(`DROP DATABASE IF EXISTS ${name}; CREATE DATABASE ${name}; USE ${name}`));
  afterAll(async () => {
    await admin.query(`DROP DATABASE ${name}`);
    await admin.end();
  });

  /** The database as it was before a numbered migration. */
  async function before(number: string): Promise<void> {
    const older = await mkdtemp(join(tmpdir(), 'kampong-older-'));
    for (const file of await readdir(MIGRATIONS)) {
      if (file < number) await cp(join(MIGRATIONS, file), join(older, file));
    }
    await migrate(url.href, older);
    await rm(older, { recursive: true });
  }
  const read = async (sql: string) => {
    const [rows] = await admin.query(sql);
    return (rows as object[]).map((row) => Object.values(row) as unknown[]);
  };

  it('minutes of a day become hours of machines, none of them lost, and none on one machine at once (T5)', async () => {
    await before('0048');
    await admin.query(`SET FOREIGN_KEY_CHECKS = 0;
      INSERT INTO work_centre (company_id, id, code, name, machines, shift_minutes, calendar_id) VALUES
        (1, 1, 'WELD', 'Welding', 2, 480, 1), (1, 2, 'OVEN', 'Oven', 1, 1200, 1), (1, 3, 'STILL', 'Still', 1, 0, 1);
      INSERT INTO planned_operation (company_id, id, planned_order_id, no, name, work_centre_id, minutes, first_day, last_day)
        SELECT 1, seq, 1, seq, 'work', 1, 1, '2027-03-01', '2027-03-01' FROM seq_1_to_5;
      INSERT INTO centre_load (company_id, work_centre_id, day, planned_operation_id, minutes) VALUES
        (1, 1, '2027-03-01', 1, 300), (1, 1, '2027-03-01', 2, 500), (1, 1, '2027-03-01', 3, 200),
        (1, 1, '2027-03-02', 2, 960), (1, 2, '2027-03-01', 4, 1200), (1, 3, '2027-03-01', 5, 60);
      SET FOREIGN_KEY_CHECKS = 1`);
    const minutes = await read(
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
    ).toEqual(minutes);
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

  it('what was posted in another currency was posted one for one, and stays so in both (P8)', async () => {
    await before('0053');
    await admin.query(`SET FOREIGN_KEY_CHECKS = 0;
      INSERT INTO company (id, code, name, currency, tint, demo) VALUES (1, 'HBW', 'Hulu Bening', 'MYR', '#0d5552', FALSE);
      INSERT INTO customer_invoice (company_id, id, number, customer_id, order_id, currency, invoice_date, due_date, net, tax, total)
        VALUES (1, 1, 'CI-0001', 1, 1, 'SGD', '2027-03-01', '2027-03-31', 100, 6, 106);
      INSERT INTO open_item (company_id, id, customer_id, customer_invoice_id, currency, due_date, amount, settled)
        VALUES (1, 1, 1, 1, 'SGD', '2027-03-31', 106, 40);
      INSERT INTO prepayment (company_id, id, number, customer_id, agreement_id, currency, taken_on, amount, drawn, returned)
        VALUES (1, 1, 'PP-0001', 1, 1, 'SGD', '2027-02-01', 90, 30, 10);
      INSERT INTO vendor_invoice_line (company_id, id, invoice_id, receipt_line_id, purchase_line_id, quantity, unit_price, net,
          received_cost, tax_code_id, tax_rate) VALUES (1, 1, 1, 1, 1, 2, 51, 102, 100, 1, 6);
      INSERT INTO journal_entry (company_id, journal_id, account_id, amount) VALUES (1, 1, 1, 106);
      SET FOREIGN_KEY_CHECKS = 1`);
    expect(await migrate(url.href, MIGRATIONS)).toContain('0053_currencies.sql');
    expect(await read('SELECT rate, own_net, own_tax FROM customer_invoice')).toEqual([
      ['1.00000000', '100.0000', '6.0000'],
    ]);
    expect(await read('SELECT own_amount, own_settled FROM open_item')).toEqual([['106.0000', '40.0000']]);
    expect(await read('SELECT rate, own_amount, own_used FROM prepayment')).toEqual([
      ['1.00000000', '90.0000', '40.0000'],
    ]);
    expect(await read('SELECT received_value, price_difference FROM vendor_invoice_line')).toEqual([
      ['100.0000', '2.0000'],
    ]);
    expect(await read('SELECT currency, foreign_amount FROM journal_entry')).toEqual([[null, null]]);
    expect(await read("SELECT company_id, code FROM account WHERE posting_role = 'exchange-difference'")).toEqual([
      [1, '5300'],
    ]);
  });
});
