import fc from 'fast-check';
import { addDays, type Shift } from '../../kernel';
import type { GroundRows, ItemRow } from './rows';

export const WORK_DATE = '2027-03-01';
export const WEEK = '1111100';

/** An item that is bought from nobody and of which nothing is there, changed as asked. */
export function itemRow(id: number, change: Partial<ItemRow> = {}): ItemRow {
  return {
    id,
    number: `IT-${id}`,
    name: `Item ${id}`,
    unit: 'piece',
    obtained: 'buy',
    method: 'atp',
    safetyStock: '0',
    lotMinimum: '0',
    lotMultiple: '0',
    phantom: false,
    outOfUse: false,
    makeDays: 0,
    onHand: '0',
    held: '0',
    sellers: [],
    ...change,
  };
}

/** A ground with a five-day week and nothing in it, changed as asked. */
export function groundRows(change: Partial<GroundRows> = {}): GroundRows {
  return {
    workDate: WORK_DATE,
    horizon: 120,
    calendars: [{ id: 1, week: WEEK, holidays: [] }],
    ownCalendarId: 1,
    receivingDays: 0,
    safetyDays: 0,
    items: [],
    components: [],
    operations: [],
    centres: [],
    load: [],
    overtime: [],
    out: [],
    supplies: [],
    demands: [],
    ...change,
  };
}

/** A BOM line or an operation that stands on any day. */
export const ALWAYS = { firstDay: null, lastDay: null };

/** One shift on every day the calendar works, from eight, or so that it ends with the day. */
export const oneShift = (minutes: number): Shift[] => {
  const from = Math.min(480, 1440 - minutes);
  return [{ week: '1111111', from, until: from + minutes }];
};

export const seller = (leadDays: number, change: Partial<ItemRow['sellers'][number]> = {}) => ({
  vendorId: 1,
  name: 'Arus',
  leadDays,
  calendarId: 1,
  minimum: '0',
  multiple: '0',
  ...change,
});

export const moveRow = (itemId: number, day: string, quantity: string) => ({
  itemId,
  day,
  quantity,
  source: { kind: 'PO', id: 1, number: 'PO-1', party: 'Arus' },
});

const whole = (least: number, most: number) => fc.integer({ min: least, max: most });

/** Quantities with places, as text. */
export const quantityText = (most: number) =>
  fc.tuple(whole(0, most), fc.constantFrom('', '.5', '.25', '.33333')).map(([a, b]) => `${a}${b}`);

const anyShift: fc.Arbitrary<Shift> = fc
  .tuple(fc.constantFrom('1111111', '1111100', '1010100', '0000010'), whole(0, 1300), whole(1, 600))
  .map(([week, from, long]) => ({ week, from, until: Math.min(1440, from + long) }));

/** Grounds of a few items in levels, centres that share them, holidays, loads, lots, scrap, phantoms, dated lines. */
export const anyGround: fc.Arbitrary<GroundRows> = fc
  .record({
    horizon: whole(20, 90),
    items: fc.array(
      fc.record({
        obtained: fc.constantFrom('buy', 'buy', 'make', 'make', 'assemble', 'none'),
        onHand: quantityText(30),
        held: fc.constantFrom('0', '0', '2', '0.5'),
        safetyStock: fc.constantFrom('0', '0', '3'),
        lotMinimum: fc.constantFrom('0', '0', '5'),
        lotMultiple: fc.constantFrom('0', '0', '4', '2.5'),
        phantom: fc.constantFrom(false, false, false, true),
        unit: fc.constantFrom('piece', 'kg'),
        makeDays: whole(0, 4),
        sellers: fc.array(
          fc.record({ leadDays: whole(0, 12), calendarId: whole(1, 2), multiple: fc.constantFrom('0', '6') }),
          {
            maxLength: 2,
          },
        ),
      }),
      { minLength: 1, maxLength: 7 },
    ),
    lines: fc.array(
      fc.record({
        parent: whole(0, 6),
        child: whole(0, 6),
        quantity: fc.constantFrom('1', '2', '0.5', '1.33333'),
        scrapPercent: fc.constantFrom('0', '0', '5', '12.5'),
        operationNo: fc.constantFrom(null, 10, 20),
        firstDay: fc.constantFrom(null, null, 10),
        lastDay: fc.constantFrom(null, null, 15),
      }),
      { maxLength: 9 },
    ),
    centres: fc.array(
      fc.record({ machines: whole(1, 4), shifts: fc.array(anyShift, { maxLength: 3 }), calendarId: whole(1, 2) }),
      {
        minLength: 1,
        maxLength: 3,
      },
    ),
    operations: fc.array(
      fc.record({
        item: whole(0, 6),
        no: fc.constantFrom(10, 20, 30),
        centre: whole(0, 2),
        setup: fc.constantFrom('0', '15', '30.5'),
        run: fc.constantFrom('0', '7.25', '45', '120'),
        parallel: whole(1, 3),
        firstDay: fc.constantFrom(null, null, 8),
        lastDay: fc.constantFrom(null, null, 20),
      }),
      { maxLength: 10 },
    ),
    load: fc.array(
      fc.record({
        centre: whole(0, 2),
        day: whole(0, 40),
        from: whole(0, 1300),
        long: whole(1, 500),
        machines: whole(1, 2),
      }),
      { maxLength: 12 },
    ),
    overtime: fc.array(
      fc.record({ centre: whole(0, 2), day: whole(0, 20), from: whole(0, 1380), long: whole(1, 200) }),
      {
        maxLength: 3,
      },
    ),
    out: fc.array(fc.record({ centre: whole(0, 2), day: whole(0, 20), machines: whole(1, 2) }), { maxLength: 3 }),
    moves: fc.array(
      fc.record({ item: whole(0, 6), day: whole(-5, 60), quantity: quantityText(25), supply: fc.boolean() }),
      {
        maxLength: 15,
      },
    ),
    holidays: fc.array(whole(0, 60), { maxLength: 5 }),
    ownDays: whole(0, 2),
  })
  .map(({ horizon, items, lines, centres, operations, load, overtime, out, moves, holidays, ownDays }): GroundRows => {
    const has = (index: number) => index < items.length;
    const day = (at: number) => addDays(WORK_DATE, at);
    const once = <Row>(rows: Row[], key: (row: Row) => string) => [
      ...new Map(rows.map((row) => [key(row), row])).values(),
    ];
    const shown = moves.filter((move) => has(move.item) && Number(move.quantity) > 0);
    return groundRows({
      horizon,
      calendars: [
        { id: 1, week: WEEK, holidays: holidays.map(day) },
        { id: 2, week: '1111110', holidays: [] },
      ],
      receivingDays: ownDays,
      items: items.map((item, index) =>
        itemRow(index, {
          ...item,
          obtained: item.obtained as ItemRow['obtained'],
          // What is bought is no phantom.
          phantom: item.phantom && item.obtained !== 'buy',
          sellers: item.sellers.map((each, at) => seller(each.leadDays, { ...each, vendorId: at })),
        }),
      ),
      components: lines
        .filter((line) => has(line.parent) && has(line.child) && line.parent < line.child)
        .map((line, lineNo) => ({
          itemId: line.parent,
          lineNo,
          componentId: line.child,
          quantity: line.quantity,
          scrapPercent: line.scrapPercent,
          operationNo: line.operationNo,
          firstDay: line.firstDay === null ? null : day(line.firstDay),
          lastDay: line.lastDay === null ? null : day(line.lastDay),
        })),
      operations: once(
        operations
          .filter((operation) => has(operation.item) && operation.centre < centres.length)
          .map(({ item, centre, firstDay, lastDay, ...operation }) => ({
            ...operation,
            itemId: item,
            centreId: centre,
            name: 'work',
            firstDay: firstDay === null ? null : day(firstDay),
            lastDay: lastDay === null ? null : day(lastDay),
          })),
        (operation) => `${operation.itemId} ${operation.no}`,
      ),
      centres: centres.map((centre, id) => ({ ...centre, id, code: `WC-${id}`, name: `Centre ${id}` })),
      load: load
        .filter((each) => each.centre < centres.length)
        .map((each) => ({
          centreId: each.centre,
          day: day(each.day),
          from: each.from,
          until: Math.min(1440, each.from + each.long),
          machines: each.machines,
        })),
      overtime: overtime
        .filter((each) => each.centre < centres.length)
        .map(({ centre, from, long, ...each }) => ({
          centreId: centre,
          day: day(each.day),
          from,
          until: Math.min(1440, from + long),
        })),
      out: out
        .filter((each) => each.centre < centres.length)
        .map((each) => ({ centreId: each.centre, day: day(each.day), machines: each.machines })),
      supplies: shown.filter((move) => move.supply).map((move) => moveRow(move.item, day(move.day), move.quantity)),
      demands: shown.filter((move) => !move.supply).map((move) => moveRow(move.item, day(move.day), move.quantity)),
    });
  });
