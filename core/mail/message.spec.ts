import { decideMessage, isAddress, promiseMessage } from './index';

describe('a message to a party', () => {
  it.each([
    ['stores@teratai-bay.example', true],
    ['a.b+c@d.example', true],
    ['stores@teratai', false],
    ['stores teratai@bay.example', false],
    ['a@b.example, c@d.example', false],
    ['@b.example', false],
    ['a@b..', false],
    [`${'a'.repeat(65)}@b.example`, false],
  ])('%s', (text, expected) => {
    expect(isAddress(text)).toBe(expected);
  });

  it('is kept without needless space, its subject on one line', () => {
    expect(
      decideMessage({ recipient: ' a@b.example ', subject: 'Your\n order ', body: ' Here it is. ' }),
    ).toMatchObject({
      effects: { recipient: 'a@b.example', subject: 'Your order', body: 'Here it is.' },
    });
  });

  it('says everything that is missing at once', () => {
    const decision = decideMessage({ recipient: 'x', subject: ' ', body: '' });
    expect(!decision.ok && decision.refusals.map(({ field, code }) => `${field}: ${code}`)).toEqual([
      'recipient: not-an-address',
      'subject: required',
      'body: required',
    ]);
  });
});

describe('a message about days that moved (T9)', () => {
  const line = (order: string, lineNo: number, is: string) => ({
    order: { id: 1, number: order, reference: order === 'SO-1' ? 'KB-9' : '' },
    lineNo,
    item: 'UV-LAMP',
    quantity: '60',
    unit: 'piece',
    was: '2027-03-09',
    is,
  });
  const from = { person: 'Salmah', company: 'Hulu Bening' };

  it('names each line with both days, and is sorry only for delays', () => {
    const later = promiseMessage(
      'Kasturi',
      from,
      [line('SO-1', 1, '2027-03-22'), line('SO-2', 3, '2027-03-08')],
      '2027-03-01',
    );
    expect(later.subject).toBe('New days for SO-1 and SO-2');
    expect(later.body).toContain(
      'SO-1 (your KB-9), line 1: 60 pieces of UV-LAMP, going out Mon 22 Mar, not Tue 9 Mar (13 days later)',
    );
    expect(later.body).toContain(
      'SO-2, line 3: 60 pieces of UV-LAMP, going out Mon 8 Mar, not Tue 9 Mar (1 day sooner)',
    );
    expect(later.body).toContain('sorry');
    const sooner = promiseMessage('Kasturi', from, [line('SO-2', 3, '2027-03-08')], '2027-03-01');
    expect(sooner.subject).toBe('New day for SO-2');
    expect(sooner.body).not.toContain('sorry');
  });

  it('is in the language its customer reads', () => {
    const { subject, body } = promiseMessage('Kasturi', from, [line('SO-1', 1, '2027-03-22')], '2027-03-01', 'ms');
    expect(subject).toBe('Tarikh baharu bagi SO-1');
    expect(body).toContain(
      'SO-1 (rujukan anda KB-9), baris 1: 60 piece UV-LAMP, dihantar Isn 22 Mac 2027, bukan Sel 9 Mac 2027 (13 hari lewat)',
    );
    expect(body).toContain('Kami memohon maaf');
    expect(body).toContain('Sekian, terima kasih,\nSalmah, Hulu Bening');
  });

  it('stays within what a message may hold, however many lines move', () => {
    const many = Array.from({ length: 300 }, (_, at) => line(`SO-${at}`, at, '2027-03-22'));
    const { subject, body } = promiseMessage('Kasturi', from, many, '2027-03-01');
    expect(subject).toBe('New days for SO-0, SO-1, SO-2 and 297 more orders');
    expect(body).toContain('and 275 more');
    expect(body.length).toBeLessThan(4000);
    expect(subject.length).toBeLessThanOrEqual(200);
  });
});
