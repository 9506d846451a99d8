import * as z from 'zod';
import { refuse } from '@core/refusals';
import type { Schema } from '@api/kit';
import type { Act, Asked } from '../acts';
import { Refusals } from './answer';

/** An act asked for with what was sent, or refusals that name its bad fields. */
export function askedOf(act: Act, sent: unknown): Asked {
  try {
    return act.asked(sent);
  } catch (error) {
    if (error instanceof z.ZodError) throw badInput(error, 'What was sent');
    throw error;
  }
}

/** What was sent, as its schema reads it; refusals that name its bad fields where it cannot. */
export function checked<S extends Schema>(schema: S, value: unknown, what: string): z.infer<S> {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  throw badInput(read.error, what);
}

/** Refusals for what a schema found wrong, the first twenty. // G3 G4 */
function badInput(error: z.ZodError, what: string): Refusals {
  return new Refusals(
    400,
    error.issues.slice(0, 20).map((issue) => {
      const field = issue.path.join('.');
      if (issue.code === 'too_big' && typeof issue.maximum === 'number') {
        return refuse('too-long', field, { what: 'This', most: String(issue.maximum) });
      }
      const first = issue.code === 'custom' ? (issue.params?.['first'] as number | undefined) : undefined;
      return first === undefined
        ? refuse('malformed', field, { what })
        : refuse('named-again', field, { line: String(first + 1) });
    }),
  );
}
