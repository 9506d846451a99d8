import fc from 'fast-check';
import { dec, lineAmount, sum } from '@core/kernel';
import {
  decidePlacement,
  SupplyDays,
  type BenchLine,
  type BenchPlanned,
  type Offer,
  type PlacementChoice,
  type PurchasePlan,
} from './index';

const offer = (vendorId: number, unitPrice: string, leadDays: number, change: Partial<Offer> = {}): Offer => ({
  vendorId,
  vendor: `Vendor ${vendorId}`,
  unitPrice,
  currency: 'MYR',
  ownPrice: unitPrice,
  leadDays,
  preferred: false,
  minimum: '0',
  multiple: '0',
  approved: true,
  ...change,
});

const line = (id: number, change: Partial<BenchLine> = {}): BenchLine => ({
  id,
  lineNo: 1,
  order: { id, number: `SO-${id}`, state: 'confirmed', currency: 'MYR' },
  shipToId: 3,
  locationId: 0,
  route: 'drop',
  uncovered: '12',
  shipDate: '2027-03-20',
  item: { id: 10, number: 'RO-4040', unit: 'piece', groupId: null, taxCodeId: 1, taxRate: '6' },
  offers: [offer(1, '620', 8), offer(2, '640', 2)],
  ...change,
});

/** Every day is worked, and nothing is to be received. */
const DAYS = new SupplyDays({
  workDate: '2027-03-01',
  calendars: [{ id: 1, week: '1111111', holidays: [] }],
  ownCalendarId: 1,
  ownDays: 0,
  vendorCalendars: new Map(),
});

const decideLines = (lines: BenchLine[], choices: PlacementChoice[]) =>
  decidePlacement({ lines, planned: [], days: DAYS, buying: [] }, { lines: choices, planned: [] });

describe('L8 placing', () => {
  const place = (lines: BenchLine[], choices: [number, number][]) =>
    decideLines(
      lines,
      choices.map(([orderLineId, vendorId]) => ({ orderLineId, vendorId })),
    );

  it('P8 is in the vendor’s currency, whatever the customer’s is, with a word where no rate of it is kept', () => {
    const order = { id: 1, number: 'SO-1', state: 'confirmed' as const, currency: 'SGD' };
    const usd = offer(1, '10.5', 8, { currency: 'USD', ownPrice: '47.04' });
    const known = place([line(1, { order, offers: [usd] })], [[1, 1]]);
    expect(known).toMatchObject({
      ok: true,
      effects: { purchases: [{ currency: 'USD', lines: [{ unitPrice: '10.5', amount: '126' }] }] },
    });
    expect(known.ok && known.warnings).toEqual([]);
    const unknown = place([line(1, { order, offers: [{ ...usd, ownPrice: null }] })], [[1, 1]]);
    expect(unknown.ok && unknown.warnings).toEqual([
      { code: 'no-rate-yet', field: 'lines.0.vendorId', facts: { vendor: 'Vendor 1', currency: 'USD' } },
    ]);
  });

  it('groups lines of one vendor and ship-to into one order', () => {
    const decision = place(
      [line(1), line(2), line(3, { shipToId: 4 }), line(4)],
      [
        [1, 1],
        [2, 1],
        [3, 1],
        [4, 2],
      ],
    );
    if (!decision.ok) throw new Error('refused');
    expect(
      decision.effects.purchases.map((plan) => [
        plan.vendorId,
        plan.shipToId,
        plan.lines.flatMap((each) => each.ties.map((tie) => tie.orderLineId)),
      ]),
    ).toEqual([
      [1, 3, [1, 2]],
      [1, 4, [3]],
      [2, 3, [4]],
    ]);
  });

  it.each<[string, BenchLine, [number, number][], string]>([
    ['covered already', line(1, { uncovered: '0' }), [[1, 1]], 'line-covered'],
    [
      'named twice',
      line(1),
      [
        [1, 1],
        [1, 1],
      ],
      'line-covered',
    ],
    [
      'of a draft order',
      line(1, { order: { id: 1, number: 'SO-1', state: 'draft', currency: 'MYR' } }),
      [[1, 1]],
      'order-not-confirmed',
    ],
    ['from stock', line(1, { route: 'stock' }), [[1, 1]], 'line-not-bought'],
    ['nobody sells', line(1, { offers: [] }), [[1, 1]], 'no-vendor'],
    ['with a vendor who does not sell it', line(1), [[1, 9]], 'vendor-not-selling'],
    [
      'with a vendor who is not approved',
      line(1, { offers: [offer(1, '620', 8, { approved: false })] }),
      [[1, 1]],
      'vendor-not-approved',
    ],
    ['that is not there', line(1), [[8, 1]], 'unknown'],
    ['without any choice', line(1), [], 'nothing-asked'],
  ])('refuses a line %s', (_what, given, choices, code) => {
    const decision = place([given], choices);
    expect(!decision.ok && decision.refusals.map((refusal) => refusal.code)).toEqual([code]);
  });
});

describe('L3 L8 placing special orders', () => {
  const special = (id: number, uncovered: string, change: Partial<BenchLine> = {}) =>
    line(id, {
      route: 'special',
      uncovered,
      offers: [offer(1, '620', 8, { minimum: '10', multiple: '4' })],
      ...change,
    });
  const place = (lines: BenchLine[], choices: PlacementChoice[]) => {
    const decision = decideLines(lines, choices);
    if (!decision.ok) throw new Error(decision.refusals.map((each) => each.code).join());
    return decision;
  };
  const shapeOf = (plan: PurchasePlan) =>
    plan.lines.map((each) => [each.quantity, each.spare, each.ties.map((tie) => [tie.orderLineId, tie.quantity])]);

  it('come to our place, whatever the customers’ addresses', () => {
    const { effects } = place(
      [special(1, '6'), special(2, '6', { shipToId: 4 })],
      [
        { orderLineId: 1, vendorId: 1 },
        { orderLineId: 2, vendorId: 1 },
      ],
    );
    expect(effects.purchases.map((plan) => plan.shipToId)).toEqual([null]);
  });

  it('S1 come to where each goes out from, on a purchase for each place', () => {
    const { effects } = place(
      [special(1, '6'), special(2, '6', { locationId: 1 }), special(3, '8', { locationId: 1 })],
      [1, 2, 3].map((orderLineId) => ({ orderLineId, vendorId: 1 })),
    );
    expect(effects.purchases.map((plan) => [plan.locationId, shapeOf(plan).map((each) => each[0])])).toEqual([
      [0, ['12']],
      [1, ['16']],
    ]);
  });

  it('of one item due together share a line, rounded up once; the rest is for our stock', () => {
    const { effects, warnings } = place(
      [special(1, '6'), special(2, '3')],
      [
        { orderLineId: 1, vendorId: 1 },
        { orderLineId: 2, vendorId: 1 },
      ],
    );
    expect(effects.purchases.map(shapeOf)).toEqual([
      [
        [
          '12',
          '3',
          [
            [1, '6'],
            [2, '3'],
          ],
        ],
      ],
    ]);
    expect(warnings).toEqual([]);
  });

  it('due on other days, or asked for another agreement, have a line of their own', () => {
    const lines = [special(1, '6'), special(2, '3', { shipDate: '2027-04-01' }), special(3, '4')];
    const { effects } = place(lines, [
      { orderLineId: 1, vendorId: 1 },
      { orderLineId: 2, vendorId: 1 },
      { orderLineId: 3, vendorId: 1, agreementLineId: null },
    ]);
    expect(effects.purchases[0]!.lines.map((each) => each.dueDate)).toEqual(['2027-03-20', '2027-04-01', '2027-03-20']);
  });

  it('may be placed in part; a drop shipment may not', () => {
    const { effects } = place([special(1, '20')], [{ orderLineId: 1, vendorId: 1, quantity: '12' }]);
    expect(effects.purchases.map(shapeOf)).toEqual([[['12', '0', [[1, '12']]]]]);
    const refused = (given: BenchLine, quantity: string) => {
      const decision = decideLines([given], [{ orderLineId: 1, vendorId: 1, quantity }]);
      return decision.ok ? [] : decision.refusals.map((each) => [each.field, each.code]);
    };
    expect(refused(line(1), '8')).toEqual([['lines.0.quantity', 'drop-in-one']]);
    expect(refused(line(1), '12')).toEqual([]);
    expect(refused(special(1, '20'), '21')).toEqual([['lines.0.reason', 'required']]);
    expect(refused(special(1, '20'), '0')).toEqual([['lines.0.quantity', 'not-above-zero']]);
    expect(refused(special(1, '20'), 'x')).toEqual([['lines.0.quantity', 'not-a-number']]);
  });

  it('a drop shipment is bought as it is, with a word where the vendor sells otherwise', () => {
    const small = line(1, { offers: [offer(1, '620', 8, { minimum: '20' })] });
    const { effects, warnings } = place([small], [{ orderLineId: 1, vendorId: 1 }]);
    expect(effects.purchases.map(shapeOf)).toEqual([[['12', '0', [[1, '12']]]]]);
    expect(warnings.map((each) => [each.field, each.code])).toEqual([['lines.0.vendorId', 'not-as-vendor-sells']]);
  });

  it('tie every need whole, buy no less than the vendor sells, and price what they buy', () => {
    const need = fc.record({
      quantity: fc.integer({ min: 1, max: 400 }),
      day: fc.constantFrom('2027-03-20', '2027-04-01'),
    });
    fc.assert(
      fc.property(
        fc.array(need, { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 0, max: 30 }),
        fc.integer({ min: 0, max: 9 }),
        (needs, minimum, multiple) => {
          const offers = [offer(1, '6.2', 8, { minimum: String(minimum), multiple: String(multiple) })];
          const lines = needs.map(({ quantity, day }, index) =>
            special(index + 1, String(quantity), { shipDate: day, offers }),
          );
          const { effects } = place(
            lines,
            lines.map((each) => ({ orderLineId: each.id, vendorId: 1 })),
          );
          const bought = effects.purchases.flatMap((plan) => plan.lines);
          for (const each of lines) {
            const tied = bought.flatMap((one) => one.ties).filter((tie) => tie.orderLineId === each.id);
            expect(sum(tied.map((tie) => dec(tie.quantity))).toFixed()).toBe(each.uncovered);
          }
          for (const one of bought) {
            const quantity = dec(one.quantity);
            expect(quantity.gte(minimum)).toBe(true);
            if (multiple > 0) expect(quantity.mod(multiple).toFixed()).toBe('0');
            const tied = sum(one.ties.map((tie) => dec(tie.quantity)));
            expect(tied.plus(one.spare).toFixed()).toBe(one.quantity);
            // Not a step more than it takes.
            const beyond = quantity.minus(tied.gt(minimum) ? tied : minimum);
            expect(multiple > 0 ? beyond.lt(multiple) : beyond.eq(0)).toBe(true);
            expect(one.amount).toBe(lineAmount(quantity, dec('6.2'), 'MYR').toFixed());
          }
        },
      ),
      { seed: 4 },
    );
  });
});

describe('T12 placing what is planned', () => {
  const planned = (id: number, change: Partial<BenchPlanned> = {}): BenchPlanned => ({
    id,
    number: `PL-${id}`,
    state: 'planned',
    kind: 'buy',
    quantity: '40',
    locationId: 0,
    dueDate: '2027-03-20',
    item: line(1).item,
    offers: line(1).offers,
    brings: [],
    held: '40',
    ...change,
  });
  const decide = (
    orders: BenchPlanned[],
    choices: [number, number][],
    lines: BenchLine[] = [],
    chosen: PlacementChoice[] = [],
  ) =>
    decidePlacement(
      { lines, planned: orders, days: DAYS, buying: [] },
      { lines: chosen, planned: choices.map(([plannedId, vendorId]) => ({ plannedId, vendorId })) },
    );
  const placed = (...asked: Parameters<typeof decide>) => {
    const decision = decide(...asked);
    if (!decision.ok) throw new Error(decision.refusals.map((each) => each.code).join());
    return decision.effects;
  };

  it('shares a purchase line with a special order of the item that is due on the day, and ties only the order', () => {
    const { purchases } = placed(
      [planned(7)],
      [[7, 1]],
      [line(1, { route: 'special' })],
      [{ orderLineId: 1, vendorId: 1 }],
    );
    expect(purchases).toMatchObject([
      {
        vendorId: 1,
        shipToId: null,
        lines: [
          { quantity: '52', amount: '32240', ties: [{ orderLineId: 1, quantity: '12' }], planned: [7], spare: '0' },
        ],
      },
    ]);
  });

  it.each<[string, Partial<BenchPlanned>]>([
    ['another day', { dueDate: '2027-03-21' }],
    ['another item', { item: { ...line(1).item, id: 11 } }],
  ])('keeps apart what is for %s, in one order', (_what, change) => {
    const { purchases } = placed(
      [planned(7), planned(8, change)],
      [
        [7, 1],
        [8, 1],
      ],
    );
    expect(purchases.map((each) => each.lines.map((of) => of.planned))).toEqual([[[7], [8]]]);
  });

  it('goes to the place it was planned for, each an order of its own', () => {
    const { purchases } = placed(
      [planned(7), planned(8, { locationId: 2 })],
      [
        [7, 1],
        [8, 1],
      ],
    );
    expect(purchases.map((each) => [each.locationId, each.lines[0]!.planned])).toEqual([
      [0, [7]],
      [2, [8]],
    ]);
  });

  it('is due when it is needed, or when the vendor can', () => {
    const due = (dueDate: string, vendorId: number) =>
      placed([planned(7, { dueDate })], [[7, vendorId]]).purchases[0]!.lines[0]!.dueDate;
    expect([due('2027-03-20', 1), due('2027-03-04', 1), due('2027-03-04', 2)]).toEqual([
      '2027-03-20',
      '2027-03-09',
      '2027-03-04',
    ]);
  });

  it('is bought whole, and rounded up to what another vendor sells', () => {
    const offers = [offer(1, '620', 8, { minimum: '30', multiple: '25' })];
    const { purchases } = placed([planned(7, { offers, held: '10' })], [[7, 1]]);
    expect(purchases[0]!.lines).toMatchObject([{ quantity: '50', ties: [], planned: [7], spare: '10' }]);
  });

  it('leaves what it was for waiting for goods: of each component what this one brought, and no more', () => {
    const brings = [
      { componentId: 31, covered: '25' },
      { componentId: 32, covered: '25' },
      { componentId: 33, covered: '9' },
    ];
    expect(placed([planned(7, { brings })], [[7, 1]]).uncovered).toEqual([
      { componentId: 31, by: '25' },
      { componentId: 32, by: '15' },
    ]);
    expect(placed([planned(7, { brings, held: '10' })], [[7, 1]]).uncovered).toEqual([{ componentId: 31, by: '10' }]);
  });

  it.each<[string, Partial<BenchPlanned>, number, string]>([
    ['was placed', { state: 'placed' }, 1, 'planned.0: planned-not-placeable'],
    ['was cancelled', { state: 'cancelled' }, 1, 'planned.0: planned-not-placeable'],
    ['is made', { kind: 'make' }, 1, 'planned.0: planned-not-placeable'],
    ['nobody sells', { offers: [] }, 1, 'planned.0: no-vendor'],
    ['they do not sell', {}, 9, 'planned.0.vendorId: vendor-not-selling'],
    [
      'they may not sell',
      { offers: [offer(1, '1', 1, { approved: false })] },
      1,
      'planned.0.vendorId: vendor-not-approved',
    ],
  ])('refuses what %s', (_what, change, vendorId, refused) => {
    const decision = decide([planned(7, change)], [[7, vendorId]]);
    expect(decision.ok ? [] : decision.refusals.map((each) => `${each.field}: ${each.code}`)).toEqual([refused]);
  });

  it('refuses one that is not there, and nothing at all', () => {
    const refusedOf = (decision: ReturnType<typeof decide>) =>
      decision.ok ? [] : decision.refusals.map((each) => `${each.field}: ${each.code}`);
    expect(refusedOf(decide([], [[7, 1]]))).toEqual(['planned.0.plannedId: unknown']);
    expect(refusedOf(decide([planned(7)], []))).toEqual(['lines: nothing-asked']);
  });
});

describe('L8 placing with another price or quantity', () => {
  const told = (row: BenchLine, choice: Partial<PlacementChoice>) => {
    const decision = decideLines([row], [{ orderLineId: row.id, vendorId: 1, ...choice }]);
    if (!decision.ok) return decision.refusals.map(({ field, code }) => `${field}: ${code}`);
    return decision.effects.purchases.flatMap(({ lines }) =>
      lines.map(({ quantity, unitPrice, amount, spare, reason, agreementLineId }) => ({
        quantity,
        unitPrice,
        amount,
        spare,
        reason,
        agreementLineId,
      })),
    );
  };
  const special = line(1, { route: 'special', offers: [offer(1, '620', 8, { minimum: '5', multiple: '5' })] });

  it('takes a typed price with its reason, which is kept', () => {
    expect(told(line(1), { price: '600.5', reason: ' by phone ' })).toEqual([
      { quantity: '12', unitPrice: '600.5', amount: '7206', spare: '0', reason: 'by phone', agreementLineId: null },
    ]);
    expect(told(line(1), { price: '  ' })).toMatchObject([{ unitPrice: '620', reason: '' }]);
    expect(told(line(1), { price: '0', reason: 'a gift' })).toMatchObject([{ unitPrice: '0', amount: '0' }]);
  });

  it.each([
    [{ price: 'x', reason: 'y' }, 'lines.0.price: not-a-number'],
    [{ price: '-1', reason: 'y' }, 'lines.0.price: not-a-number'],
    [{ price: '600', reason: '  ' }, 'lines.0.reason: required'],
    [{ price: '600' }, 'lines.0.reason: required'],
  ])('refuses %p', (choice, refusal) => expect(told(line(1), choice)).toEqual([refusal]));

  it('buys more than is needed for our place, with why; the rest of it is spare', () => {
    expect(told(special, { quantity: '18', reason: 'a full crate' })).toMatchObject([
      { quantity: '20', spare: '8', reason: 'a full crate' },
    ]);
    expect(told(special, { quantity: '7' })).toMatchObject([{ quantity: '10', spare: '3' }]);
    expect(told(special, { quantity: '12' })).toMatchObject([{ quantity: '15', spare: '3' }]);
    expect(told(special, { quantity: '13' })).toEqual(['lines.0.reason: required']);
    expect(told(line(1), { quantity: '13', reason: 'a full crate' })).toEqual(['lines.0.quantity: above-open']);
  });

  it('shares a line with others of its day at the same price alone', () => {
    const rows = [1, 2, 3].map((id) => ({ ...special, id, order: { ...special.order, id } }));
    const decision = decideLines(rows, [
      { orderLineId: 1, vendorId: 1, price: '600', reason: 'by phone' },
      { orderLineId: 2, vendorId: 1, price: '600.0', reason: 'by letter', quantity: '14' },
      { orderLineId: 3, vendorId: 1 },
    ]);
    if (!decision.ok) throw new Error('refused');
    const [plan] = decision.effects.purchases;
    expect(plan!.lines.map(({ unitPrice, quantity, spare, reason }) => [unitPrice, quantity, spare, reason])).toEqual([
      ['600', '30', '6', 'by phone'],
      ['620', '15', '3', ''],
    ]);
    expect(plan!.lines[0]!.ties.map(({ quantity }) => quantity)).toEqual(['12', '12']);
  });

  it('T12 prices a planned purchase so too', () => {
    const planned: BenchPlanned = {
      id: 5,
      number: 'PL-5',
      state: 'planned',
      kind: 'buy',
      quantity: '10',
      locationId: 0,
      dueDate: '2027-03-20',
      item: special.item,
      offers: special.offers,
      brings: [],
      held: '0',
    };
    const placed = (choice: object) =>
      decidePlacement(
        { lines: [], planned: [planned], days: DAYS, buying: [] },
        { lines: [], planned: [{ plannedId: 5, vendorId: 1, ...choice }] },
      );
    expect(placed({ price: '610', reason: 'as offered' })).toMatchObject({
      ok: true,
      effects: { purchases: [{ lines: [{ unitPrice: '610', quantity: '10', reason: 'as offered' }] }] },
    });
    expect(placed({ price: '610' })).toMatchObject({
      ok: false,
      refusals: [{ field: 'planned.0.reason', code: 'required' }],
    });
  });
});
