import fc from 'fast-check';
import { addDays } from '../../kernel';
import { inShort, naivePlanning } from '../reference/naive-planning';
import { EARLY_DAYS, planningRun, type PlaceProposal, type PlanningRun } from './planning';
import type { GroundRows, MoveRow } from '../ground/rows';
import { scaled } from '../ground/scaled';
import { decideProposals } from './proposal-effects';
import { anyGround, groundRows, itemRow, moveRow, seller, WORK_DATE } from '../ground/testing';
import { Ground } from '../ground/ground';

const UNTIL = addDays(WORK_DATE, 80);
const short = (day: string) => day.slice(5);

describe('the planning run (T11)', () => {
  it('makes the textbook table: net needs in lots, offset by the lead time, level by level', () => {
    const rows = groundRows({
      items: [
        itemRow(1, { number: 'SKID', obtained: 'assemble', lotMultiple: '5', makeDays: 2, onHand: '3' }),
        itemRow(2, { number: 'PUMP', sellers: [seller(5, { multiple: '10' })], onHand: '12' }),
      ],
      components: [
        {
          itemId: 1,
          lineNo: 1,
          componentId: 2,
          quantity: '2',
          scrapPercent: '0',
          operationNo: null,
          firstDay: null,
          lastDay: null,
        },
      ],
      demands: [moveRow(1, '2027-03-15', '4'), moveRow(1, '2027-03-22', '6')],
    });
    const { proposals } = planningRun(rows, UNTIL);
    // 3 there: 1 short on the 15th and, of five made, 2 on the 22nd; pumps 10 on 11 Mar and 10 on 18 Mar, 12 there.
    expect(proposals.map((each) => [each.kind, each.itemId, each.quantity, 'due' in each && short(each.due)])).toEqual([
      ['place', 1, '5', '03-15'],
      ['place', 1, '5', '03-22'],
      ['place', 2, '10', '03-18'],
    ]);
    const [first, , pumps] = proposals as PlaceProposal[];
    expect(short(first!.start)).toBe('03-11');
    expect(first!.for.map((each) => [each.quantity, short(each.day)])).toEqual([
      ['1', '03-15'],
      ['4', '03-22'],
    ]);
    expect([pumps!.start, pumps!.neededOn]).toEqual(['2027-03-11', null]);
  });

  it('moves what comes late, and back what comes much too early, and cancels what serves nobody', () => {
    const coming = (id: number, day: string, quantity: string): MoveRow => ({
      ...moveRow(1, day, quantity),
      source: { kind: 'PO', id, number: `PO-${id}`, party: 'Arus' },
    });
    const rows = groundRows({
      items: [itemRow(1, { sellers: [seller(4)] })],
      supplies: [coming(1, '2027-03-03', '5'), coming(2, '2027-04-20', '5'), coming(3, '2027-04-30', '5')],
      demands: [moveRow(1, '2027-03-19', '5'), moveRow(1, '2027-03-26', '5')],
    });
    const { proposals } = planningRun(rows, UNTIL);
    expect(
      proposals.map((each) => [each.kind, 'source' in each && each.source.number, 'to' in each && short(each.to)]),
    ).toEqual([
      ['move', 'PO-1', '03-19'],
      ['move', 'PO-2', '03-26'],
      ['cancel', 'PO-3', false],
    ]);
    // A week early is early enough.
    expect(EARLY_DAYS).toBe(7);
    const near = { ...rows, supplies: [coming(1, '2027-03-12', '5')], demands: [moveRow(1, '2027-03-19', '5')] };
    expect(planningRun(near, UNTIL).proposals).toEqual([]);
  });

  it('places one lot for all that is needed of an item on a day', () => {
    const rows = groundRows({
      items: [itemRow(1, { sellers: [seller(2, { multiple: '4' })] })],
      demands: [
        ...['3', '3'].map((quantity) => moveRow(1, '2027-03-09', quantity)),
        moveRow(1, '2027-03-10', '2'),
        moveRow(1, '2027-03-11', '1'),
      ],
    });
    const { proposals } = planningRun(rows, UNTIL);
    // Six are needed on the 9th: eight, two of which serve the 10th.
    expect(
      proposals.map((each) => (each.kind === 'place' ? [each.due, each.quantity, each.for.length] : each)),
    ).toEqual([
      ['2027-03-09', '8', 3],
      ['2027-03-11', '4', 1],
    ]);
  });

  it('does not move anything to before it could be there, and says what is late', () => {
    const rows = groundRows({
      items: [itemRow(1, { sellers: [seller(4)] })],
      supplies: [moveRow(1, '2027-04-20', '5')],
      demands: [moveRow(1, '2027-03-02', '5'), moveRow(1, '2027-03-03', '2')],
    });
    const { proposals } = planningRun(rows, UNTIL);
    expect(proposals).toMatchObject([
      { kind: 'move', to: '2027-03-05', neededOn: '2027-03-02' },
      { kind: 'place', due: '2027-03-05', start: '2027-03-01', neededOn: '2027-03-02' },
    ]);
  });

  it('leaves what is held as it is, and places what that would serve too late', () => {
    const held = { ...moveRow(1, '2027-04-20', '5'), fixed: true };
    const rows = groundRows({
      items: [itemRow(1, { sellers: [seller(4)] })],
      supplies: [held],
      demands: [moveRow(1, '2027-03-19', '5'), moveRow(1, '2027-04-26', '3')],
    });
    const { proposals } = planningRun(rows, UNTIL);
    // The one that is held serves the later demand.
    expect(proposals).toMatchObject([{ kind: 'place', quantity: '5', due: '2027-03-19' }]);
    // A new one could not be there before it: it serves, late.
    const soon = { ...rows, supplies: [{ ...held, day: '2027-03-05' }], demands: [moveRow(1, '2027-03-02', '5')] };
    const late = planningRun(soon, UNTIL);
    expect(late.proposals).toEqual([]);
    // Nothing can be done about it; it is said, with whom it keeps waiting.
    expect(late.late).toEqual([
      {
        itemId: 1,
        source: held.source,
        quantity: '5',
        comes: '2027-03-05',
        neededOn: '2027-03-02',
        for: [{ source: moveRow(1, '2027-03-02', '5').source, day: '2027-03-02', quantity: '5' }],
      },
    ]);
    const both = { ...soon, demands: [moveRow(1, '2027-03-02', '3'), moveRow(1, '2027-03-08', '2')] };
    expect(planningRun(both, UNTIL).late.map((each) => [each.quantity, each.for.length])).toEqual([['3', 1]]);
    expect(planningRun(rows, UNTIL).late).toEqual([]);
    // Nobody needs it, and still it is not cancelled.
    expect(planningRun({ ...rows, demands: [] }, UNTIL).proposals).toEqual([]);
  });

  it('counts planned call-offs, keeps the safety stock full, and says what there is no way to have', () => {
    const rows = groundRows({
      items: [
        itemRow(1, { safetyStock: '4', onHand: '1', sellers: [seller(2)] }),
        itemRow(2, { onHand: '1' }),
        itemRow(3, { obtained: 'none' }),
      ],
      demands: [moveRow(2, '2027-03-09', '3'), moveRow(3, '2027-03-09', '1')],
    });
    const run = planningRun(rows, UNTIL, [moveRow(1, '2027-03-16', '10')]);
    expect(run.proposals).toMatchObject([
      { kind: 'place', quantity: '3', neededOn: '2027-03-01', for: [{ source: { kind: 'safety' } }] },
      { kind: 'place', quantity: '10', due: '2027-03-16' },
    ]);
    expect(run.short).toEqual(
      expect.arrayContaining([
        { itemId: 2, quantity: '2', day: '2027-03-09', why: 'nobody-sells' },
        { itemId: 3, quantity: '1', day: '2027-03-09', why: 'no-way' },
      ]),
    );
  });
});

/** Takes every proposal: orders placed with the demand of their components, moves, cancellations. */
function taken(rows: GroundRows, run: PlanningRun): GroundRows {
  const supplies = [...rows.supplies];
  let demands = [...rows.demands];
  const asked = run.proposals.map((proposal, at) => ({ field: `at.${at}`, proposal }));
  const decided = decideProposals(rows, run, asked, new Map());
  if (!decided.ok) throw new Error(JSON.stringify(decided.refusals));
  const orders = [...decided.effects.orders];
  let next = 1000;
  for (const proposal of run.proposals) {
    if (proposal.kind === 'place') {
      next += 1;
      const kind = proposal.obtained === 'buy' ? 'PL' : proposal.obtained === 'make' ? 'PR' : 'AS';
      const source = { kind, id: next, number: `${kind}-${next}`, party: '' };
      supplies.push({ itemId: proposal.itemId, day: proposal.due, quantity: proposal.quantity, source });
      if (kind === 'PL') continue;
      for (const { itemId, quantity } of orders.shift()!.components) {
        demands.push({ itemId, day: proposal.start, quantity, source });
      }
      continue;
    }
    const { kind, id } = proposal.source;
    const at = supplies.findIndex((supply) => supply.source.kind === kind && supply.source.id === id);
    if (proposal.kind === 'cancel') {
      supplies.splice(at, 1);
      if (kind !== 'PO') demands = demands.filter((demand) => demand.source.kind !== kind || demand.source.id !== id);
    } else {
      supplies[at] = { ...supplies[at]!, day: proposal.to };
    }
  }
  return { ...rows, supplies, demands };
}

/** Distinct documents: the generator names all alike; some are fixed where that is asked. */
const numbered = (rows: GroundRows, fixed = false): GroundRows => ({
  ...rows,
  supplies: rows.supplies.map((move, id) => ({
    ...move,
    source: { ...move.source, id: id + 1, number: `PO-${id + 1}` },
    ...(fixed && id % 3 === 2 ? { fixed } : {}),
  })),
  demands: rows.demands.map((move, id) => ({
    ...move,
    source: { kind: 'SO', id: id + 1, number: `SO-${id + 1}`, party: '' },
  })),
});

describe('properties of the planning run', () => {
  it('taken as a whole, the next run proposes nothing; nothing is short that could be had', () => {
    fc.assert(
      fc.property(anyGround, (given) => {
        const rows = numbered(given, true);
        const until = addDays(WORK_DATE, rows.horizon - 1);
        const run = planningRun(rows, until);
        const after = taken(rows, run);
        expect(planningRun(after, until).proposals).toEqual([]);
        // Every piece of demand is served by stock, by what comes, or is said to be short.
        const ground = new Ground(after);
        for (const [index, { row }] of ground.items.entries()) {
          // A phantom is served by what it is made of.
          if (row.phantom) continue;
          const missing = run.short
            .filter((each) => each.itemId === row.id)
            .reduce((sum, each) => sum + scaled(each.quantity), 0);
          const end = ground.timelines.available(index, rows.horizon - 1);
          expect(end + missing).toBeGreaterThanOrEqual(Math.min(0, end));
          // What comes after the horizon serves, and is not in the balance.
          const beyond = after.supplies.some(({ itemId, day }) => itemId === row.id && day > until);
          if (missing === 0 && !beyond) expect(end).toBeGreaterThanOrEqual(0);
        }
      }),
      { numRuns: 1500, seed: 21 },
    );
  });

  it('proposes what the naive reference proposes, level by level', () => {
    const kinds = new Map<string, number>();
    fc.assert(
      fc.property(
        anyGround,
        fc.integer({ min: 5, max: 89 }),
        fc.array(fc.nat({ max: 6 }), { maxLength: 4 }),
        (given, days, made) => {
          const numberedRows = numbered(given, true);
          const until = addDays(WORK_DATE, Math.min(days, given.horizon - 1));
          // Some of what comes is made by orders of ours that need components themselves.
          const supplies = numberedRows.supplies.map((move, index) =>
            made.includes(index) ? { ...move, source: { ...move.source, kind: 'PR' } } : move,
          );
          const demands = numberedRows.demands.map((move, index) => {
            const of = supplies[index];
            const goesInto = given.components.some(
              (line) => line.itemId === of?.itemId && line.componentId === move.itemId,
            );
            return of?.source.kind === 'PR' && goesInto ? { ...move, source: { ...of.source } } : move;
          });
          const [first] = demands;
          const forecast = first && { ...first, source: { ...first.source, kind: 'AG' } };
          const rows = { ...numberedRows, supplies, demands: demands.slice(1) };
          const found = planningRun(rows, until, forecast ? [forecast] : []).proposals;
          for (const each of found) kinds.set(each.kind, (kinds.get(each.kind) ?? 0) + 1);
          expect(found.map(inShort).sort()).toEqual(naivePlanning(rows, until, forecast ? [forecast] : []));
        },
      ),
      { numRuns: 3000, seed: 24 },
    );
    for (const kind of ['place', 'move', 'cancel']) expect(kinds.get(kind)).toBeGreaterThan(300);
  });

  it('serves the same pieces as matching them one by one', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 1, max: 6 })), { maxLength: 6 }),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 1, max: 6 })), { maxLength: 6 }),
        fc.integer({ min: 0, max: 8 }),
        fc.integer({ min: 0, max: 4 }),
        (coming, needed, onHand, multiple) => {
          const rows = numbered(
            groundRows({
              calendars: [{ id: 1, week: '1111111', holidays: [] }],
              items: [itemRow(1, { onHand: String(onHand), sellers: [seller(0, { multiple: String(multiple) })] })],
              supplies: coming.map(([day, quantity]) => moveRow(1, addDays(WORK_DATE, day), String(quantity))),
              demands: needed.map(([day, quantity]) => moveRow(1, addDays(WORK_DATE, day), String(quantity))),
            }),
          );
          // Piece by piece: the k-th that is needed is the k-th that is there.
          const inTime = <Row extends { day: number; id: number; quantity: number }>(all: Row[]) =>
            all.sort((a, b) => a.day - b.day || a.quantity - b.quantity || a.id - b.id);
          const pieces = (all: readonly (readonly [number, number])[]) =>
            inTime(all.map(([day, quantity], id) => ({ day, id: id + 1, quantity }))).flatMap((each) =>
              Array.from({ length: each.quantity }, () => ({ day: each.day, id: each.id })),
            );
          const there = [...Array.from({ length: onHand }, () => null), ...pieces(coming)];
          const served = new Map<number, number>();
          let unserved = 0;
          for (const [at, piece] of pieces(needed).entries()) {
            const supply = there[at];
            if (supply === undefined) unserved += 1;
            else if (supply && !served.has(supply.id)) served.set(supply.id, piece.day);
          }
          const { proposals } = planningRun(rows, addDays(WORK_DATE, 80));
          const cancelled = proposals.filter((each) => each.kind === 'cancel').map((each) => each.source.id);
          expect(cancelled.sort()).toEqual(coming.map((_each, id) => id + 1).filter((id) => !served.has(id)));
          for (const move of proposals) {
            if (move.kind !== 'move') continue;
            // Nothing takes time here: late only where what serves earlier demand must stay before it.
            expect(move.neededOn !== null).toBe(move.to > addDays(WORK_DATE, served.get(move.source.id)!));
          }
          const placed = proposals
            .filter((each) => each.kind === 'place')
            .reduce((sum, each) => sum + Number(each.quantity), 0);
          expect(placed).toBeGreaterThanOrEqual(unserved);
          expect(placed - unserved).toBeLessThan(Math.max(1, multiple));
        },
      ),
      { numRuns: 1500, seed: 22 },
    );
  });
});
