import * as z from 'zod';
import { TENDERS } from '@core/counter';
import { MOST_REFERENCE } from '@core/kernel';
import { ORDER_STATES } from '@core/orders';
import {
  act,
  Day,
  Decimal,
  DocumentRef,
  Id,
  IdParam,
  ItemRef,
  ListQuery,
  namedOnce,
  page,
  Party,
  read,
  SerialNumbers,
  Text,
  TypedDay,
  TypedDecimal,
} from './kit';
import { ItemChoice } from './catalogue';

const MOST_AT_TILL = 20;
const MOST_LINES = 200;

/** Ids between commas, in a query. */
const Ids = z
  .string()
  .max(400)
  .regex(/^\d+(,\d+)*$/)
  .transform((ids) => ids.split(',').map(Number));

const CardPayment = z.object({ id: Id, amount: Decimal, state: z.enum(['asked', 'taken']), orderId: Id });

export const Till = z.object({
  id: Id,
  name: z.string(),
  currency: z.string(),
  /** Open, with what must be in it; null where it is closed. */
  drawer: z
    .object({ document: DocumentRef, version: z.number(), cash: Decimal, openedOn: Day, openedBy: z.string() })
    .nullable(),
  /** What the terminal has not answered, or took for no slip yet. */
  cards: z.array(CardPayment.extend({ order: DocumentRef, /** It goes back. */ back: z.boolean() })),
});

export const listTills = read({
  name: 'listTills',
  path: '/tills',
  summary: 'The tills, each with its open drawer.',
  needs: 'counter',
  out: z.object({ rows: z.array(Till) }),
});

/** What a device keeps of the items, to sell from while the server is away. // C6 */
export const counterShelf = read({
  name: 'counterShelf',
  path: '/counter/shelf',
  summary: 'Items in use with their list price, tax and bar codes, for a device that sells while the server is away.',
  needs: 'counter',
  out: z.object({
    currency: z.string(),
    rows: z.array(
      z.object({
        id: Id,
        number: z.string(),
        name: z.string(),
        unit: z.string(),
        price: Decimal,
        taxCode: z.string(),
        taxRate: Decimal,
        permit: z.boolean(),
        byNumber: z.boolean(),
        codes: z.array(z.object({ code: z.string(), many: Decimal })),
      }),
    ),
  }),
});

/** What was typed at the counter may mean an item, somebody, or an order that waits. */
export const counterFind = read({
  name: 'counterFind',
  path: '/counter/find',
  summary: 'Items, customers, their people and waiting orders by bar code, number, name, or phone.',
  needs: 'counter',
  query: z.object({
    q: z.string().max(80),
    customerId: z.coerce.number().int().positive().optional(),
  }),
  out: z.object({
    items: z.array(
      ItemChoice.extend({ /** How many of its own unit the code that was read stands for. */ many: Decimal }),
    ),
    parties: z.array(
      z.object({ customer: Party, contact: z.object({ id: Id, name: z.string() }).nullable(), phone: z.string() }),
    ),
    orders: z.array(
      z.object({
        order: DocumentRef,
        state: z.enum(ORDER_STATES),
        customer: Party,
        net: Decimal,
        currency: z.string(),
        day: Day,
      }),
    ),
    slips: z.array(z.object({ slip: DocumentRef, customer: Party, soldOn: Day, total: Decimal })),
  }),
});

export const TillLine = z.object({
  id: Id,
  orderId: Id,
  lineNo: z.number(),
  item: ItemRef,
  byNumber: z.boolean(),
  /** The promotion it is free with: as what is bought earns it, and not typed; empty for what is paid. // S13 */
  free: z.string(),
  quantity: Decimal,
  unitPrice: Decimal,
  /** Of what is not handed over yet. */
  amount: Decimal,
  /** Not handed over yet, and what of it is here to be taken along. */
  toGo: Decimal,
  here: Decimal,
  shipDate: Day,
  agreement: DocumentRef.nullable(),
  /** What of the agreement is left for it. */
  left: Decimal.nullable(),
  /** The permit it goes out under: its number and last day. */
  permit: z.object({ number: z.string(), lastDay: Day }).nullable(),
  /** What stands against handing it over, in sentences. */
  words: z.array(z.string()),
});

export const atTill = read({
  name: 'atTill',
  path: '/till/slip',
  summary: 'Orders as they stand at the till: what of them can be taken along, and what is to pay.',
  needs: 'counter',
  query: z.object({
    orders: Ids,
    /** What is taken of which line, `id:quantity` between commas; of a line left out all that is here, unless it is for later. */
    take: z.string().max(4000).optional(),
    /** Whether what is not taken along is paid when it is fetched. */
    later: z.enum(['yes', 'no']).optional(),
  }),
  out: z.object({
    customer: Party,
    contact: z.object({ id: Id, name: z.string() }).nullable(),
    currency: z.string(),
    /** Whether one can owe as them, and whether their orders need a reference. */
    mayOwe: z.boolean(),
    referenceRequired: z.boolean(),
    reference: z.string(),
    orders: z.array(z.object({ order: DocumentRef, version: z.number(), state: z.enum(ORDER_STATES) })),
    lines: z.array(TillLine),
    /** Whether what is not taken along is paid when it is fetched: as it was asked, or as it is by itself. */
    later: z.boolean(),
    /** What is taken of which line, as it was asked or as it is by itself. */
    taken: z.array(z.object({ lineId: Id, quantity: Decimal })),
    due: z.object({
      total: Decimal,
      covered: Decimal,
      invoiced: Decimal,
      deposits: z.array(z.object({ orderId: Id, amount: Decimal })),
      toPay: Decimal,
      inCash: Decimal,
    }),
    vouchers: z.array(z.object({ creditNoteId: Id, number: z.string(), left: Decimal })),
    cards: z.array(CardPayment),
  }),
});

export const keepAtCounter = act({
  name: 'keepAtCounter',
  summary:
    'Keep an order at the counter: who, what, how many; agreed prices, prepayments and permits attach themselves.',
  input: z.object({
    id: Id.nullable(),
    version: z.number().int().nullable(),
    tillId: Id,
    /** Null for nobody in particular. */
    customerId: Id.nullable(),
    contactId: Id.nullable(),
    /** Their reference; what it has where left out. */
    reference: Text(MOST_REFERENCE).optional(),
    lines: namedOnce(
      z
        .array(
          z.object({
            id: Id.nullable(),
            itemId: Id,
            quantity: TypedDecimal,
            unit: Text(12).optional(),
            price: TypedDecimal.optional(),
            reason: Text(120).optional(),
            /** When it is fetched, where it is not taken along; today where left out. */
            shipDate: TypedDay.optional(),
          }),
        )
        .min(1)
        .max(MOST_LINES),
      'id',
    ),
  }),
  preview: z.object({}),
});

export const dropAtCounter = act({
  name: 'dropAtCounter',
  summary: 'Throw away an order that was only kept at the counter.',
  input: z.object({ id: Id, version: z.number().int() }),
  preview: z.object({}),
});

export const sellAtTill = act({
  name: 'sellAtTill',
  summary:
    'Hand over, invoice and take the money for orders of one customer, in one act; what is not taken along stays open.',
  input: z.object({
    tillId: Id,
    orders: namedOnce(
      z
        .array(z.object({ id: Id, version: z.number().int() }))
        .min(1)
        .max(MOST_AT_TILL),
      'id',
    ),
    take: namedOnce(
      z.array(z.object({ lineId: Id, quantity: TypedDecimal, numbers: SerialNumbers.optional() })).max(MOST_LINES),
      'lineId',
    ),
    later: z.boolean(),
    cash: TypedDecimal,
    cardIds: namedOnce(z.array(Id).max(10)),
    vouchers: namedOnce(z.array(z.object({ creditNoteId: Id, amount: TypedDecimal })).max(20), 'creditNoteId'),
    onAccount: z.boolean(),
  }),
  preview: z.object({ toPay: Decimal, change: Decimal }),
});

export const askCard = act({
  name: 'askCard',
  summary: 'Ask the card terminal for an amount; kept before it is asked, so that nothing is charged twice.',
  input: z.object({ tillId: Id, orderId: Id, amount: TypedDecimal }),
  preview: z.object({ amount: Decimal }),
});

export const hearCard = act({
  name: 'hearCard',
  summary: 'Hear what the card terminal answers for a payment that was asked for, or asked to be given back.',
  input: z.object({ id: Id }),
  preview: z.object({ state: z.string() }),
});

export const giveBackCard = act({
  name: 'giveBackCard',
  summary: 'Give back a card payment that is on no slip.',
  input: z.object({ id: Id }),
  preview: z.object({ amount: Decimal }),
});

const Counts = namedOnce(z.array(z.object({ piece: z.string().max(12), count: z.string().max(9) })).max(40), 'piece');

export const openDrawer = act({
  name: 'openDrawer',
  summary: 'Open the drawer of a till with what is counted into it.',
  input: z.object({ tillId: Id, counts: Counts }),
  preview: z.object({ float: Decimal }),
});

export const moveDrawer = act({
  name: 'moveDrawer',
  summary: 'Put money into a drawer, or take some out, with the reason.',
  input: z.object({ tillId: Id, amount: TypedDecimal, reason: Text(120) }),
  preview: z.object({ amount: Decimal }),
});

export const closeDrawer = act({
  name: 'closeDrawer',
  summary: 'Close the drawer of a till with what is counted in it; a difference is posted.',
  input: z.object({ tillId: Id, counts: Counts, reason: Text(120) }),
  preview: z.object({ counted: Decimal, expected: Decimal, difference: Decimal }),
});

export const bringBack = act({
  name: 'bringBack',
  summary: 'Take back goods of a slip: credited, on hand again, and the money back to what it came by, in one act.',
  input: z.object({
    tillId: Id,
    slipId: Id,
    reason: Text(120),
    lines: namedOnce(
      z
        .array(z.object({ invoiceLineId: Id, quantity: TypedDecimal, numbers: SerialNumbers.optional() }))
        .min(1)
        .max(MOST_LINES),
      'invoiceLineId',
    ),
  }),
  preview: z.object({}),
});

export const payBackDeposit = act({
  name: 'payBackDeposit',
  summary: 'Pay what is left of a deposit back out of a drawer.',
  input: z.object({ tillId: Id, prepaymentId: Id }),
  preview: z.object({ amount: Decimal }),
});

const SlipPayment = z.object({
  kind: z.enum(TENDERS),
  invoiced: Decimal,
  deposited: Decimal,
  rounding: Decimal,
  voucher: z.string(),
});

export const SlipSheet = z.object({
  document: DocumentRef,
  till: z.string(),
  drawer: DocumentRef,
  customer: Party,
  /** Whether one of them had a name. */
  named: z.boolean(),
  currency: z.string(),
  soldOn: Day,
  soldAt: z.string(),
  soldBy: z.string(),
  invoice: DocumentRef.nullable(),
  creditNote: DocumentRef.nullable(),
  returns: DocumentRef.nullable(),
  broughtBack: z.array(DocumentRef),
  orders: z.array(DocumentRef),
  total: Decimal,
  covered: Decimal,
  deposited: Decimal,
  given: Decimal,
  change: Decimal,
  /** Until when goods of it are taken back. */
  backUntil: Day,
  lines: z.array(
    z.object({
      id: Id,
      item: ItemRef,
      byNumber: z.boolean(),
      quantity: Decimal,
      /** Not brought back yet. */
      left: Decimal,
      unitPrice: Decimal,
      net: Decimal,
      tax: z.string(),
      numbers: z.array(z.string()),
    }),
  ),
  taxes: z.array(z.object({ taxCode: z.string(), taxRate: Decimal, base: Decimal, tax: Decimal })),
  payments: z.array(SlipPayment),
  /** What was not taken along: with its day. */
  waiting: z.array(z.object({ order: DocumentRef, item: ItemRef, quantity: Decimal, shipDate: Day })),
});

export const openSlip = read({
  name: 'openSlip',
  path: '/slips/:id',
  summary: 'One slip: what was handed over and how it was paid.',
  needs: 'counter',
  params: IdParam,
  out: SlipSheet,
});

export const SlipRow = z.object({
  document: DocumentRef,
  till: z.string(),
  customer: Party,
  soldOn: Day,
  soldBy: z.string(),
  total: Decimal,
  deposited: Decimal,
  currency: z.string(),
  paidBy: z.string(),
});

export const listSlips = read({
  name: 'listSlips',
  path: '/slips',
  summary: 'Slips, newest first.',
  needs: 'counter',
  query: ListQuery.extend({ drawer: z.coerce.number().int().positive().optional() }),
  out: page(SlipRow),
});

export const listWaiting = read({
  name: 'listWaiting',
  path: '/counter/waiting',
  summary: 'Orders kept at the counter that wait at the till, newest first.',
  needs: 'counter',
  out: z.object({
    rows: z.array(
      z.object({
        order: DocumentRef,
        customer: Party,
        who: z.string(),
        lines: z.number(),
        net: Decimal,
        currency: z.string(),
        day: Day,
        state: z.enum(ORDER_STATES),
      }),
    ),
  }),
});

export const DrawerSheet = z.object({
  document: DocumentRef,
  version: z.number(),
  till: z.object({ id: Id, name: z.string() }),
  currency: z.string(),
  openedOn: Day,
  openedBy: z.string(),
  float: Decimal,
  cash: Decimal,
  closedOn: Day.nullable(),
  closedBy: z.string(),
  counted: Decimal.nullable(),
  reason: z.string(),
  counts: z.array(z.object({ piece: Decimal, count: z.number() })),
  takings: z.array(z.object({ kind: z.enum(TENDERS), count: z.number(), amount: Decimal })),
  moves: z.array(z.object({ amount: Decimal, reason: z.string(), by: z.string(), at: z.string() })),
  slips: z.object({ first: z.string(), last: z.string(), count: z.number() }),
});

export const openDrawerSheet = read({
  name: 'openDrawerSheet',
  path: '/drawers/:id',
  summary: 'One drawer: what came in and out by kind of payment, and how it was counted.',
  needs: 'counter',
  params: IdParam,
  out: DrawerSheet,
});

export const listDrawers = read({
  name: 'listDrawers',
  path: '/drawers',
  summary: 'Drawers of the tills, newest first.',
  needs: 'counter',
  query: ListQuery,
  out: page(
    z.object({
      document: DocumentRef,
      till: z.string(),
      openedOn: Day,
      openedBy: z.string(),
      closedOn: Day.nullable(),
      cash: Decimal,
      difference: Decimal.nullable(),
      reason: z.string(),
      currency: z.string(),
    }),
  ),
});
