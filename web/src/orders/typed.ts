import { agreedPrice } from '@core/agreements';
import type { Route } from '@core/catalogue';
import { addDays, dec, documentTotals, isDecimalText, isDay, lineAmount, readTypedDecimal } from '@core/kernel';
import type { OrderInput, OrderSheet, PriceOffer } from './service';

export interface TypedLine {
  key: string;
  id: number | null;
  itemId: number | null;
  number: string;
  name: string;
  unit: string;
  quantity: string;
  unitPrice: string;
  listPrice: string;
  /** The agreement line that prices it; null for none; undefined for the first that fits. // A13 */
  agreementLineId: number | null | undefined;
  /** Its agreement's number, as it is shown. */
  agreement: string;
  taxCode: string;
  taxRate: string;
  shipDate: string | null;
  route: Route;
  routes: readonly Route[];
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
    quantity: '',
    unitPrice: '',
    listPrice: '',
    agreementLineId: undefined,
    agreement: '',
    taxCode: '',
    taxRate: '0',
    shipDate: addDays(workDate, 7),
    route: 'drop',
    routes: [],
  };
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
      unit: line.item.unit,
      quantity: line.quantity,
      unitPrice: line.unitPrice,
      listPrice: line.listPrice,
      agreementLineId: line.agreementLineId,
      agreement: line.agreement?.number ?? '',
      taxCode: line.taxCode,
      taxRate: line.taxRate,
      shipDate: line.shipDate,
      route: line.route,
      routes: line.routes,
    })),
  };
}

export function shipToOptions(shipTos: OrderSheet['shipTos']) {
  return shipTos.map((shipTo) => ({ value: String(shipTo.id), label: `${shipTo.label}, ${shipTo.town}` }));
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
    lines: typed.lines.filter(isUsed).map(({ id: lineId, itemId, quantity, shipDate, route, agreementLineId }) => ({
      id: lineId,
      itemId,
      quantity,
      shipDate: shipDate !== null && !isDay(shipDate) ? shipDate.slice(0, 10) : shipDate,
      route,
      ...(agreementLineId === undefined ? {} : { agreementLineId }),
    })),
  };
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
  const quantity = dec(isDecimalText(line.quantity, 'quantity') ? line.quantity : '1');
  return {
    ...line,
    agreement: chosen?.agreement.number ?? '',
    unitPrice: chosen ? agreedPrice(chosen, quantity, line.listPrice).toFixed() : line.listPrice,
  };
}

/** Totals of what is typed, as far as it can be read. */
export function totalsOf(lines: readonly TypedLine[], currency: string) {
  return documentTotals(
    lines
      .filter((line) => isDecimalText(line.quantity, 'quantity') && isDecimalText(line.unitPrice, 'price'))
      .map((line) => ({
        taxCode: line.taxCode,
        taxRate: line.taxRate,
        net: lineAmount(dec(line.quantity), dec(line.unitPrice), currency),
      })),
    currency,
  );
}
