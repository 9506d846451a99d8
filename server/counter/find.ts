import type * as z from 'zod';
import { readGs1, readGtin } from '@core/catalogue';
import { documentNumber } from '@core/kernel';
import type * as contract from '@api/counter';
import { findItems, itemChoices } from '../catalogue';
import { likeOf, type Sql } from '../db';

type Found = z.infer<typeof contract.counterFind.out>;

const EACH = 6;
/** `SO-1042` or `SL-7`, as it stands on a slip, or what the company writes before such a number. */
async function documentIn(sql: Sql, companyId: number, words: string): Promise<['SO' | 'SL', string] | null> {
  const digits = /\d{1,9}$/.exec(words)?.[0];
  if (digits === undefined) return null;
  const rows = await sql.rows<{ kind: 'SO' | 'SL'; prefix: string }>(
    "SELECT kind, prefix FROM number_series WHERE company_id = ? AND kind IN ('SO', 'SL')",
    [companyId],
  );
  const before = words.slice(0, -digits.length).toUpperCase();
  const series = rows.find(({ prefix }) =>
    [prefix, prefix.replace(/[-/.]$/, '')].some((each) => each.toUpperCase() === before),
  );
  return series ? [series.kind, documentNumber(series.kind, Number(digits), series.prefix)] : null;
}

/** What may be meant at the counter: exact numbers and codes before names; phone numbers by their digits. // C1 C2 C7 */
export async function counterFind(
  sql: Sql,
  companyId: number,
  { q, customerId = 0 }: { q: string; customerId?: number | undefined },
): Promise<Found> {
  const words = q.trim();
  if (words === '') return { items: [], parties: [], orders: [], slips: [] };
  const gtin = readGtin(words) ?? readGs1(words)?.gtin ?? null;
  if (gtin !== null)
    return { items: await byCode(sql, companyId, gtin, customerId), parties: [], orders: [], slips: [] };
  const document = await documentIn(sql, companyId, words);
  if (document) {
    const [kind, number] = document;
    return {
      items: [],
      parties: [],
      orders: kind === 'SO' ? await ordersWhere(sql, 'o.company_id = ? AND o.number = ?', [companyId, number]) : [],
      slips: kind === 'SL' ? await slipsNumbered(sql, companyId, number) : [],
    };
  }
  const { rows: items } = await findItems(sql, companyId, words, { customerId });
  const parties = await partiesBy(sql, companyId, words);
  // What somebody with a name had kept is theirs, not all that waits of whom they belong to.
  const people = parties.flatMap(({ contact }) => contact?.id ?? []);
  const customers = parties.flatMap(({ contact, customer }) => (contact === null ? [customer.id] : []));
  const orders = await ordersWhere(
    sql,
    `o.company_id = ? AND (o.customer_id IN (?) OR o.contact_id IN (?)) AND o.state IN ('draft', 'confirmed')
        AND (o.counter_day IS NOT NULL OR o.state = 'confirmed')`,
    [companyId, customers, people],
  );
  return { items: items.slice(0, EACH).map((item) => ({ ...item, many: '1' })), parties, orders, slips: [] };
}

async function byCode(sql: Sql, companyId: number, gtin: string, customerId: number): Promise<Found['items']> {
  const [code] = await sql.rows<{ itemId: number; quantity: string }>(
    'SELECT item_id, quantity FROM item_bar_code WHERE company_id = ? AND code = ?',
    [companyId, gtin],
  );
  if (!code) return [];
  const item = (await itemChoices(sql, companyId, [code.itemId], customerId)).get(code.itemId)!.item;
  return [{ ...item, many: code.quantity }];
}

/** Customers and their people by number, name, or the digits of a phone number. */
async function partiesBy(sql: Sql, companyId: number, words: string): Promise<Found['parties']> {
  const digits = words.replace(/\D/g, '');
  const phone = digits.length >= 5 && /^[\d\s+()-]+$/.test(words) ? likeOf(digits) : null;
  const plain = (column: string) => `REGEXP_REPLACE(${column}, '[^0-9]', '')`;
  interface PartyRow {
    id: number;
    number: string;
    name: string;
    phone: string;
    contactId: number;
    contact: string;
  }
  const people = await sql.rows<PartyRow>(
    `SELECT c.id, c.number, c.name, k.phone, k.id AS contact_id, k.name AS contact
       FROM contact k JOIN customer c ON c.company_id = k.company_id AND c.id = k.customer_id
      WHERE k.company_id = ? AND (k.name LIKE ?${phone ? ` OR ${plain('k.phone')} LIKE ?` : ''}) ORDER BY k.name LIMIT ${EACH}`,
    [companyId, likeOf(words), ...(phone ? [phone] : [])],
  );
  const customers = await sql.rows<Omit<PartyRow, 'contactId' | 'contact'>>(
    `SELECT c.id, c.number, c.name, c.phone FROM customer c
      WHERE c.company_id = ? AND (c.number LIKE ? OR c.name LIKE ?${phone ? ` OR ${plain('c.phone')} LIKE ?` : ''}) ORDER BY c.name LIMIT ${EACH}`,
    [companyId, likeOf(words), likeOf(words), ...(phone ? [phone] : [])],
  );
  const rows = [...people, ...customers.map((row) => ({ ...row, contactId: null, contact: null }))].slice(0, EACH);
  return rows.map(({ id, number, name, phone: their, contactId, contact }) => ({
    customer: { id, number, name },
    contact: contactId === null ? null : { id: contactId, name: contact! },
    phone: their,
  }));
}

async function ordersWhere(
  sql: Sql,
  where: string,
  values: readonly (number | string | readonly number[])[],
): Promise<Found['orders']> {
  const rows = await sql.rows<{
    id: number;
    number: string;
    state: Found['orders'][number]['state'];
    net: string;
    currency: string;
    day: string;
    partyId: number;
    partyNumber: string;
    partyName: string;
  }>(
    `SELECT o.id, o.number, o.state, o.net, o.currency, o.order_date AS day, c.id AS party_id, c.number AS party_number, c.name AS party_name
       FROM sales_order o JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE ${where} ORDER BY o.counter_day IS NULL, o.id DESC LIMIT ${EACH}`,
    [...values],
  );
  return rows.map(({ id, number, state, net, currency, day, partyId, partyNumber, partyName }) => ({
    order: { kind: 'SO', id, number },
    state,
    net,
    currency,
    day,
    customer: { id: partyId, number: partyNumber, name: partyName },
  }));
}

async function slipsNumbered(sql: Sql, companyId: number, number: string): Promise<Found['slips']> {
  const rows = await sql.rows<{
    id: number;
    number: string;
    soldOn: string;
    total: string;
    partyId: number;
    partyNumber: string;
    partyName: string;
  }>(
    `SELECT s.id, s.number, s.sold_on, s.total, c.id AS party_id, c.number AS party_number, c.name AS party_name
       FROM slip s JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id WHERE s.company_id = ? AND s.number = ?`,
    [companyId, number],
  );
  return rows.map(({ id, number: found, soldOn, total, partyId, partyNumber, partyName }) => ({
    slip: { kind: 'SL', id, number: found },
    soldOn,
    total,
    customer: { id: partyId, number: partyNumber, name: partyName },
  }));
}
