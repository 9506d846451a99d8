import { dec } from '@core/kernel';
import { differencesOf, proposeVendor, supplyDue, vendorQuantity, type Offer, type TieEnds } from './index';

const offer = (vendorId: number, unitPrice: string, leadDays: number, preferred = false): Offer => ({
  vendorId,
  vendor: `Vendor ${vendorId}`,
  unitPrice,
  leadDays,
  preferred,
  minimum: '0',
  multiple: '0',
  approved: true,
});

describe('L8 the proposed vendor', () => {
  it.each<[string, Offer[], number | undefined, string | undefined]>([
    ['nobody', [], undefined, undefined],
    ['the only one', [offer(1, '9', 9)], 1, 'only'],
    ['the preferred, though dearer', [offer(1, '5', 3), offer(2, '9', 9, true)], 2, 'preferred'],
    ['the cheapest', [offer(1, '6', 1), offer(2, '5.5', 9)], 2, 'cheapest'],
    ['the fastest at one price', [offer(1, '5', 4), offer(2, '5.0', 2)], 2, 'fastest'],
    ['never one who is not approved', [{ ...offer(1, '5', 2, true), approved: false }, offer(2, '9', 9)], 2, 'only'],
    ['nobody where none is approved', [{ ...offer(1, '5', 2), approved: false }], undefined, undefined],
    ['by name where all is equal', [offer(2, '5', 2), offer(1, '5', 2)], 1, 'fastest'],
  ])('is %s', (_what, offers, vendorId, reason) => {
    expect(proposeVendor(offers)?.offer.vendorId).toBe(vendorId);
    expect(proposeVendor(offers)?.reason).toBe(reason);
    // Whatever the order of rows.
    expect(proposeVendor([...offers].reverse())?.offer.vendorId).toBe(vendorId);
  });

  it('supply is due on the ship date, or when the vendor can', () => {
    expect(supplyDue('2027-03-20', 8, '2027-03-01')).toBe('2027-03-20');
    expect(supplyDue('2027-03-05', 8, '2027-03-01')).toBe('2027-03-09');
  });
});

describe('L8 what a vendor sells', () => {
  it.each([
    ['7', '0', '0', '7'],
    ['7', '10', '0', '10'],
    ['7', '0', '5', '10'],
    ['10', '0', '5', '10'],
    ['0.5', '0', '0.2', '0.6'],
    ['11', '10', '4', '12'],
    ['3', '10', '4', '12'],
  ])('for a need of %s, at least %s in steps of %s, is %s', (need, minimum, multiple, bought) => {
    expect(vendorQuantity(dec(need), { minimum, multiple }).toFixed()).toBe(bought);
  });
});

describe('L6 in step', () => {
  const ends = {
    route: 'drop' as const,
    tied: '12',
    salesQuantity: '12',
    supplyQuantity: '12',
    shipDate: '2027-03-10',
    supplyDate: '2027-03-10',
    sameAddress: true,
  };
  it.each<[Partial<TieEnds>, string[]]>([
    [{}, []],
    [{ supplyDate: '2027-03-01' }, []],
    [{ supplyDate: '2027-03-11' }, ['date']],
    [{ salesQuantity: '14' }, ['quantity']],
    [{ supplyQuantity: '10', sameAddress: false }, ['quantity', 'address']],
    [{ route: 'special', supplyQuantity: '20', sameAddress: false }, []],
    [{ route: 'special', salesQuantity: '14', supplyDate: '2027-03-11' }, ['quantity', 'date']],
  ])('%j differs in %j', (change, expected) => {
    expect(differencesOf({ ...ends, ...change })).toEqual(expected);
  });
});
