import { passwordRefusals } from '@core/access';
import { isDecimalText, sameText } from '@core/kernel';
import { ACCOUNT_ROLES, type AccountRole } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** A company as its first visitor writes it. // U1 */
export interface BeginTyped {
  company: {
    name: string;
    /** Up to eight letters that stand for it where there are several. */
    code: string;
    /** ISO 4217. */
    currency: string;
    /** IANA. */
    timeZone: string;
    street: string;
    postcode: string;
    town: string;
    /** ISO 3166-1 alpha-2, or empty. */
    country: string;
    registration: string;
    taxNumber: string;
    phone: string;
    email: string;
    bank: string;
    bankAccount: string;
  };
  /** Work days from Monday on: `1111100`. */
  week: string;
  accounts: readonly { code: string; name: string; role: AccountRole }[];
  taxes: readonly { code: string; name: string; rate: string }[];
  terms: readonly { name: string; days: string }[];
  /** Where goods are kept; the first is the main one. */
  locations: readonly { code: string; name: string }[];
}

/** The first person of an installation; who is there already makes the next company. */
export interface FirstPerson {
  name: string;
  signIn: string;
  password: string;
}

export interface BeginGround {
  /** Companies there are already, by their code. */
  codes: readonly string[];
  /** Names people sign in by. */
  signIns: readonly string[];
  /** Currencies and zones this program knows. */
  currencies: readonly string[];
  timeZones: readonly string[];
  common(password: string): boolean;
}

/** A company with what it begins with, as it is kept. */
export type BeginEffects = Omit<BeginTyped, 'terms'> & { terms: { name: string; days: number }[] };

const NEEDED: readonly [field: keyof BeginTyped['company'], what: string, most: number][] = [
  ['name', 'The name of the company', 120],
  ['code', 'The short name', 8],
];
const SHORT: readonly [field: keyof BeginTyped['company'], what: string, most: number][] = [
  ['street', 'The street', 80],
  ['postcode', 'The postcode', 12],
  ['town', 'The town', 60],
  ['registration', 'The registration', 30],
  ['taxNumber', 'The tax number', 30],
  ['phone', 'The phone number', 40],
  ['email', 'The mail address', 120],
  ['bank', 'The bank', 60],
  ['bankAccount', 'The account', 40],
];

/**
 * A company that can take its first order: refused at each gap that is left or filled wrongly (`company.name`,
 * `accounts.3.code`). Every thing that is posted by itself has one account. O(what was typed). // U1
 */
export function decideBegin(
  ground: BeginGround,
  typed: BeginTyped,
  person: FirstPerson | null,
): Decision<BeginEffects> {
  return decided(
    [
      ...companyRefusals(ground, typed),
      ...accountRefusals(typed.accounts),
      ...taxRefusals(typed.taxes),
      ...termRefusals(typed.terms),
      ...locationRefusals(typed.locations),
      ...(person ? personRefusals(ground, person) : []),
    ],
    () => ({
      ...typed,
      company: trimmed(typed.company),
      accounts: typed.accounts.map(trimmed),
      taxes: typed.taxes.map(trimmed),
      terms: typed.terms.map(({ name, days }) => ({ name: name.trim(), days: Number(days) })),
      locations: typed.locations.map(trimmed),
    }),
  );
}

const trimmed = <T extends object>(texts: T): T =>
  Object.fromEntries(
    Object.entries(texts).map(([name, text]) => [name, typeof text === 'string' ? text.trim() : (text as unknown)]),
  ) as T;

/** A text that is missing or longer than it may be. */
const textRefusals = (text: string, field: string, what: string, most: number, needed = true): Refusal[] => {
  if (needed && text.trim() === '') return [refuse('required', field, { what })];
  return text.trim().length > most ? [refuse('too-long', field, { what, most: String(most) })] : [];
};

function companyRefusals({ codes, currencies, timeZones }: BeginGround, { company, week }: BeginTyped): Refusal[] {
  const field = (name: string) => `company.${name}`;
  const code = company.code.trim();
  return [
    ...NEEDED.flatMap(([name, what, most]) => textRefusals(company[name], field(name), what, most)),
    ...SHORT.flatMap(([name, what, most]) => textRefusals(company[name], field(name), what, most, false)),
    ...(codes.some((each) => sameText(each) === sameText(code)) ? [refuse('code-taken', field('code'), { code })] : []),
    ...(currencies.includes(company.currency) ? [] : [refuse('unknown', field('currency'), { what: 'The currency' })]),
    ...(timeZones.includes(company.timeZone) ? [] : [refuse('unknown', field('timeZone'), { what: 'The time zone' })]),
    ...(/^([A-Za-z]{2})?$/.test(company.country.trim())
      ? []
      : [refuse('unknown', field('country'), { what: 'The country' })]),
    ...(/^[01]{7}$/.test(week) && week.includes('1') ? [] : [refuse('no-work-day', 'week', {})]),
  ];
}

/** Rows of which two say the same of what tells them apart. */
function twice(rows: readonly string[], at: (index: number) => string, what: string): Refusal[] {
  const known = new Set<string>();
  return rows.flatMap((text, index) => {
    const same = sameText(text);
    if (text.trim() !== '' && known.has(same)) return [refuse('said-twice', at(index), { what, name: text.trim() })];
    known.add(same);
    return [];
  });
}

function accountRefusals(accounts: BeginTyped['accounts']): Refusal[] {
  const roles = accounts.map(({ role }) => role);
  return [
    ...accounts.flatMap(({ code, name }, index) => [
      ...textRefusals(code, `accounts.${index}.code`, 'The account number', 10),
      ...textRefusals(name, `accounts.${index}.name`, 'The name of the account', 80),
    ]),
    ...twice(
      accounts.map(({ code }) => code),
      (index) => `accounts.${index}.code`,
      'account',
    ),
    ...ACCOUNT_ROLES.filter((role) => roles.filter((each) => each === role).length !== 1).map((role) =>
      refuse('account-for', 'accounts', { role: role.replaceAll('-', ' ') }),
    ),
  ];
}

function taxRefusals(taxes: BeginTyped['taxes']): Refusal[] {
  if (taxes.length === 0) return [refuse('required', 'taxes', { what: 'A tax code' })];
  return [
    ...taxes.flatMap(({ code, name, rate }, index) => [
      ...textRefusals(code, `taxes.${index}.code`, 'The tax code', 10),
      ...textRefusals(name, `taxes.${index}.name`, 'The name of the tax', 60),
      ...rateRefusals(rate.trim(), `taxes.${index}.rate`),
    ]),
    ...twice(
      taxes.map(({ code }) => code),
      (index) => `taxes.${index}.code`,
      'tax code',
    ),
  ];
}

function rateRefusals(rate: string, field: string): Refusal[] {
  if (!isDecimalText(rate, 'percent')) return [refuse('not-a-number', field, { what: 'The rate' })];
  return rate.startsWith('-') ? [refuse('below-zero', field, { what: 'The rate' })] : [];
}

/** The longest a customer may wait to pay. */
const MOST_DAYS = 999;

function termRefusals(terms: BeginTyped['terms']): Refusal[] {
  if (terms.length === 0) return [refuse('required', 'terms', { what: 'When customers pay' })];
  return [
    ...terms.flatMap(({ name, days }, index) => [
      ...textRefusals(name, `terms.${index}.name`, 'The name of the terms', 60),
      ...(/^\d{1,3}$/.test(days.trim()) && Number(days) <= MOST_DAYS
        ? []
        : [refuse('not-whole', `terms.${index}.days`, { what: 'The days' })]),
    ]),
    ...twice(
      terms.map(({ name }) => name),
      (index) => `terms.${index}.name`,
      'term',
    ),
  ];
}

function locationRefusals(locations: BeginTyped['locations']): Refusal[] {
  if (locations.length === 0) return [refuse('required', 'locations', { what: 'Where goods are kept' })];
  return [
    ...locations.flatMap(({ code, name }, index) => [
      ...textRefusals(code, `locations.${index}.code`, 'The code of the place', 12),
      ...textRefusals(name, `locations.${index}.name`, 'The name of the place', 60),
    ]),
    ...twice(
      locations.map(({ code }) => code),
      (index) => `locations.${index}.code`,
      'place',
    ),
  ];
}

/** Somebody new, each field refused at its own (`person.name` where `at` is `person.`). // U1 U4 */
export function personRefusals(
  { signIns, common }: Pick<BeginGround, 'signIns' | 'common'>,
  person: FirstPerson,
  at = 'person.',
): Refusal[] {
  return [
    ...textRefusals(person.name, `${at}name`, 'Your name', 120),
    ...signInRefusals(person.signIn, `${at}signIn`, signIns),
    ...passwordRefusals(person.password, `${at}password`, [person.name, person.signIn], common),
  ];
}

/** A name people sign in by: letters, digits, dots and dashes, nobody else's. // U4 */
export function signInRefusals(signIn: string, field: string, taken: readonly string[]): Refusal[] {
  const name = signIn.trim().toLowerCase();
  if (name === '') return [refuse('required', field, { what: 'The name you sign in by' })];
  if (!/^[\p{L}\p{N}][\p{L}\p{N}.@_-]{0,59}$/u.test(name)) return [refuse('not-a-sign-in', field, {})];
  return taken.some((each) => sameText(each) === sameText(name)) ? [refuse('sign-in-taken', field, { name })] : [];
}
