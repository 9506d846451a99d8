import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { KEPT_LISTS, LIST_ROOMS, type KeptList } from '@core/lists';
import { Session } from '../access';
import { ASKED_FOR_STATUS, Refused, refusalsOf } from '../kit/act/api';
import { Chips } from '../kit/controls/chips';
import { counted } from '../kit/formats';
import { Grid } from '../kit/grid';
import { LiveEvents, LiveList } from '../kit/live/live';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { keptColumns } from './columns';
import { freshCells } from './fresh';
import { KeptRows, type KeptRow } from './service';
import { TypedRows, type ShownRow } from './typed-rows';

/** The lists that prices, promises and checks are made from, typed over as in a spreadsheet and kept together. */
@Component({
  selector: 'k-kept-lists',
  imports: [Chips, Grid, Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        <b>{{ kept().label }}</b><span>{{ kept().sub }}</span>
      </h1>
      @if (typed.count() > 0) {
        <button type="button" class="act" (click)="typed.drop()">Give up what is typed</button>
      }
      @if (may()) {
        <a class="act" routerLink="/bring-in">Bring in a file…</a>
        @if (session.may('export')) {
          <a class="act" [href]="'/api/kept.csv?list=' + kept().name" download>CSV</a>
        }
      }
      @if (overtaken()) {
        <button type="button" class="act" (click)="typed.overTheirs(rows.rows())">Type over theirs</button>
      }
      @if (selected()?.mark !== 'new' && selected() && kept().grows && may()) {
        <button type="button" class="act" (click)="remove(selected()!)">
          {{ selected()!.mark === 'goes' ? 'Let the row stay' : 'Remove the row' }}
        </button>
      }
      @if (typed.count() > 0) {
        <button type="button" class="act next" [disabled]="busy()" (click)="keep()">
          Keep {{ counted(typed.count(), 'change') }}
        </button>
      }
    </div>
    <div class="filters">
      <k-chips label="Of what" [chips]="rooms" [value]="room().label" (valueChange)="toRoom($event)" />
    </div>
    <div class="filters">
      <input
        type="search"
        aria-label="Find in the list"
        placeholder="Find in the list"
        [value]="q() ?? ''"
        (input)="look({ q: $any($event.target).value })"
      />
      <k-chips label="List" [chips]="lists()" [value]="kept().name" (valueChange)="look({ list: $event, q: null })" />
    </div>
    <k-refusals [refusals]="rows.refusals()" />
    <k-refusals [refusals]="refused()" />
    <div class="sheet">
      @if (shown().length === 0 && !rows.loading()) {
        <p class="empty">Nothing here fits “{{ q() }}”.</p>
      } @else {
        <k-grid
          [label]="kept().label"
          [rows]="shown()"
          [columns]="columns()"
          [rowId]="rowKey"
          [roomFor]="roomFor"
          (selected)="selectedKey.set(rowKey($event))"
          (removed)="remove($event)"
          (nearEnd)="rows.more()"
        />
      }
    </div>
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeptLists {
  private readonly server = inject(KeptRows);
  protected readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly titles = inject(Title);
  /** The list's name, from the address. */
  readonly list = input<string>();
  readonly q = input<string>();
  protected readonly rooms = LIST_ROOMS.map(({ label }) => ({ value: label, label }));
  protected readonly kept = computed<KeptList>(
    () => KEPT_LISTS.find(({ name }) => name === this.list()) ?? KEPT_LISTS[0]!,
  );
  protected readonly room = computed(() => LIST_ROOMS.find((room) => room.lists.includes(this.kept()))!);
  protected readonly lists = computed(() => this.room().lists.map(({ name, label }) => ({ value: name, label })));
  protected readonly may = computed(() => this.session.may(this.kept().keptBy ?? 'lists'));
  protected readonly typed = new TypedRows();
  private readonly query = computed(() => ({ list: this.kept().name, q: this.q() ?? '' }));
  protected readonly rows = new LiveList<{ list: string; q: string }, KeptRow>(
    this.query,
    ({ list, q }, cursor) => this.server.open(list, { q, ...(cursor ? { cursor } : {}) }),
    [],
  );
  protected readonly busy = signal(false);
  protected readonly selectedKey = signal<string | null>(null);
  /** Whoever may not keep the lists sees no row to type in. */
  protected readonly shown = computed(() =>
    this.typed.over(this.rows.rows()).filter((row) => this.may() || row.id !== null),
  );
  protected readonly selected = computed(() => this.shown().find((row) => row.key === this.selectedKey()) ?? null);
  protected readonly columns = computed(() => {
    // Cells are drawn anew where what is refused of them changes.
    this.typed.refusals();
    return keptColumns({
      list: this.kept(),
      typed: this.typed,
      workDate: this.session.workDate(),
      may: this.may(),
      named: (target, words) => this.server.named(target, words),
    });
  });
  protected readonly rowKey = (row: ShownRow) => row.key;
  protected readonly roomFor = (row: ShownRow, count: number) => this.typed.roomFrom(row, count);
  protected readonly overtaken = computed(() => this.typed.refusals().some(({ code }) => code === 'row-changed'));
  /** What is refused, each said once; the cells are marked in the grid. */
  protected readonly refused = computed(() =>
    this.typed
      .refusals()
      .filter(({ sentence }, index, all) => all.findIndex((each) => each.sentence === sentence) === index)
      .slice(0, 4),
  );
  protected readonly counted = counted;

  constructor() {
    effect(() => {
      const list = this.kept();
      const company = this.session.company();
      untracked(() => {
        this.rows.clear();
        const fresh = freshCells(list, company?.currency ?? '');
        this.typed.begin(list, `list ${company?.id ?? 0} ${list.name}`, fresh);
        this.titles.setTitle(`${list.label} · Kampong`);
      });
    });
    inject(LiveEvents)
      .doing('keepList')
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.rows.again());
  }

  protected look(change: { list?: string; q?: string | null }): void {
    void this.router.navigate([], { queryParams: change, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected toRoom(label: string): void {
    const room = LIST_ROOMS.find((each) => each.label === label)!;
    this.look({ list: room.lists[0]!.name, q: null });
  }

  protected remove(row: ShownRow): void {
    if (this.may() && this.kept().grows) this.typed.remove(row);
  }

  protected keep(): void {
    if (this.busy()) return;
    this.busy.set(true);
    const count = this.typed.count();
    this.server.keep(this.typed.input()).subscribe({
      next: () => {
        this.busy.set(false);
        this.typed.drop();
        this.notices.show(`${counted(count, 'change')} kept.`);
        this.rows.again();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        // What waits for a second person is not typed any more; it is kept when that one says so.
        if (error instanceof Refused && error.status === ASKED_FOR_STATUS) {
          this.typed.drop();
          this.notices.show(error.message);
          return this.rows.again();
        }
        this.typed.refusals.set(refusalsOf(error));
        if (this.overtaken()) this.rows.again();
      },
    });
  }
}
