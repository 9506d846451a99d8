/** What stands on paper of the demo's companies and parties; all of it is invented. */
interface Paper {
  street: string;
  postcode: string;
  town: string;
  taxNumber: string;
  /** What its papers are written in; English where nothing is said. */
  language?: 'ms';
}

const PAPERS: Readonly<Record<string, Paper>> = {
  'C-201': { street: 'Jalan Pantai 1', postcode: '22300', town: 'Kuala Besut', taxNumber: 'ST-0922-0201' },
  'C-202': { street: 'Jalan Renang 8', postcode: '40100', town: 'Shah Alam', taxNumber: 'ST-0322-0202' },
  'C-203': { street: 'Jalan Nilam 3', postcode: '46000', town: 'Petaling Jaya', taxNumber: 'ST-0322-0203' },
  'C-204': {
    street: 'Kawasan Padi 18',
    postcode: '05150',
    town: 'Alor Setar',
    taxNumber: 'ST-0422-0204',
    language: 'ms',
  },
  'C-208': { street: 'Taman Kasturi 1', postcode: '70400', town: 'Seremban', taxNumber: 'ST-0622-0208' },
  'V-101': { street: 'Jalan Arus 22', postcode: '47100', town: 'Puchong', taxNumber: 'ST-0311-0101' },
  'V-102': { street: 'Kawasan Injap 4', postcode: '25150', town: 'Kuantan', taxNumber: 'ST-0911-0102' },
  'V-103': { street: 'Jalan Garam 9', postcode: '14100', town: 'Simpang Ampat', taxNumber: 'ST-0411-0103' },
  'V-104': { street: 'Persiaran Delima 40', postcode: '42000', town: 'Port Klang', taxNumber: 'ST-0311-0104' },
  'V-105': { street: 'Kawasan Besi 7', postcode: '31500', town: 'Lahat', taxNumber: 'ST-0511-0105' },
};

/** A party's address and tax number; empty, where its papers were never asked for. */
export function paperOf({
  number,
}: {
  number: string;
}): Omit<Paper, 'language'> & { country: string; language: 'en' | 'ms' } {
  const paper = PAPERS[number];
  const none = { street: '', postcode: '', town: '', taxNumber: '', country: '' };
  return { ...(paper ? { ...paper, country: 'MY' } : none), language: paper?.language ?? 'en' };
}

/** What we write at the end of a kind of document. */
export const OUR_TEXTS = [
  { documentKind: 'CI', language: 'en', words: 'Goods stay ours until they are paid in full.' },
  { documentKind: 'CI', language: 'ms', words: 'Barang kekal milik kami sehingga dibayar sepenuhnya.' },
] as const;

/** Our own letterheads. */
export const OUR_PAPER = {
  HBW: {
    street: 'Jalan Hulu Air 12',
    postcode: '48200',
    town: 'Serendah',
    country: 'MY',
    registration: '2010-0100-HBW',
    taxNumber: 'ST-0300-1200',
    phone: '03-5550 1000',
    email: 'accounts@hulubening.example',
    bank: 'Bank Muara Contoh',
    bankAccount: '5550 1234 8800',
  },
  MBF: {
    street: '8 Muara Works Road',
    postcode: '698012',
    town: 'Muara',
    country: 'SG',
    registration: '2014-0200-MBF',
    taxNumber: 'GST-M5-0200',
    phone: '6555 0200',
    email: 'accounts@muarabening.example',
    bank: 'Bank Selat Contoh',
    bankAccount: '555-200-8800',
  },
} as const;
