import type { KeepGround, Target } from '@core/lists';
import { likeOf, type Sql } from '../db';

const GROUP = `(SELECT CONCAT(gi.number, ' ', option_group.name) FROM item gi
    WHERE gi.company_id = option_group.company_id AND gi.id = option_group.item_id)`;
const OPTION = `(SELECT CONCAT(gi.number, ' ', og.name, ' ', ok.number) FROM option_group og
    JOIN item gi ON gi.company_id = og.company_id AND gi.id = og.item_id
    JOIN item ok ON ok.company_id = item_option.company_id AND ok.id = item_option.component_id
    WHERE og.company_id = item_option.company_id AND og.id = item_option.group_id)`;

/** What is named by what it is called everywhere: no row of ours. */
type Said = 'currency' | 'other-currency' | 'iso-currency' | 'time-zone';

/** Accounts that groups of items may have for what is posted. // U2 */
const accountsFor = (role: string) =>
  `(SELECT company_id, id, code, name FROM account WHERE shares_role = '${role}') account`;

/** Where each target is found: what it goes by, and the text a cell shows of it. */
const FOUND: Readonly<Record<Exclude<Target, Said>, { table: string; number: string; name: string; text: string }>> = {
  item: { table: 'item', number: 'number', name: 'name', text: 'number' },
  customer: { table: 'customer', number: 'number', name: 'name', text: 'name' },
  vendor: { table: 'vendor', number: 'number', name: 'name', text: 'name' },
  'price-group': { table: 'price_group', number: "''", name: 'name', text: 'name' },
  series: { table: 'market_series', number: "''", name: 'name', text: 'name' },
  // Who works in the company.
  person: {
    table: '(SELECT DISTINCT r.company_id, p.id, p.name FROM person_role r JOIN person p ON p.id = r.person_id) worker',
    number: "''",
    name: 'name',
    text: 'name',
  },
  contact: { table: 'contact', number: "''", name: 'name', text: 'name' },
  location: { table: 'location', number: 'code', name: 'name', text: 'name' },
  'permit-type': { table: 'permit_type', number: "''", name: 'name', text: 'name' },
  calendar: { table: 'calendar', number: "''", name: 'name', text: 'name' },
  'work-centre': { table: 'work_centre', number: 'code', name: 'name', text: 'code' },
  // A group goes by its item and its name, an option by both and its component.
  'option-group': { table: 'option_group', number: "''", name: GROUP, text: GROUP },
  option: { table: 'item_option', number: "''", name: OPTION, text: OPTION },
  'item-group': { table: 'item_group', number: 'code', name: 'name', text: 'name' },
  'tax-code': { table: 'tax_code', number: 'code', name: 'name', text: 'code' },
  terms: { table: 'payment_terms', number: "''", name: 'name', text: 'name' },
  'revenue-account': { table: accountsFor('revenue'), number: 'code', name: 'name', text: 'code' },
  'cost-account': { table: accountsFor('cost-of-sales'), number: 'code', name: 'name', text: 'code' },
  organisation: { table: 'sales_organisation', number: 'code', name: 'name', text: 'name' },
};

/** Currencies in use; `other-currency` and `iso-currency`: all there are, those in use first, the company's own or not. */
async function said(sql: Sql, companyId: number, target: Said): Promise<string[]> {
  if (target === 'time-zone') return ['UTC', ...Intl.supportedValuesOf('timeZone')];
  const rows = await sql.rows<{ currency: string; own: number }>(
    `SELECT currency, MAX(own) AS own FROM (SELECT currency, 1 AS own FROM company WHERE id = ?
       UNION SELECT currency, 0 FROM customer WHERE company_id = ? UNION SELECT currency, 0 FROM vendor WHERE company_id = ?
       UNION SELECT currency, 0 FROM exchange_rate WHERE company_id = ?) c GROUP BY currency ORDER BY currency`,
    [companyId, companyId, companyId, companyId],
  );
  const used = rows.map((row) => row.currency);
  if (target === 'currency') return used;
  const own = target === 'iso-currency' ? undefined : rows.find((row) => row.own === 1)?.currency;
  return [...new Set([...used, ...Intl.supportedValuesOf('currency')])].filter((code) => code !== own);
}

const isSaid = (target: Target): target is Said =>
  target === 'currency' || target === 'other-currency' || target === 'iso-currency' || target === 'time-zone';

/** The first there is of a target, by an empty text. */
export async function firstNamed(
  sql: Sql,
  companyId: number,
  target: Target,
): Promise<{ id: number | string; text: string } | null> {
  if (isSaid(target)) return null;
  const { table, text } = FOUND[target];
  const [row] = await sql.rows<{ id: number; text: string }>(
    `SELECT id, ${text} AS text FROM ${table} WHERE company_id = ? ORDER BY id LIMIT 1`,
    [companyId],
  );
  return row ?? null;
}

/** What texts name, by their exact number or name; an item only by its number. */
export async function namedBy(
  sql: Sql,
  companyId: number,
  target: Target,
  texts: readonly string[],
): Promise<Map<string, { id: number | string; text: string } | 'several'>> {
  const found = new Map<string, { id: number | string; text: string } | 'several'>();
  if (texts.length === 0) return found;
  if (isSaid(target)) {
    for (const code of await said(sql, companyId, target)) found.set(code.toLowerCase(), { id: code, text: code });
    return found;
  }
  const { table, number, name, text } = FOUND[target];
  const byName = target === 'item' ? '' : ` OR ${name} IN (?)`;
  const rows = await sql.rows<{ id: number; number: string; name: string; text: string }>(
    `SELECT id, ${number} AS number, ${name} AS name, ${text} AS text FROM ${table}
      WHERE company_id = ? AND (${number} IN (?)${byName})`,
    [companyId, texts, ...(byName ? [texts] : [])],
  );
  for (const row of rows) {
    const known = found.get(row.name.toLowerCase());
    if (byName) found.set(row.name.toLowerCase(), known ? 'several' : { id: row.id, text: row.text });
  }
  // A number names one thing, whatever else goes by that name.
  for (const row of rows) if (row.number !== '') found.set(row.number.toLowerCase(), { id: row.id, text: row.text });
  return found;
}

/** The units of items, their own first. */
export async function unitsOf(sql: Sql, companyId: number, itemIds: readonly number[]): Promise<KeepGround['units']> {
  const units = new Map<number, string[]>();
  if (itemIds.length === 0) return units;
  const rows = await sql.rows<{ id: number; unit: string; own: number }>(
    `SELECT id, unit, 1 AS own FROM item WHERE company_id = ? AND id IN (?)
     UNION ALL SELECT item_id, unit, 0 FROM item_unit WHERE company_id = ? AND item_id IN (?) ORDER BY own DESC, unit`,
    [companyId, itemIds, companyId, itemIds],
  );
  for (const row of rows) units.set(row.id, [...(units.get(row.id) ?? []), row.unit]);
  return units;
}

/** What a cell may name, by any part of number or name; 12 at most. */
export async function findNamed(sql: Sql, companyId: number, target: Target, words: string) {
  if (isSaid(target)) {
    const all = await said(sql, companyId, target);
    const codes = all.filter((code) => code.toUpperCase().includes(words.trim().toUpperCase().replaceAll(' ', '_')));
    return { rows: codes.slice(0, 12).map((code, index) => ({ id: index + 1, number: code, name: '' })) };
  }
  const { table, number, name } = FOUND[target];
  const like = likeOf(words);
  return {
    rows: await sql.rows<{ id: number; number: string; name: string }>(
      `SELECT id, ${number} AS number, ${name} AS name FROM ${table}
        WHERE company_id = ? AND (${number} LIKE ? OR ${name} LIKE ?) ORDER BY number, name LIMIT 12`,
      [companyId, like, like],
    ),
  };
}
