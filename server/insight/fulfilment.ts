import type * as z from 'zod';
import { type AMOUNTS, type FulfilmentAsked, type GroupSum } from '@core/insight';
import { dec, roundHalfAway, share, sum, type Day } from '@core/kernel';
import type * as contract from '@api/insight';
import { JOIN_PARTY } from '../agreements';
import type { Sql, Columns } from '../db';
import type { AgreementSums } from './agreement-columns';
import type { Agreement } from '../agreements/tables';

type Query = z.infer<typeof contract.FulfilmentQuery>;
type Out = z.infer<typeof contract.Fulfilment>;
type Row = Out['rows'][number];

/** How many of the largest agreements are drawn. */
const LARGEST = 14;

/** How much of the company's currency one unit of each is worth, as decimal text. */
type Rates = ReadonlyMap<string, string>;

/**
 * Sums over agreements from the counters their acts keep, held in memory and moved by what changes: a reading costs as
 * much as there are groups, and some nanoseconds for each agreement to find the largest. Groups are named once they are
 * summed. // A4
 */
export async function fulfilment(
  sql: Sql,
  agreements: AgreementSums,
  companyId: number,
  query: Query,
  workDate: Day,
): Promise<Out> {
  const [[company], columns] = await Promise.all([
    sql.rows<{ currency: string }>('SELECT currency FROM company WHERE id = ?', [companyId]),
    agreements.of(companyId),
  ]);
  const { currency } = company!;
  const rates = await ratesOn(sql, companyId, currency, workDate);
  const worth = new Map([...rates].map(([each, rate]) => [each, Number(rate)]));
  const together = query.money === 'company';
  const { groups, unrated } = columns.groups(query, workDate, worth, together, query.rows + 1);
  const shown = groups.slice(0, query.rows);
  const names = await namesOf(
    sql,
    companyId,
    query,
    shown.map((group) => group.of),
  );
  return {
    rows: shown.map((group) => ({
      ...namedOf(group, query, names),
      ...amountsOf(group, together ? rates : null, currency),
    })),
    more: groups.length > query.rows,
    largest: await largestOf(sql, companyId, columns.largest(query, workDate, worth, LARGEST), rates, currency),
    currency,
    unrated,
  };
}

/** A group's amounts: at the day's rates in the company's currency, or as they are in the one currency it has. */
function amountsOf({ sums }: GroupSum, rates: Rates | null, own: string): Omit<Row, 'id' | 'name' | 'detail'> {
  const [first] = sums;
  const asIs = rates === null || (sums.length === 1 && first!.currency === own);
  const amount = (name: (typeof AMOUNTS)[number]) =>
    asIs
      ? first![name]
      : roundHalfAway(sum(sums.map((each) => dec(each[name]).times(rates.get(each.currency)!))), 2).toFixed();
  return {
    currency: rates ? own : first!.currency,
    agreements: sums.reduce((count, each) => count + each.agreements, 0),
    committed: amount('committed'),
    released: amount('released'),
    shipped: amount('shipped'),
    invoiced: amount('invoiced'),
  };
}

type Names = ReadonlyMap<number, { name: string; detail: string }>;

const NAMES: Record<Exclude<FulfilmentAsked['by'], 'currency'>, (query: Query) => string> = {
  agreement: () =>
    `SELECT a.id, a.number AS name, COALESCE(c.name, v.name) AS detail FROM agreement a ${JOIN_PARTY}
      WHERE a.company_id = ? AND a.id IN (?)`,
  customer: ({ side }) =>
    `SELECT id, name, number AS detail FROM ${side === 'selling' ? 'customer' : 'vendor'} WHERE company_id = ? AND id IN (?)`,
  organisation: () => 'SELECT id, name, code AS detail FROM sales_organisation WHERE company_id = ? AND id IN (?)',
  group: () => 'SELECT id, name, code AS detail FROM item_group WHERE company_id = ? AND id IN (?)',
};

async function namesOf(sql: Sql, companyId: number, query: Query, ids: readonly number[]): Promise<Names> {
  const named = ids.filter((id) => id > 0);
  if (query.by === 'currency' || named.length === 0) return new Map();
  const rows = await sql.rows<{ id: number; name: string; detail: string }>(NAMES[query.by](query), [companyId, named]);
  return new Map(rows.map((row) => [row.id, row]));
}

function namedOf({ of, sums }: GroupSum, query: Query, names: Names): Pick<Row, 'id' | 'name' | 'detail'> {
  if (query.by === 'currency') return { id: null, name: sums[0]!.currency, detail: '' };
  const named = names.get(of);
  if (named)
    return {
      id: of,
      ...named,
    };
  const nobody = query.by === 'organisation' ? 'nobody named' : of < 0 ? 'everything' : 'no group';
  return { id: null, name: nobody, detail: '' };
}

/** The rate of each currency on a day, the company's own being 1: the last one known. */
async function ratesOn(sql: Sql, companyId: number, own: string, day: Day): Promise<Rates> {
  const rows = await sql.rows<{ currency: string; rate: string }>(
    `SELECT r.currency, r.rate FROM exchange_rate r
      WHERE r.company_id = ? AND r.currency <> ? AND r.day = (SELECT MAX(n.day) FROM exchange_rate n
        WHERE n.company_id = r.company_id AND n.currency = r.currency AND n.day <= ?)`,
    [companyId, own, day],
  );
  return new Map([[own, '1'], ...rows.map((row) => [row.currency, row.rate] as const)]);
}

/** Agreements as they are drawn, in the order of their ids given. */
async function largestOf(
  sql: Sql,
  companyId: number,
  ids: readonly number[],
  rates: Rates,
  own: string,
): Promise<Out['largest']> {
  if (ids.length === 0) return [];
  const rows = await sql.rows<
    Columns<Agreement, 'id number currency committedValue shippedValue'> & {
      partyId: number;
      partyNumber: string;
      partyName: string;
    }
  >(
    `SELECT a.id, a.number, a.currency, COALESCE(c.id, v.id) AS party_id, COALESCE(c.number, v.number) AS party_number,
            COALESCE(c.name, v.name) AS party_name, a.committed_value, a.shipped_value
       FROM agreement a ${JOIN_PARTY} WHERE a.company_id = ? AND a.id IN (?)`,
    [companyId, ids],
  );
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => {
    const row = byId.get(id);
    if (!row) return [];
    return [
      {
        document: { kind: 'AG' as const, id, number: row.number },
        party: { id: row.partyId, number: row.partyNumber, name: row.partyName },
        value: roundHalfAway(dec(row.committedValue).times(rates.get(row.currency)!), 2).toFixed(),
        share: share(row.shippedValue, row.committedValue),
        currency: own,
      },
    ];
  });
}

/** The same sums as rows of a file. */
export async function fulfilmentTable(
  sql: Sql,
  agreements: AgreementSums,
  companyId: number,
  query: Query,
  workDate: Day,
): Promise<string[][]> {
  const { rows } = await fulfilment(sql, agreements, companyId, query, workDate);
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
