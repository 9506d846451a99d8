import { dec, UNDER_WAY, type Day } from '@core/kernel';
import type * as z from 'zod';
import { routeFits, ROUTES } from '@core/catalogue';
import type * as agreements from '@api/agreements';
import type * as contract from '@api/catalogue';
import { orNotFound } from '../acts';
import { likeOf, type Bound, type Sql, type Columns } from '../db';
import { CUSTOMER_CURRENCY, listPriceIn } from './list-price';
import { OWN_PRICE } from './rates';
import type { Item } from './tables';

type ItemRow = Columns<Item, 'id number name unit route stocked obtained weight volume'> & {
  listPrice: string;
  vendors: number;
  onHand: string | null;
  free: string | null;
  value: string | null;
  taxCode: string;
  taxRate: string;
  units: string | null;
  theirNumber: string | null;
  vendorPrice: string | null;
  hasOptions: number;
};

/** Whom the items are for, or of. */
interface Asked {
  customerId?: number | undefined;
  vendorId?: number | undefined;
}

/** What there is of item `i` at all our places together. */
const inStock = (what: string) =>
  `(SELECT SUM(s.${what}) FROM stock s WHERE s.company_id = i.company_id AND s.item_id = i.id)`;

function itemsWhere(
  sql: Sql,
  where: string,
  { customerId = 0, vendorId = 0 }: Asked,
  values: readonly (Bound | readonly Bound[])[],
): Promise<ItemRow[]> {
  return sql.rows<ItemRow>(
    `SELECT i.id, i.number, i.name, i.unit, ${listPriceIn(CUSTOMER_CURRENCY)} AS list_price, i.route, i.stocked, i.obtained, i.weight, i.volume, ci.number AS their_number,
            (SELECT v.unit_price FROM item_vendor v WHERE v.company_id = i.company_id AND v.item_id = i.id AND v.vendor_id = ?) AS vendor_price,
            (SELECT GROUP_CONCAT(u.unit, ' ', u.factor ORDER BY u.factor SEPARATOR '\n') FROM item_unit u
              WHERE u.company_id = i.company_id AND u.item_id = i.id) AS units,
            (SELECT COUNT(*) FROM item_vendor v WHERE v.company_id = i.company_id AND v.item_id = i.id) AS vendors,
            EXISTS (SELECT 1 FROM option_group g WHERE g.company_id = i.company_id AND g.item_id = i.id) AS has_options,
            ${inStock('on_hand')} AS on_hand, ${inStock(`on_hand * (s.location_id <> ${UNDER_WAY}) - s.reserved`)} AS free, ${inStock('value')} AS value, t.code AS tax_code, t.rate AS tax_rate
       FROM item i
       JOIN tax_code t ON t.company_id = i.company_id AND t.id = i.tax_code_id
       LEFT JOIN customer_item ci ON ci.company_id = i.company_id AND ci.customer_id = ? AND ci.item_id = i.id
      WHERE ${where}`,
    // For the list price twice, the vendor's, and for what they call it.
    [customerId, customerId, vendorId, customerId, ...values],
  );
}

function choiceOf(row: ItemRow): z.infer<typeof contract.ItemChoice> {
  const fits = { stocked: row.stocked, hasVendor: row.vendors > 0, obtained: row.obtained };
  return {
    id: row.id,
    number: row.number,
    name: row.name,
    unit: row.unit,
    listPrice: row.listPrice,
    route: row.route,
    routes: ROUTES.filter((route) => routeFits(route, fits)),
    onHand: row.onHand ?? '0',
    taxCode: row.taxCode,
    taxRate: row.taxRate,
    units: [
      { unit: row.unit, factor: '1' },
      ...(row.units ?? '')
        .split('\n')
        .filter((each) => each !== '')
        .map((each) => {
          const at = each.lastIndexOf(' ');
          return { unit: each.slice(0, at), factor: each.slice(at + 1) };
        }),
    ],
    weight: row.weight,
    volume: row.volume,
    theirNumber: row.theirNumber ?? '',
    vendorPrice: row.vendorPrice ?? '',
    hasOptions: Boolean(row.hasOptions),
  };
}

/** Items by any part of number or name, or of the number a customer calls them by; 12 at most. */
export async function findItems(sql: Sql, companyId: number, words: string, asked: Asked = {}) {
  const like = likeOf(words);
  const rows = await itemsWhere(
    sql,
    'i.company_id = ? AND (i.number LIKE ? OR i.name LIKE ? OR ci.number LIKE ?) ORDER BY i.out_of_use, i.number LIMIT 12',
    asked,
    [companyId, like, like, like],
  );
  return { rows: rows.map(choiceOf) };
}

export async function openItem(
  sql: Sql,
  companyId: number,
  id: number,
  workDate: Day,
): Promise<z.infer<typeof contract.openItem.out>> {
  const [row] = await itemsWhere(sql, 'i.company_id = ? AND i.id = ?', {}, [companyId, id]);
  const found = orNotFound(row, 'This item');
  const vendors = await sql.rows<{
    id: number;
    name: string;
    unitPrice: string;
    currency: string;
    ownPrice: string | null;
    leadDays: number;
    preferred: boolean;
  }>(
    `SELECT v.id, v.name, iv.unit_price, v.currency, ${OWN_PRICE} AS own_price, iv.lead_days, iv.preferred
       FROM item_vendor iv JOIN vendor v ON v.company_id = iv.company_id AND v.id = iv.vendor_id
      WHERE iv.company_id = ? AND iv.item_id = ? ORDER BY iv.preferred DESC, v.name`,
    [workDate, companyId, id],
  );
  const [series] = await sql.rows<{ pattern: string }>(
    'SELECT pattern FROM serial_series WHERE company_id = ? AND item_id = ?',
    [companyId, id],
  );
  return {
    ...choiceOf(found),
    serialPattern: series?.pattern ?? null,
    places: await placesOf(sql, companyId, id),
    taxCode: found.taxCode,
    stockValue: found.value ?? '0',
    vendors: vendors.map((vendor) => ({ ...vendor, ownPrice: vendor.ownPrice ?? '' })),
  };
}

/** Item groups and sales organisations, by their code. */
export async function itemGroups(sql: Sql, companyId: number): Promise<z.infer<typeof agreements.itemGroups.out>> {
  const [groups, organisations] = await Promise.all([
    sql.rows<{ id: number; code: string; name: string }>(
      'SELECT id, code, name FROM item_group WHERE company_id = ? ORDER BY code',
      [companyId],
    ),
    sql.rows<{ id: number; number: string; name: string }>(
      'SELECT id, code AS number, name FROM sales_organisation WHERE company_id = ? ORDER BY code',
      [companyId],
    ),
  ]);
  return { groups, organisations };
}

/** Items by id, as a line takes them, with what is free of each. */
export async function itemChoices(sql: Sql, companyId: number, ids: readonly number[], customerId: number) {
  const rows =
    ids.length === 0 ? [] : await itemsWhere(sql, 'i.company_id = ? AND i.id IN (?)', { customerId }, [companyId, ids]);
  return new Map(rows.map((row) => [row.id, { item: choiceOf(row), free: row.free ?? '0' }]));
}

/** Items by their exact number, or by the number a customer calls them; what is not found is left out. */
export async function itemsNamed(sql: Sql, companyId: number, numbers: readonly string[], customerId: number) {
  const asked = [...new Set(numbers.map((each) => each.trim()).filter((each) => each !== ''))];
  if (asked.length === 0) return { rows: [] };
  const rows = await itemsWhere(sql, 'i.company_id = ? AND (i.number IN (?) OR ci.number IN (?))', { customerId }, [
    companyId,
    asked,
    asked,
  ]);
  const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  return {
    rows: asked.flatMap((each) => {
      // Their own number goes before ours: it is theirs that they wrote.
      const found = rows.find((row) => same(row.theirNumber ?? '', each)) ?? rows.find((row) => same(row.number, each));
      return found ? [{ asked: each, item: choiceOf(found) }] : [];
    }),
  };
}

/** Where an item is on hand, the main location first. */
async function placesOf(sql: Sql, companyId: number, itemId: number) {
  const rows = await sql.rows<{ id: number; code: string; name: string; onHand: string; reserved: string }>(
    `SELECT l.id, l.code, l.name, s.on_hand, s.reserved FROM stock s
       JOIN location l ON l.company_id = s.company_id AND l.id = s.location_id
      WHERE s.company_id = ? AND s.item_id = ? AND s.on_hand > 0 ORDER BY l.id`,
    [companyId, itemId],
  );
  return rows.map(({ id, code, name, onHand, reserved }) => ({
    location: { id, code, name },
    onHand,
    free: id === UNDER_WAY ? '0' : dec(onHand).minus(reserved).toFixed(),
  }));
}
