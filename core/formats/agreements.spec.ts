import { NO_REBATE } from '@core/agreements';
import { agreementRows, decideImport, wholeOrGood, type ImportGround } from './index';

const ground: ImportGround = {
  customers: new Map([['c-201', { id: 1, name: 'Teratai Bay Resort', currency: 'MYR', salesOrganisationId: null }]]),
  vendors: new Map([['v-101', { id: 4, name: 'Arus Membrane Supply', currency: 'MYR', salesOrganisationId: null }]]),
  items: new Map([
    [
      'ro-4040',
      {
        id: 10,
        number: 'RO-4040',
        listPrice: '815',
        units: new Map([['kg', '3.6']]),
        vendorPrices: new Map([[4, '620']]),
      },
    ],
    ['fc-20', { id: 11, number: 'FC-20', listPrice: '9.8', units: new Map([['kg', '0.22']]), vendorPrices: new Map() }],
  ]),
  groups: new Map([['cart', { id: 3, code: 'CART' }]]),
};
const HEADING = [
  'Agreement',
  'side',
  'basis',
  'party',
  'last day',
  'item',
  'committed',
  'price',
  'rebate',
  'rebate tiers',
];
const row = (...cells: string[]) => cells;
const read = (rows: string[][], goodOnly = false) => decideImport(ground, [HEADING, ...rows], goodOnly, '2027-03-01');
const effectsOf = (rows: string[][], goodOnly = false) => {
  const decision = read(rows, goodOnly);
  if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
  return decision.effects;
};

describe('agreements brought in from a file', () => {
  it('reads heads and lines, with columns in any order and rows that go on the agreement before', () => {
    const { drafts, rows, problems } = effectsOf([
      row('A', '', '', 'c-201', '2027-12-31', 'RO-4040', '100', '740'),
      row('', '', '', '', '', 'fc-20', '1,000', '8 %'),
      row('B', 'selling', 'value', 'C-201', '31/12', 'CART', '5000', 'list', 'whole', '1000: 2 %'),
      row('C', 'buying', '', 'V-101', '+90', 'RO-4040', '40', '600'),
    ]);
    expect(problems).toEqual([]);
    expect(rows).toBe(4);
    expect(drafts.map((draft) => [draft.customerId, draft.vendorId, draft.lastDay, draft.lines.length])).toEqual([
      [1, null, '2027-12-31', 2],
      [1, null, '2027-12-31', 1],
      [null, 4, '2027-05-30', 1],
    ]);
    expect(drafts[0]!.lines[1]).toMatchObject({
      itemId: 11,
      committed: '1000',
      priceKind: 'discount',
      priceValue: '8',
    });
    expect(drafts[1]).toMatchObject({
      basis: 'value',
      rebate: { kind: 'whole', tiers: [{ from: '1000', rate: '2' }] },
    });
  });

  it('names every problem by line and column, and takes nothing', () => {
    const effects = effectsOf([
      row('A', '', '', 'C-201', '2027-12-31', 'RO-4040', 'a hundred', '740'),
      row('', '', '', '', '', 'RO-9999', '10', '740'),
      row('', '', '', '', '', 'FC-20', '10', '-3'),
      row('B', 'lending', '', 'C-999', 'whenever', 'FC-20', '10', '9'),
    ]);
    expect(effects.problems.map((problem) => [problem.line, problem.column])).toEqual([
      [2, 'committed'],
      [3, 'item'],
      [4, 'price'],
      [5, 'side'],
      [5, 'last day'],
      [5, 'party'],
    ]);
    const decision = { ok: true as const, warnings: [], effects };
    const refused = wholeOrGood(decision, { goodOnly: false });
    expect(refused).toMatchObject({ ok: false, refusals: [{ code: 'file-has-problems', facts: { count: '6' } }] });
    expect(wholeOrGood(decision, { goodOnly: false, look: true })).toBe(decision);
    expect(effects.good).toBe(0);
  });

  it('cuts nothing off: a title, or lines, beyond what an agreement holds are told', () => {
    const about = [...HEADING, 'about'];
    const titled = (title: string) => [...row('A', '', '', 'C-201', '2027-12-31', 'FC-20', '10', '9', '', ''), title];
    const told = (table: string[][]) => {
      const decision = decideImport(ground, table, false, '2027-03-01');
      return decision.ok ? decision.effects.problems.map(({ line, column }) => `${line} ${column}`) : null;
    };
    expect(told([about, titled('x'.repeat(120))])).toEqual([]);
    expect(told([about, titled('x'.repeat(121))])).toEqual(['2 about']);
    const noted = (notes: string) => [
      [...HEADING, 'line notes'],
      [...row('A', '', '', 'C-201', '2027-12-31', 'FC-20', '10', '9', '', ''), notes],
    ];
    expect(told(noted('x'.repeat(400)))).toEqual([]);
    expect(told(noted('x'.repeat(401)))).toEqual(['2 line notes']);
    const lines = (count: number) =>
      Array.from({ length: count }, () => row('A', '', '', 'C-201', '2027-12-31', 'FC-20', '10', '9'));
    expect(told([HEADING, ...lines(501)])).toEqual(['2 agreement']);
    expect(told([HEADING, ...lines(500)])).not.toContain('2 agreement');
  });

  it('takes the good lines alone: an agreement without its bad lines, none with a bad head', () => {
    const effects = effectsOf(
      [
        row('A', '', '', 'C-201', '2027-12-31', 'RO-4040', '0', '740'),
        row('', '', '', '', '', 'FC-20', '10', '9'),
        row('B', '', '', 'C-999', '2027-12-31', 'FC-20', '10', '9'),
        row('C', '', '', 'C-201', '2027-12-31', 'FC-20', '10', '9'),
      ],
      true,
    );
    const decision = { ok: true as const, warnings: [], effects };
    expect(wholeOrGood(decision, { goodOnly: true })).toBe(decision);
    expect(effects.drafts.map((draft) => draft.lines.map((line) => line.itemId))).toEqual([[11], [11]]);
  });

  it.each<[string, string[][], string]>([
    ['without its columns', [['item'], ['RO-4040']], 'columns-missing'],
    ['with a heading alone', [HEADING], 'file-empty'],
    ['that is too long', [HEADING, ...Array.from({ length: 5001 }, () => row('A'))], 'file-too-long'],
  ])('refuses a file %s', (_what, table, code) => {
    const decision = decideImport(ground, table, false, '2027-03-01');
    expect(!decision.ok && decision.refusals.map((refusal) => refusal.code)).toEqual([code]);
  });

  it('brings in again what it writes out', () => {
    const written = agreementRows([
      {
        number: 'AG-0001',
        state: 'in-force',
        party: 'C-201',
        partyName: 'Teratai Bay Resort',
        side: 'selling',
        basis: 'quantity',
        title: 'Membranes, and "more"',
        firstDay: '2027-01-01',
        lastDay: '2027-12-31',
        signedOn: null,
        limitPolicy: 'split',
        tolerancePercent: '5',
        wholeLimit: '500 kg',
        probabilityPercent: '90',
        restPlan: 'last',
        priority: '2',
        notes: 'Ask for Rina.',
        rebate: { ...NO_REBATE, kind: 'step', tiers: [{ from: '1000', rate: '2' }] },
        reminders: [{ kind: 'pace', at: '-15' }],
        lines: [
          {
            item: 'RO-4040',
            itemName: 'Membrane',
            committed: '100',
            priceKind: 'fixed',
            priceValue: '740',
            breaks: [{ from: '20', value: '720' }],
            leastRelease: '5',
            releaseMultiple: '5',
            notes: 'whole boxes',
          },
        ],
      },
    ]);
    const decision = decideImport(ground, written, false, '2027-03-01');
    if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
    expect(decision.effects.problems).toEqual([]);
    expect(decision.effects.drafts[0]).toMatchObject({
      title: 'Membranes, and "more"',
      limitPolicy: 'split',
      tolerancePercent: '5',
      priority: 2,
      rebate: { kind: 'step', tiers: [{ from: '1000', rate: '2' }] },
      reminders: [{ kind: 'pace', at: '-15' }],
      lines: [{ itemId: 10, committed: '100', breaks: [{ from: '20', value: '720' }], notes: 'whole boxes' }],
    });
  });
});
