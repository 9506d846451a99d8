import fc from 'fast-check';
import { dec, lineAmount, sum } from '@core/kernel';
import { dropTie as tie } from './testing';
import { decideDropMove } from './index';

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
