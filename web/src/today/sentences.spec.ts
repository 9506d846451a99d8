import { TODAY_KINDS, type TodayRow } from '@api/today';
import { sentenceOfRow } from './sentences';

const row = (change: Partial<TodayRow>): TodayRow => ({
  band: 'now',
  kind: 'purchase-due',
  document: { kind: 'PO', id: 9, number: 'PO-0009' },
  party: 'Arus Membrane Supply',
  count: 2,
  day: '2027-02-26',
  amount: '1234.5',
  currency: 'MYR',
  share: 0,
  note: '',
  orderLineId: null,
  ...change,
});

describe('Today', () => {
  it('says what is late, and how much, and leads to the act itself', () => {
    expect(sentenceOfRow(row({}), '2027-03-01')).toMatchObject({
      sentence: 'from Arus Membrane Supply was due Fri 26 Feb',
      detail: '2 lines open',
      step: 'Receive',
      link: '/purchases/9?do=receive',
    });
    expect(sentenceOfRow(row({ day: '2027-03-01' }), '2027-03-01').sentence).toContain('is due today');
  });

  it('counts the lines a purchase would be placed for', () => {
    const bench = { kind: 'line-without-supply', document: { kind: 'SO', id: 4, number: 'SO-0004' } } as const;
    expect(sentenceOfRow(row({ ...bench, count: 1 }), '2027-03-01').step).toBe('Place the purchase');
    expect(sentenceOfRow(row(bench), '2027-03-01')).toMatchObject({ step: 'Place 2 lines', link: '/bench?order=4' });
  });

  it('tells a remainder from a bare end, and leads to the wrap-up of both', () => {
    const past = { kind: 'agreement-past', document: { kind: 'AG', id: 1, number: 'AG-0001' } } as const;
    expect(sentenceOfRow(row(past), '2027-03-01')).toMatchObject({
      sentence: 'with Arus Membrane Supply ended Fri 26 Feb with a remainder',
      link: '/agreements/1?do=wrap-up',
    });
    expect(sentenceOfRow(row({ ...past, amount: '0' }), '2027-03-01')).toMatchObject({
      sentence: 'with Arus Membrane Supply ended Fri 26 Feb and is not wrapped up',
      detail: '',
    });
  });

  it('says which reminder fired', () => {
    const reminder = { kind: 'agreement-reminder', document: { kind: 'AG', id: 2, number: 'AG-0002' } } as const;
    expect(sentenceOfRow(row({ ...reminder, note: 'pace -15' }), '2027-03-01')).toMatchObject({
      sentence: 'with Arus Membrane Supply: pace at −15 points or less',
      detail: 'MYR 1,234.50 left',
      link: '/agreements/2',
    });
  });

  it('says which operation is late and when that ships, and whom a shortage touches', () => {
    const work = { document: { kind: 'PR', id: 7, number: 'PR-0007' }, amount: null } as const;
    const late = row({ ...work, kind: 'work-late', note: '10|Weld|SO-0009|2027-03-05' });
    expect(sentenceOfRow(late, '2027-03-01')).toMatchObject({
      sentence: 'for Arus Membrane Supply: Weld should be over since Fri 26 Feb',
      detail: 'SO-0009 ships Fri 5 Mar',
      link: '/workshop/7?do=lay',
    });
    expect(sentenceOfRow(row({ ...late, party: '', note: '10|Weld||' }), '2027-03-01')).toMatchObject({
      sentence: 'for our stock: Weld should be over since Fri 26 Feb',
      detail: '',
    });
    const short = row({ ...work, kind: 'component-short', note: '2 SK-PANEL', count: 3, day: '2027-03-02' });
    expect(sentenceOfRow(short, '2027-03-01')).toMatchObject({
      sentence: 'and 2 others begin Tue 2 Mar, 2 SK-PANEL short for Arus Membrane Supply',
      detail: '',
    });
    expect(sentenceOfRow({ ...short, count: 1, party: '', day: '2027-02-26' }, '2027-03-01')).toMatchObject({
      sentence: 'should have begun Fri 26 Feb, 2 SK-PANEL short',
      detail: 'for our stock',
    });
  });

  it('says whose customer is to be told of another day, and what is to arrive from our other places', () => {
    const order = { kind: 'SO' as const, id: 1, number: 'SO-1' };
    const short = { kind: 'line-short', document: order, party: 'Kasturi', day: '2027-03-09', count: 1 } as const;
    expect(sentenceOfRow(row({ ...short, note: '4 FV-900|2027-03-15|PO-2031' }), '2027-03-02')).toMatchObject({
      sentence: 'for Kasturi: 4 FV-900 short for Tue 9 Mar',
      detail: 'PO-2031 brings it Mon 15 Mar',
      link: '/orders/1',
    });
    expect(sentenceOfRow(row({ ...short, note: '4 FV-900||', count: 3 }), '2027-03-02')).toMatchObject({
      sentence: 'for Kasturi: 4 FV-900 short for Tue 9 Mar, and 2 other lines',
      detail: 'nothing brings it',
    });
    const goes = { kind: 'to-go-out', document: order, party: 'Kasturi', day: '2027-03-02', count: 2 } as const;
    expect(sentenceOfRow(row(goes), '2027-03-02')).toMatchObject({
      sentence: 'for Kasturi goes out today',
      detail: '2 lines',
      link: '/orders/1?do=ship',
    });
    expect(sentenceOfRow(row(goes), '2027-03-04').sentence).toBe('for Kasturi was to go out Tue 2 Mar');
    const moved = { kind: 'line-moved', party: 'Kasturi', note: '2027-03-05', day: '2027-03-09', count: 1 } as const;
    expect(sentenceOfRow(row(moved), '2027-03-01')).toMatchObject({
      sentence: 'for Kasturi: a line ships Tue 9 Mar instead of Fri 5 Mar',
      step: 'Tell them',
    });
    expect(sentenceOfRow(row({ ...moved, count: 2 }), '2027-03-01').sentence).toContain('2 lines ship Tue 9 Mar');
    const way = {
      kind: 'not-arrived',
      document: { kind: 'JR', id: 4, number: 'JR-4' },
      party: 'East',
      note: '2 PM-15',
    } as const;
    expect(sentenceOfRow(row({ ...way, day: '2027-03-01' }), '2027-03-01')).toMatchObject({
      sentence: 'is to bring 2 PM-15 to East today',
      link: '/carriages?q=JR-4',
    });
    expect(sentenceOfRow(row(way), '2027-03-01').sentence).toBe('was to bring 2 PM-15 to East Fri 26 Feb');
  });

  it('asks for payment only once it is late', () => {
    const owed = { kind: 'invoice-owed', document: { kind: 'CI', id: 3, number: 'CI-0003' } } as const;
    expect(sentenceOfRow(row(owed), '2027-03-01')).toMatchObject({
      step: 'They paid',
      link: '/billing/customer/3?do=pay',
    });
    expect(sentenceOfRow(row({ ...owed, day: '2027-03-20' }), '2027-03-01').link).toBe('/billing/customer/3');
  });

  it.each(TODAY_KINDS)('has a sentence, a step and a way for %s', (kind) => {
    const shown = sentenceOfRow(row({ kind }), '2027-03-01');
    expect(shown.sentence).toMatch(/Arus Membrane Supply/);
    expect(shown.step).not.toBe('');
    expect(shown.link).toMatch(/^\//);
  });
});
