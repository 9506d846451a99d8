import { refuse } from '@core/refusals';
import { RIGHTS } from '@api/access';
import { into, jsonOf, LAST_ID, Piece, type Tx } from '../db';
import type { Act, Doer, LeftToWrite, Touched, Written } from './act';
import { Refused } from './refused';
import { auditDocumentTable, auditTable } from './tables';

/**
 * Does an act within another's transaction, as a part of it: what stands against it stands against the whole, and nothing
 * of either is done. What it leaves to be written is written here; what would wait for a second person is refused.
 */
export async function doWithin(
  tx: Tx,
  act: Act,
  input: unknown,
  doer: Doer,
): Promise<{ made: Touched[]; touched: Touched[] }> {
  const asked = act.asked(input);
  if (asked.right !== 'own' && !doer.rights.includes(asked.right)) {
    throw new Refused([refuse('no-right', '', { act: act.says })]);
  }
  const loaded = await asked.within(tx, doer);
  const decision = loaded.decide();
  if (!decision.ok) throw new Refused(decision.refusals);
  if (decision.effects.waitsFor)
    throw new Refused([refuse('waits-for-second', '', { what: decision.effects.waitsFor })]);
  return writtenNow(tx, await decision.effects.write(tx));
}

/** The documents an act made and touched, after what it left to the last trip is written too. */
async function writtenNow(tx: Tx, written: Written | LeftToWrite): Promise<{ made: Touched[]; touched: Touched[] }> {
  const { touched } = written;
  if (!('insertions' in written)) return { made: [...written.made], touched: [...touched] };
  await tx.batch(written.statements);
  await tx.insertBatch(written.insertions);
  const told = jsonOf(written.made);
  if (!(told instanceof Piece)) return { made: JSON.parse(told) as Touched[], touched: [...touched] };
  const [row] = await tx.rows<{ made: string }>(`SELECT ${told.sql} AS made`, told.values);
  return { made: JSON.parse(row!.made) as Touched[], touched: [...touched] };
}

/**
 * Does an act in another company of the group within a transaction of one's own: in the name of who began it, with what it
 * asks for, on that company's work date, and told in that company's own trail. // X4 G1
 */
export async function doInSister(
  tx: Tx,
  act: Act,
  input: unknown,
  companyId: number,
  doer: Doer,
): Promise<{ made: Touched[]; touched: Touched[] }> {
  const [company] = await tx.rows<{ workDate: string | null }>('SELECT work_date FROM company WHERE id = ?', [
    companyId,
  ]);
  const agent: Doer = { ...doer, companyId, rights: RIGHTS, workDate: company?.workDate ?? doer.workDate };
  const done = await doWithin(tx, act, input, agent);
  await recordIn(tx, act.endpoint.name, input, [...done.made, ...done.touched], agent);
  return done;
}

/** Keeps in a company's trail what was done to its documents by an act of another company. // G1 */
export async function recordIn(
  tx: Tx,
  act: string,
  input: unknown,
  documents: readonly Touched[],
  { companyId, personId, origin }: Doer,
): Promise<void> {
  if (documents.length === 0) return;
  const told = documents.map(({ kind, id, number }) => ({ kind, id, number }));
  await tx.insertBatch([
    into(auditTable, [
      { companyId, personId, act, origin, input: JSON.stringify(input), documents: JSON.stringify(told) },
    ]),
    into(
      auditDocumentTable,
      documents.map(({ kind, id, version }) => ({
        companyId,
        auditId: LAST_ID,
        kind,
        documentId: id,
        version: version ?? null,
      })),
    ),
  ]);
}
