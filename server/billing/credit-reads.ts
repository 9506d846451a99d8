import type * as z from 'zod';
import { dec, type Day } from '@core/kernel';
import type * as contract from '@api/billing';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import { type Sql, type Columns } from '../db';
import { named, serialsMovedBy } from '../serial';
import { inOwn } from './in-own';
import type { CreditNote, Prepayment } from './tables';
import { taxesOf } from './reads';

/** One credit note: against which invoice or agreement, its lines, and what it was set off against. */
export async function openCreditNote(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<z.infer<typeof contract.CreditNoteSheet>> {
  const [head] = await sql.rows<
    Columns<CreditNote, 'number kind currency creditDate reason net tax total rate ownNet ownTax'> & {
      own: string;
      partyId: number;
      partyNumber: string;
      partyName: string;
      invoiceId: number | null;
      invoiceNumber: string | null;
      agreementId: number | null;
      agreementNumber: string | null;
      openItemId: number;
      leftOver: string;
      orderLineId: number | null;
    }
  >(
    `SELECT n.number, n.kind, c.id AS party_id, c.number AS party_number, c.name AS party_name, i.id AS invoice_id,
            i.number AS invoice_number, a.id AS agreement_id, a.number AS agreement_number, n.currency, n.credit_date, n.reason,
            n.net, n.tax, n.total, n.rate, n.own_net, n.own_tax, ${ownCurrency('n.company_id')} AS own, oi.id AS open_item_id, oi.settled - oi.amount AS left_over,
            (SELECT MIN(l.order_line_id) FROM credit_note_line l WHERE l.company_id = n.company_id AND l.credit_note_id = n.id) AS order_line_id
       FROM credit_note n
       JOIN customer c ON c.company_id = n.company_id AND c.id = n.customer_id
       JOIN open_item oi ON oi.company_id = n.company_id AND oi.credit_note_id = n.id
       LEFT JOIN customer_invoice i ON i.company_id = n.company_id AND i.id = n.customer_invoice_id
       LEFT JOIN agreement a ON a.company_id = n.company_id AND a.id = n.agreement_id
      WHERE n.company_id = ? AND n.id = ?`,
    [companyId, id],
  );
  const found = orNotFound(head, 'This credit note');
  const lines = await sql.rows<{
    itemId: number;
    number: string;
    name: string;
    unit: string;
    quantity: string;
    unitPrice: string;
    net: string;
    taxCode: string;
  }>(
    `SELECT i.id AS item_id, i.number, i.name, i.unit, l.quantity + l.uninvoiced AS quantity, l.unit_price,
            l.net, tc.code AS tax_code
       FROM credit_note_line l
       JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.id = l.order_line_id
       JOIN item i ON i.company_id = ol.company_id AND i.id = ol.item_id
       JOIN tax_code tc ON tc.company_id = l.company_id AND tc.id = l.tax_code_id
      WHERE l.company_id = ? AND l.credit_note_id = ? ORDER BY l.id`,
    [companyId, id],
  );
  const moved = await serialsMovedBy(sql, companyId, 'CN', [id]);
  const setOffs = await sql.rows<{ id: number; number: string; day: Day; amount: string }>(
    `SELECT i.id, i.number, s.set_on AS day, s.amount FROM set_off s
       JOIN open_item oi ON oi.company_id = s.company_id AND oi.id = s.invoice_item_id
       JOIN customer_invoice i ON i.company_id = oi.company_id AND i.id = oi.customer_invoice_id
      WHERE s.company_id = ? AND s.credit_item_id = ? ORDER BY s.id`,
    [companyId, found.openItemId],
  );
  return {
    document: { kind: 'CN', id, number: found.number },
    kind: found.kind,
    party: { id: found.partyId, number: found.partyNumber, name: found.partyName },
    against:
      found.invoiceId === null
        ? { kind: 'AG', id: found.agreementId!, number: found.agreementNumber! }
        : { kind: 'CI', id: found.invoiceId, number: found.invoiceNumber! },
    openItemId: found.openItemId,
    currency: found.currency,
    creditDate: found.creditDate,
    reason: found.reason,
    net: found.net,
    tax: found.tax,
    total: found.total,
    own: inOwn(found, found.rate, { net: found.ownNet, tax: found.ownTax }),
    left: found.leftOver,
    orderLineId: found.orderLineId,
    taxes: await taxesOf(sql, companyId, 'CN', id),
    lines: lines.map((line) => ({
      item: { id: line.itemId, number: line.number, name: line.name, unit: line.unit },
      numbers: moved.filter(({ itemId }) => itemId === line.itemId).map(named),
      quantity: line.quantity,
      unitPrice: line.unitPrice,
      net: line.net,
      taxCode: line.taxCode,
    })),
    setOff: setOffs.map((row) => ({
      document: { kind: 'CI', id: row.id, number: row.number },
      day: row.day,
      amount: row.amount,
    })),
  };
}

/** One prepayment with everything that moved it. // A12 */
export async function openPrepayment(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<z.infer<typeof contract.PrepaymentSheet>> {
  const [head] = await sql.rows<
    Columns<Prepayment, 'number currency takenOn amount rate ownAmount ownUsed'> & {
      own: string;
      partyId: number;
      partyNumber: string;
      partyName: string;
      agreementId: number | null;
      heldForId: number;
      heldForNumber: string;
      lineNo: number | null;
      leftOver: string;
    }
  >(
    `SELECT p.number, c.id AS party_id, c.number AS party_number, c.name AS party_name, p.agreement_id, COALESCE(a.id, o.id) AS held_for_id,
            COALESCE(a.number, o.number) AS held_for_number, l.line_no, p.currency, p.taken_on, p.amount, p.rate,
            p.own_amount, p.own_used, ${ownCurrency('p.company_id')} AS own,
            p.amount - p.drawn - p.returned - p.carried AS left_over
       FROM prepayment p
       JOIN customer c ON c.company_id = p.company_id AND c.id = p.customer_id
       LEFT JOIN agreement a ON a.company_id = p.company_id AND a.id = p.agreement_id
       LEFT JOIN sales_order o ON o.company_id = p.company_id AND o.id = p.order_id
       LEFT JOIN agreement_line l ON l.company_id = p.company_id AND l.id = p.agreement_line_id
      WHERE p.company_id = ? AND p.id = ?`,
    [companyId, id],
  );
  const found = orNotFound(head, 'This prepayment');
  const moves = await sql.rows<{
    kind: 'drawn' | 'returned' | 'carried';
    amount: string;
    day: Day;
    invoiceId: number | null;
    number: string | null;
  }>(
    `SELECT m.kind, SUM(m.amount) AS amount, m.moved_on AS day, m.customer_invoice_id AS invoice_id, i.number
       FROM prepayment_move m
       LEFT JOIN customer_invoice i ON i.company_id = m.company_id AND i.id = m.customer_invoice_id
      WHERE m.company_id = ? AND m.prepayment_id = ? GROUP BY m.kind, m.moved_on, m.customer_invoice_id ORDER BY MIN(m.id)`,
    [companyId, id],
  );
  return {
    document: { kind: 'PP', id, number: found.number },
    party: { id: found.partyId, number: found.partyNumber, name: found.partyName },
    heldFor: {
      kind: found.agreementId === null ? 'SO' : 'AG',
      id: found.heldForId,
      number: found.heldForNumber,
    },
    lineNo: found.lineNo,
    currency: found.currency,
    takenOn: found.takenOn,
    amount: found.amount,
    left: found.leftOver,
    own:
      found.currency === found.own
        ? null
        : {
            currency: found.own,
            rate: found.rate,
            amount: found.ownAmount,
            left: dec(found.ownAmount).minus(found.ownUsed).toFixed(),
          },
    moves: moves.map((move) => ({
      kind: move.kind,
      amount: move.amount,
      day: move.day,
      invoice: move.invoiceId === null ? null : { kind: 'CI', id: move.invoiceId, number: move.number! },
    })),
  };
}
