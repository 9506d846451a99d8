import { readPastedLines } from './index';

const read = (text: string) =>
  readPastedLines(text, '2027-03-01').map(({ row, item, quantity, unit, day, price, problem }) =>
    [row, item, quantity, unit, day, price, problem].map((each) => each ?? '–').join('|'),
  );

describe('rows pasted into an order', () => {
  it.each([
    ['FC-10\t100', ['1|FC-10|100||–||']],
    ['FC-10\t4\tbox\t11/3\t5.2', ['1|FC-10|4|box|2027-03-11|5.2|']],
    ['FC-10;4;;11/3', ['1|FC-10|4||2027-03-11||']],
    ['FC-10\t1,250\t\t5.2\tbox', ['1|FC-10|1250|box|–|5.2|']],
    ['\n\nFC-10  4\r\n', ['3|FC-10|4||–||']],
    ['FC-10', ['1|FC-10|||–||give an item and a quantity']],
    ['FC-10\tmany', ['1|FC-10|many||–||many is not a quantity']],
    ['FC-10\t4\tbox\t??', ['1|FC-10|4|box|–||?? is neither a unit, a date nor a price']],
  ])('%j', (text, expected) => {
    expect(read(text)).toEqual(expected);
  });
});
