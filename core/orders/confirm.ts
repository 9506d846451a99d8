import { dec, ZERO, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { routeFits, routeIsBought, ROUTE_NAMES, type Route } from '@core/catalogue';
import type { OrderState } from './order';

export interface ConfirmGround {
  order: { number: string; state: OrderState; shipToId: number | null; customerReference: string };
  customer: { name: string; referenceRequired: boolean };
  lines: readonly {
    lineNo: number;
    unitPrice: string;
    shipDate: Day;
    route: Route;
    item: { number: string; stocked: boolean; hasVendor: boolean };
  }[];
}

/** Confirms a draft order: every check at once, each at its field. // S2 */
export function decideConfirm(ground: ConfirmGround, workDate: Day): Decision<{ state: OrderState }> {
  const { order, customer, lines } = ground;
  const refusals: Refusal[] = [];
  if (order.state !== 'draft') {
    refusals.push(refuse('order-not-draft', '', { order: order.number, state: order.state }));
  }
  if (order.shipToId === null) {
    refusals.push(refuse('required', 'shipToId', { what: 'The ship-to address' }));
  }
  if (customer.referenceRequired && order.customerReference.trim() === '') {
    refusals.push(refuse('reference-required', 'customerReference', { customer: customer.name }));
  }
  if (lines.length === 0) refusals.push(refuse('no-lines', 'lines', { document: order.number }));
  lines.forEach((line, index) => {
    const at = (field: string) => `lines.${index}.${field}`;
    const item = line.item.number;
    if (dec(line.unitPrice).lte(0)) refusals.push(refuse('price-missing', at('unitPrice'), { item }));
    if (line.shipDate < workDate) {
      refusals.push(refuse('ship-date-past', at('shipDate'), { day: line.shipDate, workDate }));
    }
    if (!routeFits(line.route, line.item)) {
      refusals.push(
        routeIsBought(line.route)
          ? refuse('no-vendor', at('route'), { item })
          : refuse('route-not-kept', at('route'), { item, route: ROUTE_NAMES[line.route] }),
      );
    }
  });
  return decided(refusals, () => ({ state: 'confirmed' as const }));
}

export interface CancelGround {
  order: { number: string; state: OrderState };
  lines: readonly {
    id: number;
    quantity: string;
    amount: string;
    agreementLineId: number | null;
    agreedAmount: string | null;
  }[];
  /** Numbers of purchase orders tied to the order's lines. */
  purchases: readonly string[];
  moved: boolean;
}

export interface CancelEffects {
  state: OrderState;
  lineIds: number[];
  /** Given back to the agreement, as negative growth. // S6 */
  released: { agreementLineId: number; quantity: string; value: string }[];
}

/** Cancels a whole order nothing was bought for or shipped on; its quantity goes back to its agreement. // S6 */
export function decideCancel(ground: CancelGround): Decision<CancelEffects> {
  const { order } = ground;
  const refusals: Refusal[] = [];
  if (order.state !== 'draft' && order.state !== 'confirmed') {
    refusals.push(refuse('order-not-draft', '', { order: order.number, state: order.state }));
  } else if (ground.purchases.length > 0 || ground.moved) {
    refusals.push(
      refuse('order-has-supply', '', {
        order: order.number,
        purchases: ground.purchases.join(', ') || 'goods already moved',
      }),
    );
  }
  return decided(refusals, () => ({
    state: 'cancelled' as const,
    lineIds: ground.lines.map((line) => line.id),
    released: ground.lines
      .filter((line) => line.agreementLineId !== null)
      .map((line) => ({
        agreementLineId: line.agreementLineId!,
        quantity: ZERO.minus(line.quantity).toFixed(),
        value: ZERO.minus(line.agreedAmount ?? line.amount).toFixed(),
      })),
  }));
}
