import { nextStepOf } from './next-step';
import type { OrderSheet } from './service';
import { blankLine, differs, sendable, totalsOf, typedOf } from './typed';

const line: OrderSheet['lines'][number] = {
  id: 11,
  lineNo: 1,
  item: { id: 2, number: 'RO-4040', name: 'Membrane', unit: 'piece' },
  agreementLineId: 5,
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
  suppliedBy: '',
  needsPurchase: true,
  supplyDue: null,
  onHand: '0',
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
      { id: 11, itemId: 2, quantity: '12', shipDate: 'the week a', route: 'drop' },
    ]);
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
