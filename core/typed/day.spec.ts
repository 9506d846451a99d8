import { addDays, dayText } from '@core/kernel';
import { readTypedDay } from './index';

const WORK_DATE = '2027-03-01';

describe('typed days', () => {
  it.each([
    ['11/3', '2027-03-11'],
    ['11/3/27', '2027-03-11'],
    ['11.3.2027', '2027-03-11'],
    ['11 mar', '2027-03-11'],
    ['2027-03-11', '2027-03-11'],
    ['+5', '2027-03-06'],
    ['-2', '2027-02-27'],
    ['fri', '2027-03-05'],
    ['mo', '2027-03-08'],
    ['today', '2027-03-01'],
    ['Thu 11 Mar', '2027-03-11'],
    ['31/12', '2027-12-31'],
    ['15/8', '2027-08-15'],
  ])('reads %s', (typed, day) => {
    expect(readTypedDay(typed, WORK_DATE)).toBe(day);
  });

  it.each(['', 'soon', '32/1', '29/2/27', '2027-02-30', '11', '1899-01-01'])('does not read %s', (typed) => {
    expect(readTypedDay(typed, WORK_DATE)).toBeNull();
  });

  it('reads back what it shows', () => {
    for (let ahead = -180; ahead < 180; ahead += 7) {
      const day = addDays(WORK_DATE, ahead);
      expect(readTypedDay(dayText(day, WORK_DATE), WORK_DATE)).toBe(day);
    }
  });

  it('reads a day long past as next year, and shows it with its year', () => {
    expect(readTypedDay('5/1', '2027-12-28')).toBe('2028-01-05');
    expect(dayText('2027-01-05', '2027-12-28')).toBe('Tue 5 Jan 2027');
    // In autumn a day in spring is the next one.
    expect(readTypedDay('30/3', '2026-11-30')).toBe('2027-03-30');
    expect(readTypedDay('1/6', '2026-11-30')).toBe('2026-06-01');
    expect(readTypedDay('30/5', '2026-11-30')).toBe('2027-05-30');
  });
});
