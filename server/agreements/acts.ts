import { decideCopy, decideInForce, decideTerms } from '@core/agreements';
import * as contract from '@api/agreements';
import { defineAct, takeNumbers } from '../acts';
import { savePlan } from './releasing/plan';
import { tellTakenBefore } from './releasing/taken-before';
import { fireReminders, handleReminder } from './ending/reminders';
import { reviseAgreement } from './terms/revise';
import { loadTermsGround, loadAgreement, termsOf } from './terms/store';
import { termLinesOf } from './terms/term-lines';
import { cancelAgreement, pauseAgreement, wrapUpAgreement } from './ending/wrap-up';
import { writeTerms } from './terms/write-terms';

const saveAgreement = defineAct(contract.saveAgreement, {
  right: 'agreements',
  says: 'save agreements',
  done: 'terms saved',
  expectedVersion: ({ id, version }) => (id === null ? null : { kind: 'AG', id, version: version ?? 0 }),
  async load(tx, input, doer) {
    const current = input.id === null ? null : await loadAgreement(tx, doer.companyId, input.id);
    return { current, ...(await loadTermsGround(tx, doer.companyId, input)) };
  },
  decide: (ground, input) => decideTerms(ground, input),
  preview: (effects) => ({ currency: effects.currency }),
  async write(tx, effects, { current }, doer) {
    const number = current ? current.number : (await takeNumbers(tx, doer.companyId, { AG: 1 }))('AG');
    const id = await writeTerms(tx, effects, current, number, doer);
    const document = { kind: 'AG' as const, id, number, version: (current?.version ?? 0) + 1 };
    return current ? { made: [], touched: [document] } : { made: [document], touched: [] };
  },
});

/** Copies an agreement's terms into a new draft for the same party; releases and counters stay behind. */
const copyAgreement = defineAct(contract.copyAgreement, {
  right: 'agreements',
  says: 'copy agreements',
  done: 'copied',
  async load(tx, input, doer) {
    const head = await loadAgreement(tx, doer.companyId, input.id);
    return {
      head,
      terms: await termsOf(tx, doer.companyId, head),
      lines: (await termLinesOf(tx, doer.companyId, head)).map(
        ({ id: _id, lineNo: _lineNo, covers: _covers, released: _released, listPrice, ...term }) => ({
          term,
          listPrice,
        }),
      ),
    };
  },
  decide: (ground) => decideCopy(ground),
  preview: (effects) => ({ lines: effects.lines.length }),
  async write(tx, effects, _ground, doer) {
    const number = (await takeNumbers(tx, doer.companyId, { AG: 1 }))('AG');
    const id = await writeTerms(tx, effects, null, number, doer);
    return { made: [{ kind: 'AG', id, number, version: 1 }], touched: [] };
  },
});

const putInForce = defineAct(contract.putInForce, {
  right: 'agreements',
  says: 'put agreements in force',
  done: 'put in force',
  expectedVersion: ({ id, version }) => ({ kind: 'AG', id, version }),
  async load(tx, input, doer) {
    const head = await loadAgreement(tx, doer.companyId, input.id);
    const [count] = await tx.rows<{ lines: number }>(
      'SELECT COUNT(*) AS `lines` FROM agreement_line WHERE company_id = ? AND agreement_id = ?',
      [doer.companyId, input.id],
    );
    return { head, lines: count!.lines };
  },
  decide: ({ head, lines }, _input, doer) =>
    decideInForce(
      { number: head.number, state: head.state, firstDay: head.firstDay, lastDay: head.lastDay, lines },
      doer.workDate,
    ),
  preview: (effects) => effects,
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

export const agreementActs = [
  saveAgreement,
  copyAgreement,
  putInForce,
  reviseAgreement,
  savePlan,
  pauseAgreement,
  cancelAgreement,
  wrapUpAgreement,
  tellTakenBefore,
  handleReminder,
  fireReminders,
];
