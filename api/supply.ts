import * as z from 'zod';
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
  page,
  Party,
  read,
} from './kit';

const Offer = z.object({
  vendorId: Id,
  vendor: z.string(),
  unitPrice: Decimal,
  leadDays: z.number(),
  preferred: z.boolean(),
});

export const BenchRow = z.object({
  orderLineId: Id,
  lineNo: z.number(),
  order: DocumentRef,
  customer: Party,
  shipTo: Address,
  item: ItemRef,
  quantity: Decimal,
  shipDate: Day,
  currency: z.string(),
  offers: z.array(Offer),
  proposal: z
    .object({ vendorId: Id, reason: z.enum(['preferred', 'cheapest', 'fastest', 'only']), due: Day })
    .nullable(),
});

export const listBench = read({
  name: 'listBench',
  path: '/bench',
  summary: 'Lines that still need a purchase, soonest ship date first.',
  query: z.object({
    orderId: z.coerce.number().int().positive().optional(),
    cursor: z.string().max(200).optional(),
  }),
  out: page(BenchRow),
});

export const placePurchases = act({
  name: 'placePurchases',
  summary: 'Place bench lines: purchase orders by vendor and ship-to, tied to their lines.',
  input: z.object({
    lines: z
      .array(
        z.object({
          orderLineId: Id,
          vendorId: Id,
          /** The buying agreement's line that prices it; null for none; left out for the first that fits. */
          agreementLineId: Id.nullable().optional(),
        }),
      )
      .max(500),
  }),
  shown: z.object({
    purchases: z.array(
      z.object({
        vendor: z.string(),
        shipTo: z.string(),
        currency: z.string(),
        net: Decimal,
        lines: z.array(
          z.object({
            orderLineId: Id,
            quantity: Decimal,
            unitPrice: Decimal,
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
});
export type ThreadOut = z.infer<typeof ThreadOut>;

export const openThread = read({
  name: 'openThread',
  path: '/threads/:id',
  summary: 'The thread of one order line: every document it passed and passes.',
  params: IdParam,
  out: ThreadOut,
});

export const threadOfDocument = read({
  name: 'threadOfDocument',
  path: '/documents/:kind/:id/thread',
  summary: 'The thread of the first order line a document is about, where it is about one.',
  params: DocumentParams,
  out: z.object({ thread: ThreadOut.nullable() }),
});
