import { decideConfirm, type ConfirmGround, type Confirmer, type CustomerStanding } from './index';

const WORK_DATE = '2027-03-01';
const customer: CustomerStanding = {
  name: 'Teratai Bay Resort',
  currency: 'MYR',
  referenceRequired: true,
  creditLimit: null,
  balance: '0',
  onOrder: '0',
  permitsOf: 'Teratai Bay Resort',
  permits: [],
};
const line: ConfirmGround['lines'][number] = {
  lineNo: 1,
  unitPrice: '740',
  amount: '8880',
  taxCode: '1',
  taxRate: '6',
  reason: '',
  shipDate: '2027-03-10',
  route: 'drop',
  optionIds: [],
  item: { number: 'RO-4040', stocked: false, hasVendor: true, obtained: 'buy', options: [], permit: null },
};
const order = { number: 'SO-0001', state: 'draft' as const, shipToId: 3, customerReference: 'R-1' };
const NOBODY: Confirmer = { mayPassCredit: false, creditReason: '' };

function confirm(change: Partial<ConfirmGround>, by = NOBODY) {
  const decision = decideConfirm({ order, customer, lines: [line], ...change }, WORK_DATE, by);
  return decision.ok ? decision.effects : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
}

describe('confirming', () => {
  it('S2 takes a whole order', () => {
    expect(confirm({})).toEqual({ state: 'confirmed', permits: [null], creditReason: '' });
  });

  it('S2 says everything at once and each at its field', () => {
    const bad = { ...line, unitPrice: '0', shipDate: '2027-02-01', item: { ...line.item, hasVendor: false } };
    expect(confirm({ order: { ...order, shipToId: null, customerReference: '' }, lines: [bad] })).toEqual([
      'shipToId: required',
      'customerReference: reference-required',
      'lines.0.price: price-missing',
      'lines.0.shipDate: ship-date-past',
      'lines.0.route: no-vendor',
    ]);
  });

  it('S2 takes a price of nothing with a reason', () => {
    const free = { ...line, unitPrice: '0', amount: '0', reason: 'under warranty' };
    expect(confirm({ lines: [free] })).toMatchObject({ state: 'confirmed' });
  });

  describe('S4 credit', () => {
    // 8,880 and 6 % tax are 9,412.80.
    const upTo = (creditLimit: string | null) => ({
      customer: { ...customer, creditLimit, balance: '500', onOrder: '100' },
    });
    it.each([
      [null, 'confirmed'],
      ['10012.8', 'confirmed'],
      ['10012.79', ['creditReason: over-credit']],
      ['0', ['creditReason: over-credit']],
    ])('up to %s', (limit, expected) => {
      const found = confirm(upTo(limit));
      expect(Array.isArray(found) ? found : found.state).toEqual(expected);
    });

    it('is passed by who may, with a reason that is kept', () => {
      expect(confirm(upTo('10000'), { mayPassCredit: true, creditReason: ' ' })).toEqual([
        'creditReason: over-credit-why',
      ]);
      expect(confirm(upTo('10000'), { mayPassCredit: true, creditReason: ' paid tomorrow ' })).toMatchObject({
        creditReason: 'paid tomorrow',
      });
      expect(confirm(upTo('10000'), { mayPassCredit: false, creditReason: 'paid tomorrow' })).toEqual([
        'creditReason: over-credit',
      ]);
    });

    it('keeps no reason where nothing was passed', () => {
      expect(confirm({}, { mayPassCredit: true, creditReason: 'for luck' })).toMatchObject({ creditReason: '' });
    });
  });

  describe('S5 permits', () => {
    const needs = { ...line, item: { ...line.item, permit: { id: 7, name: 'handling permit' } } };
    const permit = (id: number, typeId: number, firstDay: string, lastDay: string) => ({
      id,
      typeId,
      firstDay,
      lastDay,
    });
    const held = (...permits: CustomerStanding['permits'][number][]) =>
      confirm({ customer: { ...customer, permits }, lines: [needs, line] });

    it('attaches the one that is valid on the ship date, and lasts longest', () => {
      const found = held(
        permit(1, 7, '2026-01-01', '2027-03-10'),
        permit(2, 7, '2026-01-01', '2027-12-31'),
        permit(3, 7, '2027-03-11', '2028-12-31'),
        permit(4, 8, '2026-01-01', '2029-12-31'),
      );
      expect(found).toMatchObject({ permits: [2, null] });
    });

    it.each([
      ['there is none', []],
      ['it runs out the day before', [permit(1, 7, '2026-01-01', '2027-03-09')]],
      ['it begins the day after', [permit(1, 7, '2027-03-11', '2027-12-31')]],
      ['it is of another kind', [permit(1, 8, '2026-01-01', '2027-12-31')]],
    ])('refuses where %s', (_what, permits) => {
      expect(held(...permits)).toEqual(['lines.0.itemId: permit-missing']);
    });
  });
});
