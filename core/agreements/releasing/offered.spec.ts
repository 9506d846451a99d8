import fc from 'fast-check';
import { dec, lineAmount, sum } from '@core/kernel';
import { leftOn, portionsUnder, rankOffers, splitAtLimit, type Offer } from '../index';

function offer(id: number, agreement: Partial<Offer['agreement']> = {}, line: Partial<Offer['line']> = {}): Offer {
  return {
    agreement: {
      id,
      number: `AG-${id}`,
      basis: 'quantity',
      state: 'in-force',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      currency: 'MYR',
      priority: 5,
      limitPolicy: 'split',
      tolerancePercent: '0',
      ...agreement,
    },
    line: {
      id,
      lineNo: 1,
      itemId: 10,
      groupId: null,
      committed: '100',
      committedValue: '74000',
      released: '0',
      releasedValue: '0',
      leastRelease: '0',
      releaseMultiple: '0',
      priceKind: 'fixed',
      priceValue: '740',
      breaks: [],
      ...line,
    },
  };
}

const wanted = {
  itemId: 10,
  groupId: 3,
  quantity: dec('12'),
  listPrice: '815',
  day: '2027-03-01',
  currency: 'MYR',
};
const ranked = (...offers: Offer[]) => rankOffers(offers, wanted).map((each) => each.line.id);

describe('A13 which agreement', () => {
  it('ranks by priority, then item before group before all, then price, then the earliest end', () => {
    const all = offer(1, { basis: 'value' }, { itemId: null, priceKind: 'discount', priceValue: '40' });
    const group = offer(2, { basis: 'value' }, { itemId: null, groupId: 3, priceKind: 'discount', priceValue: '30' });
    const dear = offer(3, {}, { priceValue: '750' });
    const late = offer(4);
    const early = offer(5, { lastDay: '2027-06-30' });
    const first = offer(6, { priority: 1, basis: 'value' }, { itemId: null, priceKind: 'none', priceValue: '' });
    expect(ranked(all, group, dear, late, early, first)).toEqual([6, 5, 4, 3, 2, 1]);
  });

  it('the price is the one for the quantity asked', () => {
    const broken = offer(1, {}, { breaks: [{ from: '12', value: '700' }] });
    const flat = offer(2, {}, { priceValue: '720' });
    expect(ranked(flat, broken)).toEqual([1, 2]);
    expect(rankOffers([flat, broken], { ...wanted, quantity: dec('11') }).map((each) => each.line.id)).toEqual([2, 1]);
  });

  it.each<[string, Offer]>([
    ['paused', offer(1, { state: 'paused' })],
    ['before its first day', offer(1, { firstDay: '2027-03-02' })],
    ['after its last day', offer(1, { lastDay: '2027-02-28' })],
    ['in another currency', offer(1, { currency: 'SGD' })],
    ['for another item', offer(1, {}, { itemId: 11 })],
    ['for another group', offer(1, { basis: 'value' }, { itemId: null, groupId: 4 })],
    ['used up', offer(1, {}, { released: '100' })],
    ['used up in value', offer(1, { basis: 'value' }, { itemId: null, releasedValue: '74000' })],
  ])('leaves out one %s', (_what, given) => {
    expect(ranked(given)).toEqual([]);
  });

  it('does not depend on the order of the rows', () => {
    const offers = [1, 2, 3, 4, 5].map((id) =>
      offer(id, { priority: (id % 2) + 1 }, { priceValue: String(700 + (id % 3)) }),
    );
    fc.assert(
      fc.property(fc.shuffledSubarray(offers, { minLength: 5 }), (shuffled) => {
        expect(ranked(...shuffled)).toEqual(ranked(...offers));
      }),
      { seed: 3 },
    );
  });
});

describe('A5 a limit widened by a tolerance', () => {
  it('is no finer than a quantity: a rest that nothing could be is none', () => {
    // 0.33333 and a tenth of a hundredth more: 0.333663333; released is all of it that can be.
    const used = offer(1, { tolerancePercent: '0.1' }, { committed: '0.33333', released: '0.33366' });
    expect(leftOn(used).toFixed()).toBe('0');
    expect(ranked(used)).toEqual([]);
    expect(leftOn(offer(1, { tolerancePercent: '0.1' }, { committed: '0.33333' })).toFixed()).toBe('0.33366');
    expect(leftOn(offer(1, { tolerancePercent: '7.5' }, { released: '108' })).toFixed()).toBe('-0.5');
  });
});

describe('A5 the limit in value', () => {
  const value = offer(1, { basis: 'value' }, { itemId: null, priceKind: 'discount', priceValue: '10' });

  it('honours the discount to the cent, and sells the rest of the line at the price without it', () => {
    // 1,000.00 left pays for 7.407… of 10 at 135; the other 2.592… go at 150.
    const [portion] = splitAtLimit(
      { quantity: dec('10'), price: dec('135'), listPrice: dec('150') },
      dec('1000'),
      value.agreement,
    );
    expect(portion).toMatchObject({ quantity: dec('10') });
    expect(portion!.agreed!.toFixed()).toBe('1000');
    expect(portion!.amount.toFixed()).toBe('1388.89');
    expect(portion!.unitPrice.toFixed()).toBe('138.889');
  });

  it('neither loses nor makes a unit or a cent, whatever is asked of whatever is left', () => {
    const cents = (most: number) => fc.integer({ min: 1, max: most }).map((n) => dec(n).div(100));
    fc.assert(
      fc.property(
        cents(9000),
        cents(90_000),
        cents(90_000),
        fc.integer({ min: -500, max: 5_000_000 }).map((n) => dec(n).div(100)),
        fc.constantFrom('quantity' as const, 'value' as const),
        (quantity, price, over, left, basis) => {
          const listPrice = price.plus(over);
          const portions = splitAtLimit({ quantity, price, listPrice }, left, { basis, currency: 'MYR' });
          expect(sum(portions.map((each) => each.quantity)).eq(quantity)).toBe(true);
          const amount = sum(portions.map((each) => each.amount));
          const cheapest = lineAmount(quantity, price, 'MYR').minus('0.01');
          const dearest = lineAmount(quantity, listPrice, 'MYR').plus('0.01');
          expect(amount.gte(cheapest) && amount.lte(dearest)).toBe(true);
          const counted = portions.filter((each) => each.agreed !== null);
          const used = sum(counted.map((each) => (basis === 'value' ? each.agreed! : each.quantity)));
          const whole = basis === 'value' ? lineAmount(quantity, price, 'MYR') : quantity;
          // All that fits is used, and never more than is left.
          const room = left.lt(0) ? dec(0) : left;
          expect(used.eq(whole.lte(room) ? whole : room)).toBe(true);
        },
      ),
      { seed: 21, numRuns: 400 },
    );
  });

  it.each([
    ['refuse', [], ['above-value'], []],
    ['warn', ['1350'], [], ['above-value']],
    ['keep', ['1350'], [], []],
    ['split', ['1388.89'], [], ['split-in-value']],
  ] as const)('under %s', (limitPolicy, amounts, refused, warned) => {
    const on = { ...value, agreement: { ...value.agreement, limitPolicy } };
    const item = { number: 'FC-20', unit: 'piece', listPrice: '150' };
    const found = portionsUnder(on, item, dec('10'), dec('1000'), 'quantity');
    expect(found.portions.map((each) => each.amount.toFixed())).toEqual(amounts);
    expect(found.refused.map((each) => each.code)).toEqual(refused);
    expect(found.warned.map((each) => each.code)).toEqual(warned);
  });
});
