import * as z from 'zod';
import { refuse } from '@core/refusals';
import type { Schema } from '@api/kit';
import type { Act, Asked } from '../acts';
import { Refusals } from './answer';

/** An act asked for with what was sent, or refusals that name its bad fields. */
export function askedOf(act: Act, sent: unknown): Asked {
  textsKept(sent);
  try {
    return act.asked(sent);
  } catch (error) {
    if (error instanceof z.ZodError) throw badInput(error, 'What was sent');
    throw error;
  }
}

/** What was sent, as its schema reads it; refusals that name its bad fields where it cannot. */
export function checked<S extends Schema>(schema: S, value: unknown, what: string): z.infer<S> {
  textsKept(value);
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  throw badInput(read.error, what);
}

/** Half a letter, or a mark that no screen shows and no XML holds; ends of lines and tabs are none. */
const UNKEPT = /[\p{Cs}\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/u;
/** No input of ours goes deeper. */
const DEEPEST = 20;

/** Refuses a text that cannot be kept or handed on, wherever it stands. O(what was sent) */
function textsKept(sent: unknown, path: readonly string[] = []): void {
  if (typeof sent === 'string') {
    if (UNKEPT.test(sent)) throw new Refusals(400, [refuse('bad-text', path.join('.'), {})]);
  } else if (typeof sent === 'object' && sent !== null) {
    if (path.length > DEEPEST) throw new Refusals(400, [refuse('malformed', '', { what: 'What was sent' })]);
    for (const [name, inner] of Object.entries(sent)) textsKept(inner, [...path, name]);
  }
}

/** What `namedOnce` found: where a thing was named first; undefined for anything else. */
function namedFirst(issue: z.core.$ZodIssue): number | undefined {
  return issue.code === 'custom' ? (issue.params?.['first'] as number | undefined) : undefined;
}

/** Refusals for what a schema found wrong, the first twenty. // G3 G4 */
function badInput(error: z.ZodError, what: string): Refusals {
  const understood = error.issues.every((issue) => namedFirst(issue) !== undefined);
  return new Refusals(
    understood ? 422 : 400,
    error.issues.slice(0, 20).map((issue) => {
      const field = issue.path.join('.');
      if (issue.code === 'too_big' && typeof issue.maximum === 'number') {
        return refuse('too-long', field, { what: 'This', most: String(issue.maximum) });
      }
      const first = namedFirst(issue);
      return first === undefined
        ? refuse('malformed', field, { what })
        : refuse('named-again', field, { line: String(first + 1) });
    }),
  );
}
