import * as contract from '@api/promise';
import { defineAct } from '../../acts';

/** Whether what is left of agreements counts in planning by how likely it is; each run says it as it is then. // A7 */
export const weighPlanning = defineAct(contract.weighPlanning, {
  right: 'plan',
  says: 'say how planning weighs what is left of agreements',
  done: 'planning weighed',
  load: () => Promise.resolve(null),
  decide: () => ({ ok: true, warnings: [], effects: {} }),
  preview: () => ({}),
  async write(tx, _effects, _ground, { companyId }, input) {
    await tx.run('UPDATE company SET plan_by_probability = ? WHERE id = ?', [input.byProbability, companyId]);
    return { made: [], touched: [] };
  },
});
