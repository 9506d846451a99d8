import { AS_SHIPPED, inOrder, laidOut } from './layout';

const COLUMNS = ['number', 'customer', 'net', 'ships'].map((id) => ({ id, head: id, width: 100 }));
const ids = (columns: { id: string }[]) => columns.map(({ id }) => id).join(' ');

describe('how a list is laid out', () => {
  it('stands as it is shipped where nobody chose', () => {
    expect(laidOut(COLUMNS, AS_SHIPPED)).toEqual(COLUMNS);
  });

  it('stands in the chosen order, without what is hidden, as wide as it was made', () => {
    const layout = { order: ['net', 'number', 'customer', 'ships'], hidden: ['customer'], widths: { net: 240 } };
    const shown = laidOut(COLUMNS, layout);
    expect(ids(shown)).toBe('net number ships');
    expect(shown.map(({ width }) => width)).toEqual([240, 100, 100]);
  });

  it.each([
    [['ships', 'number'], 'ships number customer net'],
    [['customer'], 'number customer net ships'],
    [['gone', 'net'], 'number customer net ships'],
  ])('puts what %p does not name after what it usually follows', (order, shown) => {
    expect(ids(inOrder(COLUMNS, order))).toBe(shown);
  });
});
