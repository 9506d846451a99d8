import fc from 'fast-check';
import { Calendar, dec, sum } from '@core/kernel';
import { leftInNoPlan, restOf, type RestGround } from '../index';

// From a Monday, closed at weekends and on the 10th.
const calendar = new Calendar('2027-03-01', 60, { week: '1111100', holidays: ['2027-03-10'] });
const ground = (change: Partial<RestGround> = {}): RestGround => ({
  left: dec(8),
  restPlan: 'spread',
  probabilityPercent: '100',
  unit: 'piece',
  until: 10,
  weekday: 0,
  ...change,
});
const of = (change: Partial<RestGround> = {}) =>
  restOf(ground(change), calendar).map(({ day, quantity }) => [day, quantity.toFixed()]);

describe('A7 what is left in no plan', () => {
  it('is spread over the working days left, a week at a time on its first', () => {
    // Five days, then three up to the 11th: the 10th is closed.
    expect(of()).toEqual([
      [0, '5'],
      [7, '3'],
    ]);
    // On a Thursday the week has two days left.
    expect(of({ weekday: 3, left: dec(16) }).map(([day]) => day)).toEqual([0, 4, 11].filter((day) => day <= 10));
  });

  it('keeps whole units whole, and parts of a kilogram where they may be', () => {
    expect(of({ left: dec(3) }).map(([, quantity]) => quantity)).toEqual(['2', '1']);
    expect(of({ left: dec(1), unit: 'kg' })).toEqual([
      [0, '0.625'],
      [7, '0.375'],
    ]);
  });

  it('is all on the last day, or not at all, as the agreement says', () => {
    expect(of({ restPlan: 'last' })).toEqual([[10, '8']]);
    expect(of({ restPlan: 'none' })).toEqual([]);
  });

  it('counts by how likely it is', () => {
    expect(of({ restPlan: 'last', probabilityPercent: '90', left: dec(10) })).toEqual([[10, '9']]);
    expect(of({ restPlan: 'last', probabilityPercent: '0' })).toEqual([]);
  });

  it('is nothing where nothing is left or it has ended, and on the last day where no day is worked', () => {
    expect(of({ left: dec(0) })).toEqual([]);
    expect(of({ until: -1 })).toEqual([]);
    const never = new Calendar('2027-03-01', 60, { week: '0000000', holidays: [] });
    expect(restOf(ground(), never).map(({ day }) => day)).toEqual([10]);
  });

  it('always comes to what is left, on working days that rise, within the days that are looked at', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.integer({ min: 0, max: 59 }), (left, until) => {
        const found = restOf(ground({ left: dec(left), until }), calendar);
        expect(sum(found.map(({ quantity }) => quantity)).toFixed()).toBe(String(left));
        const spread = found.filter(({ day }) => calendar.works(day));
        expect(found.length - spread.length).toBeLessThanOrEqual(1);
        expect(found.map(({ day }) => day)).toEqual([...new Set(found.map(({ day }) => day))].sort((a, b) => a - b));
        expect(new Set(spread.map(({ day }) => Math.floor(day / 7))).size).toBe(spread.length);
      }),
    );
    // Of a year, the days that are looked at have their share.
    const part = restOf(ground({ left: dec(260), until: 364 }), calendar);
    const share = Number(sum(part.map(({ quantity }) => quantity)).toFixed());
    expect(share).toBeGreaterThan(38);
    expect(share).toBeLessThan(47);
  });

  it('is committed less released less planned, never below nothing', () => {
    expect(leftInNoPlan('100', dec(30), dec(20)).toFixed()).toBe('50');
    expect(leftInNoPlan('100', dec(90), dec(20)).toFixed()).toBe('0');
  });
});
