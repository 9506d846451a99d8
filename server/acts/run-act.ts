import { createHash } from 'node:crypto';
import { refuse, type Refusal } from '@core/refusals';
import { faultOf, into, jsonOf, LAST_ID, Piece, type Database, type Sql, type Tx } from '../db';
import {
  GroundMoved,
  type Asked,
  type Doer,
  type LeftToWrite,
  type Load,
  type ExpectedVersion,
  type Written,
} from './act';
import { Refused } from './refused';
import { staleRefusal } from './stale';
import { NotFound } from './not-found';
import { actKeyTable, askedActTable, auditDocumentTable, auditTable } from './tables';

export type ActAnswer = { ok: true; result: Written; warnings: Refusal[] } | { ok: false; refusals: Refusal[] };

export interface PreviewAnswer {
  refusals: Refusal[];
  warnings: Refusal[];
  effects: unknown;
}

/**
 * Does an act, wholly or not at all. // P2 G1 G2
 * The same key with the same input does nothing again and answers as the first time did; the key row is written last,
 * so the common path pays one statement for it.
 */
export async function runAct(database: Database, asked: Asked, doer: Doer, idempotencyKey: string): Promise<ActAnswer> {
  const refused = rightRefusal(asked, doer);
  if (refused) return { ok: false, refusals: [refused] };
  const content = createHash('sha256').update(asked.act.endpoint.name).update(JSON.stringify(asked.input)).digest();
  const key: Key = { doer, idempotencyKey, content };
  try {
    return await prepared(database, asked, doer, (load) =>
      database.transaction(async (tx, tries) => {
        // What stood against it the first time may have been its own twin.
        const before = tries > 1 ? await answerOf(tx, key) : null;
        if (before) return before;
        const loaded = await load(tx);
        await checkVersion(tx, asked.expectedVersion, doer);
        const decision = loaded.decide();
        if (!decision.ok) throw new Refused(decision.refusals);
        const { waitsFor } = decision.effects;
        const written = waitsFor ? await askFor(tx, asked, waitsFor, doer) : await decision.effects.write(tx);
        const result = await writeRecord(tx, asked, written, key);
        return { ok: true, result, warnings: decision.warnings };
      }),
    );
  } catch (error) {
    if (faultOf(error) === 'twin') {
      const twin = await answerOfTwin(database, key);
      if (twin) return twin;
    }
    if (faultOf(error) === 'spent') return { ok: false, refusals: [refuse('promotion-spent', '', {})] };
    if (!(error instanceof Refused || error instanceof NotFound)) throw error;
    const before = await answerOf(database, key);
    if (before) return before;
    return { ok: false, refusals: error instanceof Refused ? error.refusals : [error.refusal] };
  }
}

/** Keeps what is asked for until a second person approves or returns it; nothing of it is done. // G7 */
async function askFor(tx: Tx, { act, input }: Asked, words: string, doer: Doer): Promise<Written> {
  const [asked] = await tx.insert(askedActTable, [
    {
      companyId: doer.companyId,
      act: act.endpoint.name,
      input: JSON.stringify(input),
      words,
      personId: doer.personId,
    },
  ]);
  return { made: [], touched: [], asked: asked! };
}

/** What the act would do now: load and decide, at one moment; nothing is written or kept locked. */
export async function previewAct(database: Database, asked: Asked, doer: Doer): Promise<PreviewAnswer> {
  const refused = rightRefusal(asked, doer);
  if (refused) return { refusals: [refused], warnings: [], effects: null };
  try {
    const loaded = await prepared(database, asked, doer, (load) => database.snapshot(load));
    const decision = loaded.decide();
    if (!decision.ok) {
      return { refusals: decision.refusals, warnings: [], effects: decision.effects?.preview() ?? null };
    }
    return { refusals: [], warnings: decision.warnings, effects: decision.effects.preview() };
  } catch (error) {
    if (error instanceof NotFound) return { refusals: [error.refusal], warnings: [], effects: null };
    if (error instanceof Refused) return { refusals: error.refusals, warnings: [], effects: null };
    throw error;
  }
}

/** How often what is prepared may be outrun by others before it is said. */
const PREPARATIONS = 4;

/** Works with what was prepared; where the ground moved meanwhile, it is prepared again, a few times. */
async function prepared<Answer>(
  database: Database,
  asked: Asked,
  doer: Doer,
  work: (load: Load) => Promise<Answer>,
): Promise<Answer> {
  for (let left = PREPARATIONS; ; left -= 1) {
    const load = await asked.prepare(database, doer);
    try {
      return await work(load);
    } catch (error) {
      if (!(error instanceof GroundMoved)) throw error;
      if (left === 1) throw new Refused([refuse('busy', '', {})]);
    }
  }
}

function rightRefusal({ act, right }: Asked, doer: Doer): Refusal | null {
  return right === 'own' || doer.rights.includes(right) ? null : refuse('no-right', '', { act: act.says });
}

async function checkVersion(tx: Tx, seen: ExpectedVersion | null, doer: Doer): Promise<void> {
  if (!seen) return;
  const refusal = await staleRefusal(tx, seen, doer.companyId);
  if (refusal) throw new Refused([refusal]);
}

interface Key {
  doer: Doer;
  idempotencyKey: string;
  content: Buffer;
}

/**
 * What every act leaves behind: the audit row, the documents it touched, and its key, with the commit; and before them
 * in the same trip what the act left to be written. What it made and touched. // G1 P2
 */
async function writeRecord(tx: Tx, { act, input }: Asked, written: Written | LeftToWrite, key: Key): Promise<Written> {
  const { doer } = key;
  const { made, touched } = written;
  const documents = [...made, ...touched];
  const asked = 'asked' in written ? { asked: written.asked } : {};
  // What changed is kept with the act, and told where it is asked for.
  const bare = touched.map(({ fields: _fields, reason: _reason, ...document }) => document);
  const answer = jsonOf({ made, touched: bare, ...asked });
  const audit = {
    companyId: doer.companyId,
    personId: doer.personId,
    act: act.endpoint.name,
    origin: doer.origin,
    input: JSON.stringify(input),
    documents: jsonOf(
      documents.map((document) => {
        const { kind, id, number } = document;
        const { fields = [], reason = '' } = 'fields' in document || 'reason' in document ? document : {};
        return { kind, id, number, ...(fields.length > 0 ? { fields } : {}), ...(reason === '' ? {} : { reason }) };
      }),
    ),
  };
  const changed = documents.map((document) => ({
    companyId: doer.companyId,
    auditId: LAST_ID,
    kind: document.kind,
    documentId: document.id,
    version: ('version' in document && document.version) || null,
  }));
  const once = {
    companyId: doer.companyId,
    personId: doer.personId,
    idempotencyKey: key.idempotencyKey,
    contentHash: key.content,
    // Put together once: the row keeps it, and the trip answers with it.
    answer: answer instanceof Piece ? new Piece(`@answer := ${answer.sql}`, answer.values) : answer,
  };
  const left = 'insertions' in written ? written : { statements: [], insertions: [] };
  const record = [into(auditTable, [audit]), into(auditDocumentTable, changed), into(actKeyTable, [once])];
  const text = await tx.writeAndCommit(
    { ...left, insertions: [...left.insertions, ...record] },
    answer instanceof Piece ? new Piece('@answer') : answer,
  );
  return JSON.parse(text) as Written;
}

/** How long a twin at another node of a cluster may take to be seen here. */
const TWIN_TRIES = 20;
const TWIN_PAUSE_MS = 50;

/** What the act's twin was answered: at another node of a cluster it may be refused by its key before its row is seen. */
async function answerOfTwin(sql: Sql, key: Key): Promise<ActAnswer | null> {
  for (let tries = 0; tries < TWIN_TRIES; tries += 1) {
    const found = await answerOf(sql, key);
    if (found) return found;
    await new Promise((resolve) => setTimeout(resolve, TWIN_PAUSE_MS));
  }
  return null;
}

async function answerOf(sql: Sql, { doer, idempotencyKey, content }: Key): Promise<ActAnswer | null> {
  const [row] = await sql.rows<{ contentHash: Buffer; answer: string }>(
    'SELECT content_hash, answer FROM act_key WHERE company_id = ? AND person_id = ? AND idempotency_key = ?',
    [doer.companyId, doer.personId, idempotencyKey],
  );
  if (!row) return null;
  if (!row.contentHash.equals(content)) return { ok: false, refusals: [refuse('key-reused', '', {})] };
  return { ok: true, result: JSON.parse(row.answer) as Written, warnings: [] };
}
