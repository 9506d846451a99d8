import { dec, lineSlice, ZERO, type LineMoney } from '@core/kernel';
import { refuse, type Decision, type Refusal } from '@core/refusals';
import type { FieldChange } from './change';
import type { OrderState } from './ground';

export interface CloseGround {
  order: { number: string; state: OrderState; currency: string };
  /** Every line of the order; `quantity` is what was ordered. */
  lines: readonly (LineMoney & {
    id: number;
    lineNo: number;
    cancelled: string;
    shipped: string;
    invoiced: string;
    agreementLineId: number | null;
    /** Tied, and not received yet: the goods are on their way. */
    onTheWay: string;
    purchases: string;
  })[];
}

export interface CloseEffects {
  lines: {
    id: number;
    cancelled: string;
    amount: string;
    agreedAmount: string | null;
    /** What is given up, and what the line was before: it can be opened again. // S8 */
    given: { quantity: string; amount: string; agreedAmount: string | null };
  }[];
  reason: string;
  /** Each line with what is given up of it, as it is kept. */
  fields: FieldChange[];
  /** Given back to the agreement, as negative growth. // S6 */
  released: { agreementLineId: number; quantity: string; value: string }[];
  /** The order's state after it. */
  state: OrderState;
}

/**
 * Closes lines of a confirmed order short: what was not shipped is given up, and goes back to its agreement. // S6
 * The line keeps the amount of what was shipped. Refused where nothing is open, or goods are on their way for it.
 */
export function decideClose(ground: CloseGround, lineIds: readonly number[], reason: string): Decision<CloseEffects> {
  const { order } = ground;
  const refusals: Refusal[] = [];
  if (reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  if (order.state !== 'confirmed' && order.state !== 'closed') {
    refusals.push(refuse('order-not-confirmed', '', { order: order.number, state: order.state }));
  }
  const wanted = ground.lines.filter((line) => lineIds.includes(line.id));
  const open = wanted.filter((line) => dec(line.quantity).minus(line.cancelled).gt(line.shipped));
  if (open.length === 0) refusals.push(refuse('nothing-to-close', 'lines', { order: order.number }));
  for (const line of open) {
    if (dec(line.onTheWay).lte(0)) continue;
    const facts = { order: order.number, line: String(line.lineNo), purchases: line.purchases };
    refusals.push(refuse('purchase-on-its-way', 'lines', facts));
  }
  // What it would do is told while the reason is typed.
  const effects = (): CloseEffects => {
    const lines = open.map((line) => closedLine(line, order.currency));
    return {
      reason: reason.trim(),
      fields: open.map((line) => ({
        what: `given up of line ${line.lineNo}`,
        was: line.cancelled,
        is: dec(line.quantity).minus(line.shipped).toFixed(),
      })),
      lines: lines.map(({ counted: _counted, ...line }) => line),
      released: lines.flatMap(({ counted }) => (counted ? [counted] : [])),
      state: stateAfter(ground, lines),
    };
  };
  if (refusals.length > 0) return { ok: false, refusals, ...(open.length > 0 ? { effects: effects() } : {}) };
  return { ok: true, effects: effects(), warnings: [] };
}

function closedLine(line: CloseGround['lines'][number], currency: string) {
  const live = dec(line.quantity).minus(line.cancelled);
  const kept = lineSlice({ ...line, quantity: live.toFixed() }, ZERO, dec(line.shipped), currency);
  const before = dec(line.agreedAmount ?? line.amount);
  return {
    id: line.id,
    cancelled: dec(line.quantity).minus(line.shipped).toFixed(),
    amount: kept.value.toFixed(),
    agreedAmount: kept.agreed?.toFixed() ?? null,
    given: {
      quantity: live.minus(line.shipped).toFixed(),
      amount: line.amount,
      agreedAmount: line.agreedAmount,
    },
    counted:
      line.agreementLineId === null
        ? null
        : {
            agreementLineId: line.agreementLineId,
            quantity: dec(line.shipped).minus(live).toFixed(),
            value: (kept.agreed ?? kept.value).minus(before).toFixed(),
          },
  };
}

/** Closed once all that is left alive is invoiced; cancelled where nothing ever went out. */
function stateAfter({ order, lines }: CloseGround, closed: readonly { id: number; cancelled: string }[]): OrderState {
  const live = lines.map((line) => {
    const cancelled = closed.find((each) => each.id === line.id)?.cancelled ?? line.cancelled;
    return { ...line, live: dec(line.quantity).minus(cancelled) };
  });
  if (live.some((line) => line.live.gt(line.invoiced))) return order.state;
  return live.some((line) => line.live.gt(0)) ? 'closed' : 'cancelled';
}
