import { currencyPlaces, dec, roundHalfAway, roundUpTo, sum, type Day, type Dec } from '@core/kernel';

/** States of an order that makes something, as it goes on. */
export const WORK_STATES = ['planned', 'firm', 'running', 'finished', 'cancelled'] as const;
export type WorkState = (typeof WORK_STATES)[number];

/** What is there of an item at the place of the order. */
export interface There {
  onHand: string;
  reserved: string;
  value: string;
}

/** A production or assembly order as its acts see it. Quantities in the item's own unit, money in the company's. */
export interface WorkOrder {
  id: number;
  number: string;
  kind: 'make' | 'assemble';
  state: WorkState;
  itemId: number;
  item: string;
  /** Counted in whole units only. */
  whole: boolean;
  locationId: number;
  place: string;
  quantity: string;
  finished: string;
  scrapped: string;
  /** Of what is still to come, what is for another order. */
  heldForParent: string;
  /** What the whole is reckoned to cost; null until it is begun. */
  plannedCost: string | null;
  /** What went in and did not come out yet. */
  inWork: string;
}

export interface WorkComponent {
  id: number;
  itemId: number;
  item: string;
  whole: boolean;
  /** The operation it is used at; null for the first. */
  operationNo: number | null;
  /** For the whole order, scrap in it. */
  quantity: string;
  used: string;
  /** Something of it was reported, be it taken back since. */
  reported: boolean;
  /** What is planned to come for it. */
  covered: string;
  plannedCost: string;
  /** What one is reckoned at while the order is not begun. */
  expectedCost: string;
  there: There;
}

export interface WorkOperation {
  id: number;
  no: number;
  name: string;
  /** For the whole order. */
  minutes: number;
  minutesDone: number;
  /** Pieces that passed it, and that were lost at it. */
  done: string;
  scrapped: string;
  plannedCost: string;
  hourCost: string;
}

/** An order line some of the order is for. */
export interface WorkTie {
  orderLineId: number;
  order: { id: number; number: string };
  lineNo: number;
  shipDate: Day;
  quantity: string;
  made: string;
  /** What is open on the line and not held for it. */
  wanted: string;
}

export interface WorkGround {
  order: WorkOrder;
  /** By the operations they are used at, then as they are listed. */
  components: readonly WorkComponent[];
  /** By number. */
  operations: readonly WorkOperation[];
  /** The line that ships first before others. */
  ties: readonly WorkTie[];
  /** What the order it is for expects of it, by component there. */
  parents: readonly { componentId: number; covered: string }[];
  product: There;
  currency: string;
}

/** The lines something is still to come for. */
export const openTies = <Tie extends Pick<WorkTie, 'quantity' | 'made'>>(ties: readonly Tie[]): Tie[] =>
  ties.filter(({ quantity, made }) => dec(quantity).gt(made));

/** Those of them that ship before it is there. */
export const tooLateFor = <Tie extends Pick<WorkTie, 'quantity' | 'made' | 'shipDate'>>(
  ties: readonly Tie[],
  there: Day,
): Tie[] => openTies(ties).filter(({ shipDate }) => shipDate < there);

/** Pieces that passed an operation or were lost at it. */
export const throughOf = ({ done, scrapped }: WorkOperation): Dec => dec(done).plus(scrapped);

/** Where a component is used: the place of its operation, the first where it names none. */
export function placeOf({ operationNo }: Pick<WorkComponent, 'operationNo'>, operations: readonly WorkOperation[]) {
  return Math.max(
    0,
    operations.findIndex(({ no }) => no === operationNo),
  );
}

/** Of a component, what so many pieces of the order use: rounded up to what can be taken. */
export function usedFor(component: WorkComponent, pieces: Dec, { quantity }: Pick<WorkOrder, 'quantity'>): Dec {
  if (pieces.eq(quantity)) return dec(component.quantity);
  return roundUpTo(dec(component.quantity).times(pieces).div(quantity), dec(component.whole ? '1' : '0.00001'));
}

/** Of an operation, the minutes so many pieces of the order take, its setup shared among them. */
export function minutesFor(
  operation: Pick<WorkOperation, 'minutes'>,
  pieces: Dec,
  { quantity }: Pick<WorkOrder, 'quantity'>,
): number {
  return Number(roundHalfAway(dec(operation.minutes).times(pieces).div(quantity), 0));
}

/** What minutes at a centre are reckoned at. */
export function labourCost(minutes: number, hourCost: string, currency: string): Dec {
  return roundHalfAway(dec(minutes).times(hourCost).div(60), currencyPlaces(currency));
}

/** What so many of a component are reckoned at. */
export function componentCost(quantity: string, unitCost: string, currency: string): Dec {
  return roundHalfAway(dec(quantity).times(unitCost), currencyPlaces(currency));
}

/** What an order is reckoned to cost, part by part: its components at what one costs, its minutes at their centres. */
export interface PlannedCosts {
  cost: string;
  components: { id: number; cost: string }[];
  operations: { id: number; cost: string }[];
}

export function plannedCosts({
  components,
  operations,
  currency,
}: Pick<WorkGround, 'components' | 'operations' | 'currency'>): PlannedCosts {
  const material = components.map(({ id, quantity, expectedCost }) => ({
    id,
    cost: componentCost(quantity, expectedCost, currency).toFixed(),
  }));
  const labour = operations.map(({ id, minutes, hourCost }) => ({
    id,
    cost: labourCost(minutes, hourCost, currency).toFixed(),
  }));
  return {
    cost: sum([...material, ...labour].map(({ cost }) => dec(cost))).toFixed(),
    components: material,
    operations: labour,
  };
}
