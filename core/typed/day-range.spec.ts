import { readTypedRange } from './day-range';

const TODAY = '2027-03-01';

describe('a range of days as it is typed', () => {
  it.each([
    ['1/3..5/3', '2027-03-01', '2027-03-05'],
    ['today..fri', '2027-03-01', '2027-03-05'],
    ['..-1', null, '2027-02-28'],
    ['+5..', '2027-03-06', null],
    ['11 mar', '2027-03-11', '2027-03-11'],
    [' 1/3 .. 1/3 ', '2027-03-01', '2027-03-01'],
  ])('reads %s', (typed, from, to) => {
    expect(readTypedRange(typed, TODAY)).toEqual({ from, to });
  });

  it.each(['', '..', 'soon', '1/3..soon', 'soon..1/3', '5/3..1/3', '1/3..2/3..3/3'])('takes %p for none', (typed) => {
    expect(readTypedRange(typed, TODAY)).toBeNull();
  });
});
