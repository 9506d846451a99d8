import fc from 'fast-check';
import {
  dec,
  decimalText,
  documentTotals,
  isDecimalText,
  lineAmount,
  readTypedDecimal,
  roundHalfAway,
  share,
  sliceAmount,
  sum,
} from './index';

describe('decimals', () => {
  it.each([
    ['12', true],
    ['0.00001', true],
    ['0.000001', false],
    ['1e3', false],
    ['', false],
    ['--1', false],
    ['9999999999', true],
    ['10000000000', false],
    ['NaN', false],
  ])('reads the quantity %s as kept: %s', (text, kept) => {
    expect(isDecimalText(text, 'quantity')).toBe(kept);
  });

  it.each([
    ['1,250.5', '1250.5'],
    [' 12 ', '12'],
    ['.5', '0.5'],
    ['1,25', null],
    ['12a', null],
    ['', null],
    ['1,000,000', '1000000'],
    ['−1,250.5', '-1250.5'],
    ['1−2', null],
  ])('reads what is typed: %s', (typed, read) => {
    expect(readTypedDecimal(typed, 'quantity')).toBe(read);
  });

  it('refuses floats, whose value is not what was meant', () => {
    expect(() => dec(0.1)).toThrow(RangeError);
  });

  it.each([
    ['2.345', 2, '2.35'],
    ['-2.345', 2, '-2.35'],
    ['2.344', 2, '2.34'],
    ['0.5', 0, '1'],
    ['-0.5', 0, '-1'],
  ])('P7 rounds %s to %i places half away from zero', (value, places, rounded) => {
    expect(roundHalfAway(dec(value), places).toFixed()).toBe(rounded);
  });

  it('writes without exponent or needless zeros', () => {
    expect(decimalText('0.00000')).toBe('0');
    expect(decimalText('12.50000')).toBe('12.5');
    expect(decimalText('1000000000')).toBe('1000000000');
    expect(() => decimalText('12 m')).toThrow();
    expect(() => decimalText('')).toThrow();
  });

  it('shortens a text to what its exact value is written as', () => {
    const digits = fc.string({ unit: fc.constantFrom(...'0012345'), maxLength: 6 });
    const written = fc
      .tuple(fc.constantFrom('', '-'), digits, fc.constantFrom('', '.'), digits)
      .map((parts) => parts.join(''));
    fc.assert(
      fc.property(written, (text) => {
        let exact;
        try {
          exact = dec(text);
        } catch {
          return expect(() => decimalText(text)).toThrow();
        }
        expect(decimalText(text)).toBe(exact.toFixed());
        return undefined;
      }),
      { seed: 20270301, numRuns: 3000 },
    );
  });

  it('holds a share within 0 to 1', () => {
    expect(share('5', '0')).toBe(0);
    expect(share('5', '4')).toBe(1);
    expect(share('-1', '4')).toBe(0);
    expect(share('1', '4')).toBe(0.25);
  });
});

describe('amounts', () => {
  it('P7 slices laid end to end sum to the line, whatever the cuts', () => {
    const cents = fc.integer({ min: 1, max: 9_999_999 }).map((value) => dec(value).div(10_000));
    fc.assert(
      fc.property(
        cents,
        fc.array(fc.integer({ min: 1, max: 500_000 }), { minLength: 1, maxLength: 8 }),
        (price, cuts) => {
          let reached = dec(0);
          const slices = cuts.map((cut) => {
            const to = reached.plus(dec(cut).div(1000));
            const slice = sliceAmount(reached, to, price, 'MYR');
            reached = to;
            return slice;
          });
          expect(sum(slices).toFixed()).toBe(lineAmount(reached, price, 'MYR').toFixed());
        },
      ),
      { seed: 11 },
    );
  });

  it('uses the places of the currency', () => {
    expect(lineAmount(dec('3'), dec('0.335'), 'MYR').toFixed()).toBe('1.01');
    expect(lineAmount(dec('3'), dec('33.5'), 'JPY').toFixed()).toBe('101');
  });

  it('P7 rounds tax once per document and tax code', () => {
    const line = (net: string, taxCode: string, taxRate: string) => ({ net: dec(net), taxCode, taxRate });
    const totals = documentTotals([line('10.05', 'S6', '6'), line('10.05', 'S6', '6'), line('7', 'Z0', '0')], 'MYR');
    // By line it would be 0.60 + 0.60; on the sum 1.206 is 1.21.
    expect(totals.taxes.map((tax) => [tax.taxCode, tax.base.toFixed(), tax.tax.toFixed()])).toEqual([
      ['S6', '20.1', '1.21'],
      ['Z0', '7', '0'],
    ]);
    expect(totals.total.toFixed()).toBe('28.31');
  });
});
