import * as z from 'zod';
import {
  AGREEMENT_STATES,
  BASES,
  LIMIT_POLICIES,
  REST_PLANS,
  PRICE_KINDS,
  REBATE_BASES,
  REBATE_KINDS,
  REMINDER_KINDS,
  SIDES,
} from '@core/agreements';
import { Day, Decimal, DocumentRef, Id, ItemRef, Party, Address } from '../kit';

export const State = z.enum(AGREEMENT_STATES);

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
export const Rebate = z.object({
  kind: z.enum(REBATE_KINDS),
  by: z.enum(REBATE_BASES),
  tiers: z.array(z.object({ from: z.string().max(40), rate: z.string().max(40) })).max(20),
});

export const Reminder = z.object({ kind: z.enum(REMINDER_KINDS), at: z.string().max(20) });

export const ItemGroup = z.object({ id: Id, code: z.string(), name: z.string() });

/** A price as agreed: its kind, the unit price or the discount in per cent, and what holds from a quantity on. */
export const Price = z.object({
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
  /** Of the amount: the document's, or the company's of what goods cost. // P8 */
  currency: z.string(),
});

export const AgreementSheet = AgreementRow.extend({
  version: z.number(),
  signedOn: Day.nullable(),
  limitPolicy: z.enum(LIMIT_POLICIES),
  tolerancePercent: Decimal,
  /** As it is typed, and what is left under it with the tolerance; empty for none. // A5 */
  wholeLimit: z.string(),
  wholeLeft: z.string(),
  probabilityPercent: Decimal,
  restPlan: z.enum(REST_PLANS),
  freeGoodsCount: z.boolean(),
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
