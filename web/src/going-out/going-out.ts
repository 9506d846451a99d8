import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import type * as z from 'zod';
import { sentOut, toPick } from '@core/going-out';
import { addDays, dec, inUnits } from '@core/kernel';
import * as contract from '@api/going-out';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { Api } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { Bead } from '../kit/charts/bead';
import { Chips } from '../kit/controls/chips';
import { pathOf } from '../kit/documents';
import { counted, day, quantity } from '../kit/formats';
import { LiveList } from '../kit/live/live';
import { Locations } from '../kit/live/locations';
import { byDay, comesWords, sheetWords, type Address, type Row } from './by-day';
import { goesOf } from './goes';
import { SendOutSheet, type SendOutData } from './send-out-sheet';

type Query = z.input<typeof contract.listGoingOut.query>;

/** How far ahead one looks: days from the work date, or all there is. */
const SPANS = [
  ['7', 'A week'],
  ['0', 'Today'],
  ['14', 'Two weeks'],
  ['30', 'A month'],
  ['all', 'All'],
] as const;
/** Days that stand for all there is. */
const ALL_DAYS = 3650;

/** The sheet of what leaves our places: by day, customer and address, what is here, what is short and what would end it. // S9 */
@Component({
  selector: 'k-going-out',
  imports: [Bead, Chips, DocumentDock, Refusals, RouterLink],
  templateUrl: './going-out.html',
  styleUrl: './going-out.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown)': 'move($event)' },
})
export class GoingOut {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly locations = inject(Locations);
  private readonly address = toSignal(inject(ActivatedRoute).queryParamMap);

  protected readonly span = computed(() => this.address()?.get('days') ?? SPANS[0][0]);
  protected readonly shown = computed(() => this.address()?.get('by') ?? 'address');
  protected readonly location = computed(() => this.address()?.get('location') ?? '');
  protected readonly customer = computed(() => this.address()?.get('customer') ?? '');
  private readonly query = computed((): Query => {
    const days = Number(this.span());
    return {
      until: addDays(this.session.workDate(), Number.isInteger(days) ? days : ALL_DAYS),
      rows: 200,
      ...(this.location() ? { location: this.location() } : {}),
      ...(this.customer() ? { customer: this.customer() } : {}),
    };
  });
  protected readonly list = new LiveList<Query, Row>(
    this.query,
    (query, cursor) =>
      this.api.call(contract.listGoingOut, { query: cursor === undefined ? query : { ...query, cursor } }),
    ['SO', 'PO', 'RC', 'SH', 'PR', 'AS', 'PL', 'JR', 'CT'],
  );
  protected readonly rows = this.list.rows;
  protected readonly days = computed(() => byDay(this.rows()));
  protected readonly sub = computed(() => sheetWords(this.rows()));
  protected readonly mayShip = computed(() => this.session.may('goods'));

  /** The marked lines, by id: only what is shown counts. */
  private readonly marks = signal<ReadonlySet<number>>(new Set());
  protected readonly marked = computed(() => this.rows().filter(({ lineId }) => this.marks().has(lineId)));
  protected readonly sent = computed(() => sentOut(this.marked().map(goesOf), new Map()));
  protected readonly act = computed(() => {
    const { lines, shipments } = this.sent();
    return `Ship ${counted(lines.length, 'line')} to ${counted(shipments, 'address', 'addresses')}…`;
  });
  protected readonly picks = computed(() => toPick(this.rows()));
  protected readonly paper = computed(() => {
    const { until, location, customer } = this.query();
    const narrowed = {
      until,
      location,
      customer,
      lines: this.marked()
        .map(({ lineId }) => lineId)
        .join(','),
    };
    const asked = Object.entries(narrowed).filter(([, value]) => value !== undefined && value !== '');
    return `/api/going-out/pick-list.pdf?${new URLSearchParams(asked as [string, string][])}`;
  });

  protected readonly chosen = signal<number | null>(null);
  protected readonly row = computed(
    () => this.rows().find(({ lineId }) => lineId === this.chosen()) ?? this.rows()[0] ?? null,
  );
  protected readonly asking = computed(() => {
    const row = this.row();
    return {
      lineId: row?.lineId ?? null,
      locationId: row?.location.id ?? 0,
      quantity: row?.open ?? '',
      by: row?.shipDate ?? null,
    };
  });
  protected readonly about = computed(() => {
    const row = this.row();
    return row ? `${row.order.number} line ${row.lineNo} · ${row.item.number} for ${row.customer.name}` : '';
  });
  protected readonly chips = SPANS.map(([value, label]) => ({ value, label }));
  protected readonly ways = [
    { value: 'address', label: 'By address' },
    { value: 'item', label: 'To pick' },
  ];
  protected readonly places = computed(() => [
    { value: '', label: 'All places' },
    ...this.locations.all().map(({ id, name }) => ({ value: String(id), label: name })),
  ]);

  constructor() {
    inject(Title).setTitle('To go out · Kampong');
    this.locations.read();
  }

  protected look(name: string, value: string): void {
    void this.router.navigate([], {
      queryParams: { [name]: value || null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  protected mark(rows: readonly Row[], on: boolean): void {
    this.marks.update((marks) => {
      const next = new Set(marks);
      for (const { lineId } of rows) {
        if (on) next.add(lineId);
        else next.delete(lineId);
      }
      return next;
    });
  }

  /** Of an address, or of all: what one mark sets. Lines of which nothing can go are left out. */
  protected readonly goes = (rows: readonly Row[]) => rows.filter(({ now }) => now !== '0');
  protected readonly isMarked = ({ lineId }: Row) => this.marks().has(lineId);
  protected allMarked(rows: readonly Row[]): boolean {
    const goes = this.goes(rows);
    return goes.length > 0 && goes.every(this.isMarked);
  }

  protected ship(): void {
    const rows = this.marked().filter(({ now }) => now !== '0');
    if (rows.length === 0) return;
    this.sheets.open<SendOutData>(SendOutSheet, { rows }).subscribe((done) => {
      if (!done) return;
      const shipments = done.made.filter(({ kind }) => kind === 'SH');
      this.marks.set(new Set());
      this.notices.show(
        shipments.length === 1 ? 'Shipped:' : `Shipped with ${counted(shipments.length, 'delivery note')}, the first:`,
        shipments[0] ?? null,
      );
    });
  }

  /** Arrows walk the marks from line to line. */
  protected move(event: KeyboardEvent): void {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const target = event.target as HTMLElement;
    if (step === 0 || !target.matches('input.mark')) return;
    const marks = [...document.querySelectorAll<HTMLInputElement>('k-going-out input.mark')];
    event.preventDefault();
    marks[marks.indexOf(target as HTMLInputElement) + step]?.focus();
  }

  protected readonly share = ({ now, open }: Row) => dec(now).div(open).toNumber();
  /** What can go now, and what of it is held. */
  protected readonly here = ({ now, held }: Row) =>
    now === '0'
      ? '–'
      : held === now
        ? `${quantity(now)} held`
        : `${quantity(now)}${held === '0' ? '' : `, ${quantity(held)} held`}`;
  protected readonly comes = (row: Row) => comesWords(row, this.session.workDate());
  protected readonly units = (value: string, unit: string) => inUnits(quantity(value), unit);
  protected readonly quantity = quantity;
  protected readonly late = (shipDay: string) => shipDay < this.session.workDate();
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly isToday = (shipDay: string) => shipDay === this.session.workDate();
  protected readonly pathOf = pathOf;
  protected readonly from = ({ location }: Address) => (this.locations.all().length > 1 ? location.name : '');
}
