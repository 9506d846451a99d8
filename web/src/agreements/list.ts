import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { elapsedShare, pace, type AgreementState } from '@core/agreements';
import { share } from '@core/kernel';
import { Session } from '../access/session';
import { Chips } from '../kit/chips';
import { pathOf } from '../kit/documents';
import { day, money, points } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { LiveList } from '../kit/live';
import { Refusals } from '../kit/refusals';
import { Agreements, type AgreementRow } from './service';

/** Agreements, newest first, with what is taken and how that stands against the time gone. */
@Component({
  selector: 'k-agreement-list',
  imports: [Chips, Grid, Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>Agreements<span>what customers have promised to take, and how far they are</span></h1>
      <a class="act next" routerLink="/agreements/new">New agreement</a>
    </div>
    <div class="filters">
      <input
        type="search"
        aria-label="Look in number, title and customer"
        placeholder="Number, title or customer"
        [value]="q() ?? ''"
        (input)="look({ q: $any($event.target).value })"
      />
      <k-chips label="State" [chips]="chips" [value]="state() ?? ''" (valueChange)="look({ state: $event })" />
    </div>
    <k-refusals [refusals]="list.refusals()" />
    <div class="sheet">
      @if (list.rows().length === 0 && !list.loading()) {
        <p class="empty">
          No agreement fits. An agreement commits a customer to quantities at agreed prices; begin one with New
          agreement.
        </p>
      } @else {
        <k-grid
          label="Agreements"
          [rows]="list.rows()"
          [columns]="columns()"
          [rowId]="rowId"
          (selected)="selected.set(rowId($event))"
          (opened)="open($event)"
          (nearEnd)="list.more()"
        />
      }
    </div>
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AgreementList {
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly agreements = inject(Agreements);
  readonly q = input<string>();
  readonly state = input<string>();
  protected readonly selected = signal<string | null>(null);
  private readonly query = computed(() => ({
    q: this.q() ?? '',
    ...(this.state() ? { state: this.state() as AgreementState } : {}),
  }));
  protected readonly list = new LiveList(
    this.query,
    (query, cursor) => this.agreements.list({ ...query, ...(cursor ? { cursor } : {}) }),
    ['AG'],
  );
  protected readonly rowId = (row: AgreementRow) => String(row.id);
  protected readonly chips = [
    { value: '', label: 'All' },
    { value: 'draft', label: 'Draft' },
    { value: 'in-force', label: 'In force' },
    { value: 'ended', label: 'Ended' },
  ];
  protected readonly columns = computed<GridColumn<AgreementRow>[]>(() => {
    const workDate = this.session.workDate();
    const shipped = (row: AgreementRow) => share(row.values.shipped, row.values.committed);
    const paceOf = (row: AgreementRow) => pace(shipped(row), elapsedShare(row.firstDay, row.lastDay, workDate));
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.number,
        link: (row) => pathOf({ kind: 'AG', id: row.id }),
      },
      { id: 'customer', head: 'Customer', text: (row) => row.customer.name },
      { id: 'title', head: 'About', text: (row) => row.title },
      {
        id: 'state',
        head: 'State',
        width: 84,
        text: (row) => row.state.replace('-', ' '),
        need: (row) => row.state === 'draft',
      },
      {
        id: 'last',
        head: 'Last day',
        width: 122,
        text: (row) => day(row.lastDay, workDate),
        need: (row) => row.state === 'in-force' && row.lastDay < workDate,
      },
      {
        id: 'committed',
        head: 'Committed',
        width: 112,
        figures: true,
        text: (row) => money(row.values.committed, row.currency),
      },
      {
        id: 'released',
        head: 'Released',
        width: 108,
        figures: true,
        text: (row) => money(row.values.released, row.currency),
      },
      {
        id: 'shipped',
        head: 'Shipped',
        width: 108,
        figures: true,
        text: (row) => money(row.values.shipped, row.currency),
      },
      { id: 'taken', head: 'Taken', width: 58, beads: (row) => [{ label: 'Shipped', share: shipped(row) }] },
      {
        id: 'pace',
        head: 'Pace',
        width: 72,
        figures: true,
        text: (row) => (row.state === 'in-force' ? points(paceOf(row)) : ''),
        need: (row) => row.state === 'in-force' && paceOf(row) < -0.1,
      },
    ];
  });

  constructor() {
    inject(Title).setTitle('Agreements · Kampong');
  }

  protected look(query: { q?: string; state?: string }): void {
    const clean = Object.fromEntries(Object.entries(query).map(([key, value]) => [key, value || null]));
    void this.router.navigate([], { queryParams: clean, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected open(row: AgreementRow): void {
    void this.router.navigateByUrl(pathOf({ kind: 'AG', id: row.id }));
  }
}
