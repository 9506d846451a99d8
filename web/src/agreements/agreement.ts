import { ChangeDetectionStrategy, Component, computed, inject, input, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import { of, type Observable } from 'rxjs';
import { map } from 'rxjs/operators';
import { elapsedShare, leftOf, LIMIT_POLICIES, REST_PLANS, REST_WORDS } from '@core/agreements';
import { dec, lineAmount, share, sum } from '@core/kernel';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { readOr } from '../kit/live/read-or';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { pathOf } from '../kit/documents';
import { ChoiceField, DayField, LookupField, NumberField, TextField } from '../kit/fields';
import { counted, day, money, percent, quantity } from '../kit/formats';
import { Grid } from '../kit/grid';
import { Refusals } from '../kit/act/refusals';
import { TypedDraft } from '../kit/act/typed-draft';
import { AgreementActs, differencesOf, LIMIT_NAMES, type AgreementDraft } from './agreement-acts';
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
import { ProgressPanel } from './progress-panel';
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

/** What is left to release of a line: in value, or at its price below the first price break. // A4 */
function leftValueOf(line: Line, { basis, currency }: AgreementSheet) {
  const left = leftOf(countsOf(line, basis)).toRelease;
  return basis === 'value' ? left : lineAmount(left, dec(line.unitPrice), currency);
}

/** One agreement: typed while it is a draft, read and released from once it is in force. */
@Component({
  selector: 'k-agreement',
  imports: [
    ChoiceField,
    DayField,
    DocumentDock,
    DocumentTitle,
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
  private readonly grid = viewChild<Grid<TypedLine>>('typedGrid');
  /** An id, or `new`. */
  readonly id = input.required<string>();
  /** A side sheet to open at once. */
  readonly do = input<string>();
  protected readonly workDate = this.session.workDate;
  protected readonly page: DocumentPage<string, AgreementSheet, Line> = new DocumentPage({
    key: this.id,
    name: 'Agreement',
    open: (id) => (id === 'new' ? of(null) : this.agreements.open(Number(id))),
    document: ({ id, number }) => ({ kind: 'AG', id, number }),
    begun: () =>
      this.id() === 'new' ? { strong: 'New agreement', sub: 'Nothing can be released until it is in force.' } : null,
    heading: (sheet) => ({ strong: sheet.number, rest: ` with ${sheet.party.name}`, sub: this.standing(sheet) }),
    lines: (sheet) => sheet.lines,
    doing: this.do,
    refuse: (error) => this.draft.refuse(error),
    endTyping: () => this.draft.drop(),
    acts: () => this.acts.all(),
  });
  private readonly acts: AgreementActs = new AgreementActs(
    this.page,
    () => this.draft,
    () => this.grid()?.finishEditing(),
    this.workDate,
  );
  protected readonly revising = this.acts.revising;
  protected readonly draft: AgreementDraft = new TypedDraft({
    kind: 'AG',
    id: this.id,
    loaded: this.page.loaded,
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
  protected readonly currency = computed(() => this.sheet()?.currency ?? this.session.company()?.currency ?? 'MYR');

  /** `in force · by quantity · to 31 Dec · 40 % of the term gone, 35 % shipped`. */
  private standing(sheet: AgreementSheet): string {
    if (sheet.state === 'draft') return 'draft · nothing can be released from it until it is in force';
    const gone = elapsedShare(sheet.firstDay, sheet.lastDay, this.workDate());
    const shipped = share(sheet.values.shipped, sheet.values.committed);
    const past = sheet.lastDay < this.workDate();
    return `${sheet.state.replace('-', ' ')} · by ${sheet.basis} · ${past ? 'its last day was' : 'to'} ${this.day(sheet.lastDay)} · ${percent(gone)} of the term gone, ${percent(shipped)} ${movementWords(sheet.side).move}`;
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

  private readonly choices = readOr(this.agreements.groups(), { groups: [], organisations: [] });
  protected readonly organisations = computed(() => [
    { value: '', label: "customer's own" },
    ...this.choices().organisations.map(({ id, name }) => ({ value: String(id), label: name })),
  ]);

  /** Items by their words; where the agreement is by value also the groups, and everything. // A1 */
  private covered(words: string): Observable<CoveredChoice[]> {
    const typed = this.draft.typed();
    const items = this.agreements
      .items(words, typed?.side === 'buying' ? typed.vendorId : undefined)
      .pipe(map((found) => found.map((item) => ({ ...item, covered: { item } }))));
    if (typed?.basis !== 'value') return items;
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
      /^(customerId|vendorId|title|firstDay|lastDay|signedOn|(tolerance|probability)Percent|wholeLimit|priority|notes|rebate\.tiers|reminders|releaseAhead)$/,
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
      side: this.draft.typed()?.side ?? 'selling',
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
  protected readonly leftValue = computed(() => {
    const sheet = this.sheet();
    if (!sheet) return '0';
    return sum(sheet.lines.map((line) => leftValueOf(line, sheet))).toFixed();
  });

  protected money = (value: string) => money(value, this.currency());
  protected readonly day = (value: string | null) => day(value, this.workDate());
  protected readonly limitNames = LIMIT_NAMES;
  protected readonly restWords = REST_WORDS;
  /** `1,000 kg; 120 kg left`, `MYR 50,000.00; MYR 12,000.00 left`. // A5 */
  protected readonly wholeText = ({ wholeLimit, wholeLeft, currency }: AgreementSheet): string => {
    const [limit = '0', ...unit] = wholeLimit.split(' ');
    const of = (text: string) =>
      unit.length > 0 ? `${quantity(text)} ${unit.join(' ')}` : `${currency} ${money(text, currency)}`;
    return `${of(limit)}; ${of(wholeLeft)} left`;
  };
  protected readonly rests = REST_PLANS.map((value) => ({ value, label: REST_WORDS[value] }));
  protected readonly freeGoods = [
    { value: '', label: 'not called off by it' },
    { value: 'count', label: 'count as called off' },
  ];
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

  protected readonly differences = computed(() => {
    const theirs = this.draft.theirs();
    const mine = this.draft.typed();
    return theirs && mine ? differencesOf(theirs, mine, this.day) : [];
  });
}
