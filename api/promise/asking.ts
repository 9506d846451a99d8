import * as z from 'zod';
import { ROUTES } from '@core/catalogue';
import { METHODS, OBTAINED, WAYS } from '@core/promise';
import {
  act,
  Day,
  Decimal,
  Id,
  IdParam,
  Location,
  LocationId,
  namedOnce,
  post,
  read,
  Text,
  TypedDay,
  TypedDecimal,
} from '../kit';

const Source = z.object({
  kind: z.string(),
  id: Id,
  number: z.string(),
  lineId: Id.optional(),
  party: z.string(),
});
/** An item at a location, as `pointOf` makes it; at the main location the item itself. */
const Point = z
  .number()
  .int()
  .positive()
  .max(2 ** 48);
const Move = z.object({ itemId: Point, day: Day, quantity: Decimal, source: Source, fixed: z.boolean().optional() });
const Calendar = z.object({ id: Id, week: z.string(), holidays: z.array(Day).readonly() });
const Seller = z.object({
  vendorId: Id,
  name: z.string(),
  leadDays: z.number(),
  calendarId: Id,
  minimum: Decimal,
  multiple: Decimal,
});

/** A minute of a day, 1440 for its end. */
const Minute = z.number().int().min(0).max(1440);

/** All that promises of some items stand on; `core/promise` computes on it, here and in the browser alike. */
export const GroundRows = z.object({
  workDate: Day,
  horizon: z.number().int(),
  calendars: z.array(Calendar).readonly(),
  ownCalendarId: Id,
  receivingDays: z.number().int(),
  safetyDays: z.number().int(),
  items: z
    .array(
      z.object({
        id: Point,
        number: z.string(),
        name: z.string(),
        unit: z.string(),
        obtained: z.enum(OBTAINED),
        method: z.enum(METHODS),
        safetyStock: Decimal,
        lotMinimum: Decimal,
        lotMultiple: Decimal,
        phantom: z.boolean(),
        outOfUse: z.boolean(),
        makeDays: z.number().int(),
        onHand: Decimal,
        held: Decimal,
        sellers: z.array(Seller).readonly(),
      }),
    )
    .readonly(),
  components: z
    .array(
      z.object({
        itemId: Id,
        lineNo: z.number().int(),
        componentId: Id,
        quantity: Decimal,
        scrapPercent: Decimal,
        operationNo: z.number().int().nullable(),
        firstDay: Day.nullable(),
        lastDay: Day.nullable(),
      }),
    )
    .readonly(),
  operations: z
    .array(
      z.object({
        itemId: Id,
        no: z.number().int(),
        name: z.string(),
        centreId: Id,
        setup: Decimal,
        run: Decimal,
        parallel: z.number().int(),
        firstDay: Day.nullable(),
        lastDay: Day.nullable(),
      }),
    )
    .readonly(),
  centres: z
    .array(
      z.object({
        id: Id,
        code: z.string(),
        name: z.string(),
        machines: z.number().int(),
        shifts: z.array(z.object({ week: z.string(), from: Minute, until: Minute })).readonly(),
        calendarId: Id,
      }),
    )
    .readonly(),
  load: z
    .array(z.object({ centreId: Id, day: Day, from: Minute, until: Minute, machines: z.number().int() }))
    .readonly(),
  overtime: z.array(z.object({ centreId: Id, day: Day, from: Minute, until: Minute })).readonly(),
  out: z.array(z.object({ centreId: Id, day: Day, machines: z.number().int() })).readonly(),
  supplies: z.array(Move).readonly(),
  demands: z.array(Move).readonly(),
});

export const openAvailability = read({
  name: 'openAvailability',
  path: '/items/:id/availability',
  summary: 'What comes and goes of an item, with the documents behind it; a line leaves its own demand out.',
  params: IdParam,
  query: z.object({ line: z.coerce.number().int().positive().optional() }),
  /** The item once for each location, in their order. */
  out: GroundRows.extend({
    places: z.array(Location),
    /** What was promised of the line, and what comes for it alone; null where nothing was. */
    own: z
      .object({
        day: Day,
        planned: z.array(z.object({ number: z.string(), quantity: Decimal, day: Day })),
      })
      .nullable(),
  }),
});

/** A line as promising asks for it. */
const AskedLine = z.object({
  id: Id,
  lineNo: z.number().int(),
  item: z.object({ id: Id, number: z.string(), name: z.string(), unit: z.string() }),
  /** The item at the location the line goes out from: what is asked of the ground. */
  point: Point,
  /** It goes from the vendor straight to the customer. */
  straight: z.boolean(),
  /** Something is chosen for it: only the lead time says when until it is made. // W2 */
  own: z.boolean(),
  /** What is open of it, in the item's own unit. */
  quantity: Decimal,
  asked: Day,
  shipDate: Day,
  promised: Day.nullable(),
  method: z.enum(METHODS),
  way: z.enum(WAYS).nullable(),
  planned: z.number().int(),
});

export const tryPromise = post({
  name: 'tryPromise',
  path: '/promise/try',
  summary:
    'What promises of lines stand on that are not kept yet, or are kept otherwise; the same lines of an order are left out.',
  body: z.object({
    /** The order they are typed over. */
    orderId: Id.nullable(),
    lines: z
      .array(
        z.object({
          itemId: Id,
          locationId: LocationId,
          /** In the item's own unit, above zero. */
          quantity: TypedDecimal,
          asked: TypedDay,
          straight: z.boolean(),
          own: z.boolean().optional(),
        }),
      )
      .min(1)
      .max(200),
  }),
  out: z.object({
    order: z.object({ id: z.number().int(), number: z.string(), version: z.number().int(), state: z.string() }),
    rows: GroundRows,
    lines: z.array(AskedLine),
  }),
});

export const possibleDays = post({
  name: 'possibleDays',
  path: '/promise/days',
  summary:
    'The first day lines that are typed can ship by their routes, why, and what is to be said of the days they have; the same lines of an order are left out.',
  body: z.object({
    /** The order they are typed over. */
    orderId: Id.nullable(),
    lines: namedOnce(
      z
        .array(
          z.object({
            key: Text(80),
            itemId: Id,
            route: z.enum(ROUTES),
            locationId: LocationId,
            /** In the item's own unit, above zero. */
            quantity: TypedDecimal,
            asked: TypedDay,
            own: z.boolean().optional(),
          }),
        )
        .min(1)
        .max(200),
      'key',
    ),
  }),
  out: z.object({
    lines: z.array(
      z.object({
        key: z.string(),
        /** The day that was asked about. */
        asked: Day.nullable(),
        /** Null where none can be said. */
        first: Day.nullable(),
        why: z.string(),
        /** Empty, and null, where the day can be kept. */
        word: z.string(),
        instead: Day.nullable(),
      }),
    ),
  }),
});

export const openPromiseGround = read({
  name: 'openPromiseGround',
  path: '/orders/:id/promise',
  summary:
    'What the promises of an order stand on, its own demand and what was planned for it left out, and its lines.',
  params: IdParam,
  out: z.object({
    order: z.object({ id: Id, number: z.string(), version: z.number().int(), state: z.string() }),
    rows: GroundRows,
    lines: z.array(AskedLine),
  }),
});

const AnswerPart = z.object({ quantity: Decimal, day: Day, lead: z.boolean() });
const AnswerText = z.object({
  way: z.enum(WAYS),
  day: Day.nullable(),
  trouble: z.string().nullable(),
  parts: z.array(AnswerPart),
  waits: z.array(
    z.object({ kind: z.enum(['buy', 'coming', 'queue', 'run', 'make']), text: z.string(), from: Day, to: Day }),
  ),
  bars: z.array(
    z.object({
      depth: z.number().int(),
      kind: z.enum(['buy', 'run', 'make']),
      label: z.string(),
      from: Day,
      to: Day,
      sets: z.boolean(),
    }),
  ),
  slack: z.object({ start: Day, days: z.number().int() }).nullable(),
  orders: z.number().int(),
});

export const checkPromise = read({
  name: 'checkPromise',
  path: '/orders/:id/promise/check',
  summary: 'When the lines of an order could be had, by every way, computed on the server; writes nothing.',
  params: IdParam,
  out: z.object({
    lines: z.array(
      z.object({
        key: z.string(),
        ways: z.object({ atp: AnswerText, have: AnswerText, nothing: AnswerText, lead: AnswerText }),
        chosen: AnswerText,
      }),
    ),
  }),
});

export const acceptPromise = act({
  name: 'acceptPromise',
  summary: 'Promise the lines of an order for the days that were seen: writes the days and plans what they need.',
  input: z.object({
    orderId: Id,
    version: z.number().int(),
    /** All lines on one day, each begun as late as meets it. */
    together: z.boolean().optional(),
    lines: namedOnce(
      z
        .array(z.object({ lineId: Id, way: z.enum(WAYS), asked: TypedDay, day: TypedDay }))
        .min(1)
        .max(200),
      'lineId',
    ),
  }),
  preview: z.object({
    lines: z.array(z.object({ lineId: Id, day: Day })),
    orders: z.number().int(),
  }),
});

export const takeBackPromise = act({
  name: 'takeBackPromise',
  summary:
    'Take back what was promised to an order: its days are open again, and what was planned for it is cancelled.',
  input: z.object({ orderId: Id, version: z.number().int() }),
  preview: z.object({ lines: z.number().int(), orders: z.number().int() }),
});
