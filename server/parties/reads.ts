import type * as z from 'zod';
import { dec, sum, type Day, type DocumentRef } from '@core/kernel';
import type * as contract from '@api/parties';
import { orNotFound } from '../acts';
import { likeOf, type Sql, type Columns } from '../db';
import { shipTosOf } from './addresses';
import type { Contact, Customer, Vendor } from './tables';
import type { Agreement } from '../agreements/tables';

type CustomerSheet = z.infer<typeof contract.CustomerSheet>;
type VendorSheet = z.infer<typeof contract.VendorSheet>;

/** All the people of a party `d`, with their numbers, in one text: what it is found by besides its own. */
export const peopleOf = (of: 'customer' | 'vendor') =>
  `COALESCE((SELECT GROUP_CONCAT(k.name, ' ', k.phone SEPARATOR ', ') FROM contact k
     WHERE k.company_id = d.company_id AND k.${of}_id = d.id), '')`;

/** The person of a party `d` whose name or phone was looked for. */
const contactLike = (of: 'customer' | 'vendor') =>
  `(SELECT CONCAT(k.name, ', ', k.phone) FROM contact k WHERE k.company_id = d.company_id AND k.${of}_id = d.id
      AND (k.name LIKE ? OR k.phone LIKE ?) ORDER BY k.id LIMIT 1)`;

/** The people at a party, by name. */
const contactsOf = (sql: Sql, companyId: number, of: 'customer' | 'vendor', id: number) =>
  sql.rows<Columns<Contact, 'id name work phone email'>>(
    `SELECT id, name, work, phone, email FROM contact WHERE company_id = ? AND ${of}_id = ? ORDER BY name`,
    [companyId, id],
  );

/** Customers by any part of name, number or phone; 12 at most. */
export async function findCustomers(
  sql: Sql,
  companyId: number,
  words: string,
): Promise<z.infer<typeof contract.findCustomers.out>> {
  const like = likeOf(words);
  const rows = await sql.rows<Columns<Customer, 'id number name phone referenceRequired'> & { contact: string | null }>(
    `SELECT d.id, d.number, d.name, d.phone, d.reference_required, ${contactLike('customer')} AS contact FROM customer d
      WHERE d.company_id = ? AND d.out_of_use = FALSE AND (d.name LIKE ? OR d.number LIKE ? OR d.phone LIKE ? OR ${peopleOf('customer')} LIKE ?)
      ORDER BY d.name LIMIT 12`,
    [like, like, companyId, like, like, like, like],
  );
  return {
    rows: await Promise.all(
      rows.map(async (row) => {
        const [shipTos, usual] = [await shipTosOf(sql, companyId, row.id), await usualShipTo(sql, companyId, row.id)];
        return {
          id: row.id,
          number: row.number,
          name: row.name,
          detail: row.contact ?? row.phone,
          referenceRequired: row.referenceRequired,
          shipTos: [...shipTos.filter(({ id }) => id === usual), ...shipTos.filter(({ id }) => id !== usual)],
          usualShipToId: usual,
        };
      }),
    ),
  };
}

/** Of so many last orders of a customer, where most go to; of equals where the newest goes. */
const LAST_ORDERS = 20;

async function usualShipTo(sql: Sql, companyId: number, customerId: number): Promise<number | null> {
  const [found] = await sql.rows<{ id: number }>(
    `SELECT ship_to_id AS id FROM (
       SELECT id, ship_to_id FROM sales_order FORCE INDEX (sales_order_customer)
        WHERE company_id = ? AND customer_id = ? ORDER BY id DESC LIMIT ?) o
      WHERE ship_to_id IS NOT NULL GROUP BY ship_to_id ORDER BY COUNT(*) DESC, MAX(id) DESC LIMIT 1`,
    [companyId, customerId, LAST_ORDERS],
  );
  return found?.id ?? null;
}

/** Vendors by any part of name, number or phone; 12 at most. */
export async function findVendors(
  sql: Sql,
  companyId: number,
  words: string,
): Promise<z.infer<typeof contract.findVendors.out>> {
  const like = likeOf(words);
  const rows = await sql.rows<Columns<Vendor, 'id number name phone'> & { contact: string | null }>(
    `SELECT d.id, d.number, d.name, d.phone, ${contactLike('vendor')} AS contact FROM vendor d
      WHERE d.company_id = ? AND d.out_of_use = FALSE AND (d.name LIKE ? OR d.number LIKE ? OR d.phone LIKE ? OR ${peopleOf('vendor')} LIKE ?)
      ORDER BY d.name LIMIT 12`,
    [like, like, companyId, like, like, like, like],
  );
  return {
    rows: rows.map(({ phone, contact, ...row }) => ({
      ...row,
      detail: contact ?? phone,
      referenceRequired: false,
      shipTos: [],
      usualShipToId: null,
    })),
  };
}

type PartyRow = Columns<Vendor, 'id number name phone email taxNumber currency'> & { terms: string };

/** A customer, what they owe and the open items that make it. The balance is their sum, nothing else. */
export async function openCustomer(sql: Sql, companyId: number, id: number): Promise<CustomerSheet> {
  const [found] = await sql.rows<PartyRow & { referenceRequired: boolean }>(
    `SELECT c.id, c.number, c.name, c.phone, c.email, c.tax_number, c.currency, pt.name AS terms, c.reference_required
       FROM customer c JOIN payment_terms pt ON pt.company_id = c.company_id AND pt.id = c.payment_terms_id
      WHERE c.company_id = ? AND c.id = ?`,
    [companyId, id],
  );
  const { referenceRequired, ...party } = orNotFound(found, 'This customer');
  const [shipTos, contacts, openItems, agreements] = await Promise.all([
    shipTosOf(sql, companyId, id),
    contactsOf(sql, companyId, 'customer', id),
    openItemsOf(sql, companyId, 'customer', id),
    agreementsWith(sql, companyId, 'customer', id),
  ]);
  return {
    ...party,
    referenceRequired,
    shipTos,
    contacts,
    balance: sum(openItems.map((item) => dec(item.owed))).toFixed(),
    openItems,
    agreements,
  };
}

/** Agreements with a party, newest first; 50 at most. */
async function agreementsWith(
  sql: Sql,
  companyId: number,
  side: 'customer' | 'vendor',
  id: number,
): Promise<CustomerSheet['agreements']> {
  const rows = await sql.rows<Columns<Agreement, 'id number lastDay title'> & { state: string }>(
    `SELECT id, number, state, last_day, title FROM agreement WHERE company_id = ? AND ${side}_id = ? ORDER BY id DESC LIMIT 50`,
    [companyId, id],
  );
  return rows.map((row) => ({
    document: { kind: 'AG', id: row.id, number: row.number },
    state: row.state,
    lastDay: row.lastDay,
    title: row.title,
  }));
}

/** A vendor, what we owe them, and what they sell us. */
export async function openVendor(sql: Sql, companyId: number, id: number): Promise<VendorSheet> {
  const [found] = await sql.rows<PartyRow & { address: string }>(
    `SELECT v.id, v.number, v.name, v.phone, v.email, v.tax_number, v.currency,
            TRIM(BOTH ', ' FROM CONCAT_WS(', ', v.street, TRIM(CONCAT(v.postcode, ' ', v.town)))) AS address, pt.name AS terms
       FROM vendor v JOIN payment_terms pt ON pt.company_id = v.company_id AND pt.id = v.payment_terms_id
      WHERE v.company_id = ? AND v.id = ?`,
    [companyId, id],
  );
  const party = orNotFound(found, 'This vendor');
  const [contacts, openItems, agreements, items] = await Promise.all([
    contactsOf(sql, companyId, 'vendor', id),
    openItemsOf(sql, companyId, 'vendor', id),
    agreementsWith(sql, companyId, 'vendor', id),
    sql.rows<{
      id: number;
      number: string;
      name: string;
      unitPrice: string;
      leadDays: number;
      preferred: boolean;
    }>(
      `SELECT i.id, i.number, i.name, iv.unit_price, iv.lead_days, iv.preferred
         FROM item_vendor iv JOIN item i ON i.company_id = iv.company_id AND i.id = iv.item_id
        WHERE iv.company_id = ? AND iv.vendor_id = ? ORDER BY i.number`,
      [companyId, id],
    ),
  ]);
  return {
    ...party,
    contacts,
    balance: sum(openItems.map((item) => dec(item.owed))).toFixed(),
    agreements,
    openItems,
    items,
  };
}

async function openItemsOf(
  sql: Sql,
  companyId: number,
  side: 'customer' | 'vendor',
  partyId: number,
): Promise<CustomerSheet['openItems']> {
  const rows = await sql.rows<{
    kind: 'CI' | 'VI' | 'CN';
    id: number;
    number: string;
    sourceKind: 'SO' | 'PO' | 'AG' | 'JR';
    sourceId: number;
    sourceNumber: string;
    dueDate: Day;
    amount: string;
    settled: string;
  }>(OPEN_ITEMS[side], [companyId, partyId]);
  return rows.map((row) => ({
    invoice: { kind: row.kind, id: row.id, number: row.number } satisfies DocumentRef,
    source: { kind: row.sourceKind, id: row.sourceId, number: row.sourceNumber } satisfies DocumentRef,
    dueDate: row.dueDate,
    amount: row.amount,
    settled: row.settled,
    owed: dec(row.amount).minus(row.settled).toFixed(),
  }));
}

/** Open items with the document they come from; what stands to a customer's credit is below zero. */
const OPEN_ITEMS = {
  customer: `SELECT IF(oi.credit_note_id IS NULL, 'CI', 'CN') AS kind, COALESCE(i.id, n.id) AS id, COALESCE(i.number, n.number) AS number,
            CASE WHEN o.id IS NOT NULL THEN 'SO' WHEN a.id IS NOT NULL THEN 'AG' ELSE 'JR' END AS source_kind,
            COALESCE(o.id, a.id, j.id) AS source_id, COALESCE(o.number, a.number, j.number) AS source_number,
            oi.due_date, oi.amount, oi.settled
       FROM open_item oi
       LEFT JOIN customer_invoice i ON i.company_id = oi.company_id AND i.id = oi.customer_invoice_id
       LEFT JOIN credit_note n ON n.company_id = oi.company_id AND n.id = oi.credit_note_id
       LEFT JOIN sales_order o ON o.company_id = oi.company_id AND o.id = COALESCE(i.order_id, n.order_id)
       LEFT JOIN agreement a ON a.company_id = oi.company_id AND a.id = COALESCE(i.agreement_id, n.agreement_id)
       LEFT JOIN journal j ON j.company_id = oi.company_id AND (i.opening OR n.opening)
         AND j.document_kind = IF(n.id IS NULL, 'CI', 'CN') AND j.document_id = COALESCE(i.id, n.id)
      WHERE oi.company_id = ? AND oi.customer_id = ? AND oi.settled <> oi.amount ORDER BY oi.due_date, oi.id`,
  vendor: `SELECT 'VI' AS kind, i.id, i.number, IF(s.id IS NULL, 'JR', 'PO') AS source_kind, COALESCE(s.id, j.id) AS source_id,
            COALESCE(s.number, j.number) AS source_number,
            oi.due_date, oi.amount, oi.settled
       FROM open_item oi
       JOIN vendor_invoice i ON i.company_id = oi.company_id AND i.id = oi.vendor_invoice_id
       LEFT JOIN purchase_order s ON s.company_id = i.company_id AND s.id = i.purchase_order_id
       LEFT JOIN journal j ON j.company_id = oi.company_id AND i.opening AND j.document_kind = 'VI' AND j.document_id = i.id
      WHERE oi.company_id = ? AND oi.vendor_id = ? AND oi.settled <> oi.amount ORDER BY oi.due_date, oi.id`,
} as const;
