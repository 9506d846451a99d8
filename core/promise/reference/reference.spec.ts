import fc from 'fast-check';
import { addDays } from '../../kernel';
import { answer, answers, partPromises, type Answer, type Ask } from '../asking/ask';
import { NEVER } from '../ground/calendar';
import { Ground } from '../ground/ground';
import { Naive } from './naive';
import { Planner, startOf, Stuck, type Mode } from '../asking/plan';
import type { Way } from '../ground/rows';
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

describe('backward, against the naive reference (T6)', () => {
  it('begins everything on the same day, or says the same', () => {
    let begunInTime = 0;
    fc.assert(
      fc.property(
        anyGround,
        quantityText(20),
        fc.integer({ min: 0, max: 89 }),
        fc.constantFrom<Mode>('have', 'nothing'),
        (rows, quantity, day, mode) => {
          const by = Math.min(day, rows.horizon - 1);
          fc.pre(Number(quantity) > 0);
          for (const { id } of rows.items) {
            const ground = new Ground(rows);
            const begun = () => {
              try {
                return startOf(new Planner(ground, mode).backward(ground.at(id), scaled(quantity), by));
              } catch (error) {
                if (error instanceof Stuck) return error.trouble.kind;
                throw error;
              }
            };
            const found = begun();
            expect(found).toBe(new Naive(rows).begunBy(id, scaled(quantity), by, mode));
            if (typeof found === 'number') begunInTime += 1;
          }
        },
      ),
      { numRuns: 1000, seed: 23 },
    );
    expect(begunInTime).toBeGreaterThan(500);
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

  it('what is planned never takes more of a centre than it has, and a backward plan is done in time', () => {
    fc.assert(
      fc.property(anyGround, quantityText(20), fc.integer({ min: 0, max: 60 }), (rows, quantity, asked) => {
        fc.pre(Number(quantity) > 0 && asked < rows.horizon);
        const ground = new Ground(rows);
        for (const { id } of rows.items) {
          const found = answer(ground, ask(id, quantity, addDays(WORK_DATE, asked)), 'have');
          if (found.day !== null) {
            expect(found.day).toBeGreaterThanOrEqual(asked);
            expect(found.need!.day).toBeLessThanOrEqual(found.day);
            if (found.slack) expect(found.slack.start).toBeGreaterThanOrEqual(0);
          }
        }
        for (const centre of ground.centres) expect(Math.min(...centre.free)).toBeGreaterThanOrEqual(0);
        for (const [index, { row }] of ground.items.entries()) {
          // Nothing is promised twice: a balance that was not below nothing stays so.
          const before = new Ground(rows).timelines.available(ground.at(row.id), 0);
          if (before >= 0) expect(ground.timelines.available(index, 0)).toBeGreaterThanOrEqual(0);
        }
      }),
      { numRuns: 500, seed: 12 },
    );
  });
});
