import { strToU8, zipSync, type Zippable } from 'fflate';
import { csvOf } from '../formats';
import type { Database } from '../db';
import type { FileAnswer } from '../room';

/** What is the machine's, or a secret: keys of acts, sessions, words of invitations and tokens. */
const LEFT_OUT = new Set([
  'act_key',
  'session',
  'invitation',
  'program_token',
  'bring_in_part',
  'list_turn',
  'promise_turn',
  'transaction_mark',
]);

interface Column {
  table: string;
  name: string;
  type: string;
  refers: string | null;
}

/**
 * All of a company's data as one archive: a CSV (RFC 4180) for each table, and a description of every column with what
 * it refers to. Read at one moment. O(all rows of the company), which it holds in memory. // U5
 */
export async function archiveOf(database: Database, companyId: number, workDate: string): Promise<Buffer> {
  const files: Zippable = {};
  await database.snapshot(async (sql) => {
    const columns = await sql.rows<Column>(
      `SELECT c.table_name AS \`table\`, c.column_name AS name, c.column_type AS type,
              (SELECT CONCAT(k.referenced_table_name, '.', k.referenced_column_name) FROM information_schema.key_column_usage k
                WHERE k.table_schema = c.table_schema AND k.table_name = c.table_name AND k.column_name = c.column_name
                  AND k.referenced_table_name IS NOT NULL AND k.referenced_column_name = 'id' LIMIT 1) AS refers
         FROM information_schema.columns c
        WHERE c.table_schema = DATABASE() AND c.table_name IN (
          SELECT d.table_name FROM information_schema.columns d WHERE d.table_schema = DATABASE() AND d.column_name = 'company_id')
        ORDER BY c.table_name, c.ordinal_position`,
      [],
    );
    const tables = [...new Set(columns.map(({ table }) => table))].filter((table) => !LEFT_OUT.has(table));
    const described = [];
    for (const table of ['company', ...tables]) {
      const own = table === 'company' ? [] : columns.filter((column) => column.table === table);
      const names = own.filter(({ type }) => !/binary|blob/.test(type)).map(({ name }) => name);
      const rows = await rowsOf(sql, table, table === 'company' ? 'id' : 'company_id', names, companyId);
      const heads = names.length > 0 ? names : Object.keys(rows[0] ?? {});
      files[`${table}.csv`] = new Uint8Array(
        csvOf([heads, ...rows.map((row) => heads.map((name) => textOf(row[name])))]),
      );
      described.push({
        table,
        rows: rows.length,
        columns: own.map(({ name, type, refers }) => ({ name, type, refers })),
      });
    }
    const description = {
      what: 'All data of one company, a CSV file for each table, UTF-8, RFC 4180. Days are ISO 8601, numbers plain decimals.',
      workDate,
      tables: described,
    };
    files['description.json'] = strToU8(JSON.stringify(description, null, 2));
  });
  return Buffer.from(zipSync(files, { level: 6 }));
}

type Sql = Parameters<Parameters<Database['snapshot']>[0]>[0];
type Raw = Record<string, unknown>;

function rowsOf(sql: Sql, table: string, by: string, names: readonly string[], companyId: number): Promise<Raw[]> {
  const named = names.length > 0 ? names.map((name) => `\`${name}\` AS \`${name}\``).join(', ') : COMPANY;
  return sql.rows<Raw>(`SELECT ${named} FROM \`${table}\` WHERE ${by} = ?`, [companyId]);
}

/** Our own row, without its logo. */
const COMPANY =
  'id, code, name, currency, time_zone, street, postcode, town, country, registration, tax_number, phone, email, bank, bank_account';

function textOf(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  return typeof cell === 'object' ? JSON.stringify(cell) : String(cell as string | number | boolean);
}

/** The archive, for who may take data along, and sees all that is in it. */
export const archiveFile: FileAnswer = {
  path: '/archive.zip',
  needs: 'companies',
  what: 'This archive',
  async read({ parts, who }) {
    const content = await archiveOf(parts.database, who!.companyId, who!.workDate);
    return { name: `kampong ${who!.workDate}.zip`, type: 'application/zip', content, how: 'attachment' };
  },
};
