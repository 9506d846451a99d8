import * as z from 'zod';
import { TRANSFERS } from '@core/sisters';
import { act, Decimal, Id, IdParam, ItemRef, namedOnce, Party, read, TypedDecimal } from '../kit';
import { listSeenBy } from '../seen-by';
import { SisterRef } from './refs';

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
    taxes: listSeenBy('lists', z.array(z.object({ theirs: TaxRef, ours: TaxRef.nullable() }))),
    ourTaxes: listSeenBy('lists', z.array(TaxRef)),
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
