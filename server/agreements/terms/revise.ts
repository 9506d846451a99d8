import {
  accruedBy,
  decideRevision,
  rebateOwed,
  repricedValue,
  type OpenLine,
  type RevisionEffects,
} from '@core/agreements';
import { dec, known, sum, type ExchangeOf } from '@core/kernel';
import * as contract from '@api/agreements';
import { defineAct, takeNumbers, type Doer, type Touched } from '../../acts';
import { exchangeOn, foreignOf } from '../../catalogue';
import type { Sql, Tx, Columns } from '../../db';
import { postJournals } from '../../ledger';
import { accrualJournals, invoicedInTerm, writeAccruals } from '../money/rebates';
import { loadTermsGround, loadAgreement, termsOf, type AgreementHead } from './store';
import { termLinesOf } from './term-lines';
import { writeRevised } from './write-terms';
import type { SalesOrderLine } from '../../orders/tables';
import { counterStatements } from '../releasing/counters';

/** Changes an approved agreement as a numbered revision; open lines are repriced where that is chosen. // A15 */
export const reviseAgreement = defineAct(contract.reviseAgreement, {
  right: 'agreements',
  says: 'revise agreements',
  done: 'revised',
  expectedVersion: ({ id, version }) => ({ kind: 'AG', id, version }),
  async load(tx, input, doer) {
    const { companyId } = doer;
    const head = await loadAgreement(tx, companyId, input.id);
    // Party, side and basis are as agreed, whatever was sent.
    const terms = await termsOf(tx, companyId, head);
    const { side, customerId, vendorId } = terms;
    return {
      head,
      current: { number: head.number, state: head.state },
      terms,
      lines: await termLinesOf(tx, companyId, head),
      open: await loadOpenLines(tx, companyId, head.id),
      exchange: await exchangeOn(tx, companyId, head.currency, doer.workDate),
      ...(await loadTermsGround(tx, companyId, { side, customerId, vendorId, lines: input.lines })),
    };
  },
  decide: (ground, input) => decideRevision(ground, input),
  also: ({ repriced }, _ground, { reprice }) =>
    reprice && repriced.length > 0 ? [{ right: 'orders', says: 'change the prices of orders' }] : [],
  preview: ({ changes, repriced, terms }) => ({
    changes,
    repriced: repriced.map(({ line, unitPrice, amount }) => ({
      order: line.order,
      lineNo: line.lineNo,
      item: line.item,
      was: line.unitPrice,
      is: unitPrice,
      amount,
    })),
    currency: terms.currency,
  }),
  async write(tx, effects, { head, exchange }, doer, input) {
    const { companyId } = doer;
    const repriced = input.reprice ? effects.repriced : [];
    await writeRevised(tx, companyId, head.id, effects.terms, effects.lineIds, effects.removedLineIds);
    const orders = await reprice(tx, doer, repriced);
    await tx.run(
      `INSERT INTO agreement_revision (company_id, agreement_id, revision, person_id, revised_on, reason, changes, repriced)
       SELECT ?, ?, COALESCE(MAX(revision), 0) + 1, ?, ?, ?, ?, ? FROM agreement_revision WHERE company_id = ? AND agreement_id = ?`,
      [
        companyId,
        head.id,
        doer.personId,
        doer.workDate,
        effects.reason,
        JSON.stringify(effects.changes),
        repriced.length,
        companyId,
        head.id,
      ],
    );
    await accrueAnew(tx, doer, head, effects.terms, exchange);
    const agreement: Touched = { kind: 'AG', id: head.id, number: head.number, version: head.version + 1 };
    return { made: [], touched: [agreement, ...orders] };
  },
});

/** Lines released from the agreement that are open and not shipped at all, with their orders locked. */
async function loadOpenLines(sql: Sql, companyId: number, agreementId: number): Promise<OpenLine[]> {
  const rows = await sql.rows<
    Columns<SalesOrderLine, 'id orderId lineNo unitPrice listPrice amount agreedAmount'> & {
      number: string;
      item: string;
      agreementLineId: number;
      quantity: string;
    }
  >(
    `SELECT STRAIGHT_JOIN l.id, l.order_id, o.number, l.line_no,
            (SELECT i.number FROM item i WHERE i.company_id = l.company_id AND i.id = l.item_id) AS item,
            l.agreement_line_id, l.quantity - l.cancelled AS quantity, l.unit_price, l.list_price, l.amount, l.agreed_amount
       FROM agreement_line al
       JOIN sales_order_line l ON l.company_id = al.company_id AND l.agreement_line_id = al.id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
      WHERE al.company_id = ? AND al.agreement_id = ? AND o.state IN ('draft', 'confirmed')
        AND l.shipped = 0 AND l.quantity > l.cancelled
      ORDER BY o.id, l.line_no ${sql.forUpdate}`,
    [companyId, agreementId],
  );
  return rows.map((row) => ({
    id: row.id,
    orderId: row.orderId,
    order: row.number,
    lineNo: row.lineNo,
    item: row.item,
    agreementLineId: row.agreementLineId,
    quantity: row.quantity,
    unitPrice: row.unitPrice,
    listPrice: row.listPrice,
    amount: row.amount,
    agreedAmount: row.agreedAmount,
  }));
}

async function reprice(tx: Tx, doer: Doer, repriced: RevisionEffects['repriced']): Promise<Touched[]> {
  const { companyId } = doer;
  const orders = new Map(repriced.map(({ line }) => [line.orderId, line.order]));
  await tx.batch([
    ...repriced.map(({ line, unitPrice, amount }) => ({
      // Its price is the agreement's again, and nothing else is in it. // R4
      sql: "UPDATE sales_order_line SET unit_price = ?, amount = ?, build_up = '[]' WHERE company_id = ? AND id = ?",
      values: [unitPrice, amount, companyId, line.id],
    })),
    ...[...orders.keys()].map((orderId) => {
      const own = repriced.filter(({ line }) => line.orderId === orderId);
      const more = sum(own.map(({ line, amount }) => dec(amount).minus(line.amount))).toFixed();
      return {
        sql: 'UPDATE sales_order SET net = net + ?, version = version + 1 WHERE company_id = ? AND id = ?',
        values: [more, companyId, orderId],
      };
    }),
    ...counterStatements(companyId, 'released', repricedValue(repriced)),
  ]);
  if (orders.size === 0) return [];
  const versions = await tx.rows<{ id: number; version: number }>(
    'SELECT id, version FROM sales_order WHERE company_id = ? AND id IN (?)',
    [companyId, [...orders.keys()]],
  );
  return versions.map(({ id, version }) => ({ kind: 'SO', id, number: orders.get(id)!, version }));
}

/** Where the revision changes rebate or term, what is owed follows at once. // A10 */
async function accrueAnew(
  tx: Tx,
  doer: Doer,
  head: AgreementHead,
  terms: RevisionEffects['terms'],
  exchange: ExchangeOf,
): Promise<void> {
  if (head.rebateKind === 'none' && terms.rebate.kind === 'none') return;
  const { companyId } = doer;
  const [before] = await tx.rows<{
    rebateValue: string;
    rebateQuantity: string;
    accrued: string;
    settled: string;
    carried: string;
  }>(
    'SELECT rebate_value, rebate_quantity, rebate_accrued AS accrued, rebate_settled AS settled, rebate_own AS carried FROM agreement WHERE company_id = ? AND id = ?',
    [companyId, head.id],
  );
  const now =
    terms.rebate.kind === 'none'
      ? { value: '0', quantity: '0' }
      : await invoicedInTerm(tx, companyId, head.id, terms.firstDay, terms.lastDay);
  const owed = rebateOwed(terms.rebate, dec(terms.rebate.by === 'value' ? now.value : now.quantity), terms.currency);
  const accrual = {
    agreementId: head.id,
    value: dec(now.value).minus(before!.rebateValue).toFixed(),
    quantity: dec(now.quantity).minus(before!.rebateQuantity).toFixed(),
    ...accruedBy(before!, owed, known(exchange)),
  };
  if ([accrual.value, accrual.quantity, accrual.accrued].every((each) => dec(each).eq(0))) return;
  const number = await takeNumbers(tx, companyId, { JR: accrualJournals([accrual]) });
  const source = { kind: 'AG' as const, id: head.id, currency: foreignOf(exchange) };
  const journals = await writeAccruals(tx, doer, [accrual], source, doer.workDate, () => number('JR'));
  if (journals.length > 0) await postJournals(tx, doer, journals);
}
