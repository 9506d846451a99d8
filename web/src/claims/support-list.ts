import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Session } from '../access';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { Claims, type SupportQuery, type SupportRow } from './service';
import { SupportSheetForm, type SupportData } from './support-sheet';

/** What vendors promised us for what we sell, newest first. // S13 */
@Component({
  selector: 'k-support-list',
  imports: [ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <a acts class="act" routerLink="/claims">Claims</a>
    @if (session.may('promotions')) {
      <button acts type="button" class="act next" (click)="begin()">New support…</button>
    }
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupportList {
  protected readonly session = inject(Session);
  private readonly claims = inject(Claims);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  protected readonly list: DocumentList<SupportQuery, SupportRow> = new DocumentList({
    head: 'Support by vendors',
    sub: 'what they owe us for each we sell, accrued as it is invoiced and claimed of them',
    looksIn: 'Number, name or vendor',
    filters: [],
    load: (query) => this.claims.listSupport(query),
    kinds: ['VS', 'CI', 'CN', 'CL'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty: 'No support fits. Keep what a vendor promised: whose, when, on what, and how much for each.',
  });

  protected begin(): void {
    this.sheets.open<SupportData>(SupportSheetForm, {}).subscribe((done) => {
      const [made] = done?.made ?? [];
      if (made) void this.notices.showAndGo('Made:', made);
    });
  }

  private columns(): GridColumn<SupportRow>[] {
    const workDate = this.session.workDate();
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.document.number, link: this.list.pathTo },
      { id: 'name', head: 'Name', width: 200, text: (row) => row.name },
      {
        id: 'vendor',
        head: 'Vendor',
        width: 190,
        text: (row) => row.vendor.name,
        link: (row) => pathOf({ kind: 'vendor', id: row.vendor.id }),
      },
      { id: 'what', head: 'On what', text: (row) => row.what },
      { id: 'first', head: 'From', width: 124, text: (row) => day(row.firstDay, workDate) },
      { id: 'last', head: 'To', width: 124, text: (row) => day(row.lastDay, workDate) },
      { id: 'state', head: 'State', width: 80, text: (row) => row.state },
      { id: 'accrued', head: 'Accrued', width: 104, figures: true, text: (row) => money(row.accrued, row.currency) },
      { id: 'open', head: 'Not claimed', width: 104, figures: true, text: (row) => money(row.open, row.currency) },
    ];
  }
}
