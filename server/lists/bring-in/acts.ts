import { decideLookAgain, decideStopBroughtIn, decideTakeBroughtIn, type BroughtGround } from '@core/lists';
import * as contract from '@api/lists';
import { defineAct, orNotFound } from '../../acts';
import type { Sql, Tx } from '../../db';

async function foundOf(sql: Sql, companyId: number, id: number): Promise<BroughtGround> {
  const [row] = await sql.rows<BroughtGround>(
    `SELECT state, row_count, done, fresh, changed, bad FROM bring_in WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  return orNotFound(row, 'This file');
}

const NOTHING = { made: [], touched: [] };

/** From its first line, in that way. */
const beginAt = (tx: Tx, companyId: number, id: number, state: 'looking' | 'taking', goodOnly: boolean) =>
  Promise.all([
    tx.run(
      `UPDATE bring_in SET state = ?, good_only = ?, done = 0, fresh = 0, changed = 0, alike = 0, bad = 0, beat_at = NULL
        WHERE company_id = ? AND id = ?`,
      [state, goodOnly, companyId, id],
    ),
    tx.run("UPDATE bring_in_part SET done_in = 'nothing', problems = '[]' WHERE company_id = ? AND bring_in_id = ?", [
      companyId,
      id,
    ]),
  ]);

/** Takes what a file holds; the work is done beside, part by part. // U2 */
export const takeBroughtIn = defineAct(contract.takeBroughtIn, {
  right: 'lists',
  says: 'take files into lists',
  done: 'file taken',
  load: (sql, { id }, { companyId }) => foundOf(sql, companyId, id),
  decide: (ground, { goodOnly }) => decideTakeBroughtIn(ground, goodOnly),
  preview: ({ lines }) => ({ lines }),
  async write(tx, _effects, _ground, { companyId, personId }, { id, goodOnly }) {
    // Whoever takes it answers for it.
    await tx.run('UPDATE bring_in SET person_id = ? WHERE company_id = ? AND id = ?', [personId, companyId, id]);
    await beginAt(tx, companyId, id, 'taking', goodOnly);
    return NOTHING;
  },
});

export const lookAgainAt = defineAct(contract.lookAgainAt, {
  right: 'lists',
  says: 'look at files again',
  done: 'file looked at again',
  load: (sql, { id }, { companyId }) => foundOf(sql, companyId, id),
  decide: (ground) => decideLookAgain(ground),
  preview: ({ lines }) => ({ lines }),
  async write(tx, _effects, _ground, { companyId }, { id }) {
    await beginAt(tx, companyId, id, 'looking', false);
    return NOTHING;
  },
});

export const stopBroughtIn = defineAct(contract.stopBroughtIn, {
  right: 'lists',
  says: 'stop taking files',
  done: 'file stopped',
  load: (sql, { id }, { companyId }) => foundOf(sql, companyId, id),
  decide: (ground) => decideStopBroughtIn(ground),
  preview: ({ left }) => ({ left }),
  async write(tx, _effects, _ground, { companyId }, { id }) {
    await tx.run("UPDATE bring_in SET state = 'stopped', beat_at = NULL WHERE company_id = ? AND id = ?", [
      companyId,
      id,
    ]);
    return NOTHING;
  },
});
