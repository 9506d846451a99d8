/** What a bar code of the GS1 system says of a thing; only what it names. */
export interface Gs1Told {
  /** 14 digits. AI 01 */
  gtin?: string;
  /** AI 10 */
  lot?: string;
  /** `YYYY-MM-DD`. AI 17 */
  useBy?: string;
  /** AI 21 */
  serial?: string;
  /** How many. AI 30 */
  count?: string;
}

/** Between elements of no fixed length: FNC1, as scanners send it. */
const SEPARATOR = '\u001d';
const GTIN = /^(\d{8}|\d{12}|\d{13}|\d{14})$/;

/** Digits with the check digit that GS1 asks for behind them. GS1 General Specifications 7.9 */
export function withCheckDigit(digits: string): string {
  const weighed = [...digits].reverse().map((digit, at) => Number(digit) * (at % 2 === 0 ? 3 : 1));
  const sum = weighed.reduce((total, each) => total + each, 0);
  return `${digits}${(10 - (sum % 10)) % 10}`;
}

const checkDigitFits = (digits: string) => withCheckDigit(digits.slice(0, -1)) === digits;

/** A GTIN of 8, 12, 13 or 14 digits as 14 digits; null for anything else, or where its check digit is wrong. */
export function readGtin(text: string): string | null {
  const digits = text.trim();
  return GTIN.test(digits) && checkDigitFits(digits) ? digits.padStart(14, '0') : null;
}

/** A day of six digits; the day 00 is the month's last. The century is the nearest. */
function dayOf(digits: string): string | null {
  const [year, month, day] = [digits.slice(0, 2), digits.slice(2, 4), digits.slice(4, 6)].map(Number) as [
    number,
    number,
    number,
  ];
  const date = new Date(Date.UTC(2000 + year, day === 0 ? month : month - 1, day));
  const fits = month >= 1 && month <= 12 && date.getUTCMonth() === month - 1;
  return fits ? date.toISOString().slice(0, 10) : null;
}

/**
 * Reads a GS1 element string: with its brackets as it is printed, `(01)…(21)…`, or as a scanner sends it, elements of no
 * fixed length ended by FNC1. Elements it does not know end the reading; null where nothing was read or a part is wrong. // C7
 */
export function readGs1(text: string): Gs1Told | null {
  let rest = text.trim().replace(/^\]C1|^\]d2|^\]Q3/, '');
  if (/^\(\d{2}\)/.test(rest)) {
    rest = rest.replace(/\((\d{2})\)/g, `${SEPARATOR}$1`);
  }
  rest = rest.replace(/^\u001d+/, '');
  const told: Gs1Told = {};
  while (rest !== '') {
    const taken = element(rest);
    if (taken === null) return null;
    Object.assign(told, taken.told);
    rest = rest.slice(taken.length).replace(/^\u001d+/, '');
  }
  return told.gtin === undefined ? null : told;
}

/** The first element of what is left, and how long it is. */
function element(rest: string): { told: Gs1Told; length: number } | null {
  const identifier = rest.slice(0, 2);
  if (identifier === '01') {
    const digits = rest.slice(2, 16);
    return /^\d{14}$/.test(digits) && checkDigitFits(digits) ? { told: { gtin: digits }, length: 16 } : null;
  }
  if (identifier === '17') {
    const digits = rest.slice(2, 8);
    const useBy = /^\d{6}$/.test(digits) ? dayOf(digits) : null;
    return useBy === null ? null : { told: { useBy }, length: 8 };
  }
  const value = rest.slice(2).split(SEPARATOR)[0]!;
  const length = 2 + value.length;
  if (identifier === '10' && /^.{1,20}$/.test(value)) return { told: { lot: value }, length };
  if (identifier === '21' && /^.{1,20}$/.test(value)) return { told: { serial: value }, length };
  if (identifier === '30' && /^\d{1,8}$/.test(value)) {
    return { told: { count: String(Number(value)) }, length };
  }
  return null;
}
