import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { dec, isDay, readTypedDecimal, share } from '@core/kernel';
import { readTypedDay } from '@core/typed';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { Chips } from '../kit/controls/chips';
import { pathOf } from '../kit/documents';
import { counted, day, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { LiveList } from '../kit/live/live';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { KeepPairsSheet } from './keep-pairs-sheet';
import { Bench, labelOf, type PairRow, type PairTyped } from './service';

const SHOWS = [
  { value: '', label: 'Still to come' },
  { value: 'differs', label: 'Out of step' },
  { value: 'late', label: 'Too late' },
  { value: 'all', label: 'All' },
];

/** Every tie with both its ends, edited in place: quantity, dates and address of many at once. // L6 L7 */
@Component({
  selector: 'k-pairs',
  imports: [Chips, DocumentDock, Grid, Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        Ties<span>{{ sub() }}</span>
      </h1>
      @if (changed().length > 0) {
        <button type="button" class="act" (click)="typed.set(emptied)">Forget what was typed</button>
        <button type="button" class="act next" (click)="keep()">
          Change {{ changed().length === 1 ? 'it' : counted(changed().length, 'tie') }}…
        </button>
      } @else {
        <a class="act" routerLink="/bench">Sourcing bench</a>
      }
    </div>
    <div class="filters">
      <input
        type="search"
        aria-label="Number, party or item"
        placeholder="Number, party or item"
        [value]="q() ?? ''"
        (input)="look('q', $any($event.target).value)"
      />
      <k-chips label="Show" [chips]="shows" [value]="show() ?? ''" (valueChange)="look('show', $event)" />
      @if (differing().length > 0 && changed().length === 0) {
        <button type="button" class="act" (click)="inStep()">
          Ship {{ counted(differing().length, 'late line') }} when supply is due
        </button>
      }
    </div>
    <k-refusals [refusals]="list.refusals()" />
    <div class="sheet">
      @if (list.rows().length === 0 && !list.loading()) {
        <p class="empty">
          {{
            q() || show()
              ? 'No tie fits.'
              : 'Nothing that is bought for an order is still to come. Ties are made on the bench, or from a line.'
          }}
        </p>
      } @else {
        <k-grid
          label="Ties"
          [rows]="list.rows()"
          [columns]="columns()"
          [rowId]="rowId"
          (selected)="selected.set(rowId($event))"
          (opened)="open($event)"
          (nearEnd)="list.more()"
        />
      }
    </div>
    <k-document-dock [orderLineId]="about()?.orderLineId ?? null" [document]="about()?.order ?? null" />
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PairsPage {
  private readonly bench = inject(Bench);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly sheets = inject(Sheets);
  readonly q = input<string>();
  readonly show = input<string>();
  readonly order = input<string>();
  readonly purchase = input<string>();
  protected readonly shows = SHOWS;
  protected readonly emptied: ReadonlyMap<number, PairTyped> = new Map();
  protected readonly typed = signal(this.emptied);
  private readonly query = computed(() => ({
    ...(this.q() ? { q: this.q()! } : {}),
    ...(this.show() ? { show: this.show() as 'differs' } : {}),
    ...(this.order() ? { orderId: Number(this.order()) } : {}),
    ...(this.purchase() ? { purchaseId: Number(this.purchase()) } : {}),
  }));
  protected readonly list = new LiveList(
    this.query,
    (query, cursor) => this.bench.pairs({ ...query, ...(cursor ? { cursor } : {}) }),
    ['SO', 'PO'],
  );
  protected readonly selected = signal<string | null>(null);
  protected readonly about = computed(() => {
    const rows = this.list.rows();
    return rows.find((row) => this.rowId(row) === this.selected()) ?? rows[0] ?? null;
  });
  protected readonly changed = computed(() => [...this.typed().values()]);
  /** Lines whose supply is due after they ship. */
  protected readonly differing = computed(() => this.list.rows().filter((row) => row.differs.includes('date')));
  protected readonly sub = computed(() => {
    const rows = this.list.rows();
    const out = rows.filter((row) => row.differs.length > 0).length;
    return `${counted(rows.length, 'tie')} between orders and purchases, ${out === 0 ? 'all in step' : `${out} out of step`}`;
  });
  protected readonly rowId = (row: PairRow) => String(row.tieId);
  protected readonly counted = counted;

  private of(row: PairRow): PairTyped {
    return this.typed().get(row.tieId) ?? { row };
  }

  /** Takes what was typed over a cell; typed back to what it was, it is no change any more. */
  private set(row: PairRow, change: Partial<PairTyped>): void {
    const next = { ...this.of(row), ...change };
    const { quantity, shipDate, dueDate, shipToId } = next;
    const same = (typed: unknown, was: unknown) => typed === undefined || typed === was;
    const idle =
      same(quantity, row.quantity) &&
      same(shipDate, row.shipDate) &&
      same(dueDate, row.dueDate) &&
      same(shipToId, row.shipToId);
    this.typed.update((all) => {
      const rest = new Map(all);
      if (idle) rest.delete(row.tieId);
      else rest.set(row.tieId, next);
      return rest;
    });
  }

  protected inStep(): void {
    for (const row of this.differing()) this.set(row, { shipDate: row.dueDate });
  }

  protected readonly columns = computed<GridColumn<PairRow>[]>(() => {
    const workDate = this.session.workDate();
    // Read here, so that the cells are drawn anew with what was typed.
    const typed = this.typed();
    const of = (row: PairRow): PairTyped => typed.get(row.tieId) ?? { row };
    const dateCell = (id: 'shipDate' | 'dueDate', head: string): GridColumn<PairRow> => ({
      id,
      head,
      width: 104,
      text: (row) => {
        const value = of(row)[id] ?? row[id];
        return isDay(value) ? day(value, workDate) : value;
      },
      problem: (row) => (isDay(of(row)[id] ?? row[id]) ? '' : 'Not a date; write it like 11/3, +5 or fri.'),
      need: (row) => (of(row)[id] ?? row[id]) !== row[id] || (id === 'dueDate' && row.differs.includes('date')),
      edit: {
        kind: 'text',
        set: (row, text) => this.set(row, { [id]: text === '' ? row[id] : (readTypedDay(text, workDate) ?? text) }),
      },
    });
    return [
      {
        id: 'order',
        head: 'Order',
        width: 114,
        text: (row) => `${row.order.number} line ${row.orderLineNo}`,
        link: (row) => pathOf(row.order),
      },
      { id: 'customer', head: 'Customer', text: (row) => row.customer.name },
      { id: 'item', head: 'Item', width: 80, text: (row) => row.item.number },
      { id: 'route', head: 'Route', width: 68, text: (row) => (row.route === 'drop' ? 'drop' : 'special') },
      {
        id: 'quantity',
        head: 'Tied',
        width: 64,
        figures: true,
        text: (row) => {
          const text = of(row).quantity ?? row.quantity;
          return readTypedDecimal(text, 'quantity') === null ? text : quantity(text);
        },
        problem: (row) =>
          readTypedDecimal(of(row).quantity ?? row.quantity, 'quantity') === null ? 'Not a number.' : '',
        need: (row) => (of(row).quantity ?? row.quantity) !== row.quantity || row.differs.includes('quantity'),
        edit: {
          kind: 'text',
          set: (row, text) =>
            this.set(row, { quantity: text === '' ? row.quantity : (readTypedDecimal(text, 'quantity') ?? text) }),
        },
      },
      { ...dateCell('shipDate', 'Ship on') },
      {
        id: 'shipTo',
        head: 'Ship to',
        width: 104,
        text: (row) => labelOf(row, of(row).shipToId ?? row.shipToId),
        need: (row) => (of(row).shipToId ?? row.shipToId) !== row.shipToId || row.differs.includes('address'),
        edit: {
          kind: 'choice',
          when: (row) => row.shipTos.length > 1,
          options: (row) => row.shipTos.map((each) => ({ value: String(each.id), label: each.label })),
          set: (row, value) => this.set(row, { shipToId: Number(value) }),
        },
      },
      {
        id: 'purchase',
        head: 'Purchase',
        width: 114,
        text: (row) => `${row.purchase.number} line ${row.purchaseLineNo}`,
        link: (row) => pathOf(row.purchase),
      },
      { id: 'vendor', head: 'Vendor', text: (row) => row.vendor.name },
      { ...dateCell('dueDate', 'Due') },
      {
        id: 'state',
        head: 'How it stands',
        width: 150,
        text: (row) => standing(row),
        beads: (row) => [
          { label: 'Received', share: share(row.received, row.quantity), notch: row.differs.length > 0 },
        ],
        need: (row) => row.differs.length > 0,
      },
    ];
  });

  constructor() {
    inject(Title).setTitle('Ties · Kampong');
  }

  protected look(name: string, value: string): void {
    void this.router.navigate([], {
      queryParams: { [name]: value || null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  protected open(row: PairRow): void {
    void this.router.navigateByUrl(pathOf(row.purchase));
  }

  protected keep(): void {
    this.sheets.open(KeepPairsSheet, this.changed()).subscribe((done) => {
      if (!done) return;
      this.typed.set(this.emptied);
      this.notices.show(`${counted(done.touched.length, 'document')} changed, first`, done.touched[0]!);
    });
  }
}

/** In words: what came, what is short or over, and in what the ends differ. // L6 */
export function standing(row: PairRow): string {
  if (row.differs.length > 0) return `differs in ${row.differs.join(', ')}`;
  const over = dec(row.purchaseReceived).minus(row.purchaseQuantity);
  if (over.gt(0)) return `${quantity(over.toFixed())} over`;
  const short = dec(row.quantity).minus(row.received);
  if (short.lte(0)) return 'all came';
  return row.received === '0' ? 'in step' : `${quantity(short.toFixed())} short`;
}
