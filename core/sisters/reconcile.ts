import { dec, least, most, sum, ZERO, type Day } from '@core/kernel';

/** An invoice of ours to a sister that she owes something of. */
export interface OwedToThem {
  number: string;
  currency: string;
  day: Day;
  owed: string;
  /** What became of it at the other's: whether its goods are received there, and it waits in the tray. */
  offered: 'waiting' | 'returned' | 'known' | 'not-offered';
}

/** An invoice of the sister's, as the buyer keeps it, under her own number. */
export interface OwedByUs {
  /** Ours, and hers. */
  number: string;
  theirNumber: string;
  currency: string;
  owed: string;
}

export type Unsettled = 'same' | 'not-taken' | 'returned' | 'missing-there' | 'missing-here' | 'amount' | 'currency';

export interface ReconciledRow {
  number: string;
  currency: string;
  day: Day | null;
  /** What the seller says is owed; null where she knows of no such invoice. */
  theySay: string | null;
  /** What the buyer says, with the number it has there; null where none is entered. */
  weSay: string | null;
  ourNumber: string;
  why: Unsettled;
}

/**
 * What one says is owed against what the other says, document by document, and why they differ; by currency, what each
 * says in all and what is between them. The difference is that of the rows and nothing else. // X5
 */
export function reconcile(
  theirs: readonly OwedToThem[],
  ours: readonly OwedByUs[],
): {
  rows: ReconciledRow[];
  totals: { currency: string; theySay: string; weSay: string; difference: string }[];
} {
  const entered = new Map(ours.map((each) => [each.theirNumber, each]));
  const rows: ReconciledRow[] = theirs.map((each) => {
    const twin = entered.get(each.number);
    entered.delete(each.number);
    return {
      number: each.number,
      currency: each.currency,
      day: each.day,
      theySay: each.owed,
      weSay: twin?.owed ?? null,
      ourNumber: twin?.number ?? '',
      why: twin ? compared(each, twin) : notThere(each),
    };
  });
  for (const { theirNumber, currency, owed, number } of entered.values()) {
    rows.push({
      number: theirNumber,
      currency,
      day: null,
      theySay: null,
      weSay: owed,
      ourNumber: number,
      why: 'missing-there',
    });
  }
  const currencies = [...new Set([...theirs, ...ours].map(({ currency }) => currency))].sort();
  const total = (of: readonly { currency: string; owed: string }[], currency: string) =>
    sum(of.filter((each) => each.currency === currency).map(({ owed }) => dec(owed)));
  return {
    rows,
    totals: currencies.map((currency) => {
      const [they, we] = [total(theirs, currency), total(ours, currency)];
      return { currency, theySay: they.toFixed(), weSay: we.toFixed(), difference: they.minus(we).toFixed() };
    }),
  };
}

function compared(theirs: OwedToThem, ours: OwedByUs): Unsettled {
  if (theirs.currency !== ours.currency) return 'currency';
  return dec(theirs.owed).minus(ours.owed).eq(ZERO) ? 'same' : 'amount';
}

function notThere({ offered }: OwedToThem): Unsettled {
  if (offered === 'waiting') return 'not-taken';
  return offered === 'returned' ? 'returned' : 'missing-here';
}

/** What a seller's and a buyer's accounts that belong together say, in one currency. */
export interface AccountPair {
  account: string;
  currency: string;
  theySay: string;
  weSay: string;
}

/**
 * Accounts of two sisters that belong together, level with each other, and what of them stands in both: that falls away
 * where their books are put together. Nothing of accounts of which either says nothing or less than nothing. // X5
 */
export function eliminations(pairs: readonly AccountPair[]): (AccountPair & { difference: string; falls: string })[] {
  return pairs
    .filter(({ theySay, weSay }) => !dec(theySay).eq(0) || !dec(weSay).eq(0))
    .map((pair) => ({
      ...pair,
      difference: dec(pair.theySay).minus(pair.weSay).toFixed(),
      falls: most(ZERO, least(dec(pair.theySay), dec(pair.weSay))).toFixed(),
    }));
}
