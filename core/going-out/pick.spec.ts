import { toPick } from './index';

const row = (lineId: number, item: string, now: string, location = 0) => ({
  lineId,
  lineNo: 1,
  order: { number: `SO-${lineId}` },
  customer: { name: 'Kasturi' },
  location: { id: location, name: location === 0 ? 'Main' : 'East' },
  item: { id: item.length, number: item, name: item, unit: 'piece' },
  now,
});

describe('S9 what is to be picked', () => {
  it('is each item once a place, in the order of their numbers, with all it is for', () => {
    const rows = [row(1, 'SALT-25', '2.5', 1), row(2, 'SALT-25', '4'), row(3, 'FC-10', '1'), row(4, 'SALT-25', '0.5')];
    expect(
      toPick(rows).map(({ location, items }) => [
        location.name,
        items.map(({ item, quantity, rows: own }) => [item.number, quantity, own.map(({ lineId }) => lineId)]),
      ]),
    ).toEqual([
      [
        'Main',
        [
          ['FC-10', '1', [3]],
          ['SALT-25', '4.5', [2, 4]],
        ],
      ],
      ['East', [['SALT-25', '2.5', [1]]]],
    ]);
  });

  it('leaves out what cannot go', () => {
    expect(toPick([row(1, 'SALT-25', '0')])).toEqual([]);
  });
});
