import type { DueRow, OfferRow } from './service';
import { arrivalOf, dueOf, marginOf, sentenceOf, sentOf, stepOf } from './words';

const offer = (change: Partial<OfferRow> = {}): OfferRow => ({
  id: 1,
  kind: 'order',
  state: 'open',
  sister: { id: 2, code: 'MBF', name: 'Muara', currency: 'SGD', elsewhere: false },
  number: 'PO-7',
  revision: 0,
  changed: false,
  gone: false,
  lines: 1,
  first: '4 FV-900',
  day: '2027-03-20',
  forWhom: '',
  document: null,
  reason: '',
  untilDay: null,
  invoices: [],
  sameAs: null,
  ...change,
});
const KINDS = ['order', 'purchase', 'receipt', 'invoice'] as const;

describe('an offer in words', () => {
  it('says who does what with whom, from both sides, and straight to whom', () => {
    expect(KINDS.map((kind) => sentenceOf(offer({ kind })))).toEqual([
      'Muara buys 4 FV-900 of us',
      'Muara sells us 4 FV-900',
      'Muara shipped us 4 FV-900',
      'Muara invoices us 4 FV-900',
    ]);
    expect(sentenceOf(offer({ lines: 3, forWhom: 'Kasturi' }))).toBe(
      'Muara buys 4 FV-900 and 2 more of us, straight to Kasturi',
    );
    expect(KINDS.map((kind) => sentOf(offer({ kind, lines: 2 })))).toEqual([
      'We buy 4 FV-900 and 1 more of Muara',
      'We sell Muara 4 FV-900 and 1 more',
      'We shipped Muara 4 FV-900 and 1 more',
      'We invoiced Muara 4 FV-900 and 1 more',
    ]);
  });

  it('says in the margin what changed since, first what is gone', () => {
    const margin = (change: Partial<OfferRow>) => marginOf(offer(change), '2027-03-01');
    const twin = { kind: 'SO' as const, id: 4, number: 'SO-4' };
    expect(margin({})).toBe('');
    expect(margin({ gone: true, changed: true })).toBe('taken back since');
    expect(margin({ changed: true, sameAs: twin })).toBe('changed since');
    expect(margin({ sameAs: twin })).toBe('told twice?');
    expect(margin({ state: 'aside', untilDay: '2027-03-04' })).toBe('aside until Thu 4 Mar');
  });

  it('names its next step by what it will do', () => {
    const document = { kind: 'RC' as const, id: 4, number: 'RC-4' };
    expect(KINDS.map((kind) => stepOf(offer({ kind })))).toEqual([
      'Take as an order…',
      'Take as a purchase…',
      'Receive…',
      'Enter…',
    ]);
    expect(stepOf(offer({ kind: 'receipt', invoices: ['CI-1'] }))).toBe('Receive and enter…');
    expect(stepOf(offer({ changed: true, document }))).toBe('Change RC-4…');
    expect(stepOf(offer({ gone: true, document }))).toBe('Cancel RC-4…');
    expect(stepOf(offer({ gone: true, kind: 'receipt', document }))).toBe('Take RC-4 back…');
  });
});

describe('what goes to companies elsewhere and comes from them, in words', () => {
  const due = (change: Partial<DueRow> = {}): DueRow => ({
    id: 1,
    kind: 'order',
    number: 'PO-7',
    revision: 0,
    gone: false,
    returned: false,
    reason: '',
    sister: { id: 3, code: 'LGW', name: 'Gading', currency: 'MYR', elsewhere: true },
    email: '',
    sentOn: null,
    document: null,
    ...change,
  });
  it('says what is to be sent, how often it changed, and what is taken back', () => {
    expect(KINDS.map((kind) => dueOf(due({ kind })))).toEqual([
      'is ordered of Gading',
      'is sold to Gading',
      'was shipped to Gading',
      'invoices Gading',
    ]);
    expect(dueOf(due({ revision: 2 }))).toBe('is ordered of Gading, changed for the second time');
    expect(dueOf(due({ revision: 6 }))).toBe('is ordered of Gading, changed for the 6th time');
    expect(dueOf(due({ revision: 2, gone: true }))).toBe('is ordered of Gading, and is taken back');
    expect(dueOf(due({ returned: true, revision: 1 }))).toBe('of Gading goes back');
  });

  it('says what a file tells and what becomes of it', () => {
    const arrival = { number: 'PO-7', kind: 'order' as const, sister: 'Gading', does: 'new' as const, folded: false };
    const kinds = ['order', 'purchase', 'receipt', 'invoice', 'answer'] as const;
    expect(kinds.map((kind) => arrivalOf({ ...arrival, kind }))).toEqual(
      ['an order', 'an order response', 'a despatch advice', 'an invoice', 'an answer'].map(
        (what) => `of Gading is ${what}; it will wait in the tray.`,
      ),
    );
    expect(arrivalOf({ ...arrival, folded: true })).toBe(
      'of Gading is an order that says what we have; nothing is left to do.',
    );
    expect(arrivalOf({ ...arrival, does: 'changed' })).toBe(
      'of Gading changed; what is another will stand in the tray.',
    );
    expect(arrivalOf({ ...arrival, does: 'nothing', folded: true })).toMatch(/came before/);
    expect(arrivalOf({ ...arrival, does: 'returned' })).toMatch(/comes back from Gading/);
  });
});
