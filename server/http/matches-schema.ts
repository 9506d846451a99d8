import { isDeepStrictEqual } from 'node:util';
import type { Schema } from '@api/kit';

/** Throws where an answer, as it travels, is not what its schema says: no less, and nothing that the schema does not name. */
export function assertMatchesSchema(schema: Schema, text: string): void {
  const answer: unknown = JSON.parse(text);
  const said: unknown = JSON.parse(JSON.stringify(schema.parse(answer)));
  if (!isDeepStrictEqual(said, answer)) throw new Error(`an answer says more than its schema: ${text.slice(0, 2000)}`);
}
