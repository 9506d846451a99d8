import fc from 'fast-check';
import { dec } from '@core/kernel';
import { decideAdjust, decideAdjustBack, writtenOff, type AdjustedGround, type AdjustGround } from './index';

const ground = (change: Partial<AdjustGround['stock']> = {}, rest: Partial<AdjustGround> = {}): AdjustGround => ({
  item: { id: 10, number: 'GAC-25' },
  location: { id: 0, name: 'Main store' },
  stock: { onHand: '12', reserved: '5', value: '100', ...change },
  currency: 'MYR',
  ...rest,
});
const typed = (now: string, change: Partial<Parameters<typeof decideAdjust>[1]> = {}) => ({
  was: '12',
  now,
  unitCost: '',
  reason: ' torn bags ',
  ...change,
});
const effects = (on: AdjustGround, given: Parameters<typeof decideAdjust>[1]) => {
  const decision = decideAdjust(on, given);
  if (!decision.ok) throw new Error(decision.refusals.map((each) => each.code).join());
  return decision.effects;
};
const codes = (on: AdjustGround, given: Parameters<typeof decideAdjust>[1]) => {
  const decision = decideAdjust(on, given);
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};

describe('W6 P3 stock put right by hand', () => {
  it('leaves at the average, the last unit with the last cent', () => {
    expect(effects(ground(), typed('9'))).toEqual({
      itemId: 10,
      locationId: 0,
      quantity: '-3',
      cost: '-25',
      reason: 'torn bags',
      currency: 'MYR',
    });
    expect(effects(ground({ reserved: '0', value: '100.01' }), typed('0')).cost).toBe('-100.01');
  });

  it('comes at the average, or at what is typed', () => {
    expect(effects(ground(), typed('15'))).toMatchObject({ quantity: '3', cost: '25' });
    expect(effects(ground(), typed('15', { unitCost: '9.995' }))).toMatchObject({ quantity: '3', cost: '29.99' });
    expect(
      effects(ground({ onHand: '0', reserved: '0', value: '0' }), typed('2', { was: '0', unitCost: '0' })),
    ).toMatchObject({ quantity: '2', cost: '0' });
  });

  it.each([
    ['a place that is none', ground({}, { location: null }), typed('9'), ['locationId: unknown']],
    ['no reason', ground(), typed('9', { reason: ' ' }), ['reason: required']],
    ['what is no number', ground(), typed('nine'), ['now: not-a-number']],
    ['fewer than none', ground(), typed('-1'), ['now: not-a-number']],
    ['what moved meanwhile', ground(), typed('9', { was: '11' }), ['now: stock-moved']],
    ['what was seen as no number', ground(), typed('9', { was: '' }), ['now: stock-moved']],
    ['less than is held', ground(), typed('4.99999'), ['now: below-held']],
    ['what is there already', ground(), typed('12.0'), ['now: stock-the-same']],
    ['a cost below nothing', ground(), typed('13', { unitCost: '-1' }), ['unitCost: not-a-number']],
    ['a cost in words', ground(), typed('13', { unitCost: 'dear' }), ['unitCost: not-a-number']],
    [
      'no cost where none is known',
      ground({ onHand: '0', reserved: '0', value: '0' }),
      typed('1', { was: '0' }),
      ['unitCost: required'],
    ],
  ])('refuses %s', (_what, on, given, expected) => expect(codes(on, given)).toEqual(expected));

  it('just what is held may stay, and a cost is asked only of what comes', () => {
    expect(codes(ground(), typed('5'))).toEqual([]);
    expect(codes(ground(), typed('9', { unitCost: 'dear' }))).toEqual([]);
  });

  it('G7 says what is written off, and nothing of what comes', () => {
    expect(writtenOff('GAC-25', effects(ground(), typed('9')))).toBe('Write off 3 of GAC-25, MYR 25.00: torn bags');
    expect(writtenOff('GAC-25', effects(ground(), typed('15')))).toBe('');
    const worthless = effects(ground({ value: '0' }), typed('9'));
    expect(writtenOff('GAC-25', worthless)).toBe('Write off 3 of GAC-25, MYR 0.00: torn bags');
  });
});

describe('P1 W6 an adjustment taken back', () => {
  const after = (quantity: string, cost: string, change: Partial<AdjustedGround> = {}): AdjustedGround => ({
    journal: { number: 'JR-0007' },
    entry: { itemId: 10, item: 'GAC-25', locationId: 0, quantity, cost },
    reverses: '',
    reversedBy: '',
    stock: { onHand: '12', reserved: '5', value: '100' },
    currency: 'MYR',
    ...change,
  });
  const back = (on: AdjustedGround, reason = 'found again') => {
    const decision = decideAdjustBack(on, { reason });
    return decision.ok
      ? [decision.effects.quantity, decision.effects.cost]
      : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
  };

  it('brings back what left at what it left at', () => expect(back(after('-3', '-25'))).toEqual(['3', '25']));

  it('takes out what came at what it came at, or at what the rest is worth', () => {
    expect(back(after('3', '25'))).toEqual(['-3', '-25']);
    expect(back(after('3', '120'))).toEqual(['-3', '-100']);
    const all = { stock: { onHand: '3', reserved: '0', value: '20.5' } };
    expect(back(after('3', '18', all))).toEqual(['-3', '-20.5']);
  });

  it.each([
    ['without a reason', after('-3', '-25'), ' ', ['reason: required']],
    ['of what is no adjustment', after('1', '1', { entry: null }), 'x', [': no-adjustment']],
    ['twice', after('-3', '-25', { reversedBy: 'JR-0008' }), 'x', [': reversed-already']],
    ['of one that takes back itself', after('-3', '-25', { reverses: 'JR-0001' }), 'x', [': is-reversal']],
    ['of what is held by now', after('7.00001', '25'), 'x', [': goods-gone']],
  ])('is refused %s', (_what, on, reason, expected) => expect(back(on, reason)).toEqual(expected));

  it('and all that is free may go', () => expect(back(after('7', '25'))).toEqual(['-7', '-25']));

  it('put right and taken back at once, stock is worth what it was', () => {
    const whole = fc.integer({ min: 1, max: 999 });
    fc.assert(
      fc.property(whole, whole, fc.integer({ min: 0, max: 99_999 }), (onHand, now, cents) => {
        fc.pre(onHand !== now);
        const value = dec(cents).div(100).toFixed();
        const on = ground({ onHand: String(onHand), reserved: '0', value });
        const made = effects(on, typed(String(now), { was: String(onHand) }));
        const stock = { onHand: String(now), reserved: '0', value: dec(value).plus(made.cost).toFixed() };
        const entry = { itemId: 10, item: 'GAC-25', locationId: 0, quantity: made.quantity, cost: made.cost };
        const [quantity, cost] = back(after('', '', { entry, stock }));
        expect(dec(stock.onHand).plus(quantity!).toFixed()).toBe(String(onHand));
        expect(dec(stock.value).plus(cost!).toFixed()).toBe(value);
      }),
      { seed: 6 },
    );
  });
});
