import { decideOpenPurchases, type OpenPurchasesGround, type OpenPurchasesTyped } from './index';

const DAY = '2027-03-01';
const ARUS = { id: 1, name: 'Arus', currency: 'MYR' };
const GARAM = { id: 2, name: 'Garam', currency: 'USD' };
const offer = (vendorId: number, vendor: string, unitPrice: string) => ({
  vendorId,
  vendor,
  unitPrice,
  currency: 'MYR',
  ownPrice: unitPrice,
  leadDays: 3,
  preferred: false,
  minimum: '0',
  multiple: '0',
  approved: true,
});
const item = (id: number, number: string) => ({
  item: { id, number, unit: 'bag', groupId: null, taxCodeId: 1, taxRate: '0', outOfUse: false },
  offers: [offer(1, 'Arus', '17'), offer(2, 'Garam', '16')],
});
const KNOWN = { vendor: ARUS, itemId: 11, locationId: 0, opened: null };
const ground = (...lines: Partial<OpenPurchasesGround['lines'][number]>[]): OpenPurchasesGround => ({
  lines: (lines.length > 0 ? lines : [{}]).map((each) => ({ ...KNOWN, ...each })),
  items: new Map([
    [11, item(11, 'SALT-25')],
    [12, item(12, 'CL-10')],
  ]),
  locationIds: [0, 1],
});
type Line = OpenPurchasesTyped['lines'][number];
const line = (change: Partial<Line> = {}): Line => ({
  vendor: 'V-101',
  number: 'OLD-88',
  item: 'SALT-25',
  quantity: '1,200',
  price: '',
  due: '20/3',
  place: '',
  ...change,
});
const refused = (at: OpenPurchasesGround, ...lines: Line[]) => {
  const decision = decideOpenPurchases(at, { lines }, DAY);
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};
const effects = (at: OpenPurchasesGround, ...lines: Line[]) => {
  const decision = decideOpenPurchases(at, { lines }, DAY);
  if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
  return decision.effects;
};

describe('U3 what was on order before', () => {
  it('is a purchase for each vendor, place and number, in the order of the file', () => {
    const found = effects(
      ground({}, { itemId: 12 }, { vendor: GARAM }, { locationId: 1 }),
      line(),
      line({ item: 'CL-10', price: '1,096.5', number: ' old-88 ' }),
      line({ vendor: 'V-102' }),
      line({ place: 'YARD' }),
    );
    expect(found.purchases.map(({ number, lines, plan }) => [number, lines, plan.vendorId, plan.locationId])).toEqual([
      ['OLD-88', 2, 1, 0],
      ['OLD-88', 1, 2, 0],
      ['OLD-88', 1, 1, 1],
    ]);
    expect(found.purchases[0]!.plan.lines).toMatchObject([
      { itemId: 11, quantity: '1200', unitPrice: '17', dueDate: '2027-03-20' },
      { itemId: 12, unitPrice: '1096.5' },
    ]);
    expect(found.same).toBe(0);
  });

  it('is read as people write it, with a word at its line on what the vendor would sell', () => {
    const items = new Map([[11, { ...item(11, 'SALT-25'), offers: [{ ...offer(1, 'Arus', '17'), multiple: '50' }] }]]);
    const lines = [
      line({ number: 'A' }),
      line({ number: ' '.repeat(3) + 'x'.repeat(40), quantity: ' 60 ', price: ' ', due: ' 20/3 ' }),
    ];
    const decision = decideOpenPurchases({ ...ground({}, {}), items }, { lines }, DAY);
    if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
    expect(decision.effects.purchases[1]).toMatchObject({
      number: 'x'.repeat(40),
      plan: { lines: [{ unitPrice: '17', dueDate: '2027-03-20' }] },
    });
    expect(decision.warnings.map(({ field, code }) => `${field}: ${code}`)).toEqual([
      'lines.1.quantity: vendor-sells-by',
    ]);
    const nobody = ground({ vendor: null, itemId: null, locationId: null });
    const said = decideOpenPurchases(nobody, { lines: [line({ vendor: ' V-9 ', item: ' X ', place: ' Y ' })] }, DAY);
    expect(said.ok ? [] : said.refusals.map(({ facts }) => (facts as { what?: string }).what)).toEqual([
      'The vendor V-9',
      'The item X',
      'The place Y',
    ]);
  });

  it('is placed once: what was opened already stays as it is', () => {
    expect(effects(ground({ opened: 'PO-0007' }, {}), line(), line({ number: 'OLD-89' }))).toMatchObject({
      same: 1,
      purchases: [{ number: 'OLD-89', lines: 1 }],
    });
    expect(effects(ground({ opened: 'PO-0007' }), line()).purchases).toEqual([]);
  });

  it.each<[string, Partial<Line>, Partial<OpenPurchasesGround['lines'][number]>]>([
    ['vendor: unknown', {}, { vendor: null }],
    ['number: required', { number: ' ' }, {}],
    ['number: too-long', { number: 'x'.repeat(41) }, {}],
    ['item: unknown', {}, { itemId: null }],
    ['place: unknown', {}, { locationId: null }],
    ['quantity: not-a-number', { quantity: 'some' }, {}],
    ['quantity: not-above-zero', { quantity: '0' }, {}],
    ['price: not-a-number', { price: 'cheap' }, {}],
    ['due: required', { due: '' }, {}],
    ['due: not-a-day', { due: 'soon' }, {}],
    ['due: ship-date-past', { due: '2027-02-20' }, {}],
    ['vendor: party-out-of-use', {}, { vendor: { ...ARUS, outOfUse: true } }],
    ['item: vendor-not-selling', {}, { vendor: { ...ARUS, id: 9 } }],
  ])('%s, at its line', (refusal, change, known) => {
    const at = ground({}, known, {});
    const lines = [line({ number: 'A' }), line({ number: 'B', ...change }), line({ number: 'C' })];
    expect(refused(at, ...lines)).toEqual([`lines.1.${refusal}`]);
  });

  it('asks for something to open', () => expect(refused(ground())).toEqual(['lines: no-lines']));
});
