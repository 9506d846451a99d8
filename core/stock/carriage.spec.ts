import fc from 'fast-check';
import { dec, UNDER_WAY } from '@core/kernel';
import {
  decideArrive,
  decideArrivesOn,
  decideBetween,
  decideCarriedBack,
  type ArriveGround,
  type CarriageNow,
  type CarriedBackGround,
} from './index';

const DAY = '2027-03-04';
const LOCATIONS = new Map([
  [0, 'Main store'],
  [1, 'East coast store'],
  [2, 'Yard'],
]);
const ITEM = { id: 10, number: 'GAC-25' };
const carriage = (more: Partial<CarriageNow> = {}): CarriageNow => ({
  id: 5,
  number: 'JR-7',
  quantity: '9',
  arrived: '2',
  takenBack: false,
  dueDate: '2027-03-08',
  ...more,
});
const codes = (decision: { ok: boolean; refusals?: readonly { field: string; code: string }[] }) =>
  decision.ok ? [] : decision.refusals!.map(({ field, code }) => `${field}: ${code}`);

describe('W6 goods that leave a place for another', () => {
  const ground = {
    item: ITEM,
    locations: LOCATIONS,
    stock: { onHand: '10', reserved: '0', value: '33' },
    currency: 'MYR',
  };
  const left = (arrivesOn: string) => decideBetween(ground, { from: 0, to: 1, quantity: '4', arrivesOn }, DAY);

  it('are under way until the day they arrive, which may be today', () => {
    for (const day of ['2027-03-08', DAY]) {
      const decision = left(` ${day} `);
      expect(decision.ok && decision.effects).toEqual({
        itemId: 10,
        quantity: '4',
        value: '13.2',
        moves: [
          { locationId: 0, quantity: '-4', cost: '-13.2' },
          { locationId: UNDER_WAY, quantity: '4', cost: '13.2' },
        ],
        carriage: { toId: 1, dueDate: day },
      });
    }
  });

  it('are there at once where no day is given', () => {
    const decision = left('');
    expect(decision.ok && [decision.effects.carriage, decision.effects.moves[1].locationId]).toEqual([null, 1]);
  });

  it.each([
    ['2027-03-03', 'days-order'],
    ['soon', 'not-a-day'],
    ['2027-02-30', 'not-a-day'],
  ])('do not arrive on %s', (day, code) => expect(codes(left(day))).toEqual([`arrivesOn: ${code}`]));
});

describe('W6 goods that arrive', () => {
  const ground = (
    more: Partial<CarriageNow> = {},
    stock: Partial<ArriveGround['stock']> = {},
    others: Partial<ArriveGround> = {},
  ): ArriveGround => ({
    carriage: carriage(more),
    item: ITEM,
    locations: LOCATIONS,
    stock: { onHand: '12', reserved: '0', value: '100', ...stock },
    currency: 'MYR',
    sent: [],
    ...others,
  });

  it('come out of what is under way at what it is worth, the last with the last cent', () => {
    const some = decideArrive(ground(), { to: 1, quantity: '7', numbers: [] });
    expect(some.ok && some.effects).toEqual({
      carriageId: 5,
      typed: [],
      itemId: 10,
      quantity: '7',
      value: '58.33',
      moves: [
        { locationId: UNDER_WAY, quantity: '-7', cost: '-58.33' },
        { locationId: 1, quantity: '7', cost: '58.33' },
      ],
    });
    const last = decideArrive(ground({}, { onHand: '7' }), { to: 2, quantity: '7', numbers: [] });
    expect(last.ok && last.effects.moves[1]).toEqual({ locationId: 2, quantity: '7', cost: '100' });
  });

  it.each<[string, Partial<CarriageNow>, { to: number; quantity: string }, string[]]>([
    ['more than is under way with it', {}, { to: 1, quantity: '7.5' }, ['quantity: above-under-way']],
    ['nothing', {}, { to: 1, quantity: '0' }, ['quantity: not-above-zero']],
    ['less than nothing', {}, { to: 1, quantity: '-1' }, ['quantity: not-above-zero']],
    ['words', {}, { to: 1, quantity: 'all' }, ['quantity: not-a-number']],
    ['where nobody keeps any', {}, { to: UNDER_WAY, quantity: '1' }, ['to: unknown']],
    ['what arrived already', { arrived: '9' }, { to: 1, quantity: '1' }, [': not-under-way']],
    ['what never left', { arrived: '0', takenBack: true }, { to: 1, quantity: '1' }, [': not-under-way']],
  ])('are refused: %s', (_what, more, typed, expected) => {
    expect(codes(decideArrive(ground(more), { ...typed, numbers: [] }))).toEqual(expected);
  });

  it('are those that were typed, else the first that left with it; none that did not', () => {
    const numbered = (quantity: string, ...numbers: string[]) =>
      decideArrive(ground({}, {}, { sent: ['P-1', 'P-2', 'P-3'] }), { to: 1, quantity, numbers });
    const typed = (decision: ReturnType<typeof numbered>) => decision.ok && decision.effects.typed;
    expect(typed(numbered('2'))).toEqual(['P-1', 'P-2']);
    expect(typed(numbered('1', 'p-3'))).toEqual(['p-3']);
    expect(codes(numbered('2', 'P-1', 'P-9'))).toEqual(['numbers: number-not-with']);
    expect(typed(decideArrive(ground(), { to: 1, quantity: '1', numbers: ['P-9'] }))).toEqual(['P-9']);
  });

  it('arrive on another day while some are under way', () => {
    const other = decideArrivesOn(carriage(), '2027-03-20', DAY);
    expect(other.ok && other.effects).toEqual({ carriageId: 5, dueDate: '2027-03-20', was: '2027-03-08' });
    expect(decideArrivesOn(carriage(), DAY, DAY).ok).toBe(true);
    expect(codes(decideArrivesOn(carriage(), '2027-03-03', DAY))).toEqual(['dueDate: days-order']);
    expect(codes(decideArrivesOn(carriage(), '', DAY))).toEqual(['dueDate: not-a-day']);
    expect(codes(decideArrivesOn(carriage({ arrived: '9' }), '2027-03-20', DAY))).toEqual([': not-under-way']);
    expect(codes(decideArrivesOn(carriage({ takenBack: true }), '2027-03-20', DAY))).toEqual([': not-under-way']);
  });
});

describe('P1 W6 what was carried', () => {
  const ground = (more: Partial<CarriedBackGround> = {}): CarriedBackGround => ({
    journal: { number: 'JR-7' },
    moved: { itemId: 10, item: 'GAC-25', from: 0, to: 1, quantity: '4', value: '13.2' },
    carriage: null,
    reverses: '',
    reversedBy: '',
    stock: { onHand: '10', reserved: '6', value: '50' },
    ...more,
  });
  const why = { reason: ' wrong place ' };
  const onWay = { itemId: 10, item: 'GAC-25', from: 0, to: UNDER_WAY, quantity: '4', value: '13.2' };

  it('goes back at what it went at, or at what those that are there are worth', () => {
    const back = decideCarriedBack(ground(), why);
    expect(back.ok && back.effects).toEqual({
      itemId: 10,
      quantity: '4',
      value: '13.2',
      moves: [
        { locationId: 1, quantity: '-4', cost: '-13.2' },
        { locationId: 0, quantity: '4', cost: '13.2' },
      ],
      reason: 'wrong place',
      carriage: null,
    });
    const worth = (stock: CarriedBackGround['stock']) => {
      const decision = decideCarriedBack(ground({ stock }), why);
      return decision.ok && decision.effects.value;
    };
    expect(worth({ onHand: '4', reserved: '0', value: '14' })).toBe('14');
    expect(worth({ onHand: '5', reserved: '0', value: '9' })).toBe('9');
  });

  it('never left after all, or is under way again', () => {
    const never = decideCarriedBack(ground({ moved: onWay, carriage: carriage({ arrived: '0' }) }), why);
    expect(never.ok && never.effects.carriage).toEqual({ id: 5, as: 'left' });
    const again = decideCarriedBack(ground({ moved: { ...onWay, from: UNDER_WAY, to: 1 }, carriage: carriage() }), why);
    expect(again.ok && [again.effects.carriage, again.effects.moves[1]]).toEqual([
      { id: 5, as: 'arrived' },
      { locationId: UNDER_WAY, quantity: '4', cost: '13.2' },
    ]);
  });

  it.each<[string, Partial<CarriedBackGround>, string, string[]]>([
    ['without a reason', {}, '  ', ['reason: required']],
    ['what carried nothing', { moved: null }, 'x', [': nothing-carried']],
    ['twice', { reversedBy: 'JR-9' }, 'x', [': reversed-already']],
    ['what takes back itself', { reverses: 'JR-2' }, 'x', [': is-reversal']],
    ['what is no longer free there', { stock: { onHand: '10', reserved: '6.5', value: '50' } }, 'x', [': goods-gone']],
    ['what arrived in part', { moved: onWay, carriage: carriage({ arrived: '0.5' }) }, 'x', [': arrived-first']],
  ])('is refused: %s', (_what, more, reason, expected) => {
    expect(codes(decideCarriedBack(ground(more), { reason }))).toEqual(expected);
  });

  it('says how many are still there, at least none', () => {
    const here = (reserved: string) => {
      const decision = decideCarriedBack(ground({ stock: { onHand: '10', reserved, value: '50' } }), why);
      return decision.ok || decision.refusals[0]!.facts;
    };
    expect(here('7')).toEqual({ document: 'JR-7', item: 'GAC-25', quantity: '4', here: '3' });
    expect(here('12')).toEqual({ document: 'JR-7', item: 'GAC-25', quantity: '4', here: '0' });
  });
});

describe('W6 any going, arriving and taking back', () => {
  it('neither makes nor loses a piece or a cent', () => {
    const step = fc.record({
      what: fc.constantFrom('go', 'arrive', 'back'),
      many: fc.integer({ min: 1, max: 9 }),
      at: fc.nat(9),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), fc.integer({ min: 0, max: 9999 }), (steps, cents) => {
        const stock = new Map([0, 1, UNDER_WAY].map((at) => [at, { onHand: '0', reserved: '0', value: '0' }]));
        stock.set(0, { onHand: '20', reserved: '0', value: dec(cents).div(100).toFixed() });
        const sent: CarriageNow[] = [];
        const arrivals: { of: CarriageNow; quantity: string; value: string; back: boolean }[] = [];
        const move = (moves: readonly { locationId: number; quantity: string; cost: string }[]) => {
          for (const { locationId, quantity, cost } of moves) {
            const at = stock.get(locationId)!;
            at.onHand = dec(at.onHand).plus(quantity).toFixed();
            at.value = dec(at.value).plus(cost).toFixed();
          }
        };
        for (const { what, many, at } of steps) {
          const own = { item: ITEM, locations: LOCATIONS, currency: 'MYR' };
          if (what === 'go') {
            const typed = { from: 0, to: 1, quantity: String(many), arrivesOn: DAY };
            const decision = decideBetween({ ...own, stock: stock.get(0)! }, typed, DAY);
            if (!decision.ok) continue;
            move(decision.effects.moves);
            sent.push(carriage({ id: sent.length, quantity: decision.effects.quantity, arrived: '0' }));
          } else if (what === 'arrive') {
            const of = sent[at];
            if (!of) continue;
            const typed = { to: 1, quantity: String(many), numbers: [] };
            const decision = decideArrive({ ...own, sent: [], carriage: of, stock: stock.get(UNDER_WAY)! }, typed);
            if (!decision.ok) continue;
            move(decision.effects.moves);
            of.arrived = dec(of.arrived).plus(typed.quantity).toFixed();
            arrivals.push({ of, quantity: typed.quantity, value: decision.effects.value, back: false });
          } else {
            const arrival = arrivals[at];
            if (!arrival) continue;
            const { of, quantity, value, back } = arrival;
            const moved = { itemId: 10, item: 'GAC-25', from: UNDER_WAY, to: 1, quantity, value };
            const reversedBy = back ? 'JR-9' : '';
            const decision = decideCarriedBack(ground(moved, of, reversedBy, stock.get(1)!), { reason: 'x' });
            expect(decision.ok).toBe(!back);
            if (!decision.ok) continue;
            move(decision.effects.moves);
            of.arrived = dec(of.arrived).minus(quantity).toFixed();
            arrival.back = true;
          }
          const open = sent.reduce((sum, each) => sum.plus(each.quantity).minus(each.arrived), dec(0));
          expect(stock.get(UNDER_WAY)!.onHand).toBe(open.toFixed());
          const all = [...stock.values()];
          expect(all.reduce((sum, each) => sum.plus(each.onHand), dec(0)).toFixed()).toBe('20');
          expect(all.reduce((sum, each) => sum.plus(each.value), dec(0)).toFixed()).toBe(dec(cents).div(100).toFixed());
          for (const each of all) {
            expect(dec(each.value).gte(0)).toBe(true);
            if (each.onHand === '0') expect(each.value).toBe('0');
          }
        }
      }),
      { seed: 12 },
    );
  });

  const ground = (
    moved: NonNullable<CarriedBackGround['moved']>,
    of: CarriageNow,
    reversedBy: string,
    stock: CarriedBackGround['stock'],
  ): CarriedBackGround => ({ journal: { number: 'JR-8' }, moved, carriage: of, reverses: '', reversedBy, stock });
});
