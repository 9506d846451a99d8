import * as z from 'zod';
import { act, Day, Decimal, Id, IdParam, ItemRef, namedOnce, post, read, Text, TypedDay, TypedDecimal } from '../kit';

export const sisterDays = post({
  name: 'sisterDays',
  path: '/sisters/days',
  summary:
    'From when a sister company could ship what we would buy of her, by what she has and makes and her own working days; nothing of a vendor who is no sister.',
  body: z.object({
    vendorId: Id,
    lines: namedOnce(
      z
        .array(z.object({ key: Text(80), itemId: Id, quantity: TypedDecimal, due: TypedDay }))
        .min(1)
        .max(200),
      'key',
    ),
  }),
  out: z.object({
    sister: z.string(),
    lines: z.array(
      z.object({
        key: z.string(),
        /** Null where she cannot say, or no item of hers is paired with it. */
        first: Day.nullable(),
        late: z.boolean(),
      }),
    ),
  }),
});

/** A line of an order that is bought of a sister company, and what she holds for it. // X4 */
export const HoldRow = z.object({
  lineId: Id,
  lineNo: z.number(),
  item: ItemRef,
  open: Decimal,
  sister: z.string(),
  /** From when she could ship it; null where she cannot say. */
  first: Day.nullable(),
  /** What she holds of hers, and until when. */
  hold: z.object({ id: Id, number: z.string(), until: Day }).nullable(),
});
export type HoldRow = z.infer<typeof HoldRow>;

export const listHolds = read({
  name: 'listHolds',
  path: '/orders/:id/holds',
  summary: 'The lines of an order that are bought of sister companies, from when they could ship, and what they hold.',
  params: IdParam,
  out: z.object({ rows: z.array(HoldRow) }),
});

export const holdAtSister = act({
  name: 'holdAtSister',
  summary:
    'Have sister companies hold what lines of an order need until a day: what they have and make is promised to them, and lapses.',
  input: z.object({ orderId: Id, lineIds: namedOnce(z.array(Id).max(200)) }),
  preview: z.object({ held: z.array(z.object({ lineId: Id, day: Day, until: Day })) }),
});

export const letHoldGo = act({
  name: 'letHoldGo',
  summary: 'Let go what a sister company holds, from either side.',
  input: z.object({ id: Id }),
  preview: z.object({ number: z.string() }),
});
