import type { Sql } from './database';

/** Columns of an address, read under the prefix `to_`. */
export const ADDRESS_COLUMNS =
  'st.id AS to_id, st.label AS to_label, st.street AS to_street, st.town AS to_town, st.postcode AS to_postcode, st.country AS to_country';

export interface AddressColumns {
  toId: number | null;
  toLabel: string;
  toStreet: string;
  toTown: string;
  toPostcode: string;
  toCountry: string;
}

export function addressOf(row: AddressColumns) {
  return row.toId === null
    ? null
    : {
        id: row.toId,
        label: row.toLabel,
        street: row.toStreet,
        town: row.toTown,
        postcode: row.toPostcode,
        country: row.toCountry,
      };
}

export function shipTosOf(sql: Sql, companyId: number, customerId: number) {
  return sql.rows<{
    id: number;
    label: string;
    street: string;
    town: string;
    postcode: string;
    country: string;
  }>(
    'SELECT id, label, street, town, postcode, country FROM ship_to WHERE company_id = ? AND customer_id = ? ORDER BY label',
    [companyId, customerId],
  );
}

/**
 * Whether vendor `iv.vendor_id` may sell item `i` of group `g` to us on a day, given twice. // L9
 * Served by vendor_approval_item and vendor_approval_group.
 */
export const APPROVED = `(NOT (i.approval_needed OR COALESCE(g.approval_needed, FALSE)) OR EXISTS (
  SELECT 1 FROM vendor_approval va WHERE va.company_id = i.company_id AND va.vendor_id = iv.vendor_id
     AND (va.item_id = i.id OR va.item_group_id = i.item_group_id)
     AND va.first_day <= ? AND (va.last_day IS NULL OR va.last_day >= ?)))`;

/**
 * What one unit of a currency is worth in the company's own on the work date: 1 for its own, NULL where no rate is known.
 * `currency` is an SQL expression, used twice; the company is that of `i`, an item.
 */
export const rateOf = (
  currency: string,
) => `(SELECT IF(co.currency = ${currency}, 1, (SELECT r.rate FROM exchange_rate r
    WHERE r.company_id = co.id AND r.currency = ${currency} AND r.day <= COALESCE(co.work_date, CURRENT_DATE())
    ORDER BY r.day DESC LIMIT 1)) FROM company co WHERE co.id = i.company_id)`;

/** The list price of item `i`, kept in the company's currency, in another, to 4 places; 0 where no rate is known. // R1 */
export const listPriceIn = (currency: string) => `COALESCE(ROUND(i.list_price / ${rateOf(currency)}, 4), 0)`;

/** The currency of a customer given by a placeholder; the company's own for nobody. */
export const CUSTOMER_CURRENCY = `COALESCE((SELECT cc.currency FROM customer cc WHERE cc.company_id = i.company_id AND cc.id = ?),
    (SELECT oc.currency FROM company oc WHERE oc.id = i.company_id))`;

/** The number of item `i` at location `lo`, as `numberAt` says it. */
export const NUMBER_AT = "CONCAT(i.number, IF(lo.id = 0, '', CONCAT(' at ', lo.code)))";

/** Numbers and names that contain the words, as a LIKE pattern with its own wildcards made harmless. */
export function likeOf(words: string): string {
  return `%${words.trim().replace(/[\\%_]/g, (each) => `\\${each}`)}%`;
}

export const PAGE_ROWS = 100;

/** One page of a list that is read newest first by id. */
export async function pageById<Row extends { id: number }, Out>(
  read: (before: number, most: number) => Promise<Row[]>,
  { cursor, rows: most = PAGE_ROWS }: { cursor?: string | undefined; rows?: number | undefined },
  map: (row: Row) => Out,
): Promise<{ rows: Out[]; next: string | null }> {
  const before = cursor && /^\d{1,10}$/.test(cursor) ? Number(cursor) : 4_294_967_295;
  const rows = await read(before, most + 1);
  const shown = rows.slice(0, most);
  return {
    rows: shown.map(map),
    next: rows.length > most ? String(shown.at(-1)!.id) : null,
  };
}
