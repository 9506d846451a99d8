import fc from 'fast-check';
import { dec, least, sum } from '@core/kernel';
import { dropTie } from './testing';
import { decideDropMove, decideStockShipment, mergeMoves, type StockLine } from './index';

const order = { id: 1, number: 'SO-1', state: 'confirmed' as const, customerId: 7, shipToId: 3, currency: 'MYR' };

function stockLine(
  id: number,
  change: Partial<StockLine['line']> = {},
  item: Partial<StockLine['item']> = {},
): StockLine {
  const onHand = item.onHand ?? '6';
  return {
    order,
    line: {
      id,
      lineNo: id,
      open: '5',
      shipped: '0',
      reserved: '0',
      route: 'stock',
      locationId: 0,
      unitPrice: '8.5',
      quantity: '5',
      amount: '42.5',
      agreedAmount: null,
      agreementLineId: null,
      ...change,
    },
    item: { id: 11, number: 'FC-20', onHand, free: onHand, stockValue: '12', ...item },
  };
}
const ask = (lineId: number, quantity: string, at = 0) => ({ lineId, quantity, field: `lines.${at}.quantity` });
const codes = (lines: StockLine[], ...asked: ReturnType<typeof ask>[]) => {
  const decision = decideStockShipment(lines, asked);
  return decision.ok ? [] : decision.refusals.map((refusal) => refusal.code);
};

describe('shipping from our place', () => {
  it('T1 takes from the line’s own location, at what goods cost there', () => {
    const lines = [
      stockLine(1, { open: '5' }, { onHand: '5', stockValue: '10' }),
      stockLine(2, { open: '5', locationId: 1 }, { onHand: '5', stockValue: '50' }),
    ];
    const decision = decideStockShipment(lines, [ask(1, '5'), ask(2, '4', 1)]);
    // One van leaves from each.
    const shipments = decision.ok ? decision.effects.shipments : [];
    expect(shipments.map(({ parts }) => parts.map((part) => [part.locationId, part.cost]))).toEqual([
      [[0, '10']],
      [[1, '40']],
    ]);
  });

  it('P3 costs at the moving average, and the last unit takes the last cent', () => {
    const three = stockLine(1, { open: '3' }, { onHand: '3', stockValue: '10' });
    const part = decideStockShipment([three], [ask(1, '1')]);
    expect(part.ok && part.effects.shipments[0]!.cost).toBe('3.33');
    const all = decideStockShipment([three], [ask(1, '3')]);
    expect(all.ok && all.effects.shipments[0]!.cost).toBe('10');
  });

  it.each<[string, StockLine[], [number, string][], string]>([
    [
      'more than is on hand over all lines of the item',
      [stockLine(1), stockLine(2)],
      [
        [1, '4'],
        [2, '3'],
      ],
      'above-on-hand',
    ],
    ['more than is open', [stockLine(1)], [[1, '6']], 'above-open'],
    [
      'a line twice beyond what is open',
      [stockLine(1)],
      [
        [1, '3'],
        [1, '3'],
      ],
      'above-open',
    ],
    ['nothing', [stockLine(1)], [[1, '0']], 'not-above-zero'],
    ['words', [stockLine(1)], [[1, 'all']], 'not-a-number'],
    ['a line that is not there', [stockLine(1)], [[9, '1']], 'unknown'],
    ['goods held for others', [stockLine(1, {}, { free: '2' })], [[1, '3']], 'above-on-hand'],
    ['a special order before its goods came', [stockLine(1, { route: 'special' })], [[1, '1']], 'not-here-yet'],
    [
      'a special order beyond what came',
      [stockLine(1, { route: 'special', reserved: '2' })],
      [[1, '3']],
      'not-here-yet',
    ],
  ])('refuses %s', (_what, lines, asked, code) => {
    expect(codes(lines, ...asked.map(([lineId, quantity], at) => ask(lineId, quantity, at)))).toEqual([code]);
  });

  it('L3 S3 takes what is held for the line first, then what is free', () => {
    const decision = decideStockShipment([stockLine(1, { reserved: '2' }, { free: '4' })], [ask(1, '5')]);
    expect(decision.ok && decision.effects.shipments[0]!.parts).toMatchObject([{ quantity: '5', held: '2' }]);
    const special = decideStockShipment(
      [stockLine(1, { route: 'special', reserved: '3' }, { free: '0' })],
      [ask(1, '3')],
    );
    expect(special.ok && special.effects.shipments[0]!.parts).toMatchObject([{ quantity: '3', held: '3' }]);
  });

  it('goes out with a drop shipment of the same order as one document', () => {
    const drop = decideDropMove([dropTie(1)], [{ lineId: 31, quantity: '2' }], 'order');
    const stock = decideStockShipment([stockLine(1, { open: '3' }, { onHand: '3', stockValue: '10' })], [ask(1, '3')]);
    if (!drop.ok || !stock.ok) throw new Error('refused');
    const merged = mergeMoves(drop.effects, stock.effects);
    expect(merged.shipments).toHaveLength(1);
    expect(merged.shipments[0]).toMatchObject({
      cost: '1250',
      parts: [{ from: { receipt: 0, part: 0 } }, { from: null }],
    });
  });

  it('S1 what goes from another place stays a shipment of its own, beside the drop shipment of its order', () => {
    const drop = decideDropMove([dropTie(1)], [{ lineId: 31, quantity: '2' }], 'order');
    const lines = [stockLine(1), stockLine(2, { locationId: 1 })];
    const stock = decideStockShipment(lines, [ask(1, '2'), ask(2, '3', 1)]);
    if (!drop.ok || !stock.ok) throw new Error('refused');
    const { shipments } = mergeMoves(drop.effects, stock.effects);
    expect(shipments.map(({ parts }) => parts.map((part) => [part.locationId, part.quantity]))).toEqual([
      [
        [0, '2'],
        [0, '2'],
      ],
      [[1, '3']],
    ]);
  });

  it('L3 S9 several orders of a customer to one address go together on one shipment, another address on its own', () => {
    const second = { ...order, id: 2, number: 'SO-2' };
    const elsewhere = { ...order, id: 3, number: 'SO-3', shipToId: order.shipToId + 1 };
    const others = { ...order, id: 4, number: 'SO-4', customerId: order.customerId + 1 };
    const lines = [
      stockLine(1),
      { ...stockLine(2), order: second },
      stockLine(3),
      { ...stockLine(4), order: elsewhere },
      { ...stockLine(5), order: others },
    ];
    const asked = [ask(1, '1'), ask(2, '1', 1), ask(3, '1', 2), ask(4, '1', 3), ask(5, '2', 4)];
    const decision = decideStockShipment(lines, asked);
    if (!decision.ok) throw new Error('refused');
    const { shipments } = decision.effects;
    expect(shipments.map(({ orderId, parts }) => [orderId, parts.map((part) => part.orderLineId)])).toEqual([
      [null, [1, 2, 3]],
      [3, [4]],
      [4, [5]],
    ]);
    expect(shipments.map(({ customerId, shipToId }) => [customerId, shipToId])).toEqual([
      [order.customerId, order.shipToId],
      [order.customerId, order.shipToId + 1],
      [order.customerId + 1, order.shipToId],
    ]);
    // Six were there, worth 12: the last unit takes the last cent.
    expect(shipments.map((each) => each.cost)).toEqual(['6', '2', '4']);
    expect(codes(lines, ask(1, '4'), ask(2, '3', 1))).toEqual(['above-on-hand']);
  });

  it('never takes what is held for another line, whatever is asked of whom', () => {
    const lines = fc.array(
      fc.record({
        reserved: fc.integer({ min: 0, max: 9 }),
        special: fc.boolean(),
        asked: fc.integer({ min: 1, max: 12 }),
      }),
      { minLength: 1, maxLength: 6 },
    );
    fc.assert(
      fc.property(lines, fc.integer({ min: 0, max: 20 }), (given, free) => {
        const onHand = String(given.reduce((total, each) => total + each.reserved, free));
        const all = given.map((each, index) =>
          stockLine(
            index + 1,
            { open: '50', quantity: '50', reserved: String(each.reserved), route: each.special ? 'special' : 'stock' },
            { onHand, free: String(free), stockValue: '1000' },
          ),
        );
        // Whoever cannot be served is refused and left out, as a person would.
        const served = given
          .flatMap((each, index) => [ask(index + 1, String(each.asked), index)])
          .filter(
            (each, index, asked) => decideStockShipment(all, [...acceptable(all, asked.slice(0, index)), each]).ok,
          );
        const decision = decideStockShipment(all, acceptable(all, served));
        const parts = decision.ok ? decision.effects.shipments.flatMap((shipment) => shipment.parts) : [];
        for (const part of parts) {
          const { reserved, special } = given[part.orderLineId - 1]!;
          expect(part.held).toBe(least(dec(part.quantity), dec(reserved)).toFixed());
          if (special) expect(part.held).toBe(part.quantity);
        }
        expect(sum(parts.map((part) => dec(part.quantity).minus(part.held))).lte(free)).toBe(true);
      }),
      { seed: 11 },
    );
  });
});

/** The first of the asks that can go together. */
function acceptable(lines: StockLine[], asked: readonly ReturnType<typeof ask>[]) {
  return asked.reduce<ReturnType<typeof ask>[]>((taken, each) => {
    const more = [...taken, each];
    return decideStockShipment(lines, more).ok ? more : taken;
  }, []);
}
