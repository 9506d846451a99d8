import type { Logger } from 'pino';
import { decideBringIn, keptList, type BringInEffects, type BroughtIn } from '@core/lists';
import { sentenceOf, type Refusal } from '@core/refusals';
import { runAct, type Doer } from '../../acts';
import type { Database } from '../../db';
import { groundOf, keepList } from '../lists';
import { claimed, doerOf, linesOf, type Claimed, type Problem } from './store';

/** Problems of one part that are kept; the others are counted. */
const MOST_TOLD = 200;

/** A refusal at its line, the column as the list heads it. */
function problemOf(list: string, line: number, field: string, refusal: Refusal, word: boolean, typed = ''): Problem {
  const column = keptList(list)!.fields.find(({ name }) => name === field)?.head ?? '';
  return { line, column, typed: typed.slice(0, 40), sentence: sentenceOf(refusal), word };
}

/** What the lines of a part would make of the list as it is now. */
async function lookAt(database: Database, run: Claimed, lines: readonly BroughtIn[]): Promise<BringInEffects> {
  const changes = lines.map(({ cells }) => ({ id: null, stamp: '', cells }));
  const ground = await database.snapshot(async (sql) => {
    const found = await groundOf(sql, run.companyId, run.list, { changes, removed: [] });
    if (found.rows.length === 0) return found;
    // What the rows that are there name has to be known as well: a file says only what it has columns for.
    const kept = found.rows.map(({ cells }) => ({ id: null, stamp: '', cells }));
    return groundOf(sql, run.companyId, run.list, { changes: [...changes, ...kept], removed: [] });
  });
  return decideBringIn(ground, lines, run.workDate);
}

/** How often a part is looked at again where somebody else changed a row of it meanwhile. */
const TRIES = 4;

/**
 * Takes the good lines of a part, by an act of its own that is known again: done once, whoever does it however often.
 * What it was refused for, else nothing. `ahead` is what its lines made of the list while the part before was still
 * being taken: good for most; what stands against any of it is looked at again.
 */
async function takePart(
  database: Database,
  run: Claimed,
  lines: readonly BroughtIn[],
  key: string,
  doer: Doer,
  ahead: BringInEffects,
): Promise<BringInEffects & { refused: Refusal[] }> {
  for (let tried = 0; ; tried += 1) {
    const asAhead = tried === 0 && ahead.bad === 0;
    const effects = asAhead ? ahead : await lookAt(database, run, lines);
    const { changes } = effects.keep;
    if (changes.length === 0 || (effects.bad > 0 && !run.goodOnly)) return { ...effects, refused: [] };
    const asked = keepList.asked({
      list: run.list,
      changes: changes.map(({ id, stamp, cells }) => ({ id, stamp, cells: { ...cells } })),
      removed: [],
    });
    const answer = await runAct(database, asked, doer, `${key}-${tried}`);
    if (answer.ok) return { ...effects, refused: [] };
    const moved = answer.refusals.some(
      ({ code }) => code === 'row-changed' || code === 'row-twice' || code === 'row-gone',
    );
    if ((!moved && !asAhead) || tried === TRIES) return { ...effects, refused: answer.refusals };
  }
}

/** Works at one file, part by part, for as long as it is wanted; what is done of it is done once. */
async function workAt(database: Database, run: Claimed, stopping: () => boolean): Promise<void> {
  const { companyId, id, state } = run;
  const parts = await database.rows<{ no: number; rows: number }>(
    `SELECT no, JSON_LENGTH(content) AS \`rows\` FROM bring_in_part
      WHERE company_id = ? AND bring_in_id = ? AND done_in <> ? ORDER BY no`,
    [companyId, id, state],
  );
  const doer = await doerOf(database, run);
  const lookAhead = (at: number) => {
    const part = parts[at];
    const looked = part
      ? linesOf(database, run, part.no).then(async (lines) => ({ lines, found: await lookAt(database, run, lines) }))
      : null;
    // Whoever waits for it hears what went wrong.
    looked?.catch(() => undefined);
    return looked;
  };
  let next = lookAhead(0);
  try {
    for (const [at, { no, rows }] of parts.entries()) {
      if (stopping()) return;
      const { lines, found: ahead } = (await next)!;
      next = lookAhead(at + 1);
      const found =
        state === 'looking'
          ? { ...ahead, refused: [] }
          : await takePart(database, run, lines, `bring-in-${id}-${no}`, doer, ahead);
      const { refused } = found;
      const typed = (line: number, field: string) => lines.find((each) => each.line === line)?.cells[field];
      const problems = [
        ...found.problems.map(({ line, field, refusal }) =>
          problemOf(run.list, line, field, refusal, false, typed(line, field)),
        ),
        ...refused.map((refusal) => problemOf(run.list, 0, '', refusal, false)),
        ...found.words.map(({ line, field, refusal }) =>
          problemOf(run.list, line, field, refusal, true, typed(line, field)),
        ),
      ];
      const bad = found.bad + (refused.length > 0 ? found.fresh + found.changed : 0);
      const still = await database.transaction(async (tx) => {
        await tx.run(
          'UPDATE bring_in_part SET done_in = ?, problems = ? WHERE company_id = ? AND bring_in_id = ? AND no = ? AND done_in <> ?',
          [state, JSON.stringify(problems.slice(0, MOST_TOLD)), companyId, id, no, state],
        );
        return tx.run(
          `UPDATE bring_in SET beat_at = NOW(3), done = done + ?, fresh = fresh + ?, changed = changed + ?, alike = alike + ?, bad = bad + ?
            WHERE company_id = ? AND id = ? AND state = ?`,
          [
            rows,
            refused.length > 0 ? 0 : found.fresh,
            refused.length > 0 ? 0 : found.changed,
            found.same,
            bad,
            companyId,
            id,
            state,
          ],
        );
      });
      // Somebody stopped it.
      if (still === 0) return;
      // All of it or nothing more of it: the lines that were taken before stay, and are the same the next time.
      if (state === 'taking' && bad > 0 && !run.goodOnly) break;
    }
  } finally {
    // Nothing goes on behind a file that is left.
    await next?.catch(() => undefined);
  }
  await database.run('UPDATE bring_in SET state = ?, beat_at = NULL WHERE company_id = ? AND id = ? AND state = ?', [
    state === 'looking' ? 'ready' : 'taken',
    companyId,
    id,
    state,
  ]);
}

interface Queue {
  poke(): void;
  stop(): Promise<void>;
}

const QUEUES = new WeakMap<Database, Queue>();

/** Works at what was brought in, one file after the other, beside whatever else the server does. */
export function bringInQueue(database: Database, log: Logger): Queue {
  const known = QUEUES.get(database);
  if (known) return known;
  let going: Promise<void> | null = null;
  let again = false;
  let stopping = false;
  const work = async () => {
    do {
      again = false;
      for (let run = await claimed(database); run && !stopping; run = await claimed(database)) {
        const at = run;
        await workAt(database, at, () => stopping).catch(async (error: unknown) => {
          log.error({ err: error, bringIn: at.id }, 'a file could not be brought in');
          await database
            .run("UPDATE bring_in SET state = 'stopped', beat_at = NULL WHERE company_id = ? AND id = ?", [
              at.companyId,
              at.id,
            ])
            .catch(() => undefined);
        });
      }
    } while (again && !stopping);
  };
  const queue: Queue = {
    poke() {
      if (stopping) return;
      if (going) again = true;
      else {
        going = work()
          .catch((error: unknown) => log.error({ err: error }, 'files that were brought in cannot be read'))
          .finally(() => (going = null));
      }
    },
    async stop() {
      stopping = true;
      await going;
    },
  };
  QUEUES.set(database, queue);
  return queue;
}
