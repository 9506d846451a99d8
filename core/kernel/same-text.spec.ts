import { sameText } from './same-text';

describe('same text', () => {
  it.each([
    ['Hotels', 'hôtels '],
    ['12', '１２'],
    ['Maße', 'MASSE'],
    ['ﬁlter', 'Filter'],
    ['Å', 'a'],
  ])('%s is %s', (one, other) => expect(sameText(one)).toBe(sameText(other)));

  it.each([
    ['Hotels', 'Hostels'],
    ['12', '21'],
    [' 12', '12'],
    ['', '-'],
  ])('%s is not %s', (one, other) => expect(sameText(one)).not.toBe(sameText(other)));
});
