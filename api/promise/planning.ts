import * as z from 'zod';
import { OBTAINED } from '@core/promise';
import { act, Day, Decimal, DocumentRef, Id, IdParam, LocationId, namedOnce, read, TypedDay } from '../kit';

const PlannedRow = z.object({
  id: Id,
  number: z.string(),
  kind: z.enum(['make', 'assemble', 'buy']),
  state: z.enum(['planned', 'firm', 'running', 'finished', 'cancelled', 'placed']),
  version: z.number().int(),
  item: z.object({ id: Id, number: z.string(), name: z.string(), unit: z.string() }),
  quantity: Decimal,
  /** What came of it, and what of it was lost. // W3 */
  finished: Decimal,
  scrapped: Decimal,
  start: Day,
  due: Day,
  vendor: z.string().nullable(),
  /** Who it is for: a sales order, another planned order, or nobody; and how many order lines besides. */
  for: z.object({ kind: z.string(), id: Id, number: z.string(), party: z.string() }).nullable(),
  alsoFor: z.number().int(),
  /** The purchase order it was placed with. // T12 */
  purchase: DocumentRef.nullable(),
});

export const makeFirm = act({
  name: 'makeFirm',
  summary:
    'Make planned production and assembly orders firm: promising and planning leave them as they are; or plan them again.',
  input: z.object({ orderIds: namedOnce(z.array(Id).min(1).max(500)), firm: z.boolean() }),
  preview: z.object({ orders: z.array(z.string()) }),
});

export const listPlanned = read({
  name: 'listPlanned',
  path: '/planned',
  summary: 'What is planned to be made, assembled and bought, soonest first.',
  query: z.object({ cursor: z.string().optional(), rows: z.coerce.number().int().min(1).max(200).optional() }),
  out: z.object({ rows: z.array(PlannedRow), next: z.string().nullable() }),
});

export const openPlanned = read({
  name: 'openPlanned',
  path: '/planned/:id',
  summary: 'One planned order: its components, operations, and what is planned for it.',
  params: IdParam,
  out: PlannedRow.extend({
    held: Decimal,
    components: z.array(
      z.object({
        item: z.object({ id: Id, number: z.string(), name: z.string(), unit: z.string() }),
        quantity: Decimal,
        covered: Decimal,
        neededOn: Day,
      }),
    ),
    operations: z.array(
      z.object({
        no: z.number().int(),
        name: z.string(),
        centre: z.string(),
        minutes: z.number().int(),
        firstDay: Day,
        lastDay: Day,
      }),
    ),
    below: z.array(PlannedRow),
  }),
});

export const openLoad = read({
  name: 'openLoad',
  path: '/load',
  summary: 'Work centres against what they can do, by day, with the orders behind it.',
  query: z.object({ days: z.coerce.number().int().min(7).max(180).optional() }),
  out: z.object({
    centres: z.array(
      z.object({
        id: Id,
        code: z.string(),
        name: z.string(),
        days: z.array(
          z.object({
            day: Day,
            capacity: z.number().int(),
            minutes: z.number().int(),
            orders: z.array(
              z.object({ id: Id, kind: z.string(), number: z.string(), minutes: z.number().int(), item: z.string() }),
            ),
          }),
        ),
      }),
    ),
  }),
});

export const openRepromise = read({
  name: 'openRepromise',
  path: '/repromise',
  summary: 'The last run over all open lines: how far it is, and whose promise moves; null where there was none.',
  out: z.object({
    run: z
      .object({
        id: Id,
        state: z.enum(['waiting', 'running', 'done', 'stopped', 'failed']),
        done: z.number().int(),
        total: z.number().int(),
        workDate: Day,
        /** When it was made and for whom, and how many acts moved something since: some hundred at most. // T11 */
        madeAt: z.string(),
        by: z.string(),
        since: z.number().int(),
        /** Lines whose day moves; those shown may be fewer. */
        moves: z.number().int(),
        moved: z.array(
          z.object({
            lineId: Id,
            lineNo: z.number().int(),
            order: DocumentRef,
            customer: z.string(),
            item: z.string(),
            quantity: Decimal,
            was: Day,
            is: Day.nullable(),
            why: z.string(),
            /** The line stands on the new day already. */
            taken: z.boolean(),
          }),
        ),
      })
      .nullable(),
  }),
});

export const brokenPromises = read({
  name: 'brokenPromises',
  path: '/orders/:id/promise/broken',
  summary: 'Lines of an order whose promised day cannot be kept as things stand, with the day that can and why.',
  params: IdParam,
  out: z.object({
    lines: z.array(z.object({ lineId: Id, lineNo: z.number().int(), was: Day, is: Day.nullable(), why: z.string() })),
  }),
});

export const startRepromise = act({
  name: 'startRepromise',
  summary: 'Ask all open lines again, in rank order; it goes on by itself and writes no promise.',
  input: z.object({}),
  preview: z.object({ lines: z.number().int() }),
});

export const stopRepromise = act({
  name: 'stopRepromise',
  summary: 'Stop a run: promising again, or planning.',
  input: z.object({ id: Id }),
  preview: z.object({}),
});

export const applyRepromise = act({
  name: 'applyRepromise',
  summary: 'Take the new days of some lines of a run, all of them or none, with what must be planned anew.',
  input: z.object({ id: Id, lineIds: namedOnce(z.array(Id).min(1).max(500)) }),
  preview: z.object({ lines: z.number().int(), orders: z.number().int() }),
});

const Pegged = z.object({
  /** A document, `safety` for the safety stock, or `proposal` for an order that is proposed itself. */
  kind: z.string(),
  id: z.number().int(),
  number: z.string(),
  party: z.string(),
  day: Day,
  quantity: Decimal,
});

export const openPlanning = read({
  name: 'openPlanning',
  path: '/planning',
  summary:
    'The last planning run: how far it is, and what it proposes, the first to be begun first; null where none was.',
  query: z.object({ rows: z.coerce.number().int().min(1).max(2000).optional() }),
  out: z.object({
    /** Whether what is left of agreements counts by how likely it is. // A7 */
    byProbability: z.boolean(),
    run: z
      .object({
        id: Id,
        state: z.enum(['waiting', 'running', 'done', 'stopped', 'failed']),
        done: z.number().int(),
        total: z.number().int(),
        workDate: Day,
        /** When it was made and for whom, and how many acts moved something since: some hundred at most. // T11 */
        madeAt: z.string(),
        by: z.string(),
        since: z.number().int(),
        until: Day,
        /** The items it was asked for; empty for all. */
        items: z.array(z.string()),
        /** All proposals; those shown may be fewer. */
        proposed: z.number().int(),
        proposals: z.array(
          z.object({
            /** Its place in the run. */
            at: z.number().int(),
            kind: z.enum(['place', 'move', 'cancel']),
            obtained: z.enum(OBTAINED),
            item: z.object({ id: Id, number: z.string(), name: z.string(), unit: z.string() }),
            /** Where it is wanted, or comes to. */
            locationId: LocationId,
            quantity: Decimal,
            /** What moves or goes. */
            source: z.object({ kind: z.string(), id: Id, number: z.string() }).nullable(),
            vendor: z.string(),
            /** When it must be ordered or begun; null for what is there already. */
            start: Day.nullable(),
            /** The day it comes on as it stands; null for what is proposed new. */
            from: Day.nullable(),
            /** The day it would come on; null for what goes. */
            to: Day.nullable(),
            /** The day it was needed, where that is before. */
            neededOn: Day.nullable(),
            for: z.array(Pegged),
            /** Those it is for beyond the ones shown. */
            more: z.number().int(),
            /** What taking it made or changed; null while it is not taken. */
            taken: z.object({ kind: z.string(), id: Id, number: z.string() }).nullable(),
          }),
        ),
        short: z.array(
          z.object({ item: z.object({ id: Id, number: z.string() }), quantity: Decimal, day: Day, why: z.string() }),
        ),
        /** What is coming, too late for whom it is for, and cannot come sooner. // T11 */
        late: z.array(
          z.object({
            item: z.object({ id: Id, number: z.string() }),
            source: z.object({ kind: z.string(), id: z.number().int(), number: z.string(), party: z.string() }),
            quantity: Decimal,
            comes: Day,
            neededOn: Day,
            for: z.array(z.string()),
          }),
        ),
      })
      .nullable(),
  }),
});

export const weighPlanning = act({
  name: 'weighPlanning',
  summary: 'Say whether what is left of agreements counts in planning by how likely it is, or all of it.',
  input: z.object({ byProbability: z.boolean() }),
  preview: z.object({}),
});

export const startPlanning = act({
  name: 'startPlanning',
  summary: 'Plan what items need until a day, level by level; it goes on by itself and writes no order.',
  input: z.object({
    until: TypedDay,
    /** The items planned, with all they are made of; empty for every item. */
    itemIds: namedOnce(z.array(Id).max(200)),
  }),
  preview: z.object({ items: z.number().int() }),
});

export const takeProposals = act({
  name: 'takeProposals',
  summary: 'Take proposals of a planning run, all of those named or none: orders are placed, moved and cancelled.',
  input: z.object({ id: Id, at: namedOnce(z.array(z.number().int().nonnegative()).min(1).max(500)) }),
  preview: z.object({
    planned: z.number().int(),
    purchases: z.number().int(),
    moved: z.number().int(),
    cancelled: z.number().int(),
  }),
});

export const PegRow = z.object({
  depth: z.number().int(),
  /** A document, `stock`, `safety`, or `missing` where nothing serves it. */
  kind: z.string(),
  id: z.number().int(),
  number: z.string(),
  party: z.string(),
  item: z.object({ id: Id, number: z.string() }).nullable(),
  quantity: Decimal,
  day: Day.nullable(),
  /** Held for it, not only next in line. */
  held: z.boolean(),
  /** Of what is made: how far it is, and the operation that is next or under way. // W3 */
  work: z
    .object({
      state: z.string(),
      quantity: Decimal,
      finished: Decimal,
      operation: z.object({ name: z.string(), done: Decimal }).nullable(),
    })
    .nullable(),
});

export const openPegging = read({
  name: 'openPegging',
  path: '/pegging/:kind/:id',
  summary:
    'Whom a planned order, a purchase or a sales order serves, up to the customer, and what serves it, all the way down.',
  params: z.object({ kind: z.enum(['PR', 'AS', 'PL', 'PO', 'SO']), id: z.coerce.number().int().positive() }),
  out: z.object({ up: z.array(PegRow), down: z.array(PegRow) }),
});
