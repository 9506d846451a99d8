import { CUSTOMER_ACTS, fitsWords, meantFor, wordsOf } from './words';

describe('what is meant in the find-or-do box', () => {
  it.each([
    ['new sal', true],
    ['sal new', true],
    ['ord', true],
    ['ew', false],
    ['new purchase', false],
    ['', true],
  ])('New sales order is meant by %p: %p', (typed, fits) => {
    expect(fitsWords('New sales order', wordsOf(typed))).toBe(fits);
  });

  it('looks past what is no letter', () => {
    expect(fitsWords('Upkeep: checks, copies', wordsOf('copies upkeep'))).toBe(true);
  });

  it('takes the words of an act off, in any order, and looks for the rest', () => {
    const [order, out] = CUSTOMER_ACTS;
    expect(meantFor(wordsOf('New order Teratai'))).toEqual({ act: order, words: ['teratai'] });
    expect(meantFor(wordsOf('teratai bay ord new'))).toEqual({ act: order, words: ['teratai', 'bay'] });
    expect(meantFor(wordsOf('new order for kasturi'))).toEqual({ act: order, words: ['kasturi'] });
    expect(meantFor(wordsOf('go out kasturi'))).toEqual({ act: out, words: ['kasturi'] });
    expect(meantFor(wordsOf('new order'))).toBeNull();
    expect(meantFor(wordsOf('new teratai'))).toBeNull();
    expect(meantFor(wordsOf('teratai'))).toBeNull();
    expect(order!.path({ id: 4, number: 'C-1 4' })).toBe('/orders/new?customer=C-1%204');
    expect(out!.path({ id: 4, number: 'C-14' })).toBe('/to-go-out?days=all&customer=4');
  });
});
