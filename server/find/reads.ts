import type * as z from 'zod';
import type * as contract from '@api/find';
import { likeOf, type Sql } from '../db';

type Found = z.infer<typeof contract.Found>;

const EACH = 5;

/** Every kind that can be found: where its number is, what is shown beside it, what else its words may be in. */
const KINDS: readonly { kind: Found['kind']; from: string; name: string; also?: string }[] = [
  { kind: 'customer', from: 'customer d', name: 'd.name', also: 'd.phone' },
  { kind: 'vendor', from: 'vendor d', name: 'd.name' },
  { kind: 'item', from: 'item d', name: 'd.name' },
  {
    kind: 'AG',
    from: `agreement d LEFT JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id
      LEFT JOIN vendor v ON v.company_id = d.company_id AND v.id = d.vendor_id`,
    name: "CONCAT(COALESCE(p.name, v.name), IF(d.title = '', '', CONCAT(', ', d.title)))",
  },
  {
    kind: 'SO',
    from: 'sales_order d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
    name: 'p.name',
    also: 'd.customer_reference',
  },
  {
    kind: 'PO',
    from: 'purchase_order d JOIN vendor p ON p.company_id = d.company_id AND p.id = d.vendor_id',
    name: 'p.name',
  },
  {
    kind: 'RC',
    from: 'receipt d JOIN vendor p ON p.company_id = d.company_id AND p.id = d.vendor_id',
    name: 'p.name',
  },
  {
    kind: 'SH',
    from: 'shipment d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
    name: 'p.name',
  },
  {
    kind: 'CI',
    from: 'customer_invoice d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
    name: 'p.name',
  },
  {
    kind: 'VI',
    from: 'vendor_invoice d JOIN vendor p ON p.company_id = d.company_id AND p.id = d.vendor_id',
    name: 'p.name',
    also: 'd.vendor_number',
  },
  {
    kind: 'CN',
    from: 'credit_note d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
    name: 'p.name',
    also: 'd.reason',
  },
  {
    kind: 'PP',
    from: 'prepayment d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
    name: 'p.name',
  },
];

/** Documents, parties and items whose number or name holds the words; 5 of a kind, newest first. */
export async function find(sql: Sql, companyId: number, words: string): Promise<{ rows: Found[] }> {
  if (words.trim().length < 2) return { rows: [] };
  const like = likeOf(words);
  const found = await Promise.all(
    KINDS.map(async ({ kind, from, name, also }) => {
      const columns = ['d.number', name, ...(also ? [also] : [])];
      const rows = await sql.rows<{ id: number; number: string; name: string }>(
        `SELECT d.id, d.number, ${name} AS name FROM ${from}
          WHERE d.company_id = ? AND (${columns.map((column) => `${column} LIKE ?`).join(' OR ')})
          ORDER BY d.id DESC LIMIT ${EACH}`,
        [companyId, ...columns.map(() => like)],
      );
      return rows.map((row) => ({ kind, ...row }));
    }),
  );
  return { rows: found.flat() };
}
