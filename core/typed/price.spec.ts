import { readTypedBreaks, readTypedPrice, typedBreaksOf, typedPriceOf } from './index';

describe('typed prices', () => {
  it.each([
    ['740', 'fixed', '740'],
    ['1,250.5', 'fixed', '1250.5'],
    ['8 %', 'discount', '8'],
    ['-8.5%', 'discount', '8.5'],
    ['list', 'none', ''],
    ['  ', 'none', ''],
    ['abc', 'fixed', 'abc'],
    ['x %', 'discount', 'x'],
    ['%', 'discount', '%'],
  ])('reads %s as %s %s', (typed, priceKind, priceValue) => {
    expect(readTypedPrice(typed)).toEqual({ priceKind, priceValue });
  });

  it('reads back what it shows', () => {
    for (const term of [
      { priceKind: 'fixed', priceValue: '740' },
      { priceKind: 'discount', priceValue: '8.5' },
      { priceKind: 'none', priceValue: '' },
    ] as const) {
      expect(readTypedPrice(typedPriceOf(term))).toEqual(term);
    }
  });

  it('reads breaks, and keeps what it cannot read', () => {
    expect(readTypedBreaks('20: 720; 50:700.5')).toEqual([
      { from: '20', value: '720' },
      { from: '50', value: '700.5' },
    ]);
    expect(readTypedBreaks('1,000: 8 %;')).toEqual([{ from: '1000', value: '8' }]);
    expect(readTypedBreaks('many: x; 7')).toEqual([
      { from: 'many', value: 'x' },
      { from: '7', value: '' },
    ]);
    for (const typed of ['500 4.85', '500: 4.85', 'from 500 at 4.85', 'From 500 4.85', '500 @ 4.85', '500:4.85']) {
      expect([typed, readTypedBreaks(typed)]).toEqual([typed, [{ from: '500', value: '4.85' }]]);
    }
    expect(readTypedBreaks('1,000 at 8 %; from 2 000 at 9%')).toEqual([
      { from: '1000', value: '8' },
      { from: '2000', value: '9' },
    ]);
    expect(readTypedBreaks('500 for 4.85')).toEqual([{ from: '500 for 4.85', value: '' }]);
    expect(readTypedBreaks('')).toEqual([]);
    expect(typedBreaksOf(readTypedBreaks('20: 720; 50:700.5'))).toBe('20: 720; 50: 700.5');
  });
});
