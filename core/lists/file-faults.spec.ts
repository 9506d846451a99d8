import {
  decideBringIn,
  KEPT_LISTS,
  TARGETS,
  type Cells,
  type KeepGround,
  type KeptList,
  type ListField,
  type Target,
} from './index';

const DAY = '2027-03-01';

/** Everything a cell may name is known as GOOD and again as OTHER; TWINS is two things. */
const named = new Map<Target, Map<string, { id: number | string; text: string } | 'several'>>(
  TARGETS.map((target) => [
    target,
    new Map<string, { id: number | string; text: string } | 'several'>([
      ['good', { id: 1, text: 'GOOD' }],
      ['other', { id: 2, text: 'OTHER' }],
      ['', { id: 1, text: 'GOOD' }],
      ['twins', 'several'],
    ]),
  ]),
);
const ground = (list: KeptList): KeepGround => ({
  list,
  rows: [],
  named,
  units: new Map([
    [1, ['piece']],
    [2, ['piece']],
  ]),
  used: new Set(),
});

/** A cell of a row that can be kept; the row's number makes texts differ. */
function goodCell(field: ListField, row: number): string {
  const { is } = field;
  if (field.name === 'unit') return 'piece';
  if (is.kind === 'text') return field.name === 'country' ? 'MY' : `A${row}`.slice(0, is.most);
  if (is.kind === 'number') return String(row);
  if (is.kind === 'day') return `2027-03-0${row}`;
  if (is.kind === 'gtin') return ['4006381333931', '9780201379624', '5901234123457'][row - 1]!;
  if (is.kind === 'hours') return '';
  if (is.kind === 'choice') return is.options[0]!.value;
  return row === 2 ? 'OTHER' : 'GOOD';
}
const goodRow = (list: KeptList, row: number): Cells =>
  Object.fromEntries(list.fields.map((field) => [field.name, goodCell(field, row)]));
const look = (list: KeptList, ...rows: Cells[]) =>
  decideBringIn(
    ground(list),
    rows.map((cells, at) => ({ line: at + 2, cells })),
    DAY,
  );

/** Lists of which three such rows can be kept together: in the others, one cell decides what another may be. */
const PLAIN = KEPT_LISTS.filter(
  (list) => list.grows && look(list, goodRow(list, 1), goodRow(list, 2), goodRow(list, 3)).fresh === 3,
);

/** What may be wrong with a cell, and what is said of it. */
function faultsOf(field: ListField): [typed: string, code: string][] {
  const { is } = field;
  const empty: [string, string][] = field.needed && !field.orFirst ? [['', 'required']] : [];
  if (is.kind === 'text') return [...empty, ['x'.repeat(is.most + 1), 'too-long']];
  if (is.kind === 'day') {
    return ['2027-02-30', '2027-13-01', 'soon', '1 2 3 4', '0000-00-00'].map((typed) => [typed, 'not-a-day']);
  }
  if (is.kind === 'choice') return [['perhaps', 'unknown']];
  if (is.kind === 'gtin') return [...empty, ['4006381333932', 'not-a-gtin'], ['12', 'not-a-gtin']];
  if (is.kind === 'hours') return [['always', 'not-hours']];
  if (is.kind === 'ref') return [...empty, ['NOBODY', 'unknown'], ['TWINS', 'several-named']];
  const numbers = ['many', '1,2,3', '=1+1', '1e5', 'NaN', '0x10', '1.2345678901234', '12 kg', '--1', '1.2.3'];
  return [
    ...empty,
    ...numbers.map((typed): [string, string] => [typed, 'not-a-number']),
    ...(is.whole ? [['1.5', 'not-a-number'] as [string, string]] : []),
    ...(is.below ? [[is.below, 'not-a-number'] as [string, string]] : []),
    ...(is.above === 'zero'
      ? ([
          ['0', 'not-above-zero'],
          ['-1', 'not-above-zero'],
        ] as [string, string][])
      : []),
    ...(is.above === 'below-zero' ? [['-1', 'below-zero'] as [string, string]] : []),
  ];
}

const FAULTS = PLAIN.flatMap((list) =>
  list.fields
    .filter((field) => !field.fixed)
    .flatMap((field) =>
      faultsOf(field).map(([typed, code]) => ({ list, field, typed, code, name: `${list.name}.${field.name}` })),
    ),
);

describe('U2 what may be wrong in a file', () => {
  it('is tried in most lists, by some hundred faults of every kind', () => {
    expect(PLAIN.length).toBeGreaterThan(20);
    expect(FAULTS.length).toBeGreaterThan(400);
    expect(new Set(FAULTS.map(({ code }) => code))).toEqual(
      new Set([
        'required',
        'too-long',
        'not-a-day',
        'unknown',
        'several-named',
        'not-a-number',
        'not-above-zero',
        'below-zero',
        'not-hours',
        ...(FAULTS.some(({ field }) => field.is.kind === 'gtin') ? ['not-a-gtin'] : []),
      ]),
    );
    expect(new Set(FAULTS.map(({ field, code, typed }) => `${field.is.kind} ${code} ${typed}`)).size).toBeGreaterThan(
      30,
    );
  });

  it.each(FAULTS)(
    '$name "$typed" is $code, at its line, and the lines beside it are taken',
    ({ list, field, typed, code }) => {
      const found = look(list, goodRow(list, 1), { ...goodRow(list, 2), [field.name]: typed }, goodRow(list, 3));
      expect(found.problems.filter(({ line }) => line !== 3)).toEqual([]);
      expect(found.problems.map((problem) => `${problem.field}: ${problem.refusal.code}`)).toContain(
        `${field.name}: ${code}`,
      );
      expect([found.fresh, found.bad]).toEqual([2, 1]);
    },
  );

  it.each(PLAIN)('$name names a line that says what another says already', (list) => {
    const key = goodRow(list, 1);
    const found = look(list, key, goodRow(list, 2), { ...key });
    expect(found.problems.map(({ line, refusal }) => `${line}: ${refusal.code}`)).toEqual(['4: named-again']);
    expect([found.fresh, found.bad]).toEqual([2, 1]);
  });
});
