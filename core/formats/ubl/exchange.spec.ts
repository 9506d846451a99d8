import { at, element } from './element';
import { EXCHANGED, readUblExchange, ublExchange, type ExchangedDocument, type ExchangedLine } from './exchange';
import { ublProblems } from './rules';

const FULL: ExchangedLine = {
  number: 1,
  item: 'FV-900',
  theirItem: 'VS-9',
  name: 'Filter vessel 900',
  quantity: '4',
  unit: 'piece',
  price: '1850.5',
  day: '2027-03-22',
  ordered: { number: 'PO-0007', line: 10 },
  sold: { number: 'SO-0031', line: 20 },
  despatch: '',
  numbers: [],
};

const DOCUMENT: ExchangedDocument = {
  kind: 'order',
  number: 'PO-0007',
  revision: 0,
  gone: false,
  day: '2027-03-01',
  currency: 'MYR',
  from: { code: 'HBW', name: 'Hulu Bening Water Works' },
  to: { code: 'LGW', name: 'Lembah Gading Water' },
  place: { label: 'Resort, Jetty', street: 'Jalan Pantai 4', postcode: '81900', town: 'Kota Tinggi', country: 'MY' },
  net: '',
  total: '',
  about: null,
  reason: '',
  lines: [{ ...FULL, ordered: null, sold: null }],
};

const documentOf = (change: Partial<ExchangedDocument>): ExchangedDocument => ({ ...DOCUMENT, ...change });

/** One of each kind that may be sent. */
const SENT: readonly (readonly [what: string, root: string, document: ExchangedDocument])[] = [
  ['an order', 'Order', DOCUMENT],
  ['an order to our own place', 'Order', documentOf({ place: null })],
  ['a changed order', 'OrderChange', documentOf({ revision: 3 })],
  [
    'a cancelled order',
    'OrderCancellation',
    documentOf({ revision: 3, gone: true, reason: 'no need', currency: '', place: null, lines: [] }),
  ],
  [
    'an order response',
    'OrderResponse',
    documentOf({ kind: 'purchase', number: 'SO-0031', place: null, lines: [{ ...FULL, sold: null }] }),
  ],
  [
    'a seller’s order that nobody ordered',
    'OrderResponse',
    documentOf({ kind: 'purchase', number: 'SO-0031', gone: true, lines: [{ ...FULL, ordered: null, sold: null }] }),
  ],
  [
    'a despatch advice with numbers',
    'DespatchAdvice',
    documentOf({
      kind: 'receipt',
      number: 'DN-4',
      currency: '',
      place: null,
      lines: [{ ...FULL, price: '', day: null, numbers: ['FV-1', 'FV-2'] }],
    }),
  ],
  [
    'a despatch advice taken back, of a line nobody ordered',
    'DespatchAdvice',
    documentOf({
      kind: 'receipt',
      number: 'DN-4',
      gone: true,
      currency: '',
      place: null,
      lines: [{ ...FULL, unit: 'coil', price: '', day: null, ordered: null }],
    }),
  ],
  [
    'an invoice',
    'Invoice',
    documentOf({
      kind: 'invoice',
      number: 'IN-9',
      place: null,
      net: '7402.00',
      total: '7846.12',
      lines: [{ ...FULL, day: null, despatch: 'DN-4' }],
    }),
  ],
  [
    'an answer',
    'ApplicationResponse',
    documentOf({
      kind: 'answer',
      revision: 2,
      currency: '',
      place: null,
      about: 'order',
      reason: 'too soon',
      lines: [],
    }),
  ],
];

describe('what companies tell each other as UBL 2.1', () => {
  it.each(SENT)('%s is written as %s by the rules and read as it was', (_what, root, document) => {
    const written = ublExchange(document);
    expect(written.name).toBe(root);
    expect(ublProblems(written)).toEqual([]);
    expect(readUblExchange(written)).toEqual(document);
  });

  it('knows every kind it sends', () => {
    expect(new Set(SENT.map(([, , { kind }]) => kind))).toEqual(new Set(EXCHANGED));
  });

  it('reads no other document, and none out of its namespace', () => {
    expect(readUblExchange(element('Catalogue', []))).toBeNull();
    expect(readUblExchange({ ...ublExchange(DOCUMENT), space: 'none' })).toBeNull();
  });

  it('reads an order of somebody who keeps no revisions as the first, and a price by its base', () => {
    const written = ublExchange(DOCUMENT);
    const line = at(written, 'OrderLine', 'LineItem')!;
    const plain = {
      ...written,
      children: [
        ...written.children.filter(({ name }) => name !== 'AdditionalDocumentReference' && name !== 'OrderLine'),
        element('OrderLine', [
          element('LineItem', [
            ...line.children.filter(({ name }) => name !== 'Price' && name !== 'Delivery'),
            element('Price', [element('PriceAmount', '185.05', { currencyID: 'MYR' }), element('BaseQuantity', '10')]),
          ]),
        ]),
      ],
    };
    expect(readUblExchange(plain)).toEqual({
      ...DOCUMENT,
      lines: [{ ...FULL, ordered: null, sold: null, price: '18.505', day: null }],
    });
  });

  it('says what an order change, an answer or an invoice lacks', () => {
    const without = (document: ExchangedDocument, name: string) => {
      const written = ublExchange(document);
      return ublProblems({ ...written, children: written.children.filter((child) => child.name !== name) });
    };
    expect(without(documentOf({ revision: 1 }), 'SequenceNumberID')).toEqual([
      { path: 'OrderChange', words: 'lacks SequenceNumberID' },
    ]);
    expect(without(SENT[8]![2], 'LegalMonetaryTotal')).toEqual([
      { path: 'Invoice', words: 'lacks LegalMonetaryTotal' },
    ]);
    expect(without(SENT[9]![2], 'SenderParty')).toEqual([{ path: 'ApplicationResponse', words: 'lacks SenderParty' }]);
  });
});
