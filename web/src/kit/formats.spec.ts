import {
  counted,
  day,
  exchangeWords,
  fieldShown,
  fixed,
  moment,
  money,
  namedMoney,
  ownMoney,
  percent,
  points,
  price,
  quantity,
} from './formats';

describe('formats', () => {
  it.each([
    ['12345.6', 2, '12,345.60'],
    ['-1234567.891', 2, '−1,234,567.89'],
    ['0', 0, '0'],
    ['999', 3, '999.000'],
  ])('groups %s to %i places as %s', (value, places, text) => expect(fixed(value, places)).toBe(text));

  it('shows money in the places of its currency', () => {
    expect(money('1234.5', 'MYR')).toBe('1,234.50');
    expect(money('1234.5', 'JPY')).toBe('1,235');
    expect(money('1.2345', 'KWD')).toBe('1.235');
  });

  it('P8 names a currency only where it is another than the company’s, and what a rate moved', () => {
    expect([namedMoney('5920', 'USD', 'MYR'), namedMoney('5920', 'MYR', 'MYR'), namedMoney('', 'USD', 'MYR')]).toEqual([
      'USD 5,920.00',
      '5,920.00',
      '–',
    ]);
    expect(ownMoney('18100.17', { currency: 'MYR', rate: '4.55350000' })).toBe('MYR 18,100.17 at 4.5535');
    expect([exchangeWords('258.38', 'MYR'), exchangeWords('-3', 'MYR'), exchangeWords('0', 'MYR')]).toEqual([
      'the rate gains MYR 258.38',
      'the rate loses MYR 3.00',
      '',
    ]);
  });

  it('shows a price with more places only where it has them', () => {
    expect(price('8.5000', 'MYR')).toBe('8.50');
    expect(price('0.0375', 'MYR')).toBe('0.0375');
  });

  it('shows quantities without needless zeros', () => {
    expect(quantity('1200.00000')).toBe('1,200');
    expect(quantity('2.50000')).toBe('2.5');
  });

  it('signs a pace, and leaves a level one unsigned', () => {
    expect([points(0.14), points(-0.072), points(0.001)]).toEqual(['+14 %', '−7 %', '0 %']);
    expect(percent(0.555)).toBe('56 %');
  });

  it('shows a field as it was: a day, a number, words, or nothing', () => {
    const shown = (value: string) => fieldShown(value, '2027-03-01');
    expect(['2027-03-11', '1200.5', 'TBR-1', '', '2027-02-30'].map(shown)).toEqual([
      'Thu 11 Mar',
      '1,200.5',
      'TBR-1',
      '–',
      '2027-02-30',
    ]);
  });

  it('names the year of a moment where it is not this one', () => {
    const now = new Date('2027-03-01T08:00:00Z');
    expect(moment('2027-02-11T08:05:00Z', now)).not.toContain('2027');
    expect(moment('2026-12-11T08:05:00Z', now)).toMatch(/^Fri,? 11 Dec 2026/);
  });

  it('counts, and shows a missing day as a dash', () => {
    expect([counted(1, 'line'), counted(3, 'line')]).toEqual(['1 line', '3 lines']);
    expect(day(null, '2027-03-01')).toBe('–');
    expect(day('2027-03-11', '2027-03-01')).toBe('Thu 11 Mar');
  });
});
