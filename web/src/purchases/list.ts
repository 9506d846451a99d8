import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import type { DocumentRef } from '@core/kernel';
import { Session } from '../access/session';
import { DocumentDockLazy } from '../documents/lazy';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { ListPage } from '../kit/list-page';
import { LiveList } from '../kit/live';
import { Quiet } from '../kit/quiet';
import { Sheets } from '../kit/sheet';
import { EnterSheet } from './enter-sheet';
import { Purchases, type PurchaseRow } from './service';

/** Purchase orders, newest first, each with what came and what was invoiced. */
@Component({
  selector: 'k-purchase-list',
  imports: [DocumentDockLazy, ListPage, RouterLink],
  template: `<k-list-page
    head="Purchases"
    sub="what vendors are to send, and to whom"
    looksIn="Number, vendor or customer"
    [q]="q() ?? ''"
    [filters]="filters()"
    [list]="list"
    [columns]="columns()"
    [rowId]="rowId"
    [pathTo]="pathTo"
    empty="No purchase order fits. They are placed on the bench, from the lines that need supply, or entered here for nobody's order yet."
    (chosen)="chosen.set(rowId($event))"
  >
    <span acts>
      <a class="act" routerLink="/ties">Ties</a
      ><button type="button" class="act next" (click)="enter()">New purchase order…</button>
    </span>
    <k-document-dock-lazy [document]="about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PurchaseList {
  private readonly session = inject(Session);
  private readonly purchases = inject(Purchases);
  private readonly router = inject(Router);
  private readonly quiet = inject(Quiet);
  private readonly sheets = inject(Sheets);
  readonly q = input<string>();
  readonly state = input<string>();
  /** A side sheet to open at once. */
  readonly do = input<string>();
  private readonly query = computed(() => ({
    q: this.q() ?? '',
    ...(this.state() ? { state: this.state() as PurchaseRow['state'] } : {}),
  }));
  protected readonly list = new LiveList(
    this.query,
    (query, cursor) => this.purchases.list({ ...query, ...(cursor ? { cursor } : {}) }),
    ['PO'],
  );
  protected readonly rowId = (row: PurchaseRow) => String(row.id);
  protected readonly pathTo = (row: PurchaseRow) => pathOf({ kind: 'PO', id: row.id });
  protected readonly chosen = signal<string | null>(null);
  /** What the dock is about: the row one is on, else the first. */
  protected readonly about = computed<DocumentRef | null>(() => {
    const rows = this.list.rows();
    const row = rows.find((each) => this.rowId(each) === this.chosen()) ?? rows[0];
    return row ? { kind: 'PO', id: row.id, number: row.number } : null;
  });
  protected readonly filters = computed(() => [
    {
      name: 'state',
      label: 'State',
      value: this.state() ?? '',
      chips: [
        { value: '', label: 'All' },
        { value: 'placed', label: 'Placed' },
        { value: 'closed', label: 'Closed' },
      ],
    },
  ]);
  protected readonly columns = computed<GridColumn<PurchaseRow>[]>(() => {
    const workDate = this.session.workDate();
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.number,
        link: this.pathTo,
      },
      { id: 'vendor', head: 'Vendor', text: (row) => row.vendor.name },
      { id: 'for', head: 'Drop shipped to', text: (row) => row.customer?.name ?? 'our own stock' },
      { id: 'state', head: 'State', width: 86, text: (row) => row.state },
      { id: 'ordered', head: 'Placed', width: 110, text: (row) => day(row.orderDate, workDate) },
      {
        id: 'due',
        head: 'First due',
        width: 116,
        text: (row) => day(row.firstDueDate, workDate),
        need: (row) => row.state === 'placed' && row.shares.received < 1 && (row.firstDueDate ?? '9') < workDate,
      },
      { id: 'net', head: 'Net', width: 112, figures: true, text: (row) => money(row.net, row.currency) },
      {
        id: 'thread',
        head: 'Received · invoiced',
        width: 140,
        beads: (row) => [
          { label: 'Received', share: row.shares.received },
          { label: 'Vendor invoiced', share: row.shares.invoiced },
        ],
      },
    ];
  });

  protected enter(): void {
    this.sheets.open(EnterSheet, null).subscribe((done) => {
      if (done) void this.quiet.lead('Placed:', done.made[0]!);
    });
  }

  constructor() {
    effect(() => {
      if (this.do() !== 'enter') return;
      untracked(() => {
        void this.router.navigate([], { queryParams: {}, replaceUrl: true });
        this.enter();
      });
    });
    inject(Title).setTitle('Purchases · Kampong');
  }
}
