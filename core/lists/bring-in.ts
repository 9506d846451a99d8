import { sameText, type Day } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';
import { readTypedDay } from '@core/typed';
import type { Cells, KeptList, ListField } from './fields';
import { alikeWarnings, amongRows, keyText, readRow, type KeepGround, type KeepTyped, type KeptRow } from './keep';
import { KEPT_LISTS } from './lists';

/** The columns of a file as a list has them; null for one the list knows nothing of. */
export interface ColumnsIn {
  fields: (ListField | null)[];
  /** Headings the list knows nothing of: what stands under them is left out. */
  unknown: string[];
  /** Columns the list cannot do without, by their heads. */
  missing: string[];
}

/** Whether a heading names a field: as the list shows it, or by its name. */
const names = (heading: string, { name, head }: ListField) => {
  const plain = (text: string) => sameText(text).replace(/[^\p{L}\p{N}]/gu, '');
  return plain(heading) !== '' && (plain(heading) === plain(head) || plain(heading) === plain(name));
};

/** What tells a row apart must be in a file; what else is needed, only where rows are new. */
const keyOf = (list: KeptList) => new Set(list.keys[0]);

/** The columns of a file by its headings. A heading that is there twice counts once. // U2 */
export function columnsIn(list: KeptList, headings: readonly string[]): ColumnsIn {
  const taken = new Set<string>();
  const fields = headings.map((heading) => {
    const field = list.fields.find((each) => !taken.has(each.name) && names(heading, each)) ?? null;
    if (field) taken.add(field.name);
    return field;
  });
  const key = keyOf(list);
  return {
    fields,
    unknown: headings.filter((heading, at) => fields[at] === null && heading.trim() !== ''),
    missing: list.fields
      .filter(({ name, needed, fixed }) => !taken.has(name) && (needed || (fixed && key.has(name))) && key.has(name))
      .map(({ head }) => head),
  };
}

/** The list a file is most likely of: none of its columns is missing, and it knows the most of the headings. // U2 */
export function listIn(fileName: string, headings: readonly string[]): KeptList | null {
  const stem = sameText(fileName.replace(/\.[^.]*$/, '')).replace(/[^\p{L}]/gu, '');
  const rated = KEPT_LISTS.flatMap((list) => {
    const { unknown, missing } = columnsIn(list, headings);
    const known = headings.length - unknown.length;
    if (missing.length > 0 || known === 0) return [];
    const called = [list.name, list.label].some((each) => sameText(each).replace(/[^\p{L}]/gu, '') === stem);
    return [{ list, rating: known * 2 - unknown.length + (called ? 1 : 0) + (list.grows ? 0.5 : 0) }];
  });
  return rated.sort((a, b) => b.rating - a.rating)[0]?.list ?? null;
}

/** A row of a file: the line it stands on, counted from 1 with the heading, and its cells by field. */
export interface BroughtIn {
  line: number;
  cells: Cells;
  /** A line before it that names the same. */
  before?: number;
}

/** The rows below the heading as lines of a list, blank ones left out; each knows a line before it of the same key. O(rows) */
export function linesIn(
  list: KeptList,
  fields: ColumnsIn['fields'],
  rows: readonly (readonly string[])[],
): BroughtIn[] {
  const first = new Map<string, number>();
  return rows.flatMap((row, index): BroughtIn[] => {
    if (row.every((cell) => cell.trim() === '')) return [];
    const cells = Object.fromEntries(fields.flatMap((field, at) => (field ? [[field.name, row[at] ?? '']] : [])));
    const line = index + 2;
    const key = keyText(list.keys[0]!, cells);
    const before = first.get(key);
    if (before === undefined) first.set(key, line);
    return [{ line, cells, ...(before === undefined ? {} : { before }) }];
  });
}

export interface BringInEffects {
  /** New rows, changed rows, those that are already so, and those that cannot be taken. */
  fresh: number;
  changed: number;
  same: number;
  bad: number;
  /** What is wrong, by line and field; what looks odd and is no hindrance. */
  problems: { line: number; field: string; refusal: Refusal }[];
  words: { line: number; field: string; refusal: Refusal }[];
  /** What is to be kept of the good lines. */
  keep: KeepTyped;
}

/** A cell as a file has it: days and yes or no in the words people write them. */
function asKept({ is }: ListField, text: string, workDate: Day): string {
  const typed = text.trim();
  if (typed === '') return '';
  if (is.kind === 'day') return readTypedDay(typed, workDate) ?? typed;
  if (is.kind === 'choice') {
    const option = is.options.find(({ value, label }) =>
      [value, label].some((each) => sameText(each) === sameText(typed)),
    );
    return option?.value ?? YES_NO[sameText(typed)] ?? typed;
  }
  return typed;
}
const YES_NO: Record<string, string> = { y: 'yes', true: 'yes', '1': 'yes', x: 'yes', n: 'no', false: 'no', '0': 'no' };

/**
 * What rows of a file would make of a list: each is new, changes the row of its key, or says what is kept already; one
 * that cannot be kept is left out with why, and so is one that says again what a line before says. A column the file
 * has not stays as it is. The same file again changes nothing. O(rows). // U2 G4
 */
export function decideBringIn(ground: KeepGround, rows: readonly BroughtIn[], workDate: Day): BringInEffects {
  const { list } = ground;
  const key = list.keys[0]!;
  const kept = new Map(ground.rows.map((row) => [keyText(key, row.cells), row]));
  const effects: BringInEffects = {
    fresh: 0,
    changed: 0,
    same: 0,
    bad: 0,
    problems: [],
    words: [],
    keep: { changes: [], removed: [] },
  };
  const good: Good[] = [];
  const seen = new Map<string, number>();
  const fresh = freshOf(list);
  const keyed = key.map((name) => list.fields.find((field) => field.name === name)!);
  for (const { line, cells: given, before: named } of rows) {
    const fail = (refusals: readonly Refusal[]) => {
      effects.bad += 1;
      effects.problems.push(...refusals.map((refusal) => ({ line, field: fieldOf(refusal), refusal })));
    };
    const cells: Record<string, string> = {};
    for (const field of list.fields) {
      const text = given[field.name];
      if (text !== undefined) cells[field.name] = asKept(field, text, workDate);
    }
    const own = keyText(key, keyCells(ground, keyed, cells));
    const now = kept.get(own) ?? null;
    const before = named ?? seen.get(own);
    if (before !== undefined) {
      fail([refuse('named-again', '', { line: String(before) })]);
      continue;
    }
    if (!now && !list.grows) {
      fail([
        refuse('no-such-row', key[0]!, { list: list.label, row: key.map((name) => cells[name] ?? '').join(', ') }),
      ]);
      continue;
    }
    const whole = { ...fresh, ...now?.cells, ...cells };
    const refusals: Refusal[] = [];
    const read = readRow(ground, now, whole, '', refusals);
    if (refusals.length > 0) {
      fail(refusals);
      continue;
    }
    seen.set(own, line);
    if (now && isSame(now, read.cells)) {
      effects.same += 1;
      continue;
    }
    if (now) effects.changed += 1;
    else effects.fresh += 1;
    const id = now?.id ?? null;
    good.push({
      line,
      change: { id, stamp: now?.stamp ?? '', cells: whole },
      read: { id, at: `changes.${good.length}`, cells: read.cells },
    });
  }
  return settled(ground, effects, good);
}

/** A line that can be kept by itself, as it was read. */
interface Good {
  line: number;
  change: KeepTyped['changes'][number];
  read: { id: number | null; at: string; cells: Cells };
}

const NONE: ReadonlySet<number> = new Set();

/** Leaves out what stands against each other among the rows themselves; what is left can be kept as it is. */
function settled(ground: KeepGround, effects: BringInEffects, good: readonly Good[]): BringInEffects {
  const byPlace = new Map(good.map((each) => [each.read.at, each]));
  const of = (refusal: Refusal) => byPlace.get(refusal.field.split('.').slice(0, 2).join('.'))!;
  const told = (refusal: Refusal) => ({ line: of(refusal).line, field: fieldOf(refusal), refusal });
  const read = good.map((each) => each.read);
  const refusals = amongRows(ground, read, NONE);
  if (refusals.length === 0) {
    const words = alikeWarnings(ground, read).map(told);
    return { ...effects, words, keep: { changes: good.map(({ change }) => change), removed: [] } };
  }
  const bad = new Set(refusals.map(of));
  const fresh = [...bad].filter(({ read: { id } }) => id === null).length;
  return settled(
    ground,
    {
      ...effects,
      fresh: effects.fresh - fresh,
      changed: effects.changed - (bad.size - fresh),
      bad: effects.bad + bad.size,
      problems: [...effects.problems, ...refusals.map(told)],
    },
    good.filter((each) => !bad.has(each)),
  );
}

/** The field of a row a refusal stands at: `changes.3.price` and `.price` are both the price. */
const fieldOf = ({ field }: Refusal) => field.split('.').at(-1)!.replace(/^\d+$/, '');

/** The cells of a key as they are kept: a thing by its text, however it was named. */
function keyCells({ named }: KeepGround, keyed: readonly ListField[], cells: Cells): Cells {
  return Object.fromEntries(
    keyed.map(({ name, is }) => {
      const typed = cells[name] ?? '';
      const found = is.kind === 'ref' ? named.get(is.to)?.get(typed.toLowerCase()) : undefined;
      return [name, found && found !== 'several' ? found.text : typed];
    }),
  );
}

/** What a new row has where its file says nothing: the first of each choice. */
const freshOf = ({ fields }: KeptList): Cells =>
  Object.fromEntries(
    fields.flatMap(({ name, is }): [string, string][] => (is.kind === 'choice' ? [[name, is.options[0]!.value]] : [])),
  );

const isSame = (now: KeptRow, cells: Cells) =>
  Object.entries(cells).every(([name, cell]) => cell === (now.cells[name] ?? ''));
