import fc from 'fast-check';
import { addDays, NEVER } from '../../kernel';
import { answer, answers, type Answer, type Ask } from '../asking/ask';
import { Ground } from '../ground/ground';
import { Naive } from './naive';
import type { Mode, Need } from '../asking/plan';
import { partPromises } from '../ground/parts';
import type { GroundRows, Way } from '../ground/rows';
import { scaled } from '../ground/scaled';
import { anyGround, quantityText, WORK_DATE } from '../ground/testing';
import { Timelines } from '../ground/timelines';

const ask = (itemId: number, quantity: string, asked: string | null = null): Ask => ({
  key: `${itemId}`,
  itemId,
  quantity,
  asked,
});

/** The day or the word, as the naive one says them. */
const said = (found: Answer) => found.day ?? found.trouble!.kind;

describe('against the naive reference', () => {
  const anyAsks = fc.array(
    fc.record({
      item: fc.integer({ min: 0, max: 6 }),
      quantity: quantityText(40).filter((text) => Number(text) > 0),
      asked: fc.integer({ min: 0, max: 19 }),
    }),
    { minLength: 1, maxLength: 4 },
  );

  it.each(['have', 'nothing'] as const)('plans the same, one ask after the other: %s', (mode) => {
    fc.assert(
      fc.property(anyGround, anyAsks, (rows, asks) => {
        const ground = new Ground(rows);
        const naive = new Naive(rows);
        for (const { item, quantity } of asks) {
          if (item >= rows.items.length) continue;
          const real = answer(ground, ask(item, quantity), mode);
          expect(said(real)).toBe(naive.ask(item, scaled(quantity), 0, mode, true));
        }
      }),
      { numRuns: 1500, seed: 7 },
    );
  });

  it('finds the same availability and parts, with demands put in between', () => {
    fc.assert(
      fc.property(anyGround, anyAsks, (rows, asks) => {
        const ground = new Ground(rows);
        const naive = new Naive(rows);
        for (const { item, quantity, asked } of asks) {
          if (item >= rows.items.length) continue;
          const index = ground.at(item);
          const day = ground.timelines.earliest(index, asked, scaled(quantity));
          expect(day === NEVER ? Infinity : day).toBe(naive.earliest(item, asked, scaled(quantity)));
          expect(ground.timelines.available(index, asked)).toBe(naive.available(item, asked));
          let promised = 0;
          for (const part of partPromises(ground, index, scaled(quantity), asked)) {
            promised += part.quantity;
            expect(naive.earliest(item, asked, promised)).toBe(part.day);
          }
          expect(promised).toBe(Math.max(0, Math.min(scaled(quantity), naive.available(item, rows.horizon - 1))));
          const put = asked;
          ground.move(index, put, -scaled(quantity));
          naive.move(item, put, -scaled(quantity));
        }
      }),
      { numRuns: 1500, seed: 8 },
    );
  });

  it('keeps the same balances in few days as in all of them', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 59 }), fc.integer({ min: -50, max: 50 })),
          { maxLength: 40 },
        ),
        fc.array(
          fc.tuple(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 59 }), fc.integer({ min: 1, max: 60 })),
          { maxLength: 12 },
        ),
        (events, asks) => {
          const column = (rows: readonly (readonly number[])[], at: number) => Int32Array.from(rows, (row) => row[at]!);
          const few = Timelines.sparse(
            4,
            60,
            { item: column(events, 0), day: column(events, 1), quantity: Float64Array.from(events, (row) => row[2]!) },
            { item: column(asks, 0), day: column(asks, 1) },
          );
          const inPlace = Timelines.sparse(
            4,
            60,
            {
              item: column(events, 0),
              day: column(events, 1),
              quantity: Float64Array.from(events, (row) => row[2]!),
              own: true,
            },
            { item: column(asks, 0), day: column(asks, 1) },
          );
          for (let item = 0; item < 4; item += 1) expect(inPlace.steps(item)).toEqual(few.steps(item));
          const all = Timelines.dense(4, 60);
          for (const [item, day, quantity] of events) all.add(item, day, quantity);
          for (const [item, day, quantity] of asks) {
            const found = all.earliest(item, day, quantity);
            expect(few.earliest(item, day, quantity)).toBe(found);
            expect(few.available(item, day)).toBe(all.available(item, day));
            expect(few.balance(item, day)).toBe(all.balance(item, day));
            if (found === NEVER) continue;
            few.add(item, found, -quantity);
            all.add(item, found, -quantity);
          }
        },
      ),
      { numRuns: 1000, seed: 9 },
    );
  });
});

describe('a later day (T6)', () => {
  it('is told the latest start from which the forward rule meets it, and a working day later does not', () => {
    const seen = { later: 0, latest: 0 };
    fc.assert(
      fc.property(
        anyGround,
        quantityText(20),
        fc.integer({ min: 0, max: 60 }),
        fc.constantFrom<Mode>('have', 'nothing'),
        (rows, quantity, day, mode) => {
          const by = Math.min(day, rows.horizon - 1);
          fc.pre(Number(quantity) > 0);
          const naive = new Naive(rows);
          for (const { id } of rows.items) {
            const { slack, day: found } = answer(new Ground(rows), ask(id, quantity, addDays(WORK_DATE, by)), mode);
            const meets = (from: number) => {
              const end = naive.ask(id, scaled(quantity), from, mode);
              return typeof end === 'number' && end <= by;
            };
            if (!slack) {
              if (found !== null) expect(found === by || !meets(0)).toBe(true);
              continue;
            }
            seen.later += 1;
            expect(found).toBe(by);
            expect(meets(slack.start)).toBe(true);
            const next = new Ground(rows).ownCalendar.plus(slack.start, 1);
            if (next <= by) expect(meets(next)).toBe(false);
            if (naive.latestStart(id, scaled(quantity), by, mode) === slack.start) seen.latest += 1;
          }
        },
      ),
      { numRuns: 400, seed: 23 },
    );
    expect(seen.later).toBeGreaterThan(300);
    // It is the latest of all wherever beginning later is never done earlier.
    expect(seen.latest).toBeGreaterThan(seen.later * 0.95);
  });
});

describe('properties', () => {
  it('more is never available earlier, and more stock never later (T2)', () => {
    fc.assert(
      fc.property(anyGround, quantityText(30), quantityText(10), (rows, quantity, more) => {
        const ground = new Ground(rows);
        for (const { row } of ground.items) {
          const index = ground.at(row.id);
          const day = (size: number) => ground.timelines.earliest(index, 0, size);
          expect(day(scaled(quantity) + scaled(more))).toBeGreaterThanOrEqual(day(scaled(quantity)));
          const before = day(scaled(quantity));
          ground.move(index, 0, scaled(more));
          expect(day(scaled(quantity))).toBeLessThanOrEqual(before);
          ground.backTo(0);
        }
      }),
      { numRuns: 500, seed: 10 },
    );
  });

  it('asking leaves nothing behind, and asking twice answers the same', () => {
    fc.assert(
      fc.property(
        anyGround,
        quantityText(40),
        fc.constantFrom<Way>('atp', 'have', 'nothing', 'lead'),
        (rows, quantity, way) => {
          fc.pre(Number(quantity) > 0);
          const ground = new Ground(rows);
          const asks = rows.items.map((item) => ask(item.id, quantity));
          const first = answers(ground, asks, () => way);
          expect(answers(ground, asks, () => way)).toEqual(first);
          const shuffled = {
            ...rows,
            items: [...rows.items].reverse(),
            components: [...rows.components].reverse(),
            operations: [...rows.operations].reverse(),
            supplies: [...rows.supplies].reverse(),
            centres: [...rows.centres].reverse(),
          };
          expect(answers(new Ground(shuffled), asks, () => way).map(said)).toEqual(first.map(said));
        },
      ),
      { numRuns: 400, seed: 11 },
    );
  });

  it('no machine is taken twice in one minute, and a later plan is done in time', () => {
    fc.assert(
      fc.property(anyGround, quantityText(20), fc.integer({ min: 0, max: 60 }), (rows, quantity, asked) => {
        fc.pre(Number(quantity) > 0 && asked < rows.horizon);
        const ground = new Ground(rows);
        const needs: Need[] = [];
        for (const { id } of rows.items) {
          const found = answer(ground, ask(id, quantity, addDays(WORK_DATE, asked)), 'have');
          if (found.need) needs.push(found.need);
          if (found.day !== null) {
            expect(found.day).toBeGreaterThanOrEqual(asked);
            expect(found.need!.day).toBeLessThanOrEqual(found.day);
            if (found.slack) expect(found.slack.start).toBeGreaterThanOrEqual(0);
          }
        }
        expect(twice(rows, needs)).toEqual([]);
        for (const [index, { row }] of ground.items.entries()) {
          // Nothing is promised twice: a balance that was not below nothing stays so.
          const before = new Ground(rows).timelines.available(ground.at(row.id), 0);
          if (before >= 0) expect(ground.timelines.available(index, 0)).toBeGreaterThanOrEqual(0);
        }
      }),
      { numRuns: 250, seed: 12 },
    );
  });
});

/** Minutes of a centre on which plans hold more machines than were free. */
function twice(rows: GroundRows, needs: readonly Need[]): string[] {
  const taken = new Map<string, number>();
  const add = (need: Need): void => {
    for (const part of need.parts) {
      if (part.kind !== 'make') continue;
      for (const { centre, slices } of part.operations) {
        for (const { day, from, until, machines } of slices) {
          for (let minute = from; minute < until; minute += 1) {
            const key = `${centre} ${day} ${minute}`;
            taken.set(key, (taken.get(key) ?? 0) + machines);
          }
        }
      }
      part.needs.forEach(add);
    }
  };
  needs.forEach(add);
  const { centreRows } = new Ground(rows);
  const naive = new Naive(rows);
  return [...taken].flatMap(([key, machines]) => {
    const [centre, day, minute] = key.split(' ').map(Number);
    return machines > naive.freeAt(centreRows[centre!]!.id, day!, minute!) ? [`${key}: ${machines}`] : [];
  });
}
