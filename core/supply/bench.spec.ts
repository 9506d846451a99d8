import type { Route } from '@core/catalogue';
import { addDays, boughtBy, Calendar, dec } from '@core/kernel';
import { differencesOf, proposeVendor, SupplyDays, vendorQuantity, type Offer, type TieEnds } from './index';
import { unrated, vendorRefusal } from './bench';

const offer = (vendorId: number, unitPrice: string, leadDays: number, preferred = false): Offer => ({
  vendorId,
  vendor: `Vendor ${vendorId}`,
  unitPrice,
  currency: 'MYR',
  ownPrice: unitPrice,
  leadDays,
  preferred,
  minimum: '0',
  multiple: '0',
  approved: true,
});

describe('L9 who may be asked instead', () => {
  const offers = [offer(1, '5', 2), { ...offer(2, '5', 2), approved: false }, offer(3, '6', 2)];
  const asked = (id: number, all: Offer[] = offers) => vendorRefusal(all, { id, name: 'Arus' }, 'HY-25', 'vendorId');
  it('is told where a vendor is not approved, or does not sell it', () => {
    expect(asked(1)).toBeNull();
    expect(asked(2)).toEqual({
      code: 'vendor-not-approved',
      field: 'vendorId',
      facts: { vendor: 'Vendor 2', item: 'HY-25', approved: 'Vendor 1 or Vendor 3' },
    });
    expect(asked(9)).toMatchObject({
      code: 'vendor-not-selling',
      facts: { vendor: 'Arus', item: 'HY-25', others: 'Vendor 1 or Vendor 3' },
    });
    expect(asked(9, [])).toMatchObject({ facts: { others: 'another item' } });
  });

  it('of two who are preferred the first by name is proposed', () => {
    expect(proposeVendor([offer(2, '5', 2, true), offer(1, '9', 9, true)])).toMatchObject({
      offer: { vendorId: 1 },
      reason: 'preferred',
    });
    const namesakes = [offer(2, '5', 2), { ...offer(1, '5', 2), vendor: 'Vendor 2' }];
    expect(proposeVendor(namesakes)?.offer.vendorId).toBe(1);
  });

  it('P8 a currency without a rate is told, with whose it is', () => {
    expect(unrated(offer(1, '5', 2), 'vendorId')).toEqual([]);
    expect(unrated({ ...offer(1, '5', 2), currency: 'USD', ownPrice: null }, 'vendorId')).toEqual([
      { code: 'no-rate-yet', field: 'vendorId', facts: { vendor: 'Vendor 1', currency: 'USD' } },
    ]);
  });
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
    [
      'P8 the cheapest in our currency',
      [offer(1, '9', 2), { ...offer(2, '5', 2), currency: 'USD', ownPrice: '22.4' }],
      1,
      'cheapest',
    ],
    [
      'P8 last one whose currency has no rate',
      [{ ...offer(1, '5', 2), currency: 'USD', ownPrice: null }, offer(2, '90', 9)],
      2,
      'cheapest',
    ],
    [
      'P8 the fastest where no rate is known of any',
      [
        { ...offer(1, '5', 9), ownPrice: null },
        { ...offer(2, '9', 2), ownPrice: null },
      ],
      2,
      'fastest',
    ],
    ['by name where all is equal', [offer(2, '5', 2), offer(1, '5', 2)], 1, 'fastest'],
  ])('is %s', (_what, offers, vendorId, reason) => {
    expect(proposeVendor(offers)?.offer.vendorId).toBe(vendorId);
    expect(proposeVendor(offers)?.reason).toBe(reason);
    // Whatever the order of rows.
    expect(proposeVendor([...offers].reverse())?.offer.vendorId).toBe(vendorId);
  });

  describe('supply is due on the ship date, or when the vendor can (T3)', () => {
    // Monday to Friday, closed on the 15th; the vendor works on Saturdays as well. One day to receive.
    const days = new SupplyDays({
      workDate: '2027-03-06',
      calendars: [
        { id: 1, week: '1111100', holidays: ['2027-03-15'] },
        { id: 2, week: '1111110', holidays: [] },
      ],
      ownCalendarId: 1,
      ownDays: 1,
      vendorCalendars: new Map([[7, 2]]),
    });
    const due = (vendorId: number, leadDays: number, route: Route, shipDate: string) =>
      days.due({ vendorId, leadDays }, route, shipDate);

    it.each([
      // Vendor 7 takes the order on Saturday the 6th; five of their days are Friday the 12th; received, and a day more,
      // is Tuesday the 16th, as the 15th is closed.
      [7, 5, 'special', '2027-03-08', '2027-03-16'],
      // Another works when we do: from Monday the 8th on, five days are the 16th and one more the 17th.
      [8, 5, 'special', '2027-03-08', '2027-03-17'],
      // Straight to the customer there is nothing for us to receive.
      [7, 5, 'drop', '2027-03-08', '2027-03-12'],
      [8, 5, 'drop', '2027-03-08', '2027-03-16'],
      // With time enough the last day that is worked: ours where it comes to us, theirs where it does not.
      [7, 5, 'special', '2027-03-20', '2027-03-19'],
      [7, 5, 'drop', '2027-03-20', '2027-03-20'],
      [7, 5, 'drop', '2027-03-21', '2027-03-20'],
      [7, 5, 'special', '2027-03-24', '2027-03-24'],
      // A day beyond what is looked at stays.
      [7, 5, 'special', '2031-03-23', '2031-03-23'],
    ] as const)('vendor %i in %i days, %s for %s: %s', (vendorId, leadDays, route, shipDate, expected) => {
      expect(due(vendorId, leadDays, route, shipDate)).toBe(expected);
    });

    it('is by the rule that promises use', () => {
      const calendar = { id: 1, week: '1111100', holidays: ['2027-03-15'] };
      for (let leadDays = 0; leadDays < 15; leadDays += 1) {
        const ownCalendar = new Calendar('2027-03-06', 400, calendar);
        const there = boughtBy(0, { days: leadDays, vendorCalendar: ownCalendar, ownDays: 1, ownCalendar });
        expect(due(8, leadDays, 'special', '2027-03-06')).toBe(addDays('2027-03-06', there));
      }
    });
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
    received: '0',
    sameAddress: true,
  };
  it.each<[Partial<TieEnds>, string[]]>([
    [{}, []],
    [{ supplyDate: '2027-03-01' }, []],
    [{ supplyDate: '2027-03-11' }, ['date']],
    [{ supplyDate: '2027-03-11', received: '11.5' }, ['date']],
    [{ supplyDate: '2027-03-11', received: '12' }, []],
    [{ salesQuantity: '14' }, ['quantity']],
    [{ supplyQuantity: '10', sameAddress: false }, ['quantity', 'address']],
    [{ route: 'special', supplyQuantity: '20', sameAddress: false }, []],
    [{ route: 'special', salesQuantity: '14', supplyDate: '2027-03-11' }, ['quantity', 'date']],
  ])('%j differs in %j', (change, expected) => {
    expect(differencesOf({ ...ends, ...change })).toEqual(expected);
  });
});
