import type { PromotionOffer } from '@core/promotions';
import { decideChange, decideOrder, type OrderGround, type OrderTyped } from '.';
import { ground as confirmedGround, item, line as confirmedLine, TODAY, typed as typedChange } from './testing';

const offer = (
  change: Partial<PromotionOffer> = {},
  of: Partial<PromotionOffer['promotion']> = {},
): PromotionOffer => ({
  id: 1,
  promotion: {
    id: 7,
    number: 'PM-0007',
    name: 'Pump weeks',
    firstDay: '2027-03-01',
    lastDay: '2027-03-31',
    running: true,
    left: '100',
    ...of,
  },
  itemId: 10,
  groupId: null,
  kind: 'percent',
  value: '10',
  from: '0',
  buy: '0',
  free: '0',
  freeItemId: null,
  ...change,
});
const tenOne = (change: Partial<PromotionOffer> = {}, of: Partial<PromotionOffer['promotion']> = {}) =>
  offer({ kind: 'free', value: '0', buy: '10', free: '1', ...change }, of);

const base = confirmedGround([]) as unknown as OrderGround;
const ground = (offers: PromotionOffer[], change: Partial<OrderGround> = {}): OrderGround => ({
  ...base,
  current: null,
  pricing: { ...base.pricing, promotions: { offers, rate: '1' } },
  items: new Map([
    [10, item('never')],
    [20, { ...item('never'), number: 'CAL-1', listPrice: '8' }],
  ]),
  ...change,
});
const line = (quantity: string, change: Partial<OrderTyped['lines'][number]> = {}): OrderTyped['lines'][number] => ({
  id: null,
  itemId: 10,
  quantity,
  shipDate: '2027-03-20',
  route: 'stock',
  ...change,
});
const decide = (on: OrderGround, lines: OrderTyped['lines']) => {
  const decision = decideOrder(on, { shipToId: 5, customerReference: '', lines }, TODAY);
  if (!decision.ok) throw new Error(decision.refusals.map(({ code, field }) => `${field}: ${code}`).join());
  return {
    lines: decision.effects.lines.map(({ id, itemId, quantity, unitPrice, amount, promotion }) => ({
      id,
      itemId,
      quantity,
      unitPrice,
      amount,
      given: promotion && `${promotion.free ? 'free ' : ''}${promotion.unit}`,
    })),
    effects: decision.effects,
    words: decision.warnings.map(({ code, field }) => `${field}: ${code}`),
  };
};

describe('S13 a promotion on an order', () => {
  it('takes off the price, and stands in its build-up', () => {
    const { lines, effects } = decide(ground([offer()]), [line('5')]);
    expect(lines).toEqual([{ id: null, itemId: 10, quantity: '5', unitPrice: '18', amount: '90', given: '2' }]);
    expect(effects.lines[0]!.sold.steps).toEqual([
      { kind: 'list', source: 'the list', amount: '100' },
      { kind: 'promotion', source: 'PM-0007 Pump weeks', amount: '-10' },
    ]);
  });

  it('gives nothing where the budget has too little, and says so; a smaller line still gets it', () => {
    const { lines, words } = decide(ground([offer({}, { left: '15' })]), [line('5'), line('5'), line('2')]);
    expect(lines.map(({ amount }) => amount)).toEqual(['90', '100', '36']);
    expect(words).toEqual(['lines.1.quantity: promotion-used-up']);
  });

  it('gives the next where the first is used up', () => {
    const offers = [offer({ value: '20' }, { left: '1' }), offer({ id: 2 }, { id: 8 })];
    expect(decide(ground(offers), [line('5')]).lines[0]).toMatchObject({ amount: '90', given: '2' });
  });

  it('is not given besides a price or discount that somebody typed, nor on what is agreed', () => {
    expect(decide(ground([offer()]), [line('5', { price: '19' })]).lines[0]).toMatchObject({
      amount: '95',
      given: null,
    });
    expect(decide(ground([offer()]), [line('5', { discount: '5' })]).lines[0]).toMatchObject({
      amount: '95',
      given: null,
    });
  });

  it('stays on a line nobody touched, also once it is stopped; a line that is changed keeps what it had and gets no more', () => {
    const now = confirmedLine(1, {
      promotion: { promotionId: 7, lineId: 1, unit: '2', free: false },
      quantity: '5',
      unitPrice: '18',
      amount: '90',
    });
    const current = { number: 'SO-1', state: 'draft' as const, shipToId: 5, lines: [now] };
    const stopped = [offer({}, { running: false, left: null })];
    const typed = (quantity: string) => [line(quantity, { id: 1 })];
    expect(decide(ground(stopped, { current }), typed('5')).lines[0]).toMatchObject({ amount: '90', given: '2' });
    expect(decide(ground(stopped, { current }), typed('4')).lines[0]).toMatchObject({ amount: '72', given: '2' });
    const more = decide(ground(stopped, { current }), typed('6'));
    expect([more.lines[0]!.amount, more.words]).toEqual(['120', []]);
    // What the line has of a budget that is full can be given again, and not more.
    const full = [offer({}, { left: '0' })];
    expect(decide(ground(full, { current }), typed('4')).lines[0]).toMatchObject({ amount: '72' });
    expect(decide(ground(full, { current }), typed('6')).words).toEqual(['lines.0.quantity: promotion-used-up']);
    // A line that is taken off gives back what it had.
    expect(decide(ground(full, { current }), [line('5')]).lines[0]).toMatchObject({ amount: '100' });
  });
});

describe('S13 free goods on an order', () => {
  const freeLine = confirmedLine(2, {
    quantity: '1',
    unitPrice: '0',
    amount: '0',
    promotion: { promotionId: 7, lineId: 1, unit: '20', free: true },
  });
  const current = { number: 'SO-1', state: 'draft' as const, shipToId: 5, lines: [confirmedLine(1), freeLine] };

  it('are a line of their own at nothing, with why', () => {
    const { lines, effects } = decide(ground([tenOne()]), [line('25')]);
    expect(lines[1]).toEqual({ id: null, itemId: 10, quantity: '2', unitPrice: '0', amount: '0', given: 'free 20' });
    expect(effects.lines[1]).toMatchObject({
      sold: { reason: 'free with PM-0007' },
      typedAt: 0,
      route: 'stock',
      agreementLineId: null,
    });
  });

  it('may be of another item', () => {
    const { lines } = decide(ground([tenOne({ freeItemId: 20 })]), [line('10')]);
    expect(lines[1]).toMatchObject({ itemId: 20, quantity: '1', given: 'free 8' });
  });

  it('grow and go with what is bought, whatever is typed over them', () => {
    const on = ground([tenOne()], { current });
    expect(decide(on, [line('20', { id: 1 }), line('7', { id: 2 })]).lines[1]).toMatchObject({ id: 2, quantity: '2' });
    const less = decide(on, [line('9', { id: 1 }), line('1', { id: 2 })]);
    expect([less.lines.length, less.effects.removedLineIds]).toEqual([1, [2]]);
    expect(() => decide(on, [line('1', { id: 2 })])).toThrow('lines: no-lines');
  });

  it('count in no price break of what is bought', () => {
    const breaking = {
      agreement: {
        id: 1,
        number: 'AG-1',
        basis: 'quantity',
        state: 'in-force',
        firstDay: '2027-01-01',
        lastDay: '2027-12-31',
        currency: 'MYR',
        priority: 5,
        limitPolicy: 'warn',
        tolerancePercent: '0',
      },
      line: {
        id: 3,
        lineNo: 1,
        itemId: 10,
        groupId: null,
        committed: '100',
        committedValue: '1500',
        released: '0',
        releasedValue: '0',
        leastRelease: '0',
        releaseMultiple: '0',
        priceKind: 'fixed',
        priceValue: '15',
        breaks: [{ from: '11', value: '12' }],
      },
    } as unknown as OrderGround['offers'][number];
    const on = ground([tenOne()], { current, offers: [breaking] });
    const lines = [line('10'), line('1', { id: 2 })];
    expect(decide(on, lines).lines[0]).toMatchObject({ unitPrice: '15' });
  });

  it('are not earned by what is cheaper already', () => {
    expect(decide(ground([tenOne()]), [line('10', { price: '19' })]).lines).toHaveLength(1);
    expect(decide(ground([tenOne({ id: 2 }, { id: 8 }), offer()]), [line('10')]).lines).toHaveLength(1);
  });

  it('stop with the budget, and say so', () => {
    const { lines, words } = decide(ground([tenOne({}, { left: '20' })]), [line('30')]);
    expect([lines[1]!.quantity, words]).toEqual(['1', ['lines.0.quantity: promotion-used-up']]);
  });

  it.each([
    [true, 3, '11'],
    [false, null, '10'],
    [undefined, null, '10'],
  ])('count in an agreement where it says so (%s)', (freeGoodsCount, agreementLineId, released) => {
    const agreed = {
      agreement: {
        id: 1,
        number: 'AG-1',
        basis: 'quantity',
        state: 'in-force',
        firstDay: '2027-01-01',
        lastDay: '2027-12-31',
        currency: 'MYR',
        priority: 5,
        limitPolicy: 'refuse',
        tolerancePercent: '0',
        freeGoodsCount,
      },
      line: {
        id: 3,
        lineNo: 1,
        itemId: 10,
        groupId: null,
        committed: '100',
        committedValue: '1500',
        released: '0',
        releasedValue: '0',
        leastRelease: '0',
        releaseMultiple: '0',
        priceKind: 'fixed',
        priceValue: '15',
        breaks: [],
      },
    } as unknown as OrderGround['offers'][number];
    const { effects } = decide(ground([tenOne()], { offers: [agreed] }), [line('10')]);
    expect(effects.lines.map((each) => [each.amount, each.agreementLineId])).toEqual([
      ['150', 3],
      ['0', agreementLineId],
    ]);
    expect(effects.released).toEqual([{ agreementLineId: 3, quantity: released, value: '150' }]);
  });

  it('of a confirmed order grow with it; what it no longer earns is closed short first', () => {
    const bought = confirmedLine(1, { quantity: '10' });
    const on = (free = freeLine) => {
      const whole = confirmedGround([bought, free]);
      return { ...whole, pricing: { ...whole.pricing, promotions: { offers: [tenOne()], rate: '1' } } };
    };
    const quantity = (to: string) => (_each: unknown, at: number) => (at === 0 ? { quantity: to } : {});
    const grown = decideChange(on(), typedChange(on(), quantity('20')), TODAY, {
      mayPassCredit: false,
      creditReason: '',
    });
    expect(grown).toMatchObject({ ok: true, effects: { lines: [{ quantity: '20' }, { id: 2, quantity: '2' }] } });
    const less = decideChange(on(), typedChange(on(), quantity('9')), TODAY, {
      mayPassCredit: false,
      creditReason: '',
    });
    expect(less).toMatchObject({ ok: false, refusals: [{ code: 'free-line-left', facts: { line: '2' } }] });
    const closed = on({ ...freeLine, cancelled: '1' });
    expect(
      decideChange(closed, typedChange(closed, quantity('9')), TODAY, { mayPassCredit: false, creditReason: '' }),
    ).toMatchObject({
      ok: true,
      effects: { lines: [{ quantity: '9' }, { id: 2, quantity: '1' }] },
    });
    // What was given up does not come again, however much is bought; what is earned beyond it does.
    const more = (of: ReturnType<typeof on>, to: string) => {
      const by = { mayPassCredit: false, creditReason: '' };
      const decision = decideChange(of, typedChange(of, quantity(to)), TODAY, by);
      return decision.ok ? decision.effects.lines.map(({ id, quantity: many }) => [id, many]) : decision.refusals;
    };
    expect(more(closed, '19')).toEqual([
      [1, '19'],
      [2, '1'],
    ]);
    expect(more(closed, '30')).toEqual([
      [1, '30'],
      [2, '1'],
      [null, '2'],
    ]);
    const partly = on({ ...freeLine, quantity: '2', cancelled: '1' });
    expect(
      more(
        { ...partly, current: { ...partly.current, lines: [{ ...bought, quantity: '20' }, partly.current.lines[1]!] } },
        '29',
      ),
    ).toEqual([
      [1, '29'],
      [2, '2'],
    ]);
  });
});
