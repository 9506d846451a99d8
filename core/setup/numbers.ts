import { DOCUMENTS, documentNumber, readTypedDecimal, type DocumentKind } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** How one kind of document is numbered. */
export interface Series {
  kind: DocumentKind;
  prefix: string;
  /** The serial the next one gets, and the one the first got. */
  next: number;
  first: number;
}

export interface SeriesTyped {
  kind: DocumentKind;
  prefix: string;
  next: string;
}

/** Letters before a serial at most; with the highest serial a number has 16. */
const MOST_PREFIX = 8;
/** The highest serial to begin with: it leaves room to go on for years. */
const MOST_SERIAL = 90_000_000;

/** How a kind is numbered where a company says nothing: `SO-0001` and on. */
export const usualSeries = (kind: DocumentKind): Series => ({ kind, prefix: `${kind}-`, next: 1, first: 1 });

/**
 * Says how documents of a kind are numbered from now on: what stands before the serial at any time, the serial itself
 * only before the first was taken, for numbers have no gaps. Two kinds never look alike. // U2
 */
export function decideSeries(
  all: readonly Series[],
  typed: SeriesTyped,
  /** Numbers of invoices that were opened: none of ours becomes one of them. // U3 */
  opened: readonly string[] = [],
): Decision<Series & { number: string }> {
  const refusals: Refusal[] = [];
  const own = all.find(({ kind }) => kind === typed.kind) ?? usualSeries(typed.kind);
  const prefix = typed.prefix.trim();
  const what = 'What stands before the number';
  if (prefix === '') refusals.push(refuse('required', 'prefix', { what }));
  else if (prefix.length > MOST_PREFIX) {
    refusals.push(refuse('too-long', 'prefix', { what, most: String(MOST_PREFIX) }));
  } else if (!/^[A-Za-z\d][A-Za-z\d/.-]*[A-Za-z/.-]$/.test(prefix)) refusals.push(refuse('not-a-prefix', 'prefix', {}));
  const alike = all.find(({ kind, prefix: theirs }) => kind !== own.kind && alikeText(theirs, prefix));
  if (alike) refusals.push(refuse('prefix-taken', 'prefix', { prefix, document: DOCUMENTS[alike.kind].name }));
  const read = readTypedDecimal(typed.next, 'quantity');
  const next = read !== null && /^\d+$/.test(read) ? Number(read) : 0;
  if (next < 1 || next > MOST_SERIAL) refusals.push(refuse('not-a-number', 'next', { what: 'The next number' }));
  else if (next !== own.next && own.next !== own.first) {
    refusals.push(refuse('numbers-begun', 'next', { next: documentNumber(own.kind, own.next, own.prefix) }));
  }
  const met = opened.find((number) => {
    const serial = number.slice(prefix.length);
    return alikeText(number.slice(0, prefix.length), prefix) && /^\d+$/.test(serial) && Number(serial) >= next;
  });
  if (met !== undefined && prefix !== '') refusals.push(refuse('number-opened', 'prefix', { number: met }));
  return decided(refusals, () => ({
    kind: own.kind,
    prefix,
    next,
    first: next === own.next ? own.first : next,
    number: documentNumber(own.kind, next, prefix),
  }));
}

const alikeText = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
