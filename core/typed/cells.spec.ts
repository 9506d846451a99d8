import { pastedCells, spreadsheetCells } from './cells';

describe('cells that are pasted', () => {
  it.each([
    [
      'a\tb\nc\td\n',
      [
        [1, 'a', 'b'],
        [2, 'c', 'd'],
      ],
    ],
    [
      'a\tb\r\n\r\nc\r\n',
      [
        [1, 'a', 'b'],
        [2, ''],
        [3, 'c'],
      ],
    ],
    // A cell that holds a line break, a tab or a quote stands between quotes.
    [
      '"two\nlines"\tb\nc',
      [
        [1, 'two\nlines', 'b'],
        [3, 'c'],
      ],
    ],
    ['"a\tb"\t"say ""so"""', [[1, 'a\tb', 'say "so"']]],
    // An inch is no quote.
    ['pipe 3/4" long\t4', [[1, 'pipe 3/4" long', '4']]],
    [
      '3/4"\t1\n1/2"\t2',
      [
        [1, '3/4"', '1'],
        [2, '1/2"', '2'],
      ],
    ],
    [' 00123 \t 1.10 ', [[1, '00123', '1.10']]],
  ])('of a spreadsheet: %j', (text, expected) => {
    expect(spreadsheetCells(text).map(({ row, cells }) => [row, ...cells])).toEqual(expected);
  });

  it.each([
    ['a;b; c', [[1, 'a', 'b', 'c']]],
    [
      'a  b, c\n\n1,250;x',
      [
        [1, 'a', 'b', 'c'],
        [3, '1,250', 'x'],
      ],
    ],
    ['\t\t\na\tb', [[2, 'a', 'b']]],
    ['', []],
  ])('of text: %j', (text, expected) => {
    expect(pastedCells(text).map(({ row, cells }) => [row, ...cells])).toEqual(expected);
  });
});
