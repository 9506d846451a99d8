import * as z from 'zod';
import { COMMISSION_BASES, EARNED_AT, STATEMENT_STATES } from '@core/commission';
import { act, Day, Decimal, DocumentRef, Id, IdParam, ItemRef, Party, read, Text, TypedDay } from './kit';

const State = z.enum(STATEMENT_STATES);
const Person = z.object({ id: Id, name: z.string() });

/** What somebody earned of a line of an invoice, in the company's currency; below zero was taken back. */
export const EarningShown = z.object({
  id: Id,
  day: Day,
  invoice: DocumentRef,
  order: DocumentRef,
  customer: Party,
  item: ItemRef,
  share: Decimal,
  perCent: Decimal,
  of: z.enum(COMMISSION_BASES),
  at: z.enum(EARNED_AT),
  base: Decimal,
  amount: Decimal,
});

const StatementRow = z.object({
  document: DocumentRef,
  person: Person,
  state: State,
  until: Day,
  amount: Decimal,
  madeOn: Day,
  paidOn: Day.nullable(),
});

export const CommissionSheet = z.object({
  currency: z.string(),
  /** Whether they may see what others earn: those who have anything, and who is shown. */
  all: z.boolean(),
  people: z.array(Person.extend({ open: Decimal })),
  person: Person,
  /** What is on no statement yet, latest first; how many lines there are and what they come to. */
  open: z.array(EarningShown),
  openCount: z.number(),
  openAmount: Decimal,
  statements: z.array(StatementRow),
  /** What was earned month by month, the last twelve. */
  months: z.array(z.object({ month: z.string(), amount: Decimal })),
});

export const commissionOf = read({
  name: 'commissionOf',
  path: '/commission',
  summary:
    'What a sales person earned and is on no statement yet, and their statements: one’s own, or anybody’s for who may.',
  query: z.object({ person: z.coerce.number().int().positive().optional() }),
  out: CommissionSheet,
});

export const StatementSheet = StatementRow.extend({
  version: z.number(),
  reason: z.string(),
  currency: z.string(),
  lines: z.array(EarningShown),
  /** May keep it, not only see it. */
  all: z.boolean(),
});

export const openStatement = read({
  name: 'openStatement',
  path: '/commission/statements/:id',
  summary: 'One commission statement with its lines.',
  params: IdParam,
  out: StatementSheet,
});

export const countCommission = act({
  name: 'countCommission',
  summary: 'Reckon what sales persons earned of invoices that changed, or of all since a day.',
  input: z.object({ since: TypedDay }),
  preview: z.object({ earnings: z.number(), amount: Decimal }),
});

export const makeStatement = act({
  name: 'makeStatement',
  summary: 'Put what a sales person earned up to a day on a statement, and post it.',
  input: z.object({ personId: Id, until: Day }),
  preview: z.object({ amount: Decimal, lines: z.number() }),
});

export const payStatement = act({
  name: 'payStatement',
  summary: 'Pay a commission statement, once.',
  input: z.object({ id: Id, version: z.number().int() }),
  preview: z.object({ amount: Decimal }),
});

export const takeBackStatement = act({
  name: 'takeBackStatement',
  summary: 'Take back a commission statement that is not paid; what is on it can be on another.',
  input: z.object({ id: Id, version: z.number().int(), reason: Text(200) }),
  preview: z.object({}),
});
