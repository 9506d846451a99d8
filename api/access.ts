import * as z from 'zod';
import { SECOND_KINDS } from '@core/access';
import { Id, namedOnce, post, read, Text, act, TypedDay } from './kit';

export const RIGHTS = [
  'agreements',
  'orders',
  'purchases',
  'goods',
  'customer-invoices',
  'vendor-invoices',
  'payments',
  /** Keeping orders at the counter, selling at the till, drawers. // C1 */
  'counter',
  /** Letting orders pass over a credit limit. // S4 */
  'credit',
  /** Sending documents to parties. */
  'send',
  /** Keeping the lists of prices, items, customers and vendors. */
  'lists',
  /** Accepting promises that plan production and purchases, and the planning run. // T8 T11 */
  'plan',
  /** Keeping promotions. // S13 */
  'promotions',
  /** Seeing what all sales persons earn, and keeping their rates and statements. // S12 */
  'commission',
  /** Reporting what is made: components used, work done, what came of it. // W3 */
  'work',
  /** Closing months, and opening them again. // P9 */
  'periods',
  /** Looking after Kampong itself: its checks, its copies, who came and went. */
  'upkeep',
  /** Inviting people, their roles and rights, tokens of programs. // U4 */
  'people',
  /** Making further companies in the installation. // U1 */
  'companies',
  /** Taking lists and all of a company's data along as files. // U5 */
  'export',
  /** Approving what others asked for, of what one may do oneself. // G7 */
  'approve',
  /** Seeing what things cost us: journals, stock entries, what moved. // G7 */
  'see-costs',
  /** Seeing what is owed, by whom and to whom: invoices, balances, credit notes, prepayments. */
  'see-debts',
  /** Seeing agreements and how they are fulfilled. */
  'see-agreements',
  /** Seeing what was sent, and what waits to be. */
  'see-mail',
  /** Sending to addresses that are none of the party's own. */
  'write-to-others',
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
  /** There are other companies in the installation, whether one works in them or not. */
  sisters: z.boolean(),
  /** Goes back in the `X-Kampong-Token` header of every post. */
  token: z.string(),
});

export const signIn = post({
  name: 'signIn',
  path: '/sign-in',
  summary: 'Sign in with name and password.',
  open: true,
  body: z.object({
    signIn: Text(60),
    password: Text(250),
    /** Six digits, where the person has a second factor. (RFC 6238) */
    code: Text(10).default(''),
  }),
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
    /** Who is signed in to this company now, who was seen last first. */
    here: z.array(z.object({ person: z.string(), since: z.string(), seen: z.string(), windows: z.number() })),
    /** What whoever runs Kampong should look at today. */
    attention: z.array(
      z.object({
        what: z.enum(['differs', 'not-checked', 'not-copied', 'files', 'invitations', 'tokens', 'rates']),
        count: z.number(),
        /** The day it began, or is over. */
        day: z.string().nullable(),
      }),
    ),
    /** What the database holds, as it estimates it: all of it, and its largest tables. */
    storage: z.object({
      bytes: z.number(),
      tables: z.array(z.object({ name: z.string(), rows: z.number(), bytes: z.number() })),
    }),
    versions: z.object({ node: z.string(), database: z.string(), migration: z.string() }),
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

/** What waits for a second person. // G7 */
export const openAsked = read({
  name: 'openAsked',
  path: '/asked',
  summary: 'What waits for your approval, what you wait for, what was returned to you; and what needs a second person.',
  out: z.object({
    kinds: z.array(z.enum(SECOND_KINDS)),
    rows: z.array(
      z.object({
        id: Id,
        /** What it would do. */
        words: z.string(),
        person: z.string(),
        askedAt: z.string(),
        state: z.enum(['waiting', 'approved', 'returned', 'withdrawn']),
        decider: z.string(),
        decidedAt: z.string().nullable(),
        word: z.string(),
        mine: z.boolean(),
        mayApprove: z.boolean(),
      }),
    ),
  }),
});

export const approveAsked = act({
  name: 'approveAsked',
  summary: 'Approve what another person asked for: it is done as it is now.',
  input: z.object({ id: Id }),
  preview: z.object({ words: z.string() }),
});

export const returnAsked = act({
  name: 'returnAsked',
  summary: 'Return what another person asked for, with why; or take back what you asked for.',
  input: z.object({ id: Id, word: Text(200) }),
  preview: z.object({ words: z.string(), state: z.string() }),
});

export const keepSecondPerson = act({
  name: 'keepSecondPerson',
  summary: 'Say what needs a second person; ending that needs one itself.',
  input: z.object({ kinds: namedOnce(z.array(z.enum(SECOND_KINDS)).max(SECOND_KINDS.length)) }),
  preview: z.object({ kinds: z.array(z.enum(SECOND_KINDS)) }),
});

export const moveWorkDate = act({
  name: 'moveWorkDate',
  summary: 'Move the work date of a demo company.',
  input: z.object({ workDate: TypedDay }),
  preview: z.object({ workDate: z.string() }),
});

const RoleOut = z.object({ id: Id, name: z.string(), rights: z.array(Right), people: z.number() });

/** Who works in the company, in which role, and who may come. // U4 */
export const openPeople = read({
  name: 'openPeople',
  path: '/company-people',
  needs: 'people',
  summary: 'Who works in the company, roles and their rights, open invitations, tokens of programs.',
  out: z.object({
    people: z.array(
      z.object({
        id: Id,
        name: z.string(),
        signIn: z.string(),
        roleId: Id,
        outOfUse: z.boolean(),
        secondFactor: z.boolean(),
        seenAt: z.string().nullable(),
      }),
    ),
    roles: z.array(RoleOut),
    invitations: z.array(
      z.object({ id: Id, name: z.string(), roleId: Id, by: z.string(), expiresAt: z.string(), over: z.boolean() }),
    ),
    tokens: z.array(
      z.object({
        id: Id,
        name: z.string(),
        rights: z.array(Right),
        lastDay: z.string(),
        by: z.string(),
        usedAt: z.string().nullable(),
        ended: z.boolean(),
      }),
    ),
  }),
});

/** SHA-256 of a word in hex: the word itself never comes here. */
const TokenHash = Text(64);
const Rights = namedOnce(z.array(Right).max(RIGHTS.length));

export const invitePerson = act({
  name: 'invitePerson',
  summary: 'Invite somebody by a link; its word is made where one invites, and only its hash is sent.',
  input: z.object({ name: Text(200), roleId: Id, days: z.number().int(), tokenHash: TokenHash }),
  preview: z.object({ name: z.string() }),
});

export const withdrawInvitation = act({
  name: 'withdrawInvitation',
  summary: 'Withdraw an invitation nobody came by.',
  input: z.object({ id: Id }),
  preview: z.object({ name: z.string() }),
});

export const changePerson = act({
  name: 'changePerson',
  summary: 'Give somebody another role, put them out of use at once, or take them back.',
  input: z.object({ personId: Id, roleId: Id, outOfUse: z.boolean() }),
  preview: z.object({ name: z.string() }),
});

export const keepRole = act({
  name: 'keepRole',
  summary: 'Make a role, or say what its people may do.',
  input: z.object({ id: Id.nullable(), name: Text(100), rights: Rights }),
  preview: z.object({ name: z.string() }),
});

export const makeToken = act({
  name: 'makeToken',
  summary: 'Make a token for a program; the token is made where one asks for it, and only its hash is sent.',
  input: z.object({ name: Text(100), rights: Rights, lastDay: TypedDay, tokenHash: TokenHash }),
  preview: z.object({ name: z.string() }),
});

export const endToken = act({
  name: 'endToken',
  summary: 'End a token of a program at once.',
  input: z.object({ id: Id }),
  preview: z.object({ name: z.string() }),
});

export const lookAtInvitation = post({
  name: 'lookAtInvitation',
  path: '/invited',
  summary: 'What a link invites to.',
  open: true,
  body: z.object({ token: Text(100) }),
  out: z.object({ company: z.string(), role: z.string(), name: z.string() }),
});

export const join = post({
  name: 'join',
  path: '/join',
  summary: 'Come by an invitation: as somebody new, or as who one is in another company of the installation.',
  open: true,
  body: z.object({
    token: Text(100),
    name: Text(200),
    signIn: Text(100),
    password: Text(250),
    /** Of who is there already and has a second factor. */
    code: Text(10).default(''),
  }),
  out: Session,
});

export const openOwn = read({
  name: 'openOwn',
  path: '/own',
  summary: 'One’s own sessions and second factor.',
  out: z.object({
    secondFactor: z.boolean(),
    sessions: z.array(
      z.object({ mark: z.string(), company: z.string(), begunAt: z.string(), seenAt: z.string(), this: z.boolean() }),
    ),
  }),
});

export const changePassword = post({
  name: 'changePassword',
  path: '/own/password',
  summary: 'Change one’s own password; every other session of one’s own ends.',
  body: z.object({ now: Text(250), then: Text(250) }),
  out: z.object({ ended: z.number() }),
});

export const endOwnSession = post({
  name: 'endOwnSession',
  path: '/own/sessions',
  summary: 'End another session of one’s own.',
  body: z.object({ mark: Text(8) }),
  out: z.object({ ended: z.number() }),
});

export const beginSecondFactor = post({
  name: 'beginSecondFactor',
  path: '/own/second-factor/begin',
  summary: 'A new secret for time-based codes, to be shown to a telephone; it counts once a code of it was typed.',
  body: z.object({ password: Text(250) }),
  out: z.object({ secret: z.string(), picture: z.string() }),
});

export const keepSecondFactor = post({
  name: 'keepSecondFactor',
  path: '/own/second-factor',
  summary: 'Turn the second factor on with a code of its secret, or off with the password (an empty secret).',
  body: z.object({ password: Text(250), secret: Text(64), code: Text(10) }),
  out: z.object({ secondFactor: z.boolean() }),
});
