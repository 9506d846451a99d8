import { adjustmentNeeds, movementNeeds, reversalNeeds, type MoveEffects } from './index';

type Receipt = MoveEffects['receipts'][number];
type Shipment = MoveEffects['shipments'][number];

const part = {
  itemId: 1,
  locationId: 2,
  quantity: '2',
  cost: '0',
  unitCost: '0',
  agreementLineId: null,
  agreedValue: null,
  value: '0',
};
const received = (change: object): Receipt['parts'][number] => ({
  ...part,
  tieId: null,
  purchaseLineId: 11,
  heldFor: null,
  ...change,
});
const shipped = (change: object): Shipment['parts'][number] => ({
  ...part,
  tieId: null,
  from: null,
  orderLineId: 21,
  held: '0',
  ...change,
});
const effects = (receipts: Receipt['parts'][], shipments: Shipment['parts'][]): MoveEffects => ({
  receipts: receipts.map((parts) => ({ parts }) as Receipt),
  shipments: shipments.map((parts) => ({ parts }) as Shipment),
});
const typed = (lineId: number, ...numbers: string[]) => ({ lineId, numbers, field: `lines.${lineId}.numbers` });

describe('P6 the pieces a movement moves', () => {
  it('come to our place line by line, for the orders that hold them', () => {
    const parts = [
      received({ tieId: 5, heldFor: 31, quantity: '1' }),
      received({ quantity: '2' }),
      received({ purchaseLineId: 12, itemId: 3 }),
    ];
    expect(movementNeeds(effects([parts], []), [typed(11, 'A', 'B', 'C')])).toEqual([
      {
        way: 'in',
        itemId: 1,
        locationId: 2,
        quantity: '3',
        with: { kind: 'RC', at: 0 },
        field: 'lines.11.numbers',
        typed: ['A', 'B', 'C'],
        for: [{ lineId: 31, quantity: '1' }],
        made: null,
      },
      expect.objectContaining({ way: 'in', itemId: 3, quantity: '2', typed: [], field: '', for: [] }),
    ]);
  });

  it('go out on their lines, with what was typed for each', () => {
    const needs = movementNeeds(
      effects([], [[shipped({}), shipped({ orderLineId: 22 })], [shipped({ orderLineId: 23 })]]),
      [typed(22, 'B'), typed(23, 'C', 'D')],
    );
    expect(needs).toEqual([
      expect.objectContaining({ way: 'out', lineId: 21, typed: [], with: { kind: 'SH', at: 0 }, to: 'customer' }),
      expect.objectContaining({ way: 'out', lineId: 22, typed: ['B'], field: 'lines.22.numbers' }),
      expect.objectContaining({ way: 'out', lineId: 23, typed: ['C', 'D'], with: { kind: 'SH', at: 1 } }),
    ]);
  });

  it('pass through with a drop shipment where they are told, at whichever end', () => {
    const through = [received({ tieId: 5 }), received({ tieId: 6, quantity: '1' })];
    const out = [
      shipped({ tieId: 5, from: { receipt: 0, part: 0 } }),
      shipped({ tieId: 6, quantity: '1', orderLineId: 22, from: { receipt: 0, part: 1 } }),
    ];
    expect(movementNeeds(effects([through], [out]), [])).toEqual([]);
    const told = movementNeeds(effects([through], [out]), [typed(11, 'A', 'B', 'C')]);
    expect(
      told.map((need) => (need.way === 'in' || need.way === 'out' ? [need.way, need.with, need.typed] : [])),
    ).toEqual([
      ['in', { kind: 'RC', at: 0 }, ['A', 'B']],
      ['out', { kind: 'SH', at: 0 }, ['A', 'B']],
      ['in', { kind: 'RC', at: 0 }, ['C']],
      ['out', { kind: 'SH', at: 0 }, ['C']],
    ]);
    expect(told[0]).toMatchObject({ for: [{ lineId: 21, quantity: '2' }] });
    // What is one too many stays with the last of them, to be refused there.
    const many = movementNeeds(effects([through], [out]), [typed(11, 'A', 'B', 'C', 'D')]);
    expect(many[2]).toMatchObject({ typed: ['C', 'D'] });
    const ends = movementNeeds(effects([through], [out]), [typed(22, 'X')]);
    expect(ends.map((need) => ('typed' in need ? need.typed : []))).toEqual([['X'], ['X']]);
    const same = out.map((each) => ({ ...each, orderLineId: 21 }));
    expect(
      movementNeeds(effects([through], [same]), [typed(21, 'A', 'B', 'C')]).map(
        (need) => 'typed' in need && need.typed,
      ),
    ).toEqual([['A', 'B'], ['A', 'B'], ['C'], ['C']]);
  });

  it('come back with what is taken back: shipments first, held again where they were made or bought for their line', () => {
    const shipment = {
      id: 7,
      number: 'SH-7',
      lines: [
        { special: true, orderLineId: 21 },
        { special: false, orderLineId: 22 },
      ],
    };
    const receipt = { id: 4, number: 'RC-4' };
    expect(reversalNeeds([receipt as never], [shipment as never])).toEqual([
      {
        way: 'back',
        of: { kind: 'SH', id: 7 },
        document: 'SH-7',
        with: { kind: 'SH', at: 0 },
        from: 'customer',
        heldAgain: [21],
      },
      {
        way: 'back',
        of: { kind: 'RC', id: 4 },
        document: 'RC-4',
        with: { kind: 'RC', at: 0 },
        from: 'customer',
        heldAgain: [],
      },
    ]);
  });

  it('come or go with an adjustment', () => {
    const point = { itemId: 1, locationId: 2 };
    expect(adjustmentNeeds({ ...point, quantity: '2' }, ['A'])).toEqual([
      {
        ...point,
        way: 'in',
        quantity: '2',
        with: { kind: 'JR', at: 0 },
        field: 'numbers',
        typed: ['A'],
        for: [],
        made: null,
      },
    ]);
    expect(adjustmentNeeds({ ...point, quantity: '-2' }, [])).toEqual([
      {
        ...point,
        way: 'out',
        quantity: '2',
        with: { kind: 'JR', at: 0 },
        field: 'numbers',
        typed: [],
        to: 'out',
        lineId: null,
        workId: null,
      },
    ]);
  });
});
