import { dec, sum, ZERO, type Both, type Dec } from '@core/kernel';

/** What a share of an entry is of: an item, or what a line is of. */
export interface Goods {
  by: 'item' | 'order-line' | 'purchase-line';
  id: number;
}

/** What of an amount is of an item, or of what a line is of. */
export interface Part {
  id: number;
  worth: Both;
}

/** What of an entry is of some goods, on the same side of it; `foreign` is nothing where the entry has none. */
export interface Share extends Goods {
  amount: string;
  foreign: string;
}

export const goodsKey = ({ by, id }: Goods): string => `${by} ${id}`;

/** Shares of goods in both currencies, of an entry that credits or debits them. */
export const sharesOf = (by: Goods['by'], parts: readonly Part[], side: 'debit' | 'credit'): Share[] =>
  parts.map(({ id, worth }) => {
    const [amount, foreign] = side === 'debit' ? [worth.own, worth.amount] : [worth.own.neg(), worth.amount.neg()];
    return { by, id, amount: amount.toFixed(), foreign: foreign.toFixed() };
  });

/** An amount as it stands on one account. */
export interface OnAccount {
  accountId: number;
  amount: string;
  foreign: string | null;
}

/**
 * An entry by the accounts its goods are posted to: those whose group has one of its own go there, the rest stays on
 * `usual`. Whatever was rounded between the shares and the whole stays with the rest, or with the largest account where
 * there is none: the sum is the entry's, to the cent. // P3 U2
 */
export function onAccounts(
  entry: { amount: string; foreign: string | null; shares?: readonly Share[] },
  accountOf: (goods: Goods) => number | undefined,
  usual: number,
): OnAccount[] {
  const { shares = [] } = entry;
  const placed = new Map<number, { amount: Dec; foreign: Dec }>();
  const add = (accountId: number, amount: Dec, foreign: Dec) => {
    const known = placed.get(accountId) ?? { amount: ZERO, foreign: ZERO };
    placed.set(accountId, { amount: known.amount.plus(amount), foreign: known.foreign.plus(foreign) });
  };
  for (const share of shares) add(accountOf(share) ?? usual, dec(share.amount), dec(share.foreign));
  const left = dec(entry.amount).minus(sum([...placed.values()].map(({ amount }) => amount)));
  const foreignLeft = dec(entry.foreign ?? '0').minus(sum([...placed.values()].map(({ foreign }) => foreign)));
  const [largest] = [...placed].sort(([, a], [, b]) => b.amount.abs().cmp(a.amount.abs()));
  add(placed.has(usual) || !largest ? usual : largest[0], left, foreignLeft);
  return [...placed]
    .filter(([, { amount, foreign }]) => !amount.eq(0) || (entry.foreign !== null && !foreign.eq(0)))
    .map(([accountId, { amount, foreign }]) => ({
      accountId,
      amount: amount.toFixed(),
      foreign: entry.foreign === null ? null : foreign.toFixed(),
    }));
}
