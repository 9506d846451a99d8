import fc from 'fast-check';
import { addDays, dec, sum, type Day } from '@core/kernel';
import type { MoveRow } from '@core/promise';
import { coverLines, goesNow, isShort, type Cover, type GoingLine } from './index';

const TODAY: Day = '2027-03-10';
const on = (days: number) => addDays(TODAY, days);
const POINT = 11;

const line = (id: number, change: Partial<GoingLine> = {}): GoingLine => ({
  id,
  point: POINT,
  shipDate: on(2),
  open: '5',
  held: '0',
  route: 'stock',
  own: [],
  ...change,
});
const source = (number: string, lineId?: number): MoveRow['source'] => ({
  kind: number.slice(0, 2),
  id: Number(number.slice(3)),
  number,
  party: 'Somebody',
  ...(lineId === undefined ? {} : { lineId }),
});
const move = (number: string, days: number, quantity: string, lineId?: number): MoveRow => ({
  itemId: POINT,
  day: on(days),
  quantity,
  source: source(number, lineId),
});
const covers = (
  lines: GoingLine[],
  { free = '0', claims = [], supplies = [] }: { free?: string; claims?: MoveRow[]; supplies?: MoveRow[] } = {},
) => coverLines({ workDate: TODAY, lines, free: new Map([[POINT, free]]), claims, supplies });
/** A cover in one word each: `coming` and `late` as quantity and document. */
const told = (cover: Cover | undefined) => ({
  ...cover!,
  coming: cover!.coming.map(({ quantity, by, day }) => `${quantity} ${by.number} ${day}`),
  late: cover!.late.map(({ quantity, by, day }) => `${quantity} ${by.number} ${day}`),
});

describe('S9 what there is for a line that goes out', () => {
  it('serves who ships earlier first, whichever order they are asked in', () => {
    const found = covers([line(1, { shipDate: on(3) }), line(2, { shipDate: on(1) })], { free: '7' });
    expect(told(found.get(2))).toEqual({ held: '0', free: '5', coming: [], late: [], missing: '0' });
    expect(told(found.get(1))).toEqual({ held: '0', free: '2', coming: [], late: [], missing: '3' });
    expect(isShort(found.get(1)!).toFixed()).toBe('3');
    expect(isShort(found.get(2)!).toFixed()).toBe('0');
  });

  it('says what comes in time, what would end its being short, and what nothing brings', () => {
    const supplies = [move('PO-9', 4, '1'), move('PO-7', 2, '2'), move('PR-8', 3, '1')];
    const found = covers([line(1, { open: '9', held: '2' })], { free: '1', supplies });
    expect(told(found.get(1))).toEqual({
      held: '2',
      free: '1',
      coming: [`2 PO-7 ${on(2)}`],
      late: [`1 PR-8 ${on(3)}`, `1 PO-9 ${on(4)}`],
      missing: '2',
    });
    expect(isShort(found.get(1)!).toFixed()).toBe('4');
  });

  it('what should have come and is not here comes today at the earliest', () => {
    const supplies = [move('PO-7', -5, '5')];
    expect(told(covers([line(1, { shipDate: on(0) })], { supplies }).get(1)).coming).toEqual([`5 PO-7 ${TODAY}`]);
    // It was to ship yesterday: the day cannot be kept.
    expect(told(covers([line(1, { shipDate: on(-1) })], { supplies }).get(1)).late).toEqual([`5 PO-7 ${TODAY}`]);
    const own = [{ quantity: '5', day: on(-3), by: source('PO-6') }];
    expect(told(covers([line(1, { own })]).get(1)).coming).toEqual([`5 PO-6 ${TODAY}`]);
  });

  it('components of a day go before lines of that day, and lines in order of their age', () => {
    const claims = [move('PR-4', 2, '3'), move('SO-8', 2, '2', 7), move('SO-9', 2, '2', 12)];
    const found = covers([line(9, { open: '4' })], { free: '8', claims });
    // 3 to the component, 2 to the older line, 3 left; the younger line takes nothing before it.
    expect(told(found.get(9))).toMatchObject({ free: '3', missing: '1' });
    const before = covers([line(9, { open: '4' })], { free: '8', claims: [move('SO-8', 1, '6', 20)] });
    expect(told(before.get(9))).toMatchObject({ free: '2', missing: '2' });
  });

  it('counts a line that is asked about once, though it is a claim as well', () => {
    const found = covers([line(1)], { free: '5', claims: [move('SO-1', 2, '5', 1)] });
    expect(told(found.get(1))).toMatchObject({ free: '5', missing: '0' });
  });

  it('L3 what is bought or made for its line takes nothing that is free, and leaves nothing missing that comes for it', () => {
    const own = [{ quantity: '3', day: on(1), by: source('PO-5') }];
    for (const route of ['special', 'make', 'assemble'] as const) {
      const found = covers([line(1, { route, own, held: '1' }), line(2, { shipDate: on(9) })], { free: '5' });
      expect(told(found.get(1))).toEqual({
        held: '1',
        free: '0',
        coming: [`3 PO-5 ${on(1)}`],
        late: [],
        missing: '1',
      });
      expect(told(found.get(2))).toMatchObject({ free: '5' });
    }
  });

  it('never counts more than is open: neither held, nor of its ties', () => {
    const own = [
      { quantity: '4', day: on(5), by: source('PO-6') },
      { quantity: '4', day: on(1), by: source('PO-5') },
    ];
    expect(told(covers([line(1, { own, held: '2', route: 'special' })]).get(1))).toEqual({
      held: '2',
      free: '0',
      coming: [`3 PO-5 ${on(1)}`],
      late: [],
      missing: '0',
    });
    expect(told(covers([line(1, { held: '7', own })]).get(1))).toMatchObject({ held: '5', coming: [], late: [] });
  });

  it('can go out as far as it is held, free, or assembled as it goes', () => {
    const cover = covers([line(1, { held: '1' })], { free: '2' }).get(1)!;
    expect(goesNow(cover, '0', '5')).toBe('3');
    expect(goesNow(cover, '1.5', '5')).toBe('4.5');
    expect(goesNow(cover, '9', '5')).toBe('5');
  });

  it('keeps places apart, and takes stock below nothing for nothing', () => {
    const lines = [line(1), line(2, { point: 12 })];
    const ground = { workDate: TODAY, lines, claims: [], supplies: [{ ...move('PO-3', 1, '5'), itemId: 12 }] };
    const found = coverLines({ ...ground, free: new Map([[POINT, '-4']]) });
    expect(told(found.get(1))).toMatchObject({ free: '0', missing: '5' });
    expect(told(found.get(2))).toMatchObject({ coming: [`5 PO-3 ${on(1)}`], missing: '0' });
    // What is less than nothing is made good by nobody's claim.
    const after = coverLines({ ...ground, free: new Map([[12, '-4']]) });
    expect(told(after.get(2))).toMatchObject({ coming: [`5 PO-3 ${on(1)}`] });
  });

  it('is what giving piece by piece gives, for any claims and supplies', () => {
    const moves = fc.array(fc.record({ days: fc.integer({ min: -2, max: 6 }), much: fc.integer({ min: 1, max: 6 }) }), {
      maxLength: 6,
    });
    fc.assert(
      fc.property(moves, moves, moves, fc.integer({ min: -2, max: 9 }), (asked, others, coming, free) => {
        const lines = asked.map(({ days, much }, at) => line(at + 1, { shipDate: on(days), open: String(much) }));
        const claims = others.map(({ days, much }, at) => move(`SO-${at + 90}`, days, String(much), at + 90));
        const supplies = coming.map(({ days, much }, at) => move(`PO-${at}`, days, String(much)));
        const found = covers(lines, { free: String(free), claims, supplies });
        const given = pieceByPiece(lines, claims, supplies, free);
        for (const { id, shipDate, open } of lines) {
          const cover = found.get(id)!;
          const pieces = given.get(id)!;
          const late = pieces.filter((day) => day !== null && day > shipDate).length;
          expect(cover.free).toBe(String(pieces.filter((day) => day === null).length));
          expect(isShort(cover).toFixed()).toBe(String(late + Number(open) - pieces.length));
          const parts = [...cover.coming, ...cover.late].map(({ quantity }) => dec(quantity));
          expect(sum([...parts, dec(cover.held), dec(cover.free), dec(cover.missing)]).toFixed()).toBe(open);
        }
      }),
      { seed: 9 },
    );
  });
});

/** The day each piece of a line comes, null for one that is here: the slow way. */
function pieceByPiece(lines: GoingLine[], claims: MoveRow[], supplies: MoveRow[], free: number) {
  const pieces: (Day | null)[] = [
    ...Array.from({ length: Math.max(0, free) }, () => null),
    ...supplies
      .flatMap(({ day, quantity }) => Array.from({ length: Number(quantity) }, () => (day < TODAY ? TODAY : day)))
      .sort(),
  ];
  const all = [
    ...lines.map(({ id, shipDate, open }) => ({ id, day: shipDate, much: Number(open) })),
    ...claims.map(({ source: { lineId }, day, quantity }) => ({ id: lineId!, day, much: Number(quantity) })),
  ].sort((a, b) => a.day.localeCompare(b.day) || a.id - b.id);
  return new Map(all.map(({ id, much }) => [id, pieces.splice(0, much)]));
}
