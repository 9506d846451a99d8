import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router } from '@angular/router';
import { parse } from 'csv-parse/browser/esm/sync';
import type { Observable } from 'rxjs';
import { countryName } from '@core/kernel';
import { LEAST_PASSWORD } from '@core/access';
import * as contract from '@api/setup';
import { Session } from '../access';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { refusedAt } from '../kit/act/refusals';
import { Gap } from './gap';
import { accountsOf, Letter, roleWords, type Table } from './letter';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

const currencyName = new Intl.DisplayNames(['en'], { type: 'currency' });

/** The lists of the letter below its text, with their columns. */
const TABLES: readonly { table: Table; head: string; sub: string; one: string; columns: [string, string][] }[] = [
  {
    table: 'taxes',
    head: 'Our tax codes',
    sub: 'what is added to a price, to be changed to what the law where you are says',
    one: 'tax code',
    columns: [
      ['code', 'Code'],
      ['name', 'Name'],
      ['rate', 'Per cent'],
    ],
  },
  {
    table: 'terms',
    head: 'When customers pay',
    sub: 'days from the invoice on',
    one: 'term',
    columns: [
      ['name', 'Name'],
      ['days', 'Days'],
    ],
  },
  {
    table: 'locations',
    head: 'Where our goods are',
    sub: 'the first is where they come to and leave from unless somebody says otherwise',
    one: 'place',
    columns: [
      ['code', 'Code'],
      ['name', 'Name'],
    ],
  },
  {
    table: 'accounts',
    head: 'Our accounts',
    sub: 'each thing that is posted by itself has one; call them as your books do',
    one: 'account',
    columns: [
      ['code', 'Number'],
      ['name', 'Name'],
    ],
  },
];

/** The first visit to an empty installation, or the next company of one: a letter with gaps. // U1 */
@Component({
  selector: 'k-begin',
  imports: [Gap],
  templateUrl: './begin.html',
  styleUrl: './begin.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BeginPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  /** True where somebody who is signed in makes the next one. */
  readonly next = input(false);
  protected readonly letter = new Letter();
  protected readonly tables = TABLES;
  protected readonly days = DAYS;
  protected readonly roleWords = roleWords;
  protected readonly busy = signal(false);
  protected readonly refusals = signal<readonly RefusalShown[]>([]);
  protected readonly fileSaid = signal('');
  protected readonly open = signal<ReadonlySet<Table>>(new Set());
  private readonly first = viewChild<Gap>('first');
  protected readonly currencies = [
    { value: '', label: 'currency' },
    ...Intl.supportedValuesOf('currency').map((code) => ({ value: code, label: `${code}, ${currencyName.of(code)}` })),
  ];
  protected readonly zones = [
    ...new Set(['UTC', ...Intl.supportedValuesOf('timeZone'), this.letter.company.timeZone()]),
  ]
    .sort()
    .map((zone) => ({ value: zone, label: zone.replaceAll('_', ' ') }));
  protected readonly country = computed(() => {
    const code = this.letter.company.country().trim().toUpperCase();
    return /^[A-Z]{2}$/.test(code) ? countryName(code) : '';
  });

  /** What is still missing: it empties itself as the letter is written. */
  protected readonly missing = computed(() => {
    const { company, person, word } = this.letter;
    const gaps: [boolean, string][] = [
      [company.name().trim() === '', 'the name of the company'],
      [company.currency() === '', 'the currency your books are kept in'],
      [!this.letter.week().includes('1'), 'a day you work on'],
      ...(this.next()
        ? []
        : ([
            [person.name().trim() === '', 'your own name'],
            [person.signIn().trim() === '', 'what you sign in by'],
            [[...person.password()].length < LEAST_PASSWORD, `a password of ${LEAST_PASSWORD} letters or more`],
            [word().trim() === '', 'the word that was printed at the start'],
          ] as [boolean, string][])),
    ];
    return gaps.filter(([is]) => is).map(([, what]) => what);
  });
  /** What can be said later as well. */
  protected readonly later = computed(() => {
    const { company } = this.letter;
    const gaps: [boolean, string][] = [
      [company.street() === '' || company.town() === '', 'where you are, as it stands on invoices'],
      [company.taxNumber() === '', 'your tax number'],
      [company.bankAccount() === '', 'where customers pay to'],
    ];
    return gaps.filter(([is]) => is).map(([, what]) => what);
  });

  constructor() {
    inject(Title).setTitle('A company of our own · Kampong');
    afterNextRender(() => this.first()?.focus());
    effect(() => {
      this.letter.draft();
      this.letter.keep();
    });
  }

  protected at(field: string): string {
    return refusedAt(this.refusals(), field);
  }

  /** Refusals that belong to none of the gaps. */
  protected loose(): RefusalShown[] {
    return this.refusals().filter(({ field }) =>
      ['', 'week', 'accounts', 'taxes', 'terms', 'locations'].includes(field),
    );
  }

  /** A list that holds something refused stands open. */
  protected isOpen(table: Table): boolean {
    return this.open().has(table) || this.refusals().some(({ field }) => field.startsWith(`${table}.`));
  }

  protected turn(table: Table): void {
    this.open.update((now) => {
      const then = new Set(now);
      if (!then.delete(table)) then.add(table);
      return then;
    });
  }

  /** Numbers and names of accounts from a CSV: what each is for, its number, its name. */
  protected async read(file: File | undefined): Promise<void> {
    if (!file) return;
    try {
      const rows = parse(await file.text(), {
        bom: true,
        relax_column_count: true,
        skip_empty_lines: true,
      }) as string[][];
      const accounts = accountsOf(rows, this.letter.tables().accounts);
      if (typeof accounts === 'string') return this.fileSaid.set(accounts);
      this.letter.tables.update((all) => ({ ...all, accounts }));
      this.fileSaid.set(`The accounts are as ${file.name} says.`);
    } catch {
      this.fileSaid.set(`${file.name} cannot be read as CSV.`);
    }
  }

  protected send(): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.begun().subscribe({
      next: () => {
        this.letter.drop();
        void this.router.navigateByUrl('/today');
      },
      error: (error: unknown) => {
        this.refusals.set(refusalsOf(error));
        this.busy.set(false);
        setTimeout(() => document.querySelector<HTMLElement>('k-begin [aria-invalid="true"]')?.focus());
      },
    });
  }

  private begun(): Observable<void> {
    const body = this.letter.body();
    if (this.next()) return this.session.taking(this.api.call(contract.beginNextCompany, { body }));
    const { name, signIn, password } = this.letter.person;
    const person = { name: name(), signIn: signIn(), password: password() };
    return this.session.taking(
      this.api.call(contract.beginCompany, { body: { ...body, word: this.letter.word(), person } }),
    );
  }
}
