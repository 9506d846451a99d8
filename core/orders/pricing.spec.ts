import { dec, sum } from '@core/kernel';
import type { PriceRule } from '@core/pricing';
import type { Offer } from '@core/agreements';
import { decideSave, plainPricing, repriceAt, type ConfirmableItem, type OrderTyped, type SaveGround } from './index';

const WORK_DATE = '2027-03-01';

const rule = (given: Partial<PriceRule>): PriceRule => ({
  id: 1,
  level: 'list',
  source: 'the list',
  currency: 'MYR',
  unit: 'piece',
  factor: '1',
  firstDay: null,
  lastDay: null,
  from: '0',
  price: '6',
  ...given,
});

const cartridge = {
  number: 'FC-10',
  unit: 'piece',
  groupId: null,
  listPrice: '6.1',
  taxCodeId: 1,
  taxRate: '6',
  stocked: true,
  hasVendor: true,
  obtained: 'buy',
  outOfUse: false,
  permit: null,
  pricing: {
    ...plainPricing('piece'),
    units: new Map([
      ['piece', '1'],
      ['box', '25'],
    ]),
    rules: [rule({ level: 'customer', source: 'Teratai', unit: 'box', factor: '25', from: '4', price: '130' })],
    packSize: '25',
    splitCharge: '10',
    weight: '0.2',
  },
};

const agreed: Offer = {
  agreement: {
    id: 1,
    number: 'AG-0001',
    basis: 'quantity',
    state: 'in-force',
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    currency: 'MYR',
    priority: 5,
    limitPolicy: 'refuse',
    tolerancePercent: '0',
  },
  line: {
    id: 1,
    lineNo: 1,
    itemId: 10,
    groupId: null,
    committed: '1000',
    committedValue: '5000',
    released: '0',
    releasedValue: '0',
    leastRelease: '0',
    releaseMultiple: '0',
    priceKind: 'discount',
    priceValue: '10',
    breaks: [],
  },
};

const ground = (change: Partial<SaveGround> = {}): SaveGround => ({
  current: null,
  customer: { id: 1, name: 'Teratai Bay Resort', currency: 'MYR', contractedOnly: false },
  shipToIds: [3, 4],
  locationIds: [0],
  items: new Map([[10, cartridge]]),
  offers: [],
  pricing: {
    search: 'first',
    orderDate: WORK_DATE,
    byShipDate: false,
    freight: new Map(),
    who: 'Salmah',
    promotions: { offers: [], rate: '1' },
  },
  parts: [],
  standing: null,
  ...change,
});

type Line = OrderTyped['lines'][number];
const line = (quantity: string, change: Partial<Line> = {}): Line => ({
  id: null,
  itemId: 10,
  quantity,
  shipDate: '2027-03-10',
  route: 'stock',
  ...change,
});

function saved(lines: Line[], on = ground(), shipToId = 3) {
  const decision = decideSave(on, { shipToId, customerReference: '', lines }, WORK_DATE);
  if (!decision.ok) throw new Error(decision.refusals.map((each) => `${each.field}: ${each.code}`).join());
  for (const each of decision.effects.lines) {
    expect(sum(each.sold.steps.map((step) => dec(step.amount))).toFixed()).toBe(each.amount);
  }
  return decision;
}
const figures = (lines: Line[], on?: SaveGround, shipToId?: number) =>
  saved(lines, on, shipToId).effects.lines.map((each) => [each.quantity, each.unitPrice, each.amount]);
const refusals = (lines: Line[], on = ground()) => {
  const decision = decideSave(on, { shipToId: 3, customerReference: '', lines }, WORK_DATE);
  return decision.ok ? [] : decision.refusals.map((each) => `${each.field}: ${each.code}`);
};

describe('S1 R1 the price of an order line', () => {
  it('is asked for in any of the item’s units', () => {
    // 4 boxes at the customer’s price for a box.
    expect(figures([line('4', { unit: 'box' })])).toEqual([['100', '5.2', '520']]);
    expect(figures([line('0.2', { unit: 'box' })])[0]!.slice(0, 1)).toEqual(['5']);
  });

  it('charges what breaks a pack', () => {
    // 30 × 6.10 = 183, and a tenth of it on 5 of the 30.
    const { effects } = saved([line('30')]);
    expect(effects.lines[0]!.sold.steps.map((step) => [step.kind, step.amount])).toEqual([
      ['list', '183'],
      ['split-pack', '3.05'],
    ]);
    expect(effects.lines[0]).toMatchObject({ amount: '186.05', listPrice: '6.1', unitPrice: '6.2017' });
  });

  it('refuses a unit it is not sold in, and a quantity too fine for its own', () => {
    expect(refusals([line('1', { unit: 'pallet' })])).toEqual(['lines.0.unit: unit-unknown']);
    const odd = {
      ...cartridge,
      pricing: {
        ...cartridge.pricing,
        units: new Map([
          ['piece', '1'],
          ['third', '0.33333'],
        ]),
      },
    };
    expect(refusals([line('0.1', { unit: 'third' })], ground({ items: new Map([[10, odd]]) }))).toEqual([
      'lines.0.quantity: not-a-number',
    ]);
  });

  it('takes a typed price for the unit, and a discount', () => {
    const typed = saved([line('2', { unit: 'box', price: '140' })]).effects.lines[0]!;
    expect([typed.amount, typed.unitPrice]).toEqual(['280', '5.6']);
    expect(typed.sold.steps.at(-1)).toEqual({ kind: 'typed', source: 'Salmah', amount: '-25' });
    expect(figures([line('50', { discount: '10' })])).toEqual([['50', '5.49', '274.5']]);
    expect(refusals([line('1', { price: 'x' }), line('1', { price: '-1' }), line('1', { discount: '100' })])).toEqual([
      'lines.0.price: not-a-number',
      'lines.1.price: not-a-number',
      'lines.2.price: not-a-discount',
    ]);
  });

  it('puts freight in for the ship-to’s zone', () => {
    const freight = new Map([[4, [{ zone: 'north', from: '0', perKilogram: '0.5' }]]]);
    const on = ground({ pricing: { ...ground().pricing, freight } });
    expect(figures([line('50')], on, 3)[0]![2]).toBe('305');
    expect(figures([line('50')], on, 4)[0]![2]).toBe('310');
  });

  it('A3 an agreement’s discount is off the price that would be asked without it', () => {
    const on = ground({ offers: [agreed] });
    // 4 boxes at 130 are 5.20 each; a tenth off.
    expect(figures([line('4', { unit: 'box' })], on)).toEqual([['100', '4.68', '468']]);
    expect(refusals([line('4', { price: '1' })], on)).toEqual(['lines.0.price: price-is-agreed']);
    expect(refusals([line('4', { price: '1', agreementLineId: null })], on)).toEqual([]);
  });

  it('R3 is of the ship date where the customer’s terms say so', () => {
    const rising = {
      ...cartridge,
      pricing: { ...cartridge.pricing, rules: [rule({ firstDay: '2027-03-05', price: '7' })] },
    };
    const of = (byShipDate: boolean) =>
      ground({ items: new Map([[10, rising]]), pricing: { ...ground().pricing, byShipDate } });
    expect(figures([line('25')], of(false))[0]![1]).toBe('6.1');
    expect(figures([line('25')], of(true))[0]![1]).toBe('7');
    expect(figures([line('25', { shipDate: '2027-03-04' })], of(true))[0]![1]).toBe('6.1');
  });

  it('R1 is made of a cost in the list’s place, by the day’s market value', () => {
    const carbon = {
      ...cartridge,
      pricing: {
        ...plainPricing('piece'),
        cost: {
          terms: { basis: 'series' as const, surcharge: '1', margin: '50', factor: '1', offset: '0' },
          series: 'Carbon',
          rate: '1',
          known: (day: string) => (day < '2027-01-01' ? null : '9'),
        },
      },
    };
    const on = (orderDate: string) =>
      ground({ items: new Map([[10, carbon]]), pricing: { ...ground().pricing, orderDate } });
    const [made] = saved([line('10')], on(WORK_DATE)).effects.lines;
    expect(made).toMatchObject({
      unitPrice: '15',
      sold: { steps: [{ kind: 'cost', source: 'Carbon and 50 %', amount: '150' }] },
    });
    expect(figures([line('10')], on('2026-12-31'))[0]![1]).toBe('6.1');
    // In a customer's currency, at what that is worth; without a rate it is not made of the cost.
    const at = (rate: string | null) => {
      const abroad = { ...carbon, pricing: { ...carbon.pricing, cost: { ...carbon.pricing.cost, rate } } };
      return saved([line('10')], ground({ items: new Map([[10, abroad]]) })).effects.lines[0]!.sold.steps[0];
    };
    expect(at('3.41')).toMatchObject({ kind: 'cost', amount: '43.99' });
    expect(at(null)).toMatchObject({ kind: 'list' });
  });

  it('stays while nothing that makes it changes, and is found again when it does', () => {
    const before = saved([line('30')]).effects.lines[0]!;
    const now = { ...before, id: 5, lineNo: 1 };
    const dearer = { ...cartridge, listPrice: '8' };
    const on = ground({
      current: { number: 'SO-1', state: 'draft', shipToId: 3, lines: [now] },
      items: new Map([[10, dearer]]),
    });
    expect(figures([line('30', { id: 5 })], on)).toEqual([['30', '6.2017', '186.05']]);
    expect(figures([line('50', { id: 5 })], on)).toEqual([['50', '8', '400']]);
    expect(figures([line('30', { id: 5, price: '5' })], on)).toEqual([['30', '5', '150']]);
  });
});

describe('S2 while an order is typed', () => {
  it('says what would stand against confirming it, at the typed line', () => {
    const split = { ...agreed, agreement: { ...agreed.agreement, limitPolicy: 'split' as const } };
    const needs = { ...cartridge, number: 'HY-25', permit: { id: 7, name: 'handling permit' } };
    const on = ground({
      offers: [{ ...split, line: { ...agreed.line, committed: '10' } }],
      items: new Map<number, ConfirmableItem>([
        [10, cartridge],
        [11, needs],
      ]),
      standing: {
        name: 'Teratai Bay Resort',
        currency: 'MYR',
        referenceRequired: true,
        creditLimit: '100',
        balance: '0',
        onOrder: '0',
        permitsOf: 'Teratai',
        permits: [],
      },
    });
    // The first typed line becomes two; the permit is missing on the second typed one.
    const { warnings } = saved([line('25'), line('25', { itemId: 11 })], on);
    expect(warnings.map((word) => `${word.field}: ${word.code}`)).toEqual([
      'lines.0.quantity: split-at-limit',
      'customerReference: reference-required',
      'lines.1.itemId: permit-missing',
      'creditReason: over-credit',
    ]);
  });
});

describe('S1 what is out of use', () => {
  const on = (itemId: number) =>
    ground({
      items: new Map<number, ConfirmableItem>([
        [10, { ...cartridge, outOfUse: true }],
        [11, cartridge],
      ]),
      current: {
        number: 'SO-1',
        state: 'draft',
        shipToId: 3,
        lines: [
          {
            id: 5,
            lineNo: 1,
            itemId,
            quantity: '2',
            unitPrice: '8',
            listPrice: '8',
            amount: '16',
            agreementLineId: null,
            agreedAmount: null,
            shipDate: '2027-03-10',
            sold: { unit: 'piece', factor: '1', price: null, reason: '', discount: '0', steps: [] },
            optionIds: [],
          },
        ],
      },
    });
  it('is sold no more, but where it is already', () => {
    expect(refusals([line('1')], on(10))).toEqual(['lines.0.itemId: item-out-of-use']);
    expect(refusals([line('1', { id: 5 })], on(10))).toEqual([]);
    expect(refusals([line('1', { id: 5 })], on(11))).toEqual(['lines.0.itemId: item-out-of-use']);
  });
});

describe('W1 S2 while a line that is made to order is typed', () => {
  it('says which of its parts are short, at the typed line', () => {
    const skid = { ...cartridge, number: 'SK-D2', obtained: 'assemble' };
    const part = { itemId: 12, partId: 3, part: 'PM-15', optionId: null, quantity: '2', whole: true, free: '3' };
    const standing = {
      name: 'Teratai Bay Resort',
      currency: 'MYR',
      referenceRequired: false,
      creditLimit: '90000',
      balance: '0',
    };
    const on = ground({
      items: new Map<number, ConfirmableItem>([
        [10, cartridge],
        [12, skid],
      ]),
      parts: [{ ...part, comesOn: null }],
      standing: { ...standing, onOrder: '0', permitsOf: 'Teratai Bay Resort', permits: [] },
    });
    const typed = [line('1'), line('2', { itemId: 12, route: 'assemble' })];
    expect(saved(typed, on).warnings).toMatchObject([
      { field: 'lines.1.quantity', code: 'parts-short', facts: { item: 'SK-D2', needed: '4', free: '3' } },
    ]);
    // From our stock, nothing of it is made.
    expect(saved([line('2', { itemId: 12 })], on).warnings).toEqual([]);
  });
});

describe('R3 the price of the ship date', () => {
  const ordered = {
    id: 7,
    item: cartridge,
    quantity: '100',
    unit: 'box',
    discount: '10',
    optionIds: [],
    shipToId: 3,
    currency: 'MYR',
    unitPrice: '5.2',
    amount: '520',
  };
  const asked = { search: 'first' as const, freight: new Map() };
  const between = (firstDay: string, price: string) => ({
    ...ordered,
    item: {
      ...cartridge,
      pricing: {
        ...cartridge.pricing,
        rules: [
          ...cartridge.pricing.rules,
          rule({ id: 9, level: 'customer', source: 'Teratai', unit: 'box', factor: '25', from: '4', firstDay, price }),
        ],
      },
    },
  });

  it('is found again as the goods go out, with what was put on it, and tells what it was', () => {
    expect(repriceAt(between('2027-03-05', '120'), asked, '2027-03-05')).toEqual({
      orderLineId: 7,
      item: 'FC-10',
      was: { unitPrice: '5.2', amount: '520' },
      unitPrice: '4.32',
      listPrice: '4.8',
      amount: '432',
      steps: [
        { kind: 'customer', source: 'Teratai', amount: '480' },
        { kind: 'discount', source: '10 %', amount: '-48' },
      ],
    });
  });

  it('stays where nothing has changed, nothing is left, or no price is known any more', () => {
    const same = { ...ordered, unitPrice: '4.68', amount: '468' };
    expect(repriceAt(same, asked, '2027-03-05')).toBeNull();
    expect(repriceAt({ ...ordered, quantity: '0' }, asked, '2027-03-05')).toBeNull();
    const lost = { ...ordered, item: { ...cartridge, listPrice: '0', pricing: plainPricing('piece') } };
    expect(repriceAt(lost, asked, '2027-03-05')).toBeNull();
  });
});

describe('A5 R2 what an agreement does not take of a line', () => {
  const freight = new Map([[3, [{ zone: 'East', from: '0', perKilogram: '1' }]]]);
  const split = (committed: string, change: Partial<Offer['agreement']> = {}): Offer => ({
    agreement: { ...agreed.agreement, limitPolicy: 'split', ...change },
    line: { ...agreed.line, committed, committedValue: '100', priceKind: 'fixed', priceValue: '5' },
  });
  const on = (offer: Offer) => ground({ offers: [offer], pricing: { ...ground().pricing, freight } });

  it('costs what a line of it alone would: freight, packs and box prices', () => {
    // 40 at 5; of 30 more each 6.10, a tenth on the 5 that fill no pack, and 6 kg of freight.
    const alone = figures([line('30')], ground({ pricing: { ...ground().pricing, freight } }));
    expect(alone).toEqual([['30', '6.4017', '192.05']]);
    expect(figures([line('70')], on(split('40')))).toEqual([['40', '5', '200'], alone[0]]);
    const [, rest] = saved([line('70')], on(split('40'))).effects.lines;
    expect(rest!.sold.steps.map((step) => [step.kind, step.amount])).toEqual([
      ['list', '183'],
      ['split-pack', '3.05'],
      ['freight', '6'],
    ]);
    // In boxes: 4 of them are 5.20 a piece for the customer, which is what is left over costs too.
    const boxes = figures([line('8', { unit: 'box' })], on(split('100')));
    expect(boxes).toEqual([
      ['100', '5', '500'],
      ['100', '5.4', '540'],
    ]);
  });

  it('costs that where the agreement’s value runs out within the line', () => {
    // 100.00 are 20 at 5; 50 more at 6.10 with 10 kg of freight.
    const [only] = saved([line('70')], on(split('0', { basis: 'value' }))).effects.lines;
    expect([only!.amount, only!.agreedAmount]).toEqual(['415', '100']);
  });

  it('counts price breaks over the lines of an order', () => {
    const broken: Offer = {
      ...agreed,
      line: {
        ...agreed.line,
        priceKind: 'fixed',
        priceValue: '5',
        breaks: [{ from: '50', value: '4' }],
      },
    };
    const priced = (...lines: Line[]) => figures(lines, ground({ offers: [broken] })).map(([, price]) => price);
    expect(priced(line('30'))).toEqual(['5']);
    expect(priced(line('30'), line('20'))).toEqual(['4', '4']);
    expect(priced(line('1', { unit: 'box' }), line('25'))).toEqual(['4', '4']);
    // Not what is sold without the agreement.
    expect(priced(line('30'), line('20', { agreementLineId: null }))[0]).toBe('5');
  });
});
