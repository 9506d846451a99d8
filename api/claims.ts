import * as z from 'zod';
import { SUPPORT_STATES } from '@core/claims';
import {
  act,
  Day,
  Decimal,
  DocumentRef,
  Id,
  IdParam,
  ItemRef,
  ListQuery,
  namedOnce,
  page,
  Party,
  read,
  Text,
  TypedDay,
  TypedDecimal,
} from './kit';

const State = z.enum(SUPPORT_STATES);
const Named = z.object({ id: Id, name: z.string() });

export const SupportSheet = z.object({
  document: DocumentRef,
  version: z.number(),
  state: State,
  reason: z.string(),
  name: z.string(),
  vendor: Party,
  customer: Party.nullable(),
  priceGroup: Named.nullable(),
  promotion: DocumentRef.nullable(),
  firstDay: Day,
  lastDay: Day,
  currency: z.string(),
  lines: z.array(
    z.object({
      id: Id,
      lineNo: z.number(),
      item: ItemRef.nullable(),
      group: Named.nullable(),
      perUnit: Decimal,
      /** Sold by it, in the item's own unit, what that is worth, and what of it is claimed. */
      sold: Decimal,
      accrued: Decimal,
      claimed: Decimal,
    }),
  ),
});

export const openSupport = read({
  name: 'openSupport',
  path: '/support/:id',
  summary: 'What a vendor promised us for what we sell, and what was sold by it.',
  needs: 'see-costs',
  params: IdParam,
  out: SupportSheet,
});

const SupportRow = z.object({
  document: DocumentRef,
  name: z.string(),
  vendor: Party,
  state: z.enum(['to come', 'running', 'over', 'stopped']),
  what: z.string(),
  firstDay: Day,
  lastDay: Day,
  accrued: Decimal,
  /** Accrued and on no claim yet. */
  open: Decimal,
  currency: z.string(),
});

export const listSupport = read({
  name: 'listSupport',
  path: '/support',
  summary: 'Support by vendors, newest first.',
  needs: 'see-costs',
  query: ListQuery.extend({ vendor: z.coerce.number().int().positive().optional() }),
  out: page(SupportRow),
});

export const ClaimSheet = z.object({
  document: DocumentRef,
  version: z.number(),
  vendor: Party,
  currency: z.string(),
  until: Day,
  madeOn: Day,
  amount: Decimal,
  settled: Decimal,
  withdrawn: z.boolean(),
  reason: z.string(),
  lines: z.array(
    z.object({
      id: Id,
      day: Day,
      support: DocumentRef,
      invoice: DocumentRef,
      customer: Party,
      item: ItemRef,
      quantity: Decimal,
      perUnit: Decimal,
      amount: Decimal,
    }),
  ),
  moves: z.array(
    z.object({
      kind: z.enum(['invoice', 'paid', 'lost']),
      day: Day,
      amount: Decimal,
      invoice: DocumentRef.nullable(),
      reason: z.string(),
    }),
  ),
  /** Invoices of the vendor it can be settled against. */
  owed: z.array(
    z.object({ openItemId: Id, invoice: DocumentRef, vendorNumber: z.string(), dueDate: Day, owed: Decimal }),
  ),
});

export const openClaim = read({
  name: 'openClaim',
  path: '/claims/:id',
  summary: 'One claim on a vendor: its lines, what became of it, and the invoices it can be settled against.',
  needs: 'see-costs',
  params: IdParam,
  out: ClaimSheet,
});

const ClaimRow = z.object({
  document: DocumentRef,
  vendor: Party,
  until: Day,
  madeOn: Day,
  amount: Decimal,
  settled: Decimal,
  state: z.enum(['open', 'settled', 'withdrawn']),
  currency: z.string(),
});

export const listClaims = read({
  name: 'listClaims',
  path: '/claims',
  summary: 'Claims on vendors, newest first.',
  needs: 'see-costs',
  query: ListQuery.extend({ state: z.enum(['open', 'settled', 'withdrawn']).optional() }),
  out: page(ClaimRow),
});

export const claimable = read({
  name: 'claimable',
  path: '/claimable',
  summary: 'What vendors owe us by support and is on no claim yet, vendor by vendor.',
  needs: 'see-costs',
  out: z.object({
    currency: z.string(),
    rows: z.array(z.object({ vendor: Party, amount: Decimal, lines: z.number() })),
  }),
});

export const saveSupport = act({
  name: 'saveSupport',
  summary: 'Keep what a vendor promised us for what we sell.',
  input: z.object({
    id: Id.nullable(),
    version: z.number().int().nullable(),
    name: Text(120),
    vendorId: Id.nullable(),
    customerId: Id.nullable(),
    priceGroupId: Id.nullable(),
    promotionId: Id.nullable(),
    firstDay: TypedDay,
    lastDay: TypedDay,
    lines: namedOnce(
      z
        .array(z.object({ id: Id.nullable(), itemId: Id.nullable(), groupId: Id.nullable(), perUnit: TypedDecimal }))
        .max(100),
      'id',
    ),
  }),
  preview: z.object({ lines: z.number() }),
});

export const setSupport = act({
  name: 'setSupport',
  summary: 'Stop a support with why, or let it go on; what was accrued stays.',
  input: z.object({ id: Id, version: z.number().int(), state: State, reason: Text(200) }),
  preview: z.object({ state: State }),
});

export const countSupport = act({
  name: 'countSupport',
  summary: 'Accrue what vendors owe us for invoices that changed.',
  input: z.object({}),
  preview: z.object({ accruals: z.number() }),
});

export const makeClaim = act({
  name: 'makeClaim',
  summary: 'Claim of a vendor what was accrued up to a day.',
  input: z.object({ vendorId: Id, until: Day }),
  preview: z.object({ amount: Decimal, lines: z.number() }),
});

export const settleClaim = act({
  name: 'settleClaim',
  summary: 'Settle a claim against an invoice of its vendor; all that is open of both where no amount is typed.',
  input: z.object({ id: Id, version: z.number().int(), openItemId: Id.nullable(), amount: TypedDecimal }),
  preview: z.object({ amount: Decimal }),
});

export const receiveClaim = act({
  name: 'receiveClaim',
  summary: 'A vendor pays a claim into the bank; all that is open where no amount is typed.',
  input: z.object({ id: Id, version: z.number().int(), amount: TypedDecimal }),
  preview: z.object({ amount: Decimal }),
});

export const loseClaim = act({
  name: 'loseClaim',
  summary: 'Give up what is left of a claim, with why.',
  input: z.object({ id: Id, version: z.number().int(), reason: Text(200) }),
  preview: z.object({ amount: Decimal }),
});

export const withdrawClaim = act({
  name: 'withdrawClaim',
  summary: 'Withdraw a claim nothing was settled of; what is on it can be claimed again.',
  input: z.object({ id: Id, version: z.number().int(), reason: Text(200) }),
  preview: z.object({}),
});
