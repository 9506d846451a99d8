import { decidePrepayment } from '@core/billing';
import { bothOf } from '@core/kernel';
import { prepaymentJournal } from '@core/ledger';
import * as contract from '@api/agreements';
import { defineAct, takeNumbers } from '../acts';
import { loadAgreement } from '../agreements';
import { exchangeOn, foreignOf } from '../catalogue';
import { postJournals } from '../ledger';
import { prepaymentTable } from './tables';

/** Money a customer pays ahead against an agreement or one of its lines. // A12 */
export const takePrepayment = defineAct(contract.takePrepayment, {
  right: 'payments',
  says: 'take prepayments',
  done: 'prepayment taken',
  async load(tx, input, doer) {
    const head = await loadAgreement(tx, doer.companyId, input.agreementId);
    const lines = await tx.rows<{ id: number }>(
      'SELECT id FROM agreement_line WHERE company_id = ? AND agreement_id = ?',
      [doer.companyId, head.id],
    );
    return {
      agreement: {
        id: head.id,
        number: head.number,
        state: head.state,
        side: head.side,
        customerId: head.customerId,
        currency: head.currency,
      },
      lineIds: lines.map((line) => line.id),
      exchange: await exchangeOn(tx, doer.companyId, head.currency, input.takenOn ?? doer.workDate),
    };
  },
  decide: (ground, input) => decidePrepayment(ground, input),
  posts: ({ takenOn }) => takenOn,
  preview: ({ amount, currency, rate, own }) => ({
    amount,
    currency,
    own: currency === own.currency ? null : { ...own, rate },
  }),
  async write(tx, effects, { agreement, exchange }, doer) {
    const { companyId } = doer;
    const number = await takeNumbers(tx, companyId, { PP: 1, JR: 1 });
    const document = number('PP');
    const [id] = await tx.insert(prepaymentTable, [
      {
        companyId,
        number: document,
        customerId: effects.customerId,
        agreementId: effects.agreementId,
        agreementLineId: effects.agreementLineId,
        currency: effects.currency,
        takenOn: effects.takenOn,
        amount: effects.amount,
        rate: effects.rate,
        ownAmount: effects.own.amount,
      },
    ]);
    await postJournals(tx, doer, [
      {
        number: number('JR'),
        source: { kind: 'PP', id: id! },
        postedOn: effects.takenOn,
        entries: prepaymentJournal(bothOf(effects.amount, effects.own.amount)),
        currency: foreignOf(exchange),
      },
    ]);
    return {
      made: [{ kind: 'PP', id: id!, number: document }],
      touched: [{ kind: 'AG', id: agreement.id, number: agreement.number }],
    };
  },
});
