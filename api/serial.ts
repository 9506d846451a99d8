import * as z from 'zod';
import { NUMBER_LENGTH, SERIAL_PLACES } from '@core/serial';
import { act, Day, DocumentRef, Id, IdParam, ItemRef, ListQuery, LocationId, page, read, Text } from './kit';

/** A piece with a number of its own, and where it is. */
export const SerialRef = z.object({ id: Id, number: z.string(), place: z.enum(SERIAL_PLACES) });

const Piece = SerialRef.extend({
  item: ItemRef,
  /** Of ours, or the last one it was at. */
  location: z.string(),
  /** The order line it is for or went out on; held where the line holds it now. */
  line: z
    .object({ id: Id, order: DocumentRef, lineNo: z.number().int(), party: z.string(), held: z.boolean() })
    .nullable(),
  /** The order it was used in, and the product it is part of. */
  work: DocumentRef.nullable(),
  within: z.object({ id: Id, number: z.string(), item: z.string() }).nullable(),
  /** What it first came with. */
  born: DocumentRef,
  bornOn: Day,
});

export const listSerials = read({
  name: 'listSerials',
  path: '/serials',
  summary: 'Serial numbers: where each piece is, for whom, what made or brought it, and on which day.',
  query: ListQuery.extend({
    place: z.enum(SERIAL_PLACES).optional(),
    item: z.coerce.number().int().positive().max(4_294_967_295).optional(),
  }),
  out: page(Piece),
});

export const openSerial = read({
  name: 'openSerial',
  path: '/serials/:id',
  summary: 'One piece: where it is, what it is part of, what is in it, and its whole life.',
  params: IdParam,
  out: Piece.extend({
    /** What it is part of, and what that is part of; the nearest first. */
    above: z.array(
      z.object({ id: Id, number: z.string(), item: z.string(), place: z.enum(SERIAL_PLACES), at: z.string() }),
    ),
    /** All that is in it, each before what is in that; how deep, directly is 1. */
    parts: z.array(z.object({ id: Id, number: z.string(), item: z.string(), depth: z.number().int() })),
    /** Products of the order it was used in, which it could be part of. */
    products: z.array(z.object({ id: Id, number: z.string() })),
    /** What moved it, the first first. */
    life: z.array(
      z.object({
        document: DocumentRef,
        postedOn: Day,
        by: z.string(),
        what: z.enum([
          'received',
          'made',
          'found',
          'moved-in',
          'returned',
          'shipped',
          'used',
          'missing',
          'moved-out',
          'taken-back',
        ]),
        location: z.string(),
        order: DocumentRef.nullable(),
        party: z.string(),
      }),
    ),
  }),
});

export const serialsHere = read({
  name: 'serialsHere',
  path: '/items/:id/serials',
  summary:
    'The numbers of an item at one of our places, those an order line may take first; none where it is not kept by number.',
  params: IdParam,
  query: z.object({
    location: z.coerce.number().int().min(0).max(65_535).default(0),
    line: z.coerce.number().int().positive().max(4_294_967_295).optional(),
  }),
  out: z.object({
    /** Null where the item is not kept by number; empty where its numbers are typed. */
    pattern: z.string().nullable(),
    /** The next number the pattern makes. */
    next: z.string(),
    location: LocationId,
    rows: z.array(SerialRef.extend({ held: z.string(), own: z.boolean() })),
  }),
});

export const keepByNumber = act({
  name: 'keepByNumber',
  summary: 'Keep an item by serial number from now on, or change how its numbers are made.',
  input: z.object({ itemId: Id, pattern: Text(NUMBER_LENGTH) }),
  preview: z.object({ pattern: z.string(), next: z.string() }),
});

export const correctNumber = act({
  name: 'correctNumber',
  summary: 'Write a serial number as it is: it was mistyped.',
  input: z.object({
    serialId: Id,
    /** As it was seen. // G2 */
    was: Text(NUMBER_LENGTH),
    number: Text(NUMBER_LENGTH),
    reason: Text(200),
  }),
  preview: z.object({ was: z.string(), number: z.string() }),
});

export const putPart = act({
  name: 'putPart',
  summary: 'Say which product of its order a used piece is part of; null for none.',
  input: z.object({ serialId: Id, productId: Id.nullable() }),
  preview: z.object({ product: z.string() }),
});
