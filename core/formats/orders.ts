import { countedOn } from '@core/agreements';
import { dec, isDay, MOST_LINES, MOST_REFERENCE, priceText, readTypedDecimal, sum, type Day } from '@core/kernel';
import { givenFor } from '@core/promotions';
import { decideSave, type OrderEffects, type OrderTyped, type SaveGround } from '@core/orders';
import { ROUTES, type Route } from '@core/catalogue';
import { decided, refuse, sentenceOf, type Decision, type Refusal } from '@core/refusals';
import { readTypedDay, readTypedLinePrice } from '@core/typed';
import { isSameUnit, type Against, type WrittenOrder } from './ubl';
import { MOST_ROWS } from './agreements';
import type { ImportProblem } from './left-out';

/** The columns of orders in a file, one row a line; the head stands on the first row of each order. */
export const ORDER_COLUMNS = [
  'order',
  'customer',
  'ship to',
  'reference',
  'item',
  'quantity',
  'unit',
  'ship date',
  'price',
  'route',
] as const;
type Column = (typeof ORDER_COLUMNS)[number];

/** A line of a file: where it stands, and what its cells say. */
export interface FileLine {
  line: number;
  /** What the item may be called, to be tried in turn. */
  items: readonly string[];
  quantity: string;
  unit: string;
  day: string;
  price: string;
  route: string;
  /** What they expect to pay for one of the unit; empty where they do not say. */
  expected: string;
  /** What stands against taking it as it is. */
  against?: readonly Against[];
}

export interface FileOrder {
  /** What stands against taking any of it. */
  against?: readonly Against[];
  line: number;
  customers: readonly string[];
  shipTo: string;
  reference: string;
  /** Empty where the file names none. */
  currency: string;
  lines: FileLine[];
}

/** Orders of a table, the heading first, columns in any order. // G4 */
export function ordersOfTable(table: readonly (readonly string[])[]): FileOrder[] | Refusal {
  const heading = (table[0] ?? []).map((cell) => cell.trim().toLowerCase());
  const missing = (['customer', 'item', 'quantity'] as const).filter((column) => !heading.includes(column));
  if (missing.length > 0) return refuse('columns-missing', 'file', { columns: missing.join(', ') });
  const orders: FileOrder[] = [];
  let name: string | null = null;
  table.slice(1).forEach((cells, index) => {
    const cell = (column: Column) => (cells[heading.indexOf(column)] ?? '').trim();
    if (!cells.some((each) => each.trim() !== '')) return;
    const own = cell('order') || cell('reference') || cell('customer');
    const line = index + 2;
    if (orders.length === 0 || (own !== '' && own !== name)) {
      const head = { customers: [cell('customer')], shipTo: cell('ship to'), reference: cell('reference') };
      orders.push({ line, ...head, currency: '', lines: [] });
    }
    name = own || name;
    orders.at(-1)!.lines.push({
      line,
      items: [cell('item')],
      quantity: cell('quantity'),
      unit: cell('unit'),
      day: cell('ship date'),
      price: cell('price'),
      route: cell('route'),
      expected: '',
    });
  });
  const rows = orders.reduce((sum, order) => sum + order.lines.length, 0);
  if (rows === 0) return refuse('file-empty', 'file', {});
  return rows > MOST_ROWS ? refuse('file-too-long', 'file', { most: String(MOST_ROWS) }) : orders;
}

/** The same of an order as somebody else's program wrote it. Their number is our reference. */
export function orderOfWritten(written: WrittenOrder): FileOrder {
  return {
    line: 1,
    against: written.against,
    customers: written.customer,
    shipTo: written.shipTo,
    reference: written.number,
    currency: written.currency,
    lines: written.lines.map((line) => ({
      line: line.at,
      against: line.against,
      items: [line.theirItem, line.item].filter((name) => name !== ''),
      quantity: line.quantity,
      unit: line.unit,
      day: line.day ?? written.day ?? '',
      price: '',
      route: '',
      expected: line.price,
    })),
  };
}

/** A customer of the file with everything their orders are decided by. */
export interface FileCustomer {
  id: number;
  name: string;
  shipTos: readonly { id: number; label: string; town: string }[];
  /** Items by number, ours and theirs, lower case, with the way each goes by itself. */
  items: ReadonlyMap<string, { id: number; route: Route }>;
  /** Their references in use, lower case, with the order that has each. */
  references: ReadonlyMap<string, string>;
  ground: SaveGround;
}

export interface OrderDraft extends OrderEffects {
  customerId: number;
  currency: string;
}

export interface OrderFileEffects {
  drafts: OrderDraft[];
  orders: number;
  rows: number;
  problems: ImportProblem[];
  /** Orders that can be made from the good lines alone. */
  good: number;
  /** What is worth a word and stands against nothing. */
  words: ImportProblem[];
}

/**
 * Orders of a file as drafts, each priced and checked as if it had been typed; every problem by line and column. // G4 S2
 * `find` gives a customer by number or name; `leftOut` are words of what of the file is not read. Orders of one customer take from their agreements one after the other.
 */
export function decideOrderFile(
  find: (names: readonly string[]) => FileCustomer | null,
  orders: readonly FileOrder[],
  goodOnly: boolean,
  workDate: Day,
  leftOut: readonly ImportProblem[] = [],
): Decision<OrderFileEffects> {
  const problems: ImportProblem[] = [];
  const words: ImportProblem[] = [...leftOut];
  const drafts: OrderDraft[] = [];
  const taken = new Map<number, { ground: SaveGround; references: Map<string, string> }>();
  for (const order of orders) {
    const bad = (line: number, column: string, sentence: string) => {
      if (!problems.some((each) => each.line === line && each.column === column))
        problems.push({ line, column, sentence });
    };
    const customer = find(order.customers);
    if (!customer) {
      bad(order.line, 'customer', `${order.customers.filter(Boolean).join(' or ') || 'Nothing'} is no customer here.`);
      continue;
    }
    const now = taken.get(customer.id) ?? { ground: customer.ground, references: new Map(customer.references) };
    const made = draftOf(customer, now, order, workDate, bad, (line, column, sentence) =>
      words.push({ line, column, sentence }),
    );
    taken.set(customer.id, now);
    if (made) drafts.push(made);
  }
  problems.sort((a, b) => a.line - b.line);
  const rows = orders.reduce((sum, order) => sum + order.lines.length, 0);
  if (problems.length > 0 && goodOnly && drafts.length === 0) {
    return { ok: false, refusals: [refuse('nothing-good', 'file', {})] };
  }
  return decided([], () => ({ drafts, orders: orders.length, rows, problems, good: drafts.length, words }));
}

type Say = (line: number, column: string, sentence: string) => void;

/** One order's good lines as a draft; null where its head is bad or no line is good. */
function draftOf(
  customer: FileCustomer,
  now: { ground: SaveGround; references: Map<string, string> },
  order: FileOrder,
  workDate: Day,
  bad: Say,
  word: Say,
): OrderDraft | null {
  const { currency } = customer.ground.customer!;
  const found = shipToOf(customer, order.shipTo);
  if (!found) bad(order.line, 'ship to', `${order.shipTo || 'Nothing'} is none of ${customer.name}’s addresses.`);
  const reference = order.reference.toLowerCase();
  if (order.lines.length > MOST_LINES) {
    bad(
      order.line,
      'order',
      `It has ${order.lines.length} lines; an order holds ${MOST_LINES} at most. Split it in two.`,
    );
    return null;
  }
  for (const { column, sentence } of order.against ?? []) bad(order.line, column, sentence);
  const long = order.reference.length > MOST_REFERENCE;
  if (long) bad(order.line, 'reference', `This is longer than ${MOST_REFERENCE} characters; shorten it.`);
  const used = reference === '' ? undefined : now.references.get(reference);
  if (used) bad(order.line, 'reference', `${order.reference} is on ${used} already.`);
  if (order.currency !== '' && order.currency !== currency) {
    bad(order.line, 'currency', `They order in ${order.currency}; ${customer.name} is sold to in ${currency}.`);
  }
  const read = order.lines.map((line) => readLine(customer, line, workDate, bad));
  if (
    !found ||
    long ||
    used ||
    (order.against ?? []).length > 0 ||
    (order.currency !== '' && order.currency !== currency)
  )
    return null;
  const good: { line: FileLine; typed: OrderTyped['lines'][number] }[] = [];
  for (const [index, typed] of read.entries()) {
    if (!typed) continue;
    const line = order.lines[index]!;
    const alone = decideSave(
      now.ground,
      { shipToId: found.id, customerReference: order.reference, lines: [typed] },
      workDate,
    );
    if (alone.ok) good.push({ line, typed });
    else for (const refusal of alone.refusals) bad(line.line, columnOf(refusal.field), sentenceOf(refusal));
  }
  if (good.length === 0) return null;
  const typed = { shipToId: found.id, customerReference: order.reference, lines: good.map((each) => each.typed) };
  const whole = decideSave(now.ground, typed, workDate);
  if (!whole.ok) {
    // Each line fits by itself, together they pass a limit.
    for (const refusal of whole.refusals) {
      const at = /^lines\.(\d+)/.exec(refusal.field);
      bad(at ? good[Number(at[1])]!.line.line : order.line, columnOf(refusal.field), sentenceOf(refusal));
    }
    return null;
  }
  for (const warning of whole.warnings) {
    const at = /^lines\.(\d+)/.exec(warning.field);
    word(at ? good[Number(at[1])]!.line.line : order.line, columnOf(warning.field), sentenceOf(warning));
  }
  for (const [index, { line }] of good.entries()) {
    const [made] = whole.effects.lines.filter((each) => each.typedAt === index);
    const ours = dec(made!.unitPrice).times(made!.sold.factor);
    const expected = line.expected === '' ? null : readTypedDecimal(line.expected, 'price');
    if (expected !== null && !ours.minus(expected).abs().lte('0.005')) {
      const facts = `${priceText(expected, currency)}; ours is ${priceText(ours.round(4), currency)}`;
      word(line.line, 'price', `They expect ${facts}.`);
    }
  }
  if (reference !== '') now.references.set(reference, 'an order before it in this file');
  now.ground = after(now.ground, whole.effects);
  return { ...whole.effects, customerId: customer.id, currency };
}

/** The ground once an order has taken from the agreements and promotions. // A4 S13 */
function after(ground: SaveGround, { released, lines }: OrderEffects): SaveGround {
  const offers = ground.offers.map(grownWhole(released)).map((offer) => {
    const own = released.find((each) => each.agreementLineId === offer.line.id);
    if (!own) return offer;
    const line = {
      ...offer.line,
      released: dec(offer.line.released).plus(own.quantity).toFixed(),
      releasedValue: dec(offer.line.releasedValue).plus(own.value).toFixed(),
    };
    return { ...offer, line };
  });
  const { promotions } = ground.pricing;
  const left = promotions.offers.map((offer) => {
    if (offer.promotion.left === null) return offer;
    const own = lines.filter(({ promotion }) => promotion?.promotionId === offer.promotion.id);
    const given = sum(own.map(({ promotion, quantity }) => givenFor(dec(promotion!.unit), dec(quantity))));
    return { ...offer, promotion: { ...offer.promotion, left: dec(offer.promotion.left).minus(given).toFixed() } };
  });
  return { ...ground, offers, pricing: { ...ground.pricing, promotions: { ...promotions, offers: left } } };
}

/** An offer whose agreement's limit on the whole has less left. // A5 */
const grownWhole =
  (released: OrderEffects['released']) =>
  (offer: SaveGround['offers'][number]): SaveGround['offers'][number] => {
    const { whole } = offer.agreement;
    if (!whole) return offer;
    const own = released.filter(({ agreementLineId }) => whole.factors.has(agreementLineId));
    const now = countedOn(whole, own).plus(whole.released).toFixed();
    return { ...offer, agreement: { ...offer.agreement, whole: { ...whole, released: now } } };
  };

/** An address by its label, or its label and town; the only one where none is named. */
function shipToOf({ shipTos }: FileCustomer, name: string): { id: number } | null {
  if (name === '') return shipTos.length === 1 ? shipTos[0]! : null;
  const asked = name.toLowerCase();
  return (
    shipTos.find(({ label, town }) => [label, `${label}, ${town}`].some((each) => each.toLowerCase() === asked)) ?? null
  );
}

function readLine(customer: FileCustomer, line: FileLine, workDate: Day, bad: Say): OrderTyped['lines'][number] | null {
  const item = line.items.map((name) => customer.items.get(name.toLowerCase())).find((each) => each !== undefined);
  const before = { said: false };
  const say: Say = (at, column, sentence) => {
    before.said = true;
    bad(at, column, sentence);
  };
  for (const { column, sentence } of line.against ?? []) say(line.line, column, sentence);
  if (!item) say(line.line, 'item', `${line.items.filter(Boolean).join(' or ') || 'Nothing'} is no item here.`);
  const quantity = readTypedDecimal(line.quantity, 'quantity');
  if (quantity === null) say(line.line, 'quantity', `${line.quantity || 'Nothing'} is not a quantity.`);
  const day = readTypedDay(line.day, workDate);
  if (day === null || !isDay(day)) say(line.line, 'ship date', `${line.day || 'Nothing'} is not a date.`);
  const route = line.route === '' ? (item?.route ?? null) : (ROUTES.find((each) => each === line.route) ?? null);
  if (item && route === null) say(line.line, 'route', `${line.route} is none of ${ROUTES.join(', ')}.`);
  if (before.said) return null;
  const price = readTypedLinePrice(line.price);
  const ownUnit = customer.ground.items.get(item!.id)!.unit;
  return {
    id: null,
    itemId: item!.id,
    quantity: quantity!,
    shipDate: day,
    route: route!,
    unit: line.unit === '' || isSameUnit(line.unit, ownUnit) ? ownUnit : line.unit,
    ...price,
    // A price of their own is instead of an agreement's.
    ...(price.price !== '' || price.discount !== '' ? { agreementLineId: null } : {}),
  };
}

const COLUMNS: Readonly<Record<string, string>> = {
  itemId: 'item',
  shipDate: 'ship date',
  agreementLineId: 'price',
  shipToId: 'ship to',
  customerReference: 'reference',
  creditReason: 'customer',
  customerId: 'customer',
};

function columnOf(field: string): string {
  const name = field.split('.').at(-1)!;
  return COLUMNS[name] ?? (name === '' ? 'order' : name);
}
