import { ground, line as orderLine, typed } from '../orders/testing';
import { decideAlong, decideChangeAlong, type LineAlong, type Pair } from './index';
import { pair } from './testing';

const TODAY = '2027-03-01';

const line = (of: Pair, change: Partial<LineAlong> = {}): LineAlong => ({
  id: of.sales.id,
  quantity: of.sales.quantity,
  shipDate: of.sales.shipDate,
  typedAt: 0,
  ...change,
});
const along = (pairs: Pair[], lines: LineAlong[], shipToId: number | null = 3) =>
  decideAlong(pairs, { shipToId, lines }, [], TODAY);
const effects = (...asked: Parameters<typeof along>) => {
  const { decision } = along(...asked);
  if (!decision.ok) throw new Error(decision.refusals.map((each) => `${each.field} ${each.code}`).join());
  return decision.effects;
};
const refused = (...asked: Parameters<typeof along>) => {
  const { decision } = along(...asked);
  return decision.ok ? [] : decision.refusals.map((each) => `${each.field}: ${each.code}`);
};
const quantities = (pairs: Pair[], quantity: string) =>
  along(pairs, [line(pairs[0]!, { quantity })]).changes.map(({ tieId, quantity: to }) => [tieId, to]);

/** Two ties of one line of ten: six due on the 10th, four on the 12th. */
const two = (received = ['0', '0']) => {
  const sales = { id: 30, quantity: '10', tied: '10' };
  const order = { id: 1, number: 'SO-1' };
  return [
    pair(1, { quantity: '6', received: received[0]!, route: 'special', sales, order }),
    pair(2, {
      quantity: '4',
      received: received[1]!,
      route: 'special',
      sales,
      order,
      supply: { dueDate: '2027-03-12' },
    }),
  ];
};

describe('L7 what was bought moves along with its order', () => {
  it('asks nothing of ties whose lines stay, nor of what came wholly', () => {
    const here = pair(1, { received: '12' });
    expect(along([pair(1)], [line(pair(1))]).changes).toEqual([]);
    expect(along([here], [line(here, { quantity: '20', shipDate: '2027-03-20' })], 4).changes).toEqual([]);
    expect(along([pair(1)], [line(pair(2), { quantity: '20' })]).changes).toEqual([]);
    expect(effects([pair(1)], [line(pair(1))]).ties).toEqual([]);
  });

  it('buys more with what is due last, and less of what is due last first, none for nothing', () => {
    expect(quantities(two(), '13')).toEqual([[2, '7']]);
    expect(quantities(two(), '8')).toEqual([[2, '2']]);
    // The four would be for nothing: the six give.
    expect(quantities(two(), '5')).toEqual([[1, '1']]);
    expect(quantities(two(['0', '3']), '7')).toEqual([
      [2, '3'],
      [1, '4'],
    ]);
    expect(quantities(two(), '10')).toEqual([]);
    expect(quantities(two(), 'ten')).toEqual([]);
    const [first] = two();
    const partly = { ...first!, sales: { ...first!.sales, quantity: '10', tied: '6' } };
    expect(quantities([partly], '8')).toEqual([]);
    expect(quantities([partly], '5')).toEqual([[1, '5']]);
  });

  it('is due by as many days sooner or later, today at the soonest', () => {
    const days = (shipDate: string) =>
      along(two(), [line(two()[0]!, { shipDate })]).changes.map((change) => [change.shipDate, change.dueDate]);
    expect(days('2027-03-16')).toEqual([
      ['2027-03-16', '2027-03-14'],
      ['2027-03-16', '2027-03-16'],
    ]);
    expect(days('2027-03-02')).toEqual([
      ['2027-03-02', '2027-03-01'],
      ['2027-03-02', '2027-03-02'],
    ]);
    expect(days('')).toEqual([]);
  });

  it('sends what goes straight to the customer where the order goes, once; not what comes to us', () => {
    const drops = [pair(1), pair(2, { order: { id: 1 } })];
    expect(along(drops, [], 4).changes).toMatchObject([{ tieId: 1, shipToId: 4 }]);
    expect(effects(drops, [], 4).purchases).toMatchObject([{ id: 1, shipToId: 4 }]);
    expect(along(two(), [], 4).changes).toEqual([]);
    expect(along(drops, [], null).changes).toEqual([]);
    expect(refused([pair(1, { orderIds: [1, 9] })], [], 4)).toEqual(['shipToId: purchase-shared']);
  });

  it('says what stands against it at the line, and leaves what the order itself is worth to the order', () => {
    const came = pair(1, { received: '7' });
    const agreed = { ...came, sales: { ...came.sales, agreedAmount: '1', agreementLineId: 9 } };
    expect(effects([agreed], [line(agreed, { quantity: '9' })])).toMatchObject({
      ties: [{ id: 1, by: '-3' }],
      released: [],
    });
    const mixed = { ...came, supply: { ...came.supply, agreedAmount: '1' } };
    expect(refused([mixed], [line(mixed, { quantity: '9', typedAt: 4 })])).toEqual(['lines.4.quantity: mixed-price']);
    const closed = pair(1, { purchase: { state: 'closed' } });
    expect(refused([closed], [line(closed, { quantity: '9', typedAt: 2 })])).toEqual([
      'lines.2.quantity: purchase-not-open',
    ]);
  });
});

describe('S8 an order changed with what was bought for it', () => {
  const NOBODY = { mayPassCredit: false, creditReason: '' };
  /** A special order of ten, tied to the purchase of the pair. */
  const bought = (change: Partial<Pair> = {}) => {
    const tied = pair(1, { quantity: '10', route: 'special', sales: { id: 1, shipDate: '2027-03-20' } });
    const of = ground([
      orderLine(1, { route: 'special', tied: '10', onTheWay: '10', purchases: 'PO-1' }),
      orderLine(2, { itemId: 10, quantity: '3', amount: '60' }),
    ]);
    return { ...of, pairs: [{ ...tied, ...change }], buying: [] };
  };
  const changed = (of: ReturnType<typeof bought>, change: (at: number) => object, head = {}) =>
    decideChangeAlong(
      of,
      typed(of, (_each, at) => change(at), head),
      TODAY,
      NOBODY,
    );
  const codes = (decision: ReturnType<typeof changed>) =>
    decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);

  it('moves both ends: fewer than are tied is no refusal where the purchase goes along', () => {
    const done = changed(bought(), (at) => (at === 0 ? { quantity: '7', shipDate: '2027-03-25' } : {}));
    expect(done).toMatchObject({
      ok: true,
      effects: {
        lines: [{ quantity: '7' }, { quantity: '3' }],
        along: { ties: [{ id: 1, by: '-3' }], supply: [{ quantity: '7', dueDate: '2027-03-15', tiedBy: '-3' }] },
      },
    });
    const alone = { ...bought(), pairs: [] };
    expect(codes(changed(alone, (at) => (at === 0 ? { quantity: '7' } : {})))).toEqual([
      'lines.0.quantity: below-supply-tied',
    ]);
  });

  it('leaves a purchase alone where its line stays', () => {
    const done = changed(bought(), (at) => (at === 1 ? { quantity: '4' } : {}));
    expect(done).toMatchObject({ ok: true, effects: { along: { ties: [], supply: [], purchases: [] } } });
  });

  it('says what stands against the purchase instead of what would be without it, each once', () => {
    const closed = bought({ purchase: { id: 1, number: 'PO-1', state: 'closed', currency: 'MYR', shipToId: null } });
    expect(codes(changed(closed, (at) => (at === 0 ? { quantity: '7' } : {})))).toEqual([
      'lines.0.quantity: purchase-not-open',
    ]);
    const came = bought({ received: '9' });
    const fewer = codes(
      changed({ ...came, pairs: [{ ...came.pairs[0]!, quantity: '10', received: '9' }] }, (at) =>
        at === 0 ? { quantity: '8' } : {},
      ),
    );
    expect(fewer).toEqual(['lines.0.quantity: below-supply-tied']);
  });

  it('is refused for what stands against the order itself, its effects shown all the same', () => {
    const without = changed(bought(), (at) => (at === 0 ? { quantity: '7' } : {}), { reason: ' ' });
    expect(codes(without)).toEqual(['reason: required']);
    expect(without.effects?.along.ties).toEqual([{ id: 1, by: '-3' }]);
    expect(codes(changed(bought(), () => ({ quantity: 'x' })))).toContain('lines.0.quantity: not-a-number');
  });

  it('sends what goes straight to the customer along to the other address, which would be refused alone', () => {
    const drop = pair(1, {
      quantity: '10',
      sales: { id: 1, shipDate: '2027-03-20' },
      order: { shipToId: 5, shipToIds: [5, 6] },
    });
    const of = ground([orderLine(1, { route: 'drop', tied: '10', onTheWay: '10', purchases: 'PO-1' })]);
    const to = (pairs: Pair[]) =>
      decideChangeAlong(
        { ...of, pairs, buying: [] },
        typed(of, () => ({}), { shipToId: 6 }),
        TODAY,
        NOBODY,
      );
    expect(codes(to([]))).toEqual(['shipToId: ship-to-tied']);
    expect(to([drop])).toMatchObject({
      ok: true,
      effects: { shipToId: 6, along: { purchases: [{ id: 1, shipToId: 6 }] } },
    });
  });
});
