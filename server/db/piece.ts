/** A value that may be bound to a placeholder. */
export type Bound = string | number | boolean | null | Buffer | Date;

/** A piece of SQL where a value would stand, with its own placeholders. */
export class Piece {
  constructor(
    readonly sql: string,
    readonly values: readonly Bound[] = [],
  ) {}
}

/** A piece that gives a text; it must need no escaping where it stands in JSON. */
export class TextPiece extends Piece {}

/** The id the statement before this one gave, in `insertBatch`. */
export const LAST_ID = new Piece('LAST_INSERT_ID()');
