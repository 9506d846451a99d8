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
