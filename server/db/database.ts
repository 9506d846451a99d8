import { createPool, type Pool, type PoolConnection, type QueryError, type ResultSetHeader } from 'mysql2';
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

/** A piece of SQL where a value would stand, with its own placeholders. */
export class Piece {
  constructor(
    readonly sql: string,
    readonly values: readonly Bound[] = [],
  ) {}
}

/** The id the statement before this one gave, in `insertTogether`. */
export const LAST_ID = new Piece('LAST_INSERT_ID()');

/** A statement to be sent with others; `rows` where it answers with rows. */
export interface Statement {
  sql: string;
  values: readonly Bound[];
  rows?: boolean;
}

/** Rows for one table; `ids` where their new ids are wanted. */
export interface Insertion {
  table: string;
  rows: readonly Record<string, Bound | Piece>[];
  ids?: boolean;
}

/** One transaction. */
export interface Tx extends Sql {
  /** Inserts rows of one table in one statement; their new ids in the rows' order. */
  insert(table: string, rows: readonly Record<string, Bound>[]): Promise<number[]>;
  /** The same for tables without an id of their own. */
  insertPlain(table: string, rows: readonly Record<string, Bound>[]): Promise<void>;
  /**
   * Several statements in the order given, in one trip to the database: what an act holds locked is held for fewer
   * trips. The rows of each that answers with rows, an empty list for the others.
   */
  together(statements: readonly Statement[]): Promise<unknown[][]>;
  /** Inserts into several tables in one trip; the new ids of each that wants them. */
  insertTogether(insertions: readonly Insertion[]): Promise<number[][]>;
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
  pool.on('connection', (connection) => void connection.query(SESSION));
  return {
    pool,
    ...sqlOn(pool),
    transaction: (work) => transaction(pool, work),
    close: () => new Promise((resolve, reject) => pool.end((error) => (error ? reject(error) : resolve()))),
  };
}

/**
 * One statement. The driver's callbacks are wrapped here rather than by its own promises, which catch a stack for
 * every statement: a tenth of a millisecond that an act of twenty statements pays twenty times.
 */
function send(on: Pool | PoolConnection, sql: string, values: readonly unknown[]): Promise<unknown> {
  return new Promise((resolve, reject) => {
    on.query(sql, values as unknown[], (error: QueryError | null, answer: unknown) =>
      error ? reject(error) : resolve(answer),
    );
  });
}

function sqlOn(on: Pool | PoolConnection): Sql {
  return {
    rows: <Row>(sql: string, values: readonly unknown[] = []) => send(on, sql, values) as Promise<Row[]>,
    run: async (sql, values = []) => ((await send(on, sql, values)) as ResultSetHeader).affectedRows,
  };
}

function connectionOf(pool: Pool): Promise<PoolConnection> {
  return new Promise((resolve, reject) =>
    pool.getConnection((error, connection) => (error ? reject(error) : resolve(connection))),
  );
}

/** The statement that inserts rows; there must be at least one. */
function insertStatement({ table, rows, ids }: Insertion): Statement {
  const columns = Object.keys(rows[0]!);
  const values: Bound[] = [];
  const place = (value: Bound | Piece) => {
    if (!(value instanceof Piece)) {
      values.push(value);
      return '?';
    }
    values.push(...value.values);
    return value.sql;
  };
  const tuples = rows.map((row) => `(${columns.map((column) => place(row[column]!)).join(',')})`);
  return {
    sql: `INSERT INTO ${table} (${columns.map((column) => `\`${column}\``).join(',')}) VALUES ${tuples.join(',')}${ids ? ' RETURNING id' : ''}`,
    values,
    rows: ids ?? false,
  };
}

function txOn(connection: PoolConnection): Tx {
  const sql = sqlOn(connection);
  const together = async (statements: readonly Statement[]): Promise<unknown[][]> => {
    const [only] = statements;
    if (!only) return [];
    if (statements.length === 1) {
      const answer = await sql.rows(only.sql, only.values);
      return [only.rows ? answer : []];
    }
    const answers = await sql.rows<unknown[]>(
      `BEGIN NOT ATOMIC ${statements.map((each) => `${each.sql};`).join(' ')} END`,
      statements.flatMap((each) => each.values),
    );
    // One set of rows for each statement that answers with rows, in their order.
    let at = 0;
    return statements.map((each) => (each.rows ? answers[at++]! : []));
  };
  const insertTogether = async (insertions: readonly Insertion[]): Promise<number[][]> => {
    const answers = await together(insertions.filter((each) => each.rows.length > 0).map(insertStatement));
    let at = 0;
    return insertions.map((each) =>
      each.rows.length > 0 ? (answers[at++] as { id: number }[]).map((row) => row.id) : [],
    );
  };
  return {
    ...sql,
    together,
    insertTogether,
    insert: async (table, rows) => (await insertTogether([{ table, rows, ids: true }]))[0]!,
    insertPlain: async (table, rows) => void (await insertTogether([{ table, rows }])),
  };
}

async function transaction<Answer>(pool: Pool, work: (tx: Tx) => Promise<Answer>): Promise<Answer> {
  for (let tries = 1; ; tries += 1) {
    const connection = await connectionOf(pool);
    let broken = false;
    try {
      await send(connection, 'START TRANSACTION', []);
      const answer = await work(txOn(connection));
      await send(connection, 'COMMIT', []);
      return answer;
    } catch (error) {
      const fault = faultOf(error);
      broken = fault === 'away';
      if (!broken) await send(connection, 'ROLLBACK', []).catch(() => (broken = true));
      if (fault !== 'again' || tries >= MOST_TRIES) throw error;
    } finally {
      if (broken) connection.destroy();
      else connection.release();
    }
  }
}
