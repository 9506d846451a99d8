import fc from 'fast-check';
import type { Offer } from '@core/agreements';
import { dec, lineAmount, sum } from '@core/kernel';
import { decidePairs, type Pair, type PairChange, type PairEffects } from './index';
import { pair, type PairShape } from './testing';

const WORK_DATE = '2027-03-01';

const change = (given: Pair, to: Partial<PairChange>): PairChange => ({
  tieId: given.tieId,
  was: {
    quantity: given.quantity,
    shipDate: given.sales.shipDate,
    dueDate: given.supply.dueDate,
    shipToId: given.order.shipToId,
  },
  ...to,
});
function done(pairs: Pair[], changes: PairChange[], offers: Offer[] = []): PairEffects & { words: string[] } {
  const decision = decidePairs(pairs, changes, offers, WORK_DATE);
  if (!decision.ok) throw new Error(decision.refusals.map((each) => `${each.field} ${each.code}`).join());
  return { ...decision.effects, words: decision.warnings.map((each) => each.code) };
}
const refused = (pairs: Pair[], changes: PairChange[], offers: Offer[] = []) => {
  const decision = decidePairs(pairs, changes, offers, WORK_DATE);
  return decision.ok ? [] : decision.refusals.map((each) => `${each.field}: ${each.code}`);
};

const offer = (limitPolicy: Offer['agreement']['limitPolicy'], change_: Partial<Offer['line']> = {}): Offer => ({
  agreement: {
    id: 1,
    number: 'AG-1',
    basis: 'quantity',
    state: 'in-force',
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    currency: 'MYR',
    priority: 5,
    limitPolicy,
    tolerancePercent: '0',
  },
  line: {
    id: 5,
    lineNo: 1,
    itemId: 10,
    groupId: null,
    priceKind: 'fixed',
    priceValue: '740',
    breaks: [{ from: '20', value: '720' }],
    committed: '100',
    committedValue: '74000',
    released: '90',
    releasedValue: '66600',
    leastRelease: '0',
    releaseMultiple: '0',
    ...change_,
  },
});

describe('L7 the quantity of a pair', () => {
  it('A5 holds the limit on the whole of an agreement over all pairs together', () => {
    const whole = (limit: string) => ({ limit, unit: '', released: '66600', factors: new Map([[5, '1']]) });
    const on = (limit: string, policy: Offer['agreement']['limitPolicy'] = 'refuse') => {
      const own = offer(policy);
      return [{ ...own, agreement: { ...own.agreement, whole: whole(limit) } }];
    };
    const pairs = [1, 2].map((id) => pair(id, { sales: { agreementLineId: 5 } }));
    const changes = pairs.map((each) => change(each, { quantity: '13' }));
    expect(refused(pairs, changes, on('68080'))).toEqual([]);
    expect(refused(pairs, changes, on('68079'))).toEqual(['pairs: above-whole']);
    expect(refused(pairs, changes.slice(1), on('68079'))).toEqual([]);
    expect(done(pairs, changes, on('68079', 'warn')).words).toContain('above-whole');
  });

  it('changes both ends, the tie and both amounts', () => {
    const given = pair(1);
    const effects = done([given], [change(given, { quantity: '15' })]);
    expect(effects).toMatchObject({
      ties: [{ id: 1, by: '3' }],
      sales: [{ id: 31, quantity: '15', amount: '11100', tiedBy: '3' }],
      supply: [{ id: 21, quantity: '15', amount: '9300', tiedBy: '3' }],
      shown: [{ tieId: 1, quantity: '15', differs: '' }],
    });
  });

  it.each<[string, PairShape, string, [sales: string, supply: string]]>([
    ['raised where the order was raised alone takes what is open', { sales: { quantity: '14' } }, '14', ['14', '14']],
    [
      'raised where the purchase was raised alone takes what is loose',
      { supply: { quantity: '14' } },
      '14',
      ['14', '14'],
    ],
    ['raised beyond both raises both', { sales: { quantity: '14' }, supply: { quantity: '13' } }, '16', ['16', '16']],
    ['lowered lowers both', {}, '9', ['9', '9']],
    ['lowered to what the order was closed short to', { sales: { quantity: '9' } }, '9', ['9', '9']],
    ['lowered leaves what else is bought', { supply: { quantity: '20' } }, '10', ['10', '18']],
  ])('%s', (_what, shape, quantity, [sales, supply]) => {
    const given = pair(1, shape);
    const effects = done([given], [change(given, { quantity })]);
    expect([
      effects.sales[0]?.quantity ?? given.sales.quantity,
      effects.supply[0]?.quantity ?? given.supply.quantity,
    ]).toEqual([sales, supply]);
  });

  it('of a special order is bought as the vendor sells, and of a drop shipment with a word', () => {
    const by = { minimum: '10', multiple: '5' };
    const special = pair(1, { route: 'special', quantity: '7', supply: { ...by, quantity: '10' } });
    expect(done([special], [change(special, { quantity: '11' })]).supply).toMatchObject([
      { quantity: '15', tiedBy: '4' },
    ]);
    expect(done([special], [change(special, { quantity: '9' })]).supply).toMatchObject([
      { quantity: '10', tiedBy: '2' },
    ]);
    const drop = pair(1, { quantity: '10', supply: by });
    expect(done([drop], [change(drop, { quantity: '11' })])).toMatchObject({
      supply: [{ quantity: '11' }],
      words: ['vendor-sells-by'],
    });
  });

  it.each<[string, PairShape, Partial<PairChange>, string]>([
    ['below what came', { received: '5' }, { quantity: '4' }, 'pairs.0.quantity: below-moved'],
    [
      'below what is held',
      { route: 'special', sales: { reserved: '8' } },
      { quantity: '7' },
      'pairs.0.quantity: below-moved',
    ],
    ['zero', {}, { quantity: '0' }, 'pairs.0.quantity: not-above-zero'],
    ['words', {}, { quantity: 'more' }, 'pairs.0.quantity: not-a-number'],
    ['at a mixed price', { sales: { agreedAmount: '5000' } }, { quantity: '15' }, 'pairs.0.quantity: mixed-price'],
    ['of an order that is closed', { order: { state: 'closed' } }, { quantity: '15' }, 'pairs.0: order-not-confirmed'],
    [
      'of a purchase that is closed',
      { purchase: { state: 'closed' } },
      { quantity: '9' },
      'pairs.0: purchase-not-open',
    ],
    ['beyond all bounds', {}, { quantity: '9999999999' }, 'pairs.0.quantity: amount-too-large'],
  ])('is refused %s', (_what, shape, to, code) => {
    const given = pair(1, shape);
    expect([...new Set(refused([given], [change(given, to)]))]).toEqual([code]);
  });

  it('A5 holds the limits of agreements on both sides', () => {
    const given = pair(1, { sales: { agreementLineId: 5 } });
    const raise = (quantity: string) => [change(given, { quantity })];
    expect(refused([given], raise('23'), [offer('refuse')])).toEqual(['pairs.0.quantity: above-limit']);
    expect(refused([given], raise('23'), [offer('split')])).toEqual(['pairs.0.quantity: above-limit']);
    expect(done([given], raise('22'), [offer('refuse')]).released).toEqual([
      { agreementLineId: 5, quantity: '10', value: '7400' },
    ]);
    expect(done([given], raise('23'), [offer('warn')]).words).toContain('above-limit');
    expect(done([given], raise('23'), [offer('keep')]).words).not.toContain('above-limit');
    expect(done([given], raise('2'), [offer('refuse')]).released).toEqual([
      { agreementLineId: 5, quantity: '-10', value: '-7400' },
    ]);
    const two = [given, pair(2, { sales: { agreementLineId: 5 } })];
    const both = two.map((each) => change(each, { quantity: '18' }));
    expect(refused(two, both, [offer('refuse')])).toEqual(['pairs.1.quantity: above-limit']);
  });

  it('A3 says where a price break is crossed, and keeps the price', () => {
    const given = pair(1, { sales: { agreementLineId: 5 } });
    const effects = done([given], [change(given, { quantity: '20' })], [offer('refuse')]);
    expect(effects.words).toEqual(['break-crossed']);
    expect(effects.sales[0]!.amount).toBe('14800');
  });
});

describe('L7 dates and addresses of a pair', () => {
  it('sets either date, and says whether the ends still differ', () => {
    const late = pair(1, { supply: { dueDate: '2027-03-20' } });
    expect(done([late], [change(late, { shipDate: '2027-03-20' })])).toMatchObject({
      sales: [{ shipDate: '2027-03-20', tiedBy: '0', quantity: '12' }],
      supply: [],
      shown: [{ differs: '' }],
    });
    expect(done([late], [change(late, { dueDate: '2027-03-15' })]).shown).toMatchObject([{ differs: 'date' }]);
  });

  it('sends the order and its drop shipment elsewhere, and only the order of a special one', () => {
    const drop = pair(1);
    expect(done([drop], [change(drop, { shipToId: 4 })])).toMatchObject({
      orders: [{ id: 1, shipToId: 4 }],
      purchases: [{ id: 1, shipToId: 4 }],
      shown: [{ differs: '' }],
    });
    const special = pair(1, { route: 'special' });
    expect(done([special], [change(special, { shipToId: 4 })])).toMatchObject({ orders: [{ id: 1 }], purchases: [] });
  });

  it('sends every drop shipment of the order that is still to come', () => {
    const drops = [
      { id: 1, number: 'PO-1', orderIds: [1] },
      { id: 7, number: 'PO-7', orderIds: [1] },
    ];
    const given = pair(1, { order: { drops } });
    expect(done([given], [change(given, { shipToId: 4 })]).purchases).toEqual([
      { id: 1, number: 'PO-1', shipToId: 4 },
      { id: 7, number: 'PO-7', shipToId: 4 },
    ]);
  });

  it('does not send a purchase away from another order, unless both go there', () => {
    const shared = { purchase: { id: 9, number: 'PO-9' }, orderIds: [1, 2] };
    const two = [pair(1, shared), pair(2, shared)];
    expect(refused(two, [change(two[0]!, { shipToId: 4 })])).toEqual(['pairs.0.shipToId: purchase-shared']);
    const both = two.map((each) => change(each, { shipToId: 4 }));
    expect(done(two, both)).toMatchObject({ orders: [{ id: 1 }, { id: 2 }], purchases: [{ id: 9, shipToId: 4 }] });
  });

  it.each<[string, Partial<PairChange>, string]>([
    ['a day that is past', { shipDate: '2027-02-20' }, 'pairs.0.shipDate: ship-date-past'],
    ['no date', { dueDate: 'soon' }, 'pairs.0.dueDate: not-a-day'],
    ['an address of somebody else', { shipToId: 77 }, 'pairs.0.shipToId: unknown'],
  ])('is refused to %s', (_what, to, code) => {
    const given = pair(1);
    expect(refused([given], [change(given, to)])).toEqual([code]);
  });
});

describe('L7 many at once', () => {
  it('is refused where a tie is not as it was seen', () => {
    const given = pair(1);
    const seen = { ...change(given, { quantity: '15' }).was, quantity: '10', dueDate: '2027-03-01' };
    const decision = decidePairs([given], [{ ...change(given, { quantity: '15' }), was: seen }], [], WORK_DATE);
    expect(!decision.ok && decision.refusals).toMatchObject([
      { code: 'pair-changed', facts: { what: 'the quantity and the due date' } },
    ]);
  });

  it('does all or none, or the good ones where that is chosen', () => {
    const pairs = [pair(1), pair(2, { received: '6' }), pair(3)];
    const changes = pairs.map((each) => change(each, { quantity: '5' }));
    expect(refused(pairs, changes)).toEqual(['pairs.1.quantity: below-moved']);
    const good = decidePairs(pairs, changes, [], WORK_DATE, true);
    expect(good.ok && [good.effects.ties.map((tie) => tie.id), good.effects.leftOut]).toEqual([[1, 3], [2]]);
    expect(good.ok && good.warnings.map((each) => each.code)).toEqual(['below-moved']);
    const none = decidePairs(pairs.slice(1, 2), changes.slice(1, 2), [], WORK_DATE, true);
    expect(none.ok).toBe(false);
  });

  it('asks for a change, and knows its ties', () => {
    expect(refused([], [])).toEqual(['pairs: nothing-asked']);
    expect(refused([], [change(pair(8), { quantity: '1' })])).toEqual(['pairs.0: unknown']);
  });

  it('keeps ties within both ends, and takes a refused change back whole', () => {
    const step = fc.record({
      tie: fc.integer({ min: 1, max: 4 }),
      quantity: fc.integer({ min: 1, max: 30 }),
      shipToId: fc.option(fc.constantFrom(3, 4, 5), { nil: undefined }),
    });
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 8 }), fc.boolean(), (steps, goodOnly) => {
        // Two ties of one special sales line, two of one special purchase line.
        const sales = { id: 31, quantity: '24', tied: '24', amount: '17760' };
        const supply = { id: 23, quantity: '30', tied: '24', amount: '18600', multiple: '5' };
        const order = { id: 1, number: 'SO-1' };
        const pairs = [
          pair(1, { route: 'special', sales, order }),
          pair(2, { route: 'special', sales, order, received: '4' }),
          pair(3, { route: 'special', supply, purchase: { id: 3 } }),
          pair(4, { route: 'special', supply, purchase: { id: 3 } }),
        ];
        const changes = steps.map(({ tie, quantity, shipToId }) =>
          change(pairs[tie - 1]!, { quantity: String(quantity), ...(shipToId ? { shipToId } : {}) }),
        );
        const decision = decidePairs(pairs, changes, [], WORK_DATE, goodOnly);
        if (!decision.ok) return;
        const { effects } = decision;
        const tieOf = (each: Pair) =>
          dec(each.quantity).plus(effects.ties.find(({ id }) => id === each.tieId)?.by ?? '0');
        for (const end of ['sales', 'supply'] as const) {
          for (const id of new Set(pairs.map((each) => each[end].id))) {
            const own = pairs.filter((each) => each[end].id === id);
            const was = own[0]![end];
            const is = effects[end].find((line) => line.id === id);
            const quantity = dec(is?.quantity ?? was.quantity);
            const tied = dec(was.tied).plus(is?.tiedBy ?? '0');
            expect(sum(own.map(tieOf)).toFixed()).toBe(tied.toFixed());
            expect(quantity.gte(tied)).toBe(true);
            if (is) expect(is.amount).toBe(lineAmount(quantity, dec(was.unitPrice), 'MYR').toFixed());
          }
        }
        for (const each of pairs) expect(tieOf(each).gte(each.received)).toBe(true);
        for (const id of effects.leftOut) {
          const only = changes.filter((each) => each.tieId === id).length === 1;
          if (only) expect(effects.ties.some((tie) => tie.id === id)).toBe(false);
        }
      }),
      { seed: 17, numRuns: 300 },
    );
  });
});
