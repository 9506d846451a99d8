import fc from 'fast-check';
import { dec, least } from '@core/kernel';
import {
  decideTie,
  decideToStock,
  decideUntie,
  fittingQuantity,
  rankSales,
  rankSupplies,
  type LoosePurchase,
  type SalesEnd,
  type SupplyEnd,
  type TieNow,
} from './index';

const sales = (change: Partial<SalesEnd> = {}): SalesEnd => ({
  id: 31,
  lineNo: 1,
  order: { id: 1, number: 'SO-1', state: 'confirmed' },
  item: { id: 10, number: 'RO-4040' },
  route: 'drop',
  shipToId: 3,
  locationId: 0,
  uncovered: '12',
  shipDate: '2027-03-12',
  ...change,
});
const supply = (change: Partial<SupplyEnd> = {}): SupplyEnd => ({
  id: 21,
  lineNo: 1,
  purchase: { id: 1, number: 'PO-1', state: 'placed' },
  item: { id: 10, number: 'RO-4040' },
  shipToId: 3,
  locationId: 0,
  untied: '12',
  dueDate: '2027-03-10',
  ...change,
});
const codeOf = (decision: { ok: boolean; refusals?: readonly { field: string; code: string }[] }) =>
  decision.refusals?.map(({ field, code }) => `${field}: ${code}`) ?? [];

describe('L5 tying after the fact', () => {
  it('joins both ends with a quantity that either has left', () => {
    const decision = decideTie(sales(), supply({ untied: '20' }), '8');
    expect(decision.ok && decision.effects).toEqual({ orderLineId: 31, purchaseLineId: 21, quantity: '8' });
  });

  it.each<[string, Partial<SalesEnd>, Partial<SupplyEnd>, string, string]>([
    ['another item', {}, { item: { id: 11, number: 'RO-2540' } }, '5', 'purchaseLineId: tie-other-item'],
    ['a drop shipment to another address', {}, { shipToId: 4 }, '5', 'purchaseLineId: tie-other-address'],
    ['a drop shipment to what comes to us', {}, { shipToId: null }, '5', 'purchaseLineId: tie-other-way'],
    ['a special order to a drop shipment', { route: 'special' }, {}, '5', 'purchaseLineId: tie-other-way'],
    [
      'a special order to what comes to another of our places',
      { route: 'special' },
      { shipToId: null, locationId: 1 },
      '5',
      'purchaseLineId: tie-other-location',
    ],
    ['a line from stock', { route: 'stock' }, { shipToId: null }, '5', 'orderLineId: line-not-bought'],
    [
      'a draft order',
      { order: { id: 1, number: 'SO-1', state: 'draft' } },
      {},
      '5',
      'orderLineId: order-not-confirmed',
    ],
    [
      'a closed purchase',
      {},
      { purchase: { id: 1, number: 'PO-1', state: 'closed' } },
      '5',
      'purchaseLineId: purchase-not-open',
    ],
    ['more than the line is open for', {}, { untied: '20' }, '13', 'quantity: above-open'],
    ['more than the purchase has left', {}, { untied: '4' }, '5', 'quantity: above-open'],
    ['nothing', {}, {}, '0', 'quantity: not-above-zero'],
    ['words', {}, {}, 'all', 'quantity: not-a-number'],
  ])('refuses %s', (_what, left, right, quantity, code) => {
    expect(codeOf(decideTie(sales(left), supply(right), quantity))).toEqual([code]);
  });

  it('a special order takes any address, as the goods come to us', () => {
    expect(fittingQuantity(sales({ route: 'special', shipToId: 9 }), supply({ shipToId: null })).toFixed()).toBe('12');
  });

  it('offers supplies in time before late ones, sooner before later, whole before part', () => {
    const offered = rankSupplies(sales(), [
      supply({ id: 1, dueDate: '2027-03-20' }),
      supply({ id: 2, dueDate: '2027-03-09', untied: '3' }),
      supply({ id: 3, dueDate: '2027-03-09' }),
      supply({ id: 4, dueDate: '2027-03-11' }),
      supply({ id: 5, shipToId: 7 }),
      supply({ id: 6, untied: '0' }),
    ]);
    expect(offered.map((each) => each.id)).toEqual([3, 2, 4, 1]);
  });

  it('offers lines that ship first before others, those it covers whole before parts', () => {
    const offered = rankSales(supply({ untied: '6' }), [
      sales({ id: 1, shipDate: '2027-03-20', uncovered: '6' }),
      sales({ id: 2, uncovered: '12' }),
      sales({ id: 3, uncovered: '5' }),
      sales({ id: 4, route: 'special' }),
    ]);
    expect(offered.map((each) => each.id)).toEqual([3, 2, 1]);
  });

  it('what is offered can be tied, and what can be tied is offered', () => {
    const end = {
      item: fc.constantFrom(10, 11),
      shipToId: fc.constantFrom(3, 4, null),
      quantity: fc.integer({ min: 0, max: 9 }),
    };
    fc.assert(
      fc.property(fc.record({ ...end, route: fc.constantFrom('stock', 'drop', 'special') }), fc.record(end), (a, b) => {
        const left = sales({
          item: { id: a.item, number: `I-${a.item}` },
          shipToId: a.shipToId,
          uncovered: String(a.quantity),
          route: a.route as SalesEnd['route'],
        });
        const right = supply({
          item: { id: b.item, number: `I-${b.item}` },
          shipToId: b.shipToId,
          untied: String(b.quantity),
        });
        const fits = fittingQuantity(left, right);
        expect(decideTie(left, right, least(dec(a.quantity), dec(b.quantity)).toFixed()).ok).toBe(fits.gt(0));
        expect(decideTie(left, right, fits.plus('0.00001').toFixed()).ok).toBe(false);
        expect(rankSupplies(left, [right])).toHaveLength(fits.gt(0) ? 1 : 0);
        expect(rankSales(right, [left])).toHaveLength(fits.gt(0) ? 1 : 0);
      }),
      { seed: 5 },
    );
  });
});

describe('L4 parting what is tied', () => {
  const tie = (received: string): TieNow => ({
    id: 1,
    quantity: '12',
    received,
    sales: { id: 31, lineNo: 1, order: { id: 1, number: 'SO-1' } },
    supply: { id: 21, lineNo: 1, purchase: { id: 1, number: 'PO-1' } },
  });

  it('is done while nothing was received on it, and not after', () => {
    expect(decideUntie([tie('0')]).ok).toBe(true);
    expect(codeOf(decideUntie([tie('0'), tie('0.5')]))).toEqual([': tie-received']);
  });
});

describe('L4 a loose drop shipment', () => {
  const loose = (change: Partial<LoosePurchase> = {}): LoosePurchase => ({
    id: 1,
    number: 'PO-1',
    state: 'placed',
    shipToId: 3,
    lines: [{ id: 21, lineNo: 1, tied: '0', received: '0' }],
    ...change,
  });

  it.each<[string, Partial<LoosePurchase>, string[]]>([
    ['that hangs loose', {}, []],
    ['that comes to us already', { shipToId: null }, [': comes-here-already']],
    ['that is still tied', { lines: [{ id: 21, lineNo: 1, tied: '5', received: '0' }] }, [': still-tied']],
    ['that is closed', { state: 'closed' }, [': purchase-not-open']],
  ])('%s may come to our stock: refused by %j', (_what, change, codes) => {
    expect(codeOf(decideToStock(loose(change)))).toEqual(codes);
  });
});
