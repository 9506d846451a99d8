import type { CalendarRow, Day, Shift } from '../../kernel';
import type { Stretch } from './capacity';

/** How an item comes to be: bought, made by a routing, assembled by one, or neither. */
export const OBTAINED = ['buy', 'make', 'assemble', 'none'] as const;
export type Obtained = (typeof OBTAINED)[number];

/** How a date is found for an item: what is there, what could be made and bought, its lead time, or not at all. // T10 */
export const METHODS = ['atp', 'ctp', 'lead', 'none'] as const;
export type Method = (typeof METHODS)[number];

export const OBTAINED_NAMES: Record<Obtained, string> = {
  buy: 'bought',
  make: 'made',
  assemble: 'assembled',
  none: 'neither',
};
export const METHOD_NAMES: Record<Method, string> = {
  atp: 'what is there',
  ctp: 'what could be made',
  lead: 'the lead time',
  none: 'nobody asks',
};

/** What can be asked of a line: `have` uses what is there before planning new, `nothing` plans all of it new. // T2 T4 */
export const WAYS = ['atp', 'have', 'nothing', 'lead'] as const;
export type Way = (typeof WAYS)[number];

export interface SellerRow {
  vendorId: number;
  name: string;
  leadDays: number;
  calendarId: number;
  minimum: string;
  multiple: string;
}

export interface ItemRow {
  id: number;
  /** The item it is, where it is made in an order line's own way. */
  of?: number;
  number: string;
  name: string;
  unit: string;
  obtained: Obtained;
  method: Method;
  safetyStock: string;
  lotMinimum: string;
  lotMultiple: string;
  /** Never made by itself: its components go into what it is part of. */
  phantom: boolean;
  /** Nothing more is made of it. */
  outOfUse: boolean;
  /** Our working days to make it, where it has no routing. */
  makeDays: number;
  onHand: string;
  /** Of what is on hand, held for lines that are open: for nobody else. // S3 */
  held: string;
  /** Who may sell it to us, the one to buy from first. */
  sellers: readonly SellerRow[];
}

export interface ComponentRow {
  itemId: number;
  lineNo: number;
  componentId: number;
  /** For one of the item. */
  quantity: string;
  scrapPercent: string;
  /** The operation it is needed at; null for the first. */
  operationNo: number | null;
  /** The days an order may start on for it to be used. */
  firstDay: Day | null;
  lastDay: Day | null;
}

export interface OperationRow {
  itemId: number;
  no: number;
  name: string;
  centreId: number;
  /** Minutes, at most 2 places. */
  setup: string;
  run: string;
  /** Machines it may use side by side. */
  parallel: number;
  /** The days an order may start on for it to be done. */
  firstDay: Day | null;
  lastDay: Day | null;
}

export interface CentreRow {
  id: number;
  code: string;
  name: string;
  machines: number;
  shifts: readonly Shift[];
  calendarId: number;
}

/** A supply or demand of an item, and the document behind it. */
export interface MoveRow {
  itemId: number;
  day: Day;
  quantity: string;
  /** Whose it is, for the one who reads the table; nothing computes with it. */
  source: { kind: string; id: number; number: string; lineId?: number; party: string };
  /** A supply that is neither moved nor cancelled by planning: some of it is held, or it is no order of ours yet. // T11 */
  fixed?: boolean;
}

/** What an order has taken of a centre. */
export interface LoadRow extends Stretch {
  centreId: number;
  day: Day;
}

/** Hours a centre is worked besides its shifts, on whatever day. */
export interface OvertimeRow {
  centreId: number;
  day: Day;
  from: number;
  until: number;
}

/** Machines of a centre that are out on a day. */
export interface OutRow {
  centreId: number;
  day: Day;
  machines: number;
}

/** All that promising stands on, as it is read from the database and sent to the browser. */
export interface GroundRows {
  workDate: Day;
  /** Days from the work date that are looked at. */
  horizon: number;
  calendars: readonly CalendarRow[];
  ownCalendarId: number;
  receivingDays: number;
  safetyDays: number;
  items: readonly ItemRow[];
  components: readonly ComponentRow[];
  operations: readonly OperationRow[];
  centres: readonly CentreRow[];
  load: readonly LoadRow[];
  overtime: readonly OvertimeRow[];
  out: readonly OutRow[];
  supplies: readonly MoveRow[];
  demands: readonly MoveRow[];
}

/** Why no date can be said. */
export type Trouble =
  | { kind: 'cycle'; path: readonly string[] }
  | { kind: 'no-shift'; centre: string }
  | { kind: 'nobody-sells'; item: string }
  | { kind: 'no-way'; item: string }
  | { kind: 'no-lead'; item: string }
  | { kind: 'horizon'; item: string; days: number }
  | { kind: 'before-today'; item: string }
  | { kind: 'too-much'; item: string }
  | { kind: 'straight'; item: string }
  | { kind: 'own-way'; item: string }
  | { kind: 'too-deep'; item: string };
