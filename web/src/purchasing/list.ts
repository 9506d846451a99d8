import { ChangeDetectionStrategy, Component, effect, inject, input, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Session } from '../access';
import { DocumentDockLazy } from '../documents/lazy';
import { day, namedMoney } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { EnterSheet } from './enter-sheet';
import { Purchases, type PurchaseQuery, type PurchaseRow } from './service';

/** Whom it is for: where it is drop shipped to, or whose orders wait for it at our place. */
const whom = ({ customer, forWhom }: PurchaseRow): string =>
  customer ? `straight to ${customer.name}` : forWhom.length > 0 ? forWhom.join(', ') : 'our own stock';

/** Purchase orders, newest first, each with what came and what was invoiced. */
@Component({
  selector: 'k-purchase-list',
  imports: [DocumentDockLazy, ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <span acts>
      <a class="act" routerLink="/ties">Ties</a
      ><button type="button" class="act next" (click)="enter()">New purchase order…</button>
    </span>
    <k-document-dock-lazy [document]="list.about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PurchaseList {
  private readonly session = inject(Session);
  private readonly purchases = inject(Purchases);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly sheets = inject(Sheets);
  /** A side sheet to open at once. */
  readonly do = input<string>();
  /** The number of the vendor it is with. */
  readonly with = input<string>();
  protected readonly list: DocumentList<PurchaseQuery, PurchaseRow> = new DocumentList({
    head: 'Purchases',
    sub: 'what vendors are to send, and to whom',
    looksIn: 'Number, vendor or customer',
    filters: [
      {
        name: 'state',
        label: 'State',
        chips: [
          ['', 'All'],
          ['placed', 'Placed'],
          ['closed', 'Closed'],
        ],
      },
    ],
    narrows: [
      { name: 'vendor', label: 'Vendor', kind: 'party', search: (words) => this.purchases.vendors(words) },
      { name: 'due', label: 'Due', kind: 'days' },
      { name: 'ordered', label: 'Placed', kind: 'days' },
      { name: 'show', label: 'Only', kind: 'brought', words: () => 'late' },
    ],
    workDate: () => this.session.workDate(),
    sorts: ['number', 'vendor', 'ordered', 'due', 'net'],
    usualSort: ({ due, ordered, show }) =>
      due !== undefined || show ? 'due-up' : ordered === undefined ? 'number-down' : 'ordered-down',
    viewed: 'purchases',
    views: [
      { name: 'Late', query: { show: 'late' } },
      { name: 'Due within a week', query: { state: 'placed', due: 'today..+7' } },
    ],
    files: '/api/purchases',
    load: (query) => this.purchases.list(query),
    kinds: ['PO'],
    document: ({ id, number }) => ({ kind: 'PO', id, number }),
    columns: () => this.columns(),
    empty:
      "No purchase order fits. They are placed on the bench, from the lines that need supply, or entered here for nobody's order yet.",
  });

  private columns(): GridColumn<PurchaseRow>[] {
    const workDate = this.session.workDate();
    const own = this.session.company()?.currency ?? '';
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.number,
        link: this.list.pathTo,
      },
      { id: 'vendor', head: 'Vendor', text: (row) => row.vendor.name },
      { id: 'for', head: 'For', text: whom },
      { id: 'state', head: 'State', width: 86, text: (row) => row.state },
      { id: 'ordered', head: 'Placed', width: 110, text: (row) => day(row.orderDate, workDate) },
      {
        id: 'due',
        head: 'First due',
        width: 116,
        text: (row) => day(row.openDue ?? row.firstDueDate, workDate),
        // Late is what is still to come, and no longer.
        need: (row) => row.state === 'placed' && row.openDue !== null && row.openDue < workDate,
      },
      { id: 'net', head: 'Net', width: 122, figures: true, text: (row) => namedMoney(row.net, row.currency, own) },
      {
        id: 'thread',
        head: 'Received · invoiced',
        width: 140,
        beads: (row) => [
          { label: 'Received', share: row.shares.received, over: row.over },
          { label: 'Vendor invoiced', share: row.shares.invoiced },
        ],
      },
    ];
  }

  protected enter(vendor: string | null = null): void {
    this.sheets.open<string | null>(EnterSheet, vendor).subscribe((done) => {
      if (done) void this.notices.showAndGo('Placed:', done.made[0]!);
    });
  }

  constructor() {
    effect(() => {
      if (this.do() !== 'enter') return;
      untracked(() => {
        void this.router.navigate([], { queryParams: {}, replaceUrl: true });
        this.enter(this.with() ?? null);
      });
    });
  }
}
