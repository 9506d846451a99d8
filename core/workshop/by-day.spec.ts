import { cellOf, isLate, workingDays } from './by-day';

/** Monday 1 March 2027; the Wednesday of the next week is a holiday. */
const TODAY = '2027-03-01';
const calendar = { id: 1, week: '1111100', holidays: ['2027-03-10'] };
const days = workingDays(TODAY, 6, calendar);

describe('W3 the workshop by day', () => {
  it('shows days that are worked', () => {
    expect(days).toEqual(['2027-03-01', '2027-03-02', '2027-03-03', '2027-03-04', '2027-03-05', '2027-03-08']);
    expect(workingDays('2027-03-06', 3, calendar)).toEqual(['2027-03-08', '2027-03-09', '2027-03-11']);
    expect(workingDays('2027-03-06', 2, null)).toEqual(['2027-03-06', '2027-03-07']);
    expect(workingDays(TODAY, 2, { ...calendar, week: '0000000' })).toEqual([]);
  });

  it.each<[string, string, string, boolean, string | null]>([
    ['should be over', '2027-02-25', '2027-02-26', true, 'behind'],
    ['should have begun', '2027-02-26', '2027-03-02', false, 'behind'],
    ['goes on today', '2027-02-26', '2027-03-02', true, '2027-03-01'],
    ['ends today', '2027-02-26', '2027-03-01', true, '2027-03-01'],
    ['begins today', '2027-03-01', '2027-03-01', false, '2027-03-01'],
    ['begins later', '2027-03-04', '2027-03-09', false, '2027-03-04'],
    ['is laid on a day nobody works', '2027-03-06', '2027-03-06', false, '2027-03-08'],
    ['comes after all that is shown', '2027-03-09', '2027-03-09', false, null],
  ])('an operation that %s', (_what, firstDay, lastDay, begun, cell) =>
    expect(cellOf({ firstDay, lastDay, begun }, TODAY, days)).toBe(cell),
  );

  it.each<[string, string, string, string | null, boolean]>([
    ['is for nobody', '2027-03-09', '2027-02-09', null, false],
    ['is there the day it ships', '2027-03-09', '2027-03-09', '2027-03-09', false],
    ['is there after it ships', '2027-03-09', '2027-03-09', '2027-03-08', true],
    ['should be over, and ships today', '2027-02-28', '2027-02-26', '2027-03-01', true],
    ['should be over, and ships later', '2027-02-28', '2027-02-26', '2027-03-02', false],
    ['is worked on until today, and ships today', '2027-03-01', '2027-03-01', '2027-03-01', false],
  ])('is late where it %s: %#', (_what, due, lastDay, shipDate, late) =>
    expect(isLate({ due, lastDay, shipDate }, TODAY)).toBe(late),
  );
});
