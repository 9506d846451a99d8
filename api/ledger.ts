import * as z from 'zod';
import {
  act,
  Day,
  DayRange,
  Decimal,
  DocumentParams,
  DocumentRef,
  FieldChange,
  Id,
  IdParam,
  ItemRef,
  ListQuery,
  page,
  read,
  Text,
} from './kit';
import { listSeenBy, seenBy } from './seen-by';

const Journal = z.object({
  document: DocumentRef,
  source: DocumentRef,
  postedOn: Day,
  /** Its own day, where its month was closed and it was posted later. // P9 */
  documentDay: Day.nullable(),
  entries: z.array(
    z.object({
      account: z.string(),
      name: z.string(),
      debit: Decimal.nullable(),
      credit: Decimal.nullable(),
      /** The same in the document's currency where that is another; null for what is only the company's. // P8 */
      foreign: z.object({ currency: z.string(), amount: Decimal }).nullable(),
    }),
  ),
});

const StockEntry = z.object({
  id: Id,
  item: ItemRef,
  place: z.enum(['ours', 'vendor-to-customer']),
  /** Which of our places; empty for what only passed through. */
  location: z.string(),
  quantity: Decimal,
  cost: seenBy('see-costs', Decimal),
  postedOn: Day,
});

/** What a document left owed, or settled, and what moved it. */
const OpenItem = z.object({
  of: DocumentRef,
  currency: z.string(),
  dueDate: Day,
  amount: Decimal,
  owed: Decimal,
  /** In the company's currency; null where its own is that. // P8 */
  own: z.object({ currency: z.string(), amount: Decimal, owed: Decimal }).nullable(),
  moves: z.array(
    z.object({
      document: DocumentRef,
      day: Day,
      amount: Decimal,
      how: z.enum(['paid', 'set off', 'drawn']),
      /** What it was worth less what it settled, in the company's currency; zero where that is the item's own. // P8 */
      difference: Decimal,
    }),
  ),
});

const Change = z.object({
  at: z.string(),
  person: z.string(),
  act: z.string(),
  /** Why, where that was asked; and what of the document is another by that, field by field. // S8 */
  reason: z.string(),
  fields: z.array(FieldChange),
});

/** From a document down to what it posted, and who did what to it. */
export const openTrail = read({
  name: 'openTrail',
  path: '/trail/:kind/:id',
  summary: 'The journals, stock entries, open items and changes of one document.',
  params: DocumentParams,
  out: z.object({
    document: DocumentRef,
    currency: z.string(),
    /**
     * Of a journal that put stock right by hand or carried goods between our places: why, the one it takes back, and the
     * one that took it back. // W6 P1
     */
    adjustment: z
      .object({
        carried: z.boolean(),
        reason: z.string(),
        reverses: DocumentRef.nullable(),
        reversedBy: DocumentRef.nullable(),
      })
      .nullable(),
    journals: listSeenBy('see-costs', z.array(Journal)),
    stockEntries: z.array(StockEntry),
    openItems: listSeenBy('see-debts', z.array(OpenItem)),
    changes: z.array(Change),
  }),
});

const Month = z.string().regex(/^(19|20|21)\d\d-(0[1-9]|1[0-2])$/);

/** The months, closed and open. // P9 */
export const openPeriods = read({
  name: 'openPeriods',
  path: '/periods',
  summary: 'Months, newest first: what was posted in each, which are closed, and who closed or opened them.',
  out: z.object({
    closedThrough: Day.nullable(),
    months: z.array(
      z.object({
        month: Month,
        closed: z.boolean(),
        over: z.boolean(),
        journals: z.number(),
        /** Of them those of an earlier day whose own month was closed. */
        late: z.number(),
        moves: z.array(z.object({ closed: z.boolean(), reason: z.string(), person: z.string(), at: z.string() })),
      }),
    ),
  }),
});

export const closeMonth = act({
  name: 'closeMonth',
  summary: 'Close a month and those before it: nothing is posted into them any more.',
  input: z.object({ month: Month }),
  preview: z.object({
    closedThrough: Day,
    /** Journals in all that is closed then; orders shipped and purchases received by then and not invoiced in full. */
    journals: z.number(),
    shipped: z.number(),
    received: z.number(),
  }),
});

export const reopenMonth = act({
  name: 'reopenMonth',
  summary: 'Open the month that was closed last again.',
  input: z.object({ month: Month, reason: Text(200) }),
  preview: z.object({ closedThrough: Day.nullable() }),
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

/** Balances of the accounts on a day: above zero what is debited more. */
export const listAccounts = read({
  name: 'listAccounts',
  needs: 'see-costs',
  path: '/accounts',
  summary: 'The accounts with what they stood at before a range of days, what moved in it, and what they stand at.',
  query: z.object({ days: DayRange }),
  out: z.object({
    currency: z.string(),
    rows: z.array(
      z.object({
        id: Id,
        code: z.string(),
        name: z.string(),
        before: Decimal,
        debit: Decimal,
        credit: Decimal,
        balance: Decimal,
      }),
    ),
  }),
});

export const AccountEntry = z.object({
  id: Id,
  postedOn: Day,
  journal: DocumentRef,
  source: DocumentRef,
  /** Whom it is about; empty for nobody. */
  party: z.string(),
  amount: Decimal,
});

export const listEntries = read({
  name: 'listEntries',
  needs: 'see-costs',
  path: '/accounts/:id/entries',
  summary: 'What was posted on an account, newest first.',
  params: IdParam,
  query: ListQuery.extend({ days: DayRange }),
  out: page(AccountEntry),
});

/** Everything that was done, newest first. // U6 */
export const listChanges = read({
  name: 'listChanges',
  path: '/changes',
  needs: 'upkeep',
  summary: 'The trail: who did what, when, to which documents, with what was typed and what is another by it.',
  query: ListQuery.extend({
    /** Any part of who did it. */
    person: z.string().max(80).optional(),
    /** Any part of what was done, as the list of changes says it. */
    act: z.string().max(60).optional(),
    /** Days as typed, read against the work date. */
    days: DayRange,
  }),
  out: page(
    z.object({
      id: z.number(),
      at: z.string(),
      person: z.string(),
      act: z.string(),
      /** Where it came from: an address, the clock, a file. */
      origin: z.string(),
      documents: z.array(DocumentRef),
      fields: z.array(FieldChange),
      reason: z.string(),
      /** What was typed, as JSON, shortened. */
      input: z.string(),
    }),
  ),
});
