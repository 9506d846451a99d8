import * as z from 'zod';
import { ROUTES } from '@core/catalogue';
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
  page,
  Party,
  read,
  SeenDecimal,
  Text,
  TypedDecimal,
} from './kit';
import { seenBy } from './seen-by';

/** What it cost us. */
const Cost = seenBy('see-costs', Decimal);

const MoveLines = namedOnce(z.array(z.object({ lineId: Id, quantity: TypedDecimal })).max(500), 'lineId');

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
      orderId: Id,
      cost: Cost,
      parts: z.array(z.object({ orderLineId: Id, quantity: Decimal })),
    }),
  ),
  /** Prices found again on the day of the shipment: for one of the item's unit, and what the line changes by. // R3 */
  repriced: z.array(z.object({ orderLineId: Id, item: z.string(), was: Decimal, is: Decimal, difference: Decimal })),
  assembled: Assembled.optional(),
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
          z.object({ id: Id, lineNo: z.number(), item: ItemRef, open: Decimal, held: Decimal, shipDate: Day }),
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
  input: z.object({ itemId: Id, from: LocationId, to: LocationId, quantity: TypedDecimal }),
  preview: z.object({ quantity: Decimal, value: Cost }),
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
  }),
  preview: z.object({ quantity: Decimal, cost: Cost, currency: z.string() }),
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
  /** What vendors still send there. */
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
});

export const MovementSheet = z.object({
  document: DocumentRef,
  party: Party,
  source: DocumentRef,
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
