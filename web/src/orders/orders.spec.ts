import { nextStepOf } from './next-step';
import { orderLine as line, orderSheet as sheet } from '../../test/order';
import type { PriceOffer } from './service';
import {
  blankLine,
  copyOf,
  differs,
  readTypedQuantity,
  keptSize,
  priced,
  pricesOf,
  sendable,
  sentLine,
  sizeOf,
  totalsOf,
  typedOf,
} from './typed';
import { pricedBy } from './order-columns';

describe('a quantity with its unit', () => {
  const units = [
    { unit: 'piece', factor: '1' },
    { unit: 'box', factor: '24' },
    { unit: 'pallet', factor: '960' },
  ];
  it.each([
    ['12', { quantity: '12' }],
    ['1,250.5', { quantity: '1250.5' }],
    ['2 box', { quantity: '2', unit: 'box' }],
    ['2 boxes', { quantity: '2', unit: 'box' }],
    ['3pal', { quantity: '3', unit: 'pallet' }],
    ['4 P', { quantity: '4', unit: 'piece' }],
    ['2 crates', { quantity: '2 crates' }],
    ['box', { quantity: 'box' }],
    ['1,25 box', { quantity: '1,25 box' }],
  ])('%s is %j', (typed, read) => {
    expect(readTypedQuantity(typed, { units }, true)).toEqual(read);
  });

  it('leaves the unit of a line that keeps it', () => {
    expect(readTypedQuantity('2 box', { units }, false)).toEqual({ quantity: '2 box' });
  });
});

describe('an order', () => {
  it.each([
    ['draft', {}, 'confirm'],
    ['confirmed', {}, 'place'],
    ['confirmed', { needsPurchase: false, tied: '12' }, 'ship'],
    ['confirmed', { needsPurchase: false, tied: '12', shipped: '5' }, 'invoice'],
    ['confirmed', { needsPurchase: false, tied: '12', shipped: '5', invoiced: '5' }, 'ship'],
    ['confirmed', { needsPurchase: false, tied: '12', shipped: '12', invoiced: '12' }, 'none'],
    ['confirmed', { route: 'special', needsPurchase: false, tied: '12' }, 'none'],
    ['confirmed', { route: 'special', needsPurchase: false, tied: '12', reserved: '5' }, 'ship'],
    ['closed', {}, 'none'],
    ['cancelled', {}, 'none'],
  ] as const)('that is %s with %o goes on by: %s', (state, change, step) => {
    expect(nextStepOf(sheet(state, change)).step).toBe(step);
  });

  it('names how many purchases there are to place', () => {
    expect(nextStepOf(sheet('confirmed', {}, {})).label).toBe('Place 2 purchases…');
  });

  it('sends what is typed without the blank last line, an unreadable date shortened', () => {
    const typed = typedOf(sheet('draft', {}));
    typed.lines.push(blankLine('2027-03-01'));
    typed.lines[0]!.shipDate = 'the week after next';
    expect(sendable(typed, 1).lines).toEqual([
      { id: 11, itemId: 2, quantity: '12', shipDate: 'the week a', route: 'drop', agreementLineId: 5 },
    ]);
  });

  it('A13 prices a line by what is chosen, the first that fits, or the list, and keeps a price that is agreed', () => {
    const offer = (agreementLineId: number, priceValue: string): PriceOffer => ({
      agreementLineId,
      agreement: { kind: 'AG', id: agreementLineId, number: `AG-${agreementLineId}` },
      basis: 'quantity',
      title: '',
      lastDay: '2027-12-31',
      priceKind: 'fixed',
      priceValue,
      breaks: [{ from: '20', value: '700' }],
      left: '50',
      unitPrice: priceValue,
    });
    const offers = [offer(1, '740'), offer(2, '720')];
    const fresh = { ...blankLine('2027-03-01'), itemId: 2, quantity: '3', unitPrice: '815', listPrice: '815' };
    const shown = (change: Partial<typeof fresh>, kept = false) => {
      const { unitPrice, agreement } = priced({ ...fresh, ...change }, offers, kept);
      return [unitPrice, agreement];
    };
    expect(shown({})).toEqual(['740', 'AG-1']);
    expect(shown({ quantity: '20' })).toEqual(['700', 'AG-1']);
    expect(shown({ agreementLineId: 2 })).toEqual(['720', 'AG-2']);
    expect(shown({ agreementLineId: null })).toEqual(['815', '']);
    expect(shown({ unitPrice: '690' }, true)).toEqual(['690', '']);
    expect(priced(fresh, undefined, false)).toBe(fresh);
  });

  it('S1 sends units, prices and discounts only where they were typed, and adds up in the unit sold', () => {
    const [own] = typedOf(sheet('draft', {})).lines;
    const crate = { ...own!, unit: 'crate', quantity: '3', agreementLineId: null };
    expect(sentLine({ ...crate, price: '2900', reason: '', discount: '5' })).toMatchObject({
      unit: 'crate',
      price: '2900',
      discount: '5',
    });
    expect(Object.keys(sentLine(own!))).not.toContain('unit');
    // 3 crates of 4 at 740 each; typed, at 2,900 a crate.
    expect(totalsOf([crate], 'MYR').net.toFixed()).toBe('8880');
    expect(totalsOf([{ ...crate, price: '2900' }], 'MYR').net.toFixed()).toBe('8700');
    expect(totalsOf([{ ...crate, price: 'x' }], 'MYR').net.toFixed()).toBe('0');
  });

  it('R4 takes the price the server built up, of a split line both parts together', () => {
    const [own] = typedOf(sheet('draft', {})).lines;
    const sent = [sentLine(own!)];
    const part = { itemId: 2, quantity: '6', unitPrice: '740', listPrice: '815', typedAt: 0, agreement: 'AG-9' };
    const prices = pricesOf(sent, [
      { ...part, amount: '4440', steps: [{ kind: 'agreement', source: 'AG-9', amount: '4440' }] },
      { ...part, amount: '4890', agreement: null, steps: [{ kind: 'list', source: 'the list', amount: '4890' }] },
    ]);
    const found = prices.get(JSON.stringify(sent[0]));
    expect(found).toMatchObject({ amount: '9330', agreement: 'AG-9' });
    expect(found!.steps.map((step) => step.kind)).toEqual(['agreement', 'list']);
    expect(totalsOf([own!], 'MYR', () => found).net.toFixed()).toBe('9330');
    expect(pricedBy(own!, found)).toBe('AG-9');
    expect(pricedBy({ ...own!, price: '1' }, found)).toBe('by hand');
  });

  it('is copied into a draft: what is alive, prices found anew, no day in the past', () => {
    const soon = { shipDate: '2027-02-10', sold: { ...line.sold, unit: 'crate', factor: '4', price: '9' } };
    const from = sheet('confirmed', soon, { shipDate: '2027-02-12', cancelled: '2' }, { cancelled: '12' });
    const copy = copyOf({ ...from, firstShipDate: '2027-02-10' }, '2027-03-01');
    expect(copy).toMatchObject({ id: null, customerId: 3, customerReference: '' });
    expect(copy.lines).toEqual([
      { id: null, itemId: 2, quantity: '3', shipDate: '2027-03-08', route: 'drop', unit: 'crate' },
      { id: null, itemId: 2, quantity: '10', shipDate: '2027-03-08', route: 'drop' },
    ]);
    // Nothing is late: days stay as they are.
    expect(copyOf(sheet('draft', {}), '2027-03-01').lines[0]!.shipDate).toBe('2027-03-12');
  });

  it('says what an order weighs and takes up', () => {
    expect(sizeOf(...keptSize(sheet('confirmed', {}, { cancelled: '2' }).lines))).toBe('77 kg, 0.44 m³');
    expect(sizeOf(...keptSize(sheet('confirmed', { weight: '0', volume: '0' }).lines))).toBe('');
  });

  it('knows whether saving would change anything', () => {
    const kept = sheet('draft', {});
    const typed = typedOf(kept);
    expect(differs(typed, kept)).toBe(false);
    typed.lines[0]!.quantity = '13';
    expect(differs(typed, kept)).toBe(true);
  });

  it('adds up what can be read, tax once per code, and leaves the rest out', () => {
    const [first] = typedOf(sheet('draft', {})).lines;
    const totals = totalsOf([first!, { ...first!, quantity: 'x' }, { ...first!, quantity: '0.5' }], 'MYR');
    expect([totals.net.toFixed(), totals.tax.toFixed(), totals.total.toFixed()]).toEqual(['9250', '555', '9805']);
  });
});
