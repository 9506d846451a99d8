import type { ExchangeOf } from './exchange';

/** For tests: the company's currency beside itself, or another at a rate (null where none is known). */
export const exchangeAt = (rate: string | null = '1', currency = rate === '1' ? 'MYR' : 'USD'): ExchangeOf => ({
  currency,
  own: 'MYR',
  rate,
  day: '2027-03-01',
});

/** For tests: what is owed in a currency, carried at a rate, of which so much is settled. */
export const owedAt = (amount: string, settled = '0', ownAmount = amount, ownSettled = settled) => ({
  amount,
  settled,
  ownAmount,
  ownSettled,
});
