import * as z from 'zod';
import { MOST_LINES, MOST_REFERENCE } from '@core/kernel';
import { ROUTES } from '@core/catalogue';
import { ORDER_STATES, SUPPLY_FATES } from '@core/orders';
import { STEP_KINDS } from '@core/pricing';
import {
  act,
  Address,
  Day,
  Decimal,
  DayRange,
  DocumentRef,
  FieldChange,
  Id,
  IdParam,
  ItemRef,
  Location,
  LocationId,
  namedOnce,
  page,
  Party,
  read,
  SeenDecimal,
  SortedQuery,
  Text,
  TypedDay,
  TypedDecimal,
} from './kit';
import { RelatedDocument } from './agreements';
import { SerialRef } from './serial';

const State = z.enum(ORDER_STATES);
export const Route = z.enum(ROUTES);

/** The steps of a line's price, which sum to its amount. // R4 */
export const BuildUpSteps = z.array(z.object({ kind: z.enum(STEP_KINDS), source: z.string(), amount: Decimal }));

export const OrderRow = z.object({
  id: Id,
  number: z.string(),
  state: State,
  customer: Party,
  agreement: DocumentRef.nullable(),
  customerReference: z.string(),
  orderDate: Day,
  firstShipDate: Day.nullable(),
  currency: z.string(),
  net: Decimal,
  /** Shares of the order's quantity, 0 to 1, for the beads. */
  shares: z.object({ covered: z.number(), shipped: z.number(), invoiced: z.number() }),
});

export const OrderTie = z.object({
  id: Id,
  purchase: DocumentRef,
  purchaseLineId: Id,
  purchaseLineNo: z.number(),
  vendor: z.string(),
  quantity: Decimal,
  received: Decimal,
  dueDate: Day,
  /** In what the two ends differ, in words; empty where in step. // L6 */
  differs: z.string(),
});

export const OrderLine = z.object({
  id: Id,
  lineNo: z.number(),
  item: ItemRef,
  agreementLineId: Id.nullable(),
  /** The agreement that prices it, whether or not the order was released from it. // A13 */
  agreement: DocumentRef.nullable(),
  quantity: Decimal,
  cancelled: Decimal,
  unitPrice: Decimal,
  listPrice: Decimal,
  amount: Decimal,
  taxCode: z.string(),
  taxRate: Decimal,
  /** The unit it was sold in, with how many of the item's own it is; the units it could be sold in. */
  sold: z.object({
    unit: z.string(),
    factor: Decimal,
    /** Typed instead of the price that was found, for one of the unit; null where none was. */
    price: Decimal.nullable(),
    reason: z.string(),
    discount: Decimal,
  }),
  units: z.array(z.object({ unit: z.string(), factor: Decimal })),
  /** What was chosen for it, and whether anything may be. // W2 */
  options: z.array(z.object({ id: Id, number: z.string(), name: z.string() })),
  hasOptions: z.boolean(),
  buildUp: BuildUpSteps,
  /** The promotion it has something of, and whether it is the free goods themselves. // S13 */
  promotion: DocumentRef.extend({ free: z.boolean() }).nullable(),
  /** The day its price was found again as it shipped, and what it came to before; null where it was not. // R3 */
  pricedOn: Day.nullable(),
  orderedAmount: Decimal.nullable(),
  /** Of one of the item's own unit, in kilograms and cubic metres. */
  weight: Decimal,
  volume: Decimal,
  route: Route,
  /** Where it goes out from; null for a drop shipment. */
  location: Location.nullable(),
  /** Routes this item can go by. */
  routes: z.array(Route),
  shipDate: Day,
  /** Some of it was closed short, and may be opened again. // S8 */
  closedShort: z.boolean(),
  /** When it was to ship before what is made for it was late; null where its customer knows. // W3 */
  movedFrom: Day.nullable(),
  /** The ship date that was promised, what is planned for it, and the purchases that was placed with. // T8 T12 */
  promised: Day.nullable(),
  planned: z.array(DocumentRef.extend({ state: z.string() })),
  /** What is being made for it and still to come, and whether its item is made by us. // W2 */
  making: Decimal,
  ourMake: z.boolean(),
  tied: Decimal,
  shipped: Decimal,
  invoiced: Decimal,
  vendorInvoiced: Decimal,
  paidShare: z.number(),
  /** The purchase lines it is tied to, oldest first. */
  ties: z.array(OrderTie),
  /** The line waits for a purchase. */
  needsPurchase: z.boolean(),
  /** Held for it at our place. // S3 L3 */
  reserved: Decimal,
  /** On hand and held for nobody. */
  free: Decimal,
  /** Whether it is kept by number, and its pieces: those held for it, and those that went out. // P6 */
  byNumber: z.boolean(),
  numbers: z.array(SerialRef),
});

export const OrderSheet = OrderRow.extend({
  version: z.number(),
  /** How often it was changed since it was confirmed. // S8 */
  revision: z.number().int(),
  shipTo: Address.nullable(),
  shipTos: z.array(Address),
  referenceRequired: z.boolean(),
  terms: z.string(),
  lines: z.array(OrderLine),
  totals: z.object({
    net: Decimal,
    tax: Decimal,
    total: Decimal,
    taxes: z.array(z.object({ taxCode: z.string(), taxRate: Decimal, base: Decimal, tax: Decimal })),
  }),
  documents: z.array(RelatedDocument),
  /** Who gets its commission, by share; none for nobody. // S1 */
  commission: z.array(z.object({ person: z.object({ id: Id, name: z.string() }), perCent: Decimal })),
  salesOrganisation: z.string(),
});

export const listOrders = read({
  name: 'listOrders',
  path: '/orders',
  summary: 'Sales orders, newest first or as sorted.',
  query: SortedQuery.extend({
    state: State.optional(),
    /** Their number. */
    customer: z.string().max(20).optional(),
    ships: DayRange,
    ordered: DayRange,
    /** With lines still to go out whose day has passed; with lines that have less than they need by their day. // S9 */
    show: z.enum(['late', 'short']).optional(),
  }),
  out: page(OrderRow),
});

export const openOrder = read({
  name: 'openOrder',
  path: '/orders/:id',
  summary: 'One sales order with its lines and documents.',
  params: IdParam,
  out: OrderSheet,
});

/** Lines of an order as they are typed. */
const TypedLines = namedOnce(
  z
    .array(
      z.object({
        id: Id.nullable(),
        itemId: Id.nullable(),
        quantity: TypedDecimal,
        shipDate: TypedDay,
        route: Route,
        /** Where it goes out from; the main location where left out. */
        locationId: LocationId.optional(),
        /** The agreement line that prices it; null for none; left out for the one it has, or the first that fits. */
        agreementLineId: Id.nullable().optional(),
        /** What the quantity and a typed price are in; the item's own unit where left out. */
        unit: Text(12).optional(),
        price: TypedDecimal.optional(),
        reason: Text(120).optional(),
        discount: TypedDecimal.optional(),
        /** What is chosen for it of what its item offers; what it has where left out. // W2 */
        optionIds: namedOnce(z.array(Id).max(50)).optional(),
      }),
    )
    .max(MOST_LINES),
  'id',
);

/** Lines as they would be. */
const LinesPreviewed = z.array(
  z.object({
    itemId: Id,
    quantity: Decimal,
    unitPrice: Decimal,
    /** What one would cost without an agreement. */
    listPrice: Decimal,
    amount: Decimal,
    /** Which of the typed lines it is of; two where one is split at a limit. */
    typedAt: z.number(),
    steps: BuildUpSteps,
    agreement: z.string().nullable(),
  }),
);

export const saveOrder = act({
  name: 'saveOrder',
  summary: 'Make a draft sales order, or change one.',
  input: z.object({
    id: Id.nullable(),
    version: z.number().int().nullable(),
    customerId: Id.nullable(),
    shipToId: Id.nullable(),
    customerReference: Text(MOST_REFERENCE),
    lines: TypedLines,
  }),
  preview: z.object({
    net: Decimal,
    lines: LinesPreviewed,
  }),
});

/** A confirmed order that is another by now. // S8 */
export const changeOrder = act({
  name: 'changeOrder',
  summary:
    'Change a confirmed sales order as far as it has not happened: quantities, dates, prices, address, reference, added lines.',
  input: z.object({
    id: Id,
    version: z.number().int(),
    shipToId: Id.nullable(),
    customerReference: Text(MOST_REFERENCE),
    lines: TypedLines,
    reason: Text(200),
    /** Why it may pass over the customer's credit limit, where it does. // S4 */
    creditReason: Text(200).optional(),
    /** What was bought for its lines moves along: both ends of their ties. // L7 */
    along: z.boolean().optional(),
  }),
  preview: z.object({
    net: Decimal,
    was: Decimal,
    /** The purchases that are on their way for it: what `along` is asked for. */
    purchases: z.array(z.string()),
    lines: LinesPreviewed,
    /** Field by field, as it was and as it is. */
    fields: z.array(FieldChange),
    /** What else it moves, in sentences. */
    effects: z.array(z.string()),
  }),
});

export const confirmOrder = act({
  name: 'confirmOrder',
  summary: 'Confirm a draft sales order.',
  input: z.object({
    id: Id,
    version: z.number().int(),
    /** Why it may pass over the customer's credit limit, where it does. // S4 */
    creditReason: Text(120).optional(),
  }),
  /** With how many orders are made for its lines. // W2 */
  preview: z.object({ state: State, work: z.number().int() }),
});

/** A purchase made for an order, with what may become of it where the order is cancelled. */
export const orderSupplies = read({
  name: 'orderSupplies',
  path: '/orders/:id/supplies',
  summary: 'Purchases tied to an order, each with what may become of it where the order is cancelled.',
  params: IdParam,
  out: z.object({
    rows: z.array(
      z.object({
        purchase: DocumentRef,
        vendor: z.string(),
        straight: z.boolean(),
        received: Decimal,
        others: z.array(z.string()),
        fates: z.array(z.enum(SUPPLY_FATES)),
      }),
    ),
  }),
});

export const cancelOrder = act({
  name: 'cancelOrder',
  summary: 'Cancel a sales order nothing came or was shipped on, and say what becomes of each purchase made for it.',
  input: z.object({
    id: Id,
    version: z.number().int(),
    reason: Text(200).optional(),
    /** What becomes of each purchase: cancelled too, for nobody, or to our stock. // S8 */
    supplies: namedOnce(
      z.array(z.object({ purchaseId: Id, fate: z.enum(SUPPLY_FATES) })).max(200),
      'purchaseId',
    ).default([]),
  }),
  preview: z.object({ state: State }),
});

export const customerTold = act({
  name: 'customerTold',
  summary: 'Say that the customer of an order knows on which days its lines ship that were moved.',
  input: z.object({ id: Id }),
  preview: z.object({ lines: z.number().int() }),
});

export const closeShort = act({
  name: 'closeShort',
  summary: 'Give up what is open of order lines; it goes back to their agreement.',
  input: z.object({ id: Id, version: z.number().int(), lineIds: namedOnce(z.array(Id).max(500)), reason: Text(200) }),
  preview: z.object({
    lines: z.array(z.object({ id: Id, cancelled: Decimal, amount: Decimal })),
    state: State,
    /** What else it gives back, in sentences. */
    effects: z.array(z.string()),
  }),
});

export const openAgain = act({
  name: 'openAgain',
  summary: 'Open order lines again that were closed short, at what they came to.',
  input: z.object({ id: Id, version: z.number().int(), lineIds: namedOnce(z.array(Id).max(500)) }),
  preview: z.object({ lines: z.array(z.object({ id: Id, quantity: Decimal })), net: Decimal }),
});

export const orderFromPurchase = act({
  name: 'orderFromPurchase',
  summary: 'Make a confirmed sales order of what a drop shipment brings to a customer who ordered it nowhere.',
  input: z.object({ purchaseId: Id, version: z.number().int(), customerReference: Text(MOST_REFERENCE) }),
  preview: z.object({
    customer: z.string(),
    currency: z.string(),
    net: Decimal,
    lines: z.array(
      z.object({ item: z.string(), quantity: Decimal, unitPrice: Decimal, amount: Decimal, shipDate: Day }),
    ),
  }),
});

export const salesPeople = read({
  name: 'salesPeople',
  path: '/people',
  summary: 'Who works in the company, by name.',
  out: z.object({ rows: z.array(z.object({ id: Id, name: z.string() })) }),
});

export const shareCommission = act({
  name: 'shareCommission',
  summary: 'Share the commission of an order among several by per cent, all of it or none.',
  input: z.object({
    id: Id,
    shares: z.array(z.object({ personId: Id.nullable(), perCent: TypedDecimal })).max(20),
    /** As it was shared when it was typed over. // G2 */
    was: z.array(z.object({ personId: Id, perCent: SeenDecimal })).max(20),
  }),
  preview: z.object({ shares: z.number() }),
});
