import { cp, mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';
import { MIGRATIONS } from '.';
import { migrate } from './migrate';

interface Column {
  name: string;
  type: string;
  kind: string;
  nullable: boolean;
  given: boolean;
}

/** Different ways to fill what may be empty: rules of a table ask for one of two columns, or for neither. */
const WAYS = 400;

/** A value a column takes: every id is 1, so that whatever names something names a row that is there. */
function valueOf({ name, type, kind }: Column, turn: number): string | number | Buffer {
  if (kind === 'enum') {
    const options = [...type.matchAll(/'([^']*)'/g)].map((match) => match[1]!);
    return options[turn % options.length]!;
  }
  if (kind === 'date') return /last|until|due|to_day|closed|expires/.test(name) ? '2027-12-31' : '2027-03-01';
  if (kind === 'datetime') return '2027-03-01 08:00:00';
  if (/binary|blob/.test(kind)) return Buffer.alloc(Number(/\d+/.exec(type)?.[0] ?? 1), 1);
  if (/char|text/.test(kind)) {
    if (name === 'currency') return 'MYR';
    if (/json|rights|lines|input|documents|effects|content|problems|answer|left_out|query|columns/.test(name))
      return '[]';
    return '1'.slice(0, Number(/\d+/.exec(type)?.[0] ?? 1));
  }
  // A total is its net and its tax, and nobody is a sister of themselves.
  if (name === 'tax' || name === 'own_tax') return 0;
  return ['sister_id', 'from_id', 'high_id'].includes(name) ? 2 : 1;
}

/** Every migration runs over rows that stand in every table there was before it: an upgrade from any release. // U7 */
describe('an upgrade', () => {
  let admin: Connection;
  let folder: string;
  const name = `t_${process.pid}_upgrade`;
  const url = new URL(process.env['TEST_DATABASE_URL'] ?? '');
  url.pathname = `/${name}`;

  beforeAll(async () => {
    admin = await createConnection({ uri: process.env['TEST_DATABASE_URL']!, multipleStatements: true });
    await admin.query(`DROP DATABASE IF EXISTS ${name}; CREATE DATABASE ${name}; USE ${name}`);
    folder = await mkdtemp(join(tmpdir(), 'kampong-upgrade-'));
  });
  afterAll(async () => {
    await admin.query(`DROP DATABASE ${name}`);
    await admin.end();
    await rm(folder, { recursive: true });
  });

  async function rows<R>(sql: string, values: unknown[] = []): Promise<R[]> {
    const [found] = await admin.query<RowDataPacket[]>(sql, values);
    return found as R[];
  }
  const tables = async () =>
    (
      await rows<{ name: string }>(
        "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = ? AND table_type = 'BASE TABLE' AND table_name <> 'migration'",
        [name],
      )
    ).map((each) => each.name);
  const counted = async (table: string) => (await rows<{ n: number }>(`SELECT COUNT(*) AS n FROM \`${table}\``))[0]!.n;

  /** Puts a row into a table, in the first way its rules allow; whether one was found. */
  async function fill(table: string): Promise<boolean> {
    const columns = await rows<Column>(
      `SELECT column_name AS name, column_type AS type, data_type AS kind, is_nullable = 'YES' AS nullable,
              column_default IS NOT NULL AND column_default <> 'NULL' AS given
         FROM information_schema.columns WHERE table_schema = ? AND table_name = ? AND generation_expression IS NULL ORDER BY ordinal_position`,
      [name, table],
    );
    const open = columns.filter(({ nullable }) => nullable);
    for (let way = 0; way < WAYS; way += 1) {
      const written = columns.filter((column) => {
        const at = open.indexOf(column);
        // The first way leaves out what may be; then one is said after the other, then pairs of them.
        if (at >= 0) return ((way >> 1) & (1 << (at % 8))) !== 0;
        return !column.given || column.kind === 'enum' || way % 2 === 1;
      });
      try {
        await admin.query(
          `INSERT INTO \`${table}\` (${written.map((column) => `\`${column.name}\``).join(', ')}) VALUES (${written.map(() => '?').join(', ')})`,
          written.map((column) => valueOf(column, way)),
        );
        return true;
      } catch {
        // Another way.
      }
    }
    return false;
  }

  it('finds rows in every table at every step, and loses none of them', async () => {
    const files = (await readdir(MIGRATIONS)).filter((file) => file.endsWith('.sql')).sort();
    const filled = new Set<string>();
    const empty = new Set<string>();
    const lost: string[] = [];
    for (const file of files) {
      await cp(join(MIGRATIONS, file), join(folder, file));
      expect(await migrate(url.href, folder)).toEqual([file]);
      await admin.query('SET FOREIGN_KEY_CHECKS = 0');
      const there = await tables();
      for (const table of [...filled]) {
        if (!there.includes(table)) filled.delete(table);
        else if ((await counted(table)) === 0) lost.push(`${table} by ${file}`);
      }
      for (const table of there) {
        if (filled.has(table)) continue;
        if ((await counted(table)) > 0 || (await fill(table))) {
          filled.add(table);
          empty.delete(table);
        } else empty.add(table);
      }
    }
    expect(lost).toEqual([]);
    expect([...empty]).toEqual([]);
    expect(filled.size).toBe((await tables()).length);
  }, 300_000);
});
