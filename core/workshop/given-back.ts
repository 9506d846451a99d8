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

/** What is made for a line and still to come. */
export interface ComingTie {
  plannedId: number;
  orderLineId: number;
  quantity: string;
  made: string;
}

/**
 * What of ties is beyond what lines want once they went out from elsewhere: it is for nobody then, the tie that was made
 * last first. `wanted` is what a line still wants of it, by line. // L1
 */
export function tiesBeyond(ties: readonly ComingTie[], wanted: ReadonlyMap<number, string>): GivenBack['untied'] {
  const beyond: GivenBack['untied'] = [];
  for (const [lineId, still] of wanted) {
    const own = ties.filter(({ orderLineId }) => orderLineId === lineId);
    const coming = own.reduce((sum, { quantity, made }) => sum.plus(quantity).minus(made), dec('0'));
    let over = coming.minus(still);
    for (const { plannedId, orderLineId, quantity, made } of [...own].reverse()) {
      const left = dec(quantity).minus(made);
      const by = over.gt(left) ? left : over;
      if (by.lte(0)) continue;
      over = over.minus(by);
      beyond.push({ plannedId, orderLineId, quantity: by.toFixed(), gone: dec(made).eq(0) && by.eq(left) });
    }
  }
  return beyond;
}
