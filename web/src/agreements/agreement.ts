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
import { of } from 'rxjs';
import { elapsedShare, leftOf, pace } from '@core/agreements';
import { dec, lineAmount, share, sum, type DocumentRef } from '@core/kernel';
import { Session } from '../access/session';
import { DocumentDock } from '../documents/dock';
import { refusalsOf, type RefusalShown } from '../kit/api';
import { pathOf } from '../kit/documents';
import { dropDraft, keepDraft, keptDraft } from '../kit/drafts';
import { ChoiceField, DayField, LookupField, NumberField, TextField } from '../kit/fields';
import { counted, day, money, percent, points, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { liveDocument } from '../kit/live';
import { Quiet } from '../kit/quiet';
import { refusedAt, Refusals } from '../kit/refusals';
import { Sheets } from '../kit/sheet';
import { Agreements, type AgreementSheet, type CustomerChoice, type ItemChoice } from './service';
import { ReleaseSheet } from './release-sheet';
import {
  blankLine,
  committedValue,
  emptyTerms,
  isUsed,
  numberProblem,
  readCell,
  sendable,
  termsOf,
  type TypedLine,
  type TypedTerms,
} from './typed';

type Line = AgreementSheet['lines'][number];

/** One agreement: typed while it is a draft, read and released from once it is in force. */
@Component({
  selector: 'k-agreement',
  imports: [ChoiceField, DayField, DocumentDock, Grid, LookupField, NumberField, Refusals, RouterLink, TextField],
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
  protected readonly workDate = this.session.workDate;
  protected readonly loaded = liveDocument(
    this.id,
    (id) => (id === 'new' ? of(null) : this.agreements.open(Number(id))),
    (document, shown) =>
      (document.kind === 'AG' && document.id === shown?.id) ||
      (shown?.documents.some((each) => each.document.kind === document.kind && each.document.id === document.id) ??
        false),
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  protected readonly isNew = computed(() => this.id() === 'new');
  protected readonly typing = computed(() => this.isNew() || this.sheet()?.state === 'draft');
  protected readonly typed = signal<TypedTerms | null>(null);
  protected readonly refusals = signal<RefusalShown[]>([]);
  protected readonly busy = signal(false);
  protected readonly selected = signal<string | null>(null);
  protected readonly currency = computed(() => this.sheet()?.currency ?? this.session.company()?.currency ?? 'MYR');
  /** Somebody saved a newer version than the one being typed on. */
  protected readonly theirs = computed(() => {
    const sheet = this.sheet();
    const typed = this.typed();
    return sheet && typed && sheet.version !== typed.version ? sheet : null;
  });

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
    const past = sheet.lastDay < this.workDate();
    const sub =
      sheet.state === 'draft'
        ? 'draft · nothing can be released from it until it is in force'
        : `${sheet.state.replace('-', ' ')} · ${past ? 'its last day was' : 'to'} ${day(sheet.lastDay, this.workDate())} · ${percent(gone)} of the term gone, ${percent(shipped)} shipped`;
    return { strong: sheet.number, rest: ` with ${sheet.customer.name}`, sub };
  });

  constructor() {
    effect(() => this.titles.setTitle(`${this.heading().strong} · Kampong`));
    // What was being typed comes back; else what the server has.
    effect(() => {
      const sheet = this.sheet();
      const isNew = this.isNew();
      untracked(() => this.begin(isNew, sheet));
    });
  }

  private get draftKey(): string {
    return `agreement ${this.session.company()?.id} ${this.id()}`;
  }

  private begin(isNew: boolean, sheet: AgreementSheet | null): void {
    if (!isNew && !sheet) return;
    if (sheet && sheet.state !== 'draft') return this.typed.set(null);
    const kept = keptDraft<TypedTerms>(this.draftKey);
    const before = this.typed();
    if (before && sheet && before.version !== null && kept) return;
    const typed = kept ?? (sheet ? termsOf(sheet) : emptyTerms(this.workDate()));
    this.typed.set({ ...typed, lines: [...typed.lines.filter(isUsed), blankLine()] });
  }

  protected set(change: Partial<TypedTerms>): void {
    this.typed.update((typed) => typed && { ...typed, ...change });
    keepDraft(this.draftKey, this.typed());
    // A refusal stands until its field is touched.
    const fields = Object.keys(change);
    this.refusals.update((refusals) =>
      refusals.filter((refusal) => !fields.some((field) => refusal.field.startsWith(field)) && refusal.field !== ''),
    );
  }

  protected setLine(row: TypedLine, change: Partial<TypedLine>): void {
    const lines = this.typed()!.lines.map((line) => (line.key === row.key ? { ...line, ...change } : line));
    this.set({ lines: isUsed(lines.at(-1)!) ? [...lines, blankLine()] : lines });
  }

  protected removeLine(row: TypedLine): void {
    const lines = this.typed()!.lines.filter((line) => line.key !== row.key);
    this.set({ lines: lines.length > 0 && !isUsed(lines.at(-1)!) ? lines : [...lines, blankLine()] });
  }

  protected readonly findCustomers = (words: string) => this.agreements.customers(words);
  protected takeCustomer(customer: CustomerChoice): void {
    this.set({ customerId: customer.id, customerName: customer.name });
  }

  protected at(field: string): string {
    return refusedAt(this.refusals(), field);
  }

  /** Refusals of the head without a control here, and of the lines, in words under the title. */
  protected readonly loose = computed(() =>
    this.refusals().filter(
      (refusal) => !/^(customerId|title|firstDay|lastDay|signedOn|tolerancePercent)$/.test(refusal.field),
    ),
  );

  protected readonly total = computed(() => {
    const typed = this.typed();
    return typed ? committedValue(typed.lines, this.currency()) : '0';
  });

  protected readonly typedColumns = computed<GridColumn<TypedLine>[]>(() => {
    const currency = this.currency();
    const refused = this.refusals();
    const lines = this.typed()?.lines ?? [];
    const at = (row: TypedLine, field: string) => refusedAt(refused, `lines.${lines.indexOf(row)}.${field}`);
    return [
      { id: 'line', head: '', width: 36, text: (row) => String(lines.indexOf(row) + 1) },
      {
        id: 'item',
        head: 'Item',
        width: 120,
        text: (row) => row.number,
        problem: (row) => at(row, 'itemId'),
        edit: {
          kind: 'lookup',
          search: (words) => this.agreements.items(words),
          set: (row, choice) => {
            const item = choice as ItemChoice;
            this.setLine(row, {
              itemId: item.id,
              number: item.number,
              name: item.name,
              unit: item.unit,
              listPrice: item.listPrice,
              unitPrice: row.unitPrice || item.listPrice,
            });
          },
        },
      },
      { id: 'what', head: 'What', text: (row) => row.name },
      {
        id: 'committed',
        head: 'Committed',
        width: 130,
        figures: true,
        text: (row) =>
          numberProblem(row.committed, 'quantity', 'x') || row.committed === ''
            ? row.committed
            : quantity(row.committed),
        typed: (row) => row.committed,
        problem: (row) => at(row, 'committed') || numberProblem(row.committed, 'quantity', 'The committed quantity'),
        edit: { kind: 'text', set: (row, typed) => this.setLine(row, { committed: readCell(typed, 'quantity') }) },
      },
      { id: 'unit', head: 'Unit', width: 80, text: (row) => row.unit },
      {
        id: 'price',
        head: 'Agreed price',
        width: 130,
        figures: true,
        text: (row) =>
          numberProblem(row.unitPrice, 'price', 'x') || row.unitPrice === ''
            ? row.unitPrice
            : price(row.unitPrice, currency),
        typed: (row) => row.unitPrice,
        problem: (row) => at(row, 'unitPrice') || numberProblem(row.unitPrice, 'price', 'The agreed price'),
        edit: { kind: 'text', set: (row, typed) => this.setLine(row, { unitPrice: readCell(typed, 'price') }) },
      },
      {
        id: 'list',
        head: 'List price',
        width: 110,
        figures: true,
        text: (row) => (row.listPrice ? price(row.listPrice, currency) : ''),
      },
      {
        id: 'value',
        head: 'Value',
        width: 130,
        figures: true,
        text: (row) =>
          committedValue([row], currency) === '0' ? '' : money(committedValue([row], currency), currency),
      },
    ];
  });

  protected readonly lineColumns = computed<GridColumn<Line>[]>(() => {
    const sheet = this.sheet();
    if (!sheet) return [];
    const shipped = (row: Line) => share(row.shipped, row.committed);
    const gone = elapsedShare(sheet.firstDay, sheet.lastDay, this.workDate());
    const paceOf = (row: Line) => pace(shipped(row), gone);
    return [
      { id: 'line', head: '', width: 36, text: (row) => String(row.lineNo) },
      {
        id: 'item',
        head: 'Item',
        width: 100,
        text: (row) => row.item.number,
        link: (row) => pathOf({ kind: 'item', id: row.item.id }),
      },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      { id: 'agreed', head: 'Agreed', width: 92, figures: true, text: (row) => price(row.unitPrice, sheet.currency) },
      { id: 'list', head: 'List', width: 92, figures: true, text: (row) => price(row.listPrice, sheet.currency) },
      { id: 'committed', head: 'Committed', width: 96, figures: true, text: (row) => quantity(row.committed) },
      { id: 'released', head: 'Released', width: 88, figures: true, text: (row) => quantity(row.released) },
      { id: 'shipped', head: 'Shipped', width: 88, figures: true, text: (row) => quantity(row.shipped) },
      { id: 'invoiced', head: 'Invoiced', width: 88, figures: true, text: (row) => quantity(row.invoiced) },
      { id: 'left', head: 'Left', width: 88, figures: true, text: (row) => quantity(leftOf(row).toRelease.toFixed()) },
      { id: 'taken', head: 'Taken', width: 60, beads: (row) => [{ label: 'Shipped', share: shipped(row) }] },
      {
        id: 'pace',
        head: 'Pace',
        width: 74,
        figures: true,
        text: (row) => points(paceOf(row)),
        need: (row) => paceOf(row) < -0.1,
      },
    ];
  });
  protected readonly rowKey = (row: TypedLine) => row.key;
  protected readonly rowId = (row: Line) => String(row.id);
  protected readonly line = computed(
    () => this.sheet()?.lines.find((line) => String(line.id) === this.selected()) ?? this.sheet()?.lines[0] ?? null,
  );

  /** Words about the selected line's progress. // A4 A8 */
  protected readonly progress = computed(() => {
    const sheet = this.sheet();
    const line = this.line();
    if (!sheet || !line) return null;
    const left = leftOf(line);
    const gone = elapsedShare(sheet.firstDay, sheet.lastDay, this.workDate());
    const shipped = share(line.shipped, line.committed);
    return {
      head: `${line.item.number}: ${quantity(line.shipped)} of ${quantity(line.committed)} ${line.item.unit} shipped, ${percent(gone)} of the term gone`,
      facts: [
        [
          'Released',
          `${quantity(line.released)} ${line.item.unit}, ${quantity(left.toRelease.toFixed())} left to release`,
        ],
        ['Shipped', `${quantity(line.shipped)} ${line.item.unit}, ${quantity(left.toShip.toFixed())} left to ship`],
        ['Invoiced', `${quantity(line.invoiced)} ${line.item.unit}`],
        ['Pace', `${points(pace(shipped, gone))} against the time gone`],
        [
          'Left in value',
          `${sheet.currency} ${money(lineAmount(left.toRelease, dec(line.unitPrice), sheet.currency).toFixed(), sheet.currency)}`,
        ],
      ] as const,
      shipped,
      gone,
    };
  });
  protected readonly leftValue = computed(() => {
    const sheet = this.sheet();
    if (!sheet) return '0';
    return sum(
      sheet.lines.map((line) => lineAmount(leftOf(line).toRelease, dec(line.unitPrice), sheet.currency)),
    ).toFixed();
  });

  protected money = (value: string) => money(value, this.currency());
  protected readonly day = (value: string | null) => day(value, this.workDate());
  protected readonly counted = counted;
  protected readonly percent = percent;
  protected readonly pathOf = pathOf;

  protected save(then?: (id: number, version: number) => void): void {
    this.grid()?.finishEditing();
    const typed = this.typed();
    if (!typed || this.busy()) return;
    this.busy.set(true);
    const id = this.isNew() ? null : Number(this.id());
    this.agreements.save(sendable(typed, id)).subscribe({
      next: ({ made, touched }) => {
        dropDraft(this.draftKey);
        this.busy.set(false);
        this.refusals.set([]);
        const document = (made[0] ?? touched[0])!;
        const version = (typed.version ?? 0) + 1;
        this.typed.update((current) => current && { ...current, version });
        if (then) return then(document.id, version);
        if (id === null) void this.quiet.lead('Draft saved:', document);
        else {
          this.quiet.say('Draft saved.');
          this.loaded.reload();
        }
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.refusals.set(refusalsOf(error));
        if (this.refusals().some((refusal) => refusal.code === 'stale')) this.loaded.reload();
      },
    });
  }

  /** Saves what is typed and puts it in force. */
  protected putInForce(): void {
    this.save((id, version) =>
      this.agreements.putInForce(id, version).subscribe({
        next: ({ touched }) => {
          this.typed.set(null);
          this.loaded.reload();
          void this.quiet.lead('In force now:', touched[0]!);
        },
        error: (error: unknown) => {
          this.refusals.set(refusalsOf(error));
          if (this.isNew()) void this.router.navigateByUrl(pathOf({ kind: 'AG', id }));
          else this.loaded.reload();
        },
      }),
    );
  }

  /** Takes theirs: what was typed here is dropped. */
  protected takeTheirs(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    dropDraft(this.draftKey);
    this.refusals.set([]);
    const typed = termsOf(sheet);
    this.typed.set({ ...typed, lines: [...typed.lines, blankLine()] });
  }

  /** Keeps mine: saving again replaces theirs. */
  protected keepMine(): void {
    this.set({ version: this.sheet()!.version });
    this.refusals.set([]);
  }

  protected readonly differences = computed(() => {
    const theirs = this.theirs();
    const mine = this.typed();
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
    compare('At the limit', other.limitPolicy, mine.limitPolicy);
    compare('Tolerance', other.tolerancePercent, mine.tolerancePercent);
    const lineWords = (lines: readonly TypedLine[]) =>
      lines.filter(isUsed).map((line) => `${line.number} ${line.committed} at ${line.unitPrice}`);
    compare('Lines', lineWords(other.lines).join('; '), lineWords(mine.lines).join('; '));
    return rows;
  });

  protected release(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    this.sheets.open(ReleaseSheet, sheet).subscribe((done) => {
      const order = done?.made[0];
      if (order) void this.quiet.lead(`Released from ${sheet.number}:`, order);
    });
  }
}
