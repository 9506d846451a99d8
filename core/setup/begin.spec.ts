import { ACCOUNT_ROLES } from '@core/ledger';
import {
  decideBegin,
  missingBefore,
  signInRefusals,
  STARTER_ACCOUNTS,
  STARTER_TAXES,
  STARTER_TERMS,
  type BeginGround,
  type BeginTyped,
  type FirstPerson,
  type Standing,
} from '.';

const GROUND: BeginGround = {
  codes: ['HBW'],
  signIns: ['salmah'],
  currencies: ['MYR', 'SGD'],
  timeZones: ['UTC', 'Asia/Kuala_Lumpur'],
  common: (password) => password === 'correct horse',
};
const PERSON: FirstPerson = { name: 'Zainab', signIn: 'zainab', password: 'river-otter-lamp' };
const COMPANY: BeginTyped['company'] = {
  name: ' Sungai Jernih Pools ',
  code: 'SJP',
  currency: 'MYR',
  timeZone: 'Asia/Kuala_Lumpur',
  street: '',
  postcode: '',
  town: '',
  country: 'MY',
  registration: '',
  taxNumber: '',
  phone: '',
  email: '',
  bank: '',
  bankAccount: '',
};
const typed = (change: Partial<BeginTyped> = {}): BeginTyped => ({
  company: COMPANY,
  week: '1111100',
  accounts: STARTER_ACCOUNTS,
  taxes: STARTER_TAXES,
  terms: STARTER_TERMS,
  locations: [{ code: 'MAIN', name: 'Main store' }],
  ...change,
});
const company = (change: Partial<BeginTyped['company']>) => typed({ company: { ...COMPANY, ...change } });
const refused = (given: BeginTyped, person: FirstPerson | null = PERSON) => {
  const decision = decideBegin(GROUND, given, person);
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};
type Wide<T> = {
  [Name in keyof T]: T[Name] extends string
    ? string extends T[Name]
      ? string
      : Name extends 'role'
        ? T[Name]
        : string
    : T[Name];
};
const each = <T>(rows: readonly T[], at: number, change: Partial<Wide<T>>): Wide<T>[] =>
  rows.map((row, index) => ({ ...row, ...(index === at ? change : {}) }) as Wide<T>);

describe('U1 a company is begun', () => {
  it('with the starter it is given, whose every role has one account', () => {
    const decision = decideBegin(GROUND, typed(), PERSON);
    expect(decision).toMatchObject({ ok: true, effects: { company: { name: 'Sungai Jernih Pools' } } });
    expect(decision.ok && decision.effects.terms).toEqual([
      { name: 'At once', days: 0 },
      { name: '14 days', days: 14 },
      { name: '30 days', days: 30 },
    ]);
    expect(STARTER_ACCOUNTS.map(({ role }) => role).sort()).toEqual([...ACCOUNT_ROLES].sort());
  });

  it.each([
    ['company.name: required', company({ name: ' ' })],
    ['company.name: too-long', company({ name: 'x'.repeat(121) })],
    ['company.code: required', company({ code: '' })],
    ['company.code: too-long', company({ code: 'NINELETTE' })],
    ['company.code: code-taken', company({ code: 'hbw' })],
    ['company.currency: unknown', company({ currency: 'XQZ' })],
    ['company.timeZone: unknown', company({ timeZone: 'Mars/Olympus' })],
    ['company.country: unknown', company({ country: 'MYS' })],
    ['company.street: too-long', company({ street: 'x'.repeat(81) })],
    ['company.bankAccount: too-long', company({ bankAccount: 'x'.repeat(41) })],
    ['week: no-work-day', typed({ week: '0000000' })],
    ['week: no-work-day', typed({ week: '11111' })],
    ['accounts.3.code: required', typed({ accounts: each(STARTER_ACCOUNTS, 3, { code: '' }) })],
    ['accounts.3.code: said-twice', typed({ accounts: each(STARTER_ACCOUNTS, 3, { code: '1000' }) })],
    ['accounts.0.name: too-long', typed({ accounts: each(STARTER_ACCOUNTS, 0, { name: 'x'.repeat(81) }) })],
    ['accounts: account-for', typed({ accounts: STARTER_ACCOUNTS.slice(1) })],
    ['taxes: required', typed({ taxes: [] })],
    ['taxes.0.rate: not-a-number', typed({ taxes: [{ code: 'ST', name: 'Tax', rate: 'six' }] })],
    ['taxes.0.rate: below-zero', typed({ taxes: [{ code: 'ST', name: 'Tax', rate: '-1' }] })],
    ['taxes.1.code: said-twice', typed({ taxes: each(STARTER_TAXES, 1, { code: 'st' }) })],
    ['terms: required', typed({ terms: [] })],
    ['terms.0.days: not-whole', typed({ terms: [{ name: 'Soon', days: '1.5' }] })],
    ['terms.0.days: not-whole', typed({ terms: [{ name: 'Late', days: '1000' }] })],
    ['terms.1.name: said-twice', typed({ terms: each(STARTER_TERMS, 1, { name: 'at once' }) })],
    ['locations: required', typed({ locations: [] })],
    ['locations.0.code: too-long', typed({ locations: [{ code: 'THIRTEENLETTR', name: 'Store' }] })],
  ])('%s', (refusal, given) => expect(refused(given)).toEqual([refusal]));

  it.each([
    ['person.name: required', { name: '' }],
    ['person.signIn: required', { signIn: ' ' }],
    ['person.signIn: not-a-sign-in', { signIn: 'two words' }],
    ['person.signIn: sign-in-taken', { signIn: 'SALMAH' }],
    ['person.password: required', { password: '' }],
    ['person.password: password-short', { password: 'otter-lam' }],
    ['person.password: password-common', { password: 'Correct Horse' }],
    ['person.password: password-common', { password: 'zainab-1234567' }],
    ['person.password: password-common', { password: 'ababababababab' }],
    ['person.password: too-long', { password: 'river otter '.repeat(20) }],
  ])('%s', (refusal, change) => expect(refused(typed(), { ...PERSON, ...change })).toEqual([refusal]));

  it('asks nothing of a person where somebody who is there begins the next', () => {
    expect(refused(typed(), null)).toEqual([]);
  });

  it('says everything at once', () => {
    expect(refused(company({ name: '', currency: '' }), { ...PERSON, password: 'short' })).toEqual([
      'company.name: required',
      'company.currency: unknown',
      'person.password: password-short',
    ]);
  });

  it('takes names to sign in by with dots and signs of mail', () => {
    expect(signInRefusals('nur.aida@pools', 'signIn', [])).toEqual([]);
  });
});

describe('U1 what is missing before a first order', () => {
  const standing = (change: Partial<Standing> = {}): Standing => ({
    items: 3,
    unpriced: 0,
    customers: 2,
    unaddressed: 0,
    vendors: 1,
    unbought: 0,
    neverStocked: 0,
    people: 2,
    orders: 1,
    hasBank: true,
    ...change,
  });
  const missing = (change: Partial<Standing>) => missingBefore(standing(change)).map(({ what }) => what);

  it('empties itself', () => {
    expect(missing({})).toEqual([]);
    expect(missing({ items: 0, customers: 0, orders: 0, people: 1, hasBank: false })).toEqual([
      'items',
      'customers',
      'bank',
      'people',
    ]);
    expect(missing({ orders: 0 })).toEqual(['order']);
    expect(missing({ orders: 0, items: 0 })).toEqual(['items']);
  });

  it('counts what is only worth doing', () => {
    expect(missingBefore(standing({ unpriced: 4, neverStocked: 2, unbought: 1, unaddressed: 5 }))).toEqual([
      { what: 'addresses', needed: true, count: 5 },
      { what: 'prices', needed: false, count: 4 },
      { what: 'vendors', needed: false, count: 1 },
      { what: 'stock', needed: false, count: 2 },
    ]);
    expect(missing({ vendors: 0 })).toEqual(['vendors']);
    expect(missing({ vendors: 0, items: 0 })).toEqual(['items']);
  });
});
