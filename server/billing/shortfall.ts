import { decideDropShortfall, decideShortfall } from '@core/billing';
import { bothOf, type Day } from '@core/kernel';
import { customerInvoiceJournal } from '@core/ledger';
import * as contract from '@api/billing';
import { defineAct, takeNumbers } from '../acts';
import { loadAgreement } from '../agreements';
import { exchangeOn, foreignOf } from '../catalogue';
import type { Sql, Columns } from '../db';
import { orNotFound } from '../acts';
import { postJournals } from '../ledger';
import { inOwn } from './in-own';
import { insertOpenItem, insertTaxes } from './open-items';
import type { ShortfallLine } from '../agreements/tables';
import { customerInvoiceLineTable, customerInvoiceTable } from './tables';

type ShortfallLineRow = Columns<ShortfallLine, 'id quantity unitPrice net taxCodeId taxRate'> & {
  taxCode: string;
};

async function loadShortfall(sql: Sql, companyId: number, id: number, day: Day) {
  const [found] = await sql.rows<{ agreementId: number }>(
    'SELECT agreement_id FROM shortfall_draft WHERE company_id = ? AND id = ?',
    [companyId, id],
  );
  const agreement = await loadAgreement(sql, companyId, orNotFound(found, 'This shortfall').agreementId);
  const [draft] = await sql.rows<{ state: string; days: number }>(
    `SELECT d.state, pt.days FROM shortfall_draft d
       JOIN agreement a ON a.company_id = d.company_id AND a.id = d.agreement_id
       JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
       JOIN payment_terms pt ON pt.company_id = c.company_id AND pt.id = c.payment_terms_id
      WHERE d.company_id = ? AND d.id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  const lines = await sql.rows<ShortfallLineRow>(
    `SELECT l.id, l.quantity, l.unit_price, l.net, tc.code AS tax_code, l.tax_code_id, l.tax_rate FROM shortfall_line l
       JOIN tax_code tc ON tc.company_id = l.company_id AND tc.id = l.tax_code_id
      WHERE l.company_id = ? AND l.shortfall_draft_id = ? ORDER BY l.id`,
    [companyId, id],
  );
  const exchange = await exchangeOn(sql, companyId, agreement.currency, day);
  return { id, agreement, state: draft!.state, termsDays: draft!.days, lines, exchange };
}

/** Posts the invoice draft for what was not taken of an agreement. // A11 P3 */
export const postShortfall = defineAct(contract.postShortfall, {
  right: 'customer-invoices',
  says: 'charge shortfalls',
  done: 'shortfall charged',
  load: (tx, input, doer) => loadShortfall(tx, doer.companyId, input.id, doer.workDate),
  decide: (ground, _input, doer) => decideShortfall(ground, doer.workDate),
  posts: ({ invoiceDate }) => invoiceDate,
  preview: (effects, { exchange }) => ({ ...effects, own: inOwn(exchange, effects.rate, effects.own) }),
  async write(tx, effects, { id, agreement, lines, exchange }, doer) {
    const { companyId } = doer;
    const number = await takeNumbers(tx, companyId, { CI: 1, JR: 1 });
    const own = number('CI');
    const customerId = agreement.customerId!;
    const [invoiceId] = await tx.insert(customerInvoiceTable, [
      {
        companyId,
        number: own,
        customerId,
        agreementId: agreement.id,
        currency: effects.currency,
        invoiceDate: effects.invoiceDate,
        dueDate: effects.dueDate,
        net: effects.net,
        tax: effects.tax,
        total: effects.total,
        rate: effects.rate,
        ownNet: effects.own.net,
        ownTax: effects.own.tax,
      },
    ]);
    await tx.insertPlain(
      customerInvoiceLineTable,
      lines.map((line) => ({
        companyId,
        invoiceId: invoiceId!,
        shortfallLineId: line.id,
        quantity: line.quantity,
        unitPrice: line.unitPrice,
        net: line.net,
        taxCodeId: line.taxCodeId,
        taxRate: line.taxRate,
      })),
    );
    await insertTaxes(tx, doer, 'CI', invoiceId!, effects.taxes);
    await insertOpenItem(
      tx,
      doer,
      { customerId, customerInvoiceId: invoiceId! },
      { ...effects, amount: effects.total, ownAmount: effects.own.total },
    );
    await tx.run(
      "UPDATE shortfall_draft SET state = 'posted', customer_invoice_id = ? WHERE company_id = ? AND id = ?",
      [invoiceId!, companyId, id],
    );
    await postJournals(tx, doer, [
      {
        number: number('JR'),
        source: { kind: 'CI', id: invoiceId! },
        postedOn: effects.invoiceDate,
        entries: customerInvoiceJournal(bothOf(effects.net, effects.own.net), bothOf(effects.tax, effects.own.tax)),
        currency: foreignOf(exchange),
        customerId,
      },
    ]);
    return {
      made: [{ kind: 'CI', id: invoiceId!, number: own }],
      touched: [{ kind: 'AG', id: agreement.id, number: agreement.number }],
    };
  },
});

/** Drops the draft: nothing is charged after all. // A11 */
export const dropShortfall = defineAct(contract.dropShortfall, {
  right: 'customer-invoices',
  says: 'drop shortfalls',
  done: 'shortfall dropped',
  load: (tx, input, doer) => loadShortfall(tx, doer.companyId, input.id, doer.workDate),
  decide: (ground) => decideDropShortfall(ground),
  second: (_effects, { agreement }) => [{ kind: 'write-off', words: `Drop the shortfall of ${agreement.number}` }],
  preview: (effects) => effects,
  async write(tx, _effects, { id, agreement }, doer) {
    await tx.run("UPDATE shortfall_draft SET state = 'dropped' WHERE company_id = ? AND id = ?", [doer.companyId, id]);
    return { made: [], touched: [{ kind: 'AG', id: agreement.id, number: agreement.number }] };
  },
});
