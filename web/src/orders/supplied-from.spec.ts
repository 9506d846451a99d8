import { suppliedName, suppliedOf, suppliedOptions, suppliedValue } from './supplied-from';

const MAIN = { id: 0, code: 'MAIN', name: 'Main store' };
const EAST = { id: 3, code: 'EAST', name: 'East coast store' };

describe('S1 how a line is supplied, and from where', () => {
  it('names the place where it is not the main one, and none for a drop shipment', () => {
    const name = (route: 'stock' | 'drop' | 'special', locationId: number) =>
      suppliedName({ route, locationId }, [MAIN, EAST]);
    expect([name('stock', 0), name('stock', 3), name('special', 3), name('drop', 3)]).toEqual([
      'our stock',
      'our stock at EAST',
      'special order to EAST',
      'drop shipment',
    ]);
  });

  it('offers every way by each place, only once where there is one place, and reads back what was chosen', () => {
    const labels = suppliedOptions(['stock', 'drop', 'special'], [MAIN, EAST]).map((each) => each.label);
    expect(labels).toEqual([
      'our stock',
      'our stock at EAST',
      'drop shipment',
      'special order',
      'special order to EAST',
    ]);
    expect(suppliedOptions(['stock', 'drop'], [MAIN])).toHaveLength(2);
    // Not read yet, or not to be read: everything is at the main one.
    expect(suppliedOptions(['stock'], []).map((each) => suppliedOf(each.value))).toEqual([
      { route: 'stock', locationId: 0 },
    ]);
    const chosen = { route: 'special' as const, locationId: 3 };
    expect(suppliedOf(suppliedValue(chosen))).toEqual(chosen);
    expect(suppliedOf(suppliedValue({ route: 'drop', locationId: 3 })).locationId).toBe(0);
  });
});
