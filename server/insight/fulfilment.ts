import type * as z from 'zod';
import { share, type Day } from '@core/kernel';
import type * as contract from '@api/insight';
import { agreementFilter } from '../agreements';
import type { Bound, Sql } from '../db/database';
import { plain } from '../db/mapping';

type Query = z.infer<typeof contract.FulfilmentQuery>;
type Out = z.infer<typeof contract.Fulfilment>;

/** Rows shown at most, and how many of the largest agreements are drawn. */
const MOST = 200;
const LARGEST = 14;

/** How each sum is grouped: its id, its words, and what its rows are read from. `x` is what is summed. */
const GROUPS: Record<Query['by'], { id: string; name: string; detail: string; lines: boolean }> = {
  agreement: { id: 'a.id', name: 'a.number', detail: 'COALESCE(c.name, v.name)', lines: false },
  customer: {
    id: 'COALESCE(c.id, v.id)',
    name: 'COALESCE(c.name, v.name)',
    detail: 'COALESCE(c.number, v.number)',
    lines: false,
  },
  organisation: {
    id: 'so.id',
    name: "COALESCE(so.name, 'nobody named')",
    detail: "COALESCE(so.code, '')",
    lines: false,
  },
  group: {
    id: 'g.id',
    name: "COALESCE(g.name, IF(x.item_id IS NULL, 'everything', 'no group'))",
    detail: "COALESCE(g.code, '')",
    lines: true,
  },
  currency: { id: 'NULL', name: 'a.currency', detail: "''", lines: false },
};

/** The rate of each currency on a day, the company's own being 1; the last one known. */
const RATES = `(SELECT r.currency, r.rate FROM exchange_rate r
   WHERE r.company_id = ? AND r.day = (SELECT MAX(n.day) FROM exchange_rate n
     WHERE n.company_id = r.company_id AND n.currency = r.currency AND n.day <= ?)
  UNION ALL SELECT co.currency, 1 FROM company co WHERE co.id = ?)`;

/**
 * Sums over agreements, from the counters their acts keep: the cost grows with agreements (by group, with their
 * lines), not with orders.
 */
export async function fulfilment(sql: Sql, companyId: number, query: Query, workDate: Day): Promise<Out> {
  const [company] = await sql.rows<{ currency: string }>('SELECT currency FROM company WHERE id = ?', [companyId]);
  const group = GROUPS[query.by];
  const filter = filterOf(companyId, query, workDate);
  const rated = query.money === 'company';
  const money = (column: string) => (rated ? `ROUND(SUM(x.${column} * fx.rate), 2)` : `SUM(x.${column})`);
  const currency = rated ? `'${company!.currency}'` : 'a.currency';
  // A line's values round up to its agreement's, so that group sums and agreement sums agree.
  const from = group.lines
    ? `FROM agreement a JOIN agreement_line x ON x.company_id = a.company_id AND x.agreement_id = a.id
       LEFT JOIN item i ON i.company_id = x.company_id AND i.id = x.item_id
       LEFT JOIN item_group g ON g.company_id = x.company_id AND g.id = COALESCE(x.item_group_id, i.item_group_id)`
    : 'FROM agreement a JOIN agreement x ON x.company_id = a.company_id AND x.id = a.id';
  const rows = await sql.rows<{
    id: number | null;
    name: string;
    detail: string;
    currency: string;
    agreements: number;
    committed: string;
    released: string;
    shipped: string;
    invoiced: string;
  }>(
    `SELECT ${group.id} AS id, ${group.name} AS name, ${group.detail} AS detail, ${currency} AS currency,
            COUNT(DISTINCT a.id) AS agreements, ${money('committed_value')} AS committed, ${money('released_value')} AS released,
            ${money('shipped_value')} AS shipped, ${money('invoiced_value')} AS invoiced
       ${from} ${PARTIES} ${rated ? `JOIN ${RATES} fx ON fx.currency = a.currency` : ''}
      WHERE ${filter.where} GROUP BY 1, 2, 3, 4 ORDER BY committed DESC, name LIMIT ?`,
    [...(rated ? [companyId, workDate, companyId] : []), ...filter.values, MOST + 1],
  );
  return {
    rows: rows.slice(0, MOST).map((row) => ({
      ...row,
      committed: plain(row.committed),
      released: plain(row.released),
      shipped: plain(row.shipped),
      invoiced: plain(row.invoiced),
    })),
    more: rows.length > MOST,
    largest: await largestOf(sql, companyId, filter, workDate, company!.currency),
    currency: company!.currency,
    unrated: await unratedOf(sql, companyId, filter, workDate),
  };
}

const PARTIES = `LEFT JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
       LEFT JOIN vendor v ON v.company_id = a.company_id AND v.id = a.vendor_id
       LEFT JOIN sales_organisation so ON so.company_id = a.company_id AND so.id = a.sales_organisation_id`;

interface Filter {
  where: string;
  values: Bound[];
}

/** Drafts and what was cancelled promise nothing: they are left out. */
function filterOf(companyId: number, query: Query, workDate: Day): Filter {
  const { where, values } = agreementFilter(companyId, query, workDate);
  return { where: `${where} AND a.state IN ('in-force', 'paused', 'ended')`, values };
}

async function largestOf(
  sql: Sql,
  companyId: number,
  filter: Filter,
  workDate: Day,
  currency: string,
): Promise<Out['largest']> {
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
            COALESCE(c.name, v.name) AS party_name, ROUND(a.committed_value * fx.rate, 2) AS value,
            ROUND(a.shipped_value * fx.rate, 2) AS shipped
       FROM agreement a ${PARTIES} JOIN ${RATES} fx ON fx.currency = a.currency
      WHERE ${filter.where} ORDER BY value DESC, a.id LIMIT ?`,
    [companyId, workDate, companyId, ...filter.values, LARGEST],
  );
  return rows.map((row) => ({
    document: { kind: 'AG', id: row.id, number: row.number },
    party: { id: row.party_id, number: row.party_number, name: row.party_name },
    value: plain(row.value),
    share: share(row.shipped, row.value),
    currency,
  }));
}

async function unratedOf(sql: Sql, companyId: number, filter: Filter, workDate: Day): Promise<string[]> {
  const rows = await sql.rows<{ currency: string }>(
    `SELECT DISTINCT a.currency FROM agreement a ${PARTIES} LEFT JOIN ${RATES} fx ON fx.currency = a.currency
      WHERE ${filter.where} AND fx.rate IS NULL ORDER BY a.currency`,
    [companyId, workDate, companyId, ...filter.values],
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
