import * as z from 'zod';
import { PROMOTION_KINDS, PROMOTION_STATES } from '@core/promotions';
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

const State = z.enum(PROMOTION_STATES);
const Kind = z.enum(PROMOTION_KINDS);
const Named = z.object({ id: Id, name: z.string() });

export const PromotionLineShown = z.object({
  id: Id,
  lineNo: z.number(),
  /** An item, a group, or neither for everything. */
  item: ItemRef.nullable(),
  group: Named.nullable(),
  kind: Kind,
  value: Decimal,
  from: Decimal,
  buy: Decimal,
  free: Decimal,
  freeItem: ItemRef.nullable(),
  /** How many of it orders have, in the item's own unit, and what that is worth in the company's currency. */
  given: Decimal,
  worth: Decimal,
});

/** What a promotion brought with one customer. */
export const PromotionBrought = z.object({
  customer: Party,
  orders: z.number(),
  /** Ordered at its prices, net, and what it gave, in the company's currency; of both what is invoiced. */
  net: Decimal,
  gave: Decimal,
  netInvoiced: Decimal,
  gaveInvoiced: Decimal,
});

export const PromotionSheet = z.object({
  document: DocumentRef,
  version: z.number(),
  state: State,
  reason: z.string(),
  name: z.string(),
  customer: Party.nullable(),
  priceGroup: Named.nullable(),
  firstDay: Day,
  lastDay: Day,
  currency: z.string(),
  budget: Decimal.nullable(),
  used: Decimal,
  lines: z.array(PromotionLineShown),
  brought: z.array(PromotionBrought),
  /** Orders that have something of it, newest first, and how many there are. */
  orders: z.array(z.object({ document: DocumentRef, customer: Party, day: Day, state: z.string(), gave: Decimal })),
  orderCount: z.number(),
});

export const openPromotion = read({
  name: 'openPromotion',
  path: '/promotions/:id',
  summary: 'One promotion: what it gives, what its budget has left, and what it brought by customer.',
  needs: 'see-agreements',
  params: IdParam,
  out: PromotionSheet,
});

export const PromotionRow = z.object({
  document: DocumentRef,
  name: z.string(),
  state: z.enum(['to come', 'running', 'over', 'stopped', 'used up']),
  who: z.string(),
  what: z.string(),
  firstDay: Day,
  lastDay: Day,
  budget: Decimal.nullable(),
  used: Decimal,
  currency: z.string(),
});

export const listPromotions = read({
  name: 'listPromotions',
  path: '/promotions',
  summary: 'Promotions, newest first.',
  needs: 'see-agreements',
  query: ListQuery.extend({ state: z.enum(['running', 'to come', 'over', 'stopped']).optional() }),
  out: page(PromotionRow),
});

export const promotionChoices = read({
  name: 'promotionChoices',
  path: '/promotion-choices',
  summary: 'Price groups and item groups a promotion may be for.',
  needs: 'see-agreements',
  out: z.object({ priceGroups: z.array(Named), itemGroups: z.array(Named) }),
});

export const savePromotion = act({
  name: 'savePromotion',
  summary: 'Make or change a promotion: its days, who and what it is for, what it gives and may cost.',
  input: z.object({
    id: Id.nullable(),
    version: z.number().int().nullable(),
    name: Text(120),
    customerId: Id.nullable(),
    priceGroupId: Id.nullable(),
    firstDay: TypedDay,
    lastDay: TypedDay,
    budget: TypedDecimal,
    lines: namedOnce(
      z
        .array(
          z.object({
            id: Id.nullable(),
            itemId: Id.nullable(),
            groupId: Id.nullable(),
            kind: Text(10),
            value: TypedDecimal,
            from: TypedDecimal,
            buy: TypedDecimal,
            free: TypedDecimal,
            freeItemId: Id.nullable(),
          }),
        )
        .max(100),
      'id',
    ),
  }),
  preview: z.object({ lines: z.number() }),
});

export const setPromotion = act({
  name: 'setPromotion',
  summary: 'Stop a promotion with why, or let it go on.',
  input: z.object({ id: Id, version: z.number().int(), state: State, reason: Text(200) }),
  preview: z.object({ state: State }),
});
