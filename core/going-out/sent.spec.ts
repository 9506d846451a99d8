import { sentOut } from './index';

const goes = (id: number, change: Partial<Parameters<typeof sentOut>[0][number]> = {}) => ({
  id,
  customerId: 7,
  shipToId: 3,
  locationId: 0,
  now: '5',
  ...change,
});

describe('S9 what marked lines send out', () => {
  it('is what can go now', () => {
    const { lines } = sentOut([goes(1), goes(2, { now: '2' }), goes(3), goes(4, { now: '0' })], new Map());
    expect(lines).toEqual([
      { lineId: 1, quantity: '5' },
      { lineId: 2, quantity: '2' },
      { lineId: 3, quantity: '5' },
    ]);
  });

  it('is what was typed, where something was; a typed nothing stays, what is no quantity is refused where it stands', () => {
    const typed = new Map([
      [1, ' 3 '],
      [2, ''],
      [3, 'three'],
      [4, '0'],
    ]);
    expect(sentOut([goes(1), goes(2), goes(3), goes(4)], typed).lines).toEqual([
      { lineId: 1, quantity: '3' },
      { lineId: 3, quantity: 'three' },
    ]);
  });

  it('makes a shipment for each customer, address and place, not for each order', () => {
    const here = [goes(1), goes(2)];
    expect(sentOut(here, new Map()).shipments).toBe(1);
    expect(sentOut([...here, goes(3, { shipToId: 4 })], new Map()).shipments).toBe(2);
    expect(sentOut([...here, goes(3, { customerId: 8 })], new Map()).shipments).toBe(2);
    expect(sentOut([...here, goes(3, { locationId: 1 })], new Map()).shipments).toBe(2);
    expect(sentOut([...here, goes(3, { shipToId: 4, now: '0' })], new Map()).shipments).toBe(1);
  });
});
