import type { Content } from 'pdfmake/interfaces';
import type { PaperWords } from '@core/formats';
import { countryName } from '@core/kernel';
import type { Sql } from '../db';
import { FAINT } from './pdf';

/** Where somebody is, and what the tax office calls them; empty where nobody said. */
export interface OnPaper {
  name: string;
  number: string;
  street: string;
  postcode: string;
  town: string;
  country: string;
  taxNumber: string;
}

/** We on paper. */
export interface Letterhead extends Omit<OnPaper, 'number'> {
  registration: string;
  phone: string;
  email: string;
  bank: string;
  bankAccount: string;
  /** As a data URL (RFC 2397); null for none. */
  logo: string | null;
}

export async function ourLetterhead(sql: Sql, companyId: number): Promise<Letterhead> {
  const [row] = await sql.rows<Omit<Letterhead, 'logo'> & { logo: Buffer | null }>(
    `SELECT name, street, postcode, town, country, registration, tax_number, phone, email, bank, bank_account, logo
       FROM company WHERE id = ?`,
    [companyId],
  );
  const { logo, ...us } = row!;
  return { ...us, logo: logo === null ? null : dataUrl(logo) };
}

/** PNG begins with its signature (ISO/IEC 15948); what is kept else is JPEG. */
const dataUrl = (image: Buffer) =>
  `data:image/${image[0] === 0x89 ? 'png' : 'jpeg'};base64,${image.toString('base64')}`;

/** A party on paper: a customer without an address of its own is at the first that goods go to. */
export async function partyOnPaper(
  sql: Sql,
  companyId: number,
  { side, id }: { side: 'customer' | 'vendor'; id: number },
): Promise<OnPaper> {
  const [found] = await sql.rows<OnPaper>(
    `SELECT name, number, street, postcode, town, country, tax_number FROM ${side} WHERE company_id = ? AND id = ?`,
    [companyId, id],
  );
  const party = found!;
  if (party.street !== '' || side === 'vendor') return party;
  const [to] = await sql.rows<Pick<OnPaper, 'street' | 'postcode' | 'town' | 'country'>>(
    'SELECT street, postcode, town, country FROM ship_to WHERE company_id = ? AND customer_id = ? ORDER BY id LIMIT 1',
    [companyId, id],
  );
  return { ...party, ...to };
}

const townOf = ({ postcode, town }: Pick<OnPaper, 'postcode' | 'town'>) => `${postcode} ${town}`.trim();

/** The top of the first page: who we are at the right, the logo at the left where there is one. */
export function letterhead(us: Letterhead, { language }: PaperWords): Content {
  const lines = [
    us.street,
    [townOf(us), countryName(us.country, language)].filter(Boolean).join(', '),
    us.phone,
    us.email,
  ];
  return {
    columns: [
      us.logo === null
        ? { text: us.name, fontSize: 15, width: '*' }
        : { stack: [{ image: us.logo, fit: [170, 52] as [number, number] }], width: '*' },
      {
        width: 'auto',
        alignment: 'right',
        fontSize: 8,
        color: FAINT,
        stack: [
          ...(us.logo === null ? [] : [{ text: us.name, fontSize: 10, color: '#1c2b2a' }]),
          ...lines.filter(Boolean),
        ],
      },
    ],
    margin: [0, 0, 0, 22],
  };
}

/** Whom it is for, where the window of an envelope is: our own line small above it. (ISO 269, DL) */
export function addressWindow(
  us: Letterhead,
  them: OnPaper,
  { language, letterhead: words }: PaperWords,
): { stack: Content[]; margin: [number, number, number, number] } {
  const sender = [us.name, us.street, townOf(us)].filter(Boolean).join(' · ');
  const abroad =
    them.country !== '' && them.country !== us.country ? countryName(them.country, language).toUpperCase() : '';
  return {
    stack: [
      { text: sender, fontSize: 7, color: FAINT, margin: [0, 0, 0, 6] },
      { text: them.name, fontSize: 11 },
      ...[them.street, townOf(them), abroad].filter(Boolean).map((text): Content => ({ text })),
      {
        text: [
          `${words.yourNumber} ${them.number}`,
          ...(them.taxNumber ? [`${words.taxNumber} ${them.taxNumber}`] : []),
        ].join(', '),
        fontSize: 8,
        color: FAINT,
        margin: [0, 6, 0, 0],
      },
    ],
    margin: [0, 0, 0, 18],
  };
}

/** What stands at the foot of every page. */
export function footOf(us: Letterhead, { letterhead: words }: PaperWords): string {
  return [
    us.name,
    ...(us.registration ? [`${words.registered} ${us.registration}`] : []),
    ...(us.taxNumber ? [`${words.taxNumber} ${us.taxNumber}`] : []),
  ].join(' · ');
}

/** Where money is to go, and what it is to name; nothing where no account is kept. */
export function payTo(us: Letterhead, number: string, words: PaperWords): string {
  if (us.bankAccount === '') return '';
  return words.payTo(us.bank, us.bankAccount, number);
}
