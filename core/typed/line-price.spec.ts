import { readTypedLinePrice, typedLinePriceOf } from './index';

describe('R4 the price of a line as it is typed', () => {
  it.each([
    ['', { price: '', discount: '', reason: '' }],
    ['found', { price: '', discount: '', reason: '' }],
    ['4.10', { price: '4.10', discount: '', reason: '' }],
    ['1,250.5', { price: '1250.5', discount: '', reason: '' }],
    ['5 %', { price: '', discount: '5', reason: '' }],
    ['-7.5%', { price: '', discount: '7.5', reason: '' }],
    ['−7.5 %', { price: '', discount: '7.5', reason: '' }],
    ['0 under warranty', { price: '0', discount: '', reason: 'under warranty' }],
    ['0.00, a sample', { price: '0', discount: '', reason: 'a sample' }],
    ['0', { price: '0', discount: '', reason: '' }],
    ['cheap', { price: 'cheap', discount: '', reason: '' }],
    ['x %', { price: '', discount: 'x', reason: '' }],
  ])('%j', (typed, expected) => {
    expect(readTypedLinePrice(typed)).toEqual(expected);
  });

  it.each(['', '4.1', '-5 %', '0 under warranty'])('%j is typed as it was', (typed) => {
    expect(typedLinePriceOf(readTypedLinePrice(typed))).toBe(typed);
  });
});
