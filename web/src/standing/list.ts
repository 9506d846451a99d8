import { ChangeDetectionStrategy, Component, effect, inject, input, untracked } from '@angular/core';
import { Router } from '@angular/router';
import { dec } from '@core/kernel';
import { sayRecurrence } from '@core/recurrence';
import { Session } from '../access';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { PasteStandingSheet } from './paste-sheet';
import { Standing, type StandingQuery, type StandingRow } from './service';
import { StandingSheetForm, type StandingData } from './standing-sheet';

/** Standing orders, newest first. // S7 */
@Component({
  selector: 'k-standing-list',
  imports: [ListPage],
  template: `<k-list-page [list]="list">
    <button acts type="button" class="act" (click)="paste()">Paste for many…</button>
    <button acts type="button" class="act next" (click)="begin({})">New standing order…</button>
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StandingList {
  private readonly session = inject(Session);
  private readonly standing = inject(Standing);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  /** `new` begins one; of an order where one is named. */
  readonly do = input<string>();
  readonly order = input<string>();
  protected readonly list: DocumentList<StandingQuery, StandingRow> = new DocumentList({
    head: 'Standing orders',
    sub: 'what customers get again and again, made ahead by itself',
    looksIn: 'Number, reference or customer',
    filters: [
      {
        name: 'state',
        label: 'State',
        chips: [
          ['', 'All'],
          ['active', 'Active'],
          ['paused', 'Paused'],
          ['ended', 'Ended'],
        ],
      },
    ],
    load: (query) => this.standing.list(query),
    kinds: ['ST', 'SO'],
    document: ({ document }) => document,
    rowId: ({ document }) => String(document.id),
    columns: () => this.columns(),
    empty: 'No standing order fits. Make one here, or from an order under its ⋯.',
  });

  constructor() {
    effect(() => {
      if (this.do() !== 'new') return;
      const orderId = this.order();
      untracked(() => {
        void this.router.navigate([], { queryParams: {}, replaceUrl: true });
        if (orderId === undefined) this.begin({});
        else this.fromOrder(Number(orderId));
      });
    });
  }

  protected begin(data: StandingData): void {
    this.sheets.open<StandingData>(StandingSheetForm, data).subscribe((done) => {
      const [made] = done?.made ?? [];
      if (made) void this.notices.showAndGo('Made:', made);
    });
  }

  private fromOrder(id: number): void {
    this.standing.order(id).subscribe((order) =>
      this.begin({
        customer: { ...order.customer, shipTos: order.shipTos, shipToId: order.shipTo?.id ?? null },
        reference: order.customerReference,
        lines: order.lines
          .filter(({ promotion }) => !promotion?.free)
          .map(({ item, sold, units, quantity }) => ({
            item,
            quantity: sold.factor === '1' ? quantity : dec(quantity).div(sold.factor).toFixed(),
            unit: sold.factor === '1' ? '' : sold.unit,
            units: [item.unit, ...units.map(({ unit }) => unit)],
          })),
      }),
    );
  }

  protected paste(): void {
    this.sheets.open(PasteStandingSheet, {}).subscribe((done) => {
      if (done) this.notices.show(`${done.made.length} standing orders made, last`, done.made.at(-1)!);
    });
  }

  private columns(): GridColumn<StandingRow>[] {
    const workDate = this.session.workDate();
    return [
      { id: 'number', head: 'Number', width: 96, text: (row) => row.document.number, link: this.list.pathTo },
      {
        id: 'customer',
        head: 'Customer',
        width: 200,
        text: (row) => row.customer.name,
        link: (row) => pathOf({ kind: 'customer', id: row.customer.id }),
      },
      { id: 'what', head: 'What', text: (row) => row.what },
      { id: 'often', head: 'How often', width: 210, text: (row) => sayRecurrence(row.rule) },
      { id: 'state', head: 'State', width: 80, text: (row) => row.state },
      { id: 'due', head: 'Next made', width: 110, text: (row) => (row.dueOn ? day(row.dueOn, workDate) : '') },
      { id: 'made', head: 'Made', width: 70, figures: true, text: (row) => String(row.made) },
      {
        id: 'needs',
        head: 'Waits',
        width: 70,
        figures: true,
        text: (row) => (row.needs === 0 ? '' : String(row.needs)),
        need: (row) => row.needs > 0,
      },
    ];
  }
}
