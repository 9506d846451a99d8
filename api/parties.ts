import * as z from 'zod';
import { Address, Day, Decimal, DocumentRef, Id, IdParam, Party, read } from './kit';
import { listSeenBy, seenBy } from './seen-by';

const OpenItem = z.object({
  invoice: DocumentRef,
  source: DocumentRef,
  dueDate: Day,
  amount: Decimal,
  settled: Decimal,
  owed: Decimal,
});

/** A person at a customer or vendor. */
const Contact = z.object({ id: Id, name: z.string(), work: z.string(), phone: z.string(), email: z.string() });

export const CustomerSheet = Party.extend({
  phone: z.string(),
  email: z.string(),
  contacts: z.array(Contact),
  taxNumber: z.string(),
  currency: z.string(),
  terms: z.string(),
  referenceRequired: z.boolean(),
  shipTos: z.array(Address),
  balance: seenBy('see-debts', Decimal),
  openItems: listSeenBy('see-debts', z.array(OpenItem)),
  agreements: z.array(z.object({ document: DocumentRef, state: z.string(), lastDay: Day, title: z.string() })),
});

export const VendorSheet = Party.extend({
  phone: z.string(),
  email: z.string(),
  contacts: z.array(Contact),
  taxNumber: z.string(),
  /** Where they are, in a line; empty where nobody said. */
  address: z.string(),
  agreements: z.array(z.object({ document: DocumentRef, state: z.string(), lastDay: Day, title: z.string() })),
  currency: z.string(),
  terms: z.string(),
  balance: seenBy('see-debts', Decimal),
  openItems: listSeenBy('see-debts', z.array(OpenItem)),
  items: z.array(
    z.object({
      id: Id,
      number: z.string(),
      name: z.string(),
      unitPrice: seenBy('see-costs', Decimal),
      leadDays: z.number(),
      preferred: z.boolean(),
    }),
  ),
});

export const PartyChoice = Party.extend({
  detail: z.string(),
  referenceRequired: z.boolean(),
  /** The usual one first. */
  shipTos: z.array(Address),
  /** The address most of their last orders go to; null where they ordered nothing yet. */
  usualShipToId: Id.nullable(),
});

export const findCustomers = read({
  name: 'findCustomers',
  path: '/customers',
  summary: 'Customers by any part of name, number or phone, theirs or of their people.',
  query: z.object({ q: z.string().max(80).default('') }),
  out: z.object({ rows: z.array(PartyChoice) }),
});

export const findVendors = read({
  name: 'findVendors',
  path: '/vendors',
  summary: 'Vendors by any part of name, number or phone, theirs or of their people.',
  query: z.object({ q: z.string().max(80).default('') }),
  out: z.object({ rows: z.array(PartyChoice) }),
});

export const openCustomer = read({
  name: 'openCustomer',
  path: '/customers/:id',
  summary: 'A customer with balance and open items.',
  params: IdParam,
  out: CustomerSheet,
});

export const openVendor = read({
  name: 'openVendor',
  path: '/vendors/:id',
  summary: 'A vendor with balance and open items.',
  params: IdParam,
  out: VendorSheet,
});
