import { ownCurrency, rateAt } from './rates';

/**
 * What one unit of a currency is worth in the company's own on the work date: 1 for its own, NULL where no rate is known.
 * `currency` is an SQL expression, used twice; the company is that of `i`, an item.
 */
export const rateOf = (currency: string) => rateAt(currency, 'i.company_id', 'COALESCE(co.work_date, CURRENT_DATE())');

/** The list price of item `i`, kept in the company's currency, in another, to 4 places; 0 where no rate is known. // R1 */
export const listPriceIn = (currency: string) => `COALESCE(ROUND(i.list_price / ${rateOf(currency)}, 4), 0)`;

/** The currency of a customer given by a placeholder; the company's own for nobody. */
export const CUSTOMER_CURRENCY = `COALESCE((SELECT cc.currency FROM customer cc WHERE cc.company_id = i.company_id AND cc.id = ?),
    ${ownCurrency('i.company_id')})`;
