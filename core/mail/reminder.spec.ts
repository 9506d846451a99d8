import { decideReminders, levelOf, reminderMessage } from './reminder';

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

describe('reminders', () => {
  it('are in the language their customer reads', () => {
    const items = [{ ...item('CI-1', '2027-02-20', '1240.5'), reference: 'KB-7' }];
    const { subject, body } = reminderMessage('Kasturi', FROM, items, 'MYR', '2027-03-01', 'ms');
    expect(subject).toBe('Peringatan: MYR 1,240.50 lewat dibayar');
    expect(body).toContain('Kepada Kasturi,');
    expect(body).toContain('sehingga Isn 1 Mac 2027 kami belum');
    expect(body).toContain('CI-1 (rujukan anda KB-7): MYR 1,240.50, perlu dibayar Sab 20 Feb 2027, lewat 9 hari');
  });

  const late = (customerId: number, number: string, currency = 'MYR') => ({
    ...item(number, '2027-02-20', '10'),
    customerId,
    customer: `Customer ${customerId}`,
    email: `c${customerId}@example.test`,
    language: 'en' as const,
    invoiceId: Number(number.slice(-1)),
    currency,
  });
  const told = (ids: number[], rows: ReturnType<typeof late>[], drafted: number[] = []) => {
    const decision = decideReminders({ late: rows, drafted: new Set(drafted), from: FROM }, ids, '2027-03-01');
    return decision.ok
      ? decision.effects.map(({ recipient, invoice, subject }) => [recipient, invoice.id, subject])
      : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
  };

  it('are one a customer and currency, about the oldest invoice', () => {
    expect(told([1, 2], [late(1, 'CI-1'), late(1, 'CI-2'), late(1, 'CI-3', 'SGD'), late(2, 'CI-4')])).toEqual([
      ['c1@example.test', 1, 'Reminder: MYR 20.00 past due'],
      ['c1@example.test', 3, 'Reminder: SGD 10.00 past due'],
      ['c2@example.test', 4, 'Reminder: MYR 10.00 past due'],
    ]);
  });

  it('are none for who owes nothing past its day, or of whom one waits', () => {
    expect(told([1, 2, 3], [late(1, 'CI-1'), late(3, 'CI-3')], [3])).toEqual([
      'customerIds.1: nothing-past-due',
      'customerIds.2: reminder-waits',
    ]);
  });
});
