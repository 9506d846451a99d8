import { leftOut } from './left-out';

it('tells each column that is left out, as it is written in the file', () => {
  expect(
    leftOut(['Customer', ' Colour ', 'ITEM', '', 'Shape'], ['customer', 'item']).map(({ column }) => column),
  ).toEqual(['Colour', 'Shape']);
  expect(leftOut(['Customer', 'item'], ['customer', 'item'])).toEqual([]);
});
