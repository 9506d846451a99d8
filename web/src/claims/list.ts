import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Session } from '../access';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { liveDocument } from '../kit/live/live';
import { MakeClaimSheet, type MakeClaimData } from './claim-sheets';
import { Claims, type ClaimQuery, type ClaimRow } from './service';

/** Claims on vendors, newest first, and what can be claimed. // S13 */
@Component({
  selector: 'k-claim-list',
  imports: [ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <a acts class="act" routerLink="/support">Support by vendors</a>
    @if (session.may('promotions')) {
      @for (each of claimable(); track each.vendor.id) {
        <button acts type="button" class="act next" (click)="make(each.vendor)">
          Claim {{ amount(each.amount) }} of {{ each.vendor.name }}…
        </button>
      }
    }
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ClaimList {
  protected readonly session = inject(Session);
  private readonly claims = inject(Claims);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly found = liveDocument(
    signal(null),
    () => this.claims.claimable(),
    ({ kind }) => kind === 'CL' || kind === 'VS',
  );
  /** The two who owe most: the others are claimed on their support. */
  protected readonly claimable = computed(() => (this.found.state().value?.rows ?? []).slice(0, 2));
  protected readonly list: DocumentList<ClaimQuery, ClaimRow> = new DocumentList({
    head: 'Claims on vendors',
    sub: 'what they owe us for what we sold, settled against their invoices or paid',
    looksIn: 'Number or vendor',
    filters: [
      {
        name: 'state',
        label: 'State',
        chips: [
          ['', 'All'],
          ['open', 'Open'],
          ['settled', 'Settled'],
          ['withdrawn', 'Withdrawn'],
        ],
      },
    ],
    load: (query) => this.claims.list(query),
    kinds: ['CL'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty: 'No claim fits. What is accrued by a vendor’s support can be claimed here, and on the support.',
  });

  protected make(vendor: { id: number; name: string }): void {
    const currency = this.found.state().value!.currency;
    this.sheets.open<MakeClaimData>(MakeClaimSheet, { vendor, currency }).subscribe((done) => {
      const [made] = done?.made ?? [];
      if (made) void this.notices.showAndGo('Claimed:', made);
    });
  }

  private columns(): GridColumn<ClaimRow>[] {
    const workDate = this.session.workDate();
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.document.number, link: this.list.pathTo },
      {
        id: 'vendor',
        head: 'Vendor',
        text: (row) => row.vendor.name,
        link: (row) => pathOf({ kind: 'vendor', id: row.vendor.id }),
      },
      { id: 'until', head: 'Accrued up to', width: 130, text: (row) => day(row.until, workDate) },
      { id: 'made', head: 'Made', width: 124, text: (row) => day(row.madeOn, workDate) },
      { id: 'state', head: 'State', width: 90, text: (row) => row.state },
      { id: 'amount', head: 'Claimed', width: 110, figures: true, text: (row) => money(row.amount, row.currency) },
      { id: 'settled', head: 'Settled', width: 110, figures: true, text: (row) => money(row.settled, row.currency) },
    ];
  }

  protected readonly amount = (value: string) => money(value, this.found.state().value?.currency ?? 'MYR');
}
