import { aboveZero, agreedPrice, type RestPlan } from '@core/agreements';
import { dec, isDecimalText, lineAmount, readTypedDecimal, sum, ZERO, type Dec } from '@core/kernel';
import {
  readTypedBreaks,
  readTypedPrice,
  readTypedReminders,
  readTypedTiers,
  typedBreaksOf,
  typedPriceOf,
  typedRemindersOf,
  typedTiersOf,
} from '@core/typed';
import type { AgreementSheet, Revision, Terms } from './service';

/** A line being typed, each cell as it is typed; beside them what is shown of the item. */
export interface TypedLine {
  key: string;
  /** The line the agreement has; null for a new one. */
  id: number | null;
  itemId: number | null;
  groupId: number | null;
  /** Everything is covered: neither item nor group. */
  everything: boolean;
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

export interface TypedTerms extends Omit<
  Terms,
  'lines' | 'id' | 'version' | 'rebate' | 'reminders' | 'restPlan' | 'wholeLimit' | 'freeGoodsCount'
> {
  restPlan: RestPlan;
  freeGoodsCount: boolean;
  /** `50000`, `1000 kg`, or nothing. // A5 */
  wholeLimit: string;
  /** The customer or vendor chosen, in words. */
  partyName: string;
  rebateKind: Terms['rebate']['kind'];
  rebateBy: Terms['rebate']['by'];
  /** `10000: 2 %; 25000: 3 %`. */
  tiers: string;
  /** `30 days; 80 %; pace -15`. */
  reminders: string;
  lines: TypedLine[];
  /** The version this was typed against. */
  version: number | null;
}

let keys = 0;
export function blankLine(): TypedLine {
  keys += 1;
  return {
    key: `new${keys}-${Date.now()}`,
    id: null,
    itemId: null,
    groupId: null,
    everything: false,
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
    side: 'selling',
    basis: 'quantity',
    customerId: null,
    vendorId: null,
    salesOrganisationId: null,
    partyName: '',
    rebateKind: 'none',
    rebateBy: 'value',
    tiers: '',
    reminders: '',
    releaseAhead: '',
    title: '',
    firstDay: workDate,
    lastDay: null,
    signedOn: workDate,
    limitPolicy: 'refuse',
    tolerancePercent: '0',
    wholeLimit: '',
    probabilityPercent: '100',
    restPlan: 'spread',
    freeGoodsCount: false,
    priority: '5',
    notes: '',
    lines: [],
    version: null,
  };
}

export function termsOf(sheet: AgreementSheet): TypedTerms {
  return {
    side: sheet.side,
    basis: sheet.basis,
    customerId: sheet.side === 'selling' ? sheet.party.id : null,
    vendorId: sheet.side === 'buying' ? sheet.party.id : null,
    salesOrganisationId: sheet.salesOrganisation?.id ?? null,
    partyName: sheet.party.name,
    rebateKind: sheet.rebate.kind,
    rebateBy: sheet.rebate.by,
    tiers: typedTiersOf(sheet.rebate),
    reminders: typedRemindersOf(sheet.reminders),
    releaseAhead: sheet.releaseAhead,
    title: sheet.title,
    firstDay: sheet.firstDay,
    lastDay: sheet.lastDay,
    signedOn: sheet.signedOn,
    limitPolicy: sheet.limitPolicy,
    tolerancePercent: sheet.tolerancePercent,
    wholeLimit: sheet.wholeLimit,
    probabilityPercent: sheet.probabilityPercent,
    restPlan: sheet.restPlan,
    freeGoodsCount: sheet.freeGoodsCount,
    priority: String(sheet.priority),
    notes: sheet.notes,
    version: sheet.version,
    lines: sheet.lines.map((line) => ({
      key: String(line.id),
      id: line.id,
      itemId: line.item?.id ?? null,
      groupId: line.group?.id ?? null,
      everything: line.item === null && line.group === null,
      number: line.item?.number ?? line.group?.code ?? 'everything',
      name: line.item?.name ?? line.group?.name ?? 'all items',
      unit: line.item?.unit ?? '',
      listPrice: line.item ? line.listPrice : '',
      committed: sheet.basis === 'value' ? line.committedValue : line.committed,
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
  const { partyName: _name, lines, version, rebateKind, rebateBy, tiers, reminders, ...rest } = typed;
  return {
    ...rest,
    id,
    version,
    rebate: { kind: rebateKind, by: rebateBy, tiers: readTypedTiers(tiers) },
    reminders: readTypedReminders(reminders),
    lines: lines.filter(isUsed).map(sendableLine),
  };
}

function sendableLine(line: TypedLine): Terms['lines'][number] {
  return {
    itemId: line.itemId,
    groupId: line.groupId,
    committed: line.committed,
    ...readTypedPrice(line.price),
    breaks: readTypedBreaks(line.breaks),
    leastRelease: line.least || '0',
    releaseMultiple: line.multiple || '0',
    notes: line.notes,
  };
}

/** A revision of an approved agreement: its lines name those they change. // A15 */
export function sendableRevision(typed: TypedTerms, id: number, reason: string, reprice: boolean): Revision {
  const { lines, version, ...rest } = sendable(typed, id);
  const used = typed.lines.filter(isUsed);
  return {
    ...rest,
    id,
    version: version ?? 0,
    reason,
    reprice,
    lines: lines.map((line, index) => ({ ...line, id: used[index]!.id })),
  };
}

export function isUsed(line: TypedLine): boolean {
  return line.itemId !== null || line.groupId !== null || line.everything || line.committed !== '' || line.price !== '';
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
export function committedValue(lines: readonly TypedLine[], currency: string, basis: Terms['basis']): string {
  return sum(
    lines.map((line) => {
      if (basis === 'value') return isDecimalText(line.committed, 'price') ? dec(line.committed) : ZERO;
      const price = unitPriceOf(line);
      return price && isDecimalText(line.committed, 'quantity')
        ? lineAmount(dec(line.committed), price, currency)
        : ZERO;
    }),
  ).toFixed();
}

/** What is wrong with a commitment already typed; empty where nothing is typed yet or it is fine. // A1 */
export function committedProblem(typed: string, kind: 'quantity' | 'price'): string {
  if (typed === '' || aboveZero(typed, kind, '', '').length === 0) return '';
  return `The committed ${kind === 'price' ? 'amount' : 'quantity'} must be a number above zero.`;
}

/** What is wrong with price breaks already typed; empty where nothing is. // A3 */
export function breaksProblem(typed: string): string {
  const bad = readTypedBreaks(typed).some(
    ({ from, value }) => aboveZero(from, 'quantity', '', '').length > 0 || aboveZero(value, 'price', '', '').length > 0,
  );
  return bad ? 'Write breaks like 500: 4.85, or from 500 at 4.85; 1,000 at 4.60.' : '';
}

/** What is wrong with a price already typed. // A3 */
export function priceProblem(typed: string): string {
  const { priceKind, priceValue } = readTypedPrice(typed);
  if (priceKind === 'none') return '';
  const kind = priceKind === 'fixed' ? 'price' : 'percent';
  return aboveZero(priceValue, kind, '', '').length > 0 ? 'Write a price like 740, a discount like 8 %, or list.' : '';
}
