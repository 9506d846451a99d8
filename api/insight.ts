import * as z from 'zod';
import { Decimal, DocumentRef, Id, Party, read } from './kit';

export const FULFILMENT_BY = ['agreement', 'customer', 'organisation', 'group', 'currency'] as const;

export const FulfilmentQuery = z.object({
  by: z.enum(FULFILMENT_BY).default('customer'),
  /** Each amount in its own currency, or all in the company's at the day's rate. */
  money: z.enum(['own', 'company']).default('company'),
  side: z.enum(['selling', 'buying']).default('selling'),
  state: z.enum(['in-force', 'paused', 'ended']).optional(),
  dates: z.enum(['passed', 'running']).optional(),
  customerId: z.coerce.number().int().positive().optional(),
  organisationId: z.coerce.number().int().positive().optional(),
  groupId: z.coerce.number().int().positive().optional(),
  currency: z.string().max(3).optional(),
  /** The most groups that are given: the largest. */
  rows: z.coerce.number().int().min(1).max(100).default(100),
});

export const FulfilmentRow = z.object({
  /** What the row stands for: its id where it has one, and its words. */
  id: Id.nullable(),
  name: z.string(),
  detail: z.string(),
  currency: z.string(),
  agreements: z.number(),
  committed: Decimal,
  released: Decimal,
  shipped: Decimal,
  invoiced: Decimal,
});

export const Fulfilment = z.object({
  rows: z.array(FulfilmentRow),
  /** More rows than are shown. */
  more: z.boolean(),
  /** The largest agreements by committed value, in the company's currency. */
  largest: z.array(
    z.object({ document: DocumentRef, party: Party, value: Decimal, share: z.number(), currency: z.string() }),
  ),
  currency: z.string(),
  /** Currencies without a rate for the day: left out of sums in the company's currency. */
  unrated: z.array(z.string()),
});

export const fulfilment = read({
  name: 'fulfilment',
  needs: 'see-agreements',
  path: '/fulfilment',
  summary: 'What was committed, released, shipped and invoiced on agreements, summed by what is asked.',
  query: FulfilmentQuery,
  out: Fulfilment,
});
