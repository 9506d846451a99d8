import fc from 'fast-check';
import { addDays } from '../../kernel';
import { Ground } from '../ground/ground';
import { pegging } from './pegging';
import { planningRun } from './planning';
import type { GroundRows, MoveRow } from '../ground/rows';
import { scaled } from '../ground/scaled';
import { decideProposals, operationsFrom } from './proposal-effects';
import { ALWAYS, anyGround, groundRows, itemRow, moveRow, oneShift, seller, WORK_DATE } from '../ground/testing';

const UNTIL = addDays(WORK_DATE, 80);
const of = (move: MoveRow, kind: string, id: number, lineId?: number): MoveRow => ({
  ...move,
  source: { kind, id, number: `${kind}-${id}`, party: '', ...(lineId === undefined ? {} : { lineId }) },
});

/** Vessels welded on two machines and tested on one; a late purchase and a planned order too early. */
const SHOP = groundRows({
  items: [
    itemRow(1, { obtained: 'make' }),
    itemRow(2, { sellers: [seller(3, { vendorId: 7 })] }),
    itemRow(3, { sellers: [seller(3, { vendorId: 7 })] }),
  ],
  components: [
    {
      itemId: 1,
      lineNo: 1,
      componentId: 2,
      quantity: '2',
      scrapPercent: '10',
      operationNo: 20,
      firstDay: null,
      lastDay: null,
    },
  ],
  centres: [
    { id: 1, code: 'WELD', name: 'Welding', machines: 2, shifts: oneShift(480), calendarId: 1 },
    { id: 2, code: 'TEST', name: 'Test', machines: 1, shifts: oneShift(480), calendarId: 1 },
  ],
  operations: [
    { itemId: 1, no: 10, name: 'Weld', centreId: 1, setup: '20', run: '300', parallel: 2, ...ALWAYS },
    { itemId: 1, no: 20, name: 'Test', centreId: 2, setup: '0', run: '60', parallel: 1, ...ALWAYS },
  ],
  supplies: [
    of(moveRow(1, '2027-03-08', '2'), 'PR', 5),
    of(moveRow(3, '2027-05-03', '9'), 'PO', 6, 61),
    of(moveRow(3, '2027-05-10', '4'), 'PO', 6, 62),
  ],
  demands: [
    of(moveRow(1, '2027-03-31', '6'), 'SO', 1),
    of(moveRow(2, '2027-03-02', '4.4'), 'PR', 5),
    of(moveRow(3, '2027-04-05', '9'), 'SO', 2),
  ],
});

describe('taking proposals (T11)', () => {
  const run = planningRun(SHOP, UNTIL);
  const asked = run.proposals.map((proposal, at) => ({ field: `at.${at}`, proposal }));
  const starts = new Map([[5, '2027-03-02']]);

  it('places, moves and cancels each kind of supply in its own way', () => {
    const taken = decideProposals(SHOP, run, asked, starts);
    if (!taken.ok) throw new Error(JSON.stringify(taken.refusals));
    const { orders, purchases, moved, cancelled, changed } = taken.effects;
    // 2 come on the 8th, three weeks early: put off by 23 days, and welded on the days before.
    expect(moved).toMatchObject([{ id: 5, by: 23 }]);
    expect(moved[0]!.operations.map((each) => [each.minutes, each.firstDay, each.lastDay])).toEqual([
      [620, '2027-03-25', '2027-03-25'],
      [120, '2027-03-26', '2027-03-26'],
    ]);
    expect(orders).toMatchObject([
      { parent: null, lineId: null, kind: 'make', quantity: '4', held: '0', due: '2027-03-31', vendorId: null },
    ]);
    // 1220 minutes on two machines a day of 960 each: two days; 240 of testing the day after.
    expect(orders[0]!.operations.map((each) => each.load)).toEqual([
      [
        { day: '2027-03-26', from: 480, until: 960, machines: 2 },
        { day: '2027-03-29', from: 480, until: 610, machines: 2 },
      ],
      [{ day: '2027-03-30', from: 480, until: 720, machines: 1 }],
    ]);
    expect(orders[0]!.components).toEqual([
      { itemId: 2, quantity: '9', covered: '0', neededOn: '2027-03-26', operationNo: 20 },
    ]);
    expect(purchases).toMatchObject([{ vendorId: 7, lines: [{ itemId: 2 }, { itemId: 2 }] }]);
    expect(changed).toMatchObject([
      {
        purchaseId: 6,
        lines: [
          { lineId: 61, dueDate: '2027-04-05', stops: false },
          { lineId: 62, dueDate: '2027-05-10', stops: true },
        ],
      },
    ]);
    expect(cancelled).toEqual([]);
  });

  it('refuses what is not proposed any more, and the same thing twice', () => {
    const [first] = asked;
    const twice = decideProposals(SHOP, run, [first!, { ...first!, field: 'at.9' }], starts);
    expect(twice.ok ? [] : twice.refusals.map(({ code, field }) => [code, field])).toEqual([['plan-moved', 'at.9']]);
    const later = planningRun({ ...SHOP, demands: [] }, UNTIL);
    const gone = decideProposals(SHOP, later, asked, starts);
    // All but the purchase nobody needs, now as before.
    const others = asked.filter(({ proposal }) => proposal.kind !== 'cancel').map(({ field }) => field);
    expect(gone.ok ? [] : gone.refusals.map(({ field }) => field)).toEqual(others);
  });

  it('lays no operation on a centre without a shift, and none beyond the horizon', () => {
    const still = new Ground({ ...SHOP, centres: SHOP.centres.map((centre) => ({ ...centre, shifts: [] })) });
    expect(operationsFrom(still, 1, '3', 4).map((each) => each.load)).toEqual([[], []]);
    const ground = new Ground(SHOP);
    const days = operationsFrom(ground, 1, '400', ground.horizon - 3).flatMap((each) => each.load);
    expect(days.every((each) => each.day <= addDays(WORK_DATE, ground.horizon - 1))).toBe(true);
  });
});

describe('pegging', () => {
  it('tells of each piece what serves it, in the order of days, stock first', () => {
    const rows = groundRows({
      items: [itemRow(1, { onHand: '7', safetyStock: '2' })],
      supplies: [of(moveRow(1, '2027-03-10', '4'), 'PO', 1)],
      demands: [of(moveRow(1, '2027-03-05', '6'), 'SO', 1), of(moveRow(1, '2027-03-09', '5'), 'SO', 2)],
    });
    const { pegs, missing } = pegging(rows, [of(moveRow(1, '2027-03-20', '1'), 'AG', 3)]);
    expect(pegs.map((peg) => [peg.supply?.number ?? 'stock', peg.comes, peg.demand.number, peg.quantity])).toEqual([
      ['stock', null, 'SO-1', '5'],
      ['PO-1', '2027-03-10', 'SO-1', '1'],
      ['PO-1', '2027-03-10', 'SO-2', '3'],
    ]);
    expect(missing.map((each) => [each.demand.number, each.day, each.quantity])).toEqual([
      ['SO-2', '2027-03-09', '2'],
      ['AG-3', '2027-03-20', '1'],
    ]);
  });

  it('loses and doubles nothing', () => {
    fc.assert(
      fc.property(anyGround, (given: GroundRows) => {
        const { pegs, missing } = pegging(given);
        for (const { id, onHand, held, safetyStock } of given.items) {
          const sum = (all: readonly { itemId: number; quantity: string }[]) =>
            all.filter((each) => each.itemId === id).reduce((total, each) => total + scaled(each.quantity), 0);
          const above = scaled(onHand) - scaled(held) - scaled(safetyStock);
          const needed = sum(given.demands) + Math.max(0, -above);
          expect(sum(pegs) + sum(missing)).toBe(needed);
          const there = sum(given.supplies) + Math.max(0, above);
          expect(sum(missing)).toBe(Math.max(0, needed - there));
        }
      }),
      { numRuns: 500, seed: 25 },
    );
  });
});
