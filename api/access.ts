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
  /** Looking after Kampong itself: its checks, its copies, who came and went. */
  'upkeep',
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

/** How Kampong itself is: checks, copies, seals, comings and goings. */
export const openUpkeep = read({
  name: 'openUpkeep',
  path: '/upkeep',
  needs: 'upkeep',
  summary: 'How the last checks and copies went, up to where what is written once is sealed, and who came and went.',
  out: z.object({
    jobs: z.array(
      z.object({ job: z.string(), at: z.string(), seconds: z.string(), well: z.boolean(), found: z.string() }),
    ),
    seals: z.array(z.object({ kind: z.string(), through: z.number(), at: z.string(), hash: z.string() })),
    /** The newest two hundred of this company's people, and of names that were only tried. */
    comings: z.array(
      z.object({
        id: z.number(),
        at: z.string(),
        what: z.string(),
        name: z.string(),
        from: z.string(),
        detail: z.string(),
        /** By what the same session is known. */
        session: z.string(),
      }),
    ),
  }),
});

export const moveWorkDate = act({
  name: 'moveWorkDate',
  summary: 'Move the work date of a demo company.',
  input: z.object({ workDate: TypedDay }),
  preview: z.object({ workDate: z.string() }),
});
