import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import * as contract from '@api/stock';
import { Session } from '../access/session';
import { Api } from '../kit/api';
import { pathOf } from '../kit/documents';
import { day, money, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { liveDocument } from '../kit/live';
import { Quiet } from '../kit/quiet';
import { Refusals } from '../kit/refusals';
import { Sheets } from '../kit/sheet';
import { DocumentDock } from './dock';
import { PostButtons } from './post-buttons';
import { ReverseSheet, type ReverseData } from './reverse-sheet';

type Sheet = z.infer<typeof contract.MovementSheet>;
type Line = Sheet['lines'][number];

/** A receipt or a shipment: what moved, at what cost, and its other half where it was a drop shipment. */
@Component({
  selector: 'k-movement',
  imports: [PostButtons, DocumentDock, Grid, Refusals, RouterLink],
  template: `<div class="page">
    @if (sheet(); as shown) {
      <div class="title">
        <h1>
          <b>{{ shown.document.number }}</b>{{ receipt() ? ' received from ' : ' shipped to ' }}{{ shown.party.name }}
          <span>posted {{ day(shown.postedOn) }} · cost {{ shown.currency }} {{ money(shown.cost) }}</span>
        </h1>
        @if (!receipt()) {
          <k-post-buttons [document]="shown.document" />
        }
        @if (!shown.reverses && !shown.reversedBy && mayReverse()) {
          <button type="button" class="act" (click)="reverse()">Reverse…</button>
        }
      </div>
      <div class="head">
        <div>
          <small>{{ receipt() ? 'Vendor' : 'Customer' }}</small><a
            class="link"
            [routerLink]="pathOf({ kind: receipt() ? 'vendor' : 'customer', id: shown.party.id })"
            >{{ shown.party.name }}</a
          >
        </div>
        <div>
          <small>{{ receipt() ? 'Purchase order' : 'Sales order' }}</small><a
            class="link"
            [routerLink]="pathOf(shown.source)"
            >{{ shown.source.number }}</a
          >
        </div>
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
          [rowId]="rowId"
          (selected)="selected.set(rowId($event))"
        />
      </div>
      <k-document-dock [document]="shown.document" [orderLineId]="orderLineId()" />
    } @else {
      <k-refusals [refusals]="loaded.state().refusals" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MovementPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly titles = inject(Title);
  private readonly sheets = inject(Sheets);
  private readonly quiet = inject(Quiet);
  readonly id = input.required<string>();
  readonly kind = input.required<'RC' | 'SH'>();
  protected readonly receipt = computed(() => this.kind() === 'RC');
  private readonly key = computed(() => ({ kind: this.kind(), id: Number(this.id()) }));
  protected readonly loaded = liveDocument(
    this.key,
    ({ kind, id }) => this.api.call(kind === 'RC' ? contract.openReceipt : contract.openShipment, { params: { id } }),
    (document, shown) => document.kind === shown?.document.kind && document.id === shown.document.id,
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  protected readonly selected = signal<string | null>(null);
  protected readonly rowId = (row: Line) => `${row.sourceLineNo}-${this.sheet()?.lines.indexOf(row)}`;
  protected readonly orderLineId = computed(() => {
    const lines = this.sheet()?.lines ?? [];
    return (lines.find((line) => this.rowId(line) === this.selected()) ?? lines[0])?.orderLineId ?? null;
  });
  protected readonly columns = computed<GridColumn<Line>[]>(() => {
    const currency = this.sheet()?.currency ?? 'MYR';
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
      { id: 'total', head: 'Cost', width: 120, figures: true, text: (row) => money(row.cost, currency) },
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

  protected readonly mayReverse = computed(() => this.session.may('goods'));

  protected reverse(): void {
    const { document, currency } = this.sheet()!;
    this.sheets.open<ReverseData>(ReverseSheet, { document, currency }).subscribe((done) => {
      const own = done?.made.find((made) => made.kind === document.kind);
      if (!done || !own) return;
      this.loaded.reload();
      this.quiet.say(done.made.length > 1 ? 'Both halves are taken back:' : 'Taken back:', own);
    });
  }

  constructor() {
    effect(() => this.titles.setTitle(`${this.sheet()?.document.number ?? 'Movement'} · Kampong`));
  }
}
