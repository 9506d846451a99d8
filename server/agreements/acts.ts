import { decideInForce, decideTerms } from '@core/agreements';
import * as contract from '@api/agreements';
import { defineAct, takeNumbers } from '../acts';
import { savePlan } from './plan';
import { cancelAgreement, pauseAgreement, wrapUpAgreement } from './wrap-up';
import { loadTermsGround, lockAgreement, writeTerms } from './store';

const saveAgreement = defineAct(contract.saveAgreement, {
  right: 'agreements',
  says: 'save agreements',
  saw: ({ id, version }) => (id === null ? null : { kind: 'AG', id, version: version ?? 0 }),
  async load(tx, input, doer) {
    const current = input.id === null ? null : await lockAgreement(tx, doer.companyId, input.id);
    const itemIds = input.lines.flatMap((line) => (line.itemId === null ? [] : [line.itemId]));
    return {
      current,
      ...(await loadTermsGround(tx, doer.companyId, input.customerId, itemIds)),
    };
  },
  decide: (ground, input) => decideTerms(ground, input),
  show: (effects) => ({ currency: effects.currency }),
  async write(tx, effects, { current }, doer) {
    const number = current ? current.number : (await takeNumbers(tx, doer.companyId, { AG: 1 }))('AG');
    const id = await writeTerms(tx, effects, current, number, doer);
    const document = { kind: 'AG' as const, id, number, version: (current?.version ?? 0) + 1 };
    return current ? { made: [], touched: [document] } : { made: [document], touched: [] };
  },
});

const putInForce = defineAct(contract.putInForce, {
  right: 'agreements',
  says: 'put agreements in force',
  saw: ({ id, version }) => ({ kind: 'AG', id, version }),
  async load(tx, input, doer) {
    const head = await lockAgreement(tx, doer.companyId, input.id);
    const [count] = await tx.rows<{ lines: number }>(
      'SELECT COUNT(*) AS `lines` FROM agreement_line WHERE company_id = ? AND agreement_id = ?',
      [doer.companyId, input.id],
    );
    return { head, lines: count!.lines };
  },
  decide: ({ head, lines }, _input, doer) =>
    decideInForce(
      { number: head.number, state: head.state, firstDay: head.first_day, lastDay: head.last_day, lines },
      doer.workDate,
    ),
  show: (effects) => effects,
  async write(tx, effects, { head }, doer) {
    await tx.run('UPDATE agreement SET state = ?, version = version + 1 WHERE company_id = ? AND id = ?', [
      effects.state,
      doer.companyId,
      head.id,
    ]);
    return {
      made: [],
      touched: [{ kind: 'AG', id: head.id, number: head.number, version: head.version + 1 }],
    };
  },
});

export const agreementActs = [saveAgreement, putInForce, savePlan, pauseAgreement, cancelAgreement, wrapUpAgreement];
