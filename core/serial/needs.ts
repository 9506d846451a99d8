import type { SerialPlace } from './serial';

/** The document a piece moves with, by its place among those of its kind that the act writes. */
export interface MovedWith {
  kind: 'RC' | 'SH' | 'WR' | 'JR' | 'CT' | 'CN';
  at: number;
}

/** So many of an item that move at one of our places, with a document. */
export interface Need {
  itemId: number;
  locationId: number;
  quantity: string;
  with: MovedWith;
  /** Where it is refused. */
  field: string;
}

/** Pieces that leave one of our places: those that are typed, else those that fit best. */
export interface Leaving extends Need {
  way: 'out';
  typed: readonly string[];
  to: Exclude<SerialPlace, 'ours'>;
  /** The order line they go out on, or are taken from; null where only what is held for nobody may leave. */
  lineId: number | null;
  /** The order they are used in. */
  workId: number | null;
}

/** Pieces that come to one of our places: those that are typed, else made by the item's pattern. */
export interface Coming extends Need {
  way: 'in';
  typed: readonly string[];
  /** The lines they come for, with how many each. */
  for: readonly { lineId: number; quantity: string }[];
  /** Come of an order, and what of its parts goes into each. */
  made: Made | null;
}

/** An order something comes out of: parts of it that have numbers go into its products. */
export interface Made {
  workId: number;
  /** Of how many pieces, of which so many came out of it before. */
  quantity: string;
  before: string;
  /** How many of an item go into all of them. */
  parts: readonly { itemId: number; quantity: string }[];
}

/** Pieces that go from one of our places to another. */
export interface Between extends Need {
  way: 'between';
  typed: readonly string[];
  toId: number;
}

/** Pieces that went out on an order line and come back. */
export interface Returned extends Need {
  way: 'return';
  typed: readonly string[];
  lineId: number;
}

/** Pieces that a document moved, moved back by the one that takes it back. */
export interface Back {
  way: 'back';
  of: { kind: MovedWith['kind']; id: number };
  /** The document that is taken back, in words. */
  document: string;
  with: MovedWith;
  /** Where those are that it took from our place. */
  from: SerialPlace;
  /** The lines that hold again what comes back from them. */
  heldAgain: readonly number[];
}

export type SerialNeed = Leaving | Coming | Between | Returned | Back;
