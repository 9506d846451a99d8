import { nextStepOf } from './next-step';
import type { OrderSheet, PriceOffer } from './service';
import { blankLine, differs, priced, sendable, totalsOf, typedOf } from './typed';

const line: OrderSheet['lines'][number] = {
  id: 11,
  lineNo: 1,
  item: { id: 2, number: 'RO-4040', name: 'Membrane', unit: 'piece' },
  agreementLineId: 5,
  agreement: { kind: 'AG', id: 9, number: 'AG-0009' },
  quantity: '12',
  cancelled: '0',
  unitPrice: '740',
  listPrice: '815',
  amount: '8880',
  taxCode: 'S6',
  taxRate: '6',
  route: 'drop',
  routes: ['drop'],
  shipDate: '2027-03-12',
  tied: '0',
  shipped: '0',
  invoiced: '0',
  vendorInvoiced: '0',
  paidShare: 0,
  ties: [],
  needsPurchase: true,
  reserved: '0',
  free: '0',
};
const sheet = (state: OrderSheet['state'], ...lines: Partial<OrderSheet['lines'][number]>[]): OrderSheet => ({
  id: 1,
  number: 'SO-0001',
  state,
  customer: { id: 3, number: 'C-1', name: 'Teratai Bay Resort' },
  agreement: null,
  customerReference: 'R-1',
  orderDate: '2027-03-01',
  firstShipDate: '2027-03-12',
  currency: 'MYR',
  net: '8880',
  shares: { covered: 0, shipped: 0, invoiced: 0 },
  version: 2,
  shipTo: null,
  shipTos: [],
  referenceRequired: true,
  terms: '30 days',
  lines: lines.map((change) => ({ ...line, ...change })),
  totals: { net: '8880', tax: '532.8', total: '9412.8', taxes: [] },
  documents: [],
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
