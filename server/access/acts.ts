import { decideWorkDate } from '@core/access';
import * as contract from '@api/access';
import { defineAct } from '../acts';

const moveWorkDate = defineAct(contract.moveWorkDate, {
  right: 'work-date',
  says: 'move the work date',
  done: 'work date moved',
  async load(tx, _input, doer) {
    const [company] = await tx.rows<{ demo: boolean }>(`SELECT demo FROM company WHERE id = ? ${tx.forUpdate}`, [
      doer.companyId,
    ]);
    return { demo: company!.demo };
  },
  decide: (ground, input) => decideWorkDate(ground, input.workDate),
  preview: (effects) => effects,
  async write(tx, effects, _ground, doer) {
    await tx.run('UPDATE company SET work_date = ? WHERE id = ?', [effects.workDate, doer.companyId]);
    return { made: [], touched: [] };
  },
});

export const accessActs = [moveWorkDate];
