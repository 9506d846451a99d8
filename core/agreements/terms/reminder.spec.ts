import { addDays } from '@core/kernel';
import { isDue, reminderDay, reminderWords, type Reminder } from '../index';
import { reminderRefusals } from './reminder';

const term = { firstDay: '2027-01-01', lastDay: '2027-12-31', fulfilled: 0.4 };
const codes = (...reminders: Reminder[]) => reminderRefusals(reminders).map((refusal) => refusal.code);

describe('A9 reminders', () => {
  it('by days fire so many days before the last, and stay due after it', () => {
    const reminder: Reminder = { kind: 'days', at: '30' };
    expect(reminderDay(reminder, term.lastDay)).toBe('2027-12-01');
    expect(isDue(reminder, term, '2027-11-30')).toBe(false);
    expect(isDue(reminder, term, '2027-12-01')).toBe(true);
    expect(isDue(reminder, term, '2028-02-01')).toBe(true);
  });

  it('by share fire once that much is taken', () => {
    expect(isDue({ kind: 'fulfilled', at: '41' }, term, '2027-03-01')).toBe(false);
    expect(isDue({ kind: 'fulfilled', at: '40' }, term, '2027-03-01')).toBe(true);
    // 0.29 × 100 is a hair below 29 in floats.
    expect(isDue({ kind: 'fulfilled', at: '29' }, { ...term, fulfilled: 0.29 }, '2027-03-01')).toBe(true);
  });

  it('by pace fire when so many points behind, inside the term only', () => {
    const reminder: Reminder = { kind: 'pace', at: '-20' };
    // 40 % taken: 20 points behind once 60 % of the year is gone, its 219th day.
    const day = addDays(term.firstDay, 218);
    expect(isDue(reminder, term, addDays(day, -1))).toBe(false);
    expect(isDue(reminder, term, day)).toBe(true);
    expect(isDue(reminder, term, '2028-01-01')).toBe(false);
    expect(isDue(reminder, { ...term, fulfilled: 0 }, '2026-12-31')).toBe(false);
  });

  it('refuse what is out of bounds, no number, or there twice', () => {
    expect(codes({ kind: 'days', at: '30' }, { kind: 'pace', at: '-15' }, { kind: 'fulfilled', at: '15' })).toEqual([]);
    expect(codes({ kind: 'days', at: '3.5' }, { kind: 'fulfilled', at: '101' }, { kind: 'pace', at: 'x' })).toEqual([
      'not-a-reminder',
      'not-a-reminder',
      'not-a-reminder',
    ]);
    expect(codes({ kind: 'days', at: '-1' })).toEqual(['not-a-reminder']);
    expect(codes({ kind: 'fulfilled', at: '80' }, { kind: 'fulfilled', at: '80.0' })).toEqual(['reminder-twice']);
  });

  it('are said in words', () => {
    expect(reminderWords({ kind: 'days', at: '1' })).toBe('1 day before its end');
    expect(reminderWords({ kind: 'pace', at: '-15' })).toBe('pace at −15 points or less');
  });
});
