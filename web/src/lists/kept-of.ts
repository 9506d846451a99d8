import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { forkJoin, of } from 'rxjs';
import { catchError, filter, map, switchMap } from 'rxjs/operators';
import { aboutField, LIST_ROOMS, listsAbout, THINGS, type KeptList, type Thing } from '@core/lists';
import { Session } from '../access';
import { refusalsOf, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { LiveEvents } from '../kit/live/live';
import { shownText } from './columns';
import { freshCells } from './fresh';
import { RowSheet, type RowData } from './row-sheet';
import { KeptRows, type KeptRow } from './service';

interface Section {
  list: KeptList;
  rows: readonly KeptRow[];
  more: boolean;
}

/** Rows of one list on the page; the list itself has the others. */
const ROWS = 50;

/** All that is kept of an item, customer or vendor on one page: each list that is about it, and changing every row. // U2 */
@Component({
  selector: 'k-kept-of',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        <b>{{ own()?.cells?.['name'] ?? (isNew() ? 'New ' + thing() : '') }}</b><span
          >{{ own()?.cells?.['number'] }} · all that is kept of this {{ thing() }}</span
        >
      </h1>
      @if (!isNew()) {
        <a class="act" [routerLink]="pathOf({ kind: thing(), id: +id() })">To its desk</a>
      }
    </div>
    <k-refusals [refusals]="refusals()" />
    <div class="kept">
      @for (section of sections(); track section.list.name) {
        <section [attr.aria-label]="section.list.label">
          <h2>
            {{ titleOf(section.list) }} <small>{{ section.list.sub }}</small>
            @if (may(section.list)) {
              @if (section.list.of) {
                <button type="button" class="act" (click)="change(section, section.rows[0]!)">
                  Change…<span class="away"> {{ section.list.label }}</span>
                </button>
              } @else {
                <button type="button" class="act" (click)="add(section)">
                  Another…<span class="away"> row of {{ section.list.label }}</span>
                </button>
              }
            }
          </h2>
          @if (section.list.of) {
            <dl>
              @for (field of fieldsOf(section.list); track field.name) {
                <div>
                  <dt>{{ field.head }}</dt>
                  <dd>{{ text(field, section.rows[0]?.cells?.[field.name] ?? '') || '–' }}</dd>
                </div>
              }
            </dl>
          } @else if (section.rows.length > 0) {
            <table class="small">
              <thead>
                <tr>
                  @for (field of fieldsOf(section.list); track field.name) {
                    <th [class.num]="field.is.kind === 'number'">{{ field.head }}</th>
                  }
                  <th></th>
                </tr>
              </thead>
              <tbody>
                @for (row of section.rows; track row.id) {
                  <tr>
                    @for (field of fieldsOf(section.list); track field.name) {
                      <td [class.num]="field.is.kind === 'number'">{{ text(field, row.cells[field.name] ?? '') }}</td>
                    }
                    <td>
                      @if (may(section.list)) {
                        <button type="button" class="link" (click)="change(section, row)">Change…</button>
                        @if (section.list.grows) {
                          <button type="button" class="link" (click)="remove(section, row)">Take out</button>
                        }
                      }
                    </td>
                  </tr>
                }
              </tbody>
            </table>
            @if (section.more) {
              <a
                class="link"
                routerLink="/lists"
                [queryParams]="{ list: section.list.name, q: own()?.cells?.['number'] }"
                >All of them</a
              >
            }
          }
        </section>
      }
    </div>
  </div>`,
  styles: `
    .kept {
      overflow: auto;
      padding: 0 24px 24px;
    }
    section {
      border-top: 1px solid var(--rule);
      padding: 4px 0 10px;
    }
    h2 {
      font: 600 16px var(--serif);
      display: flex;
      align-items: baseline;
      gap: 10px;
      margin: 6px 0;
    }
    h2 small {
      flex: 1;
      font: 400 13px var(--sans);
      color: var(--ink-faint);
    }
    dl {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 28px;
      margin: 0;
    }
    dt {
      font-size: 12px;
      color: var(--ink-faint);
    }
    dd {
      margin: 0;
    }
    .away {
      position: absolute;
      clip-path: inset(50%);
      width: 1px;
      height: 1px;
      overflow: hidden;
    }
    button.link {
      background: none;
      border: 0;
      padding: 0 8px 0 0;
      cursor: pointer;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeptOf {
  private readonly server = inject(KeptRows);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly titles = inject(Title);
  /** What it is of, from the address. */
  readonly of = input.required<string>();
  /** Its id, or `new`. */
  readonly id = input.required<string>();
  protected readonly thing = computed<Thing>(() => THINGS.find((each) => each === this.of()) ?? 'item');
  protected readonly isNew = computed(() => this.id() === 'new');
  protected readonly sections = signal<readonly Section[]>([]);
  protected readonly refusals = signal<readonly RefusalShown[]>([]);
  /** Its own row. */
  protected readonly own = computed(() => this.sections()[0]?.rows[0] ?? null);
  protected readonly pathOf = pathOf;

  constructor() {
    effect(() => {
      const thing = this.thing();
      const id = this.id();
      untracked(() => (this.isNew() ? this.begin(thing) : this.read(thing, Number(id))));
    });
    inject(LiveEvents)
      .doing('keepList')
      .pipe(
        filter(() => !this.isNew()),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.read(this.thing(), Number(this.id())));
  }

  private read(about: Thing, id: number): void {
    const lists = listsAbout(about);
    forkJoin(lists.map((list) => this.server.open(list.name, { about, id, rows: ROWS }))).subscribe({
      next: (pages) => {
        this.sections.set(
          lists.flatMap((list, at): Section[] => {
            const { rows, next } = pages[at]!;
            return list.of && rows.length === 0 ? [] : [{ list, rows, more: next !== null }];
          }),
        );
        this.refusals.set([]);
        this.titles.setTitle(`${this.own()?.cells['name'] ?? ''} · kept · Kampong`);
      },
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }

  /** A new one begins with its own row; what else is kept of it comes after. */
  private begin(thing: Thing): void {
    const [list] = listsAbout(thing);
    this.titles.setTitle(`New ${thing} · Kampong`);
    const data: RowData = {
      list: list!,
      row: null,
      begins: freshCells(list!, this.session.company()?.currency ?? ''),
      head: `New ${thing}`,
      sub: list!.sub,
    };
    this.sheets
      .open<RowData>(RowSheet, data)
      .pipe(
        // The newest stands first.
        switchMap((done) => (done ? this.server.open(list!.name, { rows: 1 }) : of({ rows: [] }))),
        map(({ rows }) => rows[0] ?? null),
        catchError(() => of(null)),
      )
      .subscribe((made) => {
        if (made) void this.router.navigate(['/kept', thing, made.id], { replaceUrl: true });
        else void this.router.navigate(['/lists'], { queryParams: { list: list!.name }, replaceUrl: true });
      });
  }

  protected may(list: KeptList): boolean {
    return this.session.may(list.keptBy ?? 'lists');
  }

  /** Its own row is called what it is; lists that are called alike, by their room. */
  protected titleOf(list: KeptList): string {
    const [own] = listsAbout(this.thing());
    if (list === own) return `This ${this.thing()}`;
    return list.label === own!.label ? LIST_ROOMS.find(({ lists }) => lists.includes(list))!.label : list.label;
  }

  /** What is shown of a row: not what the whole page is about. */
  protected fieldsOf(list: KeptList) {
    const about = aboutField(list, this.thing());
    const own = list.of && list !== listsAbout(this.thing())[0];
    return list.fields.filter(({ name }) => name !== about && !(own && (name === 'number' || name === 'name')));
  }

  protected text(field: KeptList['fields'][number], cell: string): string {
    return shownText(field, cell, this.session.workDate());
  }

  protected change({ list }: Section, row: KeptRow): void {
    this.edit({ list, row, begins: {}, head: `${this.titleOf(list)}: ${this.name()}`, sub: list.sub });
  }

  protected add({ list }: Section): void {
    const about = aboutField(list, this.thing())!;
    const own = this.own()!.cells;
    const begins = {
      ...freshCells(list, this.session.company()?.currency ?? ''),
      [about]: own['number']!,
    };
    this.edit({ list, row: null, begins, given: about, head: `${this.titleOf(list)}: ${this.name()}`, sub: list.sub });
  }

  private name(): string {
    return this.own()?.cells['name'] ?? '';
  }

  private edit(data: RowData): void {
    this.sheets.open<RowData>(RowSheet, data).subscribe((done) => {
      if (!done) return;
      this.notices.show('Kept.');
      this.read(this.thing(), Number(this.id()));
    });
  }

  protected remove({ list }: Section, row: KeptRow): void {
    this.server.keep({ list: list.name, changes: [], removed: [{ id: row.id, stamp: row.stamp }] }).subscribe({
      next: () => {
        this.notices.show('Taken out.');
        this.read(this.thing(), Number(this.id()));
      },
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }
}
