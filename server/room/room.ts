import type { Act } from '../acts';
import type { Sql } from '../db';
import type { Answer } from './answer';
import type { Check } from './check';
import type { FileAnswer } from './file';
import type { Findable } from './findable';
import type { Parts } from './parts';

/** What a room has: everything that is done over all rooms is made of this, and knows none of them. */
export interface Room {
  acts?: readonly Act[];
  answers?: readonly Answer[];
  files?: readonly FileAnswer[];
  /** What the server does once an act of that name was done. */
  after?: Readonly<Record<string, (parts: Parts) => void>>;
  checks?: readonly Check[];
  /** What a query alone cannot tell of what is kept: a sentence for each difference. // G5 */
  differences?(sql: Sql): Promise<string[]>;
  findable?: readonly Findable[];
}
