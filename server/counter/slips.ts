import type * as z from 'zod';
import { addDays, dec, type Day } from '@core/kernel';
import type * as contract from '@api/counter';
import { orNotFound } from '../acts';
import { openCreditNote, openInvoice } from '../billing';
import { likeOf, pageById, type Sql } from '../db';

type Out<E extends { out: z.ZodType }> = z.infer<E['out']>;

interface SlipHead {
  id: number;
  number: string;
  till: string;
  drawerId: number;
  drawerNumber: string;
  partyId: number;
  partyNumber: string;
  partyName: string;
  nobody: number;
  currency: string;
  soldOn: Day;
  soldAt: string;
  soldBy: string;
  invoiceId: number | null;
  invoiceNumber: string | null;
  noteId: number | null;
  noteNumber: string | null;
  returnsId: number | null;
  returnsNumber: string | null;
  total: string;
  covered: string;
  deposited: string;
  given: string;
  changeGiven: string;
  days: number;
}

const SLIP = `SELECT s.id, s.number, t.name AS till, d.id AS drawer_id, d.number AS drawer_number, c.id AS party_id, c.number AS party_number,
       c.name AS party_name, c.id <=> y.counter_customer_id AS nobody, s.currency, s.sold_on, s.sold_at, p.name AS sold_by,
       i.id AS invoice_id, i.number AS invoice_number, n.id AS note_id, n.number AS note_number, r.id AS returns_id, r.number AS returns_number,
       s.total, s.covered, s.deposited, s.given, s.change_given, y.return_days AS days
  FROM slip s
  JOIN drawer d ON d.company_id = s.company_id AND d.id = s.drawer_id
  JOIN till t ON t.company_id = d.company_id AND t.id = d.till_id
  JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
  JOIN company y ON y.id = s.company_id
  JOIN person p ON p.id = s.sold_by
  LEFT JOIN customer_invoice i ON i.company_id = s.company_id AND i.id = s.customer_invoice_id
  LEFT JOIN credit_note n ON n.company_id = s.company_id AND n.id = s.credit_note_id
  LEFT JOIN slip r ON r.company_id = s.company_id AND r.id = s.returns_id`;

const ref = <K extends string>(kind: K, id: number | null, number: string | null) =>
  id === null ? null : { kind, id, number: number! };

/** One slip, whole. */
export async function openSlip(sql: Sql, companyId: number, id: number): Promise<Out<typeof contract.openSlip>> {
  const [head] = await sql.rows<SlipHead>(`${SLIP} WHERE s.company_id = ? AND s.id = ?`, [companyId, id]);
  const slip = orNotFound(head, 'This slip');
  const [orders, back, payments, waiting, invoice, note] = await Promise.all([
    sql.rows<{ id: number; number: string }>(
      `SELECT o.id, o.number FROM slip_order x JOIN sales_order o ON o.company_id = x.company_id AND o.id = x.order_id
        WHERE x.company_id = ? AND x.slip_id = ? ORDER BY o.id`,
      [companyId, id],
    ),
    sql.rows<{ id: number; number: string }>(
      'SELECT id, number FROM slip WHERE company_id = ? AND returns_id = ? ORDER BY id',
      [companyId, id],
    ),
    sql.rows<{
      kind: 'cash' | 'card' | 'voucher' | 'account';
      invoiced: string;
      deposited: string;
      rounding: string;
      voucher: string | null;
    }>(
      `SELECT p.kind, p.invoiced, p.deposited, p.rounding, n.number AS voucher FROM slip_payment p
         LEFT JOIN credit_note n ON n.company_id = p.company_id AND n.id = p.credit_note_id
        WHERE p.company_id = ? AND p.slip_id = ? ORDER BY p.id`,
      [companyId, id],
    ),
    sql.rows<{
      orderId: number;
      orderNumber: string;
      id: number;
      number: string;
      name: string;
      unit: string;
      quantity: string;
      shipDate: Day;
    }>(
      `SELECT o.id AS order_id, o.number AS order_number, i.id, i.number, i.name, i.unit, l.quantity - l.cancelled - l.shipped AS quantity, l.ship_date
         FROM slip_order x
         JOIN sales_order o ON o.company_id = x.company_id AND o.id = x.order_id AND o.state IN ('draft', 'confirmed')
         JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id AND l.quantity - l.cancelled > l.shipped
         JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
        WHERE x.company_id = ? AND x.slip_id = ? ORDER BY o.id, l.line_no`,
      [companyId, id],
    ),
    slip.invoiceId === null ? null : openInvoice(sql, companyId, 'customer', slip.invoiceId),
    slip.noteId === null ? null : openCreditNote(sql, companyId, slip.noteId),
  ]);
  const lines = invoice
    ? invoice.lines.flatMap((line) =>
        line.item.id === null
          ? []
          : [
              {
                id: line.id,
                item: { ...line.item, id: line.item.id },
                byNumber: line.numbers.length > 0,
                quantity: line.quantity,
                left: line.creditable ?? '0',
                unitPrice: line.unitPrice,
                net: line.net,
                tax: line.taxCode,
                numbers: line.numbers.map(({ number }) => number),
              },
            ],
      )
    : (note?.lines ?? []).map((line, at) => ({
        id: at + 1,
        item: line.item,
        byNumber: line.numbers.length > 0,
        quantity: dec(line.quantity).neg().toFixed(),
        left: '0',
        unitPrice: line.unitPrice,
        net: dec(line.net).neg().toFixed(),
        tax: line.taxCode,
        numbers: line.numbers.map(({ number }) => number),
      }));
  return {
    document: { kind: 'SL', id, number: slip.number },
    till: slip.till,
    drawer: { kind: 'DR', id: slip.drawerId, number: slip.drawerNumber },
    customer: { id: slip.partyId, number: slip.partyNumber, name: slip.partyName },
    named: slip.nobody === 0,
    currency: slip.currency,
    soldOn: slip.soldOn,
    soldAt: slip.soldAt,
    soldBy: slip.soldBy,
    invoice: ref('CI', slip.invoiceId, slip.invoiceNumber),
    creditNote: ref('CN', slip.noteId, slip.noteNumber),
    returns: ref('SL', slip.returnsId, slip.returnsNumber),
    broughtBack: back.map((each) => ({ kind: 'SL', ...each })),
    orders: orders.map((each) => ({ kind: 'SO', ...each })),
    total: slip.total,
    covered: slip.covered,
    deposited: slip.deposited,
    given: slip.given,
    change: slip.changeGiven,
    backUntil: addDays(slip.soldOn, slip.days),
    lines,
    taxes: invoice?.taxes ?? note?.taxes ?? [],
    payments: payments.map((each) => ({ ...each, voucher: each.voucher ?? '' })),
    waiting: waiting.map(({ orderId, orderNumber, quantity, shipDate, ...item }) => ({
      order: { kind: 'SO', id: orderId, number: orderNumber },
      item,
      quantity,
      shipDate,
    })),
  };
}

/** Slips, newest first. */
export async function listSlips(
  sql: Sql,
  companyId: number,
  query: z.output<typeof contract.listSlips.query>,
): Promise<Out<typeof contract.listSlips>> {
  const like = query.q?.trim() ? likeOf(query.q) : null;
  return pageById(
    (before, most) =>
      sql.rows<SlipHead & { kinds: string | null }>(
        `${SLIP.replace(
          'SELECT ',
          `SELECT (SELECT GROUP_CONCAT(DISTINCT k.kind ORDER BY k.kind SEPARATOR ', ') FROM slip_payment k
             WHERE k.company_id = s.company_id AND k.slip_id = s.id) AS kinds, `,
        )}
          WHERE s.company_id = ? AND s.id < ? ${query.drawer === undefined ? '' : 'AND s.drawer_id = ?'}
            ${like === null ? '' : 'AND (s.number LIKE ? OR c.name LIKE ?)'} ORDER BY s.id DESC LIMIT ?`,
        [
          companyId,
          before,
          ...(query.drawer === undefined ? [] : [query.drawer]),
          ...(like === null ? [] : [like, like]),
          most,
        ],
      ),
    query,
    (row) => ({
      document: { kind: 'SL' as const, id: row.id, number: row.number },
      till: row.till,
      customer: { id: row.partyId, number: row.partyNumber, name: row.partyName },
      soldOn: row.soldOn,
      soldBy: row.soldBy,
      total: row.total,
      deposited: row.deposited,
      currency: row.currency,
      paidBy: row.kinds ?? '',
    }),
  );
}
