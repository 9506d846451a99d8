import { decided, refuse, type Decision } from '../refusals';

/** The customer of an order knows on which days lines ship that were moved since. // W3 */
export function decideTold(order: {
  number: string;
  moved: readonly number[];
}): Decision<{ lineIds: readonly number[] }> {
  const refusals = order.moved.length === 0 ? [refuse('nothing-moved', '', { order: order.number })] : [];
  return decided(refusals, () => ({ lineIds: order.moved }));
}
