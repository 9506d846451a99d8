import { dec } from '@core/kernel';

/** An order line that is given up, with what is made for it. */
export interface WorkOfLine {
  plannedId: number;
  orderLineId: number;
  /** Whether the line is made to order: what nobody began for it is not made then. */
  madeToOrder: boolean;
  begun: boolean;
  quantity: string;
  made: string;
  /** Of the order, what is for this line and what is for anybody at all. */
  held: string;
}

export interface GivenBack {
  cancelled: number[];
  untied: { plannedId: number; orderLineId: number; quantity: string; gone: boolean }[];
}

/**
 * What becomes of what is made for lines that are given up: an order made for one of them alone and not begun is not
 * made; any other goes on for nobody, as far as nothing of it came. // S6 W2 W4
 */
export function workGivenBack(work: readonly WorkOfLine[]): GivenBack {
  const given: GivenBack = { cancelled: [], untied: [] };
  for (const { plannedId, orderLineId, madeToOrder, begun, quantity, made, held } of work) {
    const left = dec(quantity).minus(made);
    if (left.lte(0)) continue;
    if (madeToOrder && !begun && left.eq(held)) given.cancelled.push(plannedId);
    else given.untied.push({ plannedId, orderLineId, quantity: left.toFixed(), gone: dec(made).eq(0) });
  }
  return given;
}
