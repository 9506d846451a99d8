import type { Sql } from './database';

/**
 * Makes acts that rely on one row go one after the other: the row is written, not only locked, so that it holds between
 * the nodes of a replicated cluster too. Nothing where the handle locks nothing.
 */
export async function takeTurn(
  sql: Sql,
  table: 'list_turn' | 'customer' | 'promise_turn',
  key: number[],
): Promise<void> {
  if (sql.forUpdate === '') return;
  const where = { list_turn: 'company_id = ?', customer: 'company_id = ? AND id = ?', promise_turn: 'company_id = ?' }[
    table
  ];
  await sql.run(`UPDATE ${table} SET turn = turn + 1 WHERE ${where}`, key);
}
