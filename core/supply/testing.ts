import { dec, lineAmount } from '@core/kernel';
import type { Pair } from './pair-state';

export interface PairShape {
  quantity?: string;
  received?: string;
  route?: Pair['sales']['route'];
  sales?: Partial<Pair['sales']>;
  supply?: Partial<Pair['supply']>;
  order?: Partial<Pair['order']>;
  purchase?: Partial<Pair['purchase']>;
  /** Orders the purchase is for. */
  orderIds?: number[];
}

/** A drop shipment of 12 in step, its purchase at 620 and its order at 740. */
export function pair(id: number, shape: PairShape = {}): Pair {
  const { quantity = '12', received = '0', route = 'drop' } = shape;
  const amount = (price: string, of: string) => lineAmount(dec(of), dec(price), 'MYR').toFixed();
  const end = (lineId: number, price: string, of: string) => ({
    id: lineId,
    lineNo: 1,
    quantity: of,
    tied: quantity,
    unitPrice: price,
    amount: amount(price, of),
    agreedAmount: null,
    agreementLineId: null,
  });
  return {
    tieId: id,
    quantity,
    received,
    item: { id: 10, number: 'RO-4040', unit: 'piece', listPrice: '815' },
    order: {
      id,
      number: `SO-${id}`,
      state: 'confirmed',
      currency: 'MYR',
      shipToId: 3,
      shipToIds: [3, 4],
      drops:
        route === 'drop'
          ? [{ id: shape.purchase?.id ?? id, number: 'PO', orderIds: shape.orderIds ?? [shape.order?.id ?? id] }]
          : [],
      ...shape.order,
    },
    sales: {
      ...end(30 + id, '740', shape.sales?.quantity ?? quantity),
      route,
      shipped: route === 'drop' ? received : '0',
      reserved: '0',
      shipDate: '2027-03-12',
      ...shape.sales,
    },
    purchase: {
      id,
      number: `PO-${id}`,
      state: 'placed',
      currency: 'MYR',
      shipToId: route === 'drop' ? 3 : null,
      ...shape.purchase,
    },
    supply: {
      ...end(20 + id, '620', shape.supply?.quantity ?? quantity),
      received,
      dueDate: '2027-03-10',
      vendor: 'Arus',
      minimum: '0',
      multiple: '0',
      ...shape.supply,
    },
  };
}
