import { readGtin } from '@core/catalogue';
import { dec, isDay, readTypedDecimal, readTypedHours, sameText } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { circleThrough } from '@core/promise';
import type { Cells, Kept, KeptList, ListField, Target } from './fields';

/** A row as it is kept now; its stamp tells whether it is still the one a person saw. */
export interface KeptRow {
  id: number;
  stamp: string;
  cells: Cells;
}

/** Changes of a list as typed: rows without an id are new. Each says what was seen of it. // G2 */
export interface KeepTyped {
  changes: readonly { id: number | null; stamp: string; cells: Cells }[];
  removed: readonly { id: number; stamp: string }[];
}

/** What the cells of a change name, as the company knows it. */
export interface KeepGround {
  list: KeptList;
  /** The rows that are changed or removed, and those that a changed row could agree with. */
  rows: readonly KeptRow[];
  /** By target and the typed text in lower case, the first there is by an empty one: the one thing it names, or `several` that go by that name. */
  named: ReadonlyMap<Target, ReadonlyMap<string, { id: number | string; text: string } | 'several'>>;
  /** The units of the items named. */
  units: ReadonlyMap<number, readonly string[]>;
  /** Rows that other documents hold on to, and cannot be removed. */
  used: ReadonlySet<number>;
  /** Parties that look like a new one: whose name, phone or tax number is the same. */
  alike?: readonly { number: string; name: string; phone: string; taxNumber: string }[];
  /** Of BOMs and options: every component of anything, by its row. */
  bomLines?: readonly { id: number; item: string; component: string }[];
  /** The item of each choice of options, by its text in lower case. */
  itemOfGroup?: ReadonlyMap<string, string>;
}

export type KeptValues = Readonly<Record<string, Kept>>;

export interface KeepEffects {
  added: KeptValues[];
  changed: { id: number; values: KeptValues }[];
  removed: number[];
}

/** The stamp of a row: all that can be seen of it. */
export const stampOf = (cells: Cells): string => JSON.stringify(Object.entries(cells).sort());

/**
 * Checks changes of a kept list, every cell at its field (`changes.2.price`), and says what is to be written; all of
 * them or none. A row that somebody changed since it was read is refused, and so is one that says again what another
 * row says. O(changes × rows that could agree). // G2 G3 G4
 */
export function decideKeep(ground: KeepGround, typed: KeepTyped): Decision<KeepEffects> {
  const { list } = ground;
  const refusals: Refusal[] = [];
  if (typed.changes.length + typed.removed.length === 0) refusals.push(refuse('nothing-typed', '', {}));
  const removed = typed.removed.map(({ id, stamp }, index) => {
    const at = `removed.${index}`;
    const row = seen(ground, id, stamp, at, refusals);
    if (!list.grows) refusals.push(refuse('row-stays', at, { list: list.label }));
    else if (row && ground.used.has(id))
      refusals.push(refuse('row-in-use', at, { row: namesOf(list.keys[0]!, row.cells) }));
    return id;
  });
  const read = typed.changes.map((change, index) => {
    const at = `changes.${index}`;
    const now = change.id === null ? null : seen(ground, change.id, change.stamp, at, refusals);
    if (change.id === null && !list.grows) refusals.push(refuse('row-stays', at, { list: list.label }));
    if (change.id !== null && removed.includes(change.id)) refusals.push(refuse('row-gone', at, {}));
    const row = readRow(ground, now, change.cells, at, refusals);
    return { id: change.id, at, ...row };
  });
  refusals.push(...amongRows(ground, read, new Set(removed)));
  return decided(
    refusals,
    () => ({
      added: read.flatMap(({ id, values }) => (id === null ? [values] : [])),
      changed: read.flatMap(({ id, values }) => (id === null ? [] : [{ id, values }])),
      removed,
    }),
    alikeWarnings(ground, read),
  );
}

/** What stands against rows that can each be read, because of one another and of those that are there. */
export const amongRows = (
  ground: KeepGround,
  read: readonly { id: number | null; at: string; cells: Cells }[],
  removed: ReadonlySet<number>,
): Refusal[] => [...agreeing(ground, read, removed), ...circling(ground, read, removed)];

/** A word on new parties that look like one there is. // U2 */
export function alikeWarnings(
  { alike = [] }: KeepGround,
  read: readonly { id: number | null; at: string; cells: Cells }[],
): Refusal[] {
  const same = (a = '', b = '') =>
    a.trim() !== '' && sameText(a).replaceAll(' ', '') === sameText(b).replaceAll(' ', '');
  return read.flatMap(({ id, at, cells }) => {
    if (id !== null) return [];
    for (const [field, by] of [
      ['name', 'name'],
      ['phone', 'phone number'],
      ['taxNumber', 'tax number'],
    ] as const) {
      const twin = alike.find((each) => same(each[field], cells[field]));
      if (twin) return [refuse('looks-like', `${at}.${field}`, { by, number: twin.number, name: twin.name })];
    }
    return [];
  });
}

/** Whether what is kept of a field becomes another in any row, or is set in a new one. */
export function changesField({ added, changed }: KeepEffects, { rows }: KeepGround, name: string): boolean {
  const text = (value: Kept | undefined) => String(value ?? '');
  return (
    added.some((values) => text(values[name]) !== '') ||
    changed.some(({ id, values }) => text(values[name]) !== (rows.find((row) => row.id === id)?.cells[name] ?? ''))
  );
}

/** Rows told one by one at most. */
const MOST_TOLD = 20;

/** What changes, row by row and field by field: `C-1003 Teratai Bay Resort: Credit limit 50000 to 90000`. */
export function changesInWords({ added, changed, removed }: KeepEffects, { list, rows }: KeepGround): string {
  const text = (value: Kept | undefined) => String(value ?? '');
  const nameOf = (cells: Cells) => list.keys[0]!.map((field) => cells[field]).join(' ');
  const of = (id: number) => rows.find((row) => row.id === id)!.cells;
  const told = [
    ...changed.map(({ id, values }) => {
      const cells = of(id);
      const moved = list.fields.filter(
        ({ name, is, fixed }) => !fixed && is.kind !== 'ref' && text(values[name]) !== (cells[name] ?? ''),
      );
      const words = moved.map(
        ({ name, head }) => `${head} ${cells[name] || 'none'} to ${text(values[name]) || 'none'}`,
      );
      return `${nameOf(cells)}: ${words.join(', ') || 'changed'}`;
    }),
    ...removed.map((id) => `${nameOf(of(id))}: removed`),
    ...(added.length > 0 ? [`${added.length} added`] : []),
  ];
  const more = told.length > MOST_TOLD ? [`and ${told.length - MOST_TOLD} more`] : [];
  return [...told.slice(0, MOST_TOLD), ...more].join('; ');
}

function seen({ rows }: KeepGround, id: number, stamp: string, at: string, refusals: Refusal[]): KeptRow | null {
  const row = rows.find((each) => each.id === id) ?? null;
  if (!row) refusals.push(refuse('row-gone', at, {}));
  else if (row.stamp !== stamp) refusals.push(refuse('row-changed', at, {}));
  return row;
}

export interface ReadRow {
  values: KeptValues;
  /** What can be seen of it once it is kept. */
  cells: Cells;
}

/** Reads the cells of a row as they would be kept; what is wrong of them is added to `refusals`, each at its cell. */
export function readRow(
  ground: KeepGround,
  now: KeptRow | null,
  typed: Cells,
  at: string,
  refusals: Refusal[],
): ReadRow {
  const values: Record<string, Kept> = {};
  const cells: Record<string, string> = {};
  const before = refusals.length;
  for (const field of ground.list.fields) {
    if (field.fixed) {
      cells[field.name] = now?.cells[field.name] ?? '';
      continue;
    }
    const typedText = (typed[field.name] ?? '').trim();
    if (field.onlyNew && now && sameText(typedText) !== sameText(now.cells[field.name] ?? '')) {
      refusals.push(refuse('only-new', `${at}.${field.name}`, { what: field.says }));
    }
    const read = readCell(ground, field, typedText);
    if ('code' in read) refusals.push({ ...read, field: `${at}.${field.name}` });
    else values[field.name] = read.kept;
    cells[field.name] = 'code' in read ? typedText : read.text;
  }
  // What depends on several cells is worth a word only once each can be read.
  if (refusals.length === before) {
    for (const refusal of CHECKS.flatMap((check) => check(ground, values, cells))) {
      refusals.push({ ...refusal, field: `${at}.${refusal.field}` });
    }
  }
  return { values, cells };
}

/** Letters of hours that are kept. */
const MOST_HOURS = 200;

function readCell(ground: KeepGround, field: ListField, typed: string): { kept: Kept; text: string } | Refusal {
  const { is, says: what } = field;
  if (typed === '' && is.kind === 'ref' && field.orFirst) {
    const first = ground.named.get(is.to)?.get('');
    return first && first !== 'several' ? { kept: first.id, text: first.text } : refuse('required', '', { what });
  }
  if (typed === '' && field.needed) return refuse('required', '', { what });
  if (is.kind === 'choice') {
    const option =
      is.options.find((each) => each.value === typed || each.label === typed) ??
      (typed === '' && !field.needed ? is.options[0] : undefined);
    return option ? { kept: option.value || null, text: option.value } : refuse('unknown', '', { what });
  }
  if (typed === '') {
    const empty = is.kind === 'number' ? (is.empty ?? null) : is.kind === 'text' || is.kind === 'hours' ? '' : null;
    return { kept: empty, text: empty ?? '' };
  }
  if (is.kind === 'text') {
    return typed.length > is.most
      ? refuse('too-long', '', { what, most: String(is.most) })
      : { kept: typed, text: typed };
  }
  if (is.kind === 'gtin') {
    const code = readGtin(typed);
    return code === null ? refuse('not-a-gtin', '', { what }) : { kept: code, text: code };
  }
  if (is.kind === 'day') return isDay(typed) ? { kept: typed, text: typed } : refuse('not-a-day', '', { what });
  if (is.kind === 'hours') {
    const hours = readTypedHours(typed);
    if (hours === null) return refuse('not-hours', '', { what });
    return hours.length > MOST_HOURS
      ? refuse('too-long', '', { what, most: String(MOST_HOURS) })
      : { kept: hours, text: hours };
  }
  if (is.kind === 'number') {
    const number = readTypedDecimal(typed, is.of);
    const fits = number !== null && !(is.below && dec(number).gte(is.below)) && !(is.whole && number.includes('.'));
    if (!fits) return refuse('not-a-number', '', { what });
    if (is.above === 'zero' && dec(number).lte(0)) return refuse('not-above-zero', '', { what });
    if (is.above === 'below-zero' && dec(number).lt(0)) return refuse('below-zero', '', { what });
    const plain = dec(number).toFixed();
    return { kept: plain, text: plain };
  }
  const named = ground.named.get(is.to)?.get(typed.toLowerCase());
  if (!named) return refuse('unknown', '', { what });
  return named === 'several'
    ? refuse('several-named', '', { what, name: typed })
    : { kept: named.id, text: named.text };
}

type Check = (ground: KeepGround, values: KeptValues, cells: Cells) => Refusal[];

/** What must be so between the cells of a row; each looks only where its fields are. */
const CHECKS: readonly Check[] = [
  (_ground, { firstDay, lastDay }) =>
    typeof firstDay === 'string' && typeof lastDay === 'string' && lastDay < firstDay
      ? [refuse('period-reversed', 'lastDay', { first: firstDay, last: lastDay })]
      : [],
  ({ list }, { customer, group }) =>
    list.fields.some((field) => field.name === 'customer') && customer && group
      ? [refuse('either-or', 'group', { one: 'a customer', other: 'a price group' })]
      : [],
  ({ list, units }, { item, unit }, cells) => {
    if (list.name !== 'prices') return [];
    const known = units.get(Number(item)) ?? [];
    return known.includes(String(unit))
      ? []
      : [refuse('unit-unknown', 'unit', { item: cells['item']!, units: known.join(', ') })];
  },
  ({ list, units }, { item, unit }, cells) =>
    list.name === 'units' && units.get(Number(item))?.[0] === unit
      ? [refuse('own-unit', 'unit', { item: cells['item']!, unit: String(unit) })]
      : [],
  ({ list }, { measure, currency }) => {
    if (list.name !== 'allowances' || (measure === 'amount') === (currency !== null)) return [];
    return [
      currency === null
        ? refuse('required', 'currency', { what: 'The currency of the amount' })
        : refuse('either-or', 'currency', { one: 'a currency', other: 'a weight, volume or quantity' }),
    ];
  },
  ({ list }, { costBasis, series }) => {
    if (list.name !== 'costs' || (costBasis === 'series') === (series !== null)) return [];
    return [
      series === null
        ? refuse('required', 'series', { what: 'The market series' })
        : refuse('either-or', 'series', { one: 'a market series', other: 'another cost' }),
    ];
  },
  ({ list }, { route, stocked }) =>
    list.name === 'items' && route === 'stock' && stocked === 'no' ? [refuse('stock-not-kept', 'route', {})] : [],
  ({ list }, { country }) =>
    list.name === 'ship-tos' && !/^[A-Za-z]{2}$/.test(String(country))
      ? [refuse('unknown', 'country', { what: 'The country, in two letters,' })]
      : [],
  ({ list }, { item, itemGroup }) => {
    if (list.name !== 'approvals' || (item === null) !== (itemGroup === null)) return [];
    return [
      item === null
        ? refuse('required', 'item', { what: 'An item or an item group' })
        : refuse('either-or', 'itemGroup', { one: 'an item', other: 'an item group' }),
    ];
  },
];

/** Components that would close a circle, each with its path. // T4 */
function circling(
  { bomLines, itemOfGroup }: KeepGround,
  read: readonly { id: number | null; at: string; cells: Cells }[],
  removed: ReadonlySet<number>,
): Refusal[] {
  if (!bomLines) return [];
  const changed = new Set(read.map(({ id }) => id));
  const itemOf = (cells: Cells) => cells['item'] ?? itemOfGroup?.get((cells['group'] ?? '').toLowerCase()) ?? '';
  const lines = [
    ...bomLines.filter(({ id }) => !changed.has(id) && !removed.has(id)),
    ...read.map(({ cells }) => ({ item: itemOf(cells), component: cells['component'] ?? '' })),
  ];
  return read.flatMap(({ at, cells }) => {
    const path = circleThrough(lines, itemOf(cells), cells['component'] ?? '');
    return path ? [refuse('bom-circle', `${at}.component`, { path: path.join(' → ') })] : [];
  });
}

/** Rows that would say what another row says. */
function agreeing(
  { list, rows }: KeepGround,
  read: readonly { id: number | null; at: string; cells: Cells }[],
  removed: ReadonlySet<number>,
): Refusal[] {
  const changed = new Set(read.map(({ id }) => id));
  const staying = rows.filter(({ id }) => !changed.has(id) && !removed.has(id));
  const keysOf = (cells: Cells) => list.keys.map((key) => keyText(key, cells));
  const known = new Set(staying.flatMap(({ cells }) => keysOf(cells)));
  return read.flatMap(({ at, cells }) => {
    const own = keysOf(cells);
    const twice = list.keys.find((_key, index) => known.has(own[index]!));
    for (const key of own) known.add(key);
    return twice ? [refuse('row-twice', at, { row: namesOf(twice, cells) })] : [];
  });
}

export const keyText = (key: readonly string[], cells: Cells) =>
  JSON.stringify(key.map((name) => [name, sameText(cells[name] ?? '')]));

/** A row as a sentence names it: the cells that tell it apart. */
function namesOf(key: readonly string[], cells: Cells): string {
  return key
    .map((name) => cells[name] ?? '')
    .filter((cell) => cell !== '')
    .join(', ');
}
