import * as z from 'zod';
import {
  act,
  Address,
  Day,
  DayRange,
  Decimal,
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
  SortedQuery,
  Text,
  TypedDay,
  TypedDecimal,
} from './kit';
import { RelatedDocument } from './agreements';
import { seenBy } from './seen-by';

/** What a vendor asks: a cost to us. */
const Asked = seenBy('see-costs', Decimal);

const State = z.enum(['draft', 'placed', 'closed', 'cancelled']);

export const PurchaseRow = z.object({
  id: Id,
  number: z.string(),
  state: State,
  vendor: Party,
  /** The customer a drop shipment goes to; null for our own location. */
  customer: Party.nullable(),
  orderDate: Day,
  firstDueDate: Day.nullable(),
  currency: z.string(),
  net: Asked,
  shares: z.object({ received: z.number(), invoiced: z.number() }),
  /** Came beyond what was ordered. // L10 */
  over: Decimal,
  /** When the first of what is still to come is due; null where all came. */
  openDue: Day.nullable(),
  /** The customers whose orders what comes to our place is for. // L3 */
  forWhom: z.array(z.string()),
});

export const PurchaseTie = z.object({
  id: Id,
  order: DocumentRef,
  orderLineId: Id,
  orderLineNo: z.number(),
  customer: z.string(),
  quantity: Decimal,
  received: Decimal,
  shipDate: Day,
  /** In what the two ends differ, in words; empty where in step. // L6 */
  differs: z.string(),
});

export const PurchaseLine = z.object({
  id: Id,
  lineNo: z.number(),
  item: ItemRef,
  quantity: Decimal,
  unitPrice: Asked,
  amount: Asked,
  /** Why it has another price than was found, or is more than was needed; empty for neither. // L8 */
  reason: z.string(),
  dueDate: Day,
  /** Ordered, and will not come. */
  stopped: Decimal,
  /** The buying agreement that prices it. // A13 */
  agreement: DocumentRef.nullable(),
  received: Decimal,
  invoiced: Decimal,
  /** Bought for no order line yet: for our stock, or a drop shipment that hangs loose. */
  untied: Decimal,
  /** Its pieces have numbers. // P6 */
  byNumber: z.boolean(),
  /** The sales lines it is for, the first to be served first. */
  ties: z.array(PurchaseTie),
});

export const PurchaseSheet = PurchaseRow.extend({
  version: z.number(),
  /** How often it was changed since it was placed. // S8 */
  revision: z.number().int(),
  /** The number it had before Kampong; null for one that began here. // U3 */
  openedAs: z.string().nullable(),
  /** The day the vendor answered last; null while they have not. */
  answeredOn: Day.nullable(),
  shipTo: Address.nullable(),
  /** Which of our places it comes to; null for a drop shipment. */
  location: Location.nullable(),
  terms: z.string(),
  lines: z.array(PurchaseLine),
  documents: z.array(RelatedDocument),
});

export const listPurchases = read({
  name: 'listPurchases',
  path: '/purchases',
  summary: 'Purchase orders, newest first or as sorted.',
  query: SortedQuery.extend({
    state: State.optional(),
    /** Their number. */
    vendor: z.string().max(20).optional(),
    due: DayRange,
    ordered: DayRange,
    /** With lines still to come whose day has passed. */
    show: z.enum(['late']).optional(),
  }),
  out: page(PurchaseRow),
});

export const openPurchase = read({
  name: 'openPurchase',
  path: '/purchases/:id',
  summary: 'One purchase order with its lines and documents.',
  params: IdParam,
  out: PurchaseSheet,
});

export const enterPurchase = act({
  name: 'enterPurchase',
  summary: 'Place a purchase order for nobody yet: for our place, or to a customer before they ordered.',
  input: z.object({
    vendorId: Id.nullable(),
    shipToId: Id.nullable(),
    /** Which of our places it comes to, where to none of a customer's; the main one where left out. */
    locationId: LocationId.optional(),
    lines: z
      .array(
        z.object({
          itemId: Id.nullable(),
          quantity: TypedDecimal,
          dueDate: TypedDay,
          /** The buying agreement's line that prices it; null for none; left out for the first that fits. */
          agreementLineId: Id.nullable().optional(),
          /** Another price than the vendor's; blank or left out for theirs. */
          price: TypedDecimal.optional(),
        }),
      )
      .max(200),
  }),
  preview: z.object({
    currency: z.string(),
    net: Asked,
    /** What each line costs, in the order they were typed. */
    lines: z.array(
      z.object({
        itemId: Id,
        quantity: Decimal,
        unitPrice: Asked,
        amount: Asked,
        agreement: z.string().nullable(),
      }),
    ),
  }),
});

export const openPurchases = act({
  name: 'openPurchases',
  summary: 'Enter what was on order with vendors before Kampong, a purchase for each vendor and number.',
  input: z.object({
    /** Lines of one vendor and number are one purchase. */
    lines: z
      .array(
        z.object({
          /** By its number or name. */
          vendor: Text(120),
          number: Text(60),
          item: Text(40),
          quantity: TypedDecimal,
          price: TypedDecimal,
          due: Text(20),
          place: Text(80),
        }),
      )
      .max(500),
  }),
  preview: z.object({
    purchases: z.number(),
    lines: z.number(),
    same: z.number(),
    nets: z.array(z.object({ currency: z.string(), net: Asked })),
  }),
});

export const changePurchase = act({
  name: 'changePurchase',
  summary:
    'Change a placed purchase order as far as it has not happened; lines that are not named stay, those without id are added.',
  input: z.object({
    purchaseId: Id,
    version: z.number().int(),
    reason: Text(200),
    locationId: LocationId.optional(),
    lines: namedOnce(
      z
        .array(
          z.object({
            id: Id.nullable(),
            itemId: Id.nullable(),
            quantity: TypedDecimal,
            /** Blank for the price it has, or that the vendor asks. */
            price: TypedDecimal,
            dueDate: TypedDay,
          }),
        )
        .max(200),
      'id',
    ),
  }),
  preview: z.object({
    net: Asked,
    was: Asked,
    fields: z.array(FieldChange),
    /** What else it moves, in sentences. */
    effects: z.array(z.string()),
    state: State,
  }),
});

const Touches = z.array(
  z.object({
    order: z.string(),
    lineNo: z.number(),
    what: z.enum(['late', 'uncovered']),
    quantity: Decimal,
    day: Day,
  }),
);

export const cancelPurchase = act({
  name: 'cancelPurchase',
  summary: 'Cancel what of a purchase order is still to come; the orders it was for wait on the bench again.',
  input: z.object({ purchaseId: Id, version: z.number().int(), reason: Text(200) }),
  preview: z.object({
    /** Lines of which something will not come. */
    stopped: z.number(),
    touches: Touches,
    state: State,
  }),
});

export const answerPurchase = act({
  name: 'answerPurchase',
  summary: 'Take down what a vendor answers to a purchase order: when lines are due, and what of them will not come.',
  input: z.object({
    purchaseId: Id,
    version: z.number().int(),
    lines: namedOnce(
      z.array(z.object({ purchaseLineId: Id, dueDate: TypedDay, stops: z.boolean() })).max(500),
      'purchaseLineId',
    ),
  }),
  preview: z.object({
    /** Lines of which something will not come. */
    stopped: z.number(),
    /** Order lines that are late now, or on the bench again. */
    touches: Touches,
    state: State,
  }),
});
