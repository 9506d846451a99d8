import * as z from 'zod';
import { AGREEMENT_STATES, LIMIT_POLICIES, PRICE_KINDS, WRAP_UPS } from '@core/agreements';
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
  title: z.string(),
  customer: Party,
  currency: z.string(),
  firstDay: Day,
  lastDay: Day,
  values: Values,
});

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
});

export const AgreementLine = z.object({
  id: Id,
  lineNo: z.number(),
  item: ItemRef,
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
  invoiced: Decimal,
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
  referenceRequired: z.boolean(),
  shipTos: z.array(Address),
  lines: z.array(AgreementLine),
  documents: z.array(RelatedDocument),
});

export const listAgreements = read({
  name: 'listAgreements',
  path: '/agreements',
  summary: 'Agreements, newest first.',
  query: ListQuery.extend({ state: State.optional() }),
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
  customerId: Id.nullable(),
  title: Text(120),
  firstDay: TypedDay,
  lastDay: TypedDay,
  signedOn: TypedDay,
  limitPolicy: z.enum(LIMIT_POLICIES),
  tolerancePercent: TypedDecimal,
  probabilityPercent: TypedDecimal,
  priority: z.string().max(10),
  notes: Text(2000),
  lines: z
    .array(
      Price.extend({
        itemId: Id.nullable(),
        committed: TypedDecimal,
        leastRelease: TypedDecimal,
        releaseMultiple: TypedDecimal,
        notes: Text(400),
      }),
    )
    .max(500),
});

export const saveAgreement = act({
  name: 'saveAgreement',
  summary: 'Make a draft agreement, or change one.',
  input: Terms.extend({ id: Id.nullable(), version: z.number().int().nullable() }),
  shown: z.object({ currency: z.string() }),
});

export const putInForce = act({
  name: 'putInForce',
  summary: 'Put a draft agreement in force.',
  input: z.object({ id: Id, version: z.number().int() }),
  shown: z.object({ state: State }),
});

export const releaseAgreement = act({
  name: 'releaseAgreement',
  summary: 'Release part of an agreement as a sales order.',
  input: z.object({
    agreementId: Id,
    shipToId: Id.nullable(),
    customerReference: Text(60),
    lines: z.array(z.object({ agreementLineId: Id, quantity: TypedDecimal, shipDate: TypedDay })).max(500),
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
      }),
    ),
    /** What is left on each agreement line after the release; below zero above the limit. */
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
  }),
  shown: z.object({
    state: State,
    lastDay: Day,
    left: z.array(z.object({ agreementLineId: Id, item: z.string(), quantity: Decimal })),
    openOrders: z.array(DocumentRef),
    owed: Decimal,
    renewal: z.object({ firstDay: Day, lastDay: Day, value: Decimal, currency: z.string() }).nullable(),
  }),
});
