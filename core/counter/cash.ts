import { currencyPlaces, dec, isDecimalText, roundHalfAway, sum, type Dec } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';

/** Notes and coins in use, largest first; of a currency that is not here, 1, 2 and 5 of each power of ten. */
const PIECES: Readonly<Record<string, readonly string[]>> = {
  MYR: ['100', '50', '20', '10', '5', '1', '0.5', '0.2', '0.1', '0.05'],
  SGD: ['100', '50', '10', '5', '2', '1', '0.5', '0.2', '0.1', '0.05'],
  USD: ['100', '50', '20', '10', '5', '2', '1', '0.5', '0.25', '0.1', '0.05', '0.01'],
};

/** The notes and coins of a currency, largest first. // C4 */
export function cashPieces(currency: string): readonly string[] {
  const known = PIECES[currency];
  if (known) return known;
  const places = currencyPlaces(currency);
  const powers = Array.from({ length: places + 3 }, (_, at) => dec(100).div(dec(10).pow(at)));
  return powers.flatMap((power, at) => (at === 0 ? [1] : [5, 2, 1]).map((many) => power.times(many).toFixed()));
}

/** An amount as it can be paid in cash: rounded to the smallest coin, halves away from zero. // C2 */
export function inCash(amount: Dec, currency: string): Dec {
  const step = cashPieces(currency).at(-1)!;
  return roundHalfAway(amount.div(step), 0).times(step);
}

/** How many there are of a note or coin. */
export interface PieceCount {
  piece: string;
  count: string;
}

/** What counted notes and coins come to; each at its field where it is none, or not a whole number. // C4 */
export function countedCash(
  counts: readonly PieceCount[],
  currency: string,
  field: string,
): { total: Dec; refusals: Refusal[] } {
  const pieces = cashPieces(currency);
  const refusals: Refusal[] = [];
  const parts = counts.map(({ piece, count }, at) => {
    const where = `${field}.${at}.count`;
    if (!pieces.includes(piece)) refusals.push(refuse('no-such-piece', where, { piece, currency }));
    else if (count.trim() === '') return dec(0);
    else if (!isDecimalText(count, 'quantity') || !/^\d+$/.test(count)) {
      refusals.push(refuse('not-whole', where, { what: `How many of ${piece}` }));
    } else return dec(piece).times(count);
    return dec(0);
  });
  return { total: sum(parts), refusals };
}
