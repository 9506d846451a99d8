import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { of } from 'rxjs';
import { ROUTE_NAMES, type Route } from '@core/catalogue';
import { dec, isDay, readTypedDay, readTypedDecimal, share, type DocumentRef } from '@core/kernel';
import { Session } from '../access/session';
import { InvoiceCustomerSheet } from '../billing/invoice-customer-sheet';
import { DocumentDock } from '../documents/dock';
import { refusalsOf, type RefusalShown } from '../kit/api';
import { pathOf } from '../kit/documents';
import { dropDraft, keepDraft, keptDraft } from '../kit/drafts';
import { ChoiceField, LookupField, TextField } from '../kit/fields';
import { counted, day, money, price, quantity } from '../kit/formats';
import { Grid, type GridColumn } from '../kit/grid';
import { liveDocument } from '../kit/live';
import { Quiet } from '../kit/quiet';
import { refusedAt, Refusals } from '../kit/refusals';
import { Sheets } from '../kit/sheet';
import { PlaceSheet } from '../bench/place-sheet';
import { MoveSheet } from '../purchases/move-sheet';
import { nextStepOf } from './next-step';
import { Orders, type CustomerChoice, type ItemChoice, type OrderLine, type OrderSheet } from './service';
import {
  blankLine,
  differs,
  emptyOrder,
  isUsed,
  sendable,
  shipToOptions,
  totalsOf,
  typedOf,
  type TypedLine,
  type TypedOrder,
} from './typed';

/** One sales order: typed while it is a draft; then followed line by line to its end. */
@Component({
  selector: 'k-order',
  imports: [ChoiceField, DocumentDock, Grid, LookupField, Refusals, RouterLink, TextField],
  templateUrl: './order.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderPage {
  private readonly orders = inject(Orders);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly quiet = inject(Quiet);
  private readonly sheets = inject(Sheets);
  private readonly titles = inject(Title);
  private readonly grid = viewChild<Grid<TypedLine>>('typedGrid');
  /** An id, or `new`. */
  readonly id = input.required<string>();
  /** A side sheet to open at once. */
  readonly do = input<string>();
  protected readonly workDate = this.session.workDate;
  protected readonly loaded = liveDocument(
    this.id,
    (id) => (id === 'new' ? of(null) : this.orders.open(Number(id))),
    (document, shown) =>
      (document.kind === 'SO' && document.id === shown?.id) ||
      (shown?.documents.some((each) => each.document.kind === document.kind && each.document.id === document.id) ??
        false),
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  protected readonly isNew = computed(() => this.id() === 'new');
  protected readonly typing = computed(() => this.isNew() || this.sheet()?.state === 'draft');
  protected readonly typed = signal<TypedOrder | null>(null);
  protected readonly refusals = signal<RefusalShown[]>([]);
  protected readonly busy = signal(false);
  protected readonly selected = signal<string | null>(null);
  protected readonly currency = computed(() => this.sheet()?.currency ?? this.session.company()?.currency ?? 'MYR');
  protected readonly theirs = computed(() => {
    const sheet = this.sheet();
    const typed = this.typed();
    return sheet && typed && sheet.version !== typed.version ? sheet : null;
  });
  protected readonly step = computed(() => {
    const sheet = this.sheet();
    return sheet ? nextStepOf(sheet) : { step: 'confirm' as const, label: 'Confirm' };
  });
  protected readonly document = computed<DocumentRef | null>(() => {
    const sheet = this.sheet();
    return sheet ? { kind: 'SO', id: sheet.id, number: sheet.number } : null;
  });
  protected readonly heading = computed(() => {
    const sheet = this.sheet();
    if (this.isNew()) return { strong: 'New sales order', rest: '', sub: 'A draft until it is confirmed.' };
    if (!sheet) return { strong: '', rest: '', sub: '' };
    const first = sheet.firstShipDate ? ` · first goes out ${this.day(sheet.firstShipDate)}` : '';
    return {
      strong: sheet.number,
      rest: ` for ${sheet.customer.name}`,
      sub: `${sheet.state} · ${counted(sheet.lines.length, 'line')}${first}`,
    };
  });
  /** The order line the dock is about. */
  protected readonly orderLineId = computed(() => {
    const selected = this.sheet()?.lines.find((line) => String(line.id) === this.selected());
    return (selected ?? this.sheet()?.lines[0])?.id ?? null;
  });

  constructor() {
    effect(() => this.titles.setTitle(`${this.heading().strong} · Kampong`));
    effect(() => {
      const sheet = this.sheet();
      const isNew = this.isNew();
      untracked(() => this.begin(isNew, sheet));
    });
    effect(() => {
      const asked = this.do();
      const sheet = this.sheet();
      if (asked === 'invoice' && sheet) untracked(() => this.openOnce(() => this.invoice()));
    });
  }

  private openOnce(open: () => void): void {
    void this.router.navigate([], { queryParams: {}, replaceUrl: true });
    open();
  }

  private get draftKey(): string {
    return `order ${this.session.company()?.id} ${this.id()}`;
  }

  private begin(isNew: boolean, sheet: OrderSheet | null): void {
    if (!isNew && !sheet) return;
    if (sheet && sheet.state !== 'draft') return this.typed.set(null);
    const kept = keptDraft<TypedOrder>(this.draftKey);
    if (this.typed() && sheet && kept) return;
    const typed = kept ?? (sheet ? typedOf(sheet) : emptyOrder());
    this.typed.set({ ...typed, lines: [...typed.lines.filter(isUsed), blankLine(this.workDate())] });
  }

  protected set(change: Partial<TypedOrder>): void {
    this.typed.update((typed) => typed && { ...typed, ...change });
    keepDraft(this.draftKey, this.typed());
    const fields = Object.keys(change);
    this.refusals.update((refusals) =>
      refusals.filter((refusal) => !fields.some((field) => refusal.field.startsWith(field)) && refusal.field !== ''),
    );
  }

  protected setLine(row: TypedLine, change: Partial<TypedLine>): void {
    const lines = this.typed()!.lines.map((line) => (line.key === row.key ? { ...line, ...change } : line));
    this.set({ lines: isUsed(lines.at(-1)!) ? [...lines, blankLine(this.workDate())] : lines });
  }

  protected removeLine(row: TypedLine): void {
    const lines = this.typed()!.lines.filter((line) => line.key !== row.key);
    const last = lines.at(-1);
    this.set({ lines: last && !isUsed(last) ? lines : [...lines, blankLine(this.workDate())] });
  }

  protected readonly findCustomers = (words: string) => this.orders.customers(words);
  protected takeCustomer(customer: CustomerChoice): void {
    this.set({
      customerId: customer.id,
      customerName: customer.name,
      referenceRequired: customer.referenceRequired,
      shipTos: shipToOptions(customer.shipTos),
      shipToId: customer.shipTos[0]?.id ?? null,
    });
  }

  protected at(field: string): string {
    return refusedAt(this.refusals(), field);
  }

  /** Said while typing: the reference this customer wants. */
  protected readonly referenceHint = computed(() => {
    const typed = this.typed();
    return typed?.referenceRequired ? `${typed.customerName} wants their own reference on every order.` : '';
  });
  protected readonly loose = computed(() =>
    this.refusals().filter((refusal) => !/^(customerId|shipToId|customerReference)$/.test(refusal.field)),
  );
  protected readonly totals = computed(() => {
    const typed = this.typed();
    const sheet = this.sheet();
    if (typed) {
      const totals = totalsOf(typed.lines, this.currency());
      return { net: totals.net.toFixed(), tax: totals.tax.toFixed(), total: totals.total.toFixed() };
    }
    return sheet?.totals ?? null;
  });

  protected readonly typedColumns = computed<GridColumn<TypedLine>[]>(() => {
    const currency = this.currency();
    const refused = this.refusals();
    const lines = this.typed()?.lines ?? [];
    const at = (row: TypedLine, field: string) => refusedAt(refused, `lines.${lines.indexOf(row)}.${field}`);
    const readable = (text: string, kind: 'quantity' | 'price') => text !== '' && readTypedDecimal(text, kind) !== null;
    return [
      { id: 'line', head: '', width: 36, text: (row) => String(lines.indexOf(row) + 1) },
      {
        id: 'item',
        head: 'Item',
        width: 110,
        text: (row) => row.number,
        problem: (row) => at(row, 'itemId'),
        edit: {
          kind: 'lookup',
          when: (row) => row.id === null,
          search: (words) => this.orders.items(words),
          set: (row, choice) => {
            const item = choice as ItemChoice;
            this.setLine(row, {
              itemId: item.id,
              number: item.number,
              name: item.name,
              unit: item.unit,
              unitPrice: item.listPrice,
              route: item.route,
              routes: item.routes,
            });
          },
        },
      },
      { id: 'what', head: 'What', text: (row) => row.name },
      {
        id: 'quantity',
        head: 'Quantity',
        width: 100,
        figures: true,
        text: (row) => (readable(row.quantity, 'quantity') ? quantity(row.quantity) : row.quantity),
        typed: (row) => row.quantity,
        problem: (row) =>
          at(row, 'quantity') ||
          (row.quantity !== '' && !readable(row.quantity, 'quantity') ? 'Not a number; write it like 1250.5.' : ''),
        edit: {
          kind: 'text',
          set: (row, typed) => this.setLine(row, { quantity: readTypedDecimal(typed, 'quantity') ?? typed }),
        },
      },
      { id: 'unit', head: 'Unit', width: 70, text: (row) => row.unit },
      {
        id: 'price',
        head: 'Price',
        width: 96,
        figures: true,
        text: (row) => (row.unitPrice ? price(row.unitPrice, currency) : ''),
      },
      {
        id: 'amount',
        head: 'Amount',
        width: 110,
        figures: true,
        text: (row) =>
          readable(row.quantity, 'quantity') && row.unitPrice
            ? money(totalsOf([row], currency).net.toFixed(), currency)
            : '',
      },
      {
        id: 'ships',
        head: 'Ship on',
        width: 120,
        text: (row) => (row.shipDate !== null && isDay(row.shipDate) ? this.day(row.shipDate) : (row.shipDate ?? '')),
        typed: (row) => row.shipDate ?? '',
        problem: (row) =>
          at(row, 'shipDate') ||
          (row.shipDate !== null && !isDay(row.shipDate) ? 'Not a date; write it like 11/3, +5 or fri.' : ''),
        edit: {
          kind: 'text',
          set: (row, typed) => this.setLine(row, { shipDate: readTypedDay(typed, this.workDate()) ?? (typed || null) }),
        },
      },
      {
        id: 'route',
        head: 'Supplied by',
        width: 150,
        text: (row) => (row.itemId === null ? '' : ROUTE_NAMES[row.route]),
        problem: (row) => at(row, 'route'),
        edit: {
          kind: 'choice',
          when: (row) => row.itemId !== null,
          options: (row) => row.routes.map((route) => ({ value: route, label: ROUTE_NAMES[route] })),
          set: (row, route) => this.setLine(row, { route: route as Route }),
        },
      },
    ];
  });

  protected readonly lineColumns = computed<GridColumn<OrderLine>[]>(() => {
    const currency = this.currency();
    return [
      { id: 'line', head: '', width: 36, text: (row) => String(row.lineNo) },
      {
        id: 'item',
        head: 'Item',
        width: 94,
        text: (row) => row.item.number,
        link: (row) => pathOf({ kind: 'item', id: row.item.id }),
      },
      { id: 'what', head: 'What', width: 176, text: (row) => row.item.name },
      { id: 'quantity', head: 'Quantity', width: 82, figures: true, text: (row) => quantity(row.quantity) },
      { id: 'unit', head: 'Unit', width: 66, text: (row) => row.item.unit },
      { id: 'price', head: 'Price', width: 88, figures: true, text: (row) => price(row.unitPrice, currency) },
      { id: 'amount', head: 'Amount', width: 100, figures: true, text: (row) => money(row.amount, currency) },
      { id: 'ships', head: 'Ship on', width: 124, text: (row) => this.day(row.shipDate) },
      { id: 'route', head: 'Route', width: 112, text: (row) => ROUTE_NAMES[row.route] },
      {
        id: 'supplied',
        head: 'Supplied by',
        text: (row) => suppliedBy(row),
        need: (row) => row.needsPurchase,
      },
      { id: 'thread', head: 'Thread', width: 108, beads: (row) => beadsOf(row) },
    ];
  });
  protected readonly rowKey = (row: TypedLine) => row.key;
  protected readonly rowId = (row: OrderLine) => String(row.id);
  protected readonly money = (value: string) => money(value, this.currency());
  protected readonly day = (value: string | null) => day(value, this.workDate());
  protected readonly pathOf = pathOf;
  protected readonly shipToText = computed(() => {
    const shipTo = this.sheet()?.shipTo;
    return shipTo ? `${shipTo.label}, ${shipTo.town}` : '–';
  });

  protected save(then?: (id: number, version: number) => void): void {
    this.grid()?.finishEditing();
    const typed = this.typed();
    const sheet = this.sheet();
    if (!typed || this.busy()) return;
    if (then && sheet && !differs(typed, sheet)) return then(sheet.id, sheet.version);
    this.busy.set(true);
    const id = this.isNew() ? null : Number(this.id());
    this.orders.save(sendable(typed, id)).subscribe({
      next: ({ made, touched }) => {
        dropDraft(this.draftKey);
        this.busy.set(false);
        this.refusals.set([]);
        const document = (made[0] ?? touched[0])!;
        const version = (typed.version ?? 0) + 1;
        this.typed.update((current) => current && { ...current, version });
        if (then) return then(document.id, version);
        if (id === null) void this.quiet.lead('Draft saved:', document);
        else {
          this.quiet.say('Draft saved.');
          this.loaded.reload();
        }
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.refusals.set(refusalsOf(error));
        if (this.refusals().some((refusal) => refusal.code === 'stale')) this.loaded.reload();
      },
    });
  }

  /** Saves what is typed and confirms it. */
  protected confirm(): void {
    this.save((id, version) =>
      this.orders.confirm(id, version).subscribe({
        next: ({ touched }) => {
          dropDraft(this.draftKey);
          this.typed.set(null);
          this.loaded.reload();
          void this.quiet.lead('Confirmed:', touched[0]!);
        },
        error: (error: unknown) => {
          this.refusals.set(refusalsOf(error));
          if (this.isNew()) void this.router.navigateByUrl(pathOf({ kind: 'SO', id }));
          else this.loaded.reload();
        },
      }),
    );
  }

  protected cancel(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    this.orders.cancel(sheet.id, sheet.version).subscribe({
      next: ({ touched }) => {
        dropDraft(this.draftKey);
        this.loaded.reload();
        this.quiet.say('Cancelled; what it held went back to its agreement:', touched[1] ?? touched[0]!);
      },
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }

  protected takeTheirs(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    dropDraft(this.draftKey);
    this.refusals.set([]);
    const typed = typedOf(sheet);
    this.typed.set({ ...typed, lines: [...typed.lines, blankLine(this.workDate())] });
  }

  protected keepMine(): void {
    this.set({ version: this.sheet()!.version });
    this.refusals.set([]);
  }

  protected next(): void {
    const sheet = this.sheet()!;
    switch (this.step().step) {
      case 'confirm':
        return this.confirm();
      case 'place':
        this.sheets.open(PlaceSheet, { orderId: sheet.id }).subscribe((done) => {
          const purchase = done?.made[0];
          if (purchase)
            this.quiet.say(
              done.made.length > 1 ? `Placed ${done.made.length} purchase orders, first` : 'Placed:',
              purchase,
            );
        });
        return;
      case 'ship':
        return this.ship();
      case 'invoice':
        return this.invoice();
      case 'none':
        return;
    }
  }

  protected readonly canShip = computed(() => {
    const sheet = this.sheet();
    return (
      sheet?.state === 'confirmed' && this.step().step !== 'ship' && sheet.lines.some((line) => shippable(line).gt(0))
    );
  });

  protected ship(): void {
    const sheet = this.sheet()!;
    this.sheets
      .open(MoveSheet, {
        end: 'order',
        document: this.document()!,
        party: sheet.customer.name,
        lines: sheet.lines.map((line) => ({
          id: line.id,
          lineNo: line.lineNo,
          item: line.item,
          open: shippable(line).toFixed(),
          note:
            line.route === 'drop'
              ? `drop shipment, ${line.suppliedBy || 'not placed'}`
              : `from stock, ${quantity(line.onHand)} on hand`,
        })),
      })
      .subscribe((done) => {
        const shipment = done?.made.find((document) => document.kind === 'SH');
        if (shipment) this.quiet.say('Shipped:', shipment);
      });
  }

  protected invoice(): void {
    const sheet = this.sheet()!;
    this.sheets
      .open(InvoiceCustomerSheet, {
        orderId: sheet.id,
        number: sheet.number,
        customer: sheet.customer.name,
        lines: sheet.lines,
      })
      .subscribe((done) => {
        const invoice = done?.made[0];
        if (invoice) this.quiet.say('Invoiced:', invoice);
      });
  }
}

/** What can go out now: the tied rest of a drop shipment, or what is open from stock. */
function shippable(line: OrderLine) {
  const open = dec(line.quantity).minus(line.cancelled).minus(line.shipped);
  return line.route === 'stock' ? open : dec(line.tied).minus(line.shipped);
}

function suppliedBy(line: OrderLine): string {
  if (line.route === 'stock') return `${quantity(line.onHand)} on hand`;
  if (line.needsPurchase) return 'not placed yet';
  return line.suppliedBy;
}

function beadsOf(line: OrderLine) {
  const live = dec(line.quantity).minus(line.cancelled);
  const struck = live.lte(0);
  const of = (part: string) => share(part, live);
  const late = line.supplyDue !== null && line.supplyDue > line.shipDate;
  return [
    { label: 'Supply', share: line.route === 'stock' ? 1 : of(line.tied), notch: late, struck },
    { label: 'Shipped', share: of(line.shipped) },
    { label: 'Invoiced', share: of(line.invoiced) },
    ...(line.route === 'stock' ? [] : [{ label: 'Vendor invoiced', share: of(line.vendorInvoiced) }]),
    { label: 'Paid', share: line.paidShare },
  ];
}
