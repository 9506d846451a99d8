import * as z from 'zod';
import { EXCHANGED } from '@core/formats';
import { OFFER_KINDS, OFFER_STATES, TRANSFERS } from '@core/sisters';
import {
  act,
  Day,
  Decimal,
  DocumentRef,
  FieldChange,
  Id,
  IdParam,
  ItemRef,
  ListQuery,
  namedOnce,
  page,
  Party,
  post,
  read,
  Text,
  TypedDay,
  TypedDecimal,
} from './kit';
import type { Right } from './access';
import { openPegging, PegRow } from './promise';
import { listSeenBy, seenBy } from './seen-by';
import { ThreadOut } from './supply';

/** A company of the group, as the others see it. */
const SisterRef = z.object({
  id: Id,
  code: z.string(),
  name: z.string(),
  currency: z.string(),
  /** Of another installation: what goes between us goes in files. */
  elsewhere: z.boolean(),
});

const OfferKind = z.enum(OFFER_KINDS);

/** The right that each kind of offer asks for. */
export const OFFER_RIGHT: Readonly<Record<z.infer<typeof OfferKind>, Right>> = {
  order: 'orders',
  purchase: 'purchases',
  receipt: 'goods',
  invoice: 'vendor-invoices',
};

/** What a sister offers, in a row of the tray. // X2 */
export const OfferRow = z.object({
  id: Id,
  kind: OfferKind,
  state: z.enum(OFFER_STATES),
  sister: SisterRef,
  /** Her document; its number is hers. */
  number: z.string(),
  revision: z.number(),
  /** Taken before, and another since; or taken back since. */
  changed: z.boolean(),
  gone: z.boolean(),
  lines: z.number(),
  /** Its first line, in words of hers: `4 FV-900`. */
  first: z.string(),
  day: Day.nullable(),
  /** Whom what is ordered is for in the end, where it goes straight to them. */
  forWhom: z.string(),
  /** What it became here. */
  document: DocumentRef.nullable(),
  reason: z.string(),
  untilDay: Day.nullable(),
  /** Invoices that are entered with this receipt. // X3 */
  invoices: z.array(z.string()),
  /** A document of ours that tells of the same things and came to the sister by itself. // X3 */
  sameAs: DocumentRef.nullable(),
});
export type OfferRow = z.infer<typeof OfferRow>;

export const listTray = read({
  name: 'listTray',
  path: '/tray',
  summary: 'What sister companies sent and waits to be taken; what came back of ours; what was done.',
  query: ListQuery.extend({ show: z.enum(['waiting', 'returned', 'done']).default('waiting') }),
  out: page(OfferRow),
});

const OfferSheetLine = z.object({
  id: Id,
  lineNo: z.number(),
  theirs: ItemRef,
  ours: ItemRef.nullable(),
  factor: Decimal,
  /** In our unit. */
  quantity: Decimal,
  theirQuantity: Decimal,
  day: Day.nullable(),
  /** For one of our unit, in the currency of the document. */
  price: seenBy('see-costs', Decimal),
  /** What our line says by now; null where there is none. */
  now: z.object({ quantity: Decimal, day: Day }).nullable(),
  numbers: z.array(z.string()),
  /** How ours is sold. */
  route: z.string(),
});

export const OfferSheet = OfferRow.extend({
  currency: z.string(),
  /** Who the sister is among our customers or vendors; null where nobody said. */
  party: Party.nullable(),
  total: seenBy('see-costs', Decimal),
  items: z.array(OfferSheetLine),
  /** What it goes to, in a line. */
  address: z.string(),
});

export const openOffer = read({
  name: 'openOffer',
  path: '/tray/:id',
  summary: 'One offer of a sister company with its lines.',
  params: IdParam,
  out: OfferSheet,
});

/** An offer as it was seen. */
const Seen = { id: Id, kind: OfferKind, revision: z.number().int() };

export const takeOffer = act({
  name: 'takeOffer',
  summary:
    'Take what a sister company offers, as it is or otherwise: it becomes an order, a purchase, a receipt or an invoice here, once; what changed since is changed here.',
  input: z.object({
    ...Seen,
    /** An order is left a draft. */
    draft: z.boolean().default(false),
    lines: namedOnce(
      z.array(z.object({ lineId: Id, quantity: TypedDecimal.optional(), day: z.string().max(10).optional() })).max(500),
      'lineId',
    ),
    /** With a receipt: its invoices are entered too. // X3 */
    invoices: z.boolean().default(false),
  }),
  preview: z.object({
    does: z.enum(['make', 'change', 'end']),
    lines: z.array(z.object({ item: z.string(), quantity: Decimal, day: Day, price: seenBy('see-costs', Decimal) })),
    otherwise: z.boolean(),
    fields: z.array(FieldChange),
  }),
});

export const returnOffer = act({
  name: 'returnOffer',
  summary: 'Return an offer to the sister company that sent it, with why.',
  input: z.object({ ...Seen, reason: Text(200) }),
  preview: z.object({ sister: z.string() }),
});

export const setAsideOffer = act({
  name: 'setAsideOffer',
  summary: 'Set an offer aside until a day.',
  input: z.object({ ...Seen, reason: Text(200), untilDay: TypedDay }),
  preview: z.object({ untilDay: Day }),
});

export const sameAsOffer = act({
  name: 'sameAsOffer',
  summary: 'Say that an offer is a document of ours that stands already: the two are joined and nothing is made.',
  input: z.object({ ...Seen, documentId: Id }),
  preview: z.object({ document: z.string() }),
});

export const threadBeyond = read({
  name: 'threadBeyond',
  path: '/threads/:id/sisters',
  summary:
    'Where the thread of an order line goes on at a sister company: whole for who works there too, else at which door it stops.',
  params: IdParam,
  out: z.object({
    ends: z.array(
      z.object({
        company: SisterRef,
        /** Her document: what she sold us the line as, or bought it as. */
        number: z.string(),
        /** Null for who does not work there. */
        thread: ThreadOut.nullable(),
      }),
    ),
  }),
});

export const peggingBeyond = read({
  name: 'peggingBeyond',
  path: '/pegging/:kind/:id/sisters',
  summary:
    'Where what serves a document, or what it serves, goes on at a sister company: all the way for who works there too, else at which door it stops.',
  params: openPegging.params,
  out: z.object({
    ends: z.array(
      z.object({
        company: SisterRef,
        /** Her document: her order that serves ours, or her purchase that ours serves. */
        number: z.string(),
        side: z.enum(['down', 'up']),
        /** Null for who does not work there. */
        rows: z.array(PegRow).nullable(),
      }),
    ),
  }),
});

export const sisterDays = post({
  name: 'sisterDays',
  path: '/sisters/days',
  summary:
    'From when a sister company could ship what we would buy of her, by what she has and makes and her own working days; nothing of a vendor who is no sister.',
  body: z.object({
    vendorId: Id,
    lines: namedOnce(
      z
        .array(z.object({ key: Text(80), itemId: Id, quantity: TypedDecimal, due: TypedDay }))
        .min(1)
        .max(200),
      'key',
    ),
  }),
  out: z.object({
    sister: z.string(),
    lines: z.array(
      z.object({
        key: z.string(),
        /** Null where she cannot say, or no item of hers is paired with it. */
        first: Day.nullable(),
        late: z.boolean(),
      }),
    ),
  }),
});

const Half = z.object({
  customer: Party.nullable(),
  vendor: Party.nullable(),
  transfer: z.enum(TRANSFERS),
  perCent: Decimal,
  takesFitting: z.boolean(),
  /** Our working days that her goods are on the way. */
  transitDays: z.number(),
  /** How many days we hold what she asks us to. */
  holdDays: z.number(),
});

export const listSisters = read({
  name: 'listSisters',
  path: '/sisters',
  summary: 'The other companies of the installation, and how they are paired with this one.',
  out: z.object({
    rows: z.array(
      z.object({
        sister: SisterRef,
        half: Half,
        /** Where files to a company elsewhere are sent by mail. */
        email: z.string(),
        items: z.number(),
        waiting: z.number(),
        sent: z.number(),
        returned: z.number(),
      }),
    ),
  }),
});

const TaxRef = z.object({ id: Id, code: z.string(), name: z.string(), rate: Decimal });

const Paired = z.object({ ours: ItemRef, theirs: ItemRef, factor: Decimal });

export const openSister = read({
  name: 'openSister',
  path: '/sisters/:id',
  summary: 'A pair of companies: who each is to the other, and which items are one.',
  params: IdParam,
  out: z.object({
    sister: SisterRef,
    half: Half,
    /** Who we are among theirs. */
    theirs: z.object({ customer: Party.nullable(), vendor: Party.nullable() }),
    items: z.array(Paired),
    /** Pairs that their numbers propose; for who may pair them. */
    proposed: listSeenBy('lists', z.array(Paired)),
    /** What of theirs has no twin, for who looks for one: all that is told of their items. */
    unpaired: listSeenBy('lists', z.array(ItemRef)),
    /** Her taxes, each with ours that it is on what she invoices us; none of a company elsewhere. */
    taxes: z.array(z.object({ theirs: TaxRef, ours: TaxRef.nullable() })),
    ourTaxes: z.array(TaxRef),
  }),
});

export const keepSister = act({
  name: 'keepSister',
  summary: 'Say who a sister company is among our customers and vendors, and what she pays.',
  input: z.object({
    sisterId: Id,
    customerId: Id.nullable(),
    vendorId: Id.nullable(),
    transfer: z.enum(TRANSFERS),
    perCent: TypedDecimal,
    takesFitting: z.boolean(),
    transitDays: z.number().int().min(0).max(200).default(0),
    holdDays: z.number().int().min(0).max(200).default(5),
  }),
  preview: z.object({ sister: z.string() }),
});

export const pairTaxes = act({
  name: 'pairTaxes',
  summary:
    'Say which of our taxes those of a sister company are, on what she invoices us; none for that of the purchase.',
  input: z.object({
    sisterId: Id,
    taxes: namedOnce(z.array(z.object({ theirTaxCodeId: Id, taxCodeId: Id.nullable() })).max(100), 'theirTaxCodeId'),
  }),
  preview: z.object({ paired: z.number() }),
});

export const pairItems = act({
  name: 'pairItems',
  summary: 'Pair items of ours with those of a sister company, or part them.',
  input: z.object({
    sisterId: Id,
    pairs: namedOnce(z.array(z.object({ itemId: Id, theirItemId: Id, factor: TypedDecimal })).max(500), 'itemId'),
    removed: namedOnce(z.array(Id).max(500)),
  }),
  preview: z.object({ paired: z.number(), removed: z.number() }),
});

const Reconciled = z.object({
  number: z.string(),
  currency: z.string(),
  day: Day.nullable(),
  theySay: Decimal.nullable(),
  weSay: Decimal.nullable(),
  ourNumber: z.string(),
  why: z.enum(['same', 'not-taken', 'returned', 'missing-there', 'missing-here', 'amount', 'currency']),
});

const Side = z.object({
  rows: z.array(Reconciled),
  totals: z.array(z.object({ currency: z.string(), theySay: Decimal, weSay: Decimal, difference: Decimal })),
});

export const reconcileSister = read({
  name: 'reconcileSister',
  path: '/sisters/:id/reconciliation',
  summary: 'What one company says is owed against what the other says, document by document, both ways.',
  params: IdParam,
  needs: 'see-debts',
  out: z.object({
    sister: SisterRef,
    /** What she sold us, and what we sold her. */
    bought: Side,
    sold: Side,
    /** What could be set off against each other, by currency: the lesser of both. */
    netting: z.array(z.object({ currency: z.string(), owedToThem: Decimal, owedToUs: Decimal, net: Decimal })),
    /** Accounts that belong together, and what of both falls away where the books are put together; turnover of the month. */
    accounts: z.array(
      z.object({
        account: z.string(),
        ours: z.enum(['bought', 'sold']),
        currency: z.string(),
        theySay: Decimal,
        weSay: Decimal,
        difference: Decimal,
        falls: Decimal,
      }),
    ),
    /** Goods that left one and are not received at the other. */
    underWay: z.array(z.object({ number: z.string(), ours: z.boolean(), day: Day, items: z.string() })),
  }),
});

/** What of ours is still to be sent to a company elsewhere, as a file. // X2 */
export const DueRow = z.object({
  /** The offer's. */
  id: Id,
  kind: OfferKind,
  number: z.string(),
  revision: z.number(),
  gone: z.boolean(),
  /** A document of hers goes back, with why. */
  returned: z.boolean(),
  reason: z.string(),
  sister: SisterRef,
  /** Where her files are sent by mail; empty where by hand only. */
  email: z.string(),
  /** The last day it was sent; null until then. */
  sentOn: Day.nullable(),
  /** Ours that is sent; null of what goes back. */
  document: DocumentRef.nullable(),
});
export type DueRow = z.infer<typeof DueRow>;

export const listDue = read({
  name: 'listDue',
  needs: 'send',
  path: '/exchange/due',
  summary: 'What is still to be sent to companies elsewhere, oldest first, 200 at most; or the 50 that were sent last.',
  query: z.object({ show: z.enum(['due', 'sent']).default('due') }),
  out: z.object({ rows: z.array(DueRow) }),
});

export const sendExchange = act({
  name: 'sendExchange',
  summary: 'Say that a document goes to a company elsewhere as a UBL 2.1 file: by mail, or saved and brought there.',
  input: z.object({ id: Id, revision: z.number().int(), gone: z.boolean(), how: z.enum(['mail', 'file']) }),
  preview: z.object({ recipient: z.string(), attachment: z.string() }),
});

export const bringInExchange = act({
  name: 'bringInExchange',
  summary: 'Bring in a UBL 2.1 file of a company elsewhere: it waits in the tray, once whatever is sent twice.',
  input: z.object({
    name: Text(100),
    /** The file in base64; 3 MB at most. */
    content: z.string().max(4_200_000),
  }),
  preview: z.object({
    number: z.string(),
    kind: z.enum(EXCHANGED),
    sister: z.string(),
    does: z.enum(['new', 'changed', 'nothing', 'returned']),
    /** It answers ours, as we have it. */
    folded: z.boolean(),
  }),
});

export const keepElsewhere = act({
  name: 'keepElsewhere',
  summary: 'Add a company of another installation, or change its name and address.',
  input: z.object({
    /** Null for one that is new. */
    id: Id.nullable(),
    code: Text(20),
    name: Text(120),
    currency: Text(3),
    email: Text(120),
  }),
  preview: z.object({ name: z.string() }),
});

/** A line of an order that is bought of a sister company, and what she holds for it. // X4 */
export const HoldRow = z.object({
  lineId: Id,
  lineNo: z.number(),
  item: ItemRef,
  open: Decimal,
  sister: z.string(),
  /** From when she could ship it; null where she cannot say. */
  first: Day.nullable(),
  /** What she holds of hers, and until when. */
  hold: z.object({ id: Id, number: z.string(), until: Day }).nullable(),
});
export type HoldRow = z.infer<typeof HoldRow>;

export const listHolds = read({
  name: 'listHolds',
  path: '/orders/:id/holds',
  summary: 'The lines of an order that are bought of sister companies, from when they could ship, and what they hold.',
  params: IdParam,
  out: z.object({ rows: z.array(HoldRow) }),
});

export const holdAtSister = act({
  name: 'holdAtSister',
  summary:
    'Have sister companies hold what lines of an order need until a day: what they have and make is promised to them, and lapses.',
  input: z.object({ orderId: Id, lineIds: namedOnce(z.array(Id).max(200)) }),
  preview: z.object({ held: z.array(z.object({ lineId: Id, day: Day, until: Day })) }),
});

export const letHoldGo = act({
  name: 'letHoldGo',
  summary: 'Let go what a sister company holds, from either side.',
  input: z.object({ id: Id, lapsed: z.boolean().default(false) }),
  preview: z.object({ number: z.string() }),
});
