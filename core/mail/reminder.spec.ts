import { levelOf, reminderMessage } from './reminder';

const FROM = { person: 'Farida', company: 'Hulu Bening Water Works' };
const item = (number: string, dueDate: string, owed: string, reference = '') => ({ number, dueDate, owed, reference });

describe('a reminder of what is past due', () => {
  it.each([
    [1, 'friendly'],
    [30, 'friendly'],
    [31, 'firm'],
    [60, 'firm'],
    [61, 'last'],
  ])('%d days late is %s', (late, level) => expect(levelOf(late)).toBe(level));

  it('names each invoice, how long it is due, the whole, and what is asked', () => {
    const items = [item('CI-0001', '2027-01-20', '1200.5', 'R-7'), item('CI-0004', '2027-02-28', '99.5')];
    const { level, subject, body } = reminderMessage('Kasturi Bottling', FROM, items, 'MYR', '2027-03-01');
    expect([level, subject]).toEqual(['firm', 'Second reminder: MYR 1,300.00 past due']);
    expect(body.split('\n\n')).toEqual([
      'Dear Kasturi Bottling,',
      'by Mon 1 Mar 2027 we have not had your payment of:',
      'CI-0001 (your R-7): MYR 1,200.50, due Wed 20 Jan 2027, 40 days ago\nCI-0004: MYR 99.50, due Sun 28 Feb 2027, 1 day ago',
      'Together MYR 1,300.00. Please pay it within ten days, or tell us what stands against it.',
      'Kind regards,\nFarida, Hulu Bening Water Works',
    ]);
  });

  it('cuts a long list, and tells the whole of it', () => {
    const items = Array.from({ length: 27 }, (_, at) => item(`CI-${at}`, '2027-02-20', '10'));
    const { subject, body } = reminderMessage('Kasturi', FROM, items, 'JPY', '2027-03-01');
    expect(subject).toBe('Reminder: JPY 270 past due');
    expect(body).toContain('CI-24: ');
    expect(body).not.toContain('CI-25: ');
    expect(body).toContain('and 2 more');
  });

  it('is the last before orders are held, once the oldest is due for more than sixty days', () => {
    const { body } = reminderMessage('Kasturi', FROM, [item('CI-1', '2026-12-01', '1')], 'MYR', '2027-03-01');
    expect(body).toContain('hold what you have on order');
  });
});
