import type * as z from 'zod';
import { share, type Day } from '@core/kernel';
import type * as contract from '@api/insight';
import { agreementFilter, JOIN_PARTY } from '../agreements';
import type { Bound, Sql } from '../db/database';
import { plain } from '../db/mapping';

type Query = z.infer<typeof contract.FulfilmentQuery>;
type Out = z.infer<typeof contract.Fulfilment>;

/** Rows shown at most, and how many of the largest agreements are drawn. */
const MOST = 200;
const LARGEST = 14;

/** How sums are grouped: by what of `agreement a` (or of `x`, its lines), and what names a group of the sums `s`. */
interface Grouping {
  of: string;
  lines?: true;
  join: string;
  id: string;
  name: string;
  detail: string;
}

function groupingOf(query: Query): Grouping {
  const named = (table: string) => `JOIN ${table} n ON n.company_id = s.company_id AND n.id = s.of`;
  switch (query.by) {
    case 'agreement':
      return {
        of: 'a.id',
        join: `${named('agreement')}
          LEFT JOIN customer c ON c.company_id = n.company_id AND c.id = n.customer_id
          LEFT JOIN vendor v ON v.company_id = n.company_id AND v.id = n.vendor_id`,
        id: 's.of',
        name: 'n.number',
        detail: 'COALESCE(c.name, v.name)',
      };
    case 'customer': {
      const party = query.side === 'selling' ? 'customer' : 'vendor';
      return { of: `a.${party}_id`, join: named(party), id: 's.of', name: 'n.name', detail: 'n.number' };
    }
    case 'organisation':
      return {
        of: 'a.sales_organisation_id',
        join: `LEFT ${named('sales_organisation')}`,
        id: 's.of',
        name: "COALESCE(n.name, 'nobody named')",
        detail: "COALESCE(n.code, '')",
      };
    case 'group':
      return {
        // Below one: a line without an item covers everything, an item may be of no group.
        of: 'COALESCE(x.item_group_id, i.item_group_id, IF(x.item_id IS NULL, -1, 0))',
        lines: true,
        join: `LEFT ${named('item_group')}`,
        id: 'n.id',
        name: "COALESCE(n.name, IF(s.of = 0, 'no group', 'everything'))",
        detail: "COALESCE(n.code, '')",
      };
    case 'currency':
      return { of: 'a.currency', join: '', id: 'NULL', name: 's.of', detail: "''" };
  }
}

const AMOUNTS = ['committed', 'released', 'shipped', 'invoiced'] as const;

/**
 * Sums over agreements, from the counters their acts keep: the cost grows with agreements (by group, with their
 * lines), not with orders. Groups are named once they are summed.
 */
export async function fulfilment(sql: Sql, companyId: number, query: Query, workDate: Day): Promise<Out> {
  const [company] = await sql.rows<{ currency: string }>('SELECT currency FROM company WHERE id = ?', [companyId]);
  const own = company!.currency;
  const filter = filterOf(companyId, query, workDate);
  const rates = await ratesOn(sql, companyId, own, workDate);
  const [rows, largest, unrated] = await Promise.all([
    sumsOf(sql, query, filter, rates, own),
    largestOf(sql, filter, rates, own),
    unratedOf(sql, filter, rates),
  ]);
  return {
    rows: rows.slice(0, MOST).map((row) => ({
      ...row,
      agreements: Number(row.agreements),
      committed: plain(row.committed),
      released: plain(row.released),
      shipped: plain(row.shipped),
      invoiced: plain(row.invoiced),
    })),
    more: rows.length > MOST,
    largest,
    currency: own,
    unrated,
  };
}

interface SumRow extends Record<(typeof AMOUNTS)[number], string> {
  id: number | null;
  name: string;
  detail: string;
  currency: string;
  agreements: string;
}

function sumsOf(sql: Sql, query: Query, filter: Filter, rates: readonly Rate[], own: string) {
  const grouping = groupingOf(query);
  // A line's values round up to its agreement's, so that group sums and agreement sums agree.
  const [of, from, counted] = grouping.lines
    ? [
        'x',
        `agreement a JOIN agreement_line x ON x.company_id = a.company_id AND x.agreement_id = a.id
           LEFT JOIN item i FORCE INDEX (PRIMARY) ON i.company_id = x.company_id AND i.id = x.item_id`,
        'COUNT(DISTINCT a.id)',
      ]
    : ['a', 'agreement a', 'COUNT(*)'];
  const each = (say: (amount: string) => string) => AMOUNTS.map((amount) => `${say(amount)} AS ${amount}`).join(', ');
  const rate = `CASE t.currency ${rates.map(() => 'WHEN ? THEN CAST(? AS DECIMAL(18,8))').join(' ')} END`;
  const inOneMoney = `SELECT t.company_id, t.of, ? AS currency, SUM(t.agreements) AS agreements,
      ${each((amount) => `ROUND(SUM(t.${amount} * ${rate}), 2)`)} FROM t WHERE t.currency IN (?) GROUP BY 1, 2`;
  const rated = query.money === 'company';
  return sql.rows<SumRow>(
    `WITH t AS (
       SELECT STRAIGHT_JOIN a.company_id, ${grouping.of} AS of, a.currency, ${counted} AS agreements,
              ${each((amount) => `SUM(${of}.${amount}_value)`)} FROM ${from} WHERE ${filter.where} GROUP BY 1, 2, 3),
     s AS (${rated ? inOneMoney : 'SELECT * FROM t'} ORDER BY committed DESC, of LIMIT ?)
     SELECT ${grouping.id} AS id, ${grouping.name} AS name, ${grouping.detail} AS detail, s.currency, s.agreements,
            ${each((amount) => `s.${amount}`)} FROM s ${grouping.join} ORDER BY s.committed DESC, name`,
    [
      ...filter.values,
      ...(rated
        ? [
            own,
            ...AMOUNTS.flatMap(() => rates.flatMap(({ currency, rate }) => [currency, rate])),
            rates.map((each) => each.currency),
          ]
        : []),
      MOST + 1,
    ],
  );
}

interface Filter {
  where: string;
  values: Bound[];
}

/** Drafts and what was cancelled promise nothing: they are left out. */
function filterOf(companyId: number, query: Query, workDate: Day): Filter {
  const { where, values } = agreementFilter(companyId, query, workDate);
  return { where: `${where} AND a.state IN ('in-force', 'paused', 'ended')`, values };
}

interface Rate {
  currency: string;
  /** How much of the company's currency one unit is worth. */
  rate: string;
}

/** The rate of each currency on a day, the company's own being 1: the last one known. */
async function ratesOn(sql: Sql, companyId: number, own: string, day: Day): Promise<Rate[]> {
  const rows = await sql.rows<Rate>(
    `SELECT r.currency, r.rate FROM exchange_rate r
      WHERE r.company_id = ? AND r.currency <> ? AND r.day = (SELECT MAX(n.day) FROM exchange_rate n
        WHERE n.company_id = r.company_id AND n.currency = r.currency AND n.day <= ?)`,
    [companyId, own, day],
  );
  return [{ currency: own, rate: '1' }, ...rows];
}

/** The largest agreements at the day's rate: those of each currency, largest first, until there are enough. */
async function largestOf(sql: Sql, filter: Filter, rates: readonly Rate[], own: string): Promise<Out['largest']> {
  const rows = await sql.rows<{
    id: number;
    number: string;
    party_id: number;
    party_number: string;
    party_name: string;
    value: string;
    shipped: string;
  }>(
    `SELECT a.id, a.number, COALESCE(c.id, v.id) AS party_id, COALESCE(c.number, v.number) AS party_number,
            COALESCE(c.name, v.name) AS party_name, l.value, ROUND(a.shipped_value * l.rate, 2) AS shipped
       FROM (${rates
         .map(
           () => `(SELECT a.company_id, a.id, ROUND(a.committed_value * CAST(? AS DECIMAL(18,8)), 2) AS value, CAST(? AS DECIMAL(18,8)) AS rate
              FROM agreement a FORCE INDEX (agreement_by_currency)
             WHERE ${filter.where} AND a.currency = ? ORDER BY a.committed_value DESC LIMIT ?)`,
         )
         .join(' UNION ALL ')} ORDER BY value DESC, id LIMIT ?) l
       JOIN agreement a ON a.company_id = l.company_id AND a.id = l.id ${JOIN_PARTY} ORDER BY l.value DESC, a.id`,
    [...rates.flatMap(({ rate, currency }) => [rate, rate, ...filter.values, currency, LARGEST]), LARGEST],
  );
  return rows.map((row) => ({
    document: { kind: 'AG', id: row.id, number: row.number },
    party: { id: row.party_id, number: row.party_number, name: row.party_name },
    value: plain(row.value),
    share: share(row.shipped, row.value),
    currency: own,
  }));
}

/** Currencies of what was asked for that no rate is known for. */
async function unratedOf(sql: Sql, filter: Filter, rates: readonly Rate[]): Promise<string[]> {
  const rows = await sql.rows<{ currency: string }>(
    `SELECT DISTINCT a.currency FROM agreement a FORCE INDEX (agreement_by_currency)
      WHERE ${filter.where} AND a.currency NOT IN (?) ORDER BY a.currency`,
    [...filter.values, rates.map((rate) => rate.currency)],
  );
  return rows.map((row) => row.currency);
}

/** The same sums as rows of a file. */
export async function fulfilmentTable(sql: Sql, companyId: number, query: Query, workDate: Day): Promise<string[][]> {
  const { rows } = await fulfilment(sql, companyId, query, workDate);
  return [
    [query.by, 'detail', 'currency', 'agreements', 'committed', 'released', 'shipped', 'invoiced'],
    ...rows.map((row) => [
      row.name,
      row.detail,
      row.currency,
      String(row.agreements),
      row.committed,
      row.released,
      row.shipped,
      row.invoiced,
    ]),
  ];
}
