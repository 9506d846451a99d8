import fc from 'fast-check';
import { dec, pointOf, sum } from '@core/kernel';
import { decideSupply, reserveAtOnce, type SuppliedLine, type SupplyTyped } from './index';

/** `free` at the main location, and four at the other. */
const ground = (
  line: Partial<SuppliedLine['line']> = {},
  { free = '8', ...item }: Partial<Omit<SuppliedLine['item'], 'free'>> & { free?: string } = {},
): SuppliedLine => ({
  order: { id: 1, number: 'SO-1', state: 'confirmed' },
  line: {
    id: 31,
    lineNo: 1,
    route: 'stock',
    open: '10',
    tied: '0',
    shipped: '0',
    reserved: '0',
    locationId: 0,
    making: '0',
    work: '',
    chosen: '',
    ...line,
  },
  item: {
    id: 11,
    number: 'FC-20',
    stocked: true,
    hasVendor: true,
    obtained: 'buy',
    reserving: 'asked',
    free: new Map([
      [0, free],
      [1, '4'],
    ]),
    ...item,
  },
});
const typed = (change: Partial<SupplyTyped> = {}): SupplyTyped => ({
  route: 'stock',
  reserve: '',
  lift: false,
  ...change,
});
const codes = (given: SuppliedLine, asked: SupplyTyped) => {
  const decision = decideSupply(given, asked);
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};

describe('S3 what is held for a line', () => {
  it.each<[string, SuppliedLine, SupplyTyped, string]>([
    ['some', ground(), typed({ reserve: '5' }), '5'],
    ['more', ground({ reserved: '5' }, { free: '3' }), typed({ reserve: '8' }), '3'],
    ['less', ground({ reserved: '5' }), typed({ reserve: '2' }), '-3'],
    ['nothing any more', ground({ reserved: '5' }), typed({ reserve: '0' }), '-5'],
    ['the same where nothing is typed', ground({ reserved: '5' }), typed(), '0'],
    [
      'what came of its own order',
      ground({ route: 'assemble', chosen: 'PM-30', reserved: '2' }, { obtained: 'assemble' }),
      typed({ route: 'assemble', reserve: '1' }),
      '-1',
    ],
    ['stock for a special order', ground({ route: 'special' }), typed({ route: 'special', reserve: '4' }), '4'],
  ])('is %s', (_what, given, asked, by) => {
    const decision = decideSupply(given, asked);
    expect(decision.ok && decision.effects.by).toEqual([{ locationId: 0, quantity: by }]);
  });

  it.each<[string, SuppliedLine, SupplyTyped, string]>([
    ['more than is free', ground(), typed({ reserve: '9' }), 'reserve: above-free'],
    ['more than is open', ground({ open: '3' }), typed({ reserve: '4' }), 'reserve: above-free'],
    [
      'of what is made another way',
      ground({ route: 'assemble', chosen: 'PM-30' }, { obtained: 'assemble' }),
      typed({ route: 'assemble', reserve: '1' }),
      'reserve: options-not-made',
    ],
    [
      'from stock, of what is made another way',
      ground({ route: 'assemble', chosen: 'PM-30' }, { obtained: 'assemble' }),
      typed(),
      'route: options-not-made',
    ],
    ['words', ground(), typed({ reserve: 'all' }), 'reserve: not-a-number'],
    ['less than nothing', ground(), typed({ reserve: '-1' }), 'reserve: not-a-number'],
    [
      'of an item that never is',
      ground({}, { reserving: 'never' }),
      typed({ reserve: '1' }),
      'reserve: never-reserved',
    ],
    ['for a drop shipment', ground(), typed({ route: 'drop', reserve: '1' }), 'reserve: route-holds-nothing'],
  ])('is refused %s', (_what, given, asked, code) => {
    expect(codes(given, asked)).toEqual([code]);
  });
});

describe('S3 another route', () => {
  it('lifts what is held after a yes, and puts the line on the bench', () => {
    const reserved = ground({ reserved: '5' });
    expect(codes(reserved, typed({ route: 'drop' }))).toEqual(['lift: line-reserved']);
    const decision = decideSupply(reserved, typed({ route: 'drop', lift: true }));
    expect(decision.ok && decision.effects).toMatchObject({
      route: 'drop',
      by: [{ locationId: 0, quantity: '-5' }],
      reserved: '0',
      onBench: true,
    });
  });

  it('back to stock takes it off the bench', () => {
    const decision = decideSupply(ground({ route: 'drop' }), typed({ reserve: '8' }));
    expect(decision.ok && decision.effects).toMatchObject({
      route: 'stock',
      by: [{ locationId: 0, quantity: '8' }],
      onBench: false,
    });
  });

  it.each<[string, SuppliedLine, SupplyTyped, string]>([
    ['while it is tied', ground({ route: 'drop', tied: '10' }), typed(), 'route: line-tied'],
    ['once part of it went out', ground({ shipped: '2' }), typed({ route: 'drop' }), 'route: line-part-shipped'],
    ['to stock we do not keep', ground({ route: 'drop' }, { stocked: false }), typed(), 'route: route-not-kept'],
    ['to a vendor nobody is', ground({}, { hasVendor: false }), typed({ route: 'special' }), 'route: no-vendor'],
    [
      'of a draft',
      { ...ground(), order: { id: 1, number: 'SO-1', state: 'draft' } },
      typed({ route: 'drop' }),
      ': order-not-confirmed',
    ],
  ])('is refused %s', (_what, given, asked, code) => {
    expect(codes(given, asked)).toEqual([code]);
  });
});

describe('S1 another location', () => {
  it('lets go of what is held where it was, after a yes, and holds what is free where it goes out from now', () => {
    const reserved = ground({ reserved: '5' });
    expect(codes(reserved, typed({ locationId: 1 }))).toEqual(['lift: line-reserved']);
    const decision = decideSupply(reserved, typed({ locationId: 1, lift: true, reserve: '4' }));
    expect(decision.ok && decision.effects).toMatchObject({
      locationId: 1,
      by: [
        { locationId: 0, quantity: '-5' },
        { locationId: 1, quantity: '4' },
      ],
      reserved: '4',
    });
  });

  it.each<[string, SuppliedLine, SupplyTyped, string]>([
    ['for more than is free there', ground(), typed({ locationId: 1, reserve: '5' }), 'reserve: above-free'],
    ['that is none', ground(), typed({ locationId: 7 }), 'locationId: unknown'],
    [
      'while it is tied',
      ground({ route: 'special', tied: '4' }),
      typed({ route: 'special', locationId: 1 }),
      'route: line-tied',
    ],
    ['once part of it went out', ground({ shipped: '2' }), typed({ locationId: 1 }), 'route: line-part-shipped'],
  ])('is refused %s', (_what, given, asked, code) => {
    expect(codes(given, asked)).toEqual([code]);
  });

  it('is none for a drop shipment', () => {
    const decision = decideSupply(ground({ locationId: 1 }), typed({ route: 'drop', locationId: 1 }));
    expect(decision.ok && decision.effects.locationId).toBe(0);
  });
});

describe('S3 what is held at once', () => {
  it('holds at each location what is free there', () => {
    const at = (id: number, locationId: number) => ({
      id,
      itemId: 1,
      locationId,
      open: '5',
      route: 'stock' as const,
      reserving: 'always' as const,
    });
    const free = new Map([
      [pointOf(1, 0), '3'],
      [pointOf(1, 2), '9'],
    ]);
    expect(reserveAtOnce([at(1, 0), at(2, 2), at(3, 2)], free).map((each) => [each.locationId, each.quantity])).toEqual(
      [
        [0, '3'],
        [2, '5'],
        [2, '4'],
      ],
    );
  });

  it('goes to the lines in their order, as far as stock is free, and never beyond', () => {
    const line = fc.record({
      itemId: fc.constantFrom(1, 2),
      open: fc.integer({ min: 0, max: 9 }),
      route: fc.constantFrom('stock' as const, 'drop' as const),
      reserving: fc.constantFrom('never' as const, 'asked' as const, 'always' as const),
    });
    fc.assert(
      fc.property(fc.array(line, { maxLength: 8 }), fc.integer({ min: 0, max: 15 }), (lines, free) => {
        const given = lines.map((each, index) => ({ ...each, id: index + 1, open: String(each.open), locationId: 0 }));
        const held = reserveAtOnce(given, new Map([[1, String(free)]]));
        expect(sum(held.map((each) => dec(each.quantity))).lte(free)).toBe(true);
        const asks = given.filter((each) => each.itemId === 1 && each.route === 'stock' && each.reserving === 'always');
        const wanted = sum(asks.map((each) => dec(each.open)));
        const got = sum(held.map((each) => dec(each.quantity)));
        expect(got.toFixed()).toBe((wanted.lt(free) ? wanted : dec(free)).toFixed());
        // Nobody gets something before the one ahead has all of theirs.
        const short = asks.findIndex(
          (each) => held.find(({ lineId }) => lineId === each.id)?.quantity !== each.open && each.open !== '0',
        );
        const after = short < 0 ? [] : asks.slice(short + 1);
        expect(after.some((each) => held.some(({ lineId }) => lineId === each.id))).toBe(false);
      }),
      { seed: 2 },
    );
  });
});
