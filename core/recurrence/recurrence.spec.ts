import { onLastDays, readRecurrence, recurrenceDays, sayRecurrence, scarceDay } from './index';

describe('recurrence (RFC 5545)', () => {
  it.each([
    ['FREQ=WEEKLY;INTERVAL=2', '2027-03-01', '2027-04-30', '2027-03-01 2027-03-15 2027-03-29 2027-04-12 2027-04-26'],
    ['FREQ=MONTHLY;BYMONTHDAY=31', '2027-01-31', '2027-07-31', '2027-01-31 2027-03-31 2027-05-31 2027-07-31'],
    ['FREQ=MONTHLY;BYDAY=1MO', '2027-03-01', '2027-06-30', '2027-03-01 2027-04-05 2027-05-03 2027-06-07'],
    ['FREQ=YEARLY', '2028-02-29', '2036-12-31', '2028-02-29 2032-02-29 2036-02-29'],
    ['FREQ=DAILY', '2027-03-27', '2027-03-29', '2027-03-27 2027-03-28 2027-03-29'],
    ['FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', '2027-03-05', '2027-04-09', '2027-03-09 2027-03-23 2027-04-06'],
    ['FREQ=MONTHLY;INTERVAL=2;BYMONTHDAY=1', '2027-03-05', '2027-07-01', '2027-04-01 2027-06-01'],
    ['FREQ=WEEKLY;COUNT=2', '2027-03-01', '2027-12-31', '2027-03-01 2027-03-08'],
    ['FREQ=WEEKLY;COUNT=9', '2027-03-01', '2027-03-10', '2027-03-01 2027-03-08'],
    ['FREQ=WEEKLY;UNTIL=20270315', '2027-03-01', '2027-12-31', '2027-03-01 2027-03-08 2027-03-15'],
    [
      'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1',
      '2027-01-01',
      '2027-04-30',
      '2027-01-29 2027-02-26 2027-03-31 2027-04-30',
    ],
    ['FREQ=MONTHLY;BYMONTHDAY=28,29,30,31;BYSETPOS=-1', '2027-01-01', '2027-03-31', '2027-01-31 2027-02-28 2027-03-31'],
    ['FREQ=MONTHLY;BYMONTHDAY=28,29,30;BYSETPOS=-1', '2027-01-01', '2027-03-31', '2027-01-30 2027-02-28 2027-03-30'],
  ])('%s from %s to %s', (rule, from, until, days) => {
    expect(recurrenceDays(rule, from, until)).toEqual(days.split(' '));
  });

  it.each([
    ['every Monday', '2027-03-01', '2027-04-01'],
    ['FREQ=HOURLY', '2027-03-01', '2027-03-02'],
    ['FREQ=DAILY;BYHOUR=9', '2027-03-01', '2027-03-02'],
    ['FREQ=DAILY;INTERVAL=0', '2027-03-01', '2027-03-02'],
    ['DTSTART=20270301;FREQ=DAILY', '2027-03-01', '2027-03-02'],
    ['INTERVAL=2', '2027-03-01', '2027-03-02'],
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

describe('recurrence as it is said', () => {
  it.each([
    ['every day', 'FREQ=DAILY'],
    ['every 3 days', 'FREQ=DAILY;INTERVAL=3'],
    ['daily', 'FREQ=DAILY'],
    ['Every week', 'FREQ=WEEKLY'],
    ['every two weeks', 'FREQ=WEEKLY;INTERVAL=2'],
    ['every other week on Tuesday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU'],
    ['every fortnight', 'FREQ=WEEKLY;INTERVAL=2'],
    ['every Tuesday', 'FREQ=WEEKLY;BYDAY=TU'],
    ['Mondays and Thursdays', 'FREQ=WEEKLY;BYDAY=MO,TH'],
    ['every mon, wed and fri', 'FREQ=WEEKLY;BYDAY=MO,WE,FR'],
    ['every weekday', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
    ['every working day', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
    ['every second Tuesday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU'],
    ['every 2nd Tuesday of the month', 'FREQ=MONTHLY;BYDAY=2TU'],
    ['every month', 'FREQ=MONTHLY'],
    ['monthly', 'FREQ=MONTHLY'],
    ['every quarter', 'FREQ=MONTHLY;INTERVAL=3'],
    ['every 2 quarters', 'FREQ=MONTHLY;INTERVAL=6'],
    ['every 31st', 'FREQ=MONTHLY;BYMONTHDAY=31'],
    ['every month on the 15th', 'FREQ=MONTHLY;BYMONTHDAY=15'],
    ['the 1st and 15th of every month', 'FREQ=MONTHLY;BYMONTHDAY=1,15'],
    ['1st and 15th', 'FREQ=MONTHLY;BYMONTHDAY=1,15'],
    ['last day of the month', 'FREQ=MONTHLY;BYMONTHDAY=-1'],
    ['second last day of each month', 'FREQ=MONTHLY;BYMONTHDAY=-2'],
    ['last working day of the month', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1'],
    ['3rd working day of every 2 months', 'FREQ=MONTHLY;INTERVAL=2;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=3'],
    ['first Monday of the month', 'FREQ=MONTHLY;BYDAY=1MO'],
    ['first Monday and third Monday', 'FREQ=MONTHLY;BYDAY=1MO,3MO'],
    ['every 3 months on the last Friday', 'FREQ=MONTHLY;INTERVAL=3;BYDAY=-1FR'],
    ['last friday of each quarter', 'FREQ=MONTHLY;INTERVAL=3;BYDAY=-1FR'],
    ['every year', 'FREQ=YEARLY'],
    ['every year on 1 March', 'FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=1'],
    ['1 March and 1 September', 'FREQ=YEARLY;BYMONTH=3,9;BYMONTHDAY=1'],
    ['last Monday of May', 'FREQ=YEARLY;BYDAY=-1MO;BYMONTH=5'],
    ['every Tuesday until 30 June', 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20270630'],
    ['every Tuesday until 5 January', 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20280105'],
    ['every Tuesday until 5 January 2029', 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20290105'],
    ['every month, until 2027-12-31', 'FREQ=MONTHLY;UNTIL=20271231'],
    ['every month, 10 times', 'FREQ=MONTHLY;COUNT=10'],
    ['last working day of the month for six times', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1;COUNT=6'],
    ['RRULE:FREQ=YEARLY;BYYEARDAY=100', 'FREQ=YEARLY;BYYEARDAY=100'],
    ['freq=monthly;byday=1mo', 'FREQ=MONTHLY;BYDAY=1MO'],
  ])('%s', (typed, rule) => {
    const read = readRecurrence(typed, '2027-03-01');
    expect(read).toBe(rule);
    expect(recurrenceDays(rule, '2027-03-01', '2028-02-29')?.length).toBeGreaterThan(0);
  });

  it.each([
    '',
    'now and then',
    'every',
    'every blue moon',
    'every 2 weeks on the 15th',
    'every day on Monday',
    'the 32nd',
    'the 0th',
    'sixth Monday of the month',
    'the 1st and the last Monday',
    '1 March and 2 September',
    'every month until never',
    'every month, 0 times',
    'every month, some times',
    'every Tuesday or so',
    'last of the season',
  ])('does not read “%s”', (typed) => expect(readRecurrence(typed, '2027-03-01')).toBeNull());

  it('gives a later part of a long rule, counted from its first date', () => {
    expect(recurrenceDays('FREQ=DAILY', '2020-01-01', '2027-03-02', '2027-03-01')).toEqual([
      '2027-03-01',
      '2027-03-02',
    ]);
    expect(recurrenceDays('FREQ=WEEKLY;INTERVAL=2', '2027-03-02', '2027-04-01', '2027-03-10')).toEqual([
      '2027-03-16',
      '2027-03-30',
    ]);
    expect(recurrenceDays('FREQ=DAILY;COUNT=3', '2027-03-01', '2027-03-31', '2027-03-03')).toEqual(['2027-03-03']);
  });

  it('knows the days some months do not have, and can take their last one', () => {
    expect(scarceDay('FREQ=MONTHLY;BYMONTHDAY=31', '2027-03-01')).toBe(31);
    expect(scarceDay('FREQ=MONTHLY', '2027-03-30')).toBe(30);
    expect(scarceDay('FREQ=MONTHLY', '2027-03-28')).toBeNull();
    expect(scarceDay('FREQ=MONTHLY;BYMONTHDAY=-1', '2027-03-31')).toBeNull();
    expect(scarceDay('FREQ=MONTHLY;BYDAY=-1FR', '2027-03-31')).toBeNull();
    expect(scarceDay('FREQ=WEEKLY', '2027-03-31')).toBeNull();
    const days = (rule: string) => recurrenceDays(rule, '2027-01-31', '2027-05-31');
    expect(days(onLastDays('FREQ=MONTHLY;COUNT=3', 31))).toEqual(['2027-01-31', '2027-02-28', '2027-03-31']);
    expect(days(onLastDays('FREQ=MONTHLY;BYMONTHDAY=30', 30))).toEqual([
      '2027-02-28',
      '2027-03-30',
      '2027-04-30',
      '2027-05-30',
    ]);
    expect(days(onLastDays('FREQ=MONTHLY;INTERVAL=2;BYMONTHDAY=29', 29))).toEqual(['2027-02-28', '2027-04-29']);
  });
});

describe('a rule in words', () => {
  it.each([
    ['FREQ=WEEKLY;BYDAY=TU', 'every week on Tuesday'],
    ['FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TH', 'every 2 weeks on Monday, Thursday'],
    ['FREQ=MONTHLY;BYMONTHDAY=15', 'every month on the 15th'],
    ['FREQ=DAILY', 'every day'],
    ['nonsense', 'nonsense'],
  ])('%s', (rule, words) => expect(sayRecurrence(rule)).toBe(words));
});
