import * as z from 'zod';
import { MOST_LINES, MOST_REFERENCE } from '@core/kernel';
import { BASES, LIMIT_POLICIES, REMINDER_KINDS, REST_PLANS, SIDES, WRAP_UPS } from '@core/agreements';
import {
  act,
  Day,
  Decimal,
  DocumentRef,
  Id,
  IdParam,
  ListQuery,
  namedOnce,
  page,
  Party,
  post,
  read,
  Text,
  TypedDay,
  TypedDecimal,
} from '../kit';
import { State, AgreementRow, Rebate, Reminder, ItemGroup, Price, Progress, AgreementSheet } from './shapes';

export const listAgreements = read({
  name: 'listAgreements',
  needs: 'see-agreements',
  path: '/agreements',
  summary: 'Agreements, newest first.',
  query: ListQuery.extend({
    state: State.optional(),
    side: z.enum(SIDES).optional(),
    /** `passed`: past its last day and not ended; `running`: within its dates. */
    dates: z.enum(['passed', 'running']).optional(),
    /** `used-up`: nothing is left to release. */
    left: z.enum(['used-up', 'some']).optional(),
    customerId: z.coerce.number().int().positive().optional(),
    organisationId: z.coerce.number().int().positive().optional(),
    groupId: z.coerce.number().int().positive().optional(),
    currency: z.string().max(3).optional(),
    /** A column, with `-up` or `-down` behind it where somebody chose: number, last, committed; pace, most behind first. */
    sort: z.string().max(30).optional(),
  }),
  out: page(AgreementRow),
});

export const openAgreement = read({
  name: 'openAgreement',
  needs: 'see-agreements',
  path: '/agreements/:id',
  summary: 'One agreement with its lines, counters and documents.',
  params: IdParam,
  out: AgreementSheet,
});

const Terms = z.object({
  side: z.enum(SIDES),
  basis: z.enum(BASES),
  customerId: Id.nullable(),
  vendorId: Id.nullable(),
  salesOrganisationId: Id.nullable(),
  title: Text(120),
  firstDay: TypedDay,
  lastDay: TypedDay,
  signedOn: TypedDay,
  limitPolicy: z.enum(LIMIT_POLICIES),
  tolerancePercent: TypedDecimal,
  /** A limit on the whole besides the lines: an amount, or a quantity with its unit. // A5 */
  wholeLimit: Text(40).default(''),
  probabilityPercent: TypedDecimal,
  /** How what is left and in no plan counts in planning. // A7 */
  restPlan: z.enum(REST_PLANS).default('spread'),
  /** Goods that are free by a promotion count as called off. // S13 */
  freeGoodsCount: z.boolean().default(false),
  priority: z.string().max(10),
  notes: Text(2000),
  rebate: Rebate,
  reminders: z.array(Reminder).max(20),
  releaseAhead: z.string().max(10),
});

const TermsLine = Price.extend({
  itemId: Id.nullable(),
  groupId: Id.nullable(),
  committed: TypedDecimal,
  leastRelease: TypedDecimal,
  releaseMultiple: TypedDecimal,
  notes: Text(400),
});

export const saveAgreement = act({
  name: 'saveAgreement',
  summary: 'Make a draft agreement, or change one.',
  input: Terms.extend({
    id: Id.nullable(),
    version: z.number().int().nullable(),
    lines: z.array(TermsLine).max(MOST_LINES),
  }),
  preview: z.object({ currency: z.string() }),
});

export const reviseAgreement = act({
  name: 'reviseAgreement',
  summary: 'Change the terms of an approved agreement as a numbered revision.',
  input: Terms.extend({
    id: Id,
    version: z.number().int(),
    reason: Text(200),
    /** Price open, unshipped order lines anew by the new terms. */
    reprice: z.boolean(),
    lines: namedOnce(z.array(TermsLine.extend({ id: Id.nullable() })).max(MOST_LINES), 'id'),
  }),
  preview: z.object({
    changes: z.array(z.object({ what: z.string(), was: z.string(), is: z.string() })),
    /** Open lines the new terms would price otherwise. */
    repriced: z.array(
      z.object({ order: z.string(), lineNo: z.number(), item: z.string(), was: Decimal, is: Decimal, amount: Decimal }),
    ),
    currency: z.string(),
  }),
});

export const copyAgreement = act({
  name: 'copyAgreement',
  summary: 'Copy an agreement into a new draft.',
  input: z.object({ id: Id }),
  preview: z.object({ lines: z.number() }),
});

export const putInForce = act({
  name: 'putInForce',
  summary: 'Put a draft agreement in force.',
  input: z.object({ id: Id, version: z.number().int() }),
  preview: z.object({ state: State }),
});

export const releaseAgreement = act({
  name: 'releaseAgreement',
  summary: 'Release part of an agreement as a sales order, or as a purchase order where it is with a vendor.',
  input: z.object({
    agreementId: Id,
    shipToId: Id.nullable(),
    customerReference: Text(MOST_REFERENCE),
    lines: z
      .array(
        z.object({
          agreementLineId: Id,
          /** Which item, where the agreement line covers a group or everything. */
          itemId: Id.nullable().optional(),
          quantity: TypedDecimal,
          shipDate: TypedDay,
        }),
      )
      .max(500),
  }),
  preview: z.object({
    net: Decimal,
    lines: z.array(
      z.object({
        /** Null for what goes beyond the limit of an agreement that splits. */
        agreementLineId: Id.nullable(),
        itemId: Id,
        quantity: Decimal,
        unitPrice: Decimal,
        amount: Decimal,
        agreedAmount: Decimal.nullable(),
      }),
    ),
    /** What each asked line costs, in their order. */
    asked: z.array(z.object({ unitPrice: Decimal.nullable(), amount: Decimal.nullable() })),
    /** What is left on each agreement line after the release, in units or in value; below zero above the limit. */
    left: z.array(z.object({ agreementLineId: Id, left: Decimal })),
    /** What is left on the whole after it, in a unit, or (empty) in the agreement's currency; null without such a limit. // A5 */
    whole: z.object({ left: Decimal, unit: z.string() }).nullable(),
  }),
});

export const openProgress = read({
  name: 'openProgress',
  needs: 'see-agreements',
  path: '/agreement-lines/:id/progress',
  summary: 'How one agreement line stands, and its forecast to the last day.',
  params: IdParam,
  out: Progress,
});

export const savePlan = act({
  name: 'savePlan',
  summary: 'Replace the call-off plan of agreement lines.',
  input: z.object({
    id: Id,
    version: z.number().int(),
    /** Where planned calls go when they release themselves, and the reference they carry. */
    shipToId: Id.nullable().optional(),
    customerReference: Text(MOST_REFERENCE).optional(),
    lines: namedOnce(
      z
        .array(
          z.object({
            agreementLineId: Id,
            calls: z
              .array(
                z.object({ day: TypedDay, quantity: TypedDecimal, skipped: z.boolean(), rule: z.string().max(200) }),
              )
              .max(600),
          }),
        )
        .max(500),
      'agreementLineId',
    ),
  }),
  preview: z.object({ lines: z.array(z.object({ agreementLineId: Id, planned: Decimal })) }),
});

export const pauseAgreement = act({
  name: 'pauseAgreement',
  summary: 'Pause an agreement in force, or let a paused one go on.',
  input: z.object({ id: Id, version: z.number().int(), pause: z.boolean() }),
  preview: z.object({ state: State }),
});

export const cancelAgreement = act({
  name: 'cancelAgreement',
  summary: 'Cancel a draft agreement.',
  input: z.object({ id: Id, version: z.number().int() }),
  preview: z.object({ state: State }),
});

export const wrapUpAgreement = act({
  name: 'wrapUpAgreement',
  summary: 'End an agreement with what is decided about its remainder, or move its end.',
  input: z.object({
    id: Id,
    version: z.number().int(),
    decision: z.enum(WRAP_UPS),
    lastDay: TypedDay,
    carry: z.boolean(),
    /** What becomes of prepayments that are left: paid back, or carried to the renewal. */
    prepayments: z.enum(['return', 'carry']).optional(),
  }),
  preview: z.object({
    state: State,
    lastDay: Day,
    left: z.array(z.object({ agreementLineId: Id, item: z.string(), quantity: Decimal })),
    openOrders: z.array(DocumentRef),
    owed: Decimal,
    /** Rebate accrued and not settled. */
    rebate: Decimal,
    /** Prepayments left. */
    prepaid: Decimal,
    /** What would be charged for what is left. */
    shortfall: Decimal,
    renewal: z.object({ firstDay: Day, lastDay: Day, value: Decimal, currency: z.string() }).nullable(),
  }),
});

export const releasePlanned = act({
  name: 'releasePlanned',
  summary: 'Release the planned calls of an agreement that are due by a day, each once.',
  input: z.object({ agreementId: Id, upTo: TypedDay }),
  preview: z.object({
    net: Decimal,
    lines: z.array(z.object({ item: z.string(), day: Day, quantity: Decimal, amount: Decimal })),
  }),
});

export const handleReminder = act({
  name: 'handleReminder',
  summary: 'A fired reminder was seen to.',
  input: z.object({ agreementId: Id, kind: z.enum(REMINDER_KINDS), at: z.string().max(20) }),
  preview: z.object({ reminder: z.string() }),
});

export const fireReminders = act({
  name: 'fireReminders',
  summary: 'Fire every reminder whose moment has come, each once; the clock does it too.',
  input: z.object({}),
  preview: z.object({ fired: z.number() }),
});

export const settleRebate = act({
  name: 'settleRebate',
  summary: 'Settle the accrued rebate of an agreement into a credit note.',
  input: z.object({ agreementId: Id }),
  preview: z.object({
    amount: Decimal,
    currency: z.string(),
    setOff: z.array(z.object({ invoice: z.string(), amount: Decimal })),
  }),
});

export const claimRebate = act({
  name: 'claimRebate',
  summary: 'Claim back what was settled of a rebate beyond what is accrued now, by an invoice of its own.',
  input: z.object({ agreementId: Id }),
  preview: z.object({ amount: Decimal, currency: z.string(), dueDate: Day }),
});

export const takePrepayment = act({
  name: 'takePrepayment',
  summary: 'Take money ahead against an agreement or one of its lines.',
  input: z.object({ agreementId: Id, agreementLineId: Id.nullable(), amount: TypedDecimal, takenOn: TypedDay }),
  preview: z.object({
    amount: Decimal,
    currency: z.string(),
    own: z.object({ currency: z.string(), rate: Decimal, amount: Decimal }).nullable(),
  }),
});

/** An agreement line that could price an item for a party. // A13 */
export const PriceOffer = z.object({
  agreementLineId: Id,
  agreement: DocumentRef,
  basis: z.enum(BASES),
  title: z.string(),
  lastDay: Day,
  ...Price.shape,
  /** Left in units or in value. */
  left: Decimal,
  unitPrice: Decimal,
});

export const findOffers = post({
  name: 'findOffers',
  path: '/price-offers',
  summary: 'For each line, the agreements that could price its item for a customer or from a vendor, best first.',
  body: z.object({
    customerId: Id.optional(),
    vendorId: Id.optional(),
    lines: z
      .array(z.object({ itemId: Id, quantity: z.string().max(40).default('1'), shipDate: Day.optional() }))
      .max(500),
  }),
  out: z.object({ lines: z.array(z.object({ listPrice: Decimal, offers: z.array(PriceOffer) })) }),
});

export const itemGroups = read({
  name: 'itemGroups',
  path: '/item-groups',
  summary: 'Item groups and sales organisations, for choices.',
  out: z.object({ groups: z.array(ItemGroup), organisations: z.array(Party) }),
});

export const renewCalendar = post({
  name: 'renewCalendar',
  path: '/calendar',
  summary: 'A new private address of the calendar feed with reminders and last days; the one before stops working.',
  body: z.object({}),
  out: z.object({ path: z.string() }),
});

export const tellTakenBefore = act({
  name: 'tellTakenBefore',
  summary: 'Say what was taken of agreements before they came here; the same again changes nothing.',
  input: z.object({
    /** Two lines may name an agreement: each is about another line of it. */
    lines: z
      .array(
        z.object({
          /** By its number. */
          agreement: Text(40),
          /** By its number, of a group by its code; empty for the agreement's only line. */
          item: Text(40),
          quantity: TypedDecimal,
          /** What that came to; at the line's price where it is empty. */
          value: TypedDecimal,
        }),
      )
      .max(500),
  }),
  preview: z.object({ lines: z.number(), same: z.number() }),
});
