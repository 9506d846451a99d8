import fc from 'fast-check';
import { dec } from '@core/kernel';
import { sentenceOf } from '@core/refusals';
import { decideBetween, type BetweenGround, type BetweenTyped } from './index';

const DAY = '2027-03-04';
const ground = (stock: Partial<BetweenGround['stock']> = {}): BetweenGround => ({
  item: { id: 10, number: 'GAC-25' },
  locations: new Map([
    [0, 'Main store'],
    [1, 'East coast store'],
  ]),
  stock: { onHand: '30', reserved: '10', value: '100', ...stock },
  currency: 'MYR',
});
const typed = (change: Partial<BetweenTyped> = {}): BetweenTyped => ({
  from: 0,
  to: 1,
  quantity: '20',
  arrivesOn: '',
  ...change,
});

describe('P3 goods from one place to another', () => {
  it('move at what they cost, the last unit with the last cent', () => {
    const some = decideBetween(ground(), typed(), DAY);
    expect(some.ok && some.effects).toEqual({
      itemId: 10,
      quantity: '20',
      value: '66.67',
      moves: [
        { locationId: 0, quantity: '-20', cost: '-66.67' },
        { locationId: 1, quantity: '20', cost: '66.67' },
      ],
      carriage: null,
    });
    const all = decideBetween(ground({ reserved: '0' }), typed({ quantity: '30' }), DAY);
    expect(all.ok && all.effects.value).toBe('100');
  });

  it.each<[string, BetweenGround, BetweenTyped, string]>([
    ['more than is free', ground(), typed({ quantity: '21' }), 'quantity: above-free-there'],
    ['to where they are', ground(), typed({ to: 0 }), 'to: same-location'],
    ['from where nobody keeps any', ground(), typed({ from: 9 }), 'from: unknown'],
    ['none', ground(), typed({ quantity: '0' }), 'quantity: not-above-zero'],
    ['words', ground(), typed({ quantity: 'all' }), 'quantity: not-a-number'],
  ])('are refused: %s', (_what, given, asked, code) => {
    const decision = decideBetween(given, asked, DAY);
    expect(decision.ok ? [] : decision.refusals.map((each) => `${each.field}: ${each.code}`)).toEqual([code]);
  });

  it('say what stands against them, and the way out', () => {
    const said = (given: BetweenGround, asked: BetweenTyped) => {
      const decision = decideBetween(given, asked, DAY);
      return decision.ok ? [] : decision.refusals.map(sentenceOf);
    };
    expect(said(ground(), typed({ quantity: '21' }))).toEqual([
      '21 of GAC-25 is more than the 20 free at Main store; move 20 or less, or let go of what is held.',
    ]);
    expect(said(ground(), typed({ from: 9, quantity: '21' }))[1]).toContain('free at ;');
    expect(said(ground(), typed({ to: 9, quantity: 'x', arrivesOn: 'x' }))).toEqual([
      expect.stringMatching(/^This location /),
      expect.stringMatching(/^The quantity is not a number/),
      expect.stringMatching(/^The day they arrive is not a date/),
    ]);
    expect(said(ground(), typed({ quantity: '0', arrivesOn: '2027-03-03' }))).toEqual([
      expect.stringMatching(/^The quantity /),
      expect.stringMatching(/^The day they arrive, Wed 3 Mar 2027 is before Thu 4 Mar 2027/),
    ]);
  });

  it('in any parts take their whole value along, and never leave value where nothing is', () => {
    const cuts = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(cuts, fc.integer({ min: 0, max: 99_999 }), (parts, cents) => {
        let stock = {
          onHand: String(parts.reduce((sum, part) => sum + part, 0)),
          reserved: '0',
          value: dec(cents).div(100).toFixed(),
        };
        let carried = dec(0);
        for (const part of parts) {
          const decision = decideBetween(ground(stock), typed({ quantity: String(part) }), DAY);
          if (!decision.ok) throw new Error('refused');
          const { value } = decision.effects;
          carried = carried.plus(value);
          stock = {
            ...stock,
            onHand: dec(stock.onHand).minus(part).toFixed(),
            value: dec(stock.value).minus(value).toFixed(),
          };
        }
        expect([stock.onHand, stock.value, carried.toFixed()]).toEqual(['0', '0', dec(cents).div(100).toFixed()]);
      }),
      { seed: 8 },
    );
  });
});
