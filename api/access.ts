import * as z from 'zod';
import { Id, post, read, Text, act, TypedDay } from './kit';

export const RIGHTS = [
  'agreements',
  'orders',
  'purchases',
  'goods',
  'customer-invoices',
  'vendor-invoices',
  'payments',
  /** Letting orders pass over a credit limit. // S4 */
  'credit',
  /** Sending documents to parties. */
  'send',
  /** Keeping the lists of prices, items, customers and vendors. */
  'lists',
  /** Accepting promises that plan production and purchases, and the planning run. // T8 T11 */
  'plan',
  /** Closing months, and opening them again. // P9 */
  'periods',
  'work-date',
] as const;
export const Right = z.enum(RIGHTS);
export type Right = z.infer<typeof Right>;

const Company = z.object({
  id: Id,
  code: z.string(),
  name: z.string(),
  currency: z.string(),
  tint: z.string(),
});

export const Session = z.object({
  person: z.object({ id: Id, name: z.string() }),
  company: Company,
  companies: z.array(Company),
  role: z.string(),
  rights: z.array(Right),
  workDate: z.string(),
  /** The work date can be moved: a demo company. */
  demo: z.boolean(),
  /** Goes back in the `X-Kampong-Token` header of every post. */
  token: z.string(),
});

export const signIn = post({
  name: 'signIn',
  path: '/sign-in',
  summary: 'Sign in with name and password.',
  open: true,
  body: z.object({ signIn: Text(60), password: Text(200) }),
  out: Session,
});

export const signOut = post({
  name: 'signOut',
  path: '/sign-out',
  summary: 'End this session.',
  body: z.object({}),
  out: z.object({}),
});

export const session = read({
  name: 'session',
  path: '/session',
  summary: 'Who is signed in, for which company, with which rights.',
  open: true,
  out: z.object({ session: Session.nullable() }),
});

export const chooseCompany = post({
  name: 'chooseCompany',
  path: '/company',
  summary: 'Work in another company one has a role in.',
  body: z.object({ companyId: Id }),
  out: Session,
});

export const moveWorkDate = act({
  name: 'moveWorkDate',
  summary: 'Move the work date of a demo company.',
  input: z.object({ workDate: TypedDay }),
  preview: z.object({ workDate: z.string() }),
});
