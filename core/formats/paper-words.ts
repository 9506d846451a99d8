import type { Language } from '@core/kernel';

/** Everything our papers say, in one language; what people wrote themselves stays as they wrote it. */
export interface PaperWords {
  language: Language;
  title: Record<
    | 'draft'
    | 'confirmation'
    | 'revisedConfirmation'
    | 'purchase'
    | 'revisedPurchase'
    | 'delivery'
    | 'deliveryBack'
    | 'invoice'
    | 'credit',
    string
  >;
  fact: Record<
    | 'reference'
    | 'ordered'
    | 'revision'
    | 'goesTo'
    | 'terms'
    | 'releasedFrom'
    | 'deliverTo'
    | 'ourOrder'
    | 'ourOrders'
    | 'shipped'
    | 'takesBack'
    | 'agreement'
    | 'dated'
    | 'supplied'
    | 'due'
    | 'note'
    | 'rebateOf'
    | 'against'
    | 'why',
    string
  >;
  head: Record<'item' | 'what' | 'quantity' | 'price' | 'tax' | 'amount', string>;
  total: Record<
    | 'net'
    | 'netTaxApart'
    | 'of'
    | 'total'
    | 'stillOwed'
    | 'toYourCredit'
    | 'allowance'
    | 'from'
    | 'drawnFrom'
    | 'setOff',
    string
  >;
  line: Record<'ships' | 'due' | 'with' | 'number' | 'numbers' | 'priceOnly', string>;
  closing: Record<'purchase' | 'delivery', string>;
  letterhead: Record<'yourNumber' | 'taxNumber' | 'registered' | 'ourPlace' | 'us' | 'to' | 'of', string>;
  /** Where money is to go: to which bank and account, naming which document. */
  payTo: (bank: string, account: string, number: string) => string;
}

const ENGLISH: PaperWords = {
  language: 'en',
  title: {
    draft: 'Draft of an order',
    confirmation: 'Order confirmation',
    revisedConfirmation: 'Revised order confirmation',
    purchase: 'Purchase order',
    revisedPurchase: 'Revised purchase order',
    delivery: 'Delivery note',
    deliveryBack: 'Delivery taken back',
    invoice: 'Invoice',
    credit: 'Credit note',
  },
  fact: {
    reference: 'Your reference',
    ordered: 'Ordered',
    revision: 'Revision',
    goesTo: 'Goes to',
    terms: 'Terms',
    releasedFrom: 'Released from',
    deliverTo: 'Deliver to',
    ourOrder: 'Our order',
    ourOrders: 'Our orders',
    shipped: 'Shipped',
    takesBack: 'Takes back',
    agreement: 'Agreement',
    dated: 'Dated',
    supplied: 'Supplied',
    due: 'Due',
    note: 'It',
    rebateOf: 'Rebate of',
    against: 'Against',
    why: 'Why',
  },
  head: { item: 'Item', what: 'What', quantity: 'Quantity', price: 'Price', tax: 'Tax', amount: 'Amount' },
  total: {
    net: 'Net',
    netTaxApart: 'Net, tax apart',
    of: 'of',
    total: 'Total',
    stillOwed: 'Still owed',
    toYourCredit: 'Stands to your credit',
    allowance: 'Allowance',
    from: 'from',
    drawnFrom: 'drawn from',
    setOff: 'set off against',
  },
  line: { ships: 'ships', due: 'due', with: 'with', number: 'No.', numbers: 'Nos.', priceOnly: 'price only' },
  closing: {
    purchase: 'Please confirm the due dates, and name our number on your delivery note and invoice.',
    delivery: 'Received in good order:',
  },
  letterhead: {
    yourNumber: 'Your number with us',
    taxNumber: 'tax number',
    registered: 'registered',
    ourPlace: 'our place',
    us: 'us',
    to: 'to',
    of: 'of',
  },
  payTo: (bank, account, number) =>
    `Please pay to ${[bank, `account ${account}`].filter(Boolean).join(', ')}, naming ${number}.`,
};

const MALAY: PaperWords = {
  language: 'ms',
  title: {
    draft: 'Draf pesanan',
    confirmation: 'Pengesahan pesanan',
    revisedConfirmation: 'Pengesahan pesanan dipinda',
    purchase: 'Pesanan belian',
    revisedPurchase: 'Pesanan belian dipinda',
    delivery: 'Nota penghantaran',
    deliveryBack: 'Penghantaran ditarik balik',
    invoice: 'Invois',
    credit: 'Nota kredit',
  },
  fact: {
    reference: 'Rujukan anda',
    ordered: 'Tarikh pesanan',
    revision: 'Semakan',
    goesTo: 'Dihantar ke',
    terms: 'Terma bayaran',
    releasedFrom: 'Di bawah perjanjian',
    deliverTo: 'Hantar ke',
    ourOrder: 'Pesanan kami',
    ourOrders: 'Pesanan kami',
    shipped: 'Tarikh hantar',
    takesBack: 'Menarik balik',
    agreement: 'Perjanjian',
    dated: 'Tarikh',
    supplied: 'Dibekalkan',
    due: 'Perlu dibayar',
    note: 'Catatan',
    rebateOf: 'Rebat bagi',
    against: 'Terhadap',
    why: 'Sebab',
  },
  head: { item: 'Item', what: 'Perihal', quantity: 'Kuantiti', price: 'Harga', tax: 'Cukai', amount: 'Amaun' },
  total: {
    net: 'Bersih',
    netTaxApart: 'Bersih, tidak termasuk cukai',
    of: 'daripada',
    total: 'Jumlah',
    stillOwed: 'Baki terhutang',
    toYourCredit: 'Baki kredit anda',
    allowance: 'Elaun',
    from: 'mulai',
    drawnFrom: 'diambil daripada',
    setOff: 'ditolak daripada',
  },
  line: {
    ships: 'dihantar',
    due: 'dijangka',
    with: 'dengan',
    number: 'No. siri',
    numbers: 'No. siri',
    priceOnly: 'harga sahaja',
  },
  closing: {
    purchase: 'Sila sahkan tarikh dijangka, dan nyatakan nombor kami pada nota penghantaran dan invois anda.',
    delivery: 'Diterima dalam keadaan baik:',
  },
  letterhead: {
    yourNumber: 'Nombor anda dengan kami',
    taxNumber: 'nombor cukai',
    registered: 'nombor pendaftaran',
    ourPlace: 'tempat kami',
    us: 'kami',
    to: 'hingga',
    of: 'daripada',
  },
  payTo: (bank, account, number) =>
    `Sila bayar kepada ${[bank, `akaun ${account}`].filter(Boolean).join(', ')}, dengan menyatakan ${number}.`,
};

export const PAPER_WORDS: Readonly<Record<Language, PaperWords>> = { en: ENGLISH, ms: MALAY };
