import type { DocumentKind, DocumentRef, Day } from '@core/kernel';
import type { Decision } from '@core/refusals';
import type { Right } from '@api/access';
import type { ActEndpoint } from '@api/kit';
import type { Last, Piece, Sql, TextPiece, Tx } from '../db/database';
import type * as z from 'zod';

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
}

/** What an act made and what it changed besides. */
export interface Written {
  made: Touched[];
  touched: Touched[];
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
export interface SeenVersion {
  kind: DocumentKind;
  id: number;
  version: number;
}

/** A named change: load, decide, write. `runAct` does all the rest. */
export interface Act<Endpoint extends ActEndpoint = ActEndpoint, Ground = unknown, Effects = unknown> {
  endpoint: Endpoint;
  right: Right;
  /** In words, for refusals and the list of changes: `release an agreement`. */
  says: string;
  /** The document and version the input was typed against, where that matters. */
  saw?(input: z.infer<Endpoint['input']>): SeenVersion | null;
  /** Reads what deciding needs and locks it, always in the order agreements, sales, purchases, stock. */
  load(tx: Sql, input: z.infer<Endpoint['input']>, doer: Doer): Promise<Ground>;
  decide(ground: Ground, input: z.infer<Endpoint['input']>, doer: Doer): Decision<Effects>;
  show(effects: Effects, ground: Ground): z.infer<Endpoint['shown']>;
  write(
    tx: Tx,
    effects: Effects,
    ground: Ground,
    doer: Doer,
    input: z.infer<Endpoint['input']>,
  ): Promise<Written | LeftToWrite>;
}

/** Ties the types of an act together. */
export function defineAct<Endpoint extends ActEndpoint, Ground, Effects>(
  endpoint: Endpoint,
  rest: Omit<Act<Endpoint, Ground, Effects>, 'endpoint'>,
): Act {
  return { endpoint, ...rest } as unknown as Act;
}
