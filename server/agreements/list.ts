import type * as z from 'zod';
import type { Day } from '@core/kernel';
import type * as contract from '@api/agreements';
import { likeOf, PAGE_ROWS, sortOf, type Bound, type Columns, type SortColumn, type Sql } from '../db';
import type { Agreement } from './tables';

type Row = z.infer<typeof contract.AgreementRow>;
type Query = Partial<z.infer<typeof contract.listAgreements.query>>;

export type HeadRow = Columns<
  Agreement,
  'id number state side basis title currency firstDay lastDay committedValue releasedValue shippedValue invoicedValue usedUp'
> & { partyId: number; partyNumber: string; partyName: string };

/** The columns a row of the list is made of, of `agreement a` with its party. */
export const HEAD_COLUMNS = `a.id, a.number, a.state, a.side, a.basis, a.title, COALESCE(c.id, v.id) AS party_id,
    COALESCE(c.number, v.number) AS party_number, COALESCE(c.name, v.name) AS party_name,
    a.currency, a.first_day, a.last_day, a.committed_value, a.released_value, a.shipped_value, a.invoiced_value, a.used_up`;
export const JOIN_PARTY = `LEFT JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
  LEFT JOIN vendor v ON v.company_id = a.company_id AND v.id = a.vendor_id`;

/** The conditions on `agreement a` that a query sets, with their values; the company's comes first. */
export function agreementFilter(companyId: number, query: Query, workDate: Day): { where: string; values: Bound[] } {
  const where = ['a.company_id = ?'];
  const values: Bound[] = [companyId];
  const add = (condition: string, ...bound: Bound[]) => {
    where.push(condition);
    values.push(...bound);
  };
  if (query.state) add('a.state = ?', query.state);
  if (query.side) add('a.side = ?', query.side);
  if (query.dates === 'passed') add("a.state IN ('in-force', 'paused') AND a.last_day < ?", workDate);
  if (query.dates === 'running')
    add("a.state IN ('in-force', 'paused') AND a.last_day >= ? AND a.first_day <= ?", workDate, workDate);
  if (query.left) add('a.used_up = ?', query.left === 'used-up');
  if (query.customerId) add('a.customer_id = ?', query.customerId);
  if (query.organisationId) add('a.sales_organisation_id = ?', query.organisationId);
  if (query.currency) add('a.currency = ?', query.currency);
  if (query.groupId) {
    add(
      `EXISTS (SELECT 1 FROM agreement_line gl LEFT JOIN item gi ON gi.company_id = gl.company_id AND gi.id = gl.item_id
         WHERE gl.company_id = a.company_id AND gl.agreement_id = a.id AND COALESCE(gl.item_group_id, gi.item_group_id) = ?)`,
      query.groupId,
    );
  }
  if (query.q?.trim()) {
    const named = (table: string) =>
      `(SELECT id FROM ${table} WHERE company_id = ? AND (name LIKE ? OR number LIKE ?))`;
    const like = likeOf(query.q);
    add(
      `(a.number LIKE ? OR a.title LIKE ? OR a.customer_id IN ${named('customer')} OR a.vendor_id IN ${named('vendor')})`,
      ...[like, like, companyId, like, like, companyId, like, like],
    );
  }
  return { where: where.join(' AND '), values };
}

/** What a list is read in the order of: the value with its direction, and the id in the same direction behind it. */
const SORTS = {
  number: {},
  last: { column: 'a.last_day', up: true },
  committed: { column: 'a.committed_value' },
} satisfies Record<string, SortColumn>;

/** Views that were kept and links name some otherwise. */
const BEFORE: Readonly<Record<string, string>> = { newest: 'number', 'last-day': 'last' };

const orderOf = ({ sort }: Query) => sortOf<keyof typeof SORTS>(SORTS, BEFORE[sort ?? ''] ?? sort, 'number');

/**
 * The key a query walks in its order, so that a page costs what it shows. Left to itself, the database would rather
 * read every agreement and sort.
 */
function keyOf(query: Query, sort: keyof typeof SORTS): string {
  if (query.customerId) return 'agreement_customer';
  if (sort === 'committed') return 'agreement_by_value';
  if (query.dates) return 'agreement_last_day';
  if (sort === 'last') return query.state ? 'agreement_last_day' : 'agreement_by_last_day';
  if (query.left) return 'agreement_used_up';
  return query.state ? 'agreement_state' : 'PRIMARY';
}

/**
 * Agreements by keyset, newest first or as sorted (but by pace: that is read from what is in memory); `q` looks in
 * number, title, and the party's number and name. The page is found by key first, and what it shows is read for its
 * rows only.
 */
export async function listAgreements(
  sql: Sql,
  companyId: number,
  query: Query,
  workDate: Day,
): Promise<{ rows: Row[]; next: string | null }> {
  const { where, values } = agreementFilter(companyId, query, workDate);
  const sort = orderOf(query);
  const key = sort.column ?? 'a.id';
  const after = cursorOf(query.cursor);
  const conditions = [where];
  const bound: Bound[] = [...values];
  const past = sort.up ? '>' : '<';
  if (after && !sort.column) {
    conditions.push(`a.id ${past} ?`);
    bound.push(after.id);
  } else if (after) {
    conditions.push(`${key} ${past}= ? AND (${key} ${past} ? OR a.id ${past} ?)`);
    bound.push(after.key, after.key, after.id);
  }
  const way = sort.up ? 'ASC' : 'DESC';
  const order = (id: string) => (sort.column ? `sort_key ${way}, ${id} ${way}` : `${id} ${way}`);
  const most = query.rows ?? PAGE_ROWS;
  const rows = await sql.rows<HeadRow & { sortKey: string | number }>(
    `SELECT ${HEAD_COLUMNS}, p.sort_key
       FROM (SELECT a.company_id, a.id, ${key} AS sort_key FROM agreement a FORCE INDEX (${keyOf(query, sort.name)})
              WHERE ${conditions.join(' AND ')} ORDER BY ${order('a.id')} LIMIT ?) p
       JOIN agreement a ON a.company_id = p.company_id AND a.id = p.id ${JOIN_PARTY} ORDER BY ${order('p.id')}`,
    [...bound, most + 1],
  );
  const shown = rows.slice(0, most);
  const last = shown.at(-1);
  return {
    rows: shown.map(rowOf),
    next: rows.length > most ? `${last!.sortKey}~${last!.id}` : null,
  };
}

/** Ids of all agreements in which words are found. */
export async function agreementsNaming(sql: Sql, companyId: number, words: string, workDate: Day): Promise<number[]> {
  const { where, values } = agreementFilter(companyId, { q: words }, workDate);
  const rows = await sql.rows<{ id: number }>(`SELECT a.id FROM agreement a WHERE ${where}`, values);
  return rows.map((row) => row.id);
}

/** The rows of these agreements, in their order. */
export async function agreementRows(sql: Sql, companyId: number, ids: readonly number[]): Promise<Row[]> {
  if (ids.length === 0) return [];
  const rows = await sql.rows<HeadRow>(
    `SELECT ${HEAD_COLUMNS} FROM agreement a ${JOIN_PARTY} WHERE a.company_id = ? AND a.id IN (?)`,
    [companyId, ids],
  );
  const byId = new Map(rows.map((row) => [row.id, rowOf(row)]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

/** Where a page ended: what it was read in the order of, and the id. */
export function cursorOf(cursor: string | undefined): { key: string; id: number } | null {
  const found = /^([\d.-]{1,30})~(\d{1,10})$/.exec(cursor ?? '');
  return found ? { key: found[1]!, id: Number(found[2]) } : null;
}

export function rowOf(row: HeadRow): Row {
  return {
    id: row.id,
    number: row.number,
    state: row.state,
    side: row.side,
    basis: row.basis,
    title: row.title,
    party: { id: row.partyId, number: row.partyNumber, name: row.partyName },
    currency: row.currency,
    firstDay: row.firstDay,
    lastDay: row.lastDay,
    values: {
      committed: row.committedValue,
      released: row.releasedValue,
      shipped: row.shippedValue,
      invoiced: row.invoicedValue,
    },
    usedUp: row.usedUp,
  };
}
