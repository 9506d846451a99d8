import * as z from 'zod';
import {
  AGREEMENT_STATES,
  BASES,
  LIMIT_POLICIES,
  PRICE_KINDS,
  REBATE_BASES,
  REBATE_KINDS,
  REMINDER_KINDS,
  SIDES,
  WRAP_UPS,
} from '@core/agreements';
import {
  act,
  Day,
  Decimal,
  DocumentRef,
  Id,
  IdParam,
  ItemRef,
  ListQuery,
  page,
  Party,
  post,
  read,
  Text,
  TypedDay,
  TypedDecimal,
  Address,
} from './kit';

const State = z.enum(AGREEMENT_STATES);

const Values = z.object({
  committed: Decimal,
  released: Decimal,
  shipped: Decimal,
  invoiced: Decimal,
});

export const AgreementRow = z.object({
  id: Id,
  number: z.string(),
  state: State,
  side: z.enum(SIDES),
  basis: z.enum(BASES),
  title: z.string(),
  /** The customer of a selling agreement, the vendor of a buying one. */
  party: Party,
  currency: z.string(),
  firstDay: Day,
  lastDay: Day,
  values: Values,
  /** Everything committed is released: nothing is left to release. */
  usedUp: z.boolean(),
});

/** Rebate tiers as typed: what they start from, and the rate reached there. // A10 */
const Rebate = z.object({
  kind: z.enum(REBATE_KINDS),
  by: z.enum(REBATE_BASES),
  tiers: z.array(z.object({ from: z.string().max(40), rate: z.string().max(40) })).max(20),
});

const Reminder = z.object({ kind: z.enum(REMINDER_KINDS), at: z.string().max(20) });

export const ItemGroup = z.object({ id: Id, code: z.string(), name: z.string() });

/** A price as agreed: its kind, the unit price or the discount in per cent, and what holds from a quantity on. */
const Price = z.object({
  priceKind: z.enum(PRICE_KINDS),
  priceValue: z.string().max(40),
  breaks: z.array(z.object({ from: z.string().max(40), value: z.string().max(40) })).max(20),
});

/** An expected release of one line on one day, with what no real release has used up. // A7 */
export const Call = z.object({
  day: Day,
  quantity: Decimal,
  skipped: z.boolean(),
  /** The recurrence it came from (RFC 5545), empty where its date was typed. */
  rule: z.string(),
  rest: Decimal,
  /** The order or purchase it was made into. */
  made: DocumentRef.nullable(),
});

export const AgreementLine = z.object({
  id: Id,
  lineNo: z.number(),
  /** Null where the line covers a group or everything. */
  item: ItemRef.nullable(),
  group: ItemGroup.nullable(),
  listPrice: Decimal,
  ...Price.shape,
  /** What one unit costs below the first price break. */
  unitPrice: Decimal,
  leastRelease: Decimal,
  releaseMultiple: Decimal,
  notes: z.string(),
  committed: Decimal,
  committedValue: Decimal,
  released: Decimal,
  releasedValue: Decimal,
  shipped: Decimal,
  shippedValue: Decimal,
  invoiced: Decimal,
  invoicedValue: Decimal,
  calls: z.array(Call),
});

const Point = z.object({ day: Day, quantity: Decimal });

export const Progress = z.object({
  committed: Decimal,
  firstDay: Day,
  lastDay: Day,
  shipped: Decimal,
  /** Released and not shipped. */
  open: Decimal,
  /** Planned and not released. */
  planned: Decimal,
  /** Shipped a day, over the last 90 days. */
  rate: Decimal,
  /** Cumulative, from the first day to the work date. */
  past: z.array(Point),
  /** Cumulative, from the work date to the last day. */
  coming: z.array(Point),
  atEnd: Decimal,
  remainder: Decimal,
  runOut: Day.nullable(),
  /** Left in value × probability, in the agreement's currency. */
  weightedValue: Decimal,
});

export const RelatedDocument = z.object({
  document: DocumentRef,
  day: Day,
  note: z.string(),
  amount: Decimal.nullable(),
});

export const AgreementSheet = AgreementRow.extend({
  version: z.number(),
  signedOn: Day.nullable(),
  limitPolicy: z.enum(LIMIT_POLICIES),
  tolerancePercent: Decimal,
  probabilityPercent: Decimal,
  priority: z.number(),
  notes: z.string(),
  endedOn: Day.nullable(),
  renewedAs: DocumentRef.nullable(),
  salesOrganisation: Party.nullable(),
  rebate: Rebate,
  /** What the rebate stands at; null without one. */
  rebateNow: z
    .object({
      value: Decimal,
      quantity: Decimal,
      accrued: Decimal,
      settled: Decimal,
      /** The rate reached, and the next tier with what is missing to it. */
      rate: Decimal.nullable(),
      coming: z.object({ from: Decimal, rate: Decimal, missing: Decimal }).nullable(),
    })
    .nullable(),
  reminders: z.array(Reminder.extend({ firedOn: Day.nullable(), handledOn: Day.nullable() })),
  releaseAhead: z.string(),
  planShipToId: Id.nullable(),
  planReference: z.string(),
  prepayments: z.array(
    z.object({
      document: DocumentRef,
      takenOn: Day,
      amount: Decimal,
      left: Decimal,
      /** The line it is held for; null for all. */
      lineNo: z.number().nullable(),
    }),
  ),
  shortfall: z.object({ id: Id, state: z.enum(['draft', 'posted', 'dropped']), net: Decimal }).nullable(),
  revisions: z.array(
    z.object({
      revision: z.number(),
      person: z.string(),
      revisedOn: Day,
      reason: z.string(),
      repriced: z.number(),
      changes: z.array(z.object({ what: z.string(), was: z.string(), is: z.string() })),
    }),
  ),
  referenceRequired: z.boolean(),
  shipTos: z.array(Address),
  lines: z.array(AgreementLine),
  documents: z.array(RelatedDocument),
});

export const listAgreements = read({
  name: 'listAgreements',
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
    sort: z.enum(['newest', 'last-day', 'committed', 'pace']).optional(),
  }),
  out: page(AgreementRow),
});

export const openAgreement = read({
  name: 'openAgreement',
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
  probabilityPercent: TypedDecimal,
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
  input: Terms.extend({ id: Id.nullable(), version: z.number().int().nullable(), lines: z.array(TermsLine).max(500) }),
  shown: z.object({ currency: z.string() }),
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
    lines: z.array(TermsLine.extend({ id: Id.nullable() })).max(500),
  }),
  shown: z.object({
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
  shown: z.object({ lines: z.number() }),
});

export const putInForce = act({
  name: 'putInForce',
  summary: 'Put a draft agreement in force.',
  input: z.object({ id: Id, version: z.number().int() }),
  shown: z.object({ state: State }),
});

export const releaseAgreement = act({
  name: 'releaseAgreement',
  summary: 'Release part of an agreement as a sales order, or as a purchase order where it is with a vendor.',
  input: z.object({
    agreementId: Id,
    shipToId: Id.nullable(),
    customerReference: Text(60),
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
  shown: z.object({
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
    /** What is left on each agreement line after the release, in units or in value; below zero above the limit. */
    left: z.array(z.object({ agreementLineId: Id, left: Decimal })),
  }),
});

export const openProgress = read({
  name: 'openProgress',
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
    customerReference: Text(60).optional(),
    lines: z
      .array(
        z.object({
          agreementLineId: Id,
          calls: z
            .array(z.object({ day: TypedDay, quantity: TypedDecimal, skipped: z.boolean(), rule: z.string().max(200) }))
            .max(600),
        }),
      )
      .max(500),
  }),
  shown: z.object({ lines: z.array(z.object({ agreementLineId: Id, planned: Decimal })) }),
});

export const pauseAgreement = act({
  name: 'pauseAgreement',
  summary: 'Pause an agreement in force, or let a paused one go on.',
  input: z.object({ id: Id, version: z.number().int(), pause: z.boolean() }),
  shown: z.object({ state: State }),
});

export const cancelAgreement = act({
  name: 'cancelAgreement',
  summary: 'Cancel a draft agreement.',
  input: z.object({ id: Id, version: z.number().int() }),
  shown: z.object({ state: State }),
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
  shown: z.object({
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
  shown: z.object({
    net: Decimal,
    lines: z.array(z.object({ item: z.string(), day: Day, quantity: Decimal, amount: Decimal })),
  }),
});

export const handleReminder = act({
  name: 'handleReminder',
  summary: 'A fired reminder was seen to.',
  input: z.object({ agreementId: Id, kind: z.enum(REMINDER_KINDS), at: z.string().max(20) }),
  shown: z.object({ reminder: z.string() }),
});

export const fireReminders = act({
  name: 'fireReminders',
  summary: 'Fire every reminder whose moment has come, each once; the clock does it too.',
  input: z.object({}),
  shown: z.object({ fired: z.number() }),
});

export const settleRebate = act({
  name: 'settleRebate',
  summary: 'Settle the accrued rebate of an agreement into a credit note.',
  input: z.object({ agreementId: Id }),
  shown: z.object({
    amount: Decimal,
    currency: z.string(),
    setOff: z.array(z.object({ invoice: z.string(), amount: Decimal })),
  }),
});

export const takePrepayment = act({
  name: 'takePrepayment',
  summary: 'Take money ahead against an agreement or one of its lines.',
  input: z.object({ agreementId: Id, agreementLineId: Id.nullable(), amount: TypedDecimal, takenOn: TypedDay }),
  shown: z.object({ amount: Decimal, currency: z.string() }),
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
    lines: z.array(z.object({ itemId: Id, quantity: z.string().max(40).default('1') })).max(500),
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
