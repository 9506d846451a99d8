import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import * as contract from '@api/stock';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { pathOf } from '../kit/documents';
import { day, money, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { Sheets } from '../kit/act/sheet';
import { DocumentDock, PaperActs } from '../documents';
import { numbersColumn } from '../serial';
import { ReverseSheet, type ReverseData } from './reverse-sheet';

type Sheet = z.infer<typeof contract.MovementSheet>;
type Line = Sheet['lines'][number];

/** A receipt or a shipment: what moved, at what cost, and its other half where it was a drop shipment. */
@Component({
  selector: 'k-movement',
  imports: [DocumentDock, DocumentTitle, Grid, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>{{ receipt() ? 'Vendor' : 'Customer' }}</small><a
            class="link"
            [routerLink]="pathOf({ kind: receipt() ? 'vendor' : 'customer', id: shown.party.id })"
            >{{ shown.party.name }}</a
          >
        </div>
        <div>
          <small>{{ receipt() ? 'Purchase order' : shown.sources.length > 1 ? 'Sales orders' : 'Sales order' }}</small>
          @for (source of shown.sources; track source.id) {
            <a class="link" [routerLink]="pathOf(source)">{{ source.number }}</a>{{ $last ? '' : ', ' }}
          }
        </div>
        @if (shown.foreign; as foreign) {
          <div><small>Rate of the day</small>{{ foreign.currency }} at {{ foreign.rate }}</div>
        }
        @if (shown.reverses; as other) {
          <div>
            <small>Reverses</small><a class="link" [routerLink]="pathOf(other)">{{ other.number }}</a>
          </div>
          <div><small>Why</small>{{ shown.reason }}</div>
        }
        @if (shown.reversedBy; as other) {
          <div>
            <small>Reversed by</small><a class="link" [routerLink]="pathOf(other)">{{ other.number }}</a>
          </div>
        }
      </div>
      <div class="sheet">
        <k-grid
          label="What moved"
          [natural]="shown.lines.length < 7"
          [rows]="shown.lines"
          [columns]="columns()"
          [rowId]="page.rowId"
          (selected)="page.select($event)"
        />
      </div>
      <k-document-dock [document]="shown.document" [orderLineId]="page.line()?.orderLineId ?? null" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MovementPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly paper = new PaperActs();
  readonly id = input.required<string>();
  readonly kind = input.required<'RC' | 'SH'>();
  protected readonly receipt = computed(() => this.kind() === 'RC');
  protected readonly page: DocumentPage<string, Sheet, Line> = new DocumentPage({
    key: this.id,
    name: 'Movement',
    open: (id) =>
      this.api.call(this.receipt() ? contract.openReceipt : contract.openShipment, { params: { id: Number(id) } }),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: `${this.receipt() ? ' received from ' : ' shipped to '}${sheet.party.name}`,
      sub: `posted ${this.day(sheet.postedOn)} · cost ${sheet.currency} ${this.money(sheet.cost)}`,
    }),
    lines: (sheet) => sheet.lines,
    rowId: (line) => `${line.source.id}-${line.sourceLineNo}-${this.sheet()?.lines.indexOf(line)}`,
    acts: () => this.acts(),
  });
  private readonly sheet = this.page.sheet;

  private acts(): DocumentAct[] {
    const sheet = this.sheet();
    if (!sheet) return [];
    const { document, currency } = sheet;
    return [
      ...(this.receipt() ? [] : this.paper.of(document)),
      {
        name: 'reverse',
        label: 'Reverse…',
        when: !sheet.reverses && !sheet.reversedBy && this.session.may('goods'),
        does: () => this.sheets.open<ReverseData>(ReverseSheet, { document, currency }),
        says: ({ made }) => [
          made.length > 1 ? 'Both halves are taken back:' : 'Taken back:',
          made.find((each) => each.kind === document.kind),
        ],
      },
    ];
  }

  protected readonly columns = computed<GridColumn<Line>[]>(() => {
    const currency = this.sheet()?.currency ?? 'MYR';
    const foreign = this.sheet()?.foreign;
    return [
      {
        id: 'item',
        head: 'Item',
        width: 110,
        text: (row) => row.item.number,
        link: (row) => pathOf({ kind: 'item', id: row.item.id }),
      },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      { id: 'quantity', head: 'Quantity', width: 100, figures: true, text: (row) => quantity(row.quantity) },
      { id: 'unit', head: 'Unit', width: 70, text: (row) => row.item.unit },
      { id: 'cost', head: 'Unit cost', width: 110, figures: true, text: (row) => price(row.unitCost, currency) },
      {
        id: 'total',
        head: foreign ? `Cost, ${currency}` : 'Cost',
        width: 120,
        figures: true,
        text: (row) => money(row.cost, currency),
      },
      ...(foreign
        ? [
            {
              id: 'value',
              head: `In ${foreign.currency}`,
              width: 110,
              figures: true,
              text: (row: Line) => money(row.value ?? '', foreign.currency),
            },
          ]
        : []),
      ...numbersColumn<Line>(this.sheet()?.lines ?? []),
      {
        id: 'source',
        head: 'Of',
        width: 140,
        text: (row) => `${row.source.number} line ${row.sourceLineNo}`,
        link: (row) => pathOf(row.source),
      },
      {
        id: 'half',
        head: this.receipt() ? 'Shipped with' : 'Received with',
        width: 130,
        text: (row) => row.otherHalf?.number ?? '',
        link: (row) => row.otherHalf && pathOf(row.otherHalf),
      },
    ];
  });
  protected readonly pathOf = pathOf;
  protected readonly money = (value: string) => money(value, this.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
