import * as z from 'zod';
import { Day, Decimal, DocumentParams, DocumentRef, Id, IdParam, ItemRef, ListQuery, page, read } from './kit';

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
  /** Which of our places; empty for what only passed through. */
  location: z.string(),
  quantity: Decimal,
  cost: Decimal,
  postedOn: Day,
});

/** What a document left owed, or settled, and what moved it. */
const OpenItem = z.object({
  of: DocumentRef,
  currency: z.string(),
  dueDate: Day,
  amount: Decimal,
  owed: Decimal,
  moves: z.array(
    z.object({ document: DocumentRef, day: Day, amount: Decimal, how: z.enum(['paid', 'set off', 'drawn']) }),
  ),
});

const Change = z.object({ at: z.string(), person: z.string(), act: z.string() });

/** From a document down to what it posted, and who did what to it. */
export const openTrail = read({
  name: 'openTrail',
  path: '/trail/:kind/:id',
  summary: 'The journals, stock entries, open items and changes of one document.',
  params: DocumentParams,
  out: z.object({
    document: DocumentRef,
    currency: z.string(),
    journals: z.array(Journal),
    stockEntries: z.array(StockEntry),
    openItems: z.array(OpenItem),
    changes: z.array(Change),
  }),
});

/** From an item back to every document that moved it. */
export const stockEntries = read({
  name: 'stockEntries',
  path: '/items/:id/stock-entries',
  summary:
    'The stock entries of an item, newest first, each with the document that posted it and what was on hand after it.',
  params: IdParam,
  query: ListQuery.omit({ q: true }),
  out: page(
    StockEntry.omit({ item: true }).extend({
      document: DocumentRef,
      /** On hand at our place after it. */
      onHand: Decimal,
    }),
  ),
});
