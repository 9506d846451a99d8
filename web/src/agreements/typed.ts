import { aboveZero, agreedPrice } from '@core/agreements';
import { dec, isDecimalText, lineAmount, readTypedDecimal, sum, ZERO, type Dec } from '@core/kernel';
import { readTypedBreaks, readTypedPrice, typedBreaksOf, typedPriceOf } from '@core/typed';
import type { AgreementSheet, Terms } from './service';

/** A line being typed, each cell as it is typed; beside them what is shown of the item. */
export interface TypedLine {
  key: string;
  itemId: number | null;
  number: string;
  name: string;
  unit: string;
  listPrice: string;
  committed: string;
  /** `740`, `8 %` or `list`. */
  price: string;
  /** `20: 720; 50: 700`. */
  breaks: string;
  least: string;
  multiple: string;
  notes: string;
}

export interface TypedTerms extends Omit<Terms, 'lines' | 'id' | 'version'> {
  customerName: string;
  lines: TypedLine[];
  /** The version this was typed against. */
  version: number | null;
}

let keys = 0;
export function blankLine(): TypedLine {
  keys += 1;
  return {
    key: `new${keys}-${Date.now()}`,
    itemId: null,
    number: '',
    name: '',
    unit: '',
    listPrice: '',
    committed: '',
    price: '',
    breaks: '',
    least: '',
    multiple: '',
    notes: '',
  };
}

/** An empty agreement for a year from the work date on. */
export function emptyTerms(workDate: string): TypedTerms {
  return {
    customerId: null,
    customerName: '',
    title: '',
    firstDay: workDate,
    lastDay: null,
    signedOn: workDate,
    limitPolicy: 'refuse',
    tolerancePercent: '0',
    probabilityPercent: '100',
    priority: '5',
    notes: '',
    lines: [],
    version: null,
  };
}

export function termsOf(sheet: AgreementSheet): TypedTerms {
  return {
    customerId: sheet.customer.id,
    customerName: sheet.customer.name,
    title: sheet.title,
    firstDay: sheet.firstDay,
    lastDay: sheet.lastDay,
    signedOn: sheet.signedOn,
    limitPolicy: sheet.limitPolicy,
    tolerancePercent: sheet.tolerancePercent,
    probabilityPercent: sheet.probabilityPercent,
    priority: String(sheet.priority),
    notes: sheet.notes,
    version: sheet.version,
    lines: sheet.lines.map((line) => ({
      key: String(line.id),
      itemId: line.item.id,
      number: line.item.number,
      name: line.item.name,
      unit: line.item.unit,
      listPrice: line.listPrice,
      committed: line.committed,
      price: typedPriceOf(line),
      breaks: typedBreaksOf(line.breaks),
      least: line.leastRelease === '0' ? '' : line.leastRelease,
      multiple: line.releaseMultiple === '0' ? '' : line.releaseMultiple,
      notes: line.notes,
    })),
  };
}

/** What is sent: the typed terms without what is only shown; the blank last line is left out. */
export function sendable(typed: TypedTerms, id: number | null): Terms {
  const { customerName: _name, lines, version, ...rest } = typed;
  return {
    ...rest,
    id,
    version,
    lines: lines.filter(isUsed).map((line) => ({
      itemId: line.itemId,
      committed: line.committed,
      ...readTypedPrice(line.price),
      breaks: readTypedBreaks(line.breaks),
      leastRelease: line.least || '0',
      releaseMultiple: line.multiple || '0',
      notes: line.notes,
    })),
  };
}

export function isUsed(line: TypedLine): boolean {
  return line.itemId !== null || line.committed !== '' || line.price !== '';
}

/** The typed text as decimal text where it is a number, else as typed. */
export function readCell(typed: string, kind: 'quantity' | 'price'): string {
  return readTypedDecimal(typed, kind) ?? typed;
}

/** The agreed unit price of a line as far as it can be read, below its first price break; null where it cannot. */
export function unitPriceOf(line: TypedLine): Dec | null {
  const term = readTypedPrice(line.price);
  const readable =
    term.priceKind === 'none' || isDecimalText(term.priceValue, term.priceKind === 'fixed' ? 'price' : 'percent');
  if (!readable || (term.priceKind !== 'fixed' && line.listPrice === '')) return null;
  return agreedPrice({ ...term, breaks: [] }, dec(0), line.listPrice || '0');
}

/** What the lines commit to, as far as they can be read. */
export function committedValue(lines: readonly TypedLine[], currency: string): string {
  return sum(
    lines.map((line) => {
      const price = unitPriceOf(line);
      return price && isDecimalText(line.committed, 'quantity')
        ? lineAmount(dec(line.committed), price, currency)
        : ZERO;
    }),
  ).toFixed();
}

/** What is wrong with a quantity already typed; empty where nothing is typed yet or it is fine. // A1 */
export function quantityProblem(typed: string, what: string): string {
  if (typed === '') return '';
  return aboveZero(typed, 'quantity', '', what).length > 0 ? `${what} must be a number above zero.` : '';
}

/** What is wrong with a price already typed. // A3 */
export function priceProblem(typed: string): string {
  const { priceKind, priceValue } = readTypedPrice(typed);
  if (priceKind === 'none') return '';
  const kind = priceKind === 'fixed' ? 'price' : 'percent';
  return aboveZero(priceValue, kind, '', '').length > 0 ? 'Write a price like 740, a discount like 8 %, or list.' : '';
}
