import { aboveZero } from '@core/agreements';
import { dec, isDecimalText, lineAmount, readTypedDecimal, sum } from '@core/kernel';
import type { AgreementSheet, Terms } from './service';

/** A line being typed: what the terms carry, and what is shown beside it. */
export interface TypedLine {
  key: string;
  itemId: number | null;
  number: string;
  name: string;
  unit: string;
  listPrice: string;
  committed: string;
  unitPrice: string;
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
    unitPrice: '',
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
    version: sheet.version,
    lines: sheet.lines.map((line) => ({
      key: String(line.id),
      itemId: line.item.id,
      number: line.item.number,
      name: line.item.name,
      unit: line.item.unit,
      listPrice: line.listPrice,
      committed: line.committed,
      unitPrice: line.unitPrice,
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
    lines: lines.filter(isUsed).map(({ itemId, committed, unitPrice }) => ({ itemId, committed, unitPrice })),
  };
}

export function isUsed(line: TypedLine): boolean {
  return line.itemId !== null || line.committed !== '' || line.unitPrice !== '';
}

/** The typed text as decimal text where it is a number, else as typed. */
export function readCell(typed: string, kind: 'quantity' | 'price'): string {
  return readTypedDecimal(typed, kind) ?? typed;
}

/** What the lines commit to, as far as they can be read. */
export function committedValue(lines: readonly TypedLine[], currency: string): string {
  return sum(
    lines
      .filter((line) => isDecimalText(line.committed, 'quantity') && isDecimalText(line.unitPrice, 'price'))
      .map((line) => lineAmount(dec(line.committed), dec(line.unitPrice), currency)),
  ).toFixed();
}

/** What is wrong with a number already typed; empty where nothing is typed yet or it is fine. // A1 A3 */
export function numberProblem(typed: string, kind: 'quantity' | 'price', what: string): string {
  if (typed === '') return '';
  return aboveZero(typed, kind, '', what).length > 0 ? `${what} must be a number above zero.` : '';
}
