import { dec, pointOf } from '@core/kernel';

export const SERIAL_PLACES = ['ours', 'customer', 'used', 'out'] as const;
/**
 * Where one piece with a number of its own is: at one of our places, at a customer's, used in production, or out: written
 * off, sent back to its vendor, or not made after all. It is in one place, always. // P6
 */
export type SerialPlace = (typeof SERIAL_PLACES)[number];

/** A piece as it is. */
export interface Serial {
  id: number;
  itemId: number;
  number: string;
  place: SerialPlace;
  /** Of ours, or the last one it was at. */
  locationId: number;
  /** The order line it was made or came for, or went out on. */
  lineId: number | null;
  /** The order it was used in, and the product it is part of. */
  workId: number | null;
  withinId: number | null;
}

/** An item that is kept by number. */
export interface KeptByNumber {
  itemId: number;
  item: string;
  /** Empty where its numbers are typed. */
  pattern: string;
  /** The count of the next number that is made. */
  next: number;
}

/** What a document moved of a piece, for the one that takes it back. */
export interface MovedBefore {
  kind: string;
  documentId: number;
  serialId: number;
  itemId: number;
  locationId: number;
  /** One more at our place, or one fewer. */
  quantity: number;
  lineId: number | null;
}

/** What deciding on numbers needs, all of it read under the lock of the stock it is about. */
export interface SerialGround {
  kept: readonly KeptByNumber[];
  /** Those that are where goods move, those that were typed, and those that a document which is taken back moved. */
  serials: readonly Serial[];
  moved: readonly MovedBefore[];
  /** What the lines that pieces are for hold of their stock, with the line in words; by line. */
  lines: ReadonlyMap<number, { reserved: string; words: string }>;
  /** Our places by id. */
  places: ReadonlyMap<number, string>;
}

/** Nothing that moves is kept by number. */
export const NOTHING_KEPT: SerialGround = { kept: [], serials: [], moved: [], lines: new Map(), places: new Map() };

/** What several decisions of one act need, as one. */
export function together(grounds: readonly SerialGround[]): SerialGround {
  const once = <Each>(all: readonly Each[], key: (each: Each) => unknown) => [
    ...new Map(all.map((each) => [key(each), each])).values(),
  ];
  return {
    kept: once(
      grounds.flatMap(({ kept }) => kept),
      ({ itemId }) => itemId,
    ),
    serials: once(
      grounds.flatMap(({ serials }) => serials),
      ({ id }) => id,
    ).sort((a, b) => a.id - b.id),
    moved: grounds.flatMap(({ moved }) => moved),
    lines: new Map(grounds.flatMap(({ lines }) => [...lines])),
    places: new Map(grounds.flatMap(({ places }) => [...places])),
  };
}

/**
 * The pieces at our places that are held, with the line each is held for: of those that came for a line as many as it
 * holds, the first that came first. What a line lets go of is free again with that. // P6 W3 S3
 */
export function heldSerials(serials: readonly Serial[], reservedOf: (lineId: number) => string): Map<Serial, number> {
  const held = new Map<Serial, number>();
  const counted = new Map<string, number>();
  for (const serial of [...serials].sort((a, b) => a.id - b.id)) {
    if (serial.place !== 'ours' || serial.lineId === null) continue;
    const key = `${serial.lineId} ${pointOf(serial.itemId, serial.locationId)}`;
    const count = (counted.get(key) ?? 0) + 1;
    counted.set(key, count);
    if (dec(reservedOf(serial.lineId)).gte(count)) held.set(serial, serial.lineId);
  }
  return held;
}
