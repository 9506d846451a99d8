import fc from 'fast-check';
import { dec, sum, type DocumentKind } from '@core/kernel';
import { buildThread, pairMoves, STAGES, type Part, type ThreadRows } from './index';

let ids = 0;
const part = (kind: DocumentKind, quantity: string, filled = 1): Part => {
  ids += 1;
  return { document: { kind, id: ids, number: `${kind}-${ids}` }, quantity, day: '2027-03-01', note: '', filled };
};

const rows = (change: Partial<ThreadRows> = {}): ThreadRows => ({
  quantity: '12',
  purchased: true,
  bought: true,
  agreed: part('AG', '12', 0.4),
  ordered: part('SO', '12'),
  supplies: [],
  moves: [],
  invoices: [],
  vendorInvoices: [],
  ...change,
});

const shape = (given: ThreadRows) => {
  const thread = buildThread(given);
  return {
    strands: thread.strands,
    beads: thread.beads.map(
      (bead) => `${bead.stage} ${bead.quantity}${bead.part ? '' : ' to come'} @${bead.from}-${bead.to}`,
    ),
  };
};

describe('the thread of a line', () => {
  it('is one strand while nothing has moved', () => {
    expect(shape(rows())).toEqual({
      strands: ['12'],
      beads: [
        'agreed 12 @0-0',
        'ordered 12 @0-0',
        'supply 12 to come @0-0',
        'received 12 to come @0-0',
        'shipped 12 to come @0-0',
        'invoiced 12 to come @0-0',
        'vendorInvoiced 12 to come @0-0',
        'paid 12 to come @0-0',
      ],
    });
  });

  it('splits where a part was received, and shares the beads before', () => {
    const given = rows({
      supplies: [part('PO', '12', 0.67)],
      moves: [{ supply: 0, receipt: part('RC', '8'), shipment: part('SH', '8') }],
    });
    expect(shape(given).strands).toEqual(['8', '4']);
    expect(shape(given).beads).toContain('supply 12 @0-1');
    expect(shape(given).beads).toContain('received 8 @0-0');
    expect(shape(given).beads).toContain('received 4 to come @1-1');
  });

  it('splits again where a vendor invoiced a part of a receipt', () => {
    const given = rows({
      supplies: [part('PO', '12')],
      moves: [{ supply: 0, receipt: part('RC', '8'), shipment: part('SH', '8') }],
      invoices: [{ moves: [0], part: part('CI', '8'), paid: part('PY', '8', 0.5) }],
      vendorInvoices: [{ moves: [0], part: part('VI', '5') }],
    });
    expect(shape(given).strands).toEqual(['5', '3', '4']);
    expect(shape(given).beads).toContain('invoiced 8 @0-1');
    expect(shape(given).beads).toContain('vendorInvoiced 5 @0-0');
    expect(shape(given).beads).toContain('vendorInvoiced 3 to come @1-1');
  });

  it('leaves out the agreement where there is none, and the receipt of goods from stock', () => {
    const given = rows({
      agreed: null,
      purchased: false,
      moves: [{ supply: null, receipt: null, shipment: part('SH', '12') }],
    });
    expect(shape(given).beads.some((bead) => bead.startsWith('agreed'))).toBe(false);
    expect(shape(given).beads).toEqual([
      'ordered 12 @0-0',
      'shipped 12 @0-0',
      'invoiced 12 to come @0-0',
      'paid 12 to come @0-0',
    ]);
  });

  it('keeps the quantity at every step, whatever the parts', () => {
    const plan = fc.record({
      quantity: fc.integer({ min: 1, max: 60 }),
      moves: fc.array(fc.integer({ min: 1, max: 20 }), { maxLength: 5 }),
      invoiced: fc.array(fc.integer({ min: 0, max: 20 }), { maxLength: 5 }),
      vendor: fc.array(fc.integer({ min: 0, max: 20 }), { maxLength: 5 }),
    });
    fc.assert(
      fc.property(plan, ({ quantity, moves, invoiced, vendor }) => {
        let left = quantity;
        const moved = moves
          .map((each) => Math.min(each, left))
          .filter((each) => {
            left -= each;
            return each > 0;
          });
        const given = rows({
          quantity: String(quantity),
          supplies: [part('PO', String(quantity))],
          moves: moved.map((each) => ({
            supply: 0,
            receipt: part('RC', String(each)),
            shipment: part('SH', String(each)),
          })),
          invoices: moved.flatMap((each, move) => {
            const covers = Math.min(each, invoiced[move] ?? 0);
            return covers > 0 ? [{ moves: [move], part: part('CI', String(covers)), paid: null }] : [];
          }),
          vendorInvoices: moved.flatMap((each, move) => {
            const covers = Math.min(each, vendor[move] ?? 0);
            return covers > 0 ? [{ moves: [move], part: part('VI', String(covers)) }] : [];
          }),
        });
        const thread = buildThread(given);
        expect(sum(thread.strands.map((each) => dec(each))).toFixed()).toBe(String(quantity));
        for (const stage of STAGES) {
          const beads = thread.beads.filter((bead) => bead.stage === stage);
          expect(sum(beads.map((bead) => dec(bead.quantity))).toFixed()).toBe(String(quantity));
          // Each strand has exactly one bead of each step.
          expect(
            beads.flatMap((bead) => Array.from({ length: bead.to - bead.from + 1 }, (_, at) => bead.from + at)),
          ).toEqual(thread.strands.map((_, at) => at));
        }
      }),
      { seed: 3 },
    );
  });

  it('L3 draws goods that wait at our place, and goods from stock where no purchase stands', () => {
    const given = rows({
      supplies: [part('PO', '8', 0.5)],
      moves: [
        { supply: null, receipt: null, shipment: part('SH', '3') },
        { supply: 0, receipt: part('RC', '4'), shipment: null },
      ],
    });
    const { strands, beads } = shape(given);
    expect(strands).toEqual(['4', '4', '3', '1']);
    expect(beads).toContain('received 4 @0-0');
    expect(beads).toContain('shipped 4 to come @0-0');
    expect(beads).toContain('shipped 3 @2-2');
  });

  it('L3 puts goods from stock on a strand that waits where every strand has a purchase', () => {
    const given = rows({
      supplies: [part('PO', '12')],
      moves: [{ supply: null, receipt: null, shipment: part('SH', '5') }],
    });
    expect(shape(given).beads).toContain('shipped 5 @0-0');
  });
});

describe('L3 the moves of a special order', () => {
  const receipts = (...quantities: string[]) => quantities.map((each) => ({ supply: 0, part: part('RC', each) }));
  const moved = (came: string[], gone: string[]) =>
    pairMoves(
      receipts(...came),
      gone.map((each) => part('SH', each)),
    ).map((move) => [move.receipt?.quantity ?? null, move.shipment?.quantity ?? null, move.receiptAt, move.shipmentAt]);

  it.each<[string[], string[], ReturnType<typeof moved>]>([
    [['8'], [], [['8', null, 0, null]]],
    [[], ['5'], [[null, '5', null, 0]]],
    [['8'], ['8'], [['8', '8', 0, 0]]],
    [
      ['8', '4'],
      ['10'],
      [
        ['8', '8', 0, 0],
        ['2', '2', 1, 0],
        ['2', null, 1, null],
      ],
    ],
    [
      ['8'],
      ['3', '6'],
      [
        ['3', '3', 0, 0],
        ['5', '5', 0, 1],
        [null, '1', null, 1],
      ],
    ],
  ])('of %j received and %j shipped are %j', (came, gone, expected) => {
    expect(moved(came, gone)).toEqual(expected);
  });

  it('keep both sums', () => {
    const parts = fc.array(fc.integer({ min: 1, max: 9 }), { maxLength: 6 });
    fc.assert(
      fc.property(parts, parts, (came, gone) => {
        const moves = moved(came.map(String), gone.map(String));
        const total = (at: 0 | 1) => sum(moves.map((move) => dec(move[at] ?? '0'))).toFixed();
        expect(total(0)).toBe(String(came.reduce((all, each) => all + each, 0)));
        expect(total(1)).toBe(String(gone.reduce((all, each) => all + each, 0)));
      }),
      { seed: 8 },
    );
  });
});
