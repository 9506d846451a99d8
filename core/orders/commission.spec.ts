import { decideCommission, type CommissionTyped } from './index';

const people = [
  { id: 1, name: 'Salmah' },
  { id: 5, name: 'Rashid' },
];
const decide = (shares: CommissionTyped['shares'], state: 'draft' | 'closed' | 'cancelled' = 'draft') =>
  decideCommission({ order: { number: 'SO-1', state }, people, now: [] }, { shares, was: [] });
const share = (personId: number | null, perCent: string) => ({ personId, perCent });

describe('S1 the commission of an order', () => {
  it('is one person’s, or shared, or nobody’s', () => {
    for (const shares of [[share(5, '100')], [share(1, '33.34'), share(5, '66.66')], []]) {
      const decision = decide(shares, 'closed');
      expect(decision.ok && decision.effects.shares).toEqual(shares);
    }
  });

  it.each<[string, CommissionTyped['shares'], string[]]>([
    ['less than all of it', [share(1, '60'), share(5, '30')], [': shares-not-whole']],
    ['more than all of it', [share(1, '60'), share(5, '60')], [': shares-not-whole']],
    ['somebody twice', [share(1, '50'), share(1, '50')], ['shares.1.personId: named-twice']],
    ['nobody, and nothing', [share(null, '0')], ['shares.0.personId: required', 'shares.0.perCent: not-a-percent']],
    ['a stranger', [share(9, '100')], ['shares.0.personId: required']],
  ])('is not %s', (_what, shares, refused) => {
    const decision = decide(shares);
    expect(decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`)).toEqual(refused);
  });

  it('is not shared over what somebody else shared meanwhile', () => {
    const order = { number: 'SO-1', state: 'draft' as const };
    const now = [{ personId: 5, perCent: '100.00' }];
    const over = (was: CommissionTyped['was']) => decideCommission({ order, people, now }, { shares: [], was });
    const refused = over([]);
    expect(refused.ok ? [] : refused.refusals.map(({ code }) => code)).toEqual(['commission-changed']);
    expect(over([{ personId: 5, perCent: '100' }]).ok).toBe(true);
  });

  it('of a cancelled order is nobody’s any more', () => {
    expect(decide([share(1, '100')], 'cancelled').ok).toBe(false);
  });
});
