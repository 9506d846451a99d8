import {
  awayDue,
  awayWords,
  findOnShelf,
  type ShelfItem,
  backRefusals,
  cashPieces,
  countedCash,
  decideCloseDrawer,
  decideDepositBack,
  decideDrawerMove,
  decideOpenDrawer,
  decidePayBack,
  inCash,
  understand,
  type TillNow,
} from './index';
import { readGs1, readGtin, withCheckDigit } from '@core/catalogue';
import { dec } from '@core/kernel';

describe('C2 C4 cash', () => {
  it.each([
    ['12.32', 'MYR', '12.3'],
    ['12.33', 'MYR', '12.35'],
    ['-12.33', 'MYR', '-12.35'],
    ['12.33', 'USD', '12.33'],
    ['12.4', 'JPY', '12'],
    ['0.0004', 'OMR', '0'],
    ['0.0005', 'OMR', '0.001'],
  ])('%s %s is paid as %s', (amount, currency, cash) => {
    expect(inCash(dec(amount), currency).toFixed()).toBe(cash);
  });

  it('knows notes and coins, largest first; of a currency it does not know, 1, 2 and 5 of each power of ten', () => {
    expect(cashPieces('MYR').slice(0, 2)).toEqual(['100', '50']);
    expect(cashPieces('EUR')).toEqual([
      '100',
      '50',
      '20',
      '10',
      '5',
      '2',
      '1',
      '0.5',
      '0.2',
      '0.1',
      '0.05',
      '0.02',
      '0.01',
    ]);
    expect(cashPieces('JPY').at(-1)).toBe('1');
  });

  it('counts, and says at its place what is no count', () => {
    const { total, refusals } = countedCash(
      [
        { piece: '50', count: '3' },
        { piece: '0.05', count: '4' },
        { piece: '1', count: '' },
        { piece: '3', count: '1' },
        { piece: '5', count: '1.5' },
        { piece: '10', count: '-1' },
      ],
      'MYR',
      'counts',
    );
    expect(total.toFixed()).toBe('150.2');
    expect(refusals.map(({ code, field }) => `${field}: ${code}`)).toEqual([
      'counts.3.count: no-such-piece',
      'counts.4.count: not-whole',
      'counts.5.count: not-whole',
    ]);
  });
});

describe('C4 drawers', () => {
  const closed: TillNow = { name: 'Front', currency: 'MYR', drawer: null };
  const open: TillNow = { ...closed, drawer: { id: 1, number: 'DR-0001', cash: '80' } };
  const codes = (decision: { ok: boolean; refusals?: { code: string; field: string }[] }) =>
    (decision.refusals ?? []).map(({ code, field }) => (field ? `${field}: ${code}` : code));

  it('opens one that is closed, with what is counted into it', () => {
    const counts = [
      { piece: '20', count: '5' },
      { piece: '1', count: '0' },
    ];
    expect(decideOpenDrawer(closed, { counts })).toMatchObject({
      effects: { float: '100', counts: [{ piece: '20', count: '5' }] },
    });
    expect(codes(decideOpenDrawer(open, { counts }))).toEqual(['drawer-open']);
    expect(codes(decideOpenDrawer(closed, { counts: [{ piece: '7', count: '1' }] }))).toEqual([
      'counts.0.count: no-such-piece',
    ]);
  });

  it.each([
    ['80', []],
    ['-80', []],
    ['-80.05', ['amount: not-in-drawer']],
    ['0', ['amount: not-a-number']],
    ['0.03', ['amount: no-such-change']],
    ['0.001', ['amount: not-a-number']],
    ['x', ['amount: not-a-number']],
  ])('moves %s', (amount, refusals) => {
    expect(codes(decideDrawerMove(open, { amount, reason: 'change' }))).toEqual(refusals);
  });

  it('asks why money is moved, and a drawer to move it in', () => {
    expect(codes(decideDrawerMove(closed, { amount: '5', reason: ' ' }))).toEqual([
      'drawer-closed',
      'reason: required',
    ]);
    expect(decideDrawerMove(open, { amount: '5.00', reason: ' change ' })).toMatchObject({
      effects: { amount: '5', reason: 'change' },
    });
  });

  it('closes with what is counted: why it differs is asked, and kept only where it does', () => {
    const close = (count: string, reason: string, hanging = 0) =>
      decideCloseDrawer({ ...open, hanging }, { counts: [{ piece: '1', count }], reason });
    expect(close('80', 'no reason')).toMatchObject({
      effects: { counted: '80', expected: '80', difference: '0', reason: '' },
    });
    expect(close('78', '')).toMatchObject({
      refusals: [{ code: 'drawer-differs', field: 'reason', facts: { difference: '2.00', way: 'less' } }],
    });
    expect(close('81', '')).toMatchObject({ refusals: [{ facts: { difference: '1.00', way: 'more' } }] });
    expect(close('78', ' lost ')).toMatchObject({ effects: { difference: '-2', reason: 'lost' } });
    expect(codes(close('80', '', 1))).toEqual(['cards-hanging']);
    expect(codes(decideCloseDrawer({ ...closed, hanging: 0 }, { counts: [], reason: '' }))).toEqual(['drawer-closed']);
  });

  it('pays a deposit back once, in coins there are, as far as the drawer goes', () => {
    const back = (left: string, till = open) => decideDepositBack(till, { number: 'PP-0001', left });
    const paid = (left: string) => JSON.parse(JSON.stringify(back(left))) as object;
    expect(paid('20.03')).toMatchObject({ effects: { left: '20.03', cash: '20.05', rounding: '-0.02' } });
    expect(paid('80.02')).toMatchObject({ effects: { cash: '80', rounding: '0.02' } });
    expect(codes(back('80.03'))).toEqual(['not-in-drawer']);
    expect(codes(back('0'))).toEqual(['deposit-used']);
    expect(codes(back('5', closed))).toEqual(['drawer-closed']);
  });

  describe('C5 brought back', () => {
    const slip = { number: 'SL-0001', soldOn: '2027-03-01', invoiced: true };

    it('until the last day, where something was handed over and a drawer is open', () => {
      expect(backRefusals({ till: open, slip, days: 14 }, '2027-03-15')).toEqual([]);
      expect(backRefusals({ till: open, slip, days: 14 }, '2027-03-16')).toMatchObject([
        { code: 'too-late-back', facts: { last: '2027-03-15' } },
      ]);
      expect(
        backRefusals({ till: closed, slip: { ...slip, invoiced: false }, days: 0 }, '2027-03-01').map(
          ({ code }) => code,
        ),
      ).toEqual(['drawer-closed', 'slip-of-nothing']);
    });

    it('goes back by card first, each no more than it paid, then in cash; the rest stands to their credit', () => {
      const back = (credit: string, cash = '80') =>
        decidePayBack({ ...open, drawer: { ...open.drawer!, cash } }, dec(credit), [
          { kind: 'cash', amount: '30.02', cardId: null },
          { kind: 'card', amount: '20', cardId: 4 },
          { kind: 'card', amount: '5', cardId: 5 },
          { kind: 'voucher', amount: '10', cardId: null },
        ]);
      expect(back('22')).toMatchObject({
        effects: {
          payments: [
            { kind: 'card', amount: '20', cardId: 4 },
            { kind: 'card', amount: '2', cardId: 5 },
          ],
          cash: '0',
          left: '0',
        },
      });
      expect(back('60')).toMatchObject({
        effects: {
          payments: [
            { kind: 'card', amount: '20' },
            { kind: 'card', amount: '5' },
            { kind: 'cash', amount: '30.02', rounding: '-0.02' },
          ],
          cash: '30',
          left: '4.98',
        },
      });
      expect(back('60', '29.95')).toMatchObject({ refusals: [{ code: 'not-in-drawer', facts: { asked: '30.00' } }] });
      expect(back('60', '30')).toMatchObject({ ok: true });
    });
  });
});

describe('C7 bar codes', () => {
  const gtin = withCheckDigit('0290000000010');

  it('reads GTINs of 8, 12, 13 and 14 digits whose check digit fits', () => {
    expect(withCheckDigit('400638133393')).toBe('4006381333931');
    expect(readGtin('4006381333931')).toBe('04006381333931');
    expect(readGtin(withCheckDigit('1234567'))).toBe(`000000${withCheckDigit('1234567')}`);
    expect(readGtin('4006381333932')).toBeNull();
    expect(readGtin('400638133393')).toBeNull();
    expect(readGtin('')).toBeNull();
  });

  it.each([
    [`(01)${gtin}`, { gtin }],
    [
      `(01)${gtin}(17)270331(10)A7(21)MB9-27-001(30)4`,
      { gtin, useBy: '2027-03-31', lot: 'A7', serial: 'MB9-27-001', count: '4' },
    ],
    [`]C101${gtin}17270200`, { gtin, useBy: '2027-02-28' }],
    [`01${gtin}10A7\u001d21S1`, { gtin, lot: 'A7', serial: 'S1' }],
    [`01${gtin}3012\u001d17270331`, { gtin, count: '12', useBy: '2027-03-31' }],
  ])('reads %s', (text, told) => expect(readGs1(text)).toEqual(told));

  it.each([
    `(01)${gtin.slice(0, 13)}9`,
    '(10)A7',
    `01${gtin}17271332`,
    `01${gtin}17270230`,
    `01${gtin}99x`,
    `01${gtin}30x`,
    'salt',
    `(10)${'x'.repeat(21)}(01)${gtin}`,
  ])('does not read %s', (text) => expect(readGs1(text)).toBeNull());
});

describe('C1 what is typed into the one field', () => {
  const gtin = withCheckDigit('0290000000010');
  it.each([
    ['', { kind: 'nothing' }],
    ['  ', { kind: 'nothing' }],
    ['3', { kind: 'quantity', quantity: '3' }],
    ['2.5', { kind: 'quantity', quantity: '2.5' }],
    ['99999', { kind: 'quantity', quantity: '99999' }],
    ['50.00', { kind: 'money', amount: '50.00' }],
    ['012345', { kind: 'words', words: '012345', quantity: null }],
    ['5550220', { kind: 'words', words: '5550220', quantity: null }],
    ['salt', { kind: 'words', words: 'salt', quantity: null }],
    ['3 x salt', { kind: 'words', words: 'salt', quantity: '3' }],
    ['3*FC-10', { kind: 'words', words: 'FC-10', quantity: '3' }],
    ['2.5 × hose', { kind: 'words', words: 'hose', quantity: '2.5' }],
    ['SO-1042', { kind: 'words', words: 'SO-1042', quantity: null }],
    ['-50.00', { kind: 'words', words: '-50.00', quantity: null }],
    [gtin, { kind: 'code', told: { gtin }, quantity: null }],
    [`4 x ${gtin}`, { kind: 'code', told: { gtin }, quantity: '4' }],
    [`(01)${gtin}(30)6`, { kind: 'code', told: { gtin, count: '6' }, quantity: '6' }],
  ])('%s', (typed, meant) => expect(understand(typed, 'MYR')).toEqual(meant));

  it('takes money by the places of its currency', () => {
    expect(understand('50.000', 'OMR')).toEqual({ kind: 'money', amount: '50.000' });
    expect(understand('50.00', 'OMR')).toEqual({ kind: 'quantity', quantity: '50.00' });
    expect(understand('5000', 'JPY')).toEqual({ kind: 'quantity', quantity: '5000' });
  });
});

describe('C6 while the server is away', () => {
  const item = (change: Partial<ShelfItem> = {}): ShelfItem => ({
    id: 1,
    number: 'SALT-25',
    name: 'Softener salt, 25 kg',
    unit: 'bag',
    price: '24.45',
    taxCode: 'S6',
    taxRate: '6',
    permit: false,
    byNumber: false,
    codes: [{ code: '02900000000257', many: '4' }],
    ...change,
  });
  const shelf = [item(), item({ id: 2, number: 'FC-20', name: 'Cartridge for salt water', codes: [] })];

  it('comes to what the lines do with their tax, in coins there are', () => {
    const due = awayDue(
      [
        { item: item(), quantity: '3' },
        { item: item({ taxCode: 'S0', taxRate: '0', price: '1.01' }), quantity: '2' },
      ],
      'MYR',
    );
    expect([due.net, due.total, due.toPay].map((each) => each.toFixed())).toEqual(['75.37', '79.77', '79.75']);
    expect(awayDue([], 'MYR').toPay.toFixed()).toBe('0');
  });

  it.each([
    ['2900000000257', ['SALT-25 4']],
    ['fc-20', ['FC-20 1']],
    ['salt', ['SALT-25 1', 'FC-20 1']],
    ['cartridge', ['FC-20 1']],
    ['', []],
    ['valve', []],
  ])('finds “%s” on the device', (typed, found) =>
    expect(findOnShelf(shelf, typed).map(({ item: { number }, many }) => `${number} ${many}`)).toEqual(found),
  );

  it('says what could not be looked at', () => {
    expect(awayWords(item())).toEqual([]);
    expect(awayWords(item({ permit: true }))).toHaveLength(1);
  });
});
