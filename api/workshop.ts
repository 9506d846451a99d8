import * as z from 'zod';
import { WORK_STATES } from '@core/workshop';
import {
  act,
  Day,
  Decimal,
  DocumentRef,
  Id,
  IdParam,
  ItemRef,
  ListQuery,
  LocationId,
  namedOnce,
  NumbersMoved,
  page,
  read,
  SerialNumbers,
  Text,
  TypedDay,
  TypedDecimal,
} from './kit';
import { SerialRef } from './serial';
import { seenBy } from './seen-by';

/** What it cost us. */
const Cost = seenBy('see-costs', Decimal);

const Version = z.number().int();

export const reportWork = act({
  name: 'reportWork',
  summary:
    'Report what was done on an order: pieces that passed an operation or came of it, what they used, how long they took.',
  input: z.object({
    workId: Id,
    /** Null for the order as a whole. */
    operationId: Id.nullable(),
    good: TypedDecimal,
    scrapped: TypedDecimal,
    /** What was used, and how long it took, where not as planned. */
    used: namedOnce(
      z.array(z.object({ componentId: Id, quantity: TypedDecimal, numbers: SerialNumbers.optional() })).max(500),
      'componentId',
    ),
    worked: namedOnce(z.array(z.object({ operationId: Id, minutes: Text(8) })).max(100), 'operationId'),
    /** Nothing more is to come of it. */
    finish: z.boolean(),
    /** Of what comes out. */
    numbers: SerialNumbers.optional(),
  }),
  preview: z.object({
    good: Decimal,
    scrapped: Decimal,
    components: z.array(z.object({ componentId: Id, item: z.string(), quantity: Decimal, cost: Cost })),
    operations: z.array(
      z.object({ operationId: Id, done: Decimal, scrapped: Decimal, minutes: z.number().int(), cost: Cost }),
    ),
    materialCost: Cost,
    labourCost: Cost,
    outputCost: Cost,
    scrapCost: Cost,
    variance: Cost,
    /** What of the good ones is held for which order lines. */
    ties: z.array(z.object({ order: DocumentRef, lineNo: z.number().int(), made: Decimal, released: Decimal })),
    state: z.enum(['running', 'finished']),
    left: Decimal,
    numbers: NumbersMoved,
  }),
});

export const takeBackWork = act({
  name: 'takeBackWork',
  summary: 'Take a work report back by another that names it: components, work and what came out.',
  input: z.object({ reportId: Id, reason: Text(200) }),
  preview: z.object({ state: z.enum(WORK_STATES), stockDifference: Cost }),
});

export const tieWork = act({
  name: 'tieWork',
  summary: 'Say which order lines production and assembly orders are for, afterwards, in whole or in part.',
  input: z.object({
    ties: z
      .array(z.object({ plannedId: Id, orderLineId: Id, quantity: TypedDecimal }))
      .min(1)
      .max(100),
  }),
  preview: z.object({ ties: z.number().int(), firm: z.number().int() }),
});

export const untieWork = act({
  name: 'untieWork',
  summary: 'Let a production or assembly order go on for nobody, as far as nothing of it came for the line.',
  input: z.object({ plannedId: Id, orderLineId: Id }),
  preview: z.object({ quantity: Decimal }),
});

export const changeParts = act({
  name: 'changeParts',
  summary: 'Change what goes into one order, for it alone: add, leave out, replace.',
  input: z.object({
    workId: Id,
    version: Version,
    components: namedOnce(
      z
        .array(
          z.object({
            id: Id.nullable(),
            itemId: Id.nullable(),
            quantity: TypedDecimal,
            operationNo: z.number().int().min(0).max(65_535).nullable(),
          }),
        )
        .max(500),
      'id',
    ),
  }),
  preview: z.object({
    cost: Cost,
    was: Cost,
    /** More or less weight, in kg. */
    weight: Decimal,
    /** What is short of what is free, by item. */
    lacks: z.array(z.object({ item: z.string(), quantity: Decimal, free: Decimal })),
  }),
});

export const changeOperations = act({
  name: 'changeOperations',
  summary: 'Change how one order is worked on, for it alone: add, leave out, replace, another work centre or time.',
  input: z.object({
    workId: Id,
    version: Version,
    operations: namedOnce(
      z
        .array(
          z.object({
            id: Id.nullable(),
            no: z.number().int().min(1).max(65_535).nullable(),
            name: Text(60),
            centreId: Id.nullable(),
            minutes: Text(8),
          }),
        )
        .max(100),
      'id',
    ),
  }),
  preview: z.object({
    cost: Cost,
    was: Cost,
    minutes: z.number().int(),
    minutesWas: z.number().int(),
    due: Day,
    dueWas: Day,
    /** The lines it is for that ship before it is there. */
    late: z.array(z.object({ order: DocumentRef, lineNo: z.number().int(), shipDate: Day })),
    firm: z.boolean(),
  }),
});

export const newWork = act({
  name: 'newWork',
  summary: 'Make something for our stock: an order laid on its work centres, with all that is planned for it.',
  input: z.object({ itemId: Id, quantity: TypedDecimal, due: TypedDay }),
  preview: z.object({
    day: Day,
    start: Day,
    orders: z.number().int(),
    /** What must be bought or made for it. */
    below: z.array(
      z.object({ item: z.string(), quantity: Decimal, kind: z.enum(['make', 'assemble', 'buy']), due: Day }),
    ),
  }),
});

export const changeWork = act({
  name: 'changeWork',
  summary: 'Lay an order that nobody began for another quantity or another day.',
  input: z.object({ workId: Id, version: Version, quantity: TypedDecimal, due: TypedDay }),
  preview: z.object({
    day: Day,
    start: Day,
    /** The lines it is for that ship before it is there. */
    late: z.array(z.object({ order: DocumentRef, lineNo: z.number().int(), shipDate: Day })),
  }),
});

export const layLate = act({
  name: 'layLate',
  summary: 'Lay what is left of an order that is late, or waits for a part that is, again from today on.',
  input: z.object({ workId: Id }),
  preview: z.object({ due: Day, was: Day }),
});

export const layWork = act({
  name: 'layWork',
  summary: 'Lay what is left of an order for another day or work centre, from one of its operations on.',
  input: z.object({
    workId: Id,
    version: Version,
    operationId: Id,
    day: TypedDay,
    centreId: Id,
    /** The ship dates of its lines go with it where it is there later. */
    moveLines: z.boolean(),
  }),
  preview: z.object({
    due: Day,
    was: Day,
    operations: z.array(z.object({ name: z.string(), centre: z.string(), firstDay: Day, lastDay: Day })),
    /** The lines it is for, and by how much it is there later than they ship. */
    lines: z.array(
      z.object({ order: DocumentRef, party: z.string(), lineNo: z.number().int(), shipDate: Day, late: z.boolean() }),
    ),
    /** The order it is for, and when that needs it. */
    above: z.object({ work: DocumentRef, neededOn: Day, late: z.boolean() }).nullable(),
    /** What it needs that is there only after it is to begin. */
    waits: z.array(z.object({ item: z.string(), work: z.string(), due: Day })),
    /** It was only planned, and is firm from now on: no plan moves it. */
    firm: z.boolean(),
  }),
});

export const cancelWork = act({
  name: 'cancelWork',
  summary: 'Cancel an order nothing was reported on, with what is only planned for it.',
  input: z.object({ workId: Id, version: Version }),
  preview: z.object({ orders: z.array(z.string()) }),
});

/** What an order waits for: so much of an item beyond what is free of it. */
const Lack = z.object({ item: ItemRef, quantity: Decimal, free: Decimal, comesOn: Day.nullable() });

/** An order line some of an order is for. */
const For = z.object({
  orderLineId: Id,
  order: DocumentRef,
  party: z.string(),
  lineNo: z.number().int(),
  shipDate: Day,
  quantity: Decimal,
  made: Decimal,
});

const WorkRow = z.object({
  document: DocumentRef,
  state: z.enum(WORK_STATES),
  version: Version,
  item: ItemRef,
  quantity: Decimal,
  finished: Decimal,
  scrapped: Decimal,
  start: Day,
  due: Day,
  /** The lines it is for, the first to ship first, or the order above it. */
  for: z.array(For),
  above: DocumentRef.nullable(),
  lacks: z.array(Lack),
});

export const listWork = read({
  name: 'listWork',
  path: '/workshop',
  summary: 'Production and assembly orders, the first due first: how far each is, whom it is for, what it lacks.',
  query: ListQuery.extend({
    state: z.enum(['open', 'waiting', 'running', 'finished', 'cancelled']).optional(),
  }),
  out: page(WorkRow),
});

const ReportRow = z.object({
  document: DocumentRef,
  postedOn: Day,
  by: z.string(),
  /** The operation it was reported at; empty for the order as a whole. */
  operation: z.string(),
  good: Decimal,
  scrapped: Decimal,
  materialCost: Cost,
  labourCost: Cost,
  outputCost: Cost,
  scrapCost: Cost,
  variance: Cost,
  finishes: z.boolean(),
  reverses: DocumentRef.nullable(),
  reversedBy: DocumentRef.nullable(),
});

/** An operation of a day, and what stands in its way. */
const DayOperation = z.object({
  /** The day it is worked on; `behind` where it should be over or begun; null after all that is shown. */
  cell: z.union([Day, z.literal('behind')]).nullable(),
  work: DocumentRef,
  operation: z.string(),
  item: z.string(),
  quantity: Decimal,
  done: Decimal,
  begun: z.boolean(),
  /** Pieces that can be worked on: they passed the operation before; what they wait for where none can. */
  ready: Decimal,
  before: z.string(),
  minutesLeft: z.number().int(),
  party: z.string(),
  late: z.boolean(),
  lacks: z.array(z.object({ item: z.string(), quantity: Decimal })),
});

export const openWorkshopDays = read({
  name: 'openWorkshopDays',
  path: '/workshop-days',
  summary:
    'What each work centre is to do by day: what is behind, what is to begin, what it waits for, for whom it is late.',
  out: z.object({
    days: z.array(Day),
    /** There is more than is shown. */
    more: z.boolean(),
    centres: z.array(z.object({ id: Id, code: z.string(), name: z.string(), operations: z.array(DayOperation) })),
  }),
});

export const openWork = read({
  name: 'openWork',
  path: '/workshop/:id',
  summary:
    'One production or assembly order: what goes into it, how it is worked on, whom it is for, what was reported.',
  params: IdParam,
  out: WorkRow.extend({
    place: z.string(),
    locationId: LocationId,
    currency: z.string(),
    startedOn: Day.nullable(),
    finishedOn: Day.nullable(),
    /** What of what is to come is for nobody. */
    untied: Decimal,
    /** Of the whole order as it is reckoned, and what went into it so far and came out of it. */
    plannedCost: Cost,
    usedCost: Cost,
    outputCost: Cost,
    inWork: Cost,
    /** On the part that is for order lines; null where none is, or in a currency no rate is kept of. */
    earning: z
      .object({ quantity: Decimal, sold: Cost, cost: Cost, earns: Cost, percent: seenBy('see-costs', z.string()) })
      .nullable(),
    /** Whether it is kept by number, and the pieces that came of it. // P6 */
    byNumber: z.boolean(),
    numbers: z.array(SerialRef),
    components: z.array(
      z.object({
        id: Id,
        item: ItemRef,
        operationNo: z.number().int().nullable(),
        quantity: Decimal,
        used: Decimal,
        /** What is planned to come for it. */
        covered: Decimal,
        byNumber: z.boolean(),
        /** Its pieces that were used, where they have numbers. // P6 */
        numbers: z.array(SerialRef),
        neededOn: Day,
        onHand: Decimal,
        free: Decimal,
        plannedCost: Cost,
        usedCost: Cost,
      }),
    ),
    operations: z.array(
      z.object({
        id: Id,
        no: z.number().int(),
        name: z.string(),
        centre: z.object({ id: Id, name: z.string() }),
        minutes: z.number().int(),
        minutesDone: z.number().int(),
        done: Decimal,
        scrapped: Decimal,
        firstDay: Day,
        lastDay: Day,
        plannedCost: Cost,
        usedCost: Cost,
      }),
    ),
    below: z.array(
      z.object({
        document: DocumentRef,
        item: ItemRef,
        quantity: Decimal,
        finished: Decimal,
        state: z.string(),
        due: Day,
      }),
    ),
    reports: z.array(ReportRow),
  }),
});

export const openWorkReport = read({
  name: 'openWorkReport',
  path: '/work-reports/:id',
  summary: 'One work report: what was used, how long it took, what came out, and for whom.',
  params: IdParam,
  out: ReportRow.extend({
    work: DocumentRef,
    item: ItemRef,
    currency: z.string(),
    reason: z.string(),
    components: z.array(z.object({ item: ItemRef, quantity: Decimal, cost: Cost, numbers: z.array(SerialRef) })),
    /** The pieces that came out, where they have numbers. // P6 */
    numbers: z.array(SerialRef),
    operations: z.array(
      z.object({
        no: z.number().int(),
        name: z.string(),
        done: Decimal,
        scrapped: Decimal,
        minutes: z.number().int(),
        cost: Cost,
      }),
    ),
    for: z.array(
      z.object({ order: DocumentRef, lineNo: z.number().int(), party: z.string(), made: Decimal, released: Decimal }),
    ),
  }),
});

const Fit = z.object({
  plannedId: Id,
  work: DocumentRef,
  state: z.enum(WORK_STATES),
  due: Day,
  untied: Decimal,
  orderLineId: Id,
  order: DocumentRef,
  party: z.string(),
  lineNo: z.number().int(),
  shipDate: Day,
  wanted: Decimal,
  why: z.string(),
});

export const workForLine = read({
  name: 'workForLine',
  path: '/order-lines/:id/work',
  summary: 'Production and assembly orders an order line has, and those it could be served by, best first.',
  params: IdParam,
  out: z.object({
    item: ItemRef,
    wanted: Decimal,
    has: z.array(For.extend({ work: DocumentRef, plannedId: Id, state: z.enum(WORK_STATES), due: Day })),
    fits: z.array(Fit),
  }),
});

export const linesForWork = read({
  name: 'linesForWork',
  path: '/workshop/:id/lines',
  summary: 'Order lines a production or assembly order could be for, best first.',
  params: IdParam,
  out: z.object({ item: ItemRef, untied: Decimal, fits: z.array(Fit) }),
});

export const openCentreWork = read({
  name: 'openCentreWork',
  path: '/work-centres/:id/next',
  summary: 'What is next at a work centre (0: the first), order and operation, the first to be begun first.',
  params: z.object({ id: z.coerce.number().int().nonnegative().max(4_294_967_295) }),
  out: z.object({
    centre: z.object({ id: Id, code: z.string(), name: z.string() }),
    centres: z.array(z.object({ id: Id, code: z.string(), name: z.string() })),
    rows: z.array(
      z.object({
        work: DocumentRef,
        operationId: Id,
        no: z.number().int(),
        operation: z.string(),
        last: z.boolean(),
        item: ItemRef,
        quantity: Decimal,
        /** Pieces that passed here, and those that can: they passed the operation before. */
        done: Decimal,
        ready: Decimal,
        /** Where they come from, while none can. */
        before: z.string(),
        minutesLeft: z.number().int(),
        firstDay: Day,
        lastDay: Day,
        party: z.string(),
        /** What comes of it has numbers that no pattern makes: they are typed. // P6 */
        typesNumbers: z.boolean(),
        lacks: z.array(z.object({ item: z.string(), quantity: Decimal })),
      }),
    ),
  }),
});
