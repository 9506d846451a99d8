import { daysBetween, dayText, isDay } from './index';

const WORK_DATE = '2027-03-01';

describe('days', () => {
  it('shows the year only where it is another', () => {
    expect(dayText('2027-03-11', WORK_DATE)).toBe('Thu 11 Mar');
    expect(dayText('2026-12-31', WORK_DATE)).toBe('Thu 31 Dec 2026');
  });

  it('counts days over a change of clocks and a leap day', () => {
    expect(daysBetween('2028-02-28', '2028-03-01')).toBe(2);
    expect(daysBetween('2027-03-27', '2027-03-29')).toBe(2);
    expect(isDay('2028-02-29')).toBe(true);
    expect(isDay('2027-02-29')).toBe(false);
  });
});
