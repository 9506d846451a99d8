import fc from 'fast-check';
import { balanceChange, carriedOf, dec, known, ownOf, sum, type Exchange } from './index';

const usd = (rate: string): Exchange => ({ currency: 'USD', own: 'MYR', rate });

describe('P8 amounts in two currencies', () => {
  it('come to the places of the company’s currency, half away from zero', () => {
    expect(ownOf('10.01', usd('4.485')).toFixed()).toBe('44.89');
    expect(ownOf('-0.5', usd('4.47')).toFixed()).toBe('-2.24');
    expect(ownOf('10.01', { currency: 'USD', own: 'JPY', rate: '150.05' }).toFixed()).toBe('1502');
    expect(ownOf('10.01', { currency: 'USD', own: 'KWD', rate: '0.30655' }).toFixed()).toBe('3.069');
  });

  it('are never guessed without a rate', () => {
    expect(() => known({ currency: 'USD', own: 'MYR', rate: null, day: '2027-03-01' })).toThrow('no rate of USD');
  });

  it('settled in any parts, what was owed is carried out whole, to the cent', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 99_999 }), { minLength: 1, maxLength: 9 }),
        fc.integer({ min: 1, max: 999_999 }),
        fc.constantFrom(1, -1),
        (cents, rate, sign) => {
          const parts = cents.map((each) => dec(each).div(100).times(sign));
          const amount = sum(parts);
          const ownAmount = ownOf(amount, usd(dec(rate).div(10_000).toFixed()));
          let settled = dec(0);
          let ownSettled = dec(0);
          for (const part of parts) {
            const owed = {
              amount: amount.toFixed(),
              settled: settled.toFixed(),
              ownAmount: ownAmount.toFixed(),
              ownSettled: ownSettled.toFixed(),
            };
            const carried = carriedOf(owed, part, 'MYR');
            expect(carried.times(sign).gte(0)).toBe(true);
            settled = settled.plus(part);
            ownSettled = ownSettled.plus(carried);
          }
          expect(ownSettled.toFixed()).toBe(ownAmount.toFixed());
        },
      ),
      { seed: 8 },
    );
  });

  const change = (amount: string, own: string, by: string, rate: string) =>
    balanceChange({ amount: dec(amount), own: dec(own) }, dec(by), usd(rate)).toFixed();

  it.each([
    ['begins at the rate of the day', '0', '0', '10', '4.5', '45'],
    ['grows at the rate of the day', '10', '45', '10', '4.7', '47'],
    ['shrinks at what it is carried at', '20', '92', '-5', '9', '-23'],
    ['ends at nothing', '20', '92', '-20', '9', '-92'],
    ['goes below zero at the rate of the day', '10', '45', '-15', '4', '-65'],
    ['grows below zero', '-5', '-20', '-5', '4.5', '-22.5'],
    ['comes back towards zero', '-10', '-42', '5', '9', '21'],
    ['stays where nothing changes', '10', '45', '0', '9', '0'],
  ])('a balance %s', (_what, amount, own, by, rate, expected) => {
    expect(change(amount, own, by, rate)).toBe(expected);
  });
});
