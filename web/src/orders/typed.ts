import { agreedPrice } from '@core/agreements';
import type { Route } from '@core/catalogue';
import {
  addDays,
  daysBetween,
  dec,
  documentTotals,
  isDecimalText,
  isDay,
  lineAmount,
  MAIN_LOCATION,
  readTypedDecimal,
  sum,
  type Dec,
} from '@core/kernel';
import type { BuildUpStep } from '@core/pricing';
import { quantity } from '../kit/formats';
import type { ItemChoice, OrderInput, OrderPreview, OrderSheet, PriceOffer } from './service';

/** What was chosen for a line of what its item offers. // W2 */
export interface ChosenOption {
  id: number;
  number: string;
}

export interface TypedLine {
  key: string;
  id: number | null;
  itemId: number | null;
  number: string;
  name: string;
  /** What the quantity and a typed price are in, and the units it could be in, the item's own first. */
  unit: string;
  units: readonly { unit: string; factor: string }[];
  quantity: string;
  /** For one of the item's own unit, as far as it is known before the server answers. */
  unitPrice: string;
  listPrice: string;
  /** Typed instead of the price that is found; empty texts where nothing was. // R4 */
  price: string;
  discount: string;
  reason: string;
  /** Of one of the item's own unit. */
  weight: string;
  volume: string;
  /** The agreement line that prices it; null for none; undefined for the first that fits. // A13 */
  agreementLineId: number | null | undefined;
  /** Its agreement's number, as it is shown. */
  agreement: string;
  taxCode: string;
  taxRate: string;
  shipDate: string | null;
  /** Nobody typed its ship date: it is the first day its route can keep. // S10 */
  dayOpen?: boolean;
  route: Route;
  routes: readonly Route[];
  /** Which of our places it goes out from. */
  locationId: number;
  /** Whether anything may be chosen for it, and what is. // W2 */
  hasOptions: boolean;
  options: readonly ChosenOption[];
  /** The promotion it is free with: it is as what is bought earns it, and not typed. // S13 */
  free?: string;
}

export interface TypedOrder {
  version: number | null;
  customerId: number | null;
  customerName: string;
  referenceRequired: boolean;
  shipToId: number | null;
  shipTos: readonly { value: string; label: string }[];
  customerReference: string;
  lines: TypedLine[];
}

let keys = 0;
export function blankLine(workDate: string): TypedLine {
  keys += 1;
  return {
    key: `new${keys}-${Date.now()}`,
    id: null,
    itemId: null,
    number: '',
    name: '',
    unit: '',
    units: [],
    quantity: '',
    unitPrice: '',
    listPrice: '',
    price: '',
    discount: '',
    reason: '',
    weight: '0',
    volume: '0',
    agreementLineId: undefined,
    agreement: '',
    taxCode: '',
    taxRate: '0',
    shipDate: addDays(workDate, 7),
    dayOpen: true,
    route: 'drop',
    routes: [],
    locationId: MAIN_LOCATION,
    hasOptions: false,
    options: [],
  };
}

/** A quantity as it is typed: `1250.5`, or with its unit, `2 box`, where the line has it by any beginning. */
export function readTypedQuantity(
  typed: string,
  { units }: Pick<TypedLine, 'units'>,
  mayUnit: boolean,
): Pick<TypedLine, 'quantity'> & Partial<Pick<TypedLine, 'unit'>> {
  const plain = readTypedDecimal(typed, 'quantity');
  const [, figures, word] = /^\s*([\d.,]+)\s*(\p{L}.*?)\s*$/u.exec(typed) ?? [];
  if (plain !== null || figures === undefined || word === undefined || !mayUnit) return { quantity: plain ?? typed };
  const quantity = readTypedDecimal(figures, 'quantity');
  const fits = units.filter(({ unit }) => unit.toLowerCase().startsWith(word.toLowerCase().replace(/e?s$/, '')));
  return quantity !== null && fits.length > 0 ? { quantity, unit: fits[0]!.unit } : { quantity: typed };
}

export function emptyOrder(): TypedOrder {
  return {
    version: null,
    customerId: null,
    customerName: '',
    referenceRequired: false,
    shipToId: null,
    shipTos: [],
    customerReference: '',
    lines: [],
  };
}

export function typedOf(sheet: OrderSheet): TypedOrder {
  return {
    version: sheet.version,
    customerId: sheet.customer.id,
    customerName: sheet.customer.name,
    referenceRequired: sheet.referenceRequired,
    shipToId: sheet.shipTo?.id ?? null,
    shipTos: shipToOptions(sheet.shipTos),
    customerReference: sheet.customerReference,
    lines: sheet.lines.map((line) => ({
      key: String(line.id),
      id: line.id,
      itemId: line.item.id,
      number: line.item.number,
      name: line.item.name,
      unit: line.sold.unit,
      units: line.units,
      quantity: dec(line.quantity).div(line.sold.factor).toFixed(),
      unitPrice: line.unitPrice,
      listPrice: line.listPrice,
      price: line.sold.price ?? '',
      discount: line.sold.discount === '0' ? '' : line.sold.discount,
      reason: line.sold.reason,
      weight: line.weight,
      volume: line.volume,
      agreementLineId: line.agreementLineId,
      agreement: line.agreement?.number ?? '',
      taxCode: line.taxCode,
      taxRate: line.taxRate,
      shipDate: line.shipDate,
      route: line.route,
      routes: line.routes,
      locationId: line.location?.id ?? MAIN_LOCATION,
      hasOptions: line.hasOptions,
      options: line.options.map(({ id, number }) => ({ id, number })),
      ...(line.promotion?.free ? { free: line.promotion.number } : {}),
    })),
  };
}

export function shipToOptions(shipTos: OrderSheet['shipTos'], usual: number | null = null) {
  const several = shipTos.length > 1;
  return shipTos.map(({ id, label, town }) => ({
    value: String(id),
    label: `${label}, ${town}${several && id === usual ? ' (their usual one)' : ''}`,
  }));
}

/** What a line takes from its item. */
export function ofItem(item: ItemChoice): Partial<TypedLine> {
  return {
    itemId: item.id,
    number: item.number,
    name: item.name,
    unit: item.unit,
    units: item.units,
    unitPrice: item.listPrice,
    listPrice: item.listPrice,
    price: '',
    discount: '',
    reason: '',
    agreementLineId: undefined,
    agreement: '',
    taxCode: item.taxCode,
    taxRate: item.taxRate,
    weight: item.weight,
    volume: item.volume,
    route: item.route,
    routes: item.routes,
    hasOptions: item.hasOptions,
    options: [],
  };
}

export const isUsed = (line: TypedLine) => line.itemId !== null || line.quantity !== '';

/** True for a number already typed that can be read. */
export const readableAs = (text: string, kind: 'quantity' | 'price') =>
  text !== '' && readTypedDecimal(text, kind) !== null;

/** What is sent: the blank last line is left out. */
export function sendable(typed: TypedOrder, id: number | null): OrderInput {
  return {
    id,
    version: typed.version,
    customerId: typed.customerId,
    shipToId: typed.shipToId,
    customerReference: typed.customerReference,
    lines: typed.lines.filter(isUsed).map(sentLine),
  };
}

/** What is chosen for a line; nothing of one that was kept by an older page. */
export const optionIdsOf = ({ options }: Partial<Pick<TypedLine, 'options'>>): number[] =>
  (options ?? []).map(({ id }) => id);

type SentLine = OrderInput['lines'][number];

/** A line as it is sent. What was not typed is left out, so that a line nobody touched reads as it was kept. */
export function sentLine(line: TypedLine): SentLine {
  const { id, itemId, quantity, shipDate, route, locationId, agreementLineId, unit, units, price, discount, reason } =
    line;
  return {
    id,
    itemId,
    quantity,
    shipDate: shipDate !== null && !isDay(shipDate) ? shipDate.slice(0, 10) : shipDate,
    route,
    ...(locationId === MAIN_LOCATION ? {} : { locationId }),
    ...(agreementLineId === undefined ? {} : { agreementLineId }),
    ...(unit === '' || unit === units[0]?.unit ? {} : { unit }),
    ...(price === '' ? {} : { price, ...(reason === '' ? {} : { reason }) }),
    ...(discount === '' ? {} : { discount }),
    ...(line.hasOptions ? { optionIds: optionIdsOf(line) } : {}),
  };
}

/**
 * The same order again, as a new draft: what is alive of its lines at prices that are found anew, no ship date in the
 * past, and without the customer's reference, which was for that one.
 */
export function copyOf(sheet: OrderSheet, workDate: string): OrderInput {
  const first = sheet.firstShipDate ?? workDate;
  const later = first < workDate ? daysBetween(first, addDays(workDate, 7)) : 0;
  return {
    id: null,
    version: null,
    customerId: sheet.customer.id,
    shipToId: sheet.shipTo?.id ?? null,
    customerReference: '',
    lines: sheet.lines
      .filter((line) => line.cancelled !== line.quantity && !line.promotion?.free)
      .map((line) => ({
        id: null,
        itemId: line.item.id,
        quantity: dec(line.quantity).minus(line.cancelled).div(line.sold.factor).round(5).toFixed(),
        shipDate: addDays(line.shipDate < workDate ? first : line.shipDate, later),
        route: line.route,
        ...(line.location ? { locationId: line.location.id } : {}),
        ...(line.sold.factor === '1' ? {} : { unit: line.sold.unit }),
        ...(line.options.length > 0 ? { optionIds: line.options.map(({ id }) => id) } : {}),
      })),
  };
}

/** How many of the item's own unit one of the line's is. */
export const factorOf = (line: TypedLine) => line.units.find((each) => each.unit === line.unit)?.factor ?? '1';

/** A line's price as the server builds it up. */
export interface LinePrice {
  /** For one of the item's own unit, and what it would be without an agreement. */
  unitPrice: string;
  listPrice: string;
  amount: string;
  agreement: string;
  steps: BuildUpStep[];
}

type Shown = NonNullable<OrderPreview['effects']>['lines'];

/** What the server said of the lines that were sent, by what was sent: of those split at a limit, both together. */
export function pricesOf(sent: readonly SentLine[], shown: Shown): Map<string, LinePrice> {
  const prices = new Map<string, LinePrice>();
  sent.forEach((line, index) => {
    const own = shown.filter((each) => each.typedAt === index);
    const [first] = own;
    if (!first) return;
    prices.set(JSON.stringify(line), {
      unitPrice: first.unitPrice,
      listPrice: first.listPrice,
      amount: sum(own.map((each) => dec(each.amount))).toFixed(),
      agreement: own.map((each) => each.agreement ?? '').find((number) => number !== '') ?? '',
      steps: own.flatMap((each) => each.steps),
    });
  });
  return prices;
}

/** True where saving would change something. */
export function differs(typed: TypedOrder, sheet: OrderSheet): boolean {
  const kept = typedOf(sheet);
  return JSON.stringify(sendable(typed, sheet.id)) !== JSON.stringify(sendable(kept, sheet.id));
}

/**
 * A line with a changed quantity or choice of agreement, priced again by what could price it: by the chosen agreement, else the first
 * that fits, else the list. What the order has already keeps its price while its agreement stays. // A3 A13
 */
export function priced(line: TypedLine, offers: readonly PriceOffer[] | undefined, kept: boolean): TypedLine {
  if (kept || !offers) return line;
  const chosen =
    line.agreementLineId === undefined
      ? offers[0]
      : offers.find((offer) => offer.agreementLineId === line.agreementLineId);
  const quantity = dec(isDecimalText(line.quantity, 'quantity') ? line.quantity : '1').times(factorOf(line));
  return {
    ...line,
    agreement: chosen?.agreement.number ?? '',
    unitPrice: chosen ? agreedPrice(chosen, quantity, line.listPrice).toFixed() : line.listPrice,
  };
}

/** A typed price or the one known, for one of the item's own unit; empty while there is none. */
function priceOf(line: TypedLine): string {
  if (!isDecimalText(line.price, 'price')) return line.price === '' ? line.unitPrice : '';
  return dec(line.price).div(factorOf(line)).toFixed();
}

/** What a line comes to: as the server built it up, else as far as it can be told before it did; null where it cannot. */
export function amountOf(line: TypedLine, price: LinePrice | undefined, currency: string): Dec | null {
  if (price) return dec(price.amount);
  const unitPrice = priceOf(line);
  if (!isDecimalText(line.quantity, 'quantity') || unitPrice === '') return null;
  return lineAmount(dec(line.quantity).times(factorOf(line)), dec(unitPrice), currency);
}

/** Totals of what is typed, as far as it can be read, with its weight (kg) and volume (m³). */
export function totalsOf(
  lines: readonly TypedLine[],
  currency: string,
  priceOfLine: (line: TypedLine) => LinePrice | undefined = () => undefined,
) {
  const read = lines.flatMap((line) => {
    const net = amountOf(line, priceOfLine(line), currency);
    return net === null ? [] : [{ line, taxCode: line.taxCode, taxRate: line.taxRate, net }];
  });
  const of = (each: 'weight' | 'volume') =>
    sum(read.map(({ line }) => dec(line.quantity).times(factorOf(line)).times(line[each])));
  return { ...documentTotals(read, currency), weight: of('weight'), volume: of('volume') };
}

/** A typed quantity in the item's own unit; empty while it cannot be read. */
export function baseQuantity(line: TypedLine): string {
  return isDecimalText(line.quantity, 'quantity') ? dec(line.quantity).times(factorOf(line)).toFixed() : '';
}

/** Weight (kg) and volume (m³) of what is alive of an order that is kept. */
export function keptSize(lines: OrderSheet['lines']): [weight: Dec, volume: Dec] {
  const of = (each: 'weight' | 'volume') =>
    sum(lines.map((line) => dec(line.quantity).minus(line.cancelled).times(line[each])));
  return [of('weight'), of('volume')];
}

/** `1,240 kg, 3.2 m³`; empty where nothing has a weight. */
export function sizeOf(weight: Dec, volume: Dec): string {
  if (weight.eq(0) && volume.eq(0)) return '';
  const kilograms = quantity(weight.round(weight.lt(100) ? 1 : 0).toFixed());
  return `${kilograms} kg, ${quantity(volume.round(2).toFixed())} m³`;
}
