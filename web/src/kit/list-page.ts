import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Chips, type Chip } from './chips';
import { Grid, type GridColumn } from './grid';
import type { LiveList } from './live';
import { Refusals } from './refusals';

/** One group of filter chips: the query parameter it sets, and its values. */
export interface ChipFilter {
  name: string;
  label: string;
  chips: readonly Chip[];
  value: string;
}

/** A list page: its sentence, what it is filtered by (all in the address), and the grid that grows as one scrolls. */
@Component({
  selector: 'k-list-page',
  imports: [Chips, Grid, Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        {{ head() }}<span>{{ sub() }}</span>
      </h1>
      <ng-content select="[acts]" />
      @if (make(); as link) {
        <a class="act next" [routerLink]="link.path">{{ link.label }}</a>
      }
    </div>
    <div class="filters">
      @if (looksIn()) {
        <input
          type="search"
          [attr.aria-label]="looksIn()"
          [placeholder]="looksIn()"
          [value]="q()"
          (input)="look('q', $any($event.target).value)"
        />
      }
      @for (filter of filters(); track filter.name) {
        <k-chips
          [label]="filter.label"
          [chips]="filter.chips"
          [value]="filter.value"
          (valueChange)="look(filter.name, $event)"
        />
      }
    </div>
    <k-refusals [refusals]="list().refusals()" />
    <div class="sheet">
      @if (list().rows().length === 0 && !list().loading()) {
        <p class="empty">{{ empty() }}</p>
      } @else {
        <k-grid
          [label]="head()"
          [rows]="list().rows()"
          [columns]="columns()"
          [rowId]="rowId()"
          (selected)="chosen.emit($event)"
          (opened)="open($event)"
          (nearEnd)="list().more()"
        />
      }
    </div>
    <ng-content />
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ListPage<Row> {
  private readonly router = inject(Router);
  readonly head = input.required<string>();
  /** What the list is, in a sentence. */
  readonly sub = input.required<string>();
  /** What the search box looks in: `Number, title or customer`; none where there is no search. */
  readonly looksIn = input.required<string>();
  readonly q = input.required<string>();
  readonly filters = input<readonly ChipFilter[]>([]);
  /** Where a new one is begun. */
  readonly make = input<{ label: string; path: string } | null>(null);
  readonly list = input.required<LiveList<unknown, Row>>();
  readonly columns = input.required<readonly GridColumn<Row>[]>();
  readonly rowId = input.required<(row: Row) => string>();
  /** Where a row leads. */
  readonly pathTo = input.required<(row: Row) => string>();
  /** What would be here and how to start. */
  readonly empty = input.required<string>();
  /** The row one is on: what the dock is about. */
  readonly chosen = output<Row>();

  protected look(name: string, value: string): void {
    void this.router.navigate([], {
      queryParams: { [name]: value || null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  protected open(row: Row): void {
    void this.router.navigateByUrl(this.pathTo()(row));
  }
}
