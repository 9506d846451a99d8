import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  signal,
  viewChild,
  type Signal,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import type { Day, DocumentKind, DocumentRef } from '@core/kernel';
import { Chips } from '../controls/chips';
import { pathOf } from '../documents';
import { Grid, type GridColumn } from '../grid';
import { AS_SHIPPED, inOrder, laidOut, type Layout } from '../grid/layout';
import { Narrowing, type Narrow } from './narrowing';
import { ListViews, type ListView, type ViewedList } from './views';
import { LiveList, type Page } from './live';
import { Refusals } from '../act/refusals';

/** One group of filter chips: the part of the address it sets, and its values in words. */
export interface ChipFilter {
  name: string;
  label: string;
  /** Value and words; the first stands where the address says nothing. */
  chips: readonly (readonly [value: string, words: string])[];
}

/** What is done with marked rows together. */
export interface MarkAct<Row> {
  /** The button, where it can be done with these rows; null where it cannot. */
  label(rows: readonly Row[]): string | null;
  do(rows: readonly Row[]): void;
}

/** What one list has of its own. */
export interface ListOf<Query, Row> {
  head: string;
  /** What the list is, in a sentence. */
  sub: string | (() => string);
  /** What the search box looks in: `Number, title or customer`; none where there is no search. */
  looksIn?: string;
  filters?: readonly ChipFilter[];
  /** What else narrows it: shown where it does, and (but for what only an address brings) offered where it does not. */
  narrows?: readonly Narrow[];
  /** What typed days are read against. */
  workDate?(): Day;
  /** Columns it can be read in the order of, by their ids; and which it is in where nobody chose. */
  sorts?: readonly string[];
  usualSort?(query: Query): string;
  /** Its views are kept under this name; those that ship with it come first, the whole list before them. */
  viewed?: ViewedList;
  views?: readonly ListView[];
  /** What all of it is called among the views: `All orders` where nothing is said. */
  whole?: string;
  /** Where the same rows are had as a file: `/api/orders`. */
  files?: string;
  /** What can be done with rows that are marked. */
  marks?: readonly MarkAct<Row>[];
  /** Where a new one is begun. */
  make?: { label: string; path: string };
  load(query: Query): Observable<Page<Row>>;
  /** What changes what is listed, where it is touched. */
  kinds: readonly DocumentKind[];
  /** Where a row leads, and (of a document that is numbered) what the dock is about. */
  document?(
    row: Row,
  ): (Pick<DocumentRef, 'kind' | 'id'> & Partial<DocumentRef>) | { kind: 'item' | 'serial'; id: number };
  /** Where a row leads that is no document. */
  path?(row: Row): string;
  rowId?: (row: Row) => string;
  columns(): readonly GridColumn<Row>[];
  /** What would be here and how to start. */
  empty: string;
}

/**
 * A list of documents: what of it is asked for stands in the address, the rows are read as one scrolls and stay true.
 * To be made in an injection context of a page.
 */
export class DocumentList<Query extends object, Row extends object> {
  private readonly address = toSignal(inject(ActivatedRoute).queryParamMap);
  readonly sub: Signal<string>;
  /** What the address says of it. */
  readonly said: Signal<Readonly<Record<string, string>>>;
  /** How its columns stand: as last laid out on this device, or as a view has them. */
  readonly layout = signal<Layout>(AS_SHIPPED);
  readonly marked = signal<readonly Row[]>([]);
  /** What is asked for: the search and filters of the address, without what it does not say. */
  readonly query: Signal<Query>;
  readonly rows: LiveList<Query, Row>;
  /** All its columns, and those that are shown, as they are laid out. */
  readonly every: Signal<readonly GridColumn<Row>[]>;
  readonly columns: Signal<readonly GridColumn<Row>[]>;
  readonly chosen = signal<string | null>(null);
  /** The row one is on, else the first. */
  readonly row: Signal<Row | null>;
  /** What the dock is about. */
  readonly about: Signal<DocumentRef | null>;

  constructor(readonly of: ListOf<Query, Row>) {
    if (of.viewed) this.layout.set(keptLayout(of.viewed));
    const names = [
      'q',
      ...(of.filters ?? []).map(({ name }) => name),
      ...(of.narrows ?? []).map(({ name }) => name),
      ...(of.sorts ? ['sort'] : []),
    ];
    this.said = computed(() =>
      Object.fromEntries(
        names.flatMap((name) => (this.address()?.get(name) ? [[name, this.address()!.get(name)!]] : [])),
      ),
    );
    this.query = computed(() => {
      const asked = names.map((name) => [name, this.filterValue(name)] as const);
      return Object.fromEntries(asked.filter(([, value]) => value !== '')) as Query;
    });
    this.sub = computed(() => (typeof of.sub === 'string' ? of.sub : of.sub()));
    this.rows = new LiveList(
      this.query,
      (query, cursor) => of.load(cursor === undefined ? query : { ...query, cursor }),
      of.kinds,
    );
    this.every = computed(() => of.columns());
    this.columns = computed(() => laidOut(this.every(), this.layout()));
    this.row = computed(() => {
      const rows = this.rows.rows();
      return rows.find((row) => this.rowId(row) === this.chosen()) ?? rows[0] ?? null;
    });
    this.about = computed(() => {
      const row = this.row();
      const document = row && of.document?.(row);
      return document && 'number' in document ? (document as DocumentRef) : null;
    });
    inject(Title).setTitle(`${of.head} · Kampong`);
  }

  /** What the address says of a filter, else what its first chip stands for. */
  filterValue(name: string): string {
    const usual = this.of.filters?.find((filter) => filter.name === name)?.chips[0]?.[0] ?? '';
    return this.address()?.get(name) || usual;
  }

  /** Lays the columns out anew, and keeps that on this device. */
  lay(layout: Layout): void {
    this.layout.set(layout);
    if (this.of.viewed) localStorage.setItem(`columns ${this.of.viewed}`, JSON.stringify(layout));
  }

  readonly workDate = (): Day => this.of.workDate?.() ?? '';

  /** The column the rows are in the order of, with its way. */
  readonly sort = (): string => this.said()['sort'] ?? this.of.usualSort?.(this.query()) ?? '';

  /** The same rows as a file. */
  readonly file = (format: 'csv' | 'xlsx'): string =>
    `${this.of.files}.${format}?${new URLSearchParams(this.query() as Record<string, string>)}`;

  readonly rowId = (row: Row): string => this.of.rowId?.(row) ?? String((row as { id?: number }).id);
  readonly pathTo = (row: Row): string => this.of.path?.(row) ?? pathOf(this.of.document!(row));
}

function keptLayout(list: string): Layout {
  const text = localStorage.getItem(`columns ${list}`);
  return text === null ? AS_SHIPPED : (JSON.parse(text) as Layout);
}

/** A list page: its sentence, what it is filtered by (all in the address), and the grid that grows as one scrolls. */
@Component({
  selector: 'k-list-page',
  imports: [Chips, Grid, ListViews, Narrowing, Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        {{ list().of.head }}<span>{{ list().sub() }}</span>
      </h1>
      <ng-content select="[acts]" />
      @if (list().of.files) {
        <a class="act" [href]="list().file('xlsx')" download>Save as XLSX</a
        ><a class="act" [href]="list().file('csv')" download>CSV</a>
      }
      @if (list().of.make; as link) {
        <a class="act next" [routerLink]="link.path">{{ link.label }}</a>
      }
    </div>
    <div class="filters">
      @if (list().of.viewed; as viewed) {
        <k-list-views
          [list]="viewed"
          [shipped]="shipped()"
          [query]="list().said()"
          [layout]="list().layout()"
          [every]="list().every()"
          (chosen)="take($event)"
          (laid)="list().lay($event)"
        />
      }
      @if (list().of.looksIn; as words) {
        <input
          type="search"
          [attr.aria-label]="words"
          [placeholder]="words"
          [value]="list().filterValue('q')"
          (input)="look('q', $any($event.target).value)"
        />
      }
      @for (filter of filters(); track filter.name) {
        <k-chips
          [label]="filter.label"
          [chips]="filter.chips"
          [value]="list().filterValue(filter.name)"
          (valueChange)="look(filter.name, $event)"
        />
      }
      @if (list().of.narrows; as narrows) {
        <k-narrowing
          [narrows]="narrows"
          [values]="list().said()"
          [workDate]="list().workDate()"
          (narrowed)="look($event.name, $event.value)"
        />
      }
    </div>
    @if (list().marked().length > 0) {
      <div class="marked" role="status">
        {{ list().marked().length }} marked
        @for (act of list().of.marks; track act) {
          @if (act.label(list().marked()); as label) {
            <button type="button" class="act" (click)="act.do(list().marked())">{{ label }}</button>
          }
        }
        <button type="button" class="act" (click)="grid()?.unmark()">Take the marks off</button>
      </div>
    }
    <k-refusals [refusals]="list().rows.refusals()" />
    <div class="sheet">
      @if (list().rows.rows().length === 0 && !list().rows.loading()) {
        <p class="empty">{{ list().of.empty }}</p>
      } @else {
        <k-grid
          [label]="list().of.head"
          [rows]="list().rows.rows()"
          [columns]="list().columns()"
          [rowId]="list().rowId"
          [sorts]="list().of.sorts ?? []"
          [sort]="list().sort()"
          [laid]="list().of.viewed !== undefined"
          [marks]="list().of.marks !== undefined"
          (sorted)="look('sort', $event)"
          (laidOut)="lay($event)"
          (marked)="list().marked.set($event)"
          (selected)="list().chosen.set(list().rowId($event))"
          (opened)="open($event)"
          (nearEnd)="list().rows.more()"
        />
      }
    </div>
    <ng-content />
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ListPage<Query extends object, Row extends object> {
  private readonly router = inject(Router);
  protected readonly grid = viewChild<Grid<Row>>(Grid);
  protected readonly shipped = computed((): ListView[] => [
    { name: this.list().of.whole ?? `All ${this.list().of.head.toLowerCase()}`, query: {} },
    ...(this.list().of.views ?? []),
  ]);
  readonly list = input.required<DocumentList<Query, Row>>();
  protected readonly filters = computed(() =>
    (this.list().of.filters ?? []).map(({ name, label, chips }) => ({
      name,
      label,
      chips: chips.map(([value, text]) => ({ value, label: text })),
    })),
  );

  protected look(name: string, value: string): void {
    void this.router.navigate([], {
      queryParams: { [name]: value || null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  /** Stands on a view: its address, and its columns where it was kept with them. */
  protected take(view: ListView): void {
    this.list().layout.set(view.columns ?? keptLayout(this.list().of.viewed!));
    void this.router.navigate([], { queryParams: view.query });
  }

  protected lay({ order, widths }: { order: string[]; widths: Record<string, number> }): void {
    const { layout, every } = this.list();
    // Hidden columns keep their place among those that are shown.
    const hidden = inOrder(every(), layout().order).filter(({ id }) => layout().hidden.includes(id));
    const places = hidden.map(({ id }) => id);
    this.list().lay({
      order: [...order, ...places],
      hidden: layout().hidden,
      widths: { ...layout().widths, ...widths },
    });
  }

  protected open(row: Row): void {
    void this.router.navigateByUrl(this.list().pathTo(row));
  }
}
