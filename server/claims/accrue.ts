import { accrualsOf, type SoldLine, type SupportLine } from '@core/claims';
import { dec, groupedBy, sum } from '@core/kernel';
import { supportJournal } from '@core/ledger';
import { decided } from '@core/refusals';
import * as contract from '@api/claims';
import { defineAct, takeNumbers } from '../acts';
import type { Sql } from '../db';
import { postJournals } from '../ledger';
import { supportAccrualTable } from './tables';

/** Invoices looked at in one go. */
const MOST = 200;

/** Lines of invoices as they stand: what is invoiced and not credited. */
async function soldLines(sql: Sql, companyId: number, invoiceIds: readonly number[]): Promise<SoldLine[]> {
  if (invoiceIds.length === 0) return [];
  const rows = await sql.rows<Omit<SoldLine, 'before'>>(
    `SELECT il.id, i.invoice_date AS invoice_day, ol.item_id, t.item_group_id AS group_id, i.customer_id, c.price_group_id, pl.promotion_id,
            il.quantity - COALESCE((SELECT SUM(n.quantity + n.uninvoiced) FROM credit_note_line n
              WHERE n.company_id = il.company_id AND n.invoice_line_id = il.id), 0) AS quantity
       FROM customer_invoice i
       JOIN customer_invoice_line il ON il.company_id = i.company_id AND il.invoice_id = i.id
       JOIN sales_order_line ol ON ol.company_id = il.company_id AND ol.id = il.order_line_id
       JOIN item t ON t.company_id = ol.company_id AND t.id = ol.item_id
       JOIN customer c ON c.company_id = i.company_id AND c.id = i.customer_id
       LEFT JOIN promotion_line pl ON pl.company_id = ol.company_id AND pl.id = ol.promotion_line_id
      WHERE i.company_id = ? AND i.id IN (?) ORDER BY il.id`,
    [companyId, invoiceIds],
  );
  const before = await sql.rows<SoldLine['before'][number] & { lineId: number }>(
    `SELECT invoice_line_id AS line_id, support_line_id, per_unit, quantity, amount FROM support_accrual
      WHERE company_id = ? AND invoice_line_id IN (?) ORDER BY id`,
    [companyId, rows.map(({ id }) => id)],
  );
  const of = groupedBy(before, ({ lineId }) => lineId);
  return rows.map((row) => ({ ...row, before: of.get(row.id) ?? [] }));
}

async function supportLines(sql: Sql, companyId: number): Promise<SupportLine[]> {
  const rows = await sql.rows<Omit<SupportLine, 'running'> & { running: number }>(
    `SELECT l.id, l.support_id, l.item_id, l.item_group_id AS group_id, l.per_unit, s.first_day, s.last_day, s.customer_id, s.price_group_id,
            s.promotion_id, s.state = 'running' AS running
       FROM support s JOIN support_line l ON l.company_id = s.company_id AND l.support_id = s.id
      WHERE s.company_id = ? ORDER BY l.id`,
    [companyId],
  );
  return rows.map((row) => ({ ...row, running: row.running === 1 }));
}

/** Accrues what vendors owe us for invoices that changed since they were looked at, and posts it by support. // S13 P3 */
export const countSupport = defineAct(contract.countSupport, {
  right: 'promotions',
  says: 'accrue support by vendors',
  done: 'support accrued',
  async load(sql, _input, { companyId }) {
    const due = await sql.rows<{ invoiceId: number }>(
      `SELECT invoice_id FROM support_due WHERE company_id = ? ORDER BY invoice_id LIMIT ${MOST} ${sql.forUpdate}`,
      [companyId],
    );
    const invoiceIds = due.map(({ invoiceId }) => invoiceId);
    const [lines, supports] = await Promise.all([soldLines(sql, companyId, invoiceIds), supportLines(sql, companyId)]);
    const numbers = await sql.rows<{ id: number; number: string }>(
      'SELECT id, number FROM support WHERE company_id = ? AND id IN (?)',
      [companyId, [...new Set(supports.map(({ supportId }) => supportId))]],
    );
    return {
      invoiceIds,
      lines,
      supports: supports.map((each) => ({ ...each, running: Boolean(each.running) })),
      numbers,
    };
  },
  decide: ({ lines, supports }, _input, { workDate }) => decided([], () => accrualsOf(lines, supports, workDate)),
  posts: (_effects, { workDate }) => workDate,
  preview: (accruals) => ({ accruals: accruals.length }),
  async write(tx, accruals, { invoiceIds, numbers }, doer) {
    const { companyId, workDate } = doer;
    await tx.run('DELETE FROM support_due WHERE company_id = ? AND invoice_id IN (?)', [companyId, invoiceIds]);
    if (accruals.length === 0) return { made: [], touched: [] };
    await tx.insert(
      supportAccrualTable,
      accruals.map(({ supportLineId, invoiceLineId, perUnit, quantity, amount, day }) => ({
        companyId,
        supportLineId,
        invoiceLineId,
        perUnit,
        quantity,
        amount,
        accruedOn: day,
      })),
    );
    const posted = [...groupedBy(accruals, ({ supportId }) => supportId)].flatMap(([id, own]) => {
      const entries = supportJournal(sum(own.map(({ amount }) => dec(amount))).toFixed());
      return entries.length > 0 ? [{ id, entries }] : [];
    });
    const number = await takeNumbers(tx, companyId, { JR: posted.length });
    await postJournals(
      tx,
      doer,
      posted.map(({ id, entries }) => ({
        number: number('JR'),
        source: { kind: 'VS' as const, id },
        postedOn: workDate,
        entries,
        currency: null,
      })),
    );
    const touched = [...new Set(accruals.map(({ supportId }) => supportId))].flatMap((id) => {
      const found = numbers.find((each) => each.id === id);
      return found ? [{ kind: 'VS' as const, id, number: found.number }] : [];
    });
    return { made: [], touched };
  },
});
