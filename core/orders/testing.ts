import { type decideChange, plainPricing, type ChangeGround, type ConfirmedLine } from './index';

export const TODAY = '2027-03-01';
/** A line of ten at twenty. */
export const line = (id: number, change: Partial<ConfirmedLine> = {}): ConfirmedLine => ({
  id,
  lineNo: id,
  itemId: 10,
  quantity: '10',
  unitPrice: '20',
  listPrice: '20',
  amount: '200',
  agreementLineId: null,
  agreedAmount: null,
  shipDate: '2027-03-20',
  sold: { unit: 'piece', factor: '1', price: null, reason: '', discount: '0', steps: [] },
  optionIds: [],
  route: 'stock',
  locationId: 0,
  taxCode: '1',
  taxRate: '10',
  cancelled: '0',
  shipped: '0',
  invoiced: '0',
  reserved: '0',
  tied: '0',
  purchases: '',
  onTheWay: '0',
  planned: '',
  ...change,
});
export const item = (reserving: 'never' | 'always', permit: { id: number; name: string } | null = null) => ({
  number: 'PM-15',
  unit: 'piece',
  groupId: null,
  listPrice: '20',
  taxCodeId: 1,
  taxRate: '10',
  stocked: true,
  hasVendor: true,
  obtained: 'buy',
  outOfUse: false,
  permit,
  reserving,
  pricing: {
    ...plainPricing('piece'),
    units: new Map([
      ['piece', '1'],
      ['box', '5'],
    ]),
  },
});
/** A confirmed order of those lines, its customer, and all it is changed on. */
export const ground = (lines: ConfirmedLine[], change: Partial<ChangeGround> = {}): ChangeGround =>
  ({
    current: { number: 'SO-1', state: 'confirmed', shipToId: 5, customerReference: 'R-1', lines },
    customer: { id: 1, name: 'Teratai', currency: 'MYR', contractedOnly: false },
    shipToIds: [5, 6],
    addresses: new Map([
      [5, 'Jetty'],
      [6, 'Hill'],
    ]),
    locationIds: [0, 1],
    items: new Map([[10, item('never')]]),
    offers: [],
    pricing: {
      search: 'first',
      orderDate: TODAY,
      byShipDate: false,
      freight: new Map(),
      who: 'Salmah',
      promotions: { offers: [], rate: '1' },
    },
    parts: [],
    standing: {
      name: 'Teratai',
      currency: 'MYR',
      referenceRequired: true,
      creditLimit: null,
      balance: '0',
      onOrder: '0',
      permitsOf: 'Teratai Bay Resort',
      permits: [],
    },
    free: new Map(),
    ...change,
  }) as unknown as ChangeGround;

export type Typed = Parameters<typeof decideChange>[1];
/** The order as it is, typed anew, with what is another. */
export const typed = (
  of: ChangeGround,
  change: (each: Typed['lines'][number], at: number) => object = () => ({}),
  head = {},
): Typed => ({
  shipToId: of.current.shipToId,
  customerReference: of.current.customerReference,
  reason: ' they called ',
  lines: of.current.lines.map((each, at) => {
    const { id, itemId, quantity, shipDate, route, locationId } = each;
    const same = { id, itemId, quantity, shipDate, route, locationId };
    return { ...same, ...change(same, at) };
  }),
  ...head,
});
