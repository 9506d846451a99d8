import { pastedCells } from '@core/typed';
import { OPENING_KINDS } from './opening-kinds';
import { linesOf } from './opening';

const cellsOf = (text: string) => pastedCells(text).map(({ cells }) => cells);

describe('what a company begins with', () => {
  it.each(OPENING_KINDS)('$name is asked of its act as its example shows it, every column in its place', (kind) => {
    const [line, ...others] = linesOf(cellsOf(kind.example), kind);
    expect(others).toEqual([]);
    expect(line!.length).toBeLessThanOrEqual(kind.columns.length);
    const input = kind.input([line!]);
    expect(kind.endpoint.input.parse(input)).toEqual(input);
    const [{ ...cells }] = (input as { lines: [Record<string, unknown>] }).lines;
    // In the order of the columns; numbers of pieces may be several.
    expect(Object.values(cells).slice(0, line!.length)).toEqual(line!);
  });

  it('has no line for its headings, and keeps the ones without a figure that stand below', () => {
    const [stock] = OPENING_KINDS;
    const lines = linesOf(cellsOf('Item\tPlace\tQuantity\tCost\nCL-10\tMAIN\t40\t121\nCL-20\tMAIN\tmany\t1'), stock!);
    expect(lines.map(([item]) => item)).toEqual(['CL-10', 'CL-20']);
    expect(linesOf(cellsOf('CL-10\tMAIN\t40'), stock!)).toHaveLength(1);
  });

  it('says what it would do, and what stands so already', () => {
    const says = (what: string, effects: unknown) =>
      OPENING_KINDS.find((kind) => kind.what === what)!.says(effects, 'MYR');
    expect(says('stock', { lines: 2, cost: '4840' })).toBe('worth 4,840.00 together');
    expect(says('customers', { lines: 2, same: 1, own: '12.5' })).toBe('12.50 together; 1 line stands so already');
    expect(says('purchases', { purchases: 2, lines: 3, same: 0, nets: [{ currency: 'USD', net: '940' }] })).toBe(
      '2 purchases, USD 940.00',
    );
    expect(says('agreements', { lines: 1, same: 2 })).toBe('1 line told anew; 2 lines stand so already');
  });

  it('says when all of it stood so before', () => {
    for (const { what, done } of OPENING_KINDS) {
      const words = done({ made: [], touched: [] }, 3);
      expect([what, words]).toEqual([what, what === 'stock' ? '3 lines on hand.' : 'All of it stands so already.']);
    }
  });
});
