import { leftOut, type ImportProblem } from './left-out';
import {
  BASES,
  decideTerms,
  LIMIT_POLICIES,
  REST_PLANS,
  REBATE_BASES,
  REBATE_KINDS,
  SIDES,
  type AgreementEffects,
  type AgreementGround,
  type AgreementTerms,
  type TypedTerm,
} from '@core/agreements';
import { isDay, MOST_LINES, readTypedDecimal, type Day } from '@core/kernel';
import { decided, refuse, sentenceOf, type Decision, type Refusal } from '@core/refusals';
import {
  readTypedBreaks,
  readTypedDay,
  readTypedPrice,
  readTypedReminders,
  readTypedTiers,
  typedBreaksOf,
  typedPriceOf,
  typedRemindersOf,
  typedTiersOf,
} from '@core/typed';

/** The columns of agreements in a file, one row a line; the head stands on the first row of each agreement. */
export const AGREEMENT_COLUMNS = [
  'agreement',
  'state',
  'side',
  'basis',
  'party',
  'party name',
  'about',
  'first day',
  'last day',
  'signed',
  'at the limit',
  'tolerance',
  'whole limit',
  'probability',
  'in no plan',
  'priority',
  'rebate',
  'rebate by',
  'rebate tiers',
  'reminders',
  'notes',
  'item',
  'item name',
  'committed',
  'price',
  'price breaks',
  'least release',
  'multiple',
  'line notes',
] as const;
type Column = (typeof AGREEMENT_COLUMNS)[number];
type Cells = Partial<Record<Column, string>>;

/** Most rows a file may hold. */
export const MOST_ROWS = 5000;

export interface ImportGround {
  /** By number, lower case. */
  customers: ReadonlyMap<string, NonNullable<AgreementGround['party']>>;
  vendors: ReadonlyMap<string, NonNullable<AgreementGround['party']>>;
  /** By number, lower case; `vendorPrices` by vendor id. */
  items: ReadonlyMap<
    string,
    {
      id: number;
      number: string;
      listPrice: string;
      units: ReadonlyMap<string, unknown>;
      vendorPrices: ReadonlyMap<number, string>;
    }
  >;
  /** By code, lower case. */
  groups: ReadonlyMap<string, { id: number; code: string }>;
}

export interface ImportEffects {
  drafts: AgreementEffects[];
  /** Agreements and lines the file holds. */
  agreements: number;
  rows: number;
  problems: ImportProblem[];
  /** Agreements that can be made from the good lines alone. */
  good: number;
  /** What is worth a word and stands against nothing. */
  words: ImportProblem[];
}

interface FileRow {
  line: number;
  cells: Cells;
}

/**
 * Reads agreements out of a file's rows, the heading first, columns in any order. Every problem is named by line and
 * column; nothing is made unless all is good or only the good lines are wanted. // G4
 */
export function decideImport(
  ground: ImportGround,
  table: readonly (readonly string[])[],
  goodOnly: boolean,
  workDate: Day,
): Decision<ImportEffects> {
  const heading = (table[0] ?? []).map((cell) => cell.trim().toLowerCase());
  const missing = (['party', 'last day', 'committed'] as const).filter((column) => !heading.includes(column));
  if (missing.length > 0) return refused(refuse('columns-missing', 'file', { columns: missing.join(', ') }));
  const rows = rowsOf(table, heading);
  const words = leftOut(table[0] ?? [], AGREEMENT_COLUMNS);
  if (rows.length === 0) return refused(refuse('file-empty', 'file', {}));
  if (rows.length > MOST_ROWS) return refused(refuse('file-too-long', 'file', { most: String(MOST_ROWS) }));
  const read = groupsOf(rows).map((group) => readAgreement(ground, group, workDate));
  const problems = read.flatMap((each) => each.problems).sort((a, b) => a.line - b.line);
  const good = read.flatMap((each) => (each.good ? [each.good] : []));
  const effects = () => ({
    drafts: good,
    agreements: read.length,
    rows: rows.length,
    problems,
    good: good.length,
    words,
  });
  if (problems.length > 0 && goodOnly && good.length === 0) return refused(refuse('nothing-good', 'file', {}));
  return decided([], effects);
}

/** How a file is taken: only its good lines, or all; only looked at, or made. */
export interface FileTaking {
  goodOnly: boolean;
  look?: boolean | undefined;
}

/** A file that is only looked at tells what stands in it; one that is taken is refused for a single bad line. // G4 */
export function wholeOrGood<Effects extends { problems: readonly ImportProblem[] }>(
  decision: Decision<Effects>,
  { goodOnly, look }: FileTaking,
): Decision<Effects> {
  if (!decision.ok || look || goodOnly) return decision;
  const count = decision.effects.problems.length;
  return count > 0
    ? { ok: false, refusals: [refuse('file-has-problems', 'file', { count: String(count) })] }
    : decision;
}

const refused = (refusal: Refusal): Decision<ImportEffects> => ({ ok: false, refusals: [refusal] });

function rowsOf(table: readonly (readonly string[])[], heading: readonly string[]): FileRow[] {
  const columns = AGREEMENT_COLUMNS.flatMap((column) => {
    const at = heading.indexOf(column);
    return at < 0 ? [] : [[column, at] as const];
  });
  return table
    .slice(1)
    .map((row, index) => {
      const cells: Cells = {};
      for (const [column, at] of columns) cells[column] = (row[at] ?? '').trim();
      return { line: index + 2, cells };
    })
    .filter(({ cells }) => Object.values(cells).some((cell) => cell !== ''));
}

/** Rows of one agreement: those with its name in the first column, and those that leave the name empty after it. */
function groupsOf(rows: readonly FileRow[]): FileRow[][] {
  const groups: FileRow[][] = [];
  let name: string | null = null;
  for (const row of rows) {
    const own = row.cells.agreement ?? '';
    if (groups.length === 0 || (own !== '' && own !== name)) groups.push([]);
    name = own || name;
    groups.at(-1)!.push(row);
  }
  return groups;
}

interface ReadAgreement {
  problems: ImportProblem[];
  /** What its good lines make; null where its head is bad or no line is good. */
  good: AgreementEffects | null;
}

function readAgreement(ground: ImportGround, rows: readonly FileRow[], workDate: Day): ReadAgreement {
  const head = rows[0]!;
  const problems: ImportProblem[] = [];
  // One problem a cell: what could not be read is not refused again for what it is.
  const bad = (line: number, column: Column, sentence: string) => {
    if (!problems.some((each) => each.line === line && each.column === column))
      problems.push({ line, column, sentence });
  };
  if (rows.length > MOST_LINES) {
    bad(
      head.line,
      'agreement',
      `It has ${rows.length} lines; an agreement holds ${MOST_LINES} at most. Split it in two.`,
    );
    return { problems, good: null };
  }
  const terms = headOf(head, workDate, bad);
  const parties = terms.side === 'selling' ? ground.customers : ground.vendors;
  const party = parties.get((head.cells.party ?? '').toLowerCase()) ?? null;
  if (!party)
    bad(
      head.line,
      'party',
      `${head.cells.party || 'Nothing'} is no ${terms.side === 'selling' ? 'customer' : 'vendor'} number here.`,
    );
  const headIsBad = problems.length > 0;
  const lines = rows.map((row) => lineOf(ground, row, bad));
  const termsGround = {
    current: null,
    party,
    items: new Map(
      rows.flatMap(({ cells }) => {
        const item = ground.items.get((cells.item ?? '').toLowerCase());
        if (!item) return [];
        const price = terms.side === 'selling' ? item.listPrice : (item.vendorPrices.get(party?.id ?? 0) ?? null);
        return [[item.id, { number: item.number, listPrice: price, units: item.units }]];
      }),
    ),
    groups: new Map([...ground.groups.values()].map((group) => [group.id, { code: group.code }])),
  };
  const whole = decideTerms(termsGround, { ...terms, lines: lines.map((line) => line ?? UNREAD) });
  const found = whole.ok
    ? []
    : whole.refusals.filter((refusal) => refusal.field !== 'customerId' && refusal.field !== 'vendorId');
  const atHead = found.filter((refusal) => !refusal.field.startsWith('lines.'));
  for (const refusal of found) {
    const at = /^lines\.(\d+)\.(\w+)/.exec(refusal.field);
    const row = at ? rows[Number(at[1])]! : head;
    // A line that could not be read has said so already.
    if (at && lines[Number(at[1])] === null) continue;
    bad(
      row.line,
      at ? LINE_COLUMNS[at[2]!]! : (HEAD_COLUMNS[refusal.field.split('.')[0]!] ?? 'agreement'),
      sentenceOf(refusal),
    );
  }
  const badLines = new Set(problems.map((problem) => problem.line));
  const goodLines = lines.filter((line, index): line is TypedTerm => line !== null && !badLines.has(rows[index]!.line));
  // The head stands on its first line's row: a bad line there must not take the head with it.
  const headStands = !headIsBad && atHead.length === 0 && party !== null;
  const made = headStands && goodLines.length > 0 ? decideTerms(termsGround, { ...terms, lines: goodLines }) : null;
  return { problems, good: made?.ok ? made.effects : null };
}

const LINE_COLUMNS: Record<string, Column> = {
  itemId: 'item',
  committed: 'committed',
  priceValue: 'price',
  breaks: 'price breaks',
  leastRelease: 'least release',
  releaseMultiple: 'multiple',
  notes: 'line notes',
};

const HEAD_COLUMNS: Record<string, Column> = {
  firstDay: 'first day',
  lastDay: 'last day',
  signedOn: 'signed',
  tolerancePercent: 'tolerance',
  wholeLimit: 'whole limit',
  probabilityPercent: 'probability',
  priority: 'priority',
  rebate: 'rebate tiers',
  reminders: 'reminders',
};

/** Stands for a line that could not be read, so that the others keep their places. */
const UNREAD: TypedTerm = {
  itemId: null,
  groupId: null,
  committed: '1',
  priceKind: 'none',
  priceValue: '',
  breaks: [],
  leastRelease: '0',
  releaseMultiple: '0',
  notes: '',
};

type Bad = (line: number, column: Column, sentence: string) => void;

function headOf({ line, cells }: FileRow, workDate: Day, bad: Bad): Omit<AgreementTerms, 'lines'> {
  const oneOf = <Value extends string>(column: Column, values: readonly Value[], fallback: Value): Value => {
    const text = (cells[column] ?? '').toLowerCase();
    if (text === '') return fallback;
    const found = values.find((value) => value === text);
    if (!found) bad(line, column, `${cells[column]} is none of ${values.join(', ')}.`);
    return found ?? fallback;
  };
  const dayOf = (column: Column, fallback: Day | null): Day | null => {
    const text = cells[column] ?? '';
    if (text === '') return fallback;
    const day = readTypedDay(text, workDate);
    if (day === null || !isDay(day)) bad(line, column, `${text} is not a date; write it like 2027-03-11.`);
    return day;
  };
  const number = (column: Column, fallback: string) => {
    const text = cells[column] ?? '';
    return text === '' ? fallback : (readTypedDecimal(text, 'percent') ?? text);
  };
  return {
    side: oneOf('side', SIDES, 'selling'),
    basis: oneOf('basis', BASES, 'quantity'),
    // Looked up apart: a party is named by its number in a file.
    customerId: 1,
    vendorId: 1,
    salesOrganisationId: null,
    title: textOf(cells, line, 'about', 120, bad),
    firstDay: dayOf('first day', workDate),
    lastDay: dayOf('last day', null),
    signedOn: dayOf('signed', null),
    limitPolicy: oneOf('at the limit', LIMIT_POLICIES, 'refuse'),
    tolerancePercent: number('tolerance', '0'),
    wholeLimit: cells['whole limit'] ?? '',
    probabilityPercent: number('probability', '100'),
    restPlan: oneOf('in no plan', REST_PLANS, 'spread'),
    priority: cells.priority || '5',
    notes: textOf(cells, line, 'notes', 2000, bad),
    rebate: {
      kind: oneOf('rebate', REBATE_KINDS, 'none'),
      by: oneOf('rebate by', REBATE_BASES, 'value'),
      tiers: readTypedTiers(cells['rebate tiers'] ?? ''),
    },
    reminders: readTypedReminders(cells.reminders ?? ''),
    releaseAhead: '',
  };
}

/** A text as it stands, told where it is longer than can be kept: nothing is cut off. */
function textOf(cells: Cells, line: number, column: Column, most: number, bad: Bad): string {
  const text = cells[column] ?? '';
  if (text.length > most) bad(line, column, `This is longer than ${most} characters; shorten it.`);
  return text;
}

/** One line of an agreement; null where what it covers is not known here. */
function lineOf(ground: ImportGround, { line, cells }: FileRow, bad: Bad): TypedTerm | null {
  const named = (cells.item ?? '').toLowerCase();
  const item = ground.items.get(named);
  const group = ground.groups.get(named);
  if (!item && !group && named !== '' && named !== 'everything') {
    bad(line, 'item', `${cells.item} is no item or item group here.`);
    return null;
  }
  const quantity = (text: string) => readTypedDecimal(text, 'quantity') ?? text;
  return {
    itemId: item?.id ?? null,
    groupId: item ? null : (group?.id ?? null),
    committed: quantity(cells.committed ?? ''),
    ...readTypedPrice(cells.price ?? ''),
    breaks: readTypedBreaks(cells['price breaks'] ?? ''),
    leastRelease: quantity(cells['least release'] || '0'),
    releaseMultiple: quantity(cells.multiple || '0'),
    notes: textOf(cells, line, 'line notes', 400, bad),
  };
}

/** An agreement as its rows in a file. */
export interface ExportedAgreement extends Omit<
  AgreementTerms,
  'lines' | 'customerId' | 'vendorId' | 'salesOrganisationId' | 'releaseAhead'
> {
  number: string;
  state: string;
  party: string;
  partyName: string;
  lines: (Omit<TypedTerm, 'itemId' | 'groupId'> & { item: string; itemName: string })[];
}

/** The rows of agreements, heading first, in the columns that can be brought in again. */
export function agreementRows(agreements: readonly ExportedAgreement[]): string[][] {
  return [
    [...AGREEMENT_COLUMNS],
    ...agreements.flatMap((agreement) =>
      agreement.lines.map((line) => {
        const cells: Record<Column, string> = {
          agreement: agreement.number,
          state: agreement.state,
          side: agreement.side,
          basis: agreement.basis,
          party: agreement.party,
          'party name': agreement.partyName,
          about: agreement.title,
          'first day': agreement.firstDay ?? '',
          'last day': agreement.lastDay ?? '',
          signed: agreement.signedOn ?? '',
          'at the limit': agreement.limitPolicy,
          tolerance: agreement.tolerancePercent,
          'whole limit': agreement.wholeLimit,
          probability: agreement.probabilityPercent,
          'in no plan': agreement.restPlan,
          priority: agreement.priority,
          rebate: agreement.rebate.kind,
          'rebate by': agreement.rebate.by,
          'rebate tiers': typedTiersOf(agreement.rebate),
          reminders: typedRemindersOf(agreement.reminders),
          notes: agreement.notes,
          item: line.item,
          'item name': line.itemName,
          committed: line.committed,
          price: typedPriceOf(line),
          'price breaks': typedBreaksOf(line.breaks),
          'least release': line.leastRelease,
          multiple: line.releaseMultiple,
          'line notes': line.notes,
        };
        return AGREEMENT_COLUMNS.map((column) => cells[column]);
      }),
    ),
  ];
}
