import { decideRelease, leftUnderLimit } from '@core/agreements';
import { dec, sum } from '@core/kernel';
import * as contract from '@api/agreements';
import { defineAct, takeNumbers } from '../acts';
import { counterStatements, loadRelease } from '../agreements';
import { insertOrder } from './store';

/** A release of an agreement: a draft sales order that names it. // A6 */
export const releaseAgreement = defineAct(contract.releaseAgreement, {
  right: 'orders',
  says: 'release agreements',
  load: (tx, input, doer) => loadRelease(tx, doer.companyId, input.agreementId),
  decide: (ground, input, doer) => decideRelease(ground, input, doer.workDate),
  show(effects, ground) {
    return {
      net: sum(effects.lines.map((line) => dec(line.amount))).toFixed(),
      lines: effects.lines,
      left: effects.released.map(({ agreementLineId, quantity }) => {
        const line = ground.lines.find((each) => each.id === agreementLineId)!;
        return {
          agreementLineId,
          left: leftUnderLimit(line.committed, line.released, '0').minus(quantity).toFixed(),
        };
      }),
    };
  },
  async write(tx, effects, ground, doer) {
    const counters = counterStatements(doer.companyId, 'released', effects.released);
    const number = (await takeNumbers(tx, doer.companyId, { SO: 1 }, counters))('SO');
    const id = await insertOrder(tx, doer, number, effects.order, effects.lines);
    const { agreement } = ground;
    return {
      made: [{ kind: 'SO', id, number, version: 1 }],
      touched: [{ kind: 'AG', id: agreement.id, number: agreement.number }],
    };
  },
});
