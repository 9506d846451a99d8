import { dec, isDay, lineSlice, ZERO, type Day, type LineMoney } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { PurchaseState } from '@core/stock';
import type { CounterGrowth } from './buying';

/** A placed purchase order with what it is for, as its vendor answers it. */
export interface AnswerGround {
  purchase: { id: number; number: string; state: PurchaseState; currency: string };
  lines: readonly (LineMoney & {
    id: number;
    lineNo: number;
    item: string;
    received: string;
    invoiced: string;
    dueDate: Day;
    agreementLineId: number | null;
    ties: readonly {
      id: number;
      quantity: string;
      received: string;
      orderLineId: number;
      order: { id: number; number: string };
      orderLineNo: number;
      shipDate: Day;
    }[];
  })[];
}

/** What the vendor says of lines; those left out stand as they were ordered. */
export interface AnswerTyped {
  lines: readonly { purchaseLineId: number; dueDate: Day | null; stops: boolean }[];
}

export interface AnswerEffects {
  lines: {
    id: number;
    dueDate: Day;
    /** What of it comes after all; all of it where it does not stop. */
    quantity: string;
    amount: string;
    agreedAmount: string | null;
    /** What of it will not come. */
    stopped: string;
  }[];
  /** Ties as they stand after it; those of nothing go. */
  ties: { id: number; quantity: string; orderLineId: number; by: string }[];
  /** Given back to buying agreements, as negative growth. // S6 */
  released: CounterGrowth[];
  /** Order lines whose supply comes after their ship date now, or will not come. */
  touches: { order: string; lineNo: number; what: 'late' | 'uncovered'; quantity: string; day: Day }[];
  state: PurchaseState;
}

/**
 * The vendor's answer to a purchase order: the days its lines are due, and what will not come. What does not come goes
 * back: to the bench for the order lines it was for, and to the buying agreement. What was received stays. // L4 L6 S6
 */
export function decideAnswer(ground: AnswerGround, typed: AnswerTyped, workDate: Day): Decision<AnswerEffects> {
  const { purchase } = ground;
  const refusals: Refusal[] = [];
  if (purchase.state !== 'placed') {
    refusals.push(refuse('purchase-not-open', '', { purchase: purchase.number, state: purchase.state }));
  }
  const answers = typed.lines.map((answer, index) => {
    const line = ground.lines.find((each) => each.id === answer.purchaseLineId);
    const refusal = line ? answerRefusal(ground, line, answer, `lines.${index}`, workDate) : null;
    if (!line) refusals.push(refuse('unknown', `lines.${index}.dueDate`, { what: 'This line' }));
    if (refusal) refusals.push(refusal);
    return { line, answer };
  });
  return decided(refusals, () => {
    const answered = answers.map(({ line, answer }) => answeredLine(line!, answer, purchase.currency));
    return {
      lines: answered.map(({ line }) => line),
      ties: answered.flatMap(({ ties }) => ties),
      released: answered.flatMap(({ released }) => (released ? [released] : [])),
      touches: answered.flatMap(({ touches }) => touches),
      state: stateAfter(
        ground,
        answered.map(({ line }) => line),
      ),
    };
  });
}

/** We cancel what of a purchase is still to come, with why: as if its vendor said that it will not. // S6 S8 */
export function decideCancelPurchase(
  ground: AnswerGround,
  { reason }: { reason: string },
  workDate: Day,
): Decision<AnswerEffects> {
  const open = ground.lines.filter((line) => dec(line.quantity).gt(line.received));
  const lines = (open.length > 0 ? open : ground.lines).map(({ id, dueDate }) => ({
    purchaseLineId: id,
    dueDate,
    stops: true,
  }));
  const decision = decideAnswer(ground, { lines }, workDate);
  if (reason.trim() !== '') return decision;
  const refusals = [refuse('required', 'reason', { what: 'The reason' }), ...(decision.ok ? [] : decision.refusals)];
  return { ok: false, refusals, ...(decision.ok ? { effects: decision.effects } : {}) };
}

type Line = AnswerGround['lines'][number];
type Answer = AnswerTyped['lines'][number];

function answerRefusal(
  { purchase }: AnswerGround,
  line: Line,
  answer: Answer,
  at: string,
  workDate: Day,
): Refusal | null {
  if (answer.stops) {
    if (dec(line.quantity).gt(line.received)) return null;
    return refuse('nothing-open', `${at}.stops`, { purchase: purchase.number, line: String(line.lineNo) });
  }
  const field = `${at}.dueDate`;
  if (answer.dueDate === null) return refuse('required', field, { what: 'The day it is due' });
  if (!isDay(answer.dueDate)) return refuse('not-a-day', field, { what: 'The day it is due' });
  // A line that is late already may stay so until the vendor says better.
  if (answer.dueDate >= workDate || answer.dueDate === line.dueDate) return null;
  return refuse('ship-date-past', field, { day: answer.dueDate, workDate });
}

function answeredLine(line: Line, { dueDate, stops }: Answer, currency: string) {
  if (!stops) {
    const { id, quantity, amount, agreedAmount } = line;
    const day = dueDate!;
    return {
      line: { id, dueDate: day, quantity, amount, agreedAmount, stopped: '0' },
      ties: [],
      released: null,
      touches: line.ties
        .filter((tie) => day > tie.shipDate && day !== line.dueDate)
        .map((tie) => touchOf(tie, 'late', dec(tie.quantity).minus(tie.received).toFixed(), day)),
    };
  }
  const received = dec(line.received);
  const stopped = dec(line.quantity).minus(received);
  const kept = lineSlice(line, ZERO, received, currency);
  const before = dec(line.agreedAmount ?? line.amount);
  const cut = line.ties.filter((tie) => dec(tie.quantity).gt(tie.received));
  return {
    line: {
      id: line.id,
      dueDate: line.dueDate,
      quantity: received.toFixed(),
      amount: kept.value.toFixed(),
      agreedAmount: received.eq(0) ? null : (kept.agreed?.toFixed() ?? null),
      stopped: stopped.toFixed(),
    },
    ties: cut.map((tie) => ({
      id: tie.id,
      quantity: dec(tie.received).toFixed(),
      orderLineId: tie.orderLineId,
      by: dec(tie.received).minus(tie.quantity).toFixed(),
    })),
    released:
      line.agreementLineId === null
        ? null
        : {
            agreementLineId: line.agreementLineId,
            quantity: stopped.neg().toFixed(),
            value: (kept.agreed ?? kept.value).minus(before).toFixed(),
          },
    touches: cut.map((tie) => touchOf(tie, 'uncovered', dec(tie.quantity).minus(tie.received).toFixed(), tie.shipDate)),
  };
}

function touchOf(
  { order, orderLineNo }: Line['ties'][number],
  what: 'late' | 'uncovered',
  quantity: string,
  day: Day,
): AnswerEffects['touches'][number] {
  return { order: order.number, lineNo: orderLineNo, what, quantity, day };
}

/** Closed once all that comes is invoiced; cancelled where nothing ever came. */
function stateAfter(
  { purchase, lines }: AnswerGround,
  answered: readonly { id: number; quantity: string }[],
): PurchaseState {
  const live = lines.map((line) => ({
    quantity: dec(answered.find((each) => each.id === line.id)?.quantity ?? line.quantity),
    invoiced: line.invoiced,
  }));
  if (live.every((line) => line.quantity.eq(0))) return 'cancelled';
  return live.some((line) => line.quantity.gt(line.invoiced)) ? purchase.state : 'closed';
}
