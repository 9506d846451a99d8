import type * as z from 'zod';
import { dec, sum, type Day, type DocumentRef } from '@core/kernel';
import type * as contract from '@api/parties';
import { there } from '../acts';
import type { Sql } from '../db/database';
import { likeOf, plain, shipTosOf } from '../db/mapping';

type CustomerSheet = z.infer<typeof contract.CustomerSheet>;
type VendorSheet = z.infer<typeof contract.VendorSheet>;

/** Customers by any part of name, number or phone; 12 at most. */
export async function findCustomers(
  sql: Sql,
  companyId: number,
  words: string,
): Promise<z.infer<typeof contract.findCustomers.out>> {
  const like = likeOf(words);
  const rows = await sql.rows<{
    id: number;
    number: string;
    name: string;
    phone: string;
    reference_required: number;
  }>(
    `SELECT id, number, name, phone, reference_required FROM customer
      WHERE company_id = ? AND (name LIKE ? OR number LIKE ? OR phone LIKE ?) ORDER BY name LIMIT 12`,
    [companyId, like, like, like],
  );
  return {
    rows: await Promise.all(
      rows.map(async (row) => ({
        id: row.id,
        number: row.number,
        name: row.name,
        detail: row.phone,
        referenceRequired: Boolean(row.reference_required),
        shipTos: await shipTosOf(sql, companyId, row.id),
      })),
    ),
  };
}

interface PartyRow {
  id: number;
  number: string;
  name: string;
  phone: string;
  currency: string;
  terms: string;
}

/** A customer, what they owe and the open items that make it. The balance is their sum, nothing else. */
export async function openCustomer(sql: Sql, companyId: number, id: number): Promise<CustomerSheet> {
  const [found] = await sql.rows<PartyRow & { reference_required: number }>(
    `SELECT c.id, c.number, c.name, c.phone, c.currency, pt.name AS terms, c.reference_required
       FROM customer c JOIN payment_terms pt ON pt.company_id = c.company_id AND pt.id = c.payment_terms_id
      WHERE c.company_id = ? AND c.id = ?`,
    [companyId, id],
  );
  const { reference_required, ...party } = there(found, 'This customer');
  const [shipTos, openItems, agreements] = await Promise.all([
    shipTosOf(sql, companyId, id),
    openItemsOf(sql, companyId, 'customer', id),
    sql.rows<{ id: number; number: string; state: string; last_day: Day; title: string }>(
      'SELECT id, number, state, last_day, title FROM agreement WHERE company_id = ? AND customer_id = ? ORDER BY id DESC LIMIT 50',
      [companyId, id],
    ),
  ]);
  return {
    ...party,
    referenceRequired: Boolean(reference_required),
    shipTos,
    balance: sum(openItems.map((item) => dec(item.owed))).toFixed(),
    openItems,
    agreements: agreements.map((row) => ({
      document: { kind: 'AG', id: row.id, number: row.number },
      state: row.state,
      lastDay: row.last_day,
      title: row.title,
    })),
  };
}

/** A vendor, what we owe them, and what they sell us. */
export async function openVendor(sql: Sql, companyId: number, id: number): Promise<VendorSheet> {
  const [found] = await sql.rows<PartyRow>(
    `SELECT v.id, v.number, v.name, v.phone, v.currency, pt.name AS terms
       FROM vendor v JOIN payment_terms pt ON pt.company_id = v.company_id AND pt.id = v.payment_terms_id
      WHERE v.company_id = ? AND v.id = ?`,
    [companyId, id],
  );
  const party = there(found, 'This vendor');
  const [openItems, items] = await Promise.all([
    openItemsOf(sql, companyId, 'vendor', id),
    sql.rows<{
      id: number;
      number: string;
      name: string;
      unit_price: string;
      lead_days: number;
      preferred: number;
    }>(
      `SELECT i.id, i.number, i.name, iv.unit_price, iv.lead_days, iv.preferred
         FROM item_vendor iv JOIN item i ON i.company_id = iv.company_id AND i.id = iv.item_id
        WHERE iv.company_id = ? AND iv.vendor_id = ? ORDER BY i.number`,
      [companyId, id],
    ),
  ]);
  return {
    ...party,
    balance: sum(openItems.map((item) => dec(item.owed))).toFixed(),
    openItems,
    items: items.map((row) => ({
      id: row.id,
      number: row.number,
      name: row.name,
      unitPrice: plain(row.unit_price),
      leadDays: row.lead_days,
      preferred: Boolean(row.preferred),
    })),
  };
}

async function openItemsOf(
  sql: Sql,
  companyId: number,
  side: 'customer' | 'vendor',
  partyId: number,
): Promise<CustomerSheet['openItems']> {
  const [kind, sourceKind, source, column] =
    side === 'customer'
      ? (['CI', 'SO', 'sales_order', 'order_id'] as const)
      : (['VI', 'PO', 'purchase_order', 'purchase_order_id'] as const);
  const rows = await sql.rows<{
    invoice_id: number;
    number: string;
    source_id: number;
    source_number: string;
    due_date: Day;
    amount: string;
    settled: string;
  }>(
    `SELECT i.id AS invoice_id, i.number, s.id AS source_id, s.number AS source_number, oi.due_date, oi.amount, oi.settled
       FROM open_item oi
       JOIN ${side}_invoice i ON i.company_id = oi.company_id AND i.id = oi.${side}_invoice_id
       JOIN ${source} s ON s.company_id = i.company_id AND s.id = i.${column}
      WHERE oi.company_id = ? AND oi.${side}_id = ? AND oi.settled < oi.amount ORDER BY oi.due_date, oi.id`,
    [companyId, partyId],
  );
  return rows.map((row) => ({
    invoice: { kind, id: row.invoice_id, number: row.number } satisfies DocumentRef,
    source: { kind: sourceKind, id: row.source_id, number: row.source_number } satisfies DocumentRef,
    dueDate: row.due_date,
    amount: plain(row.amount),
    settled: plain(row.settled),
    owed: dec(row.amount).minus(row.settled).toFixed(),
  }));
}
