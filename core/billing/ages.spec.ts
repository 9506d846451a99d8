import { agedByParty, agedOf } from './ages';

const item = (dueDate: string, owed: string) => ({ dueDate, owed });

describe('what is owed, by age', () => {
  it.each([
    ['2027-03-05', 0],
    ['2027-03-01', 0],
    ['2027-02-28', 1],
    ['2027-01-30', 1],
    ['2027-01-29', 2],
    ['2026-12-31', 2],
    ['2026-12-30', 3],
    ['2026-12-01', 3],
    ['2026-11-30', 4],
    ['2025-01-01', 4],
  ])('due %s stands in band %d on 1 Mar 2027', (due, band) => {
    const { ages } = agedOf([item(due, '10')], '2027-03-01');
    expect(ages.map((amount) => amount !== '0')).toEqual([0, 1, 2, 3, 4].map((at) => at === band));
  });

  it('sums up, with the oldest that is past due, and what stands to their credit apart', () => {
    const items = [
      item('2027-03-10', '5.5'),
      item('2027-02-20', '100'),
      item('2027-01-10', '-30'),
      item('2027-02-19', '0.25'),
    ];
    expect(agedOf(items, '2027-03-01')).toEqual({
      ages: ['5.5', '100.25', '0', '0', '0'],
      credit: '-30',
      total: '75.75',
      oldest: '2027-02-19',
      late: 10,
    });
  });

  it('has nothing late where nothing is past due', () => {
    expect(agedOf([item('2027-03-01', '5')], '2027-03-01')).toMatchObject({ oldest: null, late: 0 });
    expect(agedOf([], '2027-03-01')).toMatchObject({ total: '0', credit: '0', oldest: null });
  });
});

describe('what is owed, by party', () => {
  const owes = (id: number, name: string, dueDate: string, owed: string, currency = 'MYR') => ({
    party: { id, number: `C-${id}`, name },
    currency,
    dueDate,
    owed,
  });

  it('tells each party by currency, the longest due first, and sums each currency', () => {
    const { rows, sums } = agedByParty(
      [
        owes(1, 'Nilam', '2027-03-20', '10'),
        owes(2, 'Kasturi', '2027-03-30', '5'),
        owes(3, 'Padi', '2027-02-20', '7.5'),
        owes(1, 'Nilam', '2027-02-27', '2', 'SGD'),
        owes(3, 'Padi', '2027-03-10', '-1'),
      ],
      '2027-03-01',
    );
    expect(rows.map(({ party, currency, total, late }) => [party.name, currency, total, late])).toEqual([
      ['Padi', 'MYR', '6.5', 9],
      ['Nilam', 'SGD', '2', 2],
      ['Kasturi', 'MYR', '5', 0],
      ['Nilam', 'MYR', '10', 0],
    ]);
    expect(sums).toEqual([
      { currency: 'MYR', ages: ['15', '7.5', '0', '0', '0'], credit: '-1', total: '21.5' },
      { currency: 'SGD', ages: ['0', '2', '0', '0', '0'], credit: '0', total: '2' },
    ]);
  });
});
