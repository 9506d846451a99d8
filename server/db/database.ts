import {
  createPool,
  type FieldPacket,
  type Pool,
  type PoolConnection,
  type QueryError,
  type ResultSetHeader,
} from 'mysql2';
import { faultOf } from './faults';
import { columnOf, rowsOf, type Cell } from './rows';

/** A value that may be bound to a placeholder. */
export type Bound = string | number | boolean | null | Buffer | Date;

/** Something SQL can be sent to: the pool, or one transaction. */
export interface Sql {
  /**
   * Rows of a query, named and cast by their columns (`rows.ts`). Placeholders only; a list for `IN (?)` is expanded,
   * and nothing is in an empty one.
   */
  rows<Row>(sql: string, values?: readonly (Bound | readonly Bound[])[]): Promise<Row[]>;
  /** Rows changed by a statement. */
  run(sql: string, values?: readonly (Bound | readonly Bound[])[]): Promise<number>;
  /**
   * Several statements in the order given, in one trip to the database: what an act holds locked is held for fewer
   * trips. The rows of each that answers with rows, an empty list for the others.
   */
  together(statements: readonly Statement[]): Promise<unknown[][]>;
}

/** A piece of SQL where a value would stand, with its own placeholders. */
export class Piece {
  constructor(
    readonly sql: string,
    readonly values: readonly Bound[] = [],
  ) {}
}

/** A piece that gives a text; it must need no escaping where it stands in JSON. */
export class TextPiece extends Piece {}

/** The id the statement before this one gave, in `insertTogether`. */
export const LAST_ID = new Piece('LAST_INSERT_ID()');

/** A statement to be sent with others; `rows` where it answers with rows. */
export interface Statement {
  sql: string;
  values: readonly (Bound | readonly Bound[])[];
  rows?: boolean;
}

/** Rows for one table; `ids` where their new ids are wanted, or named by rows of later tables (`newId`). */
export interface Insertion {
  table: string;
  rows: readonly Record<string, Bound | Piece>[];
  ids?: boolean;
}

/** What a transaction ends with: statements, then rows, which may name the ids of rows before them. */
export interface Last {
  statements: readonly Statement[];
  insertions: readonly Insertion[];
}

/**
 * The id that row `index` of `table` got, in rows inserted after it by the same `insertTogether`. The rows of one
 * statement are numbered one after the other, a step of the server apart.
 */
export function newId(table: string, index: number): Piece {
  return new Piece(index === 0 ? `@new_${table}` : `@new_${table} + ${index} * @@auto_increment_increment`);
}

/** One transaction. */
export interface Tx extends Sql {
  /** Inserts rows of one table in one statement; their new ids in the rows' order. */
  insert(table: string, rows: readonly Record<string, Bound>[]): Promise<number[]>;
  /** The same for tables without an id of their own. */
  insertPlain(table: string, rows: readonly Record<string, Bound>[]): Promise<void>;
  /** Inserts into several tables in one trip; the new ids of each that wants them. */
  insertTogether(insertions: readonly Insertion[]): Promise<number[][]>;
  /**
   * The last statements and rows of the transaction and its commit, in one trip: nothing may be sent after it.
   * The text `answer` gives, where it is one that only the database can tell.
   */
  writeAndCommit(last: Last, answer: string | Piece): Promise<string>;
  /** What never changes once it is there: read by `read` the first time it is asked for, kept for the life of the pool. */
  kept<Fact>(name: string, read: () => Promise<Fact>): Promise<Fact>;
}

export interface Database extends Sql {
  /**
   * Runs `work` in a transaction and commits it. A deadlock, a lock wait, a write refused at commit by another
   * node of a cluster, or a duplicate key lost to somebody faster is tried again from the start, 6 times at most.
   */
  transaction<Answer>(work: (tx: Tx) => Promise<Answer>): Promise<Answer>;
  /** Rows of a query as they come, as lists of cells, none of them kept: a million of them take no more room than one. */
  each(
    sql: string,
    values: readonly (Bound | readonly Bound[])[],
    take: (cells: readonly (string | number | null)[]) => void,
  ): Promise<void>;
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
    // Several statements in one trip; values only ever travel as placeholders.
    multipleStatements: true,
  });
  // Each statement sees what is committed; rows that decide are locked by the acts themselves.
  pool.on('connection', (connection) => void connection.query(SESSION));
  const kept = new Map<string, unknown>();
  return {
    pool,
    ...sqlBy((sql, values) => send(pool, sql, values)),
    transaction: (work) => transaction(pool, kept, work),
    each: (sql, values, take) =>
      new Promise((resolve, reject) => {
        const query = pool.query({ sql, values: bindable(values), rowsAsArray: true });
        query.on('error', reject);
        query.on('result', (cells) => take(cells as unknown as (string | number | null)[]));
        query.on('end', () => resolve());
      }),
    close: () => new Promise((resolve, reject) => pool.end((error) => (error ? reject(error) : resolve()))),
  };
}

/** An empty list where `IN (?)` or `NOT IN (?)` asks for one: nothing is in it. */
const NOTHING = { toSqlString: () => 'SELECT NULL FROM DUAL WHERE FALSE' };

const bindable = (values: readonly unknown[]) =>
  values.map((value) => (Array.isArray(value) && value.length === 0 ? NOTHING : value));

/**
 * One trip; each answer is a list of rows, or what a statement without rows did. The driver's callbacks are wrapped here
 * rather than by its own promises, which catch a stack for every statement: a tenth of a millisecond that an act of
 * twenty statements pays twenty times.
 */
function send(on: Pool | PoolConnection, sql: string, values: readonly unknown[]): Promise<Answer[]> {
  return new Promise((resolve, reject) => {
    on.query(
      { sql, values: bindable(values), rowsAsArray: true },
      (error: QueryError | null, answer: unknown, fields: unknown) => {
        if (error) return reject(error);
        // Several statements answer with a list of answers, and a list of each one's columns.
        const several = Array.isArray(fields) && (fields[0] === undefined || Array.isArray(fields[0]));
        const answers = several ? (answer as unknown[]) : [answer];
        const columns = (several ? fields : [fields]) as (FieldPacket[] | undefined)[];
        resolve(
          answers.map((each, at) => (Array.isArray(each) ? rowsOf(each as Cell[][], columns[at]!) : (each as Done))),
        );
      },
    );
  });
}

type Done = Pick<ResultSetHeader, 'affectedRows'>;
type Answer = unknown[] | Done;

type Send = (sql: string, values: readonly unknown[]) => Promise<Answer[]>;

function sqlBy(send: Send): Sql {
  return {
    rows: async <Row>(sql: string, values: readonly unknown[] = []) => (await send(sql, values))[0] as Row[],
    run: async (sql, values = []) => ((await send(sql, values))[0] as Done).affectedRows,
    together: async (statements) => {
      if (statements.length === 0) return [];
      const answers = await send(
        statements.map((each) => each.sql).join(';\n'),
        statements.flatMap((each) => each.values),
      );
      return statements.map((each, index) => (each.rows ? (answers[index] as unknown[]) : []));
    },
  };
}

function connectionOf(pool: Pool): Promise<PoolConnection> {
  return new Promise((resolve, reject) =>
    pool.getConnection((error, connection) => (error ? reject(error) : resolve(connection))),
  );
}

/** The statement that inserts rows; there must be at least one. */
function insertStatement({ table, rows }: Insertion, returning: boolean): Statement {
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
    sql: `INSERT INTO ${table} (${columns.map((column) => `\`${columnOf(column)}\``).join(',')}) VALUES ${tuples.join(',')}${returning ? ' RETURNING id' : ''}`,
    values,
    rows: returning,
  };
}

/** Sets columns of one row of a company. */
export function setStatement(
  table: string,
  columns: Readonly<Record<string, Bound>>,
  companyId: number,
  id: number,
): Statement {
  const sets = Object.keys(columns).map((name) => `${columnOf(name)} = ?`);
  return {
    sql: `UPDATE ${table} SET ${sets.join(', ')} WHERE company_id = ? AND id = ?`,
    values: [...Object.values(columns), companyId, id],
  };
}

/** Tables' rows, and for each that has ids, the variable that `newId` counts from. */
function insertStatements(insertions: readonly Insertion[], returning: boolean): Statement[] {
  return insertions
    .filter((each) => each.rows.length > 0)
    .flatMap((each) => [
      insertStatement(each, returning && Boolean(each.ids)),
      ...(each.ids ? [{ sql: `SET @new_${each.table} = LAST_INSERT_ID()`, values: [] }] : []),
    ]);
}

interface OpenTx extends Tx {
  /** Commits, unless `writeAndCommit` did. */
  commit(): Promise<void>;
}

/** A transaction on that connection; it begins with the first statement sent, in the same trip. */
function txOn(connection: PoolConnection, kept: Map<string, unknown>): OpenTx {
  let state: 'new' | 'open' | 'committed' = 'new';
  const within: Send = async (sql, values) => {
    if (state !== 'new') return send(connection, sql, values);
    state = 'open';
    return (await send(connection, `START TRANSACTION;\n${sql}`, values)).slice(1);
  };
  const sql = sqlBy(within);
  const insertTogether = async (insertions: readonly Insertion[]): Promise<number[][]> => {
    const answers = await sql.together(insertStatements(insertions, true));
    let at = 0;
    return insertions.map((each) => {
      if (each.rows.length === 0) return [];
      const ids = (answers[at] as { id: number }[]).map((row) => row.id);
      at += each.ids ? 2 : 1;
      return ids;
    });
  };
  return {
    ...sql,
    insertTogether,
    insert: async (table, rows) => (await insertTogether([{ table, rows, ids: true }]))[0]!,
    insertPlain: async (table, rows) => void (await insertTogether([{ table, rows }])),
    writeAndCommit: async ({ statements, insertions }, answer) => {
      const asked =
        answer instanceof Piece ? [{ sql: `SELECT ${answer.sql} AS answer`, values: answer.values, rows: true }] : [];
      const sent = [...statements, ...insertStatements(insertions, false), ...asked, { sql: 'COMMIT', values: [] }];
      const answers = await sql.together(sent);
      state = 'committed';
      return answer instanceof Piece ? (answers.at(-2) as { answer: string }[])[0]!.answer : answer;
    },
    kept: async <Fact>(name: string, read: () => Promise<Fact>) => {
      if (!kept.has(name)) kept.set(name, await read());
      return kept.get(name) as Fact;
    },
    commit: async () => {
      if (state === 'open') await send(connection, 'COMMIT', []);
    },
  };
}

async function transaction<Answer>(
  pool: Pool,
  kept: Map<string, unknown>,
  work: (tx: Tx) => Promise<Answer>,
): Promise<Answer> {
  for (let tries = 1; ; tries += 1) {
    const connection = await connectionOf(pool);
    let broken = false;
    try {
      const tx = txOn(connection, kept);
      const answer = await work(tx);
      await tx.commit();
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
