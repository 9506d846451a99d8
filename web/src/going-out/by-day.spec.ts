import { goingRow } from '../../test/going';
import { byDay, comesWords, sheetWords } from './by-day';

const brings = (number: string, quantity: string, day: string, party = 'Garam Murni') => ({
  quantity,
  day,
  by: { kind: 'PO' as const, id: 5, number },
  party,
});
const TODAY = '2027-03-02';

describe('the sheet of what goes out', () => {
  it('stands by day, then by customer, address and place', () => {
    const rows = [
      goingRow({ lineId: 1 }),
      goingRow({ lineId: 2, customer: { id: 8, name: 'Arau Mills' } }),
      goingRow({ lineId: 3, order: { kind: 'SO', id: 2, number: 'SO-0002' } }),
      goingRow({ lineId: 4, location: { id: 1, name: 'East' } }),
      goingRow({ lineId: 5, shipDate: '2027-03-10' }),
    ];
    expect(
      byDay(rows).map(({ day, addresses }) => [
        day,
        addresses.map(({ customer, rows: own }) => [customer.name, own.map(({ lineId }) => lineId)]),
      ]),
    ).toEqual([
      [
        '2027-03-09',
        [
          ['Arau Mills', [2]],
          ['Kasturi Bottling', [1, 3]],
          ['Kasturi Bottling', [4]],
        ],
      ],
      ['2027-03-10', [['Kasturi Bottling', [5]]]],
    ]);
  });

  it('says what is short and what would end it, and what comes in time', () => {
    const late = [brings('PO-0007', '4', '2027-03-12'), brings('PR-0002', '1', '2027-03-15', '')];
    expect(comesWords(goingRow({ short: '5', late }), TODAY)).toBe(
      '5 short: PO-0007 of Garam Murni brings 4 Fri 12 Mar, PR-0002 brings 1 Mon 15 Mar',
    );
    expect(comesWords(goingRow({ short: '7', missing: '2', late }), TODAY)).toContain(', nothing brings 2');
    expect(comesWords(goingRow({ short: '7', missing: '7' }), TODAY)).toBe('7 short: nothing brings it');
    const coming = [brings('PO-0007', '4', '2027-03-05')];
    expect(comesWords(goingRow({ coming }), TODAY)).toBe('PO-0007 of Garam Murni brings 4 Fri 5 Mar');
    expect(comesWords(goingRow(), TODAY)).toBe('');
    expect(comesWords(goingRow({ coming, route: 'assemble' }), TODAY)).toBe('assembled as it goes, on PO-0007');
    expect(comesWords(goingRow({ coming, route: 'assemble', now: '3' }), TODAY)).toContain('brings 4');
  });

  it('counts lines, addresses and what is short', () => {
    expect(sheetWords([])).toBe('nothing leaves our places in these days');
    expect(sheetWords([goingRow()])).toBe('1 line to 1 address');
    const other = goingRow({ shipTo: { id: 4, label: 'Yard', town: 'Ipoh' }, short: '1' });
    expect(sheetWords([goingRow(), goingRow(), other])).toBe('3 lines to 2 addresses, 1 short');
  });
});
