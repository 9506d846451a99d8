import * as z from 'zod';
import { Day, Decimal, DocumentParams, DocumentRef, Id, ItemRef, read } from './kit';

const Journal = z.object({
  document: DocumentRef,
  source: DocumentRef,
  postedOn: Day,
  entries: z.array(
    z.object({ account: z.string(), name: z.string(), debit: Decimal.nullable(), credit: Decimal.nullable() }),
  ),
});

const StockEntry = z.object({
  id: Id,
  item: ItemRef,
  place: z.enum(['ours', 'vendor-to-customer']),
  quantity: Decimal,
  cost: Decimal,
  postedOn: Day,
});

const Change = z.object({ at: z.string(), person: z.string(), act: z.string() });

/** From a document down to what it posted, and who did what to it. */
export const openTrail = read({
  name: 'openTrail',
  path: '/trail/:kind/:id',
  summary: 'The journals, stock entries and changes of one document.',
  params: DocumentParams,
  out: z.object({
    document: DocumentRef,
    currency: z.string(),
    journals: z.array(Journal),
    stockEntries: z.array(StockEntry),
    changes: z.array(Change),
  }),
});
