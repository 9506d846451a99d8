import { dec, isDecimalText, least, most, ZERO, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { WorkState } from './work-order';

/** An order that makes something, as far as it may be for order lines. */
export interface TiedWork {
  id: number;
  version: number;
  number: string;
  kind: 'make' | 'assemble';
  state: WorkState;
  itemId: number;
  item: string;
  locationId: number;
  quantity: string;
  finished: string;
  scrapped: string;
  /** Of what is to come, what is for somebody. */
  held: string;
  dueDate: Day;
  /** The options it is made with, as a line has them; empty where it is made as its item is. // W2 */
  chosen: string;
}

/** An order line that may be served by it. */
export interface ServedLine {
  orderLineId: number;
  order: { id: number; number: string; state: string; version: number };
  lineNo: number;
  itemId: number;
  locationId: number;
  /** From the vendor straight to the customer: nothing of ours serves it. */
  straight: boolean;
  shipDate: Day;
  /** Open, not held for it, and nothing on its way to it. */
  wanted: string;
  /** The options that were chosen for it, by number, commas between. // W2 */
  chosen: string;
}

export interface TieWorkGround {
  works: readonly TiedWork[];
  lines: readonly ServedLine[];
  /** Ties between them that are there already. */
  ties: readonly { plannedId: number; orderLineId: number; quantity: string; made: string }[];
}

export interface TieWorkTyped {
  ties: readonly { plannedId: number; orderLineId: number; quantity: string }[];
}

export interface TieWorkEffects {
  ties: { plannedId: number; orderLineId: number; quantity: string }[];
  /** Orders that were only planned: firm from now on, so that planning leaves them to whom they are for. */
  firm: number[];
}

/** What of an order is still to come for nobody. */
export const untiedOf = ({ quantity, finished, scrapped, held }: TiedWork): Dec =>
  most(ZERO, dec(quantity).minus(finished).minus(scrapped).minus(held));

/** What stands against a line being served by an order, whatever the quantity; null where it fits. // L5 W4 */
export function unfit(work: TiedWork, line: ServedLine): Refusal | null {
  const facts = { work: work.number, order: line.order.number, line: String(line.lineNo) };
  if (work.state === 'finished' || work.state === 'cancelled') {
    return refuse('work-not-open', '', { work: work.number, state: work.state });
  }
  if (line.order.state !== 'confirmed') {
    return refuse('order-not-confirmed', '', { order: line.order.number, state: line.order.state });
  }
  if (work.itemId !== line.itemId) return refuse('work-other-item', '', { ...facts, item: work.item });
  if (work.chosen !== line.chosen) return refuse('work-other-options', '', { ...facts, item: work.item });
  if (line.straight || work.locationId !== line.locationId) return refuse('work-other-place', '', facts);
  return null;
}

/**
 * Ties orders that make something to order lines afterwards, several at once: each fits, and is for no more than is still
 * to come of it and wanted by its line. One that runs may be tied as well. // L1 L5 W4
 */
export function decideTieWork({ works, lines }: TieWorkGround, { ties }: TieWorkTyped): Decision<TieWorkEffects> {
  const refusals: Refusal[] = [];
  const left = new Map(works.map((work) => [work.id, untiedOf(work)]));
  const wanted = new Map(lines.map((line) => [line.orderLineId, dec(line.wanted)]));
  ties.forEach(({ plannedId, orderLineId, quantity }, index) => {
    const at = (field: string) => `ties.${index}.${field}`;
    const work = works.find(({ id }) => id === plannedId);
    const line = lines.find((each) => each.orderLineId === orderLineId);
    if (!work) return void refusals.push(refuse('unknown', at('plannedId'), { what: 'This order' }));
    if (!line) return void refusals.push(refuse('unknown', at('orderLineId'), { what: 'This order line' }));
    const against = unfit(work, line);
    if (against) return void refusals.push({ ...against, field: at('plannedId') });
    if (!isDecimalText(quantity, 'quantity')) {
      return void refusals.push(refuse('not-a-number', at('quantity'), { what: 'The quantity' }));
    }
    const asked = dec(quantity);
    if (asked.lte(0)) return void refusals.push(refuse('not-above-zero', at('quantity'), { what: 'The quantity' }));
    const most = least(left.get(plannedId)!, wanted.get(orderLineId)!);
    if (asked.gt(most)) {
      const facts = {
        work: work.number,
        item: work.item,
        asked: asked.toFixed(),
        left: left.get(plannedId)!.toFixed(),
      };
      const more = { ...facts, order: line.order.number, line: String(line.lineNo) };
      return void refusals.push(
        refuse('above-tieable', at('quantity'), { ...more, wanted: wanted.get(orderLineId)!.toFixed() }),
      );
    }
    left.set(plannedId, left.get(plannedId)!.minus(asked));
    wanted.set(orderLineId, wanted.get(orderLineId)!.minus(asked));
  });
  return decided(refusals, () => ({
    ties: ties.map(({ plannedId, orderLineId, quantity }) => ({
      plannedId,
      orderLineId,
      quantity: dec(quantity).toFixed(),
    })),
    firm: works
      .filter(({ id, state }) => state === 'planned' && ties.some((tie) => tie.plannedId === id))
      .map(({ id }) => id),
  }));
}

export interface UntieWorkEffects {
  ties: { plannedId: number; orderLineId: number; quantity: string; gone: boolean }[];
  firm: number[];
}

/** Lets an order go on for nobody, as far as nothing of it came for the line yet; both stay. // L4 W4 */
export function decideUntieWork(
  { works, lines, ties }: TieWorkGround,
  typed: { plannedId: number; orderLineId: number },
): Decision<UntieWorkEffects> {
  const work = works.find(({ id }) => id === typed.plannedId);
  const line = lines.find((each) => each.orderLineId === typed.orderLineId);
  const tie = ties.find((each) => each.plannedId === typed.plannedId && each.orderLineId === typed.orderLineId);
  const refusals: Refusal[] = [];
  if (!work || !line || !tie) refusals.push(refuse('unknown', '', { what: 'This tie' }));
  else if (work.state === 'finished' || work.state === 'cancelled') {
    refusals.push(refuse('work-not-open', '', { work: work.number, state: work.state }));
  } else if (dec(tie.quantity).lte(tie.made)) {
    refusals.push(refuse('all-made', '', { work: work.number, order: line.order.number, line: String(line.lineNo) }));
  }
  return decided(refusals, () => ({
    ties: [
      {
        plannedId: work!.id,
        orderLineId: line!.orderLineId,
        quantity: dec(tie!.quantity).minus(tie!.made).toFixed(),
        gone: dec(tie!.made).eq(0),
      },
    ],
    firm: work!.state === 'planned' ? [work!.id] : [],
  }));
}

/**
 * What fits, best first: what is there by the ship date before what is not, then the nearest day, then the line that ships
 * first, then the nearest quantity. // L5
 */
export function rankOfFit({ work, line }: { work: TiedWork; line: ServedLine }): (string | number)[] {
  const late = work.dueDate > line.shipDate;
  const off = Number(untiedOf(work).minus(line.wanted).abs());
  return [late ? 1 : 0, late ? work.dueDate : reversed(work.dueDate), line.shipDate, off, work.id, line.orderLineId];
}

/** Days the later first, as text that sorts. */
const reversed = (day: Day) => String(99_999_999 - Number(day.replaceAll('-', '')));

/** Why one fits, in a few words. */
export function whyOfFit(work: TiedWork, line: ServedLine): string {
  const untied = untiedOf(work);
  const much = untied.eq(line.wanted) ? 'all of it' : untied.gt(line.wanted) ? 'more than is wanted' : 'part of it';
  return `${work.dueDate > line.shipDate ? 'later than it ships' : 'in time'}, ${much}`;
}
