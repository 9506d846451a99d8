import { computed, signal, type WritableSignal } from '@angular/core';
import { ACCOUNT_ROLES, type AccountRole } from '@core/ledger';
import { STARTER_ACCOUNTS, STARTER_TAXES, STARTER_TERMS } from '@core/setup';
import { dropDraft, keepDraft, keptDraft } from '../kit/act/drafts';

const COMPANY = [
  'name',
  'code',
  'currency',
  'timeZone',
  'street',
  'postcode',
  'town',
  'country',
  'registration',
  'taxNumber',
  'phone',
  'email',
  'bank',
  'bankAccount',
] as const;
export type CompanyGap = (typeof COMPANY)[number];
export type Row = Record<string, string>;
export type Table = 'accounts' | 'taxes' | 'terms' | 'locations';

interface Kept {
  company: Record<CompanyGap, string>;
  week: string;
  tables: Record<Table, Row[]>;
  person: { name: string; signIn: string };
}

const DRAFT = 'first visit';

/** A word of up to eight letters for a company: the first letters of its words, or its first four. */
export function shortNameOf(name: string): string {
  const words = name.split(/[^\p{L}\p{N}]+/u).filter(Boolean);
  const letters = words.length > 1 ? words.map((word) => word[0]!).join('') : (words[0] ?? '').slice(0, 4);
  return letters.slice(0, 8).toUpperCase();
}

/** The letter in which a company is written: kept in this browser until it is sent, but for the words nobody else may know. */
export class Letter {
  private readonly kept = keptDraft<Kept>(DRAFT);
  readonly company = Object.fromEntries(
    COMPANY.map((gap) => [gap, signal(this.kept?.company[gap] ?? FIRST[gap] ?? '')]),
  ) as Record<CompanyGap, WritableSignal<string>>;
  readonly week = signal(this.kept?.week ?? '1111100');
  readonly tables = signal<Record<Table, Row[]>>(
    this.kept?.tables ?? {
      accounts: STARTER_ACCOUNTS.map((each) => ({ ...each })),
      taxes: STARTER_TAXES.map((each) => ({ ...each })),
      terms: STARTER_TERMS.map((each) => ({ ...each })),
      locations: [{ code: 'MAIN', name: 'Main store' }],
    },
  );
  readonly person = {
    name: signal(this.kept?.person.name ?? ''),
    signIn: signal(this.kept?.person.signIn ?? ''),
    password: signal(''),
  };
  readonly word = signal('');
  /** The short name, made of the name until somebody writes one. */
  readonly code = computed(() => this.company.code() || shortNameOf(this.company.name()));

  /** What is kept in this browser by now. */
  readonly draft = computed<Kept>(() => ({
    company: Object.fromEntries(COMPANY.map((gap) => [gap, this.company[gap]()])) as Kept['company'],
    week: this.week(),
    tables: this.tables(),
    person: { name: this.person.name(), signIn: this.person.signIn() },
  }));

  keep(): void {
    keepDraft(DRAFT, this.draft());
  }

  drop(): void {
    dropDraft(DRAFT);
  }

  set(table: Table, index: number, column: string, text: string): void {
    this.tables.update((all) => ({
      ...all,
      [table]: all[table].map((row, at) => (at === index ? { ...row, [column]: text } : row)),
    }));
  }

  add(table: Table): void {
    const fresh: Row = { taxes: { code: '', name: '', rate: '' }, terms: { name: '', days: '' } }[table as 'taxes'] ?? {
      code: '',
      name: '',
    };
    this.tables.update((all) => ({ ...all, [table]: [...all[table], fresh] }));
  }

  remove(table: Table, index: number): void {
    this.tables.update((all) => ({ ...all, [table]: all[table].filter((_, at) => at !== index) }));
  }

  turnDay(at: number): void {
    const days = [...this.week()];
    days[at] = days[at] === '1' ? '0' : '1';
    this.week.set(days.join(''));
  }

  /** What is sent of the company. */
  body() {
    const { company, week, tables } = this.draft();
    return {
      company: { ...company, code: this.code() },
      week,
      accounts: tables.accounts.map(({ code, name, role }) => ({
        code: code!,
        name: name!,
        role: role as AccountRole,
      })),
      taxes: tables.taxes.map(({ code, name, rate }) => ({ code: code!, name: name!, rate: rate! })),
      terms: tables.terms.map(({ name, days }) => ({ name: name!, days: days! })),
      locations: tables.locations.map(({ code, name }) => ({ code: code!, name: name! })),
    };
  }
}

/** What this machine says of itself, until somebody says otherwise. */
const FIRST: Partial<Record<CompanyGap, string>> = {
  timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  currency: '',
};

/** What an account is for, in words. */
export const roleWords = (role: string) => role.replaceAll('-', ' ');

/**
 * Accounts as a table of texts has them, a row each of what it is for (as here, or as we call it), number and name; the
 * chart they make over the one there was, or what is wrong with them.
 */
export function accountsOf(rows: readonly (readonly string[])[], now: readonly Row[]): Row[] | string {
  const known = new Map(ACCOUNT_ROLES.map((role) => [roleWords(role), role]));
  const read = rows
    .map((row) => row.map((cell) => cell.trim()))
    .filter((row) => row.some(Boolean))
    .map(([role = '', code = '', name = '']) => ({
      role: known.get(role.toLowerCase().replaceAll('-', ' ')),
      said: role,
      code,
      name,
    }));
  // A heading is no account.
  const accounts = read.filter(({ role }, at) => role !== undefined || at > 0);
  const unknown = accounts.find(({ role }) => role === undefined);
  if (unknown) return `Nothing is posted to “${unknown.said}” by itself; the first column says what an account is for.`;
  if (accounts.length === 0) return 'There is no account in it: a row has what it is for, its number and its name.';
  return now.map((row) => {
    const found = accounts.find(({ role }) => role === row['role']);
    return found ? { ...row, code: found.code, name: found.name || row['name']! } : row;
  });
}
