import fc from 'fast-check';
import { itemAt, locationAt, pointOf } from './index';

describe('T1 an item at a location', () => {
  it('is the item itself at the main location, and gives both back anywhere', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 2 ** 32 - 1 }), fc.integer({ min: 0, max: 65_535 }), (item, location) => {
        const point = pointOf(item, location);
        expect(Number.isSafeInteger(point)).toBe(true);
        expect([itemAt(point), locationAt(point)]).toEqual([item, location]);
        expect(pointOf(item, 0)).toBe(item);
      }),
      { seed: 5 },
    );
  });
});
