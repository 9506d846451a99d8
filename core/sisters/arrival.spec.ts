import type { ExchangedDocument, ExchangedLine } from '@core/formats';
import { decideArrival, lineKey, type ArrivalGround, type LineOfOurs } from './arrival';
import { decideElsewhere } from './elsewhere';

const LINE: ExchangedLine = {
  number: 10,
  item: 'VS-9',
  theirItem: 'FV-900',
  name: 'Vessel',
  quantity: '4',
  unit: 'piece',
  price: '931',
  day: '2027-03-20',
  ordered: { number: 'PO-7', line: 10 },
  sold: null,
  despatch: '',
  numbers: [],
};
const OURS: LineOfOurs = {
  id: 71,
  documentId: 7,
  itemId: 900,
  unit: 'piece',
  paired: true,
  quantity: '4',
  factor: '1',
  day: '2027-03-20',
};
const document = (change: Partial<ExchangedDocument> = {}): ExchangedDocument => ({
  kind: 'purchase',
  number: 'SO-31',
  revision: 0,
  gone: false,
  day: '2027-03-01',
  currency: 'SGD',
  from: { code: 'LGW', name: 'Lembah Gading Water' },
  to: { code: 'HBW', name: 'Hulu Bening Water Works' },
  place: null,
  net: '',
  total: '',
  about: null,
  reason: '',
  lines: [LINE],
  ...change,
});
const ground = (change: Partial<ArrivalGround> = {}): ArrivalGround => ({
  ours: 'HBW',
  sister: { name: 'Lembah Gading Water' },
  known: null,
  sent: null,
  lines: new Map([[lineKey({ number: 'PO-7', line: 10 }), OURS]]),
  counts: new Map([[7, 1]]),
  entered: null,
  ...change,
});
const effects = (of: Partial<ArrivalGround>, told: Partial<ExchangedDocument> = {}) => {
  const decision = decideArrival(ground(of), document(told));
  if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
  return decision.effects;
};
const refusals = (of: Partial<ArrivalGround>, told: Partial<ExchangedDocument>) => {
  const decision = decideArrival(ground(of), document(told));
  return decision.ok ? [] : decision.refusals.map(({ code, field, facts }) => ({ code, field, facts }));
};
const codes = (of: Partial<ArrivalGround>, told: Partial<ExchangedDocument>) =>
  refusals(of, told).map(({ code, field }) => `${field}: ${code}`);

describe('what came from elsewhere', () => {
  it('is one with ours where it answers it as we have it', () => {
    expect(effects({})).toEqual({
      does: 'new',
      answers: 7,
      otherwise: false,
      lines: [{ line: LINE, lineId: 71 }],
      pairs: [],
    });
  });

  it.each<[string, Partial<ArrivalGround>, Partial<ExchangedLine>]>([
    ['another quantity', {}, { quantity: '3' }],
    ['another day', {}, { day: '2027-03-21' }],
    ['a line of ours missing', { counts: new Map([[7, 2]]) }, {}],
    ['more in its unit', { lines: new Map([['PO-7/10', { ...OURS, factor: '2' }]]) }, {}],
  ])('is to be looked at where it answers with %s', (_what, of, line) => {
    expect(effects(of, { lines: [{ ...LINE, ...line }] })).toMatchObject({ answers: 7, otherwise: true });
  });

  it('is to be looked at where a line of it is none of ours, or of another purchase', () => {
    const more = { ...LINE, number: 20, ordered: null };
    const other = { ...LINE, number: 20, ordered: { number: 'PO-8', line: 10 } };
    const two = new Map([
      ['PO-7/10', OURS],
      ['PO-8/10', { ...OURS, id: 81, documentId: 8 }],
    ]);
    const counts = new Map([
      [7, 2],
      [8, 1],
    ]);
    expect(effects({ counts }, { lines: [LINE, more] })).toMatchObject({ answers: 7, otherwise: true });
    expect(effects({ lines: two, counts }, { lines: [LINE, other] })).toMatchObject({ answers: 7, otherwise: true });
  });

  it('compares in our unit', () => {
    const lines = new Map([['PO-7/10', { ...OURS, quantity: '8', factor: '2' }]]);
    expect(effects({ lines })).toMatchObject({ answers: 7, otherwise: false });
  });

  it('is new where it answers nothing of ours', () => {
    const told = { lines: [{ ...LINE, ordered: { number: 'PO-9', line: 10 } }] };
    expect(effects({}, told)).toMatchObject({
      does: 'new',
      answers: null,
      otherwise: false,
      lines: [{ lineId: null }],
    });
  });

  it('names ours by her own number where we took hers', () => {
    const lines = new Map([['SO-31/20', OURS]]);
    const line = { ...LINE, ordered: null, sold: { number: 'SO-31', line: 20 } };
    expect(effects({ lines }, { kind: 'receipt', currency: '', lines: [line] })).toMatchObject({
      answers: null,
      otherwise: false,
      lines: [{ lineId: 71 }],
    });
  });

  it('folds an invoice that is entered already', () => {
    const invoice = { kind: 'invoice' as const, total: '106' };
    expect(effects({ entered: 5 }, invoice)).toMatchObject({ answers: 5, otherwise: false });
    expect(effects({}, invoice)).toMatchObject({ answers: null });
  });

  it('pairs items by what she says of our lines, each once, in one unit alone', () => {
    const unpaired = { ...OURS, paired: false };
    const lines = new Map([
      ['PO-7/10', unpaired],
      ['PO-7/20', { ...unpaired, id: 72 }],
      ['PO-7/30', { ...unpaired, id: 73, itemId: 901, unit: 'box' }],
      ['PO-7/40', { ...unpaired, id: 74, itemId: 902 }],
    ]);
    const told = (number: number, item: string) => ({
      ...LINE,
      number,
      item,
      ordered: { number: 'PO-7', line: number },
    });
    const sent = [told(10, 'VS-9'), told(20, 'VS-8'), told(30, 'VS-7'), told(40, 'VS-9')];
    expect(effects({ lines }, { lines: sent }).pairs).toEqual([{ item: 'VS-9', itemId: 900 }]);
    expect(effects({ lines }, { lines: [told(10, 'VS-9'), told(40, 'VS-6')] }).pairs).toEqual([
      { item: 'VS-9', itemId: 900 },
      { item: 'VS-6', itemId: 902 },
    ]);
  });

  it.each<[string, { revision: number; gone: boolean }, Partial<ExchangedDocument>, string]>([
    ['again', { revision: 1, gone: false }, { revision: 1 }, 'nothing'],
    ['late', { revision: 2, gone: false }, { revision: 1 }, 'nothing'],
    ['late, and gone', { revision: 2, gone: false }, { revision: 1, gone: true }, 'nothing'],
    ['gone', { revision: 1, gone: false }, { revision: 1, gone: true }, 'changed'],
    ['gone again', { revision: 1, gone: true }, { revision: 1, gone: true }, 'nothing'],
    ['not gone as it was before it went', { revision: 1, gone: true }, { revision: 1 }, 'nothing'],
    ['as the next revision', { revision: 1, gone: false }, { revision: 2 }, 'changed'],
    ['as the next revision after it went', { revision: 1, gone: true }, { revision: 2 }, 'changed'],
  ])('comes %s', (_what, known, told, does) => {
    expect(effects({ known: { ...known, ended: null } }, told).does).toBe(does);
  });

  it('is known to be gone where ours is cancelled already', () => {
    const known = { revision: 0, gone: false, ended: 7 };
    expect(effects({ known }, { gone: true, lines: [] })).toMatchObject({ does: 'changed', answers: 7 });
    expect(effects({ known: { ...known, ended: null } }, { gone: true, lines: [] })).toMatchObject({ answers: null });
    expect(effects({}, { gone: true, lines: [] })).toMatchObject({ does: 'new', answers: null });
  });

  it('brings ours back once, in the revision it was sent in', () => {
    const told: Partial<ExchangedDocument> = { kind: 'answer', about: 'order', number: 'PO-7', revision: 1, lines: [] };
    const sent = { offerId: 3, revision: 1, state: 'open' };
    expect(effects({ sent }, told).does).toBe('returned');
    expect(effects({ sent: { ...sent, state: 'returned' } }, told).does).toBe('nothing');
    expect(effects({ sent: { ...sent, revision: 2 } }, told).does).toBe('nothing');
    expect(refusals({}, told)).toEqual([
      { code: 'answer-to-nothing', field: 'file', facts: { number: 'PO-7', sister: 'Lembah Gading Water' } },
    ]);
  });

  it('is refused where it is of nobody known, for another, or too long to be kept', () => {
    expect(refusals({ sister: null }, {})).toEqual([
      { code: 'file-of-nobody', field: 'file', facts: { code: 'LGW', name: 'Lembah Gading Water' } },
    ]);
    expect(refusals({ ours: 'MBF' }, {})).toEqual([
      { code: 'file-for-another', field: 'file', facts: { code: 'HBW', ours: 'MBF' } },
    ]);
    expect(codes({}, { number: 'N'.repeat(41) })).toEqual(['file: too-long']);
    expect(codes({}, { number: 'N'.repeat(40) })).toEqual([]);
    // Named by no code, by its name.
    expect(refusals({ sister: null }, { from: { code: '', name: 'Who' } })[0]!.facts).toEqual({
      code: 'Who',
      name: 'Who',
    });
    expect(refusals({}, { to: { code: '', name: 'Whom' } })[0]!.facts).toEqual({ code: 'Whom', ours: 'HBW' });
  });

  it.each<[string, Partial<ExchangedLine>, string]>([
    ['no quantity', { quantity: '' }, 'file-line-quantity'],
    ['nothing', { quantity: '0' }, 'file-line-quantity'],
    ['six places', { quantity: '1.000001' }, 'file-line-quantity'],
    ['a price in words', { price: 'free' }, 'file-line-price'],
    ['a price below nothing', { price: '-1' }, 'file-line-price'],
    ['no item', { item: '' }, 'file-line-item'],
    ['a long item', { item: 'I'.repeat(25) }, 'too-long'],
    ['a long unit', { unit: 'u'.repeat(13) }, 'too-long'],
    ['a long delivery note', { despatch: 'd'.repeat(41) }, 'too-long'],
    ['an empty serial number', { numbers: ['A', ''] }, 'file-line-serial'],
    ['a serial number of two words', { numbers: ['A B'] }, 'file-line-serial'],
    ['a long serial number', { numbers: ['A'.repeat(41)] }, 'file-line-serial'],
    ['a day that is none', { day: '2027-02-30' }, 'not-a-day'],
  ])('refuses a line with %s at its place', (_what, change, code) => {
    expect(codes({}, { lines: [{ ...LINE, ...change }] })).toEqual([`lines.10: ${code}`]);
  });

  it('takes what just fits, no price, and goods without any', () => {
    const most = {
      item: 'I'.repeat(24),
      unit: 'u'.repeat(12),
      despatch: 'd'.repeat(40),
      numbers: ['A'.repeat(40)],
      price: '',
      day: null,
    };
    expect(codes({}, { lines: [{ ...LINE, ...most }] })).toEqual([]);
    expect(codes({}, { kind: 'receipt', currency: '', lines: [{ ...LINE, price: 'x' }] })).toEqual([]);
    expect(codes({}, { lines: Array.from({ length: 500 }, (_, at) => ({ ...LINE, number: at + 1 })) })).toEqual([]);
  });

  it('refuses lines of one number, too many, none, and no currency', () => {
    expect(refusals({}, { lines: [LINE, LINE] })).toEqual([
      { code: 'file-line-twice', field: 'file', facts: { line: '10' } },
    ]);
    expect(codes({}, { lines: [{ ...LINE, number: 0 }] })).toEqual(['file: file-line-twice']);
    const many = Array.from({ length: 501 }, (_, at) => ({ ...LINE, number: at + 1 }));
    expect(codes({}, { lines: many })).toEqual(['file: file-too-long']);
    expect(codes({}, { lines: [] })).toEqual(['file: nothing-asked']);
    for (const total of ['', 'much', '-1', '99999999999'])
      expect(refusals({}, { kind: 'invoice', total })).toEqual([
        { code: 'file-total', field: 'file', facts: { total } },
      ]);
    expect(codes({}, { kind: 'invoice', total: '0' })).toEqual([]);
    expect(codes({}, { currency: 'sgd' })).toEqual(['file: not-a-currency']);
    expect(codes({}, { currency: 'SGDX' })).toEqual(['file: not-a-currency']);
  });
});

describe('a company elsewhere', () => {
  const TYPED = { code: ' LGW ', name: ' Lembah Gading Water ', currency: 'SGD', email: '' };
  const decide = (change: Partial<typeof TYPED>, bearer: { name: string } | null = null) => {
    const decision = decideElsewhere({ bearer }, { ...TYPED, ...change });
    return decision.ok ? decision.effects : decision.refusals.map(({ code, field }) => `${field}: ${code}`);
  };

  it('is kept as it is typed, without spaces around', () => {
    expect(decide({ email: ' a@b.example ' })).toEqual({
      code: 'LGW',
      name: 'Lembah Gading Water',
      currency: 'SGD',
      email: 'a@b.example',
    });
  });

  it.each<[Partial<typeof TYPED>, string]>([
    [{ code: 'L' }, 'code: bad-company-code'],
    [{ code: 'lgw' }, 'code: bad-company-code'],
    [{ code: 'LGW-1' }, 'code: bad-company-code'],
    [{ code: 'LGWLGWLGW' }, 'code: bad-company-code'],
    [{ name: ' ' }, 'name: required'],
    [{ currency: 'sgd' }, 'currency: not-a-currency'],
    [{ currency: 'SG' }, 'currency: not-a-currency'],
    [{ currency: 'SGDX' }, 'currency: not-a-currency'],
    [{ email: 'lgw' }, 'email: not-an-address'],
  ])('refuses %j', (change, refusal) => expect(decide(change)).toEqual([refusal]));

  it('has a code of its own', () => {
    expect(decide({}, { name: 'Lahar Grid Works' })).toEqual(['code: company-code-taken']);
    expect(decide({ code: 'LGWLGWLG' })).toMatchObject({ code: 'LGWLGWLG' });
    expect(decide({ code: 'L9' })).toMatchObject({ code: 'L9' });
  });
});
