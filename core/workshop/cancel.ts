import { dec } from '@core/kernel';
import { decided, refuse, type Decision } from '@core/refusals';
import type { WorkOrder } from './work-order';

/** An order that makes something with what is planned below it. */
export interface CancelGround {
  order: Pick<WorkOrder, 'id' | 'number' | 'state' | 'finished' | 'scrapped' | 'inWork'>;
  /** Reports of it that stand. */
  reports: number;
  /** Orders below it, all the way down, that are only planned. */
  below: readonly number[];
}

/** Cancels an order nothing was reported on, with what is only planned for it; what is firm below stays, for nobody. // W4 */
export function decideCancelWork({ order, reports, below }: CancelGround): Decision<{ cancelled: number[] }> {
  if (order.state === 'finished' || order.state === 'cancelled') {
    return { ok: false, refusals: [refuse('work-not-open', '', { work: order.number, state: order.state })] };
  }
  const begun = reports > 0 || dec(order.finished).plus(order.scrapped).gt(0) || !dec(order.inWork).eq(0);
  return decided(begun ? [refuse('work-begun', '', { order: order.number })] : [], () => ({
    cancelled: [order.id, ...below],
  }));
}
