import { decideRebateClaim } from '@core/billing';
import { bothOf, dec } from '@core/kernel';
import { rebateClaimJournal } from '@core/ledger';
import * as agreements from '@api/agreements';
import { defineAct, takeNumbers } from '../acts';
import { rebateEntryTable } from '../agreements/tables';
import { exchangeOn, foreignOf } from '../catalogue';
import { postJournals } from '../ledger';
import { loadRebate } from './credit-note';
import { insertOpenItem } from './open-items';
import { customerInvoiceTable } from './tables';

/** Claims back what was settled of a rebate beyond what is accrued now: an invoice without goods and tax. // A10 P3 */
export const claimRebate = defineAct(agreements.claimRebate, {
  right: 'customer-invoices',
  says: 'claim rebates back',
  done: 'rebate claimed back',
  async load(tx, input, doer) {
    const agreement = await loadRebate(tx, doer.companyId, input.agreementId);
    const [terms] = await tx.rows<{ days: number }>(
      `SELECT t.days FROM customer c JOIN payment_terms t ON t.company_id = c.company_id AND t.id = c.payment_terms_id
        WHERE c.company_id = ? AND c.id = ?`,
      [doer.companyId, agreement.customerId],
    );
    return {
      agreement,
      exchange: await exchangeOn(tx, doer.companyId, agreement.currency, doer.workDate),
      termsDays: terms?.days ?? 0,
    };
  },
  decide: (ground, _input, doer) => decideRebateClaim(ground, doer.workDate),
  posts: ({ invoiceDate }) => invoiceDate,
  preview: ({ amount, currency, dueDate }) => ({ amount, currency, dueDate }),
  async write(
    tx,
    { agreementId, customerId, currency, amount, rate, own, invoiceDate, dueDate },
    { agreement, exchange },
    { companyId, ...doer },
  ) {
    await tx.run(
      'UPDATE agreement SET rebate_settled = rebate_settled - ?, rebate_own = rebate_own + ? WHERE company_id = ? AND id = ?',
      [amount, own.carried, companyId, agreementId],
    );
    const number = await takeNumbers(tx, companyId, { CI: 1, JR: 1 });
    const document = number('CI');
    const [id] = await tx.insert(customerInvoiceTable, [
      {
        companyId,
        number: document,
        customerId,
        agreementId,
        currency,
        invoiceDate,
        dueDate,
        net: amount,
        tax: '0',
        total: amount,
        rate,
        ownNet: own.worth,
        ownTax: '0',
        claimsRebate: true,
      },
    ]);
    await tx.insertPlain(rebateEntryTable, [
      {
        companyId,
        agreementId,
        documentKind: 'CI',
        documentId: id!,
        postedOn: invoiceDate,
        settled: `-${amount}`,
        ownSettled: `-${own.carried}`,
      },
    ]);
    await insertOpenItem(
      tx,
      { companyId, ...doer },
      { customerId, customerInvoiceId: id! },
      { currency, dueDate, amount, ownAmount: own.worth },
    );
    await postJournals(tx, { companyId, ...doer }, [
      {
        number: number('JR'),
        source: { kind: 'CI', id: id! },
        postedOn: invoiceDate,
        entries: rebateClaimJournal(bothOf(amount, own.worth), dec(own.carried)),
        currency: foreignOf(exchange),
        customerId,
      },
    ]);
    return {
      made: [{ kind: 'CI', id: id!, number: document }],
      touched: [{ kind: 'AG', id: agreementId, number: agreement.number }],
    };
  },
});
