import { addDays, chanceOf, dec, roundHalfAway, type Day } from '@core/kernel';

export interface MarketPrice {
  day: Day;
  value: string;
}

/** The prices a market series is given up to a day: one a week after its last, each within two per cent of the one before. */
export function marketPrices(last: MarketPrice, workDate: Day, seed: number): MarketPrice[] {
  const prices: MarketPrice[] = [];
  let { day, value } = last;
  for (day = addDays(day, 7); day <= workDate && prices.length < MOST_WEEKS; day = addDays(day, 7)) {
    const chance = chanceOf(seed * 104_729 + Number(day.replaceAll('-', '')));
    value = roundHalfAway(
      dec(value)
        .times(1000 + chance.whole(-20, 20))
        .div(1000),
      2,
    ).toFixed();
    prices.push({ day, value });
  }
  return prices;
}

/** Two years at once at most: a series that nobody fed for longer begins anew. */
const MOST_WEEKS = 104;
