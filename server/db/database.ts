import { createPool, type Pool, type PoolConnection, type ResultSetHeader } from 'mysql2/promise';
import { faultOf } from './faults';

/** A value that may be bound to a placeholder. */
export type Bound = string | number | boolean | null | Buffer | Date;

/** Something SQL can be sent to: the pool, or one transaction. */
export interface Sql {
  /** Rows of a query. Placeholders only; a list for `IN (?)` is expanded. */
  rows<Row>(sql: string, values?: readonly (Bound | readonly Bound[])[]): Promise<Row[]>;
  /** Rows changed by a statement. */
  run(sql: string, values?: readonly (Bound | readonly Bound[])[]): Promise<number>;
}

/** One transaction. */
export interface Tx extends Sql {
  /** Inserts rows of one table in one statement; their new ids in the rows' order. */
  insert(table: string, rows: readonly Record<string, Bound>[]): Promise<number[]>;
  /** The same for tables without an id of their own. */
  insertPlain(table: string, rows: readonly Record<string, Bound>[]): Promise<void>;
}

export interface Database extends Sql {
  /**
   * Runs `work` in a transaction and commits it. A deadlock, a lock wait, a write refused at commit by another
   * node of a cluster, or a duplicate key lost to somebody faster is tried again from the start, 6 times at most.
   */
  transaction<Answer>(work: (tx: Tx) => Promise<Answer>): Promise<Answer>;
  close(): Promise<void>;
  readonly pool: Pool;
}

const MOST_TRIES = 6;

const SESSION = `SET SESSION tx_isolation = 'READ-COMMITTED', time_zone = '+00:00',
  innodb_lock_wait_timeout = 10,
  sql_mode = 'STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION'`;

export function connect(url: string, connections: number): Database {
  const pool = createPool({
    uri: url.replace(/^mariadb:/, 'mysql:'),
    connectionLimit: connections,
    maxIdle: connections,
    enableKeepAlive: true,
    connectTimeout: 5000,
    charset: 'utf8mb4',
    timezone: 'Z',
    dateStrings: true,
    supportBigNumbers: true,
    jsonStrings: true,
    decimalNumbers: false,
  });
  // Each statement sees what is committed; rows that decide are locked by the acts themselves.
  pool.pool.on('connection', (connection: { query(sql: string): void }) => {
    connection.query(SESSION);
  });
  return {
    pool,
    ...sqlOn(pool),
    transaction: (work) => transaction(pool, work),
    close: () => pool.end(),
  };
}

function sqlOn(on: Pool | PoolConnection): Sql {
  return {
    async rows<Row>(sql: string, values: readonly unknown[] = []) {
      const [rows] = await on.query(sql, values as unknown[]);
      return rows as Row[];
    },
    async run(sql, values = []) {
      const [header] = await on.query<ResultSetHeader>(sql, values as unknown[]);
      return header.affectedRows;
    },
  };
}

function txOn(connection: PoolConnection): Tx {
  const sql = sqlOn(connection);
  const insert = async (table: string, rows: readonly Record<string, Bound>[], returning: string) => {
    const first = rows[0];
    if (!first) return [];
    const columns = Object.keys(first);
    const one = `(${columns.map(() => '?').join(',')})`;
    return sql.rows<{ id: number }>(
      `INSERT INTO ${table} (${columns.map((column) => `\`${column}\``).join(',')}) VALUES ${rows.map(() => one).join(',')}${returning}`,
      rows.flatMap((row) => columns.map((column) => row[column]!)),
    );
  };
  return {
    ...sql,
    insert: async (table, rows) => (await insert(table, rows, ' RETURNING id')).map((row) => row.id),
    insertPlain: async (table, rows) => void (await insert(table, rows, '')),
  };
}

async function transaction<Answer>(pool: Pool, work: (tx: Tx) => Promise<Answer>): Promise<Answer> {
  for (let tries = 1; ; tries += 1) {
    const connection = await pool.getConnection();
    let broken = false;
    try {
      await connection.query('START TRANSACTION');
      const answer = await work(txOn(connection));
      await connection.query('COMMIT');
      return answer;
    } catch (error) {
      const fault = faultOf(error);
      broken = fault === 'away';
      if (!broken) await connection.query('ROLLBACK').catch(() => (broken = true));
      if (fault !== 'again' || tries >= MOST_TRIES) throw error;
    } finally {
      if (broken) connection.destroy();
      else connection.release();
    }
  }
}
