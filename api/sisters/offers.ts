import * as z from 'zod';
import { OFFER_STATES } from '@core/sisters';
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
  read,
  Text,
  TypedDay,
  TypedDecimal,
} from '../kit';
import { seenBy } from '../seen-by';
import { OfferKind, SisterRef } from './refs';

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
