import { refuse, type Refusal } from '@core/refusals';

/** Thrown where a document asked for is not in this company. */
export class NotFound extends Error {
  readonly refusal: Refusal;
  constructor(what: string) {
    super(`${what} not found`);
    this.refusal = refuse('not-found', '', { what });
  }
}

/** The row, or `NotThere`. */
export function orNotFound<Row>(row: Row | undefined, what: string): Row {
  if (row === undefined) throw new NotFound(what);
  return row;
}
