import { dec } from '@core/kernel';
import { exchangeAt } from '../kernel/testing';
import type { DropTie } from './move';

/** A tie of a drop shipment for tests: 12 membranes from a vendor at 620 to a customer at 740. */
export function dropTie(
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
    purchase: { id: purchaseId, number: `PO-${purchaseId}`, state, vendorId: 8, exchange: exchangeAt() },
    purchaseLine: {
      id: 20 + id,
      lineNo: id,
      quantity,
      received,
      unitPrice: price,
      amount: dec(quantity).times(price).round(2).toFixed(),
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
      amount: dec(quantity).times(740).toFixed(),
      agreedAmount: null,
      unitPrice: '740',
      agreementLineId: 5,
    },
    item: { id: 10, number: 'RO-4040' },
  };
}
