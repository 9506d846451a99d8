import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import { dec, MAIN_LOCATION, share, type DocumentRef } from '@core/kernel';
import { Session } from '../access/session';
import { Bench } from '../bench/service';
import { TieSheet } from '../bench/tie-sheet';
import { VendorInvoiceSheet } from '../billing/vendor-invoice-sheet';
import { DocumentDock } from '../documents/dock';
import { PostButtons } from '../documents/post-buttons';
import { refusalsOf, type ActDone } from '../kit/api';
import { pathOf } from '../kit/documents';
import { counted, day, money, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { liveDocument } from '../kit/live';
import { Quiet } from '../kit/quiet';
import { Refusals } from '../kit/refusals';
import { Sheets } from '../kit/sheet';
import { AnswerSheet } from './answer-sheet';
import { MakeOrderSheet } from './make-order-sheet';
import { MoveSheet } from './move-sheet';
import { Purchases, type PurchaseLine } from './service';

/** One purchase order: who it is for, what came, what the vendor invoiced. */
@Component({
  selector: 'k-purchase',
  imports: [PostButtons, DocumentDock, Grid, Refusals, RouterLink],
  template: `<div class="page">
    @if (sheet(); as shown) {
      <div class="title">
        <h1>
          <b>{{ shown.number }}</b> from {{ shown.vendor.name }}<span>{{ sub() }}</span>
        </h1>
        <k-post-buttons [document]="{ kind: 'PO', id: shown.id, number: shown.number }" />
        <a class="act" download [href]="'/api/purchases/' + shown.id + '/ubl'">UBL</a>
        @if (loose() && step() !== 'order') {
          <button type="button" class="act" (click)="makeOrder()">Make an order of it…</button>
        }
        @if (toStock()) {
          <button type="button" class="act" (click)="comeHere()">To our stock</button>
        }
        @if (untieable(); as line) {
          <button type="button" class="act" (click)="untie(line)">Untie line {{ line.lineNo }}</button>
        }
        @if (tieable(); as line) {
          <button type="button" class="act" (click)="tie(line)">Tie line {{ line.lineNo }}…</button>
        }
        @if (answerable()) {
          <button type="button" class="act" (click)="answer()">Their answer…</button>
        }
        @if (toReceive() && step() !== 'receive') {
          <button type="button" class="act" (click)="receive()">Receive…</button>
        }
        @if (toInvoice() && step() !== 'invoice') {
          <button type="button" class="act" (click)="invoice()">Enter their invoice…</button>
        }
        @if (step() === 'receive') {
          <button type="button" class="act next" (click)="receive()">Receive…</button>
        } @else if (step() === 'invoice') {
          <button type="button" class="act next" (click)="invoice()">Enter their invoice…</button>
        } @else if (step() === 'order') {
          <button type="button" class="act next" (click)="makeOrder()">Make an order of it…</button>
        }
      </div>
      <div class="head">
        <div>
          <small>Vendor</small
          ><a class="link" [routerLink]="pathOf({ kind: 'vendor', id: shown.vendor.id })">{{ shown.vendor.name }}</a>
        </div>
        @if (shown.customer; as customer) {
          <div>
            <small>Drop shipped to</small
            ><a class="link" [routerLink]="pathOf({ kind: 'customer', id: customer.id })">{{ customer.name }}</a
            >, {{ shown.shipTo?.label }}
          </div>
        }
        @if (shown.location; as place) {
          <div><small>Comes to</small>{{ place.name }}</div>
        }
        <div><small>Placed</small>{{ day(shown.orderDate) }}</div>
        <div><small>First due</small>{{ day(shown.firstDueDate) }}</div>
        <div><small>Their answer</small>{{ shown.answeredOn ? 'came ' + day(shown.answeredOn) : 'not yet' }}</div>
        <div><small>Terms</small>{{ shown.terms }}</div>
      </div>
      <div class="sheet">
        <k-grid
          label="Lines of the purchase order"
          [natural]="shown.lines.length < 7"
          [rows]="shown.lines"
          [columns]="columns()"
          [rowId]="rowId"
          [standOn]="at() ?? null"
          (opened)="toOrder($event)"
          (selected)="selected.set(rowId($event))"
        />
        <div class="totals">
          <b>{{ shown.currency }}</b><b>{{ money(shown.net) }}</b>
        </div>
      </div>
      <k-document-dock
        [document]="document()"
        [orderLineId]="orderLineId()"
        [itemId]="line()?.item?.id ?? null"
        [asking]="asking()"
        [related]="shown.documents"
      />
    } @else {
      <k-refusals [refusals]="loaded.state().refusals" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PurchasePage {
  private readonly purchases = inject(Purchases);
  private readonly bench = inject(Bench);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly quiet = inject(Quiet);
  private readonly sheets = inject(Sheets);
  private readonly titles = inject(Title);
  readonly id = input.required<string>();
  /** A side sheet to open at once. */
  readonly do = input<string>();
  /** The line to stand on. */
  readonly at = input<string>();
  protected readonly loaded = liveDocument(
    this.id,
    (id) => this.purchases.open(Number(id)),
    (document, shown) =>
      (document.kind === 'PO' && document.id === shown?.id) ||
      (shown?.documents.some((each) => each.document.kind === document.kind && each.document.id === document.id) ??
        false),
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  protected readonly selected = signal<string | null>(null);
  protected readonly document = computed<DocumentRef | null>(() => {
    const sheet = this.sheet();
    return sheet ? { kind: 'PO', id: sheet.id, number: sheet.number } : null;
  });
  /** What can come: to our place, or to a customer for an order. */
  private readonly coming = computed(() => {
    const sheet = this.sheet();
    if (sheet?.state !== 'placed') return [];
    return sheet.lines.filter(
      (line) => dec(line.quantity).gt(line.received) && (sheet.customer === null || line.ties.length > 0),
    );
  });
  protected readonly toReceive = computed(() => this.coming().length > 0);
  protected readonly toInvoice = computed(
    () => this.sheet()?.lines.some((line) => dec(line.received).gt(line.invoiced)) ?? false,
  );
  /** What is due to come is received first; what has come and is complete waits for the vendor's invoice. */
  protected readonly step = computed(() =>
    this.toReceive() ? 'receive' : this.toInvoice() ? 'invoice' : this.loose() ? 'order' : 'none',
  );
  protected readonly sub = computed(() => {
    const sheet = this.sheet();
    if (!sheet) return '';
    const due = sheet.firstDueDate && this.toReceive() ? ` · first due ${this.day(sheet.firstDueDate)}` : '';
    return `${sheet.state} · ${counted(sheet.lines.length, 'line')}${due}`;
  });
  protected readonly line = computed(() => {
    const lines = this.sheet()?.lines ?? [];
    return lines.find((each) => String(each.id) === this.selected()) ?? lines[0] ?? null;
  });
  /** Where it comes to; nobody asks for anything. */
  protected readonly asking = computed(() => ({
    lineId: null,
    locationId: this.sheet()?.location?.id ?? MAIN_LOCATION,
    quantity: '',
    by: null,
  }));
  protected readonly orderLineId = computed(() => this.line()?.ties[0]?.orderLineId ?? null);
  private readonly placed = computed(() => this.sheet()?.state === 'placed');
  /** A drop shipment of which something is for nobody. // L4 */
  protected readonly loose = computed(
    () => this.placed() && this.sheet()!.customer !== null && this.sheet()!.lines.some((line) => line.untied !== '0'),
  );
  protected readonly toStock = computed(
    () => this.loose() && this.sheet()!.lines.every((line) => line.ties.length === 0 && line.received === '0'),
  );
  protected readonly tieable = computed(() =>
    this.placed() && this.line() && this.line()!.untied !== '0' && dec(this.line()!.quantity).gt(this.line()!.received)
      ? this.line()
      : null,
  );
  protected readonly untieable = computed(() =>
    this.placed() && this.line()?.ties.some((tie) => tie.received === '0') ? this.line() : null,
  );

  protected readonly answerable = computed(
    () => this.placed() && this.sheet()!.lines.some((line) => dec(line.quantity).gt(line.received)),
  );

  /** To the sales order a line is for, and to its line there: Enter goes there and back. // L5 */
  protected toOrder({ ties: [first] }: PurchaseLine): void {
    if (first) void this.router.navigate([pathOf(first.order)], { queryParams: { at: first.orderLineId } });
  }

  protected answer(): void {
    this.sheets.open(AnswerSheet, this.sheet()!).subscribe((done) => {
      if (!done) return;
      this.loaded.reload();
      this.quiet.say('Taken down for', done.touched[0]!);
    });
  }

  protected tie(line: PurchaseLine): void {
    const data = { end: 'purchase' as const, lineId: line.id, title: `${this.sheet()!.number} line ${line.lineNo}` };
    this.sheets.open(TieSheet, data).subscribe((done) => {
      if (done) this.quiet.say('Tied to', done.touched[0]!);
    });
  }

  protected untie(line: PurchaseLine): void {
    const ties = line.ties.filter((tie) => tie.received === '0');
    this.act(
      this.bench.untie(ties.map((tie) => tie.id)),
      `Line ${line.lineNo} is for nobody now; without supply again:`,
    );
  }

  protected comeHere(): void {
    const { id, version } = this.sheet()!;
    this.act(this.bench.toStock(id, version), 'Comes to our place now:');
  }

  protected makeOrder(): void {
    this.sheets.open(MakeOrderSheet, this.sheet()).subscribe((done) => {
      if (done) this.quiet.say('Made and tied:', done.made[0]!);
    });
  }

  private act(done$: Observable<ActDone>, words: string): void {
    done$.subscribe({
      next: ({ touched }) => {
        this.loaded.reload();
        this.quiet.say(words, touched[0]!);
      },
      error: (error: unknown) => this.quiet.say(refusalsOf(error)[0]?.sentence ?? ''),
    });
  }

  protected readonly rowId = (row: PurchaseLine) => String(row.id);
  protected readonly columns = computed<GridColumn<PurchaseLine>[]>(() => {
    const currency = this.sheet()?.currency ?? 'MYR';
    return [
      { id: 'line', head: '', width: 36, text: (row) => String(row.lineNo) },
      {
        id: 'item',
        head: 'Item',
        width: 100,
        text: (row) => row.item.number,
        link: (row) => pathOf({ kind: 'item', id: row.item.id }),
      },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      {
        id: 'quantity',
        head: 'Quantity',
        width: 76,
        figures: true,
        text: (row) => quantity(row.quantity),
        problem: (row) => (row.stopped === '0' ? '' : `${quantity(row.stopped)} of it will not come`),
      },
      { id: 'unit', head: 'Unit', width: 66, text: (row) => row.item.unit },
      { id: 'price', head: 'Price', width: 84, figures: true, text: (row) => price(row.unitPrice, currency) },
      { id: 'amount', head: 'Amount', width: 96, figures: true, text: (row) => money(row.amount, currency) },
      { id: 'due', head: 'Due', width: 100, text: (row) => this.day(row.dueDate) },
      {
        id: 'for',
        head: 'For',
        width: 128,
        text: (row) => this.forWhom(row),
        link: (row) => (row.ties[0] ? pathOf(row.ties[0].order) : null),
      },
      {
        id: 'agreement',
        head: 'Priced by',
        width: 84,
        text: (row) => row.agreement?.number ?? '',
        link: (row) => row.agreement && pathOf(row.agreement),
      },
      {
        id: 'step',
        head: 'In step',
        width: 120,
        text: (row) => (row.ties.length > 0 ? (differs(row) ? `differs in ${differs(row)}` : 'in step') : ''),
        need: (row) => differs(row) !== '',
      },
      {
        id: 'thread',
        head: 'Came · invoiced',
        width: 112,
        beads: (row) => [
          { label: 'Received', share: share(row.received, row.quantity), notch: differs(row) !== '' },
          { label: 'Vendor invoiced', share: share(row.invoiced, row.quantity) },
        ],
      },
    ];
  });
  /** Who a line is for, in a cell: `SO-0042 line 1`, `3 lines`, `our stock`. */
  private forWhom({ ties, untied }: PurchaseLine): string {
    const loose = this.sheet()?.customer ? 'nobody yet' : 'our stock';
    const [first] = ties;
    if (!first) return loose;
    const whom = ties.length === 1 ? `${first.order.number} line ${first.orderLineNo}` : counted(ties.length, 'line');
    return untied === '0' ? whom : `${whom}, ${quantity(untied)} ${loose}`;
  }
  protected readonly day = (value: string | null) => day(value, this.session.workDate());
  protected readonly money = (value: string) => money(value, this.sheet()?.currency ?? 'MYR');
  protected readonly pathOf = pathOf;

  constructor() {
    effect(() => this.titles.setTitle(`${this.sheet()?.number ?? 'Purchase order'} · Kampong`));
    effect(() => {
      const asked = this.do();
      if (!asked || !this.sheet()) return;
      untracked(() => {
        void this.router.navigate([], { queryParams: {}, replaceUrl: true });
        if (asked === 'receive') this.receive();
        else if (asked === 'vendor-invoice') this.invoice();
      });
    });
  }

  protected receive(): void {
    const sheet = this.sheet()!;
    this.sheets
      .open(MoveSheet, {
        end: 'purchase',
        document: this.document()!,
        party: sheet.vendor.name,
        lines: this.coming().map((line) => ({
          id: line.id,
          lineNo: line.lineNo,
          item: line.item,
          open: dec(line.quantity).minus(line.received).toFixed(),
          note: sheet.customer
            ? `ships ${this.forWhom(line)}`
            : line.ties.length > 0
              ? `for ${this.forWhom(line)}`
              : 'into our stock',
        })),
      })
      .subscribe((done) => {
        const receipt = done?.made[0];
        const shipped = done?.made.some((document) => document.kind === 'SH');
        if (receipt) this.quiet.say(shipped ? 'Received, and shipped to the customer:' : 'Received:', receipt);
      });
  }

  protected invoice(): void {
    const sheet = this.sheet()!;
    this.sheets
      .open(VendorInvoiceSheet, { purchaseId: sheet.id, number: sheet.number, vendor: sheet.vendor.name })
      .subscribe((done) => {
        const invoice = done?.made[0];
        if (invoice) this.quiet.say('Entered:', invoice);
      });
  }
}

/** In what a line and those it is for differ; empty where in step. // L6 */
function differs(line: PurchaseLine): string {
  return [...new Set(line.ties.flatMap((tie) => (tie.differs ? tie.differs.split(', ') : [])))].join(', ');
}
