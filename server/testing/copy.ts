import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';

/** Databases made by tests carry this before their name, so that whoever looks knows what they are. */
const PREFIX = 't_';

/**
 * A database of its own for a test, beside the one the tests were given: a copy of `template`, which is laid by `lay`
 * where nobody laid it before. Tables, rows and triggers are copied. Its address, and what `lay` said of it.
 */
export async function copyOfTemplate(
  template: string,
  lay: (url: string) => Promise<string>,
): Promise<{ url: string; said: string; drop(): Promise<void> }> {
  const base = process.env['TEST_DATABASE_URL'];
  if (!base) throw new Error('TEST_DATABASE_URL is missing; run the tests with npm test.');
  const at = (name: string) => {
    const url = new URL(base);
    url.pathname = `/${name}`;
    return url.href;
  };
  const admin = await createConnection({ uri: base, multipleStatements: true });
  try {
    const from = `${PREFIX}${template}`;
    // Whoever comes first lays it; the others wait for it to be whole.
    await admin.query('SELECT GET_LOCK(?, 300)', [from]);
    const [there] = await admin.query<RowDataPacket[]>('SHOW DATABASES LIKE ?', [`${from}_laid`]);
    if (there.length === 0) {
      await admin.query(`DROP DATABASE IF EXISTS ${from}; CREATE DATABASE ${from}`);
      const said = await lay(at(from));
      await admin.query(`CREATE DATABASE ${from}_laid; CREATE TABLE ${from}_laid.template (said LONGTEXT NOT NULL)`);
      await admin.query(`INSERT INTO ${from}_laid.template VALUES (?)`, [said]);
    }
    await admin.query('SELECT RELEASE_LOCK(?)', [from]);
    const [[row]] = await admin.query<RowDataPacket[]>(`SELECT said FROM ${from}_laid.template`);
    const to = `${PREFIX}${process.pid}_${process.hrtime.bigint()}`;
    await copy(admin, from, to);
    return { url: at(to), said: String(row!['said']), drop: () => drop(base, to) };
  } finally {
    await admin.end();
  }
}

async function drop(base: string, name: string): Promise<void> {
  const admin = await createConnection(base);
  await admin.query(`DROP DATABASE ${name}`);
  await admin.end();
}

async function copy(admin: Connection, from: string, to: string): Promise<void> {
  const [tables] = await admin.query<RowDataPacket[]>(`SHOW FULL TABLES FROM ${from} WHERE Table_type = 'BASE TABLE'`);
  const names = tables.map((row) => String(Object.values(row)[0]));
  const made = await Promise.all(
    names.map(async (name) => {
      const [[row]] = await admin.query<RowDataPacket[]>(`SHOW CREATE TABLE ${from}.${name}`);
      return String(row!['Create Table']);
    }),
  );
  const [columns] = await admin.query<RowDataPacket[]>(
    `SELECT table_name AS name, GROUP_CONCAT(CONCAT('\`', column_name, '\`')) AS columns FROM information_schema.columns
      WHERE table_schema = ? AND extra NOT LIKE '%GENERATED%' GROUP BY table_name`,
    [from],
  );
  const [triggers] = await admin.query<RowDataPacket[]>(`SHOW TRIGGERS FROM ${from}`);
  const rows = columns
    .filter(({ name }) => names.includes(String(name)))
    .map(({ name, columns: all }) => `INSERT INTO ${name} (${all}) SELECT ${all} FROM ${from}.${name}`);
  await admin.query(
    [
      `CREATE DATABASE ${to}`,
      `USE ${to}`,
      // What is numbered 0 stays 0.
      "SET foreign_key_checks = 0, sql_mode = 'NO_AUTO_VALUE_ON_ZERO'",
      ...made,
      ...rows,
      'SET foreign_key_checks = 1',
    ].join(';\n'),
  );
  for (const { Trigger: name, Event: event, Table: table, Timing: timing, Statement: statement } of triggers)
    await admin.query(`CREATE TRIGGER ${name} ${timing} ${event} ON ${table} FOR EACH ROW ${statement}`);
}
