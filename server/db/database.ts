import { randomBytes } from 'node:crypto';
import type { FieldPacket, PoolConnection, QueryError, ResultSetHeader } from 'mysql2';
import { faultOf, type DatabaseFault } from './faults';
import { addressesOf, nodesOf, type Nodes } from './nodes';
import { rowsOf, type Cell } from './rows';
import { Piece, type Bound } from './piece';
import { insertStatements, into, type Insertion, type Last, type Statement } from './statement';
import type { NewRow, Table } from './table';

/** Something SQL can be sent to: the pool, one moment of it, or a transaction. */
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
  batch(statements: readonly Statement[]): Promise<unknown[][]>;
  /** What a query ends with whose rows an act keeps locked until it ends; empty where nothing is changed. */
  readonly forUpdate: 'FOR UPDATE' | '';
}

/** One transaction. */
export interface Tx extends Sql {
  /** Inserts rows of one table in one statement; their new ids in the rows' order. */
  insert<T extends Table>(table: T, rows: readonly NewRow<T>[]): Promise<number[]>;
  /** The same for tables without an id of their own. */
  insertPlain<T extends Table>(table: T, rows: readonly NewRow<T>[]): Promise<void>;
  /** Inserts into several tables in one trip; the new ids of each that wants them. */
  insertBatch(insertions: readonly Insertion[]): Promise<number[][]>;
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
   * Runs `work` in a transaction and commits it. Where somebody else was faster (a deadlock, a write refused at commit
   * by another node of a cluster, a key taken meanwhile, a lock waited for in vain) it is begun again after a pause that
   * grows, a few times at most (`MOST_TRIES`); then the error is thrown on. `tries` counts from 1.
   */
  transaction<Answer>(work: (tx: Tx, tries: number) => Promise<Answer>): Promise<Answer>;
  /** Reads that all see one moment, and lock and write nothing. */
  snapshot<Answer>(read: (sql: Sql) => Promise<Answer>): Promise<Answer>;
  /** Rows of a query as they come, as lists of cells, none of them kept: a million of them take no more room than one. */
  each(
    sql: string,
    values: readonly (Bound | readonly Bound[])[],
    take: (cells: readonly (string | number | null)[]) => void,
  ): Promise<void>;
  /** Connections in use and free, and who waits for one, now. */
  connections(): { used: number; free: number; waiting: number };
  close(): Promise<void>;
  /** The name of the database on its server. */
  readonly name: string;
  /** A connection of its own, given back by its `release`: for a package that keeps rows here by itself. */
  getConnection(take: (error: unknown, connection?: PoolConnection) => void): void;
}

/** How often work is begun in all, by what stood against it the last time. */
const MOST_TRIES: Readonly<Record<DatabaseFault, number>> = {
  again: 6,
  twin: 3,
  spent: 3,
  wait: 2,
  full: 1,
  away: 1,
  none: 1,
};
const FIRST_PAUSE_MS = 5;
const LOCK_WAIT_SECONDS = 5;

const SESSION = `SET SESSION tx_isolation = 'READ-COMMITTED', time_zone = '+00:00',
  innodb_lock_wait_timeout = ${LOCK_WAIT_SECONDS},
  sql_mode = 'STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION'`;

const BEGIN = 'START TRANSACTION';
const BEGIN_SNAPSHOT =
  'SET TRANSACTION ISOLATION LEVEL REPEATABLE READ; START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY';

/** The database at that address, or of those nodes; `met` hears of every fault that work in a transaction met. */
export function connect(url: string, connections: number, met: (fault: DatabaseFault) => void = () => {}): Database {
  // Each statement sees what is committed; rows that decide are locked by the acts themselves.
  const nodes = nodesOf(url, connections, SESSION);
  const kept = new Map<string, unknown>();
  return {
    name: new URL(addressesOf(url)[0]!).pathname.slice(1),
    getConnection: (take) => void nodes.connection().then((connection) => take(null, connection), take),
    ...sqlBy((sql, values) => onConnection(nodes, (connection) => send(connection, sql, values)), ''),
    transaction: (work) => transaction(nodes, kept, met, work),
    snapshot: (read) =>
      onConnection(nodes, (connection) => {
        const { sql, end } = sqlWithin(connection, BEGIN_SNAPSHOT, '');
        return read(sql).then(async (answer) => (await end(), answer));
      }),
    each: (sql, values, take) =>
      onConnection(
        nodes,
        (connection) =>
          new Promise<void>((resolve, reject) => {
            const query = connection.query({ sql, values: bindable(values), rowsAsArray: true });
            query.on('error', reject);
            query.on('result', (cells) => take(cells as unknown as (string | number | null)[]));
            query.on('end', () => resolve());
          }),
      ),
    connections: () => nodes.counts(),
    close: () => nodes.close(),
  };
}

/** An empty list where `IN (?)` or `NOT IN (?)` asks for one: nothing is in it. */
const NOTHING = { toSqlString: () => 'SELECT NULL FROM DUAL WHERE FALSE' };

const bindable = (values: readonly unknown[]) =>
  values.map((value) => (Array.isArray(value) && value.length === 0 ? NOTHING : value));

type Done = Pick<ResultSetHeader, 'affectedRows'>;
type Answer = unknown[] | Done;
/** Sends statements, `count` of them, and gives an answer for each. */
type Send = (sql: string, values: readonly unknown[], count: number) => Promise<Answer[]>;

/**
 * One trip; each answer is a list of rows, or what a statement without rows did. The driver's callbacks are wrapped here
 * rather than by its own promises, which catch a stack for every statement: a tenth of a millisecond that an act of
 * twenty statements pays twenty times.
 */
function send(on: PoolConnection, sql: string, values: readonly unknown[]): Promise<Answer[]> {
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

function sqlBy(send: Send, forUpdate: Sql['forUpdate']): Sql {
  return {
    forUpdate,
    rows: async <Row>(sql: string, values: readonly unknown[] = []) => (await send(sql, values, 1))[0] as Row[],
    run: async (sql, values = []) => ((await send(sql, values, 1))[0] as Done).affectedRows,
    batch: async (statements) => {
      if (statements.length === 0) return [];
      const answers = await send(
        statements.map((each) => each.sql).join(';\n'),
        statements.flatMap((each) => each.values),
        statements.length,
      );
      return statements.map((each, index) => (each.rows ? (answers[index] as unknown[]) : []));
    },
  };
}

interface Within {
  sql: Sql;
  readonly guard: Guard | null;
  /** Commits what was begun, where anything was and it is not committed yet; `closed` where its guard was asked already. */
  end(closed?: boolean): Promise<void>;
  /** Told where the last statements committed themselves. */
  ended(): void;
}

/**
 * What keeps a transaction whole at a node of a cluster. A node may undo one of ours for one of another node, and was seen
 * to let the statements after it through all the same, each on its own: the record of an act stood without its documents.
 * So nothing is committed by itself meanwhile, a mark is written first and must be there to be taken out at the end, and
 * the commit goes alone.
 */
function guardOf() {
  const token = randomBytes(8).toString('hex');
  return {
    begin: `SET autocommit = 0; ${BEGIN}; INSERT INTO transaction_mark (token) VALUES ('${token}')`,
    closing: [
      { sql: 'DELETE FROM transaction_mark WHERE token = ?', values: [token] },
      // An error of its own (1242) where there was none to take out.
      { sql: 'SELECT IF(ROW_COUNT() = 1, 1, (SELECT 1 UNION SELECT 2)) AS whole', values: [], rows: true },
    ] satisfies Statement[],
  };
}
type Guard = ReturnType<typeof guardOf>;
const UNGUARDED = 'SET autocommit = 1';

/**
 * What is asked at once goes in one trip, in the order it was asked: reads that wait for none of each other cost one
 * way to the database and back, whoever asks for them. Where one of them fails, all of them have.
 */
function together(trip: (sql: string) => Promise<Answer[]>, connection: PoolConnection): Send {
  interface Waiting {
    sql: string;
    count: number;
    resolve: (answers: Answer[]) => void;
    reject: (error: unknown) => void;
  }
  let waiting: Waiting[] = [];
  const leave = () => {
    const gone = waiting;
    waiting = [];
    trip(gone.map(({ sql }) => sql).join(';\n')).then(
      (answers) => {
        let at = 0;
        for (const { count, resolve } of gone) resolve(answers.slice(at, (at += count)));
      },
      (error: unknown) => gone.forEach(({ reject }) => reject(error)),
    );
  };
  return (sql, values, count) =>
    new Promise((resolve, reject) => {
      // Not in this turn: what else is asked for by then goes along.
      if (waiting.length === 0) setImmediate(leave);
      waiting.push({ sql: connection.format(sql, bindable(values)), count, resolve, reject });
    });
}

/** SQL on that connection; `begin` goes with the first statement sent, in the same trip. */
function sqlWithin(
  connection: PoolConnection,
  begin: string,
  forUpdate: Sql['forUpdate'],
  guard: Guard | null = null,
): Within {
  let state: 'new' | 'open' | 'ended' = 'new';
  const within = together(async (sql) => {
    if (state !== 'new') return send(connection, sql, []);
    state = 'open';
    return (await send(connection, `${begin};\n${sql}`, [])).slice(begin.split(';').length);
  }, connection);
  const sql = sqlBy(within, forUpdate);
  return {
    sql,
    guard,
    async end(closed = false) {
      if (guard && state === 'open' && !closed) await sql.batch(guard.closing);
      if (state === 'open') await send(connection, 'COMMIT', []);
      if (guard && state === 'open') await send(connection, UNGUARDED, []);
      state = 'ended';
    },
    ended: () => (state = 'ended'),
  };
}

/** A transaction on that connection. */
function txOn({ sql, guard, end, ended }: Within, kept: Map<string, unknown>): Tx {
  const insertBatch = async (insertions: readonly Insertion[]): Promise<number[][]> => {
    const answers = await sql.batch(insertStatements(insertions, true));
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
    insertBatch,
    insert: async (table, rows) => (await insertBatch([into(table, rows, { ids: true })]))[0]!,
    insertPlain: async (table, rows) => void (await insertBatch([into(table, rows)])),
    writeAndCommit: async ({ statements, insertions }, answer) => {
      const asked =
        answer instanceof Piece ? [{ sql: `SELECT ${answer.sql} AS answer`, values: answer.values, rows: true }] : [];
      const last = guard ? guard.closing : [{ sql: 'COMMIT', values: [] }];
      const sent = [...statements, ...insertStatements(insertions, false), ...asked, ...last];
      const answers = await sql.batch(sent);
      if (guard) await end(true);
      ended();
      const told = answers.at(-1 - last.length) as { answer: string }[];
      return answer instanceof Piece ? told[0]!.answer : answer;
    },
    kept: async <Fact>(name: string, read: () => Promise<Fact>) => {
      if (!kept.has(name)) kept.set(name, await read());
      return kept.get(name) as Fact;
    },
  };
}

/** Work on one connection, rolled back where it fails; one that is broken is not used again. */
async function onConnection<Answer>(
  nodes: Nodes,
  work: (connection: PoolConnection) => Promise<Answer>,
): Promise<Answer> {
  const connection = await nodes.connection();
  let broken = false;
  try {
    return await work(connection);
  } catch (error) {
    broken = faultOf(error) === 'away';
    const undo = nodes.several ? `ROLLBACK; ${UNGUARDED}` : 'ROLLBACK';
    if (!broken) await send(connection, undo, []).catch(() => (broken = true));
    throw error;
  } finally {
    if (broken) {
      nodes.gone(connection);
      connection.destroy();
    } else connection.release();
  }
}

const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));

async function transaction<Answer>(
  nodes: Nodes,
  kept: Map<string, unknown>,
  met: (fault: DatabaseFault) => void,
  work: (tx: Tx, tries: number) => Promise<Answer>,
): Promise<Answer> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await onConnection(nodes, async (connection) => {
        const guard = nodes.several ? guardOf() : null;
        const within = sqlWithin(connection, guard?.begin ?? BEGIN, 'FOR UPDATE', guard);
        const answer = await work(txOn(within, kept), tries);
        await within.end();
        return answer;
      });
    } catch (error) {
      const fault = faultOf(error);
      if (fault !== 'none') met(fault);
      if (tries >= MOST_TRIES[fault]) throw error;
      // Those who met must not meet again: each waits for a time of its own, longer each time.
      await pause(FIRST_PAUSE_MS * 2 ** tries * (0.5 + Math.random()));
    }
  }
}
