import { decideRevision, NO_REBATE, repricedValue, type RevisionGround, type RevisionTyped } from '../index';
import { exchangeAt } from '../../kernel/testing';

const line = {
  id: 21,
  lineNo: 1,
  covers: 'RO-4040',
  released: '60',
  itemId: 10,
  groupId: null,
  committed: '100',
  priceKind: 'fixed' as const,
  priceValue: '740',
  breaks: [],
  leastRelease: '0',
  releaseMultiple: '0',
  notes: '',
};
const unreleased = { ...line, id: 22, lineNo: 2, itemId: 11, covers: 'FC-20', released: '0', priceValue: '8.5' };

const terms = {
  side: 'selling' as const,
  basis: 'quantity' as const,
  vendorId: null,
  salesOrganisationId: null,
  rebate: NO_REBATE,
  reminders: [],
  releaseAhead: '',
  customerId: 1,
  title: 'Membranes',
  firstDay: '2027-01-01',
  lastDay: '2027-12-31',
  signedOn: '2026-12-20',
  limitPolicy: 'refuse' as const,
  tolerancePercent: '0',
  wholeLimit: '',
  probabilityPercent: '100',
  restPlan: 'spread' as const,
  priority: '5',
  notes: '',
};

const open = (id: number, quantity: string, change: Partial<RevisionGround['open'][number]> = {}) => ({
  id,
  orderId: 40 + id,
  order: `SO-${id}`,
  lineNo: 1,
  item: 'RO-4040',
  agreementLineId: 21,
  quantity,
  unitPrice: '740',
  listPrice: '815',
  amount: String(740 * Number(quantity)),
  agreedAmount: null,
  ...change,
});

const ground: RevisionGround = {
  current: { number: 'AG-0001', state: 'in-force' },
  party: { id: 1, name: 'Teratai Bay Resort', currency: 'MYR', salesOrganisationId: null },
  groups: new Map(),
  items: new Map([
    [10, { number: 'RO-4040', listPrice: '815', units: new Map() }],
    [11, { number: 'FC-20', listPrice: '9.8', units: new Map() }],
    [12, { number: 'HY-25', listPrice: '42', units: new Map() }],
  ]),
  terms,
  lines: [line, unreleased],
  open: [open(1, '12')],
  exchange: exchangeAt(),
};

const typedOf = (change: Partial<RevisionTyped> = {}): RevisionTyped => ({
  ...terms,
  reason: 'Price of resin fell',
  reprice: false,
  lines: [line, unreleased],
  ...change,
});

const codes = (change: Partial<RevisionTyped>, on: Partial<RevisionGround> = {}) => {
  const decision = decideRevision({ ...ground, ...on }, typedOf(change));
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};
const effects = (change: Partial<RevisionTyped>, on: Partial<RevisionGround> = {}) => {
  const decision = decideRevision({ ...ground, ...on }, typedOf(change));
  if (!decision.ok) throw new Error(decision.refusals.map((refusal) => refusal.code).join());
  return decision.effects;
};

describe('A15 revision', () => {
  it('says field by field what it changes', () => {
    const { changes, removedLineIds, lineIds } = effects({
      lastDay: '2028-03-31',
      lines: [
        { ...line, priceValue: '700', committed: '120' },
        { ...line, id: null, itemId: 12, committed: '40', priceKind: 'none', priceValue: '' },
      ],
    });
    expect(changes).toEqual([
      { what: 'Last day', was: expect.stringContaining('2027'), is: expect.stringContaining('2028') as string },
      { what: 'Line 1, RO-4040: committed', was: '100', is: '120' },
      { what: 'Line 1, RO-4040: price', was: '740', is: '700' },
      { what: 'Line 2, FC-20: removed', was: '100 at 8.5', is: '–' },
      { what: 'New line, HY-25', was: '–', is: '40 at the list price' },
    ]);
    expect(removedLineIds).toEqual([22]);
    expect(lineIds).toEqual([21, null]);
  });

  it('needs a reason, a change, and an agreement in force', () => {
    expect(codes({ reason: ' ', notes: 'x' })).toEqual(['reason: required']);
    expect(codes({})).toEqual([': nothing-changed']);
    expect(codes({ lines: [{ ...line, committed: '100.000' }, unreleased] })).toEqual([': nothing-changed']);
    expect(codes({ notes: 'x' }, { current: { number: 'AG-0001', state: 'ended' } })).toEqual([': agreement-not-so']);
  });

  it('never commits to less than was released, nor drops or turns a released line', () => {
    expect(codes({ lines: [{ ...line, committed: '59' }, unreleased] })).toEqual(['lines.0.committed: below-released']);
    expect(codes({ lines: [{ ...line, committed: '60' }, unreleased] })).toEqual([]);
    expect(codes({ lines: [unreleased] })).toEqual(['lines: line-released']);
    expect(codes({ lines: [{ ...line, itemId: 12 }, unreleased] })).toEqual(['lines.0.itemId: line-released']);
    expect(codes({ lines: [line, { ...unreleased, id: 99 }] })).toEqual(['lines.1.id: unknown']);
  });

  it('shows which open lines the new terms price otherwise, by the price of their own quantity', () => {
    const breaks = [{ from: '20', value: '690' }];
    const { repriced } = effects(
      { lines: [{ ...line, breaks }, unreleased] },
      { open: [open(1, '12'), open(2, '20'), open(3, '20', { agreedAmount: '9000' })] },
    );
    expect(repriced.map(({ line: { id }, unitPrice, amount }) => ({ id, unitPrice, amount }))).toEqual([
      { id: 2, unitPrice: '690', amount: '13800' },
    ]);
  });

  it('A4 moves the released value by exactly what repricing changes', () => {
    const { repriced } = effects(
      { reprice: true, lines: [{ ...line, priceValue: '700' }, unreleased] },
      { open: [open(1, '12'), open(2, '3')] },
    );
    expect(repricedValue(repriced)).toEqual([{ agreementLineId: 21, quantity: '0', value: '-600' }]);
  });
});
