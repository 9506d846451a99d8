import * as z from 'zod';
import { ROUTES } from '@core/catalogue';
import { act, Day, Decimal, DocumentRef, Id, IdParam, ItemRef, Location, Party, read } from './kit';
import { seenBy } from './seen-by';

export const ItemChoice = ItemRef.extend({
  listPrice: Decimal,
  route: z.enum(ROUTES),
  routes: z.array(z.enum(ROUTES)),
  onHand: Decimal,
  taxCode: z.string(),
  taxRate: Decimal,
  /** The units it is sold in, its own first, with how many of its own each is. */
  units: z.array(z.object({ unit: z.string(), factor: Decimal })),
  /** Kilograms and cubic metres of one of its own unit. */
  weight: Decimal,
  volume: Decimal,
  /** What the customer asked for calls it; empty where they have no name of their own for it. */
  theirNumber: z.string(),
  /** What the vendor asked for wants for one; empty where they do not sell it, or none is asked for. */
  vendorPrice: seenBy('see-costs', Decimal),
  /** Whether anything may be chosen for it. // W2 */
  hasOptions: z.boolean(),
});

export const itemOptions = read({
  name: 'itemOptions',
  path: '/items/:id/options',
  summary: 'What may be chosen for an item that is made, and what each puts on its price, in a customer’s currency.',
  params: IdParam,
  query: z.object({ customerId: z.coerce.number().int().positive().optional() }),
  out: z.object({
    groups: z.array(
      z.object({
        id: Id,
        name: z.string(),
        /** The component that stays out where something of it is chosen. */
        replaces: z.object({ id: Id, number: z.string() }).nullable(),
        atLeast: z.number().int(),
        atMost: z.number().int(),
        options: z.array(
          z.object({
            id: Id,
            component: z.object({ id: Id, number: z.string(), name: z.string() }),
            quantity: Decimal,
            operationNo: z.number().int().nullable(),
            price: Decimal,
            needs: z.array(Id),
            excludes: z.array(Id),
          }),
        ),
      }),
    ),
  }),
});

export const locations = read({
  name: 'locations',
  path: '/locations',
  summary: 'Where we keep goods, the main location first.',
  out: z.object({ rows: z.array(Location) }),
});

export const findItems = read({
  name: 'findItems',
  path: '/items',
  summary: 'Items by any part of number or name, or of the number a customer calls them by.',
  query: z.object({
    q: z.string().max(80).default(''),
    customerId: z.coerce.number().int().positive().optional(),
    vendorId: z.coerce.number().int().positive().optional(),
  }),
  out: z.object({ rows: z.array(ItemChoice) }),
});

export const openItem = read({
  name: 'openItem',
  path: '/items/:id',
  summary: 'One item: who sells it to us, what is on hand, its stock entries.',
  params: IdParam,
  out: ItemChoice.extend({
    stockValue: seenBy('see-costs', Decimal),
    /** How its serial numbers are made, empty where they are typed; null where it is not kept by number. // P6 */
    serialPattern: z.string().nullable(),
    /** Where it is, the main location first. */
    places: z.array(z.object({ location: Location, onHand: Decimal, free: Decimal })),
    vendors: z.array(
      z.object({
        id: Id,
        name: z.string(),
        /** In their currency, and in the company's; the latter empty where no rate is known. // P8 */
        unitPrice: seenBy('see-costs', Decimal),
        currency: z.string(),
        ownPrice: seenBy('see-costs', Decimal),
        leadDays: z.number(),
        preferred: z.boolean(),
      }),
    ),
  }),
});

/** Who has an item on order, who brings it, who bought it lately, and what it goes into. */
export const ItemWork = z.object({
  onOrder: z.array(
    z.object({
      order: DocumentRef,
      lineNo: z.number(),
      customer: Party,
      open: Decimal,
      shipDate: Day,
    }),
  ),
  coming: z.array(
    z.object({ purchase: DocumentRef, vendor: Party, open: Decimal, dueDate: Day, straight: z.boolean() }),
  ),
  buyers: z.array(
    z.object({
      customer: Party,
      times: z.number(),
      quantity: Decimal,
      lastDay: Day,
      lastPrice: Decimal,
      currency: z.string(),
    }),
  ),
  usedIn: z.array(z.object({ item: ItemRef, quantity: Decimal })),
});

export const itemWork = read({
  name: 'itemWork',
  path: '/items/:id/work',
  summary: 'Of an item: who has it on order, who brings it, who bought it, and what it goes into; of its newest lines.',
  params: IdParam,
  out: ItemWork,
});

export const takeTaxRates = act({
  name: 'takeTaxRates',
  summary: 'Give tax codes the rates whose day has come; done by itself on that day.',
  input: z.object({}),
  preview: z.object({ rates: z.number() }),
});
