import type { Refusal } from '@core/refusals';
import { NOTHING_KEPT, type SerialGround } from '@core/serial';
import {
  countNeeds,
  decideBeginCount,
  decideEnterCount,
  decidePostCount,
  decideTakeBackCount,
  type CountGround,
} from './index';
import type { CountLine } from './count';

const line = (change: Partial<CountLine> = {}): CountLine => ({
  id: 1,
  itemId: 9,
  item: 'GAC-25',
  unit: 'bag',
  was: '10',
  counted: '8',
  unitCost: null,
  numbers: [],
  stock: { onHand: '10', reserved: '0', value: '100' },
  ...change,
});
const ground = (change: Partial<CountGround> = {}): CountGround => ({
  sheet: { number: 'CT-1', state: 'open', locationId: 0 },
  lines: [line()],
  place: 'Main store',
  currency: 'MYR',
  ...change,
});
const told = (decision: { ok: boolean; refusals?: Refusal[] }) =>
  decision.ok ? [] : decision.refusals!.map(({ code, field }) => `${field}: ${code}`);

describe('W6 beginning a count', () => {
  const item = (id: number, change: object = {}) => ({ id, number: `I-${id}`, stocked: true, counting: '', ...change });

  it('takes what is kept and not counted there already', () => {
    const items = [item(1), item(2, { stocked: false }), item(3, { counting: 'CT-7' })];
    expect(decideBeginCount({ location: { id: 0 }, items, named: false })).toMatchObject({ effects: { itemIds: [1] } });
    expect(told(decideBeginCount({ location: { id: 0 }, items, named: true }))).toEqual([
      'itemIds.1: not-kept',
      'itemIds.2: being-counted',
    ]);
    expect(told(decideBeginCount({ location: null, items: [item(1)], named: false }))).toEqual(['locationId: unknown']);
    expect(told(decideBeginCount({ location: { id: 0 }, items: [], named: false }))).toEqual([': nothing-to-count']);
  });
});

describe('W6 writing what was counted', () => {
  const enter = (
    counted: string,
    change: Partial<CountLine> = {},
    more: object = {},
    kept: SerialGround = NOTHING_KEPT,
  ) => decideEnterCount(ground({ lines: [line(change)] }), kept, [{ lineId: 1, counted, unitCost: '', ...more }]);

  it('keeps what was known then, and takes back what is emptied', () => {
    expect(enter(' 7.50 ', { unit: 'kg' })).toMatchObject({
      effects: { lines: [{ id: 1, was: '10', counted: '7.5', unitCost: null, numbers: [] }] },
    });
    expect(enter('', {}, { unitCost: ' 3.20 ' })).toMatchObject({
      effects: { lines: [{ was: null, counted: null, unitCost: '3.2', numbers: [] }] },
    });
  });

  it('is refused at its field', () => {
    expect(told(enter('many'))).toEqual(['lines.0.counted: not-a-number']);
    expect(told(enter('-1'))).toEqual(['lines.0.counted: not-a-number']);
    expect(told(enter('1.5', { unit: 'piece' }))).toEqual(['lines.0.counted: whole-pieces']);
    expect(told(enter('1', {}, { unitCost: 'x' }))).toEqual(['lines.0.unitCost: not-a-number']);
    expect(told(enter('1', {}, { unitCost: '-1' }))).toEqual(['lines.0.unitCost: not-a-number']);
    expect(told(enter('1', {}, { lineId: 5 }))).toEqual(['lines.0.lineId: unknown']);
    const posted = ground({ sheet: { number: 'CT-1', state: 'posted', locationId: 0 } });
    expect(told(decideEnterCount(posted, NOTHING_KEPT, []))).toEqual([': count-not-open']);
  });

  it('P6 tells each piece of what is kept by number', () => {
    const piece = {
      id: 1,
      itemId: 9,
      place: 'ours' as const,
      locationId: 0,
      lineId: null,
      workId: null,
      withinId: null,
    };
    const kept: SerialGround = {
      ...NOTHING_KEPT,
      kept: [{ itemId: 9, item: 'GAC-25', pattern: '', next: 1 }],
      serials: [
        { ...piece, number: 'A' },
        { ...piece, id: 2, number: 'B' },
      ],
    };
    expect(enter('1', {}, { numbers: ['a'] }, kept)).toMatchObject({
      effects: {
        lines: [
          {
            counted: '1',
            numbers: [
              { number: 'A', says: 'here' },
              { number: 'B', says: 'missing' },
            ],
          },
        ],
      },
    });
    expect(told(enter('2', {}, { numbers: ['a'] }, kept))).toEqual(['lines.0.numbers: numbers-not-as-many']);
    expect(told(enter('2', {}, {}, kept))).toEqual(['lines.0.numbers: numbers-not-as-many']);
    // Nothing is asked of what is not counted yet.
    expect(enter('', {}, {}, kept).ok).toBe(true);
  });
});

describe('W6 P3 posting a count', () => {
  it('posts each difference to what was known, at the average or at what one cost', () => {
    const lines = [
      line(),
      line({ id: 2, counted: null, was: null }),
      line({ id: 3, was: '0', counted: '2', unitCost: '5', stock: { onHand: '0', reserved: '0', value: '0' } }),
    ];
    expect(decidePostCount(ground({ lines }))).toMatchObject({
      effects: {
        lines: [
          { lineId: 1, difference: '-2', cost: '-20' },
          { lineId: 3, difference: '2', cost: '10' },
        ],
        cost: '-10',
        missing: '20',
        notCounted: 1,
      },
      warnings: [{ code: 'some-not-counted', facts: { lines: '1' } }],
    });
    expect(decidePostCount(ground()).ok && decidePostCount(ground())).toMatchObject({ warnings: [] });
  });

  it('is refused below what is held, without what one costs, and where nothing was counted', () => {
    const held = line({ stock: { onHand: '10', reserved: '9', value: '100' } });
    expect(told(decidePostCount(ground({ lines: [held] })))).toEqual(['lines.0.counted: below-held']);
    const just = line({ stock: { onHand: '10', reserved: '8', value: '100' } });
    expect(decidePostCount(ground({ lines: [just] })).ok).toBe(true);
    const bare = line({ was: '0', counted: '1', stock: { onHand: '0', reserved: '0', value: '0' } });
    expect(told(decidePostCount(ground({ lines: [bare] })))).toEqual(['lines.0.unitCost: required']);
    expect(told(decidePostCount(ground({ lines: [line({ counted: null, was: null })] })))).toEqual([
      ': nothing-counted',
    ]);
    const over = ground({ sheet: { number: 'CT-1', state: 'cancelled', locationId: 0 } });
    expect(told(decidePostCount(over))).toEqual([': count-not-open']);
  });

  it('P6 moves the pieces that were told, or as many as differ where none were', () => {
    const said = (says: 'here' | 'missing' | 'found', number: string) => ({ number, says });
    const of = (change: Partial<CountLine>) =>
      countNeeds(ground({ lines: [line({ counted: null, was: null }), line(change)] })).map((need) =>
        need.way === 'in' || need.way === 'out' ? [need.way, need.quantity, need.typed, need.field] : [need.way],
      );
    const numbers = [said('here', 'A'), said('missing', 'B'), said('missing', 'C'), said('found', 'D')];
    expect(of({ was: '3', counted: '2', numbers })).toEqual([
      ['out', '2', ['B', 'C'], 'lines.1.counted'],
      ['in', '1', ['D'], 'lines.1.counted'],
    ]);
    expect(of({ was: '1', counted: '1', numbers: [said('here', 'A')] })).toEqual([]);
    expect(of({ was: '10', counted: '8' })).toEqual([['out', '2', [], 'lines.1.counted']]);
    expect(of({ was: '0', counted: '2' })).toEqual([['in', '2', [], 'lines.1.counted']]);
    expect(of({ was: '2', counted: '2' })).toEqual([]);
  });
});

describe('W6 P1 taking a count back', () => {
  const posted = { number: 'CT-1', state: 'posted' as const, reverses: '', reversedBy: '' };
  const moved = (difference: string, cost: string, onHand: string, reserved = '0', value = '100') => ({
    itemId: 9,
    item: 'GAC-25',
    difference,
    cost,
    stock: { onHand, reserved, value },
  });
  const back = (sheet: object, lines: ReturnType<typeof moved>[], reason = 'so') =>
    decideTakeBackCount({ sheet: { ...posted, ...sheet }, lines }, { reason });

  it('brings what was missing again, and takes what was found at what it is worth', () => {
    const lines = [
      moved('-2', '-20', '8'),
      moved('0', '0', '5'),
      moved('3', '30', '10'),
      moved('4', '40', '4', '0', '36'),
    ];
    expect(back({}, lines)).toMatchObject({
      effects: {
        reason: 'so',
        lines: [
          { difference: '2', cost: '20' },
          { difference: '-3', cost: '-30' },
          { difference: '-4', cost: '-36' },
        ],
      },
    });
    expect(back({}, [moved('3', '30', '10', '0', '12')])).toMatchObject({ effects: { lines: [{ cost: '-12' }] } });
  });

  it('is refused once it was, where what was found is gone, and without a reason', () => {
    expect(told(back({}, [], ' '))).toEqual(['reason: required']);
    expect(told(back({ reversedBy: 'CT-2' }, []))).toEqual([': reversed-already']);
    expect(told(back({ reverses: 'CT-0' }, []))).toEqual([': is-reversal']);
    expect(told(back({ state: 'open' }, []))).toEqual([': count-not-posted']);
    const gone = back({}, [moved('3', '30', '4', '2')]);
    expect(!gone.ok && gone.refusals[0]).toMatchObject({ code: 'goods-gone', facts: { quantity: '3', here: '2' } });
    const none = back({}, [moved('3', '30', '1', '2')]);
    expect(!none.ok && none.refusals[0]).toMatchObject({ facts: { here: '0' } });
    expect(back({}, [moved('3', '30', '5', '2')]).ok).toBe(true);
  });
});
