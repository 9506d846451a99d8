import { Piece, type Bound } from './piece';
import { columnOf } from './rows';
import type { NewRow, Table } from './table';

/** A statement to be sent with others; `rows` where it answers with rows. */
export interface Statement {
  sql: string;
  values: readonly (Bound | readonly Bound[])[];
  rows?: boolean;
}

/** A row to be inserted. */
export type Inserted = Readonly<Record<string, Bound | Piece | undefined>>;

/** Rows for one table; `ids` where their new ids are wanted, or named by rows of later tables (`newId`). */
export interface Insertion {
  table: Table;
  rows: readonly Inserted[];
  ids?: boolean;
}

/** Rows of a table, held against it. */
export function into<T extends Table>(table: T, rows: readonly NewRow<T>[], { ids = false } = {}): Insertion {
  return { table, rows: rows as readonly Inserted[], ids };
}

/** What a transaction ends with: statements, then rows, which may name the ids of rows before them. */
export interface Last {
  statements: readonly Statement[];
  insertions: readonly Insertion[];
}

/**
 * The id that row `index` of `table` got, in rows inserted after it by the same `insertBatch`. The rows of one
 * statement are numbered one after the other, a step of the server apart.
 */
export function newId({ name }: Table, index: number): Piece {
  return new Piece(index === 0 ? `@new_${name}` : `@new_${name} + ${index} * @@auto_increment_increment`);
}

/** The statement that inserts rows; there must be at least one. */
function insertStatement({ table, rows }: Insertion, returning: boolean): Statement {
  const columns = Object.keys(rows[0]!);
  const values: Bound[] = [];
  const place = (value: Bound | Piece | undefined) => {
    if (!(value instanceof Piece)) {
      values.push(value ?? null);
      return '?';
    }
    values.push(...value.values);
    return value.sql;
  };
  const tuples = rows.map((row) => `(${columns.map((column) => place(row[column])).join(',')})`);
  return {
    sql: `INSERT INTO ${table.name} (${columns.map((column) => `\`${columnOf(column)}\``).join(',')}) VALUES ${tuples.join(',')}${returning ? ' RETURNING id' : ''}`,
    values,
    rows: returning,
  };
}

/** Tables' rows, and for each that has ids, the variable that `newId` counts from. */
export function insertStatements(insertions: readonly Insertion[], returning: boolean): Statement[] {
  return insertions
    .filter((each) => each.rows.length > 0)
    .flatMap((each) => [
      insertStatement(each, returning && Boolean(each.ids)),
      ...(each.ids ? [{ sql: `SET @new_${each.table.name} = LAST_INSERT_ID()`, values: [] }] : []),
    ]);
}

/** Sets columns of one row of a company. */
export function setStatement(
  { name: table }: Table,
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
