import { createPool, type Pool, type PoolConnection, type RowDataPacket } from 'mysql2/promise';
import { columnOf } from '../server/db';
import { rateOf, type Figure } from './measure';
import type { Stage } from './stage';

export type FloorRow = Record<string, unknown>;
/** Rows of an act by table, in the order they are inserted. */
export type FloorRows = Record<string, FloorRow[]>;

/** Bare connections, set as the program sets its own. */
export function floorPool(stage: Stage): Pool {
  const pool = createPool({ uri: stage.url, connectionLimit: 16, timezone: 'Z', dateStrings: true, jsonStrings: true });
  pool.pool.on('connection', (connection: { query(sql: string): void }) =>
    connection.query("SET SESSION tx_isolation = 'READ-COMMITTED', time_zone = '+00:00'"),
  );
  return pool;
}

/** The rows with an id above those there were before an act, table by table; and what it left of the audit. */
export async function rowsOf(stage: Stage, tables: readonly string[], act: () => Promise<unknown>): Promise<FloorRows> {
  const { database } = stage;
  const before = new Map<string, number>();
  for (const table of tables) {
    const [row] = await database.rows<{ id: number }>(`SELECT COALESCE(MAX(id), 0) AS id FROM ${table}`);
    before.set(table, row!.id);
  }
  await act();
  const rows: FloorRows = {};
  for (const table of tables) {
    // What the database works out by itself is not written.
    const columns = await database.rows<{ name: string }>(
      `SELECT column_name AS name FROM information_schema.columns
        WHERE table_schema = DATABASE() AND table_name = ? AND generation_expression IS NULL ORDER BY ordinal_position`,
      [table],
    );
    const named = columns.map(({ name }) => `\`${name}\``).join(', ');
    rows[table] = await database.rows(`SELECT ${named} FROM ${table} WHERE id > ?`, [before.get(table)!]);
  }
  rows['audit_document'] = await database.rows(
    'SELECT * FROM audit_document WHERE audit_id = (SELECT MAX(id) FROM audit)',
  );
  rows['act_key'] = await database.rows(
    'SELECT * FROM act_key WHERE created_at = (SELECT MAX(created_at) FROM act_key)',
  );
  return rows;
}

const PLAIN = ['audit_document', 'act_key'];
/** What in a row names another of the same act: the column, and the table it is an id of. */
const NAMES: Readonly<Record<string, string>> = {
  reportId: 'work_report',
  shipmentId: 'shipment',
  receiptId: 'receipt',
  receiptLineId: 'receipt_line',
  journalId: 'journal',
  auditId: 'audit',
  orderId: 'sales_order',
  invoiceId: 'customer_invoice',
  customerInvoiceId: 'customer_invoice',
  openItemId: 'open_item',
  slipId: 'slip',
};

let turns = 0;

/** Writes such rows in one transaction with some counters: nothing is read, nothing decided. */
export async function writeFloor(
  connection: PoolConnection,
  rows: FloorRows,
  counters: readonly { sql: string; values: unknown[] }[],
): Promise<void> {
  turns += 1;
  const turn = turns;
  await connection.query('START TRANSACTION');
  for (const { sql, values } of counters) await connection.query(sql, values);
  const made: Record<string, number> = {};
  for (const [table, all] of Object.entries(rows)) {
    if (all.length === 0) continue;
    const fresh = all.map((row, index) => {
      const copy: FloorRow = { ...row };
      delete copy['id'];
      if ('number' in copy) copy['number'] = `F${turn}-${index}`;
      for (const [column, of] of Object.entries(NAMES)) {
        if (copy[column] !== null && column in copy && made[of] !== undefined) copy[column] = made[of];
      }
      if ('idempotencyKey' in copy) copy['idempotencyKey'] = `floor-${turn}`;
      return copy;
    });
    const columns = Object.keys(fresh[0]!);
    const [answer] = await connection.query(
      `INSERT INTO ${table} (${columns.map(columnOf).join(',')}) VALUES ${fresh.map(() => `(${columns.map(() => '?').join(',')})`).join(',')}${PLAIN.includes(table) ? '' : ' RETURNING id'}`,
      fresh.flatMap((row) => columns.map((column) => row[column])),
    );
    if (!PLAIN.includes(table)) made[table] = (answer as RowDataPacket[])[0]!['id'] as number;
  }
  await connection.query('COMMIT');
}

/** An act through HTTP against its floor, in turn: sixteen clients first, so that both find what was warmed. */
export async function inTurn<Job>(
  name: string,
  { jobs, each, runs }: { jobs: Job[]; each: number; runs: number },
  act: (job: Job) => Promise<void>,
  floor: () => Promise<void>,
): Promise<Figure[]> {
  const figures: Figure[] = [];
  for (const clients of [16, 1]) {
    const ours: number[] = [];
    const theirs: number[] = [];
    for (let run = 0; run < runs; run += 1) {
      ours.push(await rateOf(jobs.splice(0, each), clients, act));
      theirs.push(
        await rateOf(
          Array.from({ length: each }, () => null),
          clients,
          floor,
        ),
      );
    }
    const mean = (values: number[]) => (values.reduce((sum, value) => sum + value, 0) / values.length).toFixed(0);
    figures.push({
      name: `${name}, ${clients} client${clients > 1 ? 's' : ''}`,
      ours: `${mean(ours)}/s`,
      theirs: `${mean(theirs)}/s`,
      ratios: ours.map((rate, index) => rate / theirs[index]!),
      aim: clients > 1 ? 'at least 0.6' : 'none, for the eye',
    });
  }
  return figures;
}
