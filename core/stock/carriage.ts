import { dec, least, most, sameText, UNDER_WAY, ZERO, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { arrivalRefusals, averageCost, carried, quantityOf, type CarriedEffects } from './between';

/** Goods under way from one of our places to another, as they stand. */
export interface CarriageNow {
  id: number;
  /** The journal they left with. */
  number: string;
  quantity: string;
  arrived: string;
  /** They never left after all. */
  takenBack: boolean;
  dueDate: Day;
}

/** Goods under way with what of their item is. */
export interface ArriveGround {
  carriage: CarriageNow;
  item: { id: number; number: string };
  /** Locations by their number, with their names. */
  locations: ReadonlyMap<number, string>;
  /** Of the item, what is under way altogether. */
  stock: { onHand: string; reserved: string; value: string };
  currency: string;
  /** The numbers that left with it and are under way still; none where they have no numbers. // P6 */
  sent: readonly string[];
}

export interface ArriveEffects extends CarriedEffects {
  carriageId: number;
  /** The numbers that arrive: those that were typed, else those that left first. */
  typed: readonly string[];
}

const openOf = ({ quantity, arrived, takenBack }: CarriageNow) => (takenBack ? ZERO : dec(quantity).minus(arrived));

/** Goods that were under way are at one of our places, all or some of them, at what they are worth by then. // W6 P3 */
export function decideArrive(
  ground: ArriveGround,
  typed: { to: number; quantity: string; numbers: readonly string[] },
): Decision<ArriveEffects> {
  const { carriage, item, locations, stock, currency, sent } = ground;
  const refusals: Refusal[] = [];
  if (!locations.has(typed.to)) refusals.push(refuse('unknown', 'to', { what: 'This location' }));
  const open = openOf(carriage);
  const quantity = quantityOf(typed.quantity, refusals);
  if (open.lte(0)) refusals.push(refuse('not-under-way', '', { document: carriage.number }));
  else if (quantity?.gt(open)) {
    const facts = { document: carriage.number, item: item.number, asked: typed.quantity, open: open.toFixed() };
    refusals.push(refuse('above-under-way', 'quantity', facts));
  }
  const stranger = typed.numbers.find((number) => !sent.some((each) => sameText(each) === sameText(number)));
  if (sent.length > 0 && stranger !== undefined) {
    refusals.push(refuse('number-not-with', 'numbers', { number: stranger, document: carriage.number }));
  }
  return decided(refusals, () => {
    const value = averageCost({ quantity: dec(stock.onHand), value: dec(stock.value) }, quantity!, currency);
    return {
      ...carried(item.id, quantity!, value, UNDER_WAY, typed.to),
      carriageId: carriage.id,
      typed: typed.numbers.length > 0 ? typed.numbers : sent.slice(0, Math.ceil(Number(quantity!))),
    };
  });
}

export interface ArrivesEffects {
  carriageId: number;
  dueDate: Day;
  was: Day;
}

/** Goods under way arrive on another day than was said. // W6 */
export function decideArrivesOn(carriage: CarriageNow, dueDate: string, workDate: Day): Decision<ArrivesEffects> {
  const refusals: Refusal[] = [];
  if (openOf(carriage).lte(0)) refusals.push(refuse('not-under-way', '', { document: carriage.number }));
  refusals.push(...arrivalRefusals(dueDate, 'dueDate', workDate));
  return decided(refusals, () => ({ carriageId: carriage.id, dueDate, was: carriage.dueDate }));
}

/** Goods that a journal carried, with what is by now where it brought them. */
export interface CarriedBackGround {
  journal: { number: string };
  /** From where to where it carried them; null where it carried none. */
  moved: { itemId: number; item: string; from: number; to: number; quantity: string; value: string } | null;
  /** What it sent on its way, or what arrived with it. */
  carriage: CarriageNow | null;
  /** The journal it takes back itself, and the one that took it back; empty for none. */
  reverses: string;
  reversedBy: string;
  /** Of the item, where it brought them. */
  stock: { onHand: string; reserved: string; value: string };
}

export interface CarriedBackEffects extends CarriedEffects {
  reason: string;
  /** What of goods under way it changes: they never left, or are under way again. */
  carriage: { id: number; as: 'left' | 'arrived' } | null;
}

/**
 * Goods go back to where a journal took them from, at what they went at, or at what those that are there are worth where
 * that is less. Refused once it was, where they are no longer there and free, and where some that left have arrived:
 * that is taken back first. // P1 W6
 */
export function decideCarriedBack(ground: CarriedBackGround, typed: { reason: string }): Decision<CarriedBackEffects> {
  const { journal, moved, carriage, stock } = ground;
  const refusals: Refusal[] = [];
  const document = journal.number;
  const leaves = moved?.to === UNDER_WAY;
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  const free = dec(stock.onHand).minus(stock.reserved);
  if (!moved) refusals.push(refuse('nothing-carried', '', { document }));
  else if (ground.reversedBy) refusals.push(refuse('reversed-already', '', { document, by: ground.reversedBy }));
  else if (ground.reverses) refusals.push(refuse('is-reversal', '', { document, of: ground.reverses }));
  else if (leaves && dec(carriage!.arrived).gt(0)) {
    refusals.push(refuse('arrived-first', '', { document, arrived: carriage!.arrived }));
  } else if (dec(moved.quantity).gt(free)) {
    const here = most(ZERO, free).toFixed();
    refusals.push(refuse('goods-gone', '', { document, item: moved.item, quantity: moved.quantity, here }));
  }
  return decided(refusals, () => {
    const { itemId, from, to, quantity, value } = moved!;
    const whole = dec(quantity).eq(stock.onHand);
    const worth = whole ? dec(stock.value) : least(dec(value), dec(stock.value));
    return {
      ...carried(itemId, dec(quantity), worth, to, from),
      reason: typed.reason.trim(),
      carriage: carriage && { id: carriage.id, as: leaves ? 'left' : 'arrived' },
    };
  });
}
