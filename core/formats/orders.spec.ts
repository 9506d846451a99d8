import type { Offer } from '@core/agreements';
import { plainPricing } from '@core/orders';
import { decideOrderFile, orderOfWritten, ordersOfTable, type FileCustomer, type FileOrder } from './index';

const WORK_DATE = '2027-03-01';
const item = {
  number: 'FC-10',
  unit: 'piece',
  groupId: null,
  listPrice: '6.1',
  taxCodeId: 1,
  taxRate: '6',
  stocked: true,
  hasVendor: false,
  obtained: 'buy',
  outOfUse: false,
  permit: null,
  pricing: {
    ...plainPricing('piece'),
    units: new Map([
      ['piece', '1'],
      ['box', '25'],
    ]),
  },
};
const offer: Offer = {
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
    committed: '100',
    committedValue: '500',
    released: '0',
    releasedValue: '0',
    leastRelease: '0',
    releaseMultiple: '0',
    priceKind: 'fixed',
    priceValue: '5',
    breaks: [],
  },
};
const teratai = (offers: Offer[] = []): FileCustomer => ({
  id: 7,
  name: 'Teratai Bay Resort',
  shipTos: [
    { id: 3, label: 'Jetty Store', town: 'Kuala Besut' },
    { id: 4, label: 'Hill Villas', town: 'Kuala Besut' },
  ],
  items: new Map([
    ['fc-10', { id: 10, route: 'stock' as const }],
    ['tbr-f10', { id: 10, route: 'stock' as const }],
  ]),
  references: new Map([['r-1', 'SO-0031']]),
  ground: {
    current: null,
    customer: { id: 7, name: 'Teratai Bay Resort', currency: 'MYR', contractedOnly: false },
    shipToIds: [3, 4],
    locationIds: [0],
    items: new Map([[10, item]]),
    offers,
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
  },
});
const HEADING = 'order,customer,ship to,reference,item,quantity,unit,ship date,price,route'.split(',');
const table = (...rows: string[]) => [HEADING, ...rows.map((row) => row.split(','))];
function read(rows: string[], goodOnly = false, customer = teratai()) {
  const orders = ordersOfTable(table(...rows));
  if ('code' in orders) throw new Error(orders.code);
  return decided(orders, goodOnly, customer);
}
function decided(orders: FileOrder[], goodOnly = false, customer = teratai()) {
  const find = (names: readonly string[]) => (names.includes('C-201') ? customer : null);
  const decision = decideOrderFile(find, orders, goodOnly, WORK_DATE);
  if (!decision.ok) throw new Error(decision.refusals.map((each) => each.code).join());
  return decision.effects;
}
const problems = (rows: string[], customer?: FileCustomer) =>
  read(rows, false, customer).problems.map(({ line, column }) => `${line} ${column}`);

describe('G4 orders of a file', () => {
  it('makes drafts of rows that belong together, in the units and with the prices of the file', () => {
    const made = read(
      [
        'A,C-201,Jetty Store,R-7,FC-10,4,box,11/3,,',
        'A,,,,TBR-F10,10,,+5,5.50,stock',
        'B,C-201,"Hill Villas",R-8,FC-10,1,,2027-03-20,0 a sample,',
      ].map((row) => row.replaceAll('"', '')),
    );
    expect([made.orders, made.rows, made.good, made.problems]).toEqual([2, 3, 2, []]);
    expect(made.drafts.map((draft) => [draft.shipToId, draft.customerReference, draft.currency])).toEqual([
      [3, 'R-7', 'MYR'],
      [4, 'R-8', 'MYR'],
    ]);
    expect(made.drafts[0]!.lines.map((line) => [line.quantity, line.amount, line.shipDate])).toEqual([
      ['100', '610', '2027-03-11'],
      ['10', '55', '2027-03-06'],
    ]);
    expect(made.drafts[1]!.lines[0]).toMatchObject({ amount: '0', sold: { reason: 'a sample' } });
  });

  it.each([
    ['an unknown customer', ['A,C-9,,R,FC-10,1,,+5,,'], ['2 customer']],
    ['an address that is none of theirs', ['A,C-201,Attic,R,FC-10,1,,+5,,'], ['2 ship to']],
    ['no address where there are two', ['A,C-201,,R,FC-10,1,,+5,,'], ['2 ship to']],
    ['a reference that is in use', ['A,C-201,Jetty Store,R-1,FC-10,1,,+5,,'], ['2 reference']],
    [
      'cells that cannot be read',
      ['A,C-201,Jetty Store,R,XX,many,,soon,,by air'],
      ['2 item', '2 quantity', '2 ship date'],
    ],
    ['a route that is none', ['A,C-201,Jetty Store,R,FC-10,1,,+5,,air'], ['2 route']],
    ['a unit it is not sold in', ['A,C-201,Jetty Store,R,FC-10,1,crate,+5,,'], ['2 unit']],
    ['a way it does not go', ['A,C-201,Jetty Store,R,FC-10,1,,+5,,drop'], ['2 route']],
    ['a day that is past', ['A,C-201,Jetty Store,R,FC-10,1,,2027-02-01,,'], ['2 ship date']],
    [
      'one reference twice in the file',
      ['A,C-201,Jetty Store,R-5,FC-10,1,,+5,,', 'B,C-201,Jetty Store,R-5,FC-10,2,,+5,,'],
      ['3 reference'],
    ],
  ])('names %s by line and column', (_what, rows, expected) => {
    expect(problems(rows)).toEqual(expected);
  });

  it('takes the good lines when told so', () => {
    const rows = ['A,C-201,Jetty Store,R,FC-10,1,,+5,,', 'A,,,,XX,1,,+5,,', 'A,,,,FC-10,2,,+5,,'];
    expect(read(rows, true).drafts[0]!.lines.map((line) => line.quantity)).toEqual(['1', '2']);
    expect(() => read(['A,C-201,Jetty Store,R,XX,1,,+5,,'], true)).toThrow('nothing-good');
  });

  it('A5 has orders take from an agreement one after the other, and lines together', () => {
    const row = (order: string, quantity: string) => `${order},C-201,Jetty Store,${order},FC-10,${quantity},,+5,,`;
    const two = read([row('A', '60'), row('B', '40')], false, teratai([offer]));
    expect(two.drafts.map((draft) => draft.released[0])).toEqual([
      { agreementLineId: 1, quantity: '60', value: '300' },
      { agreementLineId: 1, quantity: '40', value: '200' },
    ]);
    expect(problems([row('A', '60'), row('B', '41')], teratai([offer]))).toEqual(['3 quantity']);
    expect(problems([row('A', '60'), row('A', '41')], teratai([offer]))).toEqual(['3 quantity']);
  });

  it('holds an order to 500 lines and its reference to 60 letters, as if it had been typed', () => {
    const of = (lines: number, reference: string) =>
      read(Array.from({ length: lines }, () => `A,C-201,Jetty Store,${reference},FC-10,1,,+5,,`));
    expect(of(500, 'x'.repeat(60))).toMatchObject({ good: 1, problems: [] });
    const long = of(501, 'x');
    expect(long.problems).toMatchObject([{ line: 2, column: 'order' }]);
    expect(long.problems[0]!.sentence).toContain('501 lines');
    expect(of(1, 'x'.repeat(61)).problems).toMatchObject([{ line: 2, column: 'reference' }]);
  });

  it('refuses files of no order at all', () => {
    expect(ordersOfTable([['customer', 'item']])).toMatchObject({
      code: 'columns-missing',
      facts: { columns: 'quantity' },
    });
    expect(ordersOfTable([HEADING, HEADING.map(() => ' ')])).toMatchObject({ code: 'file-empty' });
    const many = Array.from({ length: 5001 }, () => ['A', 'C-201', '', '', 'FC-10', '1', '', '', '', '']);
    expect(ordersOfTable([HEADING, ...many])).toMatchObject({ code: 'file-too-long' });
  });

  it('takes an order as another program wrote it, and says where they expect another price', () => {
    type Written = Parameters<typeof orderOfWritten>[0];
    const written = (price: string, currency = 'MYR', more: Partial<Written> = {}, line: object = {}) =>
      orderOfWritten({
        against: [],
        number: 'PO-778',
        customer: ['Somebody', 'C-201'],
        shipTo: 'Jetty Store',
        currency,
        day: '2027-03-10',
        lines: [
          {
            ...{ at: 1, against: [], theirItem: 'TBR-F10', item: '', name: '', quantity: '2' },
            unit: 'box',
            day: null,
            price,
            ...line,
          },
        ],
        ...more,
      });
    const made = decided([written('152.5')]);
    expect(made.drafts[0]).toMatchObject({
      customerReference: 'PO-778',
      lines: [{ quantity: '50', shipDate: '2027-03-10' }],
    });
    expect(made.words).toEqual([]);
    expect(decided([written('140')]).words).toEqual([
      { line: 1, column: 'price', sentence: 'They expect 140.00; ours is 152.50.' },
    ]);
    expect(decided([written('140', 'SGD')]).problems.map((each) => each.column)).toEqual(['currency']);
    // What cannot be taken stands against the order, or against its line.
    const word = { column: 'allowance', sentence: 'The allowance of 50 is on the whole order.' };
    const whole = decided([written('152.5', 'MYR', { against: [word] })]);
    expect([whole.problems, whole.drafts]).toEqual([[{ line: 1, ...word }], []]);
    const part = { column: 'quantity', sentence: 'Its deliveries come to 8, the line to 10.' };
    const one = decided([written('152.5', 'MYR', {}, { against: [part] })]);
    expect([one.problems, one.drafts]).toEqual([[{ line: 1, ...part }], []]);
    expect(decided([written('', 'MYR', {}, { unit: 'EA' })]).problems.map((each) => each.column)).toEqual(['unit']);
  });
});
