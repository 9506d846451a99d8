import { decideCloseMonth, decideReopenMonth, lastDayOf, monthOf, postingDay } from '.';

const ground = { closedThrough: '2027-02-28', workDate: '2027-04-01' };
const codes = (decision: { ok: boolean; refusals?: { field: string; code: string }[] }) =>
  decision.ok ? [] : decision.refusals!.map(({ field, code }) => `${field} ${code}`);

describe('P9 months', () => {
  it('end on their last day', () => {
    expect(['2027-01', '2027-02', '2028-02', '2027-04', '2027-12'].map(lastDayOf)).toEqual([
      '2027-01-31',
      '2027-02-28',
      '2028-02-29',
      '2027-04-30',
      '2027-12-31',
    ]);
    expect(monthOf('2027-03-31')).toBe('2027-03');
  });

  it('are posted in where they are open; what comes late goes on the first open day', () => {
    expect(postingDay('2027-02-28', '2027-02-28')).toBe('2027-03-01');
    expect(postingDay('2026-12-31', '2027-02-28')).toBe('2027-03-01');
    expect(postingDay('2027-03-01', '2027-02-28')).toBe('2027-03-01');
    expect(postingDay('2027-03-15', '2027-02-28')).toBe('2027-03-15');
    expect(postingDay('2020-01-01', null)).toBe('2020-01-01');
  });

  it('are closed once they are over, and once', () => {
    expect(decideCloseMonth(ground, '2027-03')).toMatchObject({
      ok: true,
      effects: { month: '2027-03', closed: true, closedThrough: '2027-03-31', reason: '' },
    });
    // On its last day a month still runs.
    expect(codes(decideCloseMonth({ ...ground, workDate: '2027-03-31' }, '2027-03'))).toEqual(['month month-runs']);
    expect(codes(decideCloseMonth(ground, '2027-04'))).toEqual(['month month-runs']);
    expect(codes(decideCloseMonth(ground, '2027-02'))).toEqual(['month month-closed']);
    expect(codes(decideCloseMonth(ground, '2026-11'))).toEqual(['month month-closed']);
    expect(codes(decideCloseMonth({ ...ground, closedThrough: null }, '2027-02'))).toEqual([]);
  });

  it('are opened again from the last one back, with why', () => {
    expect(decideReopenMonth(ground, '2027-02', ' a late invoice ')).toMatchObject({
      ok: true,
      effects: { month: '2027-02', closed: false, closedThrough: '2027-01-31', reason: 'a late invoice' },
    });
    expect(codes(decideReopenMonth(ground, '2027-02', '  '))).toEqual(['reason required']);
    expect(codes(decideReopenMonth(ground, '2027-01', 'x'))).toEqual(['month month-not-last']);
    expect(codes(decideReopenMonth(ground, '2027-03', 'x'))).toEqual(['month month-open']);
    expect(codes(decideReopenMonth({ ...ground, closedThrough: null }, '2027-02', ''))).toEqual([
      'month month-open',
      'reason required',
    ]);
  });
});
