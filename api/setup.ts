import * as z from 'zod';
import { ACCOUNT_ROLES } from '@core/ledger';
import { Session } from './access';
import { DOCUMENT_KINDS } from '@core/kernel';
import { act, post, read, Text } from './kit';

const Company = z.object({
  name: Text(200),
  code: Text(40),
  currency: Text(3),
  timeZone: Text(60),
  street: Text(200),
  postcode: Text(40),
  town: Text(200),
  country: Text(10),
  registration: Text(80),
  taxNumber: Text(80),
  phone: Text(80),
  email: Text(200),
  bank: Text(200),
  bankAccount: Text(80),
});

/** A company as its first visitor writes it; what is wrong is said at its field. // U1 */
const Begin = {
  company: Company,
  week: Text(7),
  accounts: z.array(z.object({ code: Text(40), name: Text(200), role: z.enum(ACCOUNT_ROLES) })).max(60),
  taxes: z.array(z.object({ code: Text(40), name: Text(200), rate: Text(20) })).max(60),
  terms: z.array(z.object({ name: Text(200), days: Text(10) })).max(60),
  locations: z.array(z.object({ code: Text(40), name: Text(200) })).max(60),
};

export const firstVisit = read({
  name: 'firstVisit',
  path: '/first-visit',
  summary: 'Whether this installation waits for its first visitor.',
  open: true,
  out: z.object({ awaited: z.boolean() }),
});

export const beginCompany = post({
  name: 'beginCompany',
  path: '/first-visit',
  summary:
    'Make the first company and the first person, by the word that was printed at the start; signs that person in.',
  open: true,
  body: z.object({
    ...Begin,
    word: Text(60),
    person: z.object({ name: Text(200), signIn: Text(100), password: Text(250) }),
  }),
  out: Session,
});

export const beginNextCompany = post({
  name: 'beginNextCompany',
  path: '/companies',
  needs: 'companies',
  summary: 'Make a further company in the installation, by who may; goes there.',
  body: z.object(Begin),
  out: Session,
});

export const missing = read({
  name: 'missing',
  path: '/missing',
  summary: 'What is still missing before a first order, what is needed first; empty where there is nothing.',
  out: z.object({
    rows: z.array(
      z.object({
        what: z.enum(['items', 'prices', 'customers', 'addresses', 'vendors', 'stock', 'order', 'bank', 'people']),
        needed: z.boolean(),
        count: z.number(),
      }),
    ),
  }),
});

export const listSeries = read({
  name: 'listSeries',
  path: '/number-series',
  summary: 'How documents are numbered, by kind.',
  out: z.object({
    rows: z.array(
      z.object({
        kind: z.enum(DOCUMENT_KINDS),
        prefix: z.string(),
        next: z.number(),
        /** A number was given: what stands before it can be changed, the serial goes on. */
        begun: z.boolean(),
      }),
    ),
  }),
});

export const keepSeries = act({
  name: 'keepSeries',
  summary: 'Say how documents of a kind are numbered: what stands before the serial, and where it begins.',
  input: z.object({ kind: z.enum(DOCUMENT_KINDS), prefix: Text(40), next: Text(20) }),
  preview: z.object({ number: z.string() }),
});
