import * as z from 'zod';
import { ROUTES } from '@core/catalogue';
import { STAGES } from '@core/supply';
import {
  act,
  Address,
  Day,
  Decimal,
  DocumentParams,
  DocumentRef,
  Id,
  IdParam,
  ItemRef,
  ListQuery,
  namedOnce,
  page,
  Party,
  read,
  SeenDay,
  SeenDecimal,
  Text,
  TypedDecimal,
} from './kit';
import { seenBy } from './seen-by';

const Offer = z.object({
  vendorId: Id,
  vendor: z.string(),
  /** In their currency, and in the company's; the latter empty where no rate is known. // P8 */
  unitPrice: seenBy('see-costs', Decimal),
  currency: z.string(),
  ownPrice: seenBy('see-costs', Decimal),
  leadDays: z.number(),
  preferred: z.boolean(),
  /** The least they sell at once and the steps above it; zero for any. */
  minimum: Decimal,
  multiple: Decimal,
  /** Whether we may buy it from them today. // L9 */
  approved: z.boolean(),
});

/** What needs a purchase: an order line, or a purchase that is planned for one, for an order above it, or for nobody. */
export const BenchRow = z.object({
  /** Its own among all rows. */
  key: z.string(),
  orderLineId: Id.nullable(),
  /** The planned purchase that it is; null for a line. // T12 */
  planned: DocumentRef.nullable(),
  lineNo: z.number().nullable(),
  /** The order whose line it is for in the end. */
  order: DocumentRef.nullable(),
  customer: Party.nullable(),
  /** Where a line's order goes. */
  shipTo: Address.nullable(),
  item: ItemRef,
  quantity: Decimal,
  route: z.enum(ROUTES),
  /** When it is to go out, or is needed at our place. */
  shipDate: Day,
  /** By when a planned one must be ordered. */
  orderBy: Day.nullable(),
  offers: z.array(Offer),
  proposal: z
    .object({ vendorId: Id, reason: z.enum(['preferred', 'cheapest', 'fastest', 'only', 'planned']), due: Day })
    .nullable(),
});

export const listBench = read({
  name: 'listBench',
  path: '/bench',
  summary: 'Lines and planned purchases that still need a purchase order, soonest first.',
  query: ListQuery.omit({ q: true }).extend({
    orderId: z.coerce.number().int().positive().optional(),
    /** One planned purchase only. */
    plannedId: z.coerce.number().int().positive().max(4_294_967_295).optional(),
  }),
  /** With the company's currency, in which vendors are compared. */
  out: page(BenchRow).extend({ currency: z.string() }),
});

export const placePurchases = act({
  name: 'placePurchases',
  summary: 'Place bench lines: purchase orders by vendor and ship-to, tied to their lines.',
  input: z.object({
    lines: namedOnce(
      z
        .array(
          z.object({
            orderLineId: Id,
            vendorId: Id,
            /** Part of what the line needs, or for our place more, with why; left out for all of it. */
            quantity: TypedDecimal.optional(),
            /** Another price than was found, with why. */
            price: TypedDecimal.optional(),
            reason: Text(120).optional(),
            /** The buying agreement's line that prices it; null for none; left out for the first that fits. */
            agreementLineId: Id.nullable().optional(),
          }),
        )
        .max(500),
      'orderLineId',
    ),
    /** Planned purchases, each bought as it was planned. // T12 */
    planned: namedOnce(
      z
        .array(
          z.object({
            plannedId: Id,
            vendorId: Id,
            price: TypedDecimal.optional(),
            reason: Text(120).optional(),
            agreementLineId: Id.nullable().optional(),
          }),
        )
        .max(500),
      'plannedId',
    ).optional(),
  }),
  preview: z.object({
    purchases: z.array(
      z.object({
        vendor: z.string(),
        shipTo: z.string(),
        currency: z.string(),
        net: seenBy('see-costs', Decimal),
        lines: z.array(
          z.object({
            /** The order lines it is for, and the planned purchases. */
            orderLineIds: z.array(Id),
            plannedIds: z.array(Id),
            item: z.string(),
            quantity: Decimal,
            /** Bought beyond them, for our stock. // L8 */
            spare: Decimal,
            unitPrice: seenBy('see-costs', Decimal),
            /** The buying agreement that prices it. // A13 */
            agreement: z.string().nullable(),
            dueDate: Day,
            late: z.boolean(),
          }),
        ),
      }),
    ),
  }),
});

const Part = z.object({
  document: DocumentRef,
  quantity: Decimal,
  day: Day,
  note: z.string(),
  filled: z.number(),
  differs: z.string().optional(),
});

export const ThreadOut = z.object({
  orderLineId: Id,
  /** `line 2 · RO-4040 · 12 piece`, for the dock. */
  title: z.string(),
  strands: z.array(Decimal),
  beads: z.array(
    z.object({
      stage: z.enum(STAGES),
      part: Part.nullable(),
      quantity: Decimal,
      from: z.number(),
      to: z.number(),
    }),
  ),
  /** What was posted on the line and taken back since, each by the document that did. // P1 */
  undone: z.array(z.object({ document: DocumentRef, quantity: Decimal, by: DocumentRef, day: Day })),
});
export type ThreadOut = z.infer<typeof ThreadOut>;

export const openThread = read({
  name: 'openThread',
  path: '/threads/:id',
  summary: 'The thread of one order line: every document it passed and passes.',
  params: IdParam,
  out: ThreadOut,
});

export const threadsOfOrder = read({
  name: 'threadsOfOrder',
  path: '/orders/:id/threads',
  summary: 'The threads of all lines of an order.',
  params: IdParam,
  out: z.object({ threads: z.array(ThreadOut) }),
});

export const threadOfDocument = read({
  name: 'threadOfDocument',
  path: '/documents/:kind/:id/thread',
  summary: 'The thread of the first order line a document is about, where it is about one.',
  params: DocumentParams,
  out: z.object({ thread: ThreadOut.nullable() }),
});

export const tieLine = act({
  name: 'tieLine',
  summary: 'Tie a sales line to a purchase line that fits it.',
  input: z.object({ orderLineId: Id, purchaseLineId: Id, quantity: TypedDecimal }),
  preview: z.object({
    order: z.string(),
    purchase: z.string(),
    quantity: Decimal,
    /** What of the sales line is still without supply. */
    left: Decimal,
    late: z.boolean(),
  }),
});

export const untie = act({
  name: 'untie',
  summary: 'Part ties on which nothing was received; both documents stay.',
  input: z.object({ tieIds: namedOnce(z.array(Id).min(1).max(200)) }),
  preview: z.object({ ties: z.array(z.object({ order: z.string(), purchase: z.string(), quantity: Decimal })) }),
});

export const purchaseToStock = act({
  name: 'purchaseToStock',
  summary: 'Let a drop shipment that is tied to nothing come to our place.',
  input: z.object({ id: Id, version: z.number().int() }),
  preview: z.object({ lines: z.number() }),
});

/** An end that could be tied to another. // L5 */
export const TieCandidate = z.object({
  lineId: Id,
  lineNo: z.number(),
  document: DocumentRef,
  /** The vendor of a purchase, the customer of a sales order. */
  party: z.string(),
  /** When it is due, or ships. */
  day: Day,
  left: Decimal,
  /** What could be tied. */
  fits: Decimal,
  /** The supply would come after the ship date. */
  late: z.boolean(),
});

export const findSupplies = read({
  name: 'findSupplies',
  path: '/order-lines/:id/supplies',
  summary: 'Purchase lines that a sales line could be tied to, best first.',
  params: IdParam,
  out: z.object({ rows: z.array(TieCandidate) }),
});

export const findSales = read({
  name: 'findSales',
  path: '/purchase-lines/:id/sales',
  summary: 'Sales lines that a purchase line could be tied to, best first.',
  params: IdParam,
  out: z.object({ rows: z.array(TieCandidate) }),
});

/** A tie with both its ends, as the pair edit shows it. // L6 L7 */
export const PairRow = z.object({
  tieId: Id,
  item: ItemRef,
  route: z.enum(ROUTES),
  quantity: Decimal,
  received: Decimal,
  order: DocumentRef,
  orderLineId: Id,
  orderLineNo: z.number(),
  orderQuantity: Decimal,
  customer: Party,
  shipToId: Id.nullable(),
  /** Addresses of the customer, to choose from. */
  shipTos: z.array(z.object({ id: Id, label: z.string() })),
  shipDate: Day,
  purchase: DocumentRef,
  purchaseLineNo: z.number(),
  purchaseQuantity: Decimal,
  /** Received over the whole purchase line. */
  purchaseReceived: Decimal,
  vendor: Party,
  dueDate: Day,
  /** In what the two ends differ; none where in step. */
  differs: z.array(z.enum(['quantity', 'date', 'address'])),
});

export const listPairs = read({
  name: 'listPairs',
  path: '/ties',
  summary: 'Ties with both their ends, newest first.',
  query: ListQuery.extend({
    /** `open`: something is still to come; `differs`: the ends are not in step. */
    show: z.enum(['open', 'differs', 'late', 'all']).optional(),
    orderId: z.coerce.number().int().positive().optional(),
    purchaseId: z.coerce.number().int().positive().optional(),
  }),
  out: page(PairRow),
});

export const editPairs = act({
  name: 'editPairs',
  summary: 'Change quantity, dates and ship-to on both ends of many ties at once.',
  input: z.object({
    pairs: namedOnce(
      z
        .array(
          z.object({
            tieId: Id,
            /** As it was seen when it was typed. */
            was: z.object({ quantity: SeenDecimal, shipDate: SeenDay, dueDate: SeenDay, shipToId: Id.nullable() }),
            quantity: TypedDecimal.optional(),
            shipDate: z.string().max(10).optional(),
            dueDate: z.string().max(10).optional(),
            shipToId: Id.optional(),
          }),
        )
        .max(500),
      'tieId',
    ),
    /** Do those that nothing stands against, and leave the others out. */
    goodOnly: z.boolean(),
  }),
  preview: z.object({
    leftOut: z.array(Id),
    pairs: z.array(
      z.object({
        tieId: Id,
        order: z.string(),
        purchase: z.string(),
        item: z.string(),
        currency: z.string(),
        quantity: Decimal,
        supplyQuantity: Decimal,
        /** What the change does to both lines' amounts. */
        salesBy: Decimal,
        supplyBy: seenBy('see-costs', Decimal),
        shipDate: Day,
        dueDate: Day,
        /** Where both go from now on; and what else goes there with them: the order’s other drop shipments. */
        shipToId: Id.nullable(),
        also: z.array(z.string()),
        differs: z.string(),
      }),
    ),
  }),
});
