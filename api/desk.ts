import * as z from 'zod';
import { ItemChoice } from './catalogue';
import { Day, Decimal, DocumentRef, IdParam, Location, read } from './kit';

/** What is known of a customer while their order is typed. // S4 S5 */
export const CustomerDesk = z.object({
  currency: z.string(),
  terms: z.string(),
  /** What they owe, tax included, and what is confirmed and not invoiced. */
  balance: Decimal,
  onOrder: Decimal,
  /** What they may owe at most; null for no limit. */
  creditLimit: Decimal.nullable(),
  /** Their orders that are still open, soonest first; some of them, and how many there are. */
  open: z.array(z.object({ document: DocumentRef, state: z.string(), firstShipDate: Day.nullable(), net: Decimal })),
  openCount: z.number(),
  permits: z.array(z.object({ name: z.string(), number: z.string(), lastDay: Day })),
});

export const customerDesk = read({
  name: 'customerDesk',
  path: '/customers/:id/desk',
  summary: 'What a customer owes, has on order and may still order.',
  params: IdParam,
  out: CustomerDesk,
});

/** An item with what was bought of it before: the usual basket of a customer, or what a vendor usually brings. */
export const BasketRow = z.object({
  item: ItemChoice,
  /** On how many orders of the period. */
  times: z.number(),
  lastQuantity: Decimal,
  /** The unit it was last bought in, with how many of the item's own it is. */
  unit: z.string(),
  factor: Decimal,
  /** For one of the item's own unit. */
  lastPrice: Decimal,
  lastDay: Day,
  /** On hand and held for nobody. */
  free: Decimal,
  /** Ordered and still to come. */
  open: Decimal,
  /** How often it is bought, when it is due again, and how much of it is proposed; null where that cannot be told. */
  again: z.object({ every: z.number(), dueOn: Day, quantity: Decimal.nullable() }).nullable(),
});

const Basket = z.object({ rows: z.array(BasketRow) });
const Period = z.object({ days: z.coerce.number().int().min(1).max(1100).default(180) });

export const usualBasket = read({
  name: 'usualBasket',
  path: '/customers/:id/basket',
  summary: 'What a customer bought over a period: how often, how much and at what price the last time.',
  params: IdParam,
  query: Period,
  out: Basket,
});

export const vendorBasket = read({
  name: 'vendorBasket',
  path: '/vendors/:id/basket',
  summary: 'What was bought from a vendor over a period: how often, how much and at what price the last time.',
  params: IdParam,
  query: Period,
  out: Basket,
});

/** What can be had at once. */
export const ShelfRow = z.object({ item: ItemChoice, location: Location, free: Decimal, group: z.string() });

export const shelf = read({
  name: 'shelf',
  path: '/shelf',
  summary: 'Items on hand that nothing is held for.',
  query: z.object({
    q: z.string().max(80).default(''),
    groupId: z.coerce.number().int().positive().optional(),
    customerId: z.coerce.number().int().positive().optional(),
  }),
  out: z.object({ rows: z.array(ShelfRow), more: z.boolean() }),
});

export const matchItems = read({
  name: 'matchItems',
  path: '/items/named',
  summary: 'Items by their exact number, or the number a customer calls them by.',
  query: z.object({
    /** Numbers, one to a line. */
    numbers: z.string().max(6000),
    customerId: z.coerce.number().int().positive().optional(),
  }),
  out: z.object({ rows: z.array(z.object({ asked: z.string(), item: ItemChoice })) }),
});
