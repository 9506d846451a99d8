import type * as z from 'zod';
import { decideApprove, decideReturn, decideSecondPerson, type AskedState } from '@core/access';
import { assert } from '@core/kernel';
import { refuse, type Decision, type Refusal } from '@core/refusals';
import * as contract from '@api/access';
import {
  actNamed,
  defineAct,
  orNotFound,
  secondKinds,
  staleRefusal,
  type Doer,
  type Effect,
  type Loaded,
} from '../acts';
import type { AskedAct } from '../acts/tables';
import type { Columns, Sql, Tx } from '../db';

type Row = Columns<AskedAct, 'id act input words personId state'>;

async function rowOf(sql: Sql, companyId: number, id: number): Promise<Row> {
  const [row] = await sql.rows<Row>(
    `SELECT id, act, input, words, person_id, state FROM asked_act WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  return orNotFound(row, 'This');
}

/** What was asked for, looked at now with the rights of who would approve it, and what stands against doing it. */
async function nowOf(sql: Sql, row: Row, doer: Doer): Promise<{ loaded: Loaded | null; against: Refusal[] }> {
  const act = actNamed(row.act);
  if (!act || act.right === 'own') return { loaded: null, against: [refuse('not-found', '', { what: row.words })] };
  if (!doer.rights.includes(act.right)) {
    return { loaded: null, against: [refuse('no-right', '', { act: act.says })] };
  }
  const input: unknown = JSON.parse(row.input);
  if (!act.endpoint.input.safeParse(input).success) {
    return { loaded: null, against: [refuse('asked-before-change', '', { act: act.says })] };
  }
  const asked = act.asked(input);
  // Done in the name of who asked, by what the approver may.
  const loaded = await asked.within(sql, { ...doer, personId: row.personId });
  const stale = asked.expectedVersion && (await staleRefusal(sql, asked.expectedVersion, doer.companyId));
  return { loaded, against: stale ? [stale] : [] };
}

async function decide(
  tx: Tx,
  { companyId, personId }: Doer,
  id: number,
  { state, word = '' }: { state: string; word?: string },
): Promise<void> {
  await tx.run(
    'UPDATE asked_act SET state = ?, decided_by = ?, decided_at = UTC_TIMESTAMP(3), word = ? WHERE company_id = ? AND id = ?',
    [state, personId, word, companyId, id],
  );
}

interface Approving {
  state: AskedState;
  effect: Effect;
}

/** Does what another person asked for, as it is now, wholly or not at all. // G7 */
export const approveAsked = defineAct(contract.approveAsked, {
  right: 'approve',
  says: 'approve what others asked for',
  done: 'approved by a second person',
  async load(sql, { id }, doer) {
    const row = await rowOf(sql, doer.companyId, id);
    const ground = { state: row.state, askedBy: row.personId, personId: doer.personId };
    const open = row.state === 'waiting' && row.personId !== doer.personId;
    return { row, ground, ...(open ? await nowOf(sql, row, doer) : { loaded: null, against: [] }) };
  },
  decide({ ground, loaded, against }): Decision<Approving> {
    const inner = loaded?.decide() ?? null;
    const decision = decideApprove(ground, [...against, ...(inner?.ok === false ? inner.refusals : [])]);
    if (!decision.ok) return { ok: false, refusals: decision.refusals };
    assert(inner?.ok === true, 'approved without having been looked at');
    return { ok: true, effects: { state: decision.effects.state, effect: inner.effects }, warnings: inner.warnings };
  },
  preview: (_effects, { row }) => ({ words: row.words }),
  async write(tx, { state, effect }, { row }, doer) {
    await decide(tx, doer, row.id, { state });
    return effect.write(tx);
  },
});

/** Returns what another asked for, with why; or takes back what one asked for oneself. // G7 */
export const returnAsked = defineAct(contract.returnAsked, {
  right: 'own',
  says: 'return what was asked for',
  done: 'returned or taken back',
  async load(sql, { id }, doer) {
    const row = await rowOf(sql, doer.companyId, id);
    return { row, ground: { state: row.state, askedBy: row.personId, personId: doer.personId } };
  },
  decide: ({ ground }, { word }) => decideReturn(ground, word),
  also: (_effects, { ground }) =>
    ground.askedBy === ground.personId ? [] : [{ right: 'approve', says: 'return what others asked for' }],
  preview: ({ state }, { row }) => ({ words: row.words, state }),
  async write(tx, effects, { row }, doer) {
    await decide(tx, doer, row.id, effects);
    return { made: [], touched: [] };
  },
});

/** Says what waits for a second person from now on. Ending that waits for one itself. // G7 */
export const keepSecondPerson = defineAct(contract.keepSecondPerson, {
  right: 'upkeep',
  says: 'say what needs a second person',
  done: 'second person kept',
  load: (sql, _input, doer) => secondKinds(sql, doer.companyId),
  decide: (now, { kinds }) => decideSecondPerson(now, kinds),
  second: ({ ends }) => ends,
  preview: ({ kinds }) => ({ kinds }),
  async write(tx, { kinds }, _ground, { companyId }) {
    await tx.run('DELETE FROM second_person WHERE company_id = ?', [companyId]);
    for (const kind of kinds) {
      await tx.run('INSERT INTO second_person (company_id, kind) VALUES (?, ?)', [companyId, kind]);
    }
    return { made: [], touched: [] };
  },
});

export const askedActs = [approveAsked, returnAsked, keepSecondPerson];

/** Asked for and shown at most. */
const MOST = 100;

/** What waits for this person's yes, what they wait for, and what came back to them lately. */
export async function openAsked(
  sql: Sql,
  { companyId, personId, rights }: Pick<Doer, 'companyId' | 'personId' | 'rights'>,
): Promise<z.infer<typeof contract.openAsked.out>> {
  const rows = await sql.rows<
    Columns<AskedAct, 'id act words personId askedAt state decidedAt word'> & { person: string; decider: string | null }
  >(
    `SELECT a.id, a.act, a.words, a.person_id, a.asked_at, a.state, a.decided_at, a.word, p.name AS person, d.name AS decider
       FROM asked_act a JOIN person p ON p.id = a.person_id LEFT JOIN person d ON d.id = a.decided_by
      WHERE a.company_id = ? AND (a.state = 'waiting'
         OR (a.state = 'returned' AND a.person_id = ? AND a.decided_at > UTC_TIMESTAMP() - INTERVAL 7 DAY))
      ORDER BY a.id DESC LIMIT ${MOST}`,
    [companyId, personId],
  );
  const mayApprove = (name: string) => {
    const right = actNamed(name)?.right;
    return right !== undefined && right !== 'own' && rights.includes(right) && rights.includes('approve');
  };
  return {
    kinds: [...(await secondKinds(sql, companyId))],
    rows: rows
      .map(({ act, personId: askedBy, decider, ...row }) => ({
        ...row,
        decider: decider ?? '',
        mine: askedBy === personId,
        mayApprove: askedBy !== personId && mayApprove(act),
      }))
      .filter(({ mine, mayApprove: may }) => mine || may),
  };
}
