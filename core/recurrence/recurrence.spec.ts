import { recurrenceDays } from './index';

describe('recurrence (RFC 5545)', () => {
  it.each([
    ['FREQ=WEEKLY;INTERVAL=2', '2027-03-01', '2027-04-30', '2027-03-01 2027-03-15 2027-03-29 2027-04-12 2027-04-26'],
    ['FREQ=MONTHLY;BYMONTHDAY=31', '2027-01-31', '2027-07-31', '2027-01-31 2027-03-31 2027-05-31 2027-07-31'],
    ['FREQ=MONTHLY;BYDAY=1MO', '2027-03-01', '2027-06-30', '2027-03-01 2027-04-05 2027-05-03 2027-06-07'],
    ['FREQ=YEARLY', '2028-02-29', '2036-12-31', '2028-02-29 2032-02-29 2036-02-29'],
    ['FREQ=DAILY', '2027-03-27', '2027-03-29', '2027-03-27 2027-03-28 2027-03-29'],
  ])('%s from %s to %s', (rule, from, until, days) => {
    expect(recurrenceDays(rule, from, until)).toEqual(days.split(' '));
  });

  it.each([
    ['every Monday', '2027-03-01', '2027-04-01'],
    ['FREQ=WEEKLY;UNTIL=20280101T000000Z', '2027-03-01', '2027-04-01'],
    ['FREQ=WEEKLY', '2027-02-30', '2027-04-01'],
    ['FREQ=DAILY', '2027-01-01', '2029-01-01'],
    ['', '2027-01-01', '2027-02-01'],
  ])('does not read %s from %s to %s', (rule, from, until) => {
    expect(recurrenceDays(rule, from, until)).toBeNull();
  });

  it('gives nothing where it ends before it begins', () => {
    expect(recurrenceDays('FREQ=WEEKLY', '2027-04-01', '2027-03-01')).toEqual([]);
  });
});
