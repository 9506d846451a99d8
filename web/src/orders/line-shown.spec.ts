import { orderLine } from '../../test/order';
import { keptDemand, keptPrice, typedDemand, typedPrice } from './line-shown';
import { blankLine } from './typed';

const typed = {
  ...blankLine('2027-03-01'),
  itemId: 2,
  number: 'RO-4040',
  quantity: '3',
  unit: 'crate',
  listPrice: '815',
};
const units = [
  { unit: 'piece', factor: '1' },
  { unit: 'crate', factor: '4' },
];

describe('the line that is shown below an order', () => {
  it('has no price and asks for nothing while it is blank', () => {
    expect(typedPrice(blankLine('2027-03-01'), undefined)).toBeNull();
    expect(typedDemand(blankLine('2027-03-01'))).toBeNull();
  });

  it('has its price as the server built it up, or the list price until it has', () => {
    expect(typedPrice(typed, undefined)).toMatchObject({ quantity: '3', unit: 'crate', listPrice: '815', steps: [] });
    const steps = [{ kind: 'agreement' as const, text: 'AG-0009', amount: '740' }];
    const found = { steps, listPrice: '820' } as never;
    expect(typedPrice(typed, found)).toMatchObject({ listPrice: '820', agreed: true, steps });
    expect(typedPrice({ ...typed, quantity: 'some' }, undefined)!.quantity).toBe('0');
  });

  it('asks for as many of the item’s own unit as its unit holds', () => {
    const line = { ...typed, units, id: 7, locationId: 1, shipDate: '2027-03-12' };
    expect(typedDemand(line)).toEqual({ itemId: 2, lineId: 7, locationId: 1, quantity: '12', by: '2027-03-12' });
  });

  it('tells of a kept line what is not given up, in the unit sold, and what is still open of it', () => {
    const line = {
      ...orderLine,
      quantity: '12',
      cancelled: '4',
      shipped: '2',
      sold: { ...orderLine.sold, unit: 'crate', factor: '4' },
    };
    expect(keptPrice(line, 'MYR', '2027-03-01')).toMatchObject({
      quantity: '2',
      unit: 'crate',
      agreed: true,
      shipped: null,
    });
    expect(keptDemand(line)).toMatchObject({ quantity: '6', lineId: 11, locationId: 0, by: '2027-03-12' });
  });

  it('tells what it was before it was priced again on the day it went out', () => {
    const line = {
      ...orderLine,
      pricedOn: '2027-03-10',
      orderedAmount: '9000',
      location: { id: 3, code: 'E', name: 'East' },
    };
    expect(keptPrice(line, 'MYR', '2027-03-01').shipped).toEqual({ day: 'Wed 10 Mar', before: '9,000.00' });
    expect(keptDemand(line).locationId).toBe(3);
  });
});
