import type { Offer } from '@core/agreements';
import { decideChange, decideOpenAgain, type ChangeGround, type ClosedLine, type ConfirmedLine } from './index';
import { ground, item, line, TODAY, typed, type Typed } from './testing';

const NOBODY = { mayPassCredit: false, creditReason: '' };
const on = (of: ChangeGround, input: Typed, by = NOBODY) => decideChange(of, input, TODAY, by);
const codes = (of: ChangeGround, input: Typed, by = NOBODY) => {
  const decision = on(of, input, by);
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};
const effects = (of: ChangeGround, input: Typed, by = NOBODY) => {
  const decision = on(of, input, by);
  if (!decision.ok) throw new Error(decision.refusals.map(({ code }) => code).join());
  return decision.effects;
};
const many = (quantity: string) => () => ({ quantity });

describe('S8 what of a confirmed order may be another', () => {
  it('is told field by field, as it was and as it is', () => {
    const of = ground([line(1)]);
    const done = effects(
      of,
      typed(of, () => ({ quantity: '12', shipDate: '2027-03-22' }), { shipToId: 6, customerReference: ' R-2 ' }),
    );
    expect(done).toMatchObject({
      reason: 'they called',
      creditReason: '',
      datedIds: [1],
      permits: [{ at: 0, permitId: null }],
    });
    expect(done.fields).toEqual([
      { what: 'their reference', was: 'R-1', is: 'R-2' },
      { what: 'ship to', was: 'Jetty', is: 'Hill' },
      { what: 'quantity of line 1', was: '10', is: '12' },
      { what: 'ship date of line 1', was: '2027-03-20', is: '2027-03-22' },
    ]);
  });

  it('tells a line that is added, behind those that are there', () => {
    const of = ground([line(1), line(4)]);
    const input = typed(of);
    const added = { id: null, itemId: 10, quantity: '3', shipDate: '2027-03-25', route: 'stock' as const };
    const done = effects(of, { ...input, lines: [...input.lines, added] });
    expect(done.fields).toEqual([{ what: 'line 5', was: '', is: '3 PM-15 at 20, 2027-03-25' }]);
    expect(done.permits).toEqual([{ at: 2, permitId: null }]);
  });

  it('is told while the reason is missing, and refused all the same', () => {
    const of = ground([line(1)]);
    const decision = on(of, { ...typed(of, many('12')), reason: ' ' });
    expect(decision).toMatchObject({ ok: false, refusals: [{ field: 'reason', code: 'required' }] });
    expect(!decision.ok && decision.effects?.fields).toHaveLength(1);
    expect(codes(of, typed(of))).toEqual([': order-unchanged']);
  });

  it.each<[string, Partial<ConfirmedLine>, object, string[]]>([
    ['another item', {}, { itemId: 11 }, ['lines.0.itemId: line-stays']],
    ['another unit', {}, { unit: 'box', quantity: '2' }, ['lines.0.unit: line-stays']],
    ['another route', {}, { route: 'special' }, ['lines.0.route: line-supplied']],
    ['another place', {}, { locationId: 1 }, ['lines.0.route: line-supplied']],
    ['fewer than went out', { shipped: '4' }, { quantity: '3.5' }, ['lines.0.quantity: below-moved']],
    [
      'fewer than are its own here',
      { route: 'special', shipped: '1', reserved: '4' },
      { quantity: '4', route: 'special' },
      ['lines.0.quantity: below-moved'],
    ],
    [
      'fewer than purchases bring',
      { route: 'drop', tied: '6', purchases: 'PO-1' },
      { quantity: '5', route: 'drop' },
      ['lines.0.quantity: below-supply-tied'],
    ],
    ['what is planned for', { planned: 'PL-1' }, { quantity: '11' }, ['lines.0.quantity: line-planned']],
    [
      'the day of what is planned for',
      { planned: 'PL-1' },
      { shipDate: '2027-03-21' },
      ['lines.0.quantity: line-planned'],
    ],
    ['what was closed short', { cancelled: '2' }, { quantity: '11' }, ['lines.0.quantity: line-closed-short']],
    ['the price of what went out', { shipped: '4' }, { price: '19' }, ['lines.0.price: price-shipped']],
    ['a day that is past', {}, { shipDate: '2027-02-28' }, ['lines.0.shipDate: ship-date-past']],
    ['nothing for it', {}, { price: '0' }, ['lines.0.price: price-missing']],
  ])('is not: %s', (_what, now, change, expected) => {
    const items = new Map([
      [10, item('never')],
      [11, item('never')],
    ]) as ChangeGround['items'];
    const of = ground([line(1, now)], { items });
    expect(
      codes(
        of,
        typed(of, () => change),
      ),
    ).toEqual(expected);
  });

  it.each<[string, Partial<ConfirmedLine>, string]>([
    ['all that went out', { shipped: '4' }, '4'],
    ['all that are its own here', { route: 'special', shipped: '1', reserved: '4' }, '5'],
    ['all that purchases bring', { route: 'drop', tied: '6' }, '6'],
    ['fewer than are held of our stock', { reserved: '10' }, '1'],
  ])('may be %s', (_what, now, quantity) => {
    const of = ground([line(1, now)]);
    expect(codes(of, typed(of, many(quantity)))).toEqual([]);
  });

  it('leaves lines alone that stay: their day may be past, and part of them given up', () => {
    const of = ground([line(1, { shipDate: '2027-02-01', cancelled: '3' }), line(2)]);
    const done = effects(
      of,
      typed(of, (_each, at) => (at === 1 ? { quantity: '11' } : {})),
    );
    expect([done.fields.length, done.datedIds, done.permits]).toEqual([1, [], []]);
  });

  it('keeps every line, its address and its reference', () => {
    const of = ground([line(1), line(2)]);
    expect(codes(of, { ...typed(of), lines: typed(of).lines.slice(1) })).toEqual(['lines: line-confirmed']);
    expect(codes(of, typed(of, many('11'), { shipToId: null }))).toContain('shipToId: required');
    expect(codes(of, typed(of, many('11'), { customerReference: ' ' }))).toEqual([
      'customerReference: reference-required',
    ]);
    const away = ground([line(1, { route: 'drop', tied: '10', onTheWay: '4', purchases: 'PO-1, PO-2' })]);
    expect(codes(away, typed(away, undefined, { shipToId: 6 }))).toEqual(['shipToId: ship-to-tied']);
    const came = ground([line(1, { route: 'drop', tied: '10', purchases: 'PO-1' })]);
    expect(codes(came, typed(came, undefined, { shipToId: 6 }))).toEqual([]);
  });

  it('is taxed as it was confirmed; what is added as its item is', () => {
    const of = ground([line(1, { taxCode: '2', taxRate: '6' })]);
    const input = typed(of, many('12'));
    const added = { id: null, itemId: 10, quantity: '3', shipDate: '2027-03-25', route: 'stock' as const };
    const done = effects(of, { ...input, lines: [...input.lines, added] });
    expect(done.lines.map(({ taxCodeId, taxRate }) => [taxCodeId, taxRate])).toEqual([
      [2, '6'],
      [1, '10'],
    ]);
    // Twelve of it come to 240, and 254.40 with its tax.
    const owing = (creditLimit: string) => ({ ...of, standing: { ...of.standing, creditLimit } });
    expect(codes(owing('254.4'), typed(of, many('12')))).toEqual([]);
    expect(codes(owing('254.39'), typed(of, many('12')))).toEqual(['creditReason: over-credit']);
  });

  it('is another only while it is confirmed', () => {
    const of = ground([line(1)]);
    for (const state of ['draft', 'closed', 'cancelled'] as const) {
      const other = { ...of, current: { ...of.current, state } };
      expect(codes(other, typed(other, many('11')))).toContain(': order-not-confirmed');
    }
  });

  it('goes out under the permit of its new day', () => {
    const permit = { id: 3, name: 'handling permit' };
    const items = new Map([[10, item('never', permit)]]) as ChangeGround['items'];
    const of = ground([line(1)], { items });
    const standing = { ...of.standing, permits: [{ id: 8, typeId: 3, firstDay: '2027-03-01', lastDay: '2027-03-31' }] };
    const held = { ...of, standing };
    expect(
      codes(
        of,
        typed(of, () => ({ shipDate: '2027-03-30' })),
      ),
    ).toEqual(['lines.0.itemId: permit-missing']);
    expect(
      effects(
        held,
        typed(held, () => ({ shipDate: '2027-03-30' })),
      ).permits,
    ).toEqual([{ at: 0, permitId: 8 }]);
    expect(
      codes(
        held,
        typed(held, () => ({ shipDate: '2027-04-01' })),
      ),
    ).toEqual(['lines.0.itemId: permit-missing']);
    // The quantity alone is of the day it had.
    expect(codes(of, typed(of, many('11')))).toEqual([]);
  });

  it('is held against the credit limit where more is owed by it, what is invoiced left out', () => {
    const owing = (creditLimit: string, now: Partial<ConfirmedLine> = {}) => {
      const of = ground([line(1, now)]);
      return { ...of, standing: { ...of.standing, creditLimit } };
    };
    // Eleven come to 220 and tax, 242.
    const enough = owing('242');
    expect(codes(enough, typed(enough, many('11')))).toEqual([]);
    const short = owing('241.99');
    expect(codes(short, typed(short, many('11')))).toEqual(['creditReason: over-credit']);
    const may = { mayPassCredit: true, creditReason: ' they pay ' };
    expect(effects(short, typed(short, many('11')), may).creditReason).toBe('they pay');
    expect(codes(short, typed(short, many('11')), { ...may, creditReason: '' })).toEqual([
      'creditReason: over-credit-why',
    ]);
    const broke = owing('1');
    expect(codes(broke, typed(broke, many('9')))).toEqual([]);
    expect(
      codes(
        broke,
        typed(broke, () => ({ shipDate: '2027-03-22' })),
      ),
    ).toEqual([]);
    const invoiced = owing('42', { shipped: '9', invoiced: '9' });
    expect(codes(invoiced, typed(invoiced, many('11')))).toEqual(['creditReason: over-credit']);
    const less = owing('44', { shipped: '9', invoiced: '9' });
    expect(codes(less, typed(less, many('11')))).toEqual([]);
  });

  it('lets go of what is no longer asked for, which another line may hold', () => {
    const items = new Map([[10, item('always')]]) as ChangeGround['items'];
    const of = ground([line(1, { reserved: '8', shipped: '1' }), line(2, { reserved: '10' }), line(3)], {
      items,
      free: new Map([[10, '2']]),
    });
    const done = effects(
      of,
      typed(of, (_each, at) => ({ quantity: ['5', '20', '10'][at]! })),
    );
    expect(done.freed).toEqual([{ lineId: 1, itemId: 10, locationId: 0, quantity: '4' }]);
    expect(done.toHold).toEqual([{ at: 1, quantity: '6' }]);
    expect(done.wanted).toEqual([
      { lineId: 1, quantity: '0' },
      { lineId: 2, quantity: '10' },
    ]);
    const never = { ...of, items: new Map([[10, item('never')]]) as ChangeGround['items'] };
    expect(effects(never, typed(never, many('20'))).toHold).toEqual([]);
  });
});

describe('S8 a line that was closed short', () => {
  const closed = (change: Partial<ClosedLine> = {}): ClosedLine => ({
    id: 1,
    lineNo: 1,
    itemId: 10,
    quantity: '10',
    cancelled: '7',
    amount: '60',
    agreedAmount: null,
    agreementLineId: 3,
    closing: { id: 9, quantity: '6', amount: '180', agreedAmount: null, leftAmount: '60' },
    ...change,
  });
  const offer = (left: string) =>
    ({
      agreement: {
        id: 2,
        number: 'AG-2',
        basis: 'quantity',
        limitPolicy: 'refuse',
        currency: 'MYR',
        tolerancePercent: '0',
      },
      line: { id: 3, committed: left, committedValue: '0', released: '0', releasedValue: '0' },
    }) as unknown as Offer;
  const again = (lines: ClosedLine[], lineIds: number[], offers: Offer[] = [], state = 'closed') =>
    decideOpenAgain({ order: { number: 'SO-1', state: state as 'closed' }, lines, offers, items: new Map() }, lineIds);

  it('is open again by what was given up last, at what it came to, and taken of its agreement', () => {
    expect(again([closed(), closed({ id: 2 })], [1])).toMatchObject({
      ok: true,
      effects: {
        lines: [{ id: 1, closingId: 9, cancelled: '1', amount: '180', agreedAmount: null }],
        released: [{ agreementLineId: 3, quantity: '6', value: '120' }],
      },
    });
  });

  it('is not where it was not closed, and not in a draft', () => {
    const refused = (decision: ReturnType<typeof again>) =>
      decision.ok ? [] : decision.refusals.map(({ code }) => code);
    expect(refused(again([closed({ closing: null })], [1]))).toEqual(['nothing-closed']);
    expect(refused(again([closed()], [2]))).toEqual(['nothing-closed']);
    expect(refused(again([closed()], [1], [], 'draft'))).toEqual(['order-not-confirmed']);
    expect(refused(again([closed()], [1], [], 'cancelled'))).toEqual([]);
    expect(refused(again([closed({ amount: '80' })], [1]))).toEqual(['closed-line-changed']);
    expect(refused(again([closed()], [1], [offer('5')]))).toEqual(['above-limit']);
    expect(refused(again([closed()], [1], [offer('6')]))).toEqual([]);
  });
});
