import * as z from 'zod';
import { MOST_REFERENCE } from '@core/kernel';
import { CLOSED_RULES, STANDING_STATES } from '@core/standing';
import {
  act,
  Address,
  Day,
  Decimal,
  DocumentRef,
  Id,
  IdParam,
  ItemRef,
  ListQuery,
  page,
  Party,
  read,
  Text,
  TypedDay,
  TypedDecimal,
} from './kit';

const State = z.enum(STANDING_STATES);

export const StandingDateShown = z.object({
  day: Day,
  /** When it ships; null where it is skipped. */
  shipDay: Day.nullable(),
  why: z.string(),
  state: z.enum(['waits', 'skipped', 'made', 'refused']),
  order: DocumentRef.nullable(),
  /** Its order is a draft: something stood against confirming it. */
  draft: z.boolean(),
});

const Line = z.object({ item: ItemRef, quantity: Decimal, unit: z.string(), units: z.array(z.string()) });

export const StandingSheet = z.object({
  document: DocumentRef,
  version: z.number(),
  state: State,
  customer: Party,
  shipTo: Address,
  shipTos: z.array(Address),
  customerReference: z.string(),
  firstDay: Day,
  lastDay: Day.nullable(),
  aheadDays: z.number(),
  closed: z.enum(CLOSED_RULES),
  /** What it says now and later: from a day on, a rule and its lines. */
  terms: z.array(z.object({ fromDay: Day, rule: z.string(), lines: z.array(Line) })),
  /** The term that holds now, or the first to come. */
  now: z.number(),
  /** Its dates: the last few that are over, and those of the next months. */
  dates: z.array(StandingDateShown),
});

export const openStanding = read({
  name: 'openStanding',
  path: '/standing-orders/:id',
  summary: 'One standing order with its next dates: what is skipped and why, and what was made.',
  params: IdParam,
  out: StandingSheet,
});

export const StandingRow = z.object({
  document: DocumentRef,
  state: State,
  customer: Party,
  rule: z.string(),
  firstDay: Day,
  lastDay: Day.nullable(),
  what: z.string(),
  dueOn: Day.nullable(),
  made: z.number(),
  needs: z.number(),
});

export const listStanding = read({
  name: 'listStanding',
  path: '/standing-orders',
  summary: 'Standing orders, newest first.',
  query: ListQuery.extend({ state: State.optional(), customer: z.coerce.number().int().positive().optional() }),
  out: page(StandingRow),
});

export const standingCover = read({
  name: 'standingCover',
  needs: 'see-agreements',
  path: '/standing-cover',
  summary: 'How much of each customer’s year their standing orders cover, at today’s list prices.',
  out: z.object({
    currency: z.string(),
    /** Within a year by standing orders, and ordered in the year that is over. */
    rows: z.array(z.object({ customer: Party, standing: Decimal, ordered: Decimal })),
  }),
});

const TypedLines = z
  .array(z.object({ itemId: Id.nullable(), quantity: TypedDecimal, unit: Text(12).default('') }))
  .max(100);

export const saveStanding = act({
  name: 'saveStanding',
  summary: 'Make a standing order, or change one from a day on.',
  input: z.object({
    id: Id.nullable(),
    version: z.number().int().nullable(),
    customerId: Id.nullable(),
    shipToId: Id.nullable(),
    customerReference: Text(MOST_REFERENCE),
    /** RFC 5545, as it was read of what was typed. */
    rule: Text(200),
    firstDay: TypedDay,
    lastDay: TypedDay,
    aheadDays: TypedDecimal,
    closed: Text(10),
    from: TypedDay,
    lines: TypedLines,
  }),
  preview: z.object({ dates: z.array(z.object({ day: Day, shipDay: Day.nullable(), why: z.string() })) }),
});

export const setStanding = act({
  name: 'setStanding',
  summary: 'Pause a standing order, let it go on, or end it.',
  input: z.object({ id: Id, version: z.number().int(), state: State }),
  /** How many dates that came while it was paused are skipped. */
  preview: z.object({ state: State, skipped: z.number() }),
});

export const makeStanding = act({
  name: 'makeStanding',
  summary: 'Make the order of one date of a standing order; what stands against confirming leaves it a draft.',
  input: z.object({ id: Id, day: Day }),
  preview: z.object({ shipDay: Day }),
});

export const skipStanding = act({
  name: 'skipStanding',
  summary: 'Skip one date of a standing order with why, or take that back.',
  input: z.object({ id: Id, day: Day, skipped: z.boolean(), reason: Text(120) }),
  preview: z.object({}),
});

export const pasteStanding = act({
  name: 'pasteStanding',
  summary: 'Make standing orders for many customers at once, by rows of customer, item, quantity and how often.',
  input: z.object({
    rows: z
      .array(
        z.object({
          customer: Text(120),
          item: Text(40),
          quantity: TypedDecimal,
          /** RFC 5545. */
          rule: Text(200),
          firstDay: TypedDay,
        }),
      )
      .max(2000),
    aheadDays: TypedDecimal,
    closed: Text(10),
  }),
  preview: z.object({ standing: z.number(), lines: z.number() }),
});
