import type { SecondNeed } from '@core/access';
import type { DocumentKind, DocumentRef, Day } from '@core/kernel';
import { refuse, type Decision } from '@core/refusals';
import type { Right } from '@api/access';
import type { ActEndpoint, Schema } from '@api/kit';
import type { Database, Last, Piece, Sql, TextPiece, Tx } from '../db';
import * as z from 'zod';
import { closedThrough, postedLater } from './closed';
import { secondKinds, wordsOf } from './second';

/** Who does it, where and when. */
export interface Doer {
  companyId: number;
  personId: number;
  rights: readonly Right[];
  workDate: Day;
  /** The address the request came from. */
  origin: string;
}

/** A document an act changed: with its new version where its own content did, without where only counters moved. */
export interface Touched extends DocumentRef {
  version?: number;
  /** What of it is another by now, and why where that was asked: kept with the act. // S8 */
  fields?: readonly { what: string; was: string; is: string }[];
  reason?: string;
}

/** What an act made and what it changed besides. */
export interface Written {
  made: Touched[];
  touched: Touched[];
  /** Nothing is done yet: it waits for a second person under this number. // G7 */
  asked?: number;
}

/**
 * What an act leaves to be written with its record and the commit, in one trip: its statements and rows, and of the
 * documents it makes by them what their ids and numbers will be. Others who number wait for that one trip only.
 */
export interface LeftToWrite extends Last {
  made: { kind: DocumentKind; id: Piece; number: TextPiece }[];
  touched: Touched[];
}

/** A document as the person saw it. // G2 */
export interface ExpectedVersion {
  kind: DocumentKind;
  id: number;
  version: number;
}

/** A right for something an act does by the way, in the words of refusals: `place purchase orders`. */
export interface AlsoNeeded {
  right: Right;
  says: string;
}

/** How a named change is done: load, decide, write. `runAct` does all the rest. */
export interface How<Input extends Schema, Shown extends Schema, Ground, Effects, Prepared = undefined> {
  right: Right | 'own';
  /** Another right in its place, for some inputs. */
  rightFor?(input: z.output<Input>): Right | null;
  /** In words, for refusals and the list of changes: `release an agreement`. */
  says: string;
  /** In the list of changes, once it is done: `released`. */
  done: string;
  /** The document and version the input was typed against, where that matters. */
  expectedVersion?(input: z.output<Input>): ExpectedVersion | null;
  /**
   * What is heavy: worked out before the transaction, from moments of its own and on threads of its own, and handed to
   * `load`. Where `load` finds the ground to be another by then it throws `GroundMoved`, and it is worked out again.
   */
  prepare?(database: Database, input: z.output<Input>, doer: Doer): Promise<Prepared>;
  /**
   * Reads what deciding needs, always in the order agreements, sales, purchases, stock. What it reads `sql.forUpdate`
   * is locked where the act is done, and not where it is only looked at.
   */
  load(sql: Sql, input: z.output<Input>, doer: Doer, prepared: Prepared): Promise<Ground>;
  decide(ground: Ground, input: z.output<Input>, doer: Doer): Decision<Effects>;
  /** Rights it asks for besides its own, by what it would do: a right is asked for each effect, not for each act. */
  also?(effects: Effects, ground: Ground, input: z.output<Input>): readonly AlsoNeeded[];
  /** What a second person may have to approve, where the company says so. // G7 */
  second?(effects: Effects, ground: Ground, input: z.output<Input>): readonly SecondNeed[];
  /** The day it posts on by itself; where its month is closed, a preview says that it is posted later. // P9 */
  posts?(effects: Effects, doer: Doer): Day;
  preview(effects: Effects, ground: Ground): z.output<Shown>;
  write(tx: Tx, effects: Effects, ground: Ground, doer: Doer, input: z.output<Input>): Promise<Written | LeftToWrite>;
}

/** An act as everybody who does one knows it; what it reads and decides in between is its own. */
export interface Act {
  endpoint: ActEndpoint;
  right: Right | 'own';
  says: string;
  /** Takes an input, checked by the act's own schema; throws what the schema throws. */
  asked(input: unknown): Asked;
}

/** An act asked for with one input. */
export interface Asked {
  act: Act;
  /** The right it asks for with this input. */
  right: Right | 'own';
  input: unknown;
  expectedVersion: ExpectedVersion | null;
  /** Works out what is heavy, and answers how the rest is read. */
  prepare(database: Database, doer: Doer): Promise<Load>;
  /** Reads within a transaction that is another act's: of acts that prepare nothing. */
  within(sql: Sql, doer: Doer): Promise<Loaded>;
}

/** Reads what an act needs, in its transaction or at the moment of a preview. */
export type Load = (sql: Sql) => Promise<Loaded>;

/** What an act found when it looked. */
export interface Loaded {
  decide(): Decision<Effect>;
}

/** What an act would do. */
export interface Effect {
  preview(): unknown;
  /** What a second person must approve before it is written, in words; empty where nobody must. // G7 */
  waitsFor: string;
  write(tx: Tx): Promise<Written | LeftToWrite>;
}

/** What was prepared for an act does not fit any more: the ground moved meanwhile. */
export class GroundMoved extends Error {
  constructor() {
    super('the ground moved');
  }
}

const DONE = new Map<string, string>();
const ACTS = new Map<string, Act>();

/** The act of that name; undefined where there is none any more. */
export const actNamed = (name: string): Act | undefined => ACTS.get(name);

/** An act in the words of the list of changes. */
export function saysOf(act: string): string {
  return DONE.get(act) ?? act;
}

/** The names of acts whose words in the list of changes hold those words, or that are named so. */
export function actsSaying(words: string): string[] {
  const plain = words.trim().toLowerCase();
  return [...DONE].flatMap(([name, done]) =>
    done.toLowerCase().includes(plain) || name.toLowerCase().includes(plain.replaceAll(' ', '')) ? [name] : [],
  );
}

/** An act of that endpoint, its types held together from the schema to what is written. */
export function defineAct<Input extends Schema, Shown extends Schema, Ground, Effects, Prepared = undefined>(
  endpoint: ActEndpoint<Input, Shown>,
  how: How<Input, Shown, Ground, Effects, Prepared>,
): Act {
  DONE.set(endpoint.name, how.done);
  const act: Act = {
    endpoint,
    right: how.right,
    says: how.says,
    asked(given) {
      const input = z.parse(endpoint.input, given);
      const load = async (sql: Sql, doer: Doer, prepared: Prepared): Promise<Loaded> => {
        const ground = await how.load(sql, input, doer, prepared);
        const company = how.second ? await secondKinds(sql, doer.companyId) : [];
        const closed = how.posts && sql.forUpdate === '' ? await closedThrough(sql, doer.companyId) : null;
        return {
          decide() {
            const decision = how.decide(ground, input, doer);
            const effectOf = (effects: Effects): Effect => ({
              waitsFor: wordsOf(how.second?.(effects, ground, input) ?? [], company),
              preview: () => how.preview(effects, ground),
              write: (tx) => how.write(tx, effects, ground, doer, input),
            });
            if (decision.ok) {
              const effects = effectOf(decision.effects);
              const refusals = (how.also?.(decision.effects, ground, input) ?? [])
                .filter(({ right }) => !doer.rights.includes(right))
                .map(({ says }) => refuse('no-right', '', { act: says }));
              if (refusals.length > 0) return { ok: false, refusals, effects };
              const late = how.posts ? postedLater(how.posts(decision.effects, doer), closed) : [];
              const waits = effects.waitsFor ? [refuse('second-person', '', { what: effects.waitsFor })] : [];
              return { ok: true, effects, warnings: [...decision.warnings, ...late, ...waits] };
            }
            const { refusals, effects } = decision;
            return effects === undefined
              ? { ok: false, refusals }
              : { ok: false, refusals, effects: effectOf(effects) };
          },
        };
      };
      return {
        act,
        right: how.rightFor?.(input) ?? how.right,
        within: (sql, doer) => load(sql, doer, undefined as Prepared),
        input,
        expectedVersion: how.expectedVersion?.(input) ?? null,
        async prepare(database, doer) {
          // An act without a preparation has none to be handed.
          const prepared = (await how.prepare?.(database, input, doer)) as Prepared;
          return (sql) => load(sql, doer, prepared);
        },
      };
    },
  };
  ACTS.set(endpoint.name, act);
  return act;
}
