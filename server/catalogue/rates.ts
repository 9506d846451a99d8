import type { Day, ExchangeOf } from '@core/kernel';
import type { Sql } from '../db';

/**
 * What one unit of a currency is worth in a company's own on a day: 1 for its own, else the rate kept of that day or the
 * last one before; NULL where none is. All three are SQL expressions; `currency` is used twice. // P8
 */
export const rateAt = (
  currency: string,
  company: string,
  day: string,
) => `(SELECT IF(co.currency = ${currency}, 1, (SELECT r.rate FROM exchange_rate r
    WHERE r.company_id = co.id AND r.currency = ${currency} AND r.day <= ${day} ORDER BY r.day DESC LIMIT 1))
    FROM company co WHERE co.id = ${company})`;

/** A company's own currency, by an SQL expression for its id. */
export const ownCurrency = (company: string) => `(SELECT oc.currency FROM company oc WHERE oc.id = ${company})`;

/** A currency beside a company's own on a day. // P8 */
export async function exchangeOn(sql: Sql, companyId: number, currency: string, day: Day): Promise<ExchangeOf> {
  const [row] = await sql.rows<{ own: string; rate: string | null }>(
    `SELECT c.currency AS own, ${rateAt('?', 'c.id', '?')} AS rate FROM company c WHERE c.id = ?`,
    [currency, currency, day, companyId],
  );
  return { currency, day, ...row! };
}

/** What the entries of a document in a currency are told in besides the company's; null for its own. */
export const foreignOf = ({ currency, own }: Pick<ExchangeOf, 'currency' | 'own'>) =>
  currency === own ? null : currency;

/** The price of vendor `v` for an item (`iv`) in the company's currency, to 4 places; NULL without a rate. One placeholder: the day. */
export const OWN_PRICE = `ROUND(iv.unit_price * ${rateAt('v.currency', 'iv.company_id', '?')}, 4)`;
