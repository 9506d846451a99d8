import * as z from 'zod';
import { ROUTES } from '@core/catalogue';
import { COUNT_STATES } from '@core/stock';
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
  Party,
  read,
  SeenDecimal,
  SerialNumbers,
  Text,
  TypedDay,
  TypedDecimal,
} from './kit';
import { SerialRef } from './serial';
import { seenBy } from './seen-by';

/** What it cost us. */
const Cost = seenBy('see-costs', Decimal);

/** Lines that go out in one act at most. */
const MOST_SENT = 200;

const MoveLines = namedOnce(
  z.array(z.object({ lineId: Id, quantity: TypedDecimal, numbers: SerialNumbers.optional() })).max(500),
  'lineId',
);

/** What a shipment assembles in the same act. // P5 */
const Assembled = z.array(z.object({ document: DocumentRef, quantity: Decimal, cost: Cost }));

const Moved = z.object({
  receipts: z.array(
    z.object({
      purchaseId: Id,
      cost: Cost,
      parts: z.array(z.object({ purchaseLineId: Id, quantity: Decimal })),
    }),
  ),
  shipments: z.array(
    z.object({
      /** Null where goods of several orders go together. */
      orderId: Id.nullable(),
      customerId: Id,
      cost: Cost,
      parts: z.array(z.object({ orderLineId: Id, quantity: Decimal })),
    }),
  ),
  /** Prices found again on the day of the shipment: for one of the item's unit, and what the line changes by. // R3 */
  repriced: z.array(z.object({ orderLineId: Id, item: z.string(), was: Decimal, is: Decimal, difference: Decimal })),
  assembled: Assembled.optional(),
  numbers: NumbersMoved,
});

export const receiveGoods = act({
  name: 'receiveGoods',
  summary: 'Receive a purchase order, all or part; a drop shipment is shipped by the same act.',
  input: z.object({ purchaseId: Id, lines: MoveLines }),
  preview: Moved,
});

export const shipLines = act({
  name: 'shipLines',
  summary: 'Ship lines of a sales order, all or part; a drop shipment is received by the same act.',
  input: z.object({
    orderId: Id,
    lines: MoveLines,
    /** Other orders of the customer, to the same address, whose goods are here and go out with it. // L3 */
    others: namedOnce(z.array(z.object({ orderId: Id, lines: MoveLines })).max(20), 'orderId').optional(),
  }),
  preview: Moved,
});

export const sendOut = act({
  name: 'sendOut',
  summary:
    'Ship lines of any orders from our place in one act, all or none: a shipment for each customer, address and place. What is drop shipped is not among them.',
  input: z.object({
    lines: namedOnce(
      z
        .array(z.object({ lineId: Id, quantity: TypedDecimal, numbers: SerialNumbers.optional() }))
        .min(1)
        .max(MOST_SENT),
      'lineId',
    ),
  }),
  preview: Moved,
});

export const alsoWaiting = read({
  name: 'alsoWaiting',
  path: '/orders/:id/also-waiting',
  summary: 'Other orders of the customer to the same address, with what of them could go out from our place now.',
  params: IdParam,
  out: z.object({
    orders: z.array(
      z.object({
        order: DocumentRef,
        lines: z.array(
          z.object({
            id: Id,
            lineNo: z.number(),
            item: ItemRef,
            /** Whether it is kept by number. // P6 */
            byNumber: z.boolean(),
            locationId: LocationId,
            open: Decimal,
            held: Decimal,
            shipDate: Day,
          }),
        ),
      }),
    ),
  }),
});

export const supplyLine = act({
  name: 'supplyLine',
  summary: 'Say how a confirmed line is supplied: its route, and what of our stock is held for it.',
  input: z.object({
    orderLineId: Id,
    route: z.enum(ROUTES),
    /** Where it goes out from; where it does where left out. */
    locationId: LocationId.optional(),
    /** What is to be held; empty leaves what is. */
    reserve: z.string().max(40),
    /** Yes to letting go of what is held where the route changes. */
    lift: z.boolean(),
  }),
  preview: z.object({ route: z.enum(ROUTES), reserved: Decimal, was: Decimal, free: Decimal }),
});

export const moveBetween = act({
  name: 'moveBetween',
  summary: 'Carry goods of an item from one of our locations to another, at what they cost.',
  input: z.object({
    itemId: Id,
    from: LocationId,
    to: LocationId,
    quantity: TypedDecimal,
    /** The day they arrive; empty where they are there at once. */
    arrivesOn: TypedDay.optional(),
    numbers: SerialNumbers.optional(),
  }),
  preview: z.object({ quantity: Decimal, value: Cost, numbers: NumbersMoved }),
});

/** Goods under way that are at one of our places now. // W6 */
export const arrive = act({
  name: 'arrive',
  summary: 'Say that goods that were under way between our places arrived, all or some of them.',
  input: z.object({
    carriageId: Id,
    /** Where they were to arrive, or another of our places. */
    to: LocationId,
    quantity: TypedDecimal,
    numbers: SerialNumbers.optional(),
  }),
  preview: z.object({ quantity: Decimal, value: Cost, numbers: NumbersMoved }),
});

export const arrivesOn = act({
  name: 'arrivesOn',
  summary: 'Say that goods under way between our places arrive on another day.',
  input: z.object({ carriageId: Id, dueDate: TypedDay }),
  preview: z.object({ was: Day, dueDate: Day }),
});

/** Goods that a journal carried, back where they were. // W6 P1 */
export const carryBack = act({
  name: 'carryBack',
  summary: 'Take back what a journal carried between our places, by another journal that names it.',
  input: z.object({ journalId: Id, reason: Text(200) }),
  preview: z.object({ quantity: Decimal, value: Cost }),
});

const CarriageRow = z.object({
  id: Id,
  /** The journal they left with. */
  document: DocumentRef,
  item: ItemRef,
  state: z.enum(['under way', 'arrived', 'taken back']),
  quantity: Decimal,
  arrived: Decimal,
  from: z.object({ id: LocationId, name: z.string() }),
  to: z.object({ id: LocationId, name: z.string() }),
  leftOn: Day,
  dueDate: Day,
  by: z.string(),
  byNumber: z.boolean(),
});

export const listCarriages = read({
  name: 'listCarriages',
  path: '/carriages',
  summary: 'Goods carried between our places over more than a moment: those under way by the day they arrive, or all.',
  query: ListQuery.extend({ state: z.enum(['under-way', 'all']).optional() }),
  out: page(CarriageRow),
});

/** Stock put right by hand. // W6 */
export const adjustStock = act({
  name: 'adjustStock',
  summary: 'Say how many of an item are at one of our places, and why that is another number than was known.',
  input: z.object({
    itemId: Id,
    locationId: LocationId,
    /** How many were seen to be known. // G2 */
    was: SeenDecimal,
    now: TypedDecimal,
    /** What one costs that is more than was known of; empty: as those that are there. */
    unitCost: TypedDecimal,
    reason: Text(200),
    numbers: SerialNumbers.optional(),
  }),
  preview: z.object({ quantity: Decimal, cost: Cost, currency: z.string(), numbers: NumbersMoved }),
});

export const takeBackAdjustment = act({
  name: 'takeBackAdjustment',
  summary: 'Take back what a journal put right of our stock, by another journal that names it.',
  input: z.object({ journalId: Id, reason: Text(200) }),
  preview: z.object({ quantity: Decimal, cost: Cost, currency: z.string() }),
});

/** An item at one of our places. */
export const StockRow = z.object({
  item: ItemRef,
  location: z.object({ id: LocationId, name: z.string() }),
  onHand: Decimal,
  held: Decimal,
  free: Decimal,
  /** What vendors still send there, and what is under way to it. */
  coming: Decimal,
  worth: Cost,
});

export const listStock = read({
  name: 'listStock',
  path: '/stock',
  summary: 'What is at our places, by item and place: here, held, free, coming, worth.',
  query: ListQuery.extend({ location: z.coerce.number().int().min(0).max(4_294_967_295).optional() }),
  /** With the company's currency. */
  out: page(StockRow).extend({ currency: z.string() }),
});

export const reverseMovement = act({
  name: 'reverseMovement',
  summary: 'Take a receipt or shipment back by a document that names it; of a drop shipment both halves.',
  input: z.object({ kind: z.enum(['RC', 'SH']), id: Id, reason: Text(200) }),
  preview: z.object({
    documents: z.array(z.object({ document: DocumentRef, cost: Cost })),
    /** What goods that leave our stock again are worth less by now than they came in for. */
    difference: Cost,
  }),
});

const MovementLine = z.object({
  item: ItemRef,
  quantity: Decimal,
  unitCost: Cost,
  cost: Cost,
  /** Of a receipt in another currency: what it came to there. // P8 */
  value: Cost.nullable(),
  orderLineId: Id.nullable(),
  source: DocumentRef,
  sourceLineNo: z.number(),
  /** The other half of a drop shipment. */
  otherHalf: DocumentRef.nullable(),
  /** Its pieces, where they have numbers. // P6 */
  numbers: z.array(SerialRef),
});

export const MovementSheet = z.object({
  document: DocumentRef,
  party: Party,
  /** The purchase order, or the sales orders whose goods went together. // S9 */
  sources: z.array(DocumentRef),
  postedOn: Day,
  /** The company's: that of costs. */
  currency: z.string(),
  cost: Cost,
  /** Of a receipt in another currency: which, and the rate of its day. // P8 */
  foreign: z.object({ currency: z.string(), rate: Decimal }).nullable(),
  /** What it reverses and why, and what reversed it. // P1 */
  reverses: DocumentRef.nullable(),
  reversedBy: DocumentRef.nullable(),
  reason: z.string(),
  lines: z.array(MovementLine),
});

export const openReceipt = read({
  name: 'openReceipt',
  path: '/receipts/:id',
  summary: 'One receipt with its lines.',
  params: IdParam,
  out: MovementSheet,
});

export const openShipment = read({
  name: 'openShipment',
  path: '/shipments/:id',
  summary: 'One shipment with its lines.',
  params: IdParam,
  out: MovementSheet,
});

const CountVersion = z.number().int();

export const beginCount = act({
  name: 'beginCount',
  summary: 'Begin a count at one of our places: of everything that is there, of an item group, or of some items.',
  input: z.object({
    locationId: LocationId,
    groupId: Id.nullable(),
    /** Empty for all that is there. */
    itemIds: namedOnce(z.array(Id).max(1000)),
    /** Whoever counts is not told what is known to be there. */
    blind: z.boolean(),
  }),
  preview: z.object({ lines: z.number().int() }),
});

export const enterCount = act({
  name: 'enterCount',
  summary: 'Write how many there are of lines of a count; empty takes back what was written.',
  input: z.object({
    countId: Id,
    lines: namedOnce(
      z
        .array(
          z.object({
            lineId: Id,
            counted: TypedDecimal,
            unitCost: TypedDecimal,
            /** Of an item that is kept by number: one for each that was counted. // P6 */
            numbers: SerialNumbers.optional(),
          }),
        )
        .min(1)
        .max(1000),
      'lineId',
    ),
  }),
  preview: z.object({ lines: z.number().int() }),
});

export const addToCount = act({
  name: 'addToCount',
  summary: 'Add an item to a count that is open: one that was found and is not on the sheet.',
  input: z.object({ countId: Id, itemId: Id }),
  preview: z.object({}),
});

export const postCount = act({
  name: 'postCount',
  summary: 'Post the differences of a count, with a reason.',
  input: z.object({ countId: Id, version: CountVersion, reason: Text(200) }),
  preview: z.object({
    lines: z.array(z.object({ lineId: Id, difference: Decimal, cost: Cost })),
    cost: Cost,
    notCounted: z.number().int(),
    currency: z.string(),
  }),
});

export const cancelCount = act({
  name: 'cancelCount',
  summary: 'Throw an open count away.',
  input: z.object({ countId: Id, version: CountVersion }),
  preview: z.object({}),
});

export const takeBackCount = act({
  name: 'takeBackCount',
  summary: 'Take a posted count back by another that names it.',
  input: z.object({ countId: Id, reason: Text(200) }),
  preview: z.object({ cost: Cost, currency: z.string() }),
});

const CountRow = z.object({
  document: DocumentRef,
  state: z.enum(COUNT_STATES),
  location: z.string(),
  group: z.string(),
  blind: z.boolean(),
  by: z.string(),
  begunOn: Day,
  postedOn: Day.nullable(),
  lines: z.number().int(),
  counted: z.number().int(),
  /** What was posted. */
  cost: Cost,
});

export const listCounts = read({
  name: 'listCounts',
  path: '/counts',
  summary: 'Counts of our stock, newest first.',
  query: ListQuery.extend({ state: z.enum(COUNT_STATES).optional() }),
  out: page(CountRow).extend({ currency: z.string() }),
});

export const openCount = read({
  name: 'openCount',
  path: '/counts/:id',
  summary: 'One count with its lines: what was known, what was counted, and the difference.',
  params: IdParam,
  out: CountRow.extend({
    version: CountVersion,
    locationId: LocationId,
    currency: z.string(),
    reason: z.string(),
    reverses: DocumentRef.nullable(),
    reversedBy: DocumentRef.nullable(),
    rows: z.array(
      z.object({
        id: Id,
        lineNo: z.number().int(),
        item: ItemRef,
        /** What is known to be there; empty on a blind one that is open. */
        known: z.string(),
        counted: Decimal.nullable(),
        countedBy: z.string(),
        unitCost: Cost,
        /** Of what is counted to what was known then; empty on a blind one that is open. */
        difference: z.string(),
        /** As posted; or as it would be, at the average. */
        cost: Cost,
        /** Of an item that is kept by number: those that were told, and those to be told (none on a blind one that is open). */
        byNumber: z.boolean(),
        numbers: z.array(z.object({ number: z.string(), says: z.enum(['here', 'missing', 'found']) })),
        expected: z.array(z.string()),
        /** What one costs must be said: nothing was there to go by. */
        needsCost: z.boolean(),
      }),
    ),
  }),
});

export const openStock = act({
  name: 'openStock',
  summary: 'Put the stock a company begins with on hand, at what it cost, against the opening balance.',
  input: z.object({
    /** The same item may stand at several places, each in a line of its own. */
    lines: z
      .array(
        z.object({
          /** By its number. */
          item: Text(40),
          /** By its code or name; the first place where it is empty. */
          location: Text(80),
          quantity: TypedDecimal,
          /** What one of it cost. */
          unitCost: TypedDecimal,
          numbers: SerialNumbers,
        }),
      )
      .max(500),
  }),
  preview: z.object({ lines: z.number(), cost: Cost }),
});
