import * as z from 'zod';
import { Decimal, DocumentRef, Id, read } from './kit';

export const TODAY_KINDS = [
  'agreement-draft',
  'order-draft',
  'message-draft',
  'line-without-supply',
  'plan-to-place',
  'plan-to-begin',
  'work-late',
  'line-moved',
  'component-short',
  'purchase-due',
  'not-arrived',
  'goods-here',
  'to-go-out',
  'line-short',
  'not-invoiced',
  'vendor-not-invoiced',
  'agreement-past',
  'agreement-reminder',
  'shortfall-draft',
  'rebate-owed',
  'rebate-to-claim',
  'call-due',
  'purchase-coming',
  'invoice-owed',
  'offer',
  'offer-returned',
  'offer-to-send',
  'standing-needs',
  'card-hanging',
  'promotion-low',
] as const;

export const TodayRow = z.object({
  band: z.enum(['now', 'coming', 'waiting']),
  kind: z.enum(TODAY_KINDS),
  document: DocumentRef,
  party: z.string(),
  /** How many lines or documents the row stands for, where more than one. */
  count: z.number(),
  day: z.string().nullable(),
  amount: Decimal.nullable(),
  currency: z.string(),
  share: z.number(),
  /** What more there is to say: which reminder fired, what is planned. */
  note: z.string(),
  /** An order line whose thread the dock shows. */
  orderLineId: Id.nullable(),
});
export type TodayRow = z.infer<typeof TodayRow>;

export const today = read({
  name: 'today',
  path: '/today',
  summary: 'What needs a person now, what comes up, what waits for others.',
  out: z.object({ rows: z.array(TodayRow), more: z.number() }),
});
