import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { toSignal } from '@angular/core/rxjs-interop';
import { of, type Observable } from 'rxjs';
import { map } from 'rxjs/operators';
import { elapsedShare, leftOf, LIMIT_POLICIES, type LimitPolicy } from '@core/agreements';
import { dec, lineAmount, share, sum, type DocumentRef } from '@core/kernel';
import { Session } from '../access/session';
import { DocumentDock } from '../documents/dock';
import { SendSheet } from '../documents/send-sheet';
import { pathOf } from '../kit/documents';
import { ChoiceField, DayField, LookupField, NumberField, TextField } from '../kit/fields';
import { counted, day, money, percent } from '../kit/formats';
import { Grid } from '../kit/grid';
import { liveDocument } from '../kit/live';
import { MoreMenu, type MoreEntry } from '../kit/more-menu';
import { Quiet } from '../kit/quiet';
import { Refusals } from '../kit/refusals';
import { Sheets } from '../kit/sheet';
import { TypedDraft } from '../kit/typed-draft';
import { CallsSheet } from './calls-sheet';
import {
  countsOf,
  coversText,
  lineColumns,
  movementWords,
  typedColumns,
  type CoveredChoice,
  type Line,
} from './agreement-columns';
import { MoneyPanel } from './money-panel';
import { PlanSheet } from './plan-sheet';
import { ProgressPanel } from './progress-panel';
import { PrepaymentSheet, SettleSheet, ShortfallSheet } from './money-sheets';
import { ReleaseSheet } from './release-sheet';
import { ReviseSheet } from './revise-sheet';
import { WrapUpSheet } from './wrap-up-sheet';
import { Agreements, type AgreementSheet, type CustomerChoice } from './service';
import {
  blankLine,
  committedValue,
  emptyTerms,
  isUsed,
  sendable,
  termsOf,
  type TypedLine,
  type TypedTerms,
} from './typed';

/** What happens above the committed quantity, as people read it. // A5 */
const LIMIT_NAMES: Record<LimitPolicy, string> = {
  refuse: 'refuse the release',
  warn: 'let it pass with a word',
  keep: 'keep the agreed price',
  split: 'the rest at the list price',
};

/** What is left to release of a line: in value, or at its price below the first price break. // A4 */
function leftValueOf(line: Line, { basis, currency }: AgreementSheet) {
  const left = leftOf(countsOf(line, basis)).toRelease;
  return basis === 'value' ? left : lineAmount(left, dec(line.unitPrice), currency);
}

/** One agreement: typed while it is a draft, read and released from once it is in force. */
@Component({
  selector: 'k-agreement',
  imports: [
    MoreMenu,
    ChoiceField,
    DayField,
    DocumentDock,
    Grid,
    LookupField,
    MoneyPanel,
    NumberField,
    ProgressPanel,
    Refusals,
    RouterLink,
    TextField,
  ],
  templateUrl: './agreement.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AgreementPage {
  private readonly agreements = inject(Agreements);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly quiet = inject(Quiet);
  private readonly sheets = inject(Sheets);
  private readonly titles = inject(Title);
  private readonly grid = viewChild<Grid<TypedLine>>('typedGrid');
  /** An id, or `new`. */
  readonly id = input.required<string>();
  /** A side sheet to open at once. */
  readonly do = input<string>();
  protected readonly workDate = this.session.workDate;
  protected readonly loaded = liveDocument(
    this.id,
    (id) => (id === 'new' ? of(null) : this.agreements.open(Number(id))),
    (document, shown) =>
      (document.kind === 'AG' && document.id === shown?.id) ||
      (shown?.documents.some((each) => each.document.kind === document.kind && each.document.id === document.id) ??
        false),
  );
  /** An approved agreement's terms are being changed: they are kept as a revision. // A15 */
  protected readonly revising = signal(false);
  protected readonly draft = new TypedDraft<AgreementSheet, TypedTerms, TypedLine>({
    kind: 'AG',
    id: this.id,
    loaded: this.loaded,
    keptAs: () => `agreement ${this.session.company()?.id} ${this.id()}${this.revising() ? ' revision' : ''}`,
    typable: (sheet) => sheet.state === 'draft' || this.revising(),
    empty: () => emptyTerms(this.workDate()),
    typedOf: termsOf,
    blankLine,
    isUsed,
    save: (typed, id) => this.agreements.save(sendable(typed, id)),
    differs: (typed, sheet) =>
      JSON.stringify(sendable(typed, sheet.id)) !== JSON.stringify(sendable(termsOf(sheet), sheet.id)),
  });
  protected readonly sheet = this.draft.sheet;
  protected readonly isNew = this.draft.isNew;
  protected readonly selected = signal<string | null>(null);
  protected readonly currency = computed(() => this.sheet()?.currency ?? this.session.company()?.currency ?? 'MYR');

  protected readonly document = computed<DocumentRef | null>(() => {
    const sheet = this.sheet();
    return sheet ? { kind: 'AG', id: sheet.id, number: sheet.number } : null;
  });
  protected readonly heading = computed(() => {
    const sheet = this.sheet();
    if (this.isNew())
      return { strong: 'New agreement', rest: '', sub: 'Nothing can be released until it is in force.' };
    if (!sheet) return { strong: '', rest: '', sub: '' };
    const gone = elapsedShare(sheet.firstDay, sheet.lastDay, this.workDate());
    const shipped = share(sheet.values.shipped, sheet.values.committed);
    const { move } = movementWords(sheet.side);
    const past = sheet.lastDay < this.workDate();
    const sub =
      sheet.state === 'draft'
        ? 'draft · nothing can be released from it until it is in force'
        : `${sheet.state.replace('-', ' ')} · by ${sheet.basis} · ${past ? 'its last day was' : 'to'} ${day(sheet.lastDay, this.workDate())} · ${percent(gone)} of the term gone, ${percent(shipped)} ${move}`;
    return { strong: sheet.number, rest: ` with ${sheet.party.name}`, sub };
  });

  constructor() {
    effect(() => this.titles.setTitle(`${this.heading().strong} · Kampong`));
    effect(() => {
      const asked = this.do();
      if (!asked || !this.sheet()) return;
      untracked(() => {
        void this.router.navigate([], { queryParams: {}, replaceUrl: true });
        if (asked === 'wrap-up') this.wrapUp();
        if (asked === 'calls') this.releaseCalls();
        if (asked === 'settle') this.settle();
        if (asked === 'shortfall') this.shortfall();
      });
    });
  }

  protected readonly findParties = (words: string) =>
    this.draft.typed()?.side === 'buying' ? this.agreements.vendors(words) : this.agreements.customers(words);
  protected takeParty(party: CustomerChoice): void {
    const buying = this.draft.typed()?.side === 'buying';
    this.draft.set({
      customerId: buying ? null : party.id,
      vendorId: buying ? party.id : null,
      partyName: party.name,
    });
  }
  protected setSide(side: string): void {
    this.draft.set({ side: side as AgreementSheet['side'], customerId: null, vendorId: null, partyName: '' });
  }

  private readonly choices = toSignal(this.agreements.groups(), { initialValue: { groups: [], organisations: [] } });
  protected readonly organisations = computed(() => [
    { value: '', label: "customer's own" },
    ...this.choices().organisations.map(({ id, name }) => ({ value: String(id), label: name })),
  ]);

  /** Items by their words; where the agreement is by value also the groups, and everything. // A1 */
  private covered(words: string): Observable<CoveredChoice[]> {
    const items = this.agreements
      .items(words)
      .pipe(map((found) => found.map((item) => ({ ...item, covered: { item } }))));
    if (this.draft.typed()?.basis !== 'value') return items;
    const wider: CoveredChoice[] = [
      ...this.choices().groups.map(({ id, code, name }) => ({
        id: -id,
        number: code,
        name,
        detail: 'item group',
        covered: { groupId: id },
      })),
      { id: 0, number: 'everything', name: 'all items', detail: 'every group', covered: { everything: true } },
    ];
    const wanted = words.trim().toLowerCase();
    const fitting = wider.filter((each) => `${each.number} ${each.name} ${each.detail}`.toLowerCase().includes(wanted));
    return items.pipe(map((found) => [...fitting, ...found]));
  }

  /** Refusals of the head without a control here, and of the lines, in words under the title. */
  protected readonly loose = computed(() =>
    this.draft.loose(
      /^(customerId|vendorId|title|firstDay|lastDay|signedOn|(tolerance|probability)Percent|priority|notes|rebate\.tiers|reminders|releaseAhead)$/,
    ),
  );

  protected readonly total = computed(() => {
    const typed = this.draft.typed();
    return typed ? committedValue(typed.lines, this.currency(), typed.basis) : '0';
  });

  protected readonly typedColumns = computed(() =>
    typedColumns({
      currency: this.currency(),
      basis: this.draft.typed()?.basis ?? 'quantity',
      lines: this.draft.typed()?.lines ?? [],
      refusals: this.draft.refusals(),
      covered: (words) => this.covered(words),
      setLine: (row, change) => this.draft.setLine(row, change),
    }),
  );
  protected readonly lineColumns = computed(() => {
    const sheet = this.sheet();
    return sheet ? lineColumns(sheet, this.workDate()) : [];
  });
  protected readonly rowKey = (row: TypedLine) => row.key;
  protected readonly rowId = (row: Line) => String(row.id);
  protected readonly line = computed(
    () => this.sheet()?.lines.find((line) => String(line.id) === this.selected()) ?? this.sheet()?.lines[0] ?? null,
  );

  protected readonly leftValue = computed(() => {
    const sheet = this.sheet();
    if (!sheet) return '0';
    return sum(sheet.lines.map((line) => leftValueOf(line, sheet))).toFixed();
  });

  protected money = (value: string) => money(value, this.currency());
  protected readonly day = (value: string | null) => day(value, this.workDate());
  protected readonly limitNames = LIMIT_NAMES;
  protected readonly limits = LIMIT_POLICIES.map((policy) => ({ value: policy, label: LIMIT_NAMES[policy] }));
  protected readonly priorities = ['1', '2', '3', '4', '5', '6', '7', '8', '9'].map((value) => ({
    value,
    label: value === '1' ? '1, asked first' : value === '9' ? '9, asked last' : value,
  }));
  protected readonly sides = [
    { value: 'selling', label: 'we sell' },
    { value: 'buying', label: 'we buy' },
  ];
  protected readonly bases = [
    { value: 'quantity', label: 'quantities of items' },
    { value: 'value', label: 'amounts' },
  ];
  protected readonly rebates = [
    { value: 'none value', label: 'none' },
    { value: 'whole value', label: 'one rate on all, by value' },
    { value: 'step value', label: 'each tier its rate, by value' },
    { value: 'whole quantity', label: 'one amount each, by units' },
    { value: 'step quantity', label: 'each tier its amount, by units' },
  ];
  protected setRebate(choice: string): void {
    const [rebateKind, rebateBy] = choice.split(' ') as [TypedTerms['rebateKind'], TypedTerms['rebateBy']];
    this.draft.set({ rebateKind, rebateBy });
  }
  protected readonly words = computed(() => movementWords(this.sheet()?.side ?? 'selling'));
  protected readonly counted = counted;
  protected readonly percent = percent;
  protected readonly coversText = coversText;
  protected readonly pathOf = pathOf;

  protected save(): void {
    this.grid()?.finishEditing();
    this.draft.save();
  }

  /** Saves what is typed and puts it in force. */
  protected putInForce(): void {
    this.grid()?.finishEditing();
    this.draft.saveAnd('In force now:', (id, version) => this.agreements.putInForce(id, version));
  }

  protected readonly differences = computed(() => {
    const theirs = this.draft.theirs();
    const mine = this.draft.typed();
    if (!theirs || !mine) return [];
    const other = termsOf(theirs);
    const rows: [string, string, string][] = [];
    const compare = (what: string, a: string, b: string) => {
      if (a !== b) rows.push([what, a || '–', b || '–']);
    };
    compare('About', other.title, mine.title);
    compare('First day', this.day(other.firstDay), this.day(mine.firstDay));
    compare('Last day', this.day(other.lastDay), this.day(mine.lastDay));
    compare('Signed', this.day(other.signedOn), this.day(mine.signedOn));
    compare('At the limit', LIMIT_NAMES[other.limitPolicy], LIMIT_NAMES[mine.limitPolicy]);
    compare('Probability', other.probabilityPercent, mine.probabilityPercent);
    compare('Priority', other.priority, mine.priority);
    compare('Notes', other.notes, mine.notes);
    compare('Tolerance', other.tolerancePercent, mine.tolerancePercent);
    const lineWords = (lines: readonly TypedLine[]) =>
      lines.filter(isUsed).map((line) => `${line.number} ${line.committed} at ${line.price}`);
    compare('Rebate', `${other.rebateKind} ${other.tiers}`, `${mine.rebateKind} ${mine.tiers}`);
    compare('Reminders', other.reminders, mine.reminders);
    compare('Lines', lineWords(other.lines).join('; '), lineWords(mine.lines).join('; '));
    return rows;
  });

  /** Its dates have passed while it is still open: wrapping up is the next step. */
  protected readonly past = computed(() => (this.sheet()?.lastDay ?? '9') < this.workDate());

  protected revise(): void {
    this.revising.set(true);
  }

  protected leaveRevision(): void {
    this.draft.drop();
    this.revising.set(false);
  }

  /** Shows what the revision changes and asks for its reason. // A15 */
  protected keepRevision(): void {
    this.grid()?.finishEditing();
    const sheet = this.sheet()!;
    this.sheets.open(ReviseSheet, { sheet, typed: this.draft.typed()! }).subscribe((done) => {
      if (!done) return;
      this.leaveRevision();
      this.quiet.say('Revised:', done.touched[0]!);
      this.loaded.reload();
    });
  }

  /** What else can be done with an agreement: its paper, and a copy. */
  protected readonly more = computed((): MoreEntry[] => [
    { value: 'pdf', label: 'PDF' },
    ...(this.session.may('send') ? [{ value: 'send', label: 'Send…' }] : []),
    { value: 'copy', label: 'Copy' },
  ]);

  protected doMore(chosen: string): void {
    const { id, number } = this.sheet()!;
    if (chosen === 'pdf') return void window.open(`/api/documents/AG/${id}/pdf`, '_blank');
    if (chosen === 'copy') return this.copy();
    const document = { kind: 'AG' as const, id, number };
    this.sheets.open(SendSheet, document).subscribe((done) => {
      if (done) this.quiet.say('Sent; it can be read in the mail room:', document);
    });
  }

  private copy(): void {
    this.agreements.copy(this.sheet()!.id).subscribe({
      next: ({ made }) => void this.quiet.lead('Copied into a draft:', made[0]!),
      error: (error: unknown) => this.draft.refuse(error),
    });
  }

  protected releaseCalls(): void {
    this.sheets.open(CallsSheet, this.sheet()!).subscribe((done) => {
      const made = done?.made[0];
      if (made) void this.quiet.lead('Released as planned:', made);
    });
  }

  protected settle(): void {
    this.sheets.open(SettleSheet, this.sheet()!).subscribe((done) => this.saidAndRead('Settled:', done?.made[0]));
  }

  protected prepay(): void {
    this.sheets.open(PrepaymentSheet, this.sheet()!).subscribe((done) => this.saidAndRead('Taken:', done?.made[0]));
  }

  protected shortfall(): void {
    this.sheets.open(ShortfallSheet, this.sheet()!).subscribe((done) => {
      if (done) this.saidAndRead(done.made[0] ? 'Charged:' : 'Nothing is charged:', done.made[0] ?? done.touched[0]);
    });
  }

  private saidAndRead(said: string, document: DocumentRef | undefined): void {
    if (!document) return;
    this.quiet.say(said, document);
    this.loaded.reload();
  }

  protected pause(pause: boolean): void {
    const sheet = this.sheet()!;
    this.done(this.agreements.pause(sheet.id, sheet.version, pause), pause ? 'Paused.' : 'In force again.');
  }

  protected cancel(): void {
    const sheet = this.sheet()!;
    this.done(this.agreements.cancel(sheet.id, sheet.version), 'Cancelled.');
  }

  private done(act: Observable<unknown>, said: string): void {
    act.subscribe({
      next: () => {
        this.draft.drop();
        this.quiet.say(said);
        this.loaded.reload();
      },
      error: (error: unknown) => this.draft.refuse(error),
    });
  }

  protected wrapUp(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    this.sheets.open(WrapUpSheet, sheet).subscribe((done) => {
      if (!done) return;
      const renewal = done.made[0];
      if (renewal) return void this.quiet.lead(`${sheet.number} is ended; its renewal is a draft:`, renewal);
      this.quiet.say('Wrapped up:', done.touched[0]!);
      this.loaded.reload();
    });
  }

  protected plan(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    this.sheets.open(PlanSheet, sheet).subscribe((done) => {
      if (!done) return;
      this.quiet.say('The call-off plan is kept.');
      this.loaded.reload();
    });
  }

  protected release(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    this.sheets.open(ReleaseSheet, sheet).subscribe((done) => {
      const order = done?.made[0];
      if (order) void this.quiet.lead(`Released from ${sheet.number}:`, order);
    });
  }
}
