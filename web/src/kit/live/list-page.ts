import { ChangeDetectionStrategy, Component, computed, inject, input, signal, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import type { DocumentKind, DocumentRef } from '@core/kernel';
import { Chips } from '../controls/chips';
import { pathOf } from '../documents';
import { Grid, type GridColumn } from '../grid';
import { LiveList, type Page } from './live';
import { Refusals } from '../act/refusals';

/** One group of filter chips: the part of the address it sets, and its values in words. */
export interface ChipFilter {
  name: string;
  label: string;
  /** Value and words; the first stands where the address says nothing. */
  chips: readonly (readonly [value: string, words: string])[];
}

/** What one list has of its own. */
export interface ListOf<Query, Row> {
  head: string;
  /** What the list is, in a sentence. */
  sub: string | (() => string);
  /** What the search box looks in: `Number, title or customer`; none where there is no search. */
  looksIn?: string;
  filters?: readonly ChipFilter[];
  /** What else of the address narrows it. */
  narrowedBy?: readonly string[];
  /** Where a new one is begun. */
  make?: { label: string; path: string };
  load(query: Query): Observable<Page<Row>>;
  /** What changes what is listed, where it is touched. */
  kinds: readonly DocumentKind[];
  /** Where a row leads, and (of a document that is numbered) what the dock is about. */
  document(
    row: Row,
  ): (Pick<DocumentRef, 'kind' | 'id'> & Partial<DocumentRef>) | { kind: 'item' | 'serial'; id: number };
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
  /** What is asked for: the search and filters of the address, without what it does not say. */
  readonly query: Signal<Query>;
  readonly rows: LiveList<Query, Row>;
  readonly columns: Signal<readonly GridColumn<Row>[]>;
  readonly chosen = signal<string | null>(null);
  /** The row one is on, else the first. */
  readonly row: Signal<Row | null>;
  /** What the dock is about. */
  readonly about: Signal<DocumentRef | null>;

  constructor(readonly of: ListOf<Query, Row>) {
    const names = ['q', ...(of.filters ?? []).map(({ name }) => name), ...(of.narrowedBy ?? [])];
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
    this.columns = computed(() => of.columns());
    this.row = computed(() => {
      const rows = this.rows.rows();
      return rows.find((row) => this.rowId(row) === this.chosen()) ?? rows[0] ?? null;
    });
    this.about = computed(() => {
      const row = this.row();
      const document = row && of.document(row);
      return document && 'number' in document ? (document as DocumentRef) : null;
    });
    inject(Title).setTitle(`${of.head} · Kampong`);
  }

  /** What the address says of a filter, else what its first chip stands for. */
  filterValue(name: string): string {
    const usual = this.of.filters?.find((filter) => filter.name === name)?.chips[0]?.[0] ?? '';
    return this.address()?.get(name) || usual;
  }

  readonly rowId = (row: Row): string => this.of.rowId?.(row) ?? String((row as { id?: number }).id);
  readonly pathTo = (row: Row): string => pathOf(this.of.document(row));
}

/** A list page: its sentence, what it is filtered by (all in the address), and the grid that grows as one scrolls. */
@Component({
  selector: 'k-list-page',
  imports: [Chips, Grid, Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        {{ list().of.head }}<span>{{ list().sub() }}</span>
      </h1>
      <ng-content select="[acts]" />
      @if (list().of.make; as link) {
        <a class="act next" [routerLink]="link.path">{{ link.label }}</a>
      }
    </div>
    <div class="filters">
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
    </div>
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

  protected open(row: Row): void {
    void this.router.navigateByUrl(this.list().pathTo(row));
  }
}
