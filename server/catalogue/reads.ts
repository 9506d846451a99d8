import type * as z from 'zod';
import { routeFits, ROUTES, type Route } from '@core/catalogue';
import type * as agreements from '@api/agreements';
import type * as contract from '@api/catalogue';
import { there } from '../acts';
import type { Bound, Sql } from '../db/database';
import { likeOf, plain } from '../db/mapping';

interface ItemRow {
  id: number;
  number: string;
  name: string;
  unit: string;
  list_price: string;
  route: Route;
  stocked: number;
  vendors: number;
  on_hand: string | null;
  value: string | null;
  tax_code: string;
  tax_rate: string;
}

function itemsWhere(sql: Sql, where: string, values: readonly Bound[]): Promise<ItemRow[]> {
  return sql.rows<ItemRow>(
    `SELECT i.id, i.number, i.name, i.unit, i.list_price, i.route, i.stocked,
            (SELECT COUNT(*) FROM item_vendor v WHERE v.company_id = i.company_id AND v.item_id = i.id) AS vendors,
            s.on_hand, s.value, t.code AS tax_code, t.rate AS tax_rate
       FROM item i
       JOIN tax_code t ON t.company_id = i.company_id AND t.id = i.tax_code_id
       LEFT JOIN stock s ON s.company_id = i.company_id AND s.item_id = i.id
      WHERE ${where}`,
    values,
  );
}

function choiceOf(row: ItemRow): z.infer<typeof contract.ItemChoice> {
  const fits = { stocked: Boolean(row.stocked), hasVendor: row.vendors > 0 };
  return {
    id: row.id,
    number: row.number,
    name: row.name,
    unit: row.unit,
    listPrice: plain(row.list_price),
    route: row.route,
    routes: ROUTES.filter((route) => routeFits(route, fits)),
    onHand: plain(row.on_hand ?? '0'),
    taxCode: row.tax_code,
    taxRate: plain(row.tax_rate),
  };
}

/** Items by any part of number or name; 12 at most. */
export async function findItems(sql: Sql, companyId: number, words: string) {
  const like = likeOf(words);
  const rows = await itemsWhere(
    sql,
    'i.company_id = ? AND (i.number LIKE ? OR i.name LIKE ?) ORDER BY i.number LIMIT 12',
    [companyId, like, like],
  );
  return { rows: rows.map(choiceOf) };
}

export async function openItem(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<z.infer<typeof contract.openItem.out>> {
  const [row] = await itemsWhere(sql, 'i.company_id = ? AND i.id = ?', [companyId, id]);
  const found = there(row, 'This item');
  const vendors = await sql.rows<{
    id: number;
    name: string;
    unit_price: string;
    lead_days: number;
    preferred: number;
  }>(
    `SELECT v.id, v.name, iv.unit_price, iv.lead_days, iv.preferred
       FROM item_vendor iv JOIN vendor v ON v.company_id = iv.company_id AND v.id = iv.vendor_id
      WHERE iv.company_id = ? AND iv.item_id = ? ORDER BY iv.preferred DESC, v.name`,
    [companyId, id],
  );
  return {
    ...choiceOf(found),
    taxCode: found.tax_code,
    stockValue: plain(found.value ?? '0'),
    vendors: vendors.map((vendor) => ({
      id: vendor.id,
      name: vendor.name,
      unitPrice: plain(vendor.unit_price),
      leadDays: vendor.lead_days,
      preferred: Boolean(vendor.preferred),
    })),
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
