import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatMenuModule } from '@angular/material/menu';
import { merge, of, Subject } from 'rxjs';
import { catchError, map, switchMap } from 'rxjs/operators';
import type * as z from 'zod';
import { dropView, listViews } from '@api/lists';
import { Api } from '../act/api';
import { Notices } from '../act/notices';
import { Sheets } from '../act/sheet';
import type { GridColumn } from '../grid';
import { AS_SHIPPED, inOrder, type Layout } from '../grid/layout';
import { KeepViewSheet } from './keep-view-sheet';

export type ViewedList = z.infer<typeof listViews.params>['list'];

/** A view that ships with the list, or one that was kept. */
export interface ListView {
  name: string;
  query: Readonly<Record<string, string>>;
  columns?: Layout;
  id?: number;
  own?: boolean;
  forAll?: boolean;
}

const said = (query: Readonly<Record<string, string>>) =>
  JSON.stringify(
    Object.entries(query)
      .filter(([, value]) => value !== '')
      .sort(),
  );

/** The views of a list by name, those that ship and those kept, and which of its columns are shown. */
@Component({
  selector: 'k-list-views',
  imports: [MatMenuModule],
  template: `<button type="button" class="act plain" [matMenuTriggerFor]="views">
      <span class="name">{{ here()?.name ?? 'Not a view' }}</span> ▾
    </button>
    <mat-menu #views="matMenu">
      @for (view of all(); track view.id ?? view.name) {
        <button mat-menu-item (click)="choose(view)">
          {{ view.name }}
          @if (view.id) {
            <small>{{ view.forAll ? 'for all' : 'mine' }}</small>
          }
        </button>
      }
      <hr />
      <button mat-menu-item (click)="keep()">Keep this as a view…</button>
      @if (dropped(); as view) {
        <button mat-menu-item (click)="drop(view)">Drop “{{ view.name }}”</button>
      }
    </mat-menu>
    <button type="button" class="act" [matMenuTriggerFor]="shown">Columns</button>
    <mat-menu #shown="matMenu">
      @for (column of columns(); track column.id) {
        <button
          mat-menu-item
          role="menuitemcheckbox"
          [attr.aria-checked]="!hidden(column.id)"
          (click)="$event.stopPropagation(); toggle(column.id)"
        >
          <span class="tick">{{ hidden(column.id) ? '' : '✓' }}</span>{{ column.head }}
        </button>
      }
      <hr />
      <button mat-menu-item (click)="laid.emit(usual)">As they usually are</button>
    </mat-menu>`,
  styles: `
    :host {
      display: contents;
    }
    .act.plain {
      padding: 3px 10px;
    }
    .act:not(.plain) {
      padding: 3px 6px;
    }
    small {
      color: var(--ink-faint);
      margin-left: 8px;
    }
    hr {
      border: 0;
      border-top: 1px solid var(--rule);
      margin: 4px 0;
    }
    .tick {
      display: inline-block;
      width: 20px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ListViews<Row> {
  private readonly api = inject(Api);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  readonly list = input.required<ViewedList>();
  readonly shipped = input.required<readonly ListView[]>();
  /** What the address says now, and how the columns stand. */
  readonly query = input.required<Readonly<Record<string, string>>>();
  readonly layout = input.required<Layout>();
  /** All columns there are. */
  readonly every = input.required<readonly GridColumn<Row>[]>();
  readonly chosen = output<ListView>();
  readonly laid = output<Layout>();
  protected readonly usual = AS_SHIPPED;
  private readonly again = new Subject<void>();
  private readonly kept = toSignal(
    merge(toObservable(this.list), this.again.pipe(map(() => this.list()))).pipe(
      switchMap((list) =>
        this.api.call(listViews, { params: { list } }).pipe(
          map(({ rows }): ListView[] => rows),
          catchError(() => of([])),
        ),
      ),
    ),
    { initialValue: [] as ListView[] },
  );
  protected readonly all = computed(() => [...this.shipped(), ...this.kept()]);
  /** The view one stands on: the one last chosen, where its address and another's are the same. */
  private readonly last = signal<string | null>(null);
  protected readonly here = computed(() => {
    const same = this.all().filter((view) => said(view.query) === said(this.query()));
    return same.find(({ name }) => name === this.last()) ?? same.at(-1);
  });
  protected readonly dropped = computed(() => {
    const here = this.here();
    return here?.id && here.own ? here : null;
  });
  protected readonly columns = computed(() => inOrder(this.every(), this.layout().order));

  protected choose(view: ListView): void {
    this.last.set(view.name);
    this.chosen.emit(view);
  }

  protected hidden(id: string): boolean {
    return this.layout().hidden.includes(id);
  }

  protected toggle(id: string): void {
    const layout = this.layout();
    const hidden = this.hidden(id) ? layout.hidden.filter((each) => each !== id) : [...layout.hidden, id];
    // One column stays: a list of nothing says nothing.
    if (hidden.length < this.every().length) this.laid.emit({ ...layout, hidden });
  }

  protected keep(): void {
    const { order, hidden, widths } = this.layout();
    const now = {
      list: this.list(),
      query: { ...this.query() },
      columns: { order: [...order], hidden: [...hidden], widths: { ...widths } },
    };
    this.sheets.open(KeepViewSheet, now).subscribe((done) => {
      if (!done) return;
      this.again.next();
      this.notices.show('The view is kept.');
    });
  }

  protected drop(view: ListView): void {
    this.api.act(dropView, { id: view.id! }).subscribe({
      next: () => {
        this.again.next();
        this.notices.show(`“${view.name}” is dropped.`);
      },
      error: () => this.again.next(),
    });
  }
}
