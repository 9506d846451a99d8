import { dec } from '@core/kernel';
import type { FieldChange } from '@core/orders';
import type { Pair, PairEffects } from './pair-state';

/** What a pair edit makes another of each document, field by field: by order and by purchase. // L7 S8 */
export function pairFields(
  effects: PairEffects,
  pairs: readonly Pair[],
  addresses: ReadonlyMap<number, string>,
): { orders: Map<number, FieldChange[]>; purchases: Map<number, FieldChange[]> } {
  const found = { orders: new Map<number, FieldChange[]>(), purchases: new Map<number, FieldChange[]>() };
  const field = (of: Map<number, FieldChange[]>, id: number, what: string, was: string, is: string) => {
    if (was !== is) of.set(id, [...(of.get(id) ?? []), { what, was, is }]);
  };
  const address = (id: number | null) => (id === null ? '' : (addresses.get(id) ?? ''));
  for (const { id, shipToId } of effects.orders) {
    const order = pairs.find((pair) => pair.order.id === id)?.order;
    field(found.orders, id, 'ship to', address(order?.shipToId ?? null), address(shipToId));
  }
  for (const { id, shipToId } of effects.purchases) {
    const purchase = pairs.find((pair) => pair.purchase.id === id)?.purchase;
    field(found.purchases, id, 'ship to', address(purchase?.shipToId ?? null), address(shipToId));
  }
  for (const line of effects.sales) {
    const { order, sales } = pairs.find((pair) => pair.sales.id === line.id)!;
    field(found.orders, order.id, `quantity of line ${sales.lineNo}`, sales.quantity, dec(line.quantity).toFixed());
    field(found.orders, order.id, `ship date of line ${sales.lineNo}`, sales.shipDate, line.shipDate);
  }
  for (const line of effects.supply) {
    const { purchase, supply } = pairs.find((pair) => pair.supply.id === line.id)!;
    field(
      found.purchases,
      purchase.id,
      `quantity of line ${supply.lineNo}`,
      supply.quantity,
      dec(line.quantity).toFixed(),
    );
    field(found.purchases, purchase.id, `due date of line ${supply.lineNo}`, supply.dueDate, line.dueDate);
  }
  return found;
}
