import fc from 'fast-check';
import { dec, lineAmount, sum } from '@core/kernel';
import { decideDropMove, decideStockShipment, mergeMoves, type DropTie, type StockLine } from './index';

function tie(
  id: number,
  change: Partial<{
    quantity: string;
    received: string;
    price: string;
    orderId: number;
    purchaseId: number;
    state: 'placed' | 'closed';
  }> = {},
): DropTie {
  const { quantity = '12', received = '0', price = '620', orderId = 1, purchaseId = 1, state = 'placed' } = change;
  return {
    tieId: id,
    quantity,
    received,
    purchase: { id: purchaseId, number: `PO-${purchaseId}`, state, vendorId: 8, currency: 'MYR' },
    purchaseLine: {
      id: 20 + id,
      lineNo: id,
      quantity,
      received,
      unitPrice: price,
      amount: '0',
      agreedAmount: null,
      agreementLineId: null,
    },
    order: { id: orderId, number: `SO-${orderId}`, state: 'confirmed', customerId: 7, shipToId: 3, currency: 'MYR' },
    orderLine: {
      id: 30 + id,
      lineNo: id,
      open: dec(quantity).minus(received).toFixed(),
      shipped: received,
      quantity,
      amount: '0',
      agreedAmount: null,
      unitPrice: '740',
      agreementLineId: 5,
    },
    item: { id: 10, number: 'RO-4040' },
  };
}

describe('L2 a drop shipment moves as one event', () => {
  it('makes receipt and shipment of the same part from either end', () => {
    const fromPurchase = decideDropMove([tie(1)], [{ lineId: 21, quantity: '8' }], 'purchase');
    const fromOrder = decideDropMove([tie(1)], [{ lineId: 31, quantity: '8' }], 'order');
    expect(fromPurchase).toEqual(fromOrder);
    if (!fromPurchase.ok) throw new Error('refused');
    expect(fromPurchase.effects.receipts).toMatchObject([
      { purchaseId: 1, cost: '4960', parts: [{ quantity: '8', cost: '4960' }] },
    ]);
    expect(fromPurchase.effects.shipments).toMatchObject([
      { orderId: 1, cost: '4960', parts: [{ quantity: '8', value: '5920', from: { receipt: 0, part: 0 } }] },
    ]);
  });

  it('makes one receipt for a purchase and one shipment for each order it serves', () => {
    const decision = decideDropMove(
      [tie(1), tie(2, { orderId: 2 })],
      [
        { lineId: 21, quantity: '12' },
        { lineId: 22, quantity: '12' },
      ],
      'purchase',
    );
    expect(decision.ok && [decision.effects.receipts.length, decision.effects.shipments.length]).toEqual([1, 2]);
  });

  it.each([
    ['13', 'above-open'],
    ['0', 'not-above-zero'],
    ['-1', 'not-above-zero'],
    ['a', 'not-a-number'],
  ])('refuses %s of 12 open', (quantity, code) => {
    const decision = decideDropMove([tie(1)], [{ lineId: 21, quantity }], 'purchase');
    expect(!decision.ok && decision.refusals.map((refusal) => [refusal.field, refusal.code])).toEqual([
      ['lines.0.quantity', code],
    ]);
  });

  it('refuses a line asked twice beyond what is open, an unknown one, and a closed purchase', () => {
    const twice = decideDropMove(
      [tie(1)],
      [
        { lineId: 21, quantity: '8' },
        { lineId: 21, quantity: '5' },
      ],
      'purchase',
    );
    expect(!twice.ok && twice.refusals[0]?.code).toBe('above-open');
    const unknown = decideDropMove([tie(1)], [{ lineId: 99, quantity: '1' }], 'purchase');
    expect(!unknown.ok && unknown.refusals[0]?.code).toBe('unknown');
    const closed = decideDropMove([tie(1, { state: 'closed' })], [{ lineId: 21, quantity: '1' }], 'purchase');
    expect(!closed.ok && closed.refusals[0]?.code).toBe('purchase-not-placed');
  });

  it('costs and values of parts sum to the line, in any parts', () => {
    const parts = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(parts, fc.integer({ min: 1, max: 99_999 }), (cuts, price) => {
        const quantity = sum(cuts.map((cut) => dec(cut))).toFixed();
        const unitPrice = dec(price).div(1000).round(4).toFixed();
        let received = dec(0);
        const costs = cuts.map((cut) => {
          const decision = decideDropMove(
            [tie(1, { quantity, received: received.toFixed(), price: unitPrice })],
            [{ lineId: 21, quantity: String(cut) }],
            'purchase',
          );
          if (!decision.ok) throw new Error('refused');
          received = received.plus(cut);
          return dec(decision.effects.receipts[0]!.cost);
        });
        expect(sum(costs).toFixed()).toBe(lineAmount(dec(quantity), dec(unitPrice), 'MYR').toFixed());
      }),
      { seed: 9 },
    );
  });
});

describe('shipping from stock', () => {
  const line = (id: number, open: string, onHand: string, stockValue: string): StockLine => ({
    order: { id: 1, number: 'SO-1', state: 'confirmed', customerId: 7, shipToId: 3, currency: 'MYR' },
    line: {
      id,
      lineNo: id,
      open,
      shipped: '0',
      unitPrice: '8.5',
      quantity: '0',
      amount: '0',
      agreedAmount: null,
      agreementLineId: null,
    },
    item: { id: 11, number: 'FC-20', onHand, stockValue },
  });
  const ask = (lineId: number, quantity: string) => ({ lineId, quantity, field: 'lines.0.quantity' });

  it('P3 costs at the moving average, and the last unit takes the last cent', () => {
    const part = decideStockShipment([line(1, '3', '3', '10')], [ask(1, '1')]);
    expect(part.ok && part.effects.shipments[0]!.cost).toBe('3.33');
    const all = decideStockShipment([line(1, '3', '3', '10')], [ask(1, '3')]);
    expect(all.ok && all.effects.shipments[0]!.cost).toBe('10');
  });

  it('refuses more than is on hand over all lines of the item', () => {
    const lines = [line(1, '5', '6', '12'), line(2, '5', '6', '12')];
    const decision = decideStockShipment(lines, [ask(1, '4'), ask(2, '3')]);
    expect(!decision.ok && decision.refusals[0]?.code).toBe('above-on-hand');
  });

  it('goes out with a drop shipment of the same order as one document', () => {
    const drop = decideDropMove([tie(1)], [{ lineId: 31, quantity: '2' }], 'order');
    const stock = decideStockShipment([line(1, '3', '3', '10')], [ask(1, '3')]);
    if (!drop.ok || !stock.ok) throw new Error('refused');
    const merged = mergeMoves(drop.effects, stock.effects);
    expect(merged.shipments).toHaveLength(1);
    expect(merged.shipments[0]).toMatchObject({
      cost: '1250',
      parts: [{ from: { receipt: 0, part: 0 } }, { from: null }],
    });
  });
});
