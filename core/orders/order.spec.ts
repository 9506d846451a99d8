import type { Offer } from '@core/agreements';
import {
  decideCancel,
  fatesOf,
  type TiedSupply,
  decideOrder,
  plainPricing,
  type OrderGround,
  type OrderTyped,
} from './index';

const WORK_DATE = '2027-03-01';
const item = {
  number: 'RO-4040',
  unit: 'piece',
  groupId: null,
  listPrice: '815',
  taxCodeId: 1,
  taxRate: '6',
  stocked: false,
  hasVendor: true,
  obtained: 'buy',
  outOfUse: false,
  pricing: plainPricing('piece'),
};

const sold = { unit: 'piece', factor: '1', price: null, reason: '', discount: '0', steps: [] };

function offer(agreement: Partial<Offer['agreement']>, line: Partial<Offer['line']> = {}): Offer {
  return {
    agreement: {
      id: 1,
      number: 'AG-0001',
      basis: 'quantity',
      // Ended: its lines stand, but it prices nothing new.
      state: 'ended',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      currency: 'MYR',
      priority: 5,
      limitPolicy: 'refuse',
      tolerancePercent: '0',
      ...agreement,
    },
    line: {
      id: 1,
      lineNo: 1,
      itemId: 10,
      groupId: null,
      committed: '20',
      committedValue: '14800',
      released: '15',
      releasedValue: '11100',
      leastRelease: '0',
      releaseMultiple: '0',
      priceKind: 'fixed',
      priceValue: '740',
      breaks: [],
      ...line,
    },
  };
}

const ground: OrderGround = {
  current: {
    number: 'SO-0001',
    state: 'draft',
    shipToId: 3,
    lines: [
      {
        id: 5,
        lineNo: 1,
        itemId: 10,
        quantity: '12',
        unitPrice: '740',
        listPrice: '815',
        amount: '8880',
        agreementLineId: 1,
        agreedAmount: null,
        shipDate: '2027-03-10',
        sold,
        optionIds: [],
      },
      {
        id: 6,
        lineNo: 2,
        itemId: 10,
        quantity: '3',
        unitPrice: '740',
        listPrice: '815',
        amount: '2220',
        agreementLineId: 1,
        agreedAmount: null,
        shipDate: '2027-03-10',
        sold,
        optionIds: [],
      },
    ],
  },
  customer: { id: 1, name: 'Teratai Bay Resort', currency: 'MYR', contractedOnly: false },
  shipToIds: [3],
  locationIds: [0, 1],
  items: new Map([
    [10, item],
    [11, { ...item, number: 'FC-20', stocked: true, hasVendor: false }],
  ]),
  offers: [offer({})],
  pricing: {
    search: 'first',
    orderDate: WORK_DATE,
    byShipDate: false,
    freight: new Map(),
    who: 'Salmah',
    promotions: { offers: [], rate: '1' },
  },
};

const typedLine = (id: number | null, quantity: string, change: Partial<OrderTyped['lines'][number]> = {}) => ({
  id,
  itemId: 10,
  quantity,
  shipDate: '2027-03-10',
  route: 'drop' as const,
  ...change,
});
const typed = (...lines: OrderTyped['lines']): OrderTyped => ({ shipToId: 3, customerReference: '', lines });

function codes(given: OrderTyped, on: OrderGround = ground): string[] {
  const decision = decideOrder(on, given, WORK_DATE);
  return decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
}

describe('changing a draft order', () => {
  it('S6 gives back and takes what the agreement counts', () => {
    const decision = decideOrder(ground, typed(typedLine(5, '14')), WORK_DATE);
    if (!decision.ok) throw new Error('refused');
    expect(decision.effects.removedLineIds).toEqual([6]);
    expect(decision.effects.released).toEqual([{ agreementLineId: 1, quantity: '-1', value: '-740' }]);
    expect(decision.effects.lines[0]).toMatchObject({ unitPrice: '740', amount: '10360' });
  });

  it('S1 keeps where a line goes out from, at the price it has; a drop shipment goes from none of our places', () => {
    const at = (change: Partial<OrderTyped['lines'][number]>) => typed(typedLine(5, '12', change), typedLine(6, '4'));
    const decision = decideOrder(ground, at({ route: 'special', locationId: 1 }), WORK_DATE);
    expect(decision.ok && decision.effects.lines[0]).toMatchObject({ locationId: 1, unitPrice: '740' });
    const drop = decideOrder(ground, at({ route: 'drop', locationId: 1 }), WORK_DATE);
    expect(drop.ok && drop.effects.lines[0]!.locationId).toBe(0);
    expect(codes(at({ locationId: 7 }))).toEqual(['lines.0.locationId: unknown']);
  });

  it('A5 holds the limit over all lines of the agreement line', () => {
    expect(codes(typed(typedLine(5, '14'), typedLine(6, '6')))).toEqual([]);
    expect(codes(typed(typedLine(5, '14'), typedLine(6, '7')))).toEqual(['lines.1.quantity: above-limit']);
  });

  it('A5 holds the limit on the whole by what the change takes more, not by what it has', () => {
    const whole = { limit: '12000', unit: '', released: '11100', factors: new Map([[1, '1']]) };
    const on = (change = {}): OrderGround => ({ ...ground, offers: [offer({ whole, ...change })] });
    expect(codes(typed(typedLine(5, '13'), typedLine(6, '3')), on())).toEqual([]);
    expect(codes(typed(typedLine(5, '14'), typedLine(6, '3')), on())).toEqual(['lines: above-whole']);
    expect(codes(typed(typedLine(5, '12')), on())).toEqual([]);
    const warned = decideOrder(on({ limitPolicy: 'warn' }), typed(typedLine(5, '15'), typedLine(6, '3')), WORK_DATE);
    expect(warned.ok && warned.warnings.map(({ code }) => code)).toContain('above-whole');
  });

  it('A5 splits a line raised above a limit that splits: the rest goes at the list price on a line of its own', () => {
    const on: OrderGround = { ...ground, offers: [offer({ limitPolicy: 'split' })] };
    const decision = decideOrder(on, typed(typedLine(5, '20'), typedLine(6, '4')), WORK_DATE);
    if (!decision.ok) throw new Error('refused');
    // 5 of 20 were left: all of them go to the first line that asks.
    expect(decision.effects.lines.map((line) => [line.id, line.quantity, line.unitPrice])).toEqual([
      [5, '17', '740'],
      [null, '3', '815'],
      [6, '3', '740'],
      [null, '1', '815'],
    ]);
    expect(decision.effects.released).toEqual([{ agreementLineId: 1, quantity: '5', value: '3700' }]);
    expect(decision.warnings.map((warning) => warning.code)).toEqual(['split-at-limit', 'split-at-limit']);
  });

  it('A5 says nothing where the price is kept above the limit', () => {
    const on: OrderGround = { ...ground, offers: [offer({ limitPolicy: 'keep' })] };
    const decision = decideOrder(on, typed(typedLine(5, '200'), typedLine(6, '3')), WORK_DATE);
    expect(decision.ok && decision.warnings).toEqual([]);
    expect(decision.ok && decision.effects.released).toEqual([
      { agreementLineId: 1, quantity: '188', value: '139120' },
    ]);
  });

  it('gives a new line the list price, without the agreement', () => {
    const decision = decideOrder(ground, typed(typedLine(5, '12'), typedLine(6, '3'), typedLine(null, '2')), WORK_DATE);
    expect(decision.ok && decision.effects.lines[2]).toMatchObject({ id: null, unitPrice: '815', amount: '1630' });
    expect(decision.ok && decision.effects.released).toEqual([]);
  });

  it('S1 takes only routes that fit the item', () => {
    expect(codes(typed(typedLine(5, '1', { route: 'stock' })))).toEqual(['lines.0.route: route-not-kept']);
    expect(codes(typed(typedLine(null, '1', { itemId: 11 })))).toEqual(['lines.0.route: no-vendor']);
    expect(codes(typed(typedLine(null, '1', { itemId: 11, route: 'stock' })))).toEqual([]);
  });

  it('says every fault at its field', () => {
    expect(
      codes(typed(typedLine(5, '', { shipDate: null }), typedLine(99, 'a', { itemId: null, shipDate: '2027-02-30' }))),
    ).toEqual([
      'lines.0.quantity: required',
      'lines.0.shipDate: required',
      'lines.1.itemId: required',
      'lines.1.id: unknown',
      'lines.1.quantity: not-a-number',
      'lines.1.shipDate: not-a-day',
    ]);
  });

  it('is refused once confirmed', () => {
    const confirmed = { ...ground, current: { ...ground.current!, state: 'confirmed' as const } };
    expect(codes(typed(typedLine(5, '12'), typedLine(6, '3')), confirmed)).toEqual([': order-not-draft']);
  });
});

describe('A13 A14 pricing a plain order line', () => {
  const inForce = (change: Partial<Offer['agreement']> = {}, line: Partial<Offer['line']> = {}) =>
    offer(
      { id: 2, number: 'AG-0002', state: 'in-force', ...change },
      { id: 2, released: '0', releasedValue: '0', ...line },
    );
  const fresh: OrderGround = { ...ground, current: null, offers: [inForce()] };
  const decide = (on: OrderGround, ...lines: OrderTyped['lines']) => {
    const decision = decideOrder(on, typed(...lines), WORK_DATE);
    if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
    return decision.effects;
  };

  it('takes the first that fits, another where it is chosen, and none where that is said', () => {
    const cheap = inForce({ priority: 6 }, { id: 3, priceValue: '700' });
    const on = { ...fresh, offers: [inForce(), cheap] };
    expect(decide(on, typedLine(null, '2')).lines[0]).toMatchObject({ agreementLineId: 2, unitPrice: '740' });
    expect(decide(on, typedLine(null, '2', { agreementLineId: 3 })).lines[0]).toMatchObject({ unitPrice: '700' });
    const none = decide(on, typedLine(null, '2', { agreementLineId: null }));
    expect(none.lines[0]).toMatchObject({ agreementLineId: null, unitPrice: '815' });
    expect(none.released).toEqual([]);
    expect(codes(typed(typedLine(null, '2', { agreementLineId: 9 })), on)).toEqual([
      'lines.0.agreementLineId: agreement-not-covering',
    ]);
  });

  it('A5 counts all lines of the order against the one limit', () => {
    const many = typed(typedLine(null, '12'), typedLine(null, '9'));
    expect(codes(many, fresh)).toEqual(['lines.1.quantity: above-limit']);
    const split = decide({ ...fresh, offers: [inForce({ limitPolicy: 'split' })] }, ...many.lines);
    expect(split.lines.map((line) => [line.quantity, line.unitPrice, line.agreementLineId])).toEqual([
      ['12', '740', 2],
      ['8', '740', 2],
      ['1', '815', null],
    ]);
    expect(split.released).toEqual([{ agreementLineId: 2, quantity: '20', value: '14800' }]);
  });

  it('A5 uses a value up inside one line, to the cent', () => {
    const value = inForce(
      { basis: 'value', limitPolicy: 'split' },
      { itemId: null, committed: '0', committedValue: '1000', priceKind: 'discount', priceValue: '10' },
    );
    const { lines, released } = decide({ ...fresh, offers: [value] }, typedLine(null, '1'), typedLine(null, '1'));
    expect(lines.map((line) => [line.amount, line.agreedAmount, line.agreementLineId])).toEqual([
      ['733.5', null, 2],
      // 266.50 at 733.50 is 0.36333 of one; the rest of it at 815.
      ['785.39', '266.5', 2],
    ]);
    expect(released).toEqual([{ agreementLineId: 2, quantity: '2', value: '1000' }]);
  });

  it('moves a line from one agreement to none, and gives back', () => {
    const on = { ...ground, offers: [offer({})] };
    const moved = decideOrder(on, typed(typedLine(5, '12', { agreementLineId: null }), typedLine(6, '3')), WORK_DATE);
    expect(moved.ok && moved.effects.lines[0]).toMatchObject({ unitPrice: '815', agreementLineId: null });
    expect(moved.ok && moved.effects.released).toEqual([{ agreementLineId: 1, quantity: '-12', value: '-8880' }]);
  });

  it('A14 sells a customer held to contracted items nothing else', () => {
    const held = { ...fresh, customer: { ...fresh.customer!, contractedOnly: true } };
    expect(codes(typed(typedLine(null, '2')), held)).toEqual([]);
    expect(codes(typed(typedLine(null, '2', { agreementLineId: null })), held)).toEqual([
      'lines.0.agreementLineId: only-contracted',
    ]);
    expect(codes(typed(typedLine(null, '2', { itemId: 11, route: 'stock' })), held)).toEqual([
      'lines.0.agreementLineId: only-contracted',
    ]);
  });
});

const NONE = { supplies: [] };

describe('cancelling', () => {
  const lines = [
    { id: 5, quantity: '12', cancelled: '0', amount: '8880', agreementLineId: 1, agreedAmount: null },
    { id: 6, quantity: '1', cancelled: '0', amount: '5', agreementLineId: null, agreedAmount: null },
  ];

  it('S6 gives everything back to the agreement', () => {
    const decision = decideCancel(
      {
        order: { number: 'SO-0001', state: 'confirmed' },
        lines,
        supplies: [],
        moved: false,
      },
      NONE,
    );
    expect(decision.ok && decision.effects.released).toEqual([{ agreementLineId: 1, quantity: '-12', value: '-8880' }]);
  });

  it('S6 gives back what was not closed short before', () => {
    const released = (cancelled: string, amount: string) => {
      const order = { number: 'SO-0001', state: 'confirmed' as const };
      const line = { id: 5, quantity: '12', cancelled, amount, agreementLineId: 1, agreedAmount: null };
      const decision = decideCancel({ order, lines: [line], supplies: [], moved: false }, NONE);
      return decision.ok && decision.effects.released;
    };
    expect(released('5', '5180')).toEqual([{ agreementLineId: 1, quantity: '-7', value: '-5180' }]);
    expect(released('12', '0')).toEqual([]);
  });

  const supply = (change: Partial<TiedSupply> = {}): TiedSupply => ({
    id: 7,
    number: 'PO-0001',
    state: 'placed',
    straight: true,
    tieIds: [1],
    received: '0',
    others: [],
    ...change,
  });
  const told = (
    supplies: TiedSupply[],
    typed: { purchaseId: number; fate: 'cancel' | 'loose' | 'stock' }[] = [],
    change: { state?: 'draft' | 'confirmed' | 'closed' | 'cancelled'; moved?: boolean } = {},
  ) => {
    const { state = 'confirmed', moved = false } = change;
    const decision = decideCancel({ order: { number: 'SO-0001', state }, lines, supplies, moved }, { supplies: typed });
    return decision.ok
      ? decision.effects.supplies.map(({ supply: { number }, fate }) => `${number} ${fate}`)
      : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
  };

  it.each([
    ['closed' as const, false, [': order-not-draft']],
    ['cancelled' as const, false, [': order-not-draft']],
    ['confirmed' as const, true, [': order-moved']],
    ['draft' as const, false, []],
  ])('refuses one that is %s, or of which goods moved (%p)', (state, moved, codes) => {
    expect(told([], [], { state, moved })).toEqual(codes);
  });

  it('S8 asks of each purchase made for it what becomes of it', () => {
    expect(told([supply(), supply({ id: 8, number: 'PO-0002' })], [{ purchaseId: 8, fate: 'loose' }])).toEqual([
      ': supply-unasked',
    ]);
    expect(
      told(
        [supply(), supply({ id: 8, number: 'PO-0002' })],
        [
          { purchaseId: 8, fate: 'stock' },
          { purchaseId: 7, fate: 'cancel' },
        ],
      ),
    ).toEqual(['PO-0001 cancel', 'PO-0002 stock']);
    expect(told([supply({ received: '0.00001' })], [{ purchaseId: 7, fate: 'loose' }])).toEqual([': order-moved']);
  });

  it.each([
    ['for others too', { others: ['SO-0002'] }, ['loose'], 'supply-for-others'],
    ['closed', { state: 'closed' }, ['loose'], 'supply-not-placed'],
    ['to come to our place', { straight: false }, ['cancel', 'loose'], 'comes-here-already'],
    ['for the customer alone', {}, ['cancel', 'loose', 'stock'], ''],
  ])('S8 what is %s', (_what, change, fates, code) => {
    const one = supply(change);
    expect(fatesOf(one)).toEqual(fates);
    for (const fate of ['cancel', 'loose', 'stock'] as const) {
      const may = fates.includes(fate);
      expect(told([one], [{ purchaseId: 7, fate }])).toEqual(may ? [`PO-0001 ${fate}`] : [`supplies.0.fate: ${code}`]);
    }
  });
});
