import * as z from 'zod';
import { Day, Decimal, IdParam, read } from '../kit';
import { SisterRef } from './refs';

const Reconciled = z.object({
  number: z.string(),
  currency: z.string(),
  day: Day.nullable(),
  theySay: Decimal.nullable(),
  weSay: Decimal.nullable(),
  ourNumber: z.string(),
  why: z.enum(['same', 'not-taken', 'returned', 'missing-there', 'missing-here', 'amount', 'currency']),
});

const Side = z.object({
  rows: z.array(Reconciled),
  totals: z.array(z.object({ currency: z.string(), theySay: Decimal, weSay: Decimal, difference: Decimal })),
});

export const reconcileSister = read({
  name: 'reconcileSister',
  path: '/sisters/:id/reconciliation',
  summary: 'What one company says is owed against what the other says, document by document, both ways.',
  params: IdParam,
  needs: 'see-debts',
  out: z.object({
    sister: SisterRef,
    /** What she sold us, and what we sold her. */
    bought: Side,
    sold: Side,
    /** What could be set off against each other, by currency: the lesser of both. */
    netting: z.array(z.object({ currency: z.string(), owedToThem: Decimal, owedToUs: Decimal, net: Decimal })),
    /** Accounts that belong together, and what of both falls away where the books are put together; turnover of the month. */
    accounts: z.array(
      z.object({
        account: z.string(),
        ours: z.enum(['bought', 'sold']),
        currency: z.string(),
        theySay: Decimal,
        weSay: Decimal,
        difference: Decimal,
        falls: Decimal,
      }),
    ),
    /** Goods that left one and are not received at the other. */
    underWay: z.array(z.object({ number: z.string(), ours: z.boolean(), day: Day, items: z.string() })),
  }),
});
