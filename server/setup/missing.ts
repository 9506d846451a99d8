import type * as z from 'zod';
import { missingBefore } from '@core/setup';
import type * as contract from '@api/setup';
import type { Sql } from '../db';

/** What is still missing before a first order; nothing of it is counted further than it is said. */
export async function missing(sql: Sql, companyId: number): Promise<z.infer<typeof contract.missing.out>> {
  const [found] = await sql.rows<Record<(typeof COUNTED)[number], number> & { hasBank: number }>(
    `SELECT ${COUNTED.map((name) => `(${COUNTS[name]}) AS ${name}`).join(', ')},
            (SELECT c.bank_account <> '' FROM company c WHERE c.id = ?) AS hasBank`,
    [...COUNTED.map(() => companyId), companyId],
  );
  return { rows: missingBefore({ ...found!, hasBank: found!.hasBank === 1 }) };
}

/** A count that goes no further than a hundred: nobody reads on. */
const upTo = (from: string) => `SELECT COUNT(*) FROM (SELECT 1 FROM ${from} LIMIT 100) n`;

const COUNTS = {
  items: upTo('item x WHERE x.company_id = ?'),
  unpriced: upTo(
    `item x WHERE x.company_id = ? AND x.list_price = 0 AND NOT x.out_of_use
       AND NOT EXISTS (SELECT 1 FROM price_rule p WHERE p.company_id = x.company_id AND p.item_id = x.id)`,
  ),
  customers: upTo('customer x WHERE x.company_id = ? AND NOT x.out_of_use'),
  unaddressed: upTo(
    `customer x WHERE x.company_id = ? AND NOT x.out_of_use
       AND NOT EXISTS (SELECT 1 FROM ship_to s WHERE s.company_id = x.company_id AND s.customer_id = x.id)`,
  ),
  vendors: upTo('vendor x WHERE x.company_id = ? AND NOT x.out_of_use'),
  unbought: upTo(
    `item x WHERE x.company_id = ? AND x.obtained = 'buy' AND NOT x.out_of_use
       AND NOT EXISTS (SELECT 1 FROM item_vendor v WHERE v.company_id = x.company_id AND v.item_id = x.id)`,
  ),
  neverStocked: upTo(
    `item x WHERE x.company_id = ? AND x.stocked AND NOT x.out_of_use
       AND NOT EXISTS (SELECT 1 FROM stock s WHERE s.company_id = x.company_id AND s.item_id = x.id)`,
  ),
  people: upTo('person_role x WHERE x.company_id = ?'),
  orders: upTo("sales_order x WHERE x.company_id = ? AND x.state <> 'draft'"),
} as const;
const COUNTED = Object.keys(COUNTS) as (keyof typeof COUNTS)[];
