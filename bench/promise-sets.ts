import { addDays, chanceOf } from '@core/kernel';
import type { ComponentRow, Events, GroundRows, ItemRow, LoadRow, OpenLines, OperationRow } from '@core/promise';
import { ONE } from '@core/promise';

export const HORIZON = 366;
const FIRST = '2027-03-01';

/** Supply and demand of many items over a year, and open lines that ask for some of it. */
export function eventSet(
  seed: number,
  items: number,
  events: number,
  lines: number,
): { events: Events; lines: OpenLines } {
  const chance = chanceOf(seed);
  const item = new Int32Array(events);
  const day = new Int32Array(events);
  const quantity = new Float64Array(events);
  for (let at = 0; at < events; at += 1) {
    item[at] = at < items ? at : chance.whole(0, items - 1);
    // What is on hand first; then a little more comes than goes.
    day[at] = at < items ? 0 : chance.whole(0, HORIZON - 1);
    const size = chance.whole(1, 60) * ONE;
    quantity[at] = at < items ? 8 * size : chance.next() < 0.52 ? size : -size;
  }
  const column = (from: number, to: number) => Int32Array.from({ length: lines }, () => chance.whole(from, to));
  return {
    events: { item, day, quantity },
    lines: {
      item: column(0, items - 1),
      quantity: Float64Array.from({ length: lines }, () => chance.whole(1, 40) * ONE),
      asked: column(0, 90),
      priority: column(1, 5),
      promised: column(0, 120),
      ordered: column(-200, 0),
      lead: Int32Array.from({ length: items }, () => chance.whole(3, 60)),
    },
  };
}

/**
 * A works of so many centres over a year, three quarters of which is booked, and products of five levels: each made of
 * two made parts and one bought, down to what is bought.
 */
export function worksSet(seed: number, products: number, centres: number): GroundRows {
  const chance = chanceOf(seed);
  const items: ItemRow[] = [];
  const components: ComponentRow[] = [];
  const operations: OperationRow[] = [];
  const item = (obtained: 'buy' | 'make', level: number): number => {
    const id = items.length + 1;
    items.push({
      id,
      number: `${obtained === 'buy' ? 'B' : 'M'}${level}-${id}`,
      name: `Part ${id}`,
      unit: 'piece',
      obtained,
      method: 'ctp',
      safetyStock: '0',
      lotMinimum: '0',
      lotMultiple: '0',
      phantom: false,
      outOfUse: false,
      makeDays: 0,
      held: '0',
      onHand: String(chance.whole(0, obtained === 'buy' ? 40 : 4)),
      sellers:
        obtained === 'buy'
          ? [{ vendorId: 1, name: 'Logam', leadDays: chance.whole(3, 25), calendarId: 1, minimum: '0', multiple: '0' }]
          : [],
    });
    if (obtained === 'buy') return id;
    const runs = chance.whole(2, 4);
    for (let no = 1; no <= runs; no += 1) {
      operations.push({
        itemId: id,
        no: no * 10,
        name: 'work',
        centreId: chance.whole(1, centres),
        setup: String(chance.whole(5, 40)),
        run: String(chance.whole(10, 60)),
        parallel: chance.whole(1, 2),
        firstDay: null,
        lastDay: null,
      });
    }
    const parts: ('make' | 'buy')[] = level < 4 ? ['make', 'make', 'buy'] : ['buy', 'buy'];
    for (const [lineNo, part] of parts.entries()) {
      components.push({
        itemId: id,
        lineNo,
        componentId: item(part, level + 1),
        quantity: String(chance.whole(1, 2)),
        scrapPercent: '0',
        operationNo: part === 'buy' ? 10 * chance.whole(1, runs) : 10,
        firstDay: null,
        lastDay: null,
      });
    }
    return id;
  };
  for (let product = 0; product < products; product += 1) item('make', 0);
  const load: LoadRow[] = [];
  for (let centre = 1; centre <= centres; centre += 1) {
    const bookedUntil = chance.whole(60, 240);
    for (let day = 0; day < HORIZON; day += 1) {
      const some = day < bookedUntil ? chance.whole(900, 960) : chance.whole(0, 480);
      const minutes = day < bookedUntil && chance.next() < 0.9 ? 960 : some;
      const hold = (from: number, until: number) => {
        if (until > from) load.push({ centreId: centre, day: addDays(FIRST, day), from, until, machines: 1 });
      };
      // One machine from the morning on, the other in two stretches with a gap between them.
      const first = Math.min(480, minutes);
      const half = Math.floor((minutes - first) / 2);
      hold(480, 480 + first);
      hold(480, 480 + half);
      hold(960 - (minutes - first - half), 960);
    }
  }
  return {
    workDate: FIRST,
    horizon: HORIZON,
    calendars: [{ id: 1, week: '1111100', holidays: [] }],
    ownCalendarId: 1,
    receivingDays: 1,
    safetyDays: 0,
    items,
    components,
    operations,
    centres: Array.from({ length: centres }, (_, index) => ({
      id: index + 1,
      code: `WC-${index + 1}`,
      name: `Centre ${index + 1}`,
      machines: 2,
      shifts: [{ week: '1111100', from: 480, until: 960 }],
      calendarId: 1,
    })),
    load,
    overtime: [],
    out: [],
    supplies: [],
    demands: [],
  };
}
