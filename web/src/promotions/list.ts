import { ChangeDetectionStrategy, Component, effect, inject, input, untracked } from '@angular/core';
import { Router } from '@angular/router';
import { dec } from '@core/kernel';
import { Session } from '../access';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { PromotionSheetForm, type PromotionData } from './promotion-sheet';
import { Promotions, type PromotionQuery, type PromotionRow } from './service';

/** Promotions, newest first, with what each has left to give. // S13 */
@Component({
  selector: 'k-promotion-list',
  imports: [ListPage],
  template: `<k-list-page [list]="list">
    @if (session.may('promotions')) {
      <button acts type="button" class="act next" (click)="begin()">New promotion…</button>
    }
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PromotionList {
  protected readonly session = inject(Session);
  private readonly promotions = inject(Promotions);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  /** `new` begins one. */
  readonly do = input<string>();
  protected readonly list: DocumentList<PromotionQuery, PromotionRow> = new DocumentList({
    head: 'Promotions',
    sub: 'so much off or goods for nothing, for a time and within a budget',
    looksIn: 'Number, name or customer',
    filters: [
      {
        name: 'state',
        label: 'State',
        chips: [
          ['', 'All'],
          ['running', 'Running'],
          ['to come', 'To come'],
          ['over', 'Over'],
          ['stopped', 'Stopped'],
        ],
      },
    ],
    load: (query) => this.promotions.list(query),
    kinds: ['PM', 'SO'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty: 'No promotion fits. Make one: its days, who it is for, what it gives and what it may cost.',
  });

  constructor() {
    effect(() => {
      if (this.do() !== 'new') return;
      untracked(() => {
        void this.router.navigate([], { queryParams: {}, replaceUrl: true });
        this.begin();
      });
    });
  }

  protected begin(): void {
    this.sheets.open<PromotionData>(PromotionSheetForm, {}).subscribe((done) => {
      const [made] = done?.made ?? [];
      if (made) void this.notices.showAndGo('Made:', made);
    });
  }

  private columns(): GridColumn<PromotionRow>[] {
    const workDate = this.session.workDate();
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.document.number, link: this.list.pathTo },
      { id: 'name', head: 'Name', width: 220, text: (row) => row.name },
      { id: 'what', head: 'On what', text: (row) => row.what },
      { id: 'who', head: 'For', width: 180, text: (row) => row.who },
      { id: 'first', head: 'From', width: 124, text: (row) => day(row.firstDay, workDate) },
      { id: 'last', head: 'To', width: 124, text: (row) => day(row.lastDay, workDate) },
      { id: 'state', head: 'State', width: 88, text: (row) => row.state, need: (row) => row.state === 'used up' },
      { id: 'given', head: 'Given', width: 110, figures: true, text: (row) => money(row.used, row.currency) },
      {
        id: 'left',
        head: 'Left',
        width: 110,
        figures: true,
        text: (row) =>
          row.budget === null ? 'no budget' : money(dec(row.budget).minus(row.used).toFixed(), row.currency),
        need: (row) =>
          row.state === 'running' && row.budget !== null && dec(row.used).gte(dec(row.budget).times('0.9')),
      },
    ];
  }
}
