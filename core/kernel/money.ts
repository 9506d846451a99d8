import { dec, isDecimalText, roundHalfAway, sum, ZERO, type Dec } from './decimal';

/** Currencies that do not have two places (ISO 4217, minor units). `Intl` knows customary ones, which differ for some. */
export const OTHER_PLACES: ReadonlyMap<string, number> = new Map([
  ...'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF'.split(' ').map((code) => [code, 0] as const),
  ...'BHD IQD JOD KWD LYD OMR TND'.split(' ').map((code) => [code, 3] as const),
  ...'CLF UYW'.split(' ').map((code) => [code, 4] as const),
]);

/** Decimal places of a currency's totals, 0 to 4; 2 for what is no currency. */
export function currencyPlaces(currency: string): number {
  return OTHER_PLACES.get(currency) ?? 2;
}

/** Whether a text is an amount of a currency: a plain decimal, zero or more, in the currency's places. */
export function isMoneyText(text: string, currency: string): boolean {
  return (
    isDecimalText(text, 'price') &&
    !text.startsWith('-') &&
    dec(text).eq(roundHalfAway(dec(text), currencyPlaces(currency)))
  );
}

/** A price as a sentence says it: with at least its currency's places. */
export function priceText(price: Dec | string, currency: string): string {
  const exact = dec(price);
  const places = exact.toFixed().split('.')[1]?.length ?? 0;
  return exact.toFixed(Math.max(places, currencyPlaces(currency)));
}

/** Quantity × price in the currency's places, half away from zero. */
export function lineAmount(quantity: Dec, price: Dec, currency: string): Dec {
  return roundHalfAway(quantity.times(price), currencyPlaces(currency));
}

/**
 * Amount of the slice of a line that runs from quantity `from` to quantity `to`.
 * Slices laid end to end always sum to the amount of the whole line, to the cent.
 */
export function sliceAmount(from: Dec, to: Dec, price: Dec, currency: string): Dec {
  return lineAmount(to, price, currency).minus(lineAmount(from, price, currency));
}

/** The part of `whole` that the slice from `from` to `to` of `quantity` makes; slices end to end sum to the whole. */
export function shareOf(whole: string, quantity: string, from: Dec, to: Dec, currency: string): Dec {
  const at = (reached: Dec) => roundHalfAway(dec(whole).times(reached).div(quantity), currencyPlaces(currency));
  return at(to).minus(at(from));
}

/** The money of an order line: its amount is for its live quantity. */
export interface LineMoney {
  quantity: string;
  unitPrice: string;
  amount: string;
  /** What of the amount counts against the line's agreement where that is not the whole: its price is a mixed one. */
  agreedAmount: string | null;
}

/**
 * Amount of the slice of a line from `from` to `to`, and what of it counts against its agreement where that is not the
 * whole. A line at one price goes by the price; one whose amount is not its quantity × its price (priced in part by an
 * agreement, or by the pack, or charged as a whole) by shares. Slices end to end sum to the line's.
 */
export function lineSlice(line: LineMoney, from: Dec, to: Dec, currency: string): { value: Dec; agreed: Dec | null } {
  const { agreedAmount, quantity, unitPrice } = line;
  if (agreedAmount === null && lineAmount(dec(quantity), dec(unitPrice), currency).eq(line.amount)) {
    return { value: sliceAmount(from, to, dec(unitPrice), currency), agreed: null };
  }
  return {
    value: shareOf(line.amount, quantity, from, to, currency),
    agreed: agreedAmount === null ? null : shareOf(agreedAmount, quantity, from, to, currency),
  };
}

/** The amount of a line whose quantity changes and whose price stays: by the price, or by shares as `lineSlice` says. */
export function amountAt(line: LineMoney, quantity: Dec, currency: string): Dec {
  const { unitPrice } = line;
  if (lineAmount(dec(line.quantity), dec(unitPrice), currency).eq(line.amount)) {
    return lineAmount(quantity, dec(unitPrice), currency);
  }
  return roundHalfAway(dec(line.amount).times(quantity).div(line.quantity), currencyPlaces(currency));
}

export interface Taxed {
  taxCode: string;
  /** Per cent, as decimal text. */
  taxRate: string;
  net: Dec;
}

export interface TaxTotal {
  taxCode: string;
  taxRate: string;
  base: Dec;
  tax: Dec;
}

/**
 * Tax of a document: rounded once per tax code over the sum of its lines, half away from zero. // P7
 * Codes come in the order of their first line.
 */
export function taxTotals(lines: readonly Taxed[], currency: string): TaxTotal[] {
  const byCode = new Map<string, TaxTotal>();
  for (const line of lines) {
    const total = byCode.get(line.taxCode) ?? {
      taxCode: line.taxCode,
      taxRate: line.taxRate,
      base: ZERO,
      tax: ZERO,
    };
    total.base = total.base.plus(line.net);
    byCode.set(line.taxCode, total);
  }
  for (const total of byCode.values()) {
    total.tax = roundHalfAway(total.base.times(dec(total.taxRate)).div(100), currencyPlaces(currency));
  }
  return [...byCode.values()];
}

export interface DocumentTotals {
  net: Dec;
  tax: Dec;
  total: Dec;
  taxes: TaxTotal[];
}

/** Net, tax by code and total of a document's lines. // P7 */
export function documentTotals(lines: readonly Taxed[], currency: string): DocumentTotals {
  const taxes = taxTotals(lines, currency);
  const net = sum(lines.map((line) => line.net));
  const tax = sum(taxes.map((each) => each.tax));
  return { net, tax, total: net.plus(tax), taxes };
}

/** In groups of three, with the one sign for less than nothing: a minus, not a hyphen. */
export const groupedText = (text: string) => text.replace(/\B(?=(\d{3})+(?!\d))/g, ',').replace('-', '−');

/** `12345.6` with places as `12,345.60`. */
export function fixedText(value: string, places: number): string {
  const [whole, part] = dec(value).toFixed(places).split('.') as [string, string?];
  return groupedText(whole) + (part ? `.${part}` : '');
}

/** An amount in its currency's places, without the code: `12,345.60`. */
export const amountText = (value: string, currency: string) => fixedText(value, currencyPlaces(currency));
