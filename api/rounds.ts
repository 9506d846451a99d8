import * as z from 'zod';
import { act, Day, Decimal, DocumentRef, Id, ItemRef, namedOnce, read, SerialNumbers, Text, TypedDecimal } from './kit';

const Stop = z.object({
  shipToId: Id,
  customer: z.object({ id: Id, name: z.string() }),
  label: z.string(),
  town: z.string(),
});

export const RoundShown = z.object({
  id: Id,
  version: z.number(),
  name: z.string(),
  week: z.string(),
  vehicle: z.string(),
  mostWeight: Decimal.nullable(),
  mostVolume: Decimal.nullable(),
  stops: z.array(Stop),
  /** Its next days. */
  days: z.array(Day),
});

export const listRounds = read({
  name: 'listRounds',
  path: '/rounds',
  summary: 'Delivery rounds with their stops and next days.',
  out: z.object({ rows: z.array(RoundShown) }),
});

export const RunLine = z.object({
  lineId: Id,
  order: DocumentRef,
  lineNo: z.number(),
  reference: z.string(),
  item: ItemRef,
  byNumber: z.boolean(),
  shipDate: Day,
  open: Decimal,
  now: Decimal,
  loaded: Decimal,
  weight: Decimal,
});

export const runSheet = read({
  name: 'runSheet',
  path: '/rounds/:id/runs/:day',
  summary: 'The run of a round on a day: what goes to which stop, its weight and volume, and what is over the vehicle.',
  params: z.object({ id: z.coerce.number().int().positive(), day: z.iso.date() }),
  out: z.object({
    round: RoundShown,
    day: Day,
    stops: z.array(
      Stop.extend({
        stopNo: z.number(),
        lines: z.array(RunLine),
        weight: Decimal,
        volume: Decimal,
        over: z.boolean(),
        /** Something of it is on the vehicle. */
        loaded: z.boolean(),
      }),
    ),
    weight: Decimal,
    volume: Decimal,
    overWeight: Decimal,
    overVolume: Decimal,
    /** What went out on this run already. */
    shipped: z.array(z.object({ shipment: DocumentRef, customer: z.string() })),
  }),
});

export const roundAddresses = read({
  name: 'roundAddresses',
  path: '/rounds/addresses',
  summary: 'Addresses of customers by any part of name, label or town, each with the round it is on.',
  query: z.object({ q: z.string().max(80).default('') }),
  out: z.object({ rows: z.array(Stop.extend({ round: z.string() })) }),
});

export const saveRound = act({
  name: 'saveRound',
  summary: 'Make a delivery round, or change one.',
  input: z.object({
    id: Id.nullable(),
    version: z.number().int().nullable(),
    name: Text(60),
    week: Text(7),
    vehicle: Text(60),
    mostWeight: TypedDecimal,
    mostVolume: TypedDecimal,
    stops: namedOnce(z.array(Id).max(200)),
  }),
  preview: z.object({ stops: z.number() }),
});

export const dropRound = act({
  name: 'dropRound',
  summary: 'Put a delivery round out of use; its addresses are on none.',
  input: z.object({ id: Id, version: z.number().int() }),
  preview: z.object({}),
});

export const loadRun = act({
  name: 'loadRun',
  summary: 'Say what of which lines is on the vehicle of a run.',
  input: z.object({
    roundId: Id,
    day: Day,
    lines: namedOnce(
      z
        .array(z.object({ lineId: Id, quantity: TypedDecimal }))
        .min(1)
        .max(500),
      'lineId',
    ),
  }),
  preview: z.object({ weight: Decimal, overWeight: Decimal, volume: Decimal, overVolume: Decimal }),
});

export const shipStop = act({
  name: 'shipStop',
  summary: 'Ship what is loaded for a stop of a run, in one act.',
  input: z.object({
    roundId: Id,
    day: Day,
    shipToId: Id,
    /** The pieces, of lines kept by number. */
    numbers: namedOnce(z.array(z.object({ lineId: Id, numbers: SerialNumbers })).max(200), 'lineId').default([]),
  }),
  preview: z.object({ lines: z.number() }),
});
