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
import { of, type Observable } from 'rxjs';
import { ROUTE_NAMES } from '@core/catalogue';
import { addDays, dec, isDecimalText, MAIN_LOCATION, type DocumentRef } from '@core/kernel';
import { Session } from '../access/session';
import { PlaceSheet } from '../bench/place-sheet';
import { Bench } from '../bench/service';
import { TieSheet } from '../bench/tie-sheet';
import { InvoiceCustomerSheet } from '../billing/invoice-customer-sheet';
import { DocumentDock } from '../documents/dock';
import { SendSheet } from '../documents/send-sheet';
import { pathOf } from '../kit/documents';
import { ChoiceField, LookupField, TextField } from '../kit/fields';
import { counted, day, money } from '../kit/formats';
import { Grid } from '../kit/grid';
import { liveDocument } from '../kit/live';
import { Locations } from '../kit/locations';
import { MoreMenu, type MoreEntry } from '../kit/more-menu';
import { Quiet } from '../kit/quiet';
import { Refusals } from '../kit/refusals';
import { Sheets } from '../kit/sheet';
import { TypedDraft } from '../kit/typed-draft';
import { MoveSheet } from '../purchases/move-sheet';
import { PromiseSheet } from '../promise/promise-sheet';
import { Promises } from '../promise/service';
import { CommissionSheet } from './commission-sheet';
import { DeskStrip } from './desk-strip';
import { FillSheet, type FillData } from './fill-sheet';
import { LineOffers } from './line-offers';
import { LivePricing } from './live-pricing';
import { nextStepOf } from './next-step';
import { lineColumns, shippable, suppliedBy, typedColumns } from './order-columns';
import { PasteSheet, type PasteData } from './paste-sheet';
import { PricePanel, type PricedLine } from './price-panel';
import { SupplySheet } from './supply-sheet';
import { Orders, type CustomerChoice, type OrderLine, type OrderSheet } from './service';
import {
  baseQuantity,
  blankLine,
  copyOf,
  differs,
  emptyOrder,
  isUsed,
  keptSize,
  priced,
  sendable,
  shipToOptions,
  sizeOf,
  totalsOf,
  typedOf,
  type TypedLine,
  type TypedOrder,
} from './typed';

/** One sales order: typed while it is a draft; then followed line by line to its end. */
@Component({
  selector: 'k-order',
  imports: [
    ChoiceField,
    DeskStrip,
    DocumentDock,
    Grid,
    LookupField,
    MoreMenu,
    PricePanel,
    Refusals,
    RouterLink,
    TextField,
  ],
  templateUrl: './order.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderPage {
  private readonly orders = inject(Orders);
  private readonly promises = inject(Promises);
  private readonly bench = inject(Bench);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly quiet = inject(Quiet);
  private readonly sheets = inject(Sheets);
  private readonly titles = inject(Title);
  private readonly locations = inject(Locations);
  private readonly grid = viewChild<Grid<TypedLine>>('typedGrid');
  /** An id, or `new`. */
  readonly id = input.required<string>();
  /** A side sheet to open at once. */
  readonly do = input<string>();
  /** The line to stand on. */
  readonly at = input<string>();
  protected readonly workDate = this.session.workDate;
  protected readonly loaded = liveDocument(
    this.id,
    (id) => (id === 'new' ? of(null) : this.orders.open(Number(id))),
    (document, shown) =>
      (document.kind === 'SO' && document.id === shown?.id) ||
      (shown?.documents.some((each) => each.document.kind === document.kind && each.document.id === document.id) ??
        false),
  );
  protected readonly draft = new TypedDraft<OrderSheet, TypedOrder, TypedLine>({
    kind: 'SO',
    id: this.id,
    loaded: this.loaded,
    keptAs: () => `order ${this.session.company()?.id} ${this.id()}`,
    typable: (sheet) => sheet.state === 'draft',
    empty: emptyOrder,
    typedOf,
    blankLine: () => blankLine(this.workDate()),
    isUsed,
    save: (typed, id) => this.orders.save(sendable(typed, id)),
    differs,
  });
  protected readonly sheet = this.draft.sheet;
  /** What saving would send: what is priced and checked while it is typed. */
  protected readonly pricing = new LivePricing(
    computed(() => {
      const typed = this.draft.typed();
      return typed && sendable(typed, this.isNew() ? null : Number(this.id()));
    }),
  );
  protected readonly isNew = this.draft.isNew;
  protected readonly selected = signal<string | null>(null);
  protected readonly currency = computed(() => this.sheet()?.currency ?? this.session.company()?.currency ?? 'MYR');
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
    this.locations.read();
    effect(() => this.titles.setTitle(`${this.heading().strong} · Kampong`));
    effect(() => {
      const lines = this.draft.typed()?.lines ?? [];
      untracked(() => this.readOffers(lines));
    });
    effect(() => {
      const asked = this.do();
      const sheet = this.sheet();
      if (!asked || !sheet) return;
      if (asked === 'invoice') untracked(() => this.openOnce(() => this.invoice()));
      if (asked === 'ship') untracked(() => this.openOnce(() => this.ship()));
    });
  }

  private openOnce(open: () => void): void {
    void this.router.navigate([], { queryParams: {}, replaceUrl: true });
    open();
  }

  protected readonly findCustomers = (words: string) => this.orders.customers(words);
  protected takeCustomer(customer: CustomerChoice): void {
    this.draft.set({
      customerId: customer.id,
      customerName: customer.name,
      referenceRequired: customer.referenceRequired,
      shipTos: shipToOptions(customer.shipTos),
      shipToId: customer.shipTos[0]?.id ?? null,
    });
  }

  /** Said while typing: the reference this customer wants. */
  protected readonly referenceHint = computed(() => {
    const typed = this.draft.typed();
    return typed?.referenceRequired ? `${typed.customerName} wants their own reference on every order.` : '';
  });
  protected readonly loose = computed(() => this.draft.loose(/^(customerId|shipToId|customerReference|creditReason)$/));
  /** What would stand against confirming, but for what its own field says already. // S2 */
  protected readonly words = computed(() =>
    this.draft.typing()
      ? this.pricing
          .warnings()
          .filter(
            (word) =>
              word.field !== 'customerReference' && !this.draft.refusals().some((each) => each.code === word.code),
          )
      : [],
  );
  /** Why the order may pass over the credit limit; asked for where it would. // S4 */
  protected readonly creditReason = signal('');
  protected readonly overCredit = computed(
    () =>
      this.session.may('credit') &&
      (this.draft.at('creditReason') !== '' || this.pricing.warnings().some((word) => word.field === 'creditReason')),
  );
  private readonly customerId = computed(() => (this.draft.typing() ? (this.draft.typed()?.customerId ?? null) : null));
  protected readonly desk = liveDocument(
    this.customerId,
    (id) => (id === null ? of(null) : this.orders.desk(id)),
    (document, shown) =>
      shown?.open.some((each) => each.document.kind === document.kind && each.document.id === document.id) ?? false,
  );
  protected readonly soon = computed(() => addDays(this.workDate(), 30));

  /** Lines from the usual basket or the shelf. */
  protected fill(from: FillData['from']): void {
    const typed = this.draft.typed()!;
    const customer = typed.customerId === null ? null : { id: typed.customerId, name: typed.customerName };
    this.takeLines(this.sheets.choose<FillData, TypedLine[]>(FillSheet, { customer, currency: this.currency(), from }));
  }

  protected paste(): void {
    const { customerId } = this.draft.typed()!;
    this.takeLines(this.sheets.choose<PasteData, TypedLine[]>(PasteSheet, { customerId, currency: this.currency() }));
  }

  private takeLines(lines: Observable<TypedLine[] | undefined>): void {
    this.grid()?.finishEditing();
    lines.subscribe((taken) => {
      if (taken) this.draft.addLines(taken);
    });
  }

  /** The line whose price is shown: as it is typed, or as it was kept. // R4 */
  protected readonly pricedLine = computed((): PricedLine | null => {
    const typed = this.draft.typing() ? this.draft.typed() : null;
    if (typed) {
      const row = typed.lines.find((line) => line.key === this.selected()) ?? typed.lines[0];
      if (!row || row.itemId === null) return null;
      const found = this.pricing.priceOf()(row);
      return {
        title: row.number,
        quantity: isDecimalText(row.quantity, 'quantity') ? row.quantity : '0',
        unit: row.unit,
        steps: found?.steps ?? [],
        listPrice: found?.listPrice ?? row.listPrice,
        agreed: found?.steps[0]?.kind === 'agreement',
        reason: row.reason,
        shipped: null,
      };
    }
    const line = this.line();
    if (!line) return null;
    return {
      title: `${line.item.number}, line ${line.lineNo}`,
      quantity: dec(line.quantity).minus(line.cancelled).div(line.sold.factor).toFixed(),
      unit: line.sold.unit,
      steps: line.buildUp,
      listPrice: line.listPrice,
      agreed: line.agreementLineId !== null,
      reason: line.sold.reason,
      shipped:
        line.pricedOn === null
          ? null
          : { day: this.day(line.pricedOn), before: money(line.orderedAmount ?? line.amount, this.currency()) },
    };
  });
  protected readonly totals = computed(() => {
    const typed = this.draft.typed();
    const sheet = this.sheet();
    if (typed) {
      const { net, tax, total, weight, volume } = totalsOf(typed.lines, this.currency(), this.pricing.priceOf());
      return { net: net.toFixed(), tax: tax.toFixed(), total: total.toFixed(), size: sizeOf(weight, volume) };
    }
    return sheet ? { ...sheet.totals, size: sizeOf(...keptSize(sheet.lines)) } : null;
  });

  private readonly offers = new LineOffers();

  /** Takes a change of a line and prices it again by its agreements. // A13 */
  private setLine(row: TypedLine, change: Partial<TypedLine>): void {
    const now = this.sheet()?.lines.find((line) => line.id === row.id);
    const next = { ...row, ...change };
    const kept = now !== undefined && next.agreementLineId === now.agreementLineId;
    this.draft.setLine(row, priced(next, this.offers.of(next), kept));
  }

  /** Asks for the offers of lines that are new, and prices those that nobody kept yet. */
  private readOffers(lines: readonly TypedLine[]): void {
    const customerId = this.draft.typed()?.customerId;
    if (!customerId) return;
    this.offers.read(customerId, lines, (isOf) => {
      const found = this.draft.typed()?.lines.filter((line) => line.id === null && isOf(line)) ?? [];
      for (const line of found) this.setLine(line, {});
    });
  }

  protected readonly typedColumns = computed(() =>
    typedColumns({
      currency: this.currency(),
      workDate: this.workDate(),
      lines: this.draft.typed()?.lines ?? [],
      refusals: this.draft.refusals(),
      locations: this.locations.all(),
      items: (words) => this.orders.items(words, this.draft.typed()?.customerId ?? null),
      priceOf: this.pricing.priceOf(),
      offers: (row) => this.offers.of(row) ?? [],
      setLine: (row, change) => this.setLine(row, change),
    }),
  );
  protected readonly lineColumns = computed(() => lineColumns(this.currency(), this.workDate()));
  protected readonly rowKey = (row: TypedLine) => row.key;
  protected readonly rowId = (row: OrderLine) => String(row.id);
  protected readonly money = (value: string) => money(value, this.currency());
  protected readonly day = (value: string | null) => day(value, this.workDate());
  protected readonly pathOf = pathOf;
  protected readonly shipToText = computed(() => {
    const shipTo = this.sheet()?.shipTo;
    return shipTo ? `${shipTo.label}, ${shipTo.town}` : '–';
  });

  protected save(): void {
    this.grid()?.finishEditing();
    this.draft.save();
  }

  /** Saves what is typed and confirms it. */
  protected confirm(): void {
    this.grid()?.finishEditing();
    const why = this.creditReason().trim();
    this.draft.saveAnd('Confirmed:', (id, version) => this.orders.confirm(id, version, why));
  }

  /** What else can be done with the order: its threads, its paper, a copy, an end to it. */
  protected readonly more = computed((): MoreEntry[] => {
    const sheet = this.sheet();
    if (!sheet) return [];
    const unsupplied = sheet.state === 'confirmed' && sheet.shares.covered === 0;
    return [
      { value: 'threads', label: 'All threads' },
      { value: 'pdf', label: 'PDF' },
      ...(this.session.may('send') ? [{ value: 'send', label: 'Send…' }] : []),
      { value: 'commission', label: 'Commission…' },
      ...(sheet.lines.some((line) => line.promised !== null) && this.session.may('plan')
        ? [{ value: 'take-back', label: 'Take the promise back' }]
        : []),
      { value: 'copy', label: 'Copy' },
      ...(sheet.state === 'draft' || unsupplied ? [{ value: 'cancel', label: 'Cancel the order' }] : []),
    ];
  });

  /** To the purchase that supplies a line, and to its line there: Enter goes there and back. // L5 */
  protected toSupply({ ties: [first] }: OrderLine): void {
    if (first) void this.router.navigate([pathOf(first.purchase)], { queryParams: { at: first.purchaseLineId } });
  }

  protected doMore(chosen: string): void {
    const document = this.document()!;
    switch (chosen) {
      case 'threads':
        return void this.router.navigateByUrl(`/orders/${document.id}/threads`);
      case 'pdf':
        return void window.open(`/api/documents/SO/${document.id}/pdf`, '_blank');
      case 'commission':
        this.sheets.open(CommissionSheet, this.sheet()!).subscribe((done) => {
          if (!done) return;
          this.loaded.reload();
          this.quiet.say('Commission is shared.');
        });
        return;
      case 'take-back':
        return this.takeBackPromise();
      case 'copy':
        return this.copy();
      case 'cancel':
        return this.cancel();
      case 'send':
        this.sheets.open(SendSheet, document).subscribe((done) => {
          if (done) this.quiet.say('Sent; it can be read in the mail room:', document);
        });
    }
  }

  /** `Rashid 60 %, Salmah 40 %`. // S1 */
  protected readonly commission = computed(() =>
    (this.sheet()?.commission ?? []).map(({ person, perCent }) => `${person.name} ${perCent} %`).join(', '),
  );

  /** The same order again, as a new draft. */
  private copy(): void {
    this.orders.save(copyOf(this.sheet()!, this.workDate())).subscribe({
      next: ({ made }) => void this.quiet.lead('Copied into a draft:', made[0]!),
      error: (error: unknown) => this.draft.refuse(error),
    });
  }

  private cancel(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    this.orders.cancel(sheet.id, sheet.version).subscribe({
      next: ({ touched }) => {
        this.draft.drop();
        this.loaded.reload();
        this.quiet.say('Cancelled; what it held went back to its agreement:', touched[1] ?? touched[0]!);
      },
      error: (error: unknown) => this.draft.refuse(error),
    });
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

  /** What the selected line asks for of its item: as it is typed, or as it stands. */
  protected readonly asked = computed(() => {
    const typed = this.draft.typing() ? this.draft.typed() : null;
    if (typed) {
      const row = typed.lines.find((line) => line.key === this.selected()) ?? typed.lines[0];
      if (!row || row.itemId === null) return null;
      const { itemId, id: lineId, locationId, shipDate: by } = row;
      return { itemId, lineId, locationId, quantity: baseQuantity(row), by };
    }
    const line = this.line();
    if (!line) return null;
    const open = dec(line.quantity).minus(line.cancelled).minus(line.shipped).toFixed();
    const locationId = line.location?.id ?? MAIN_LOCATION;
    return { itemId: line.item.id, lineId: line.id, locationId, quantity: open, by: line.shipDate };
  });
  protected readonly nobody = { lineId: null, locationId: MAIN_LOCATION, quantity: '', by: null };

  /** Lines that go out of our stock can be promised, once the order is kept. // T10 */
  protected readonly canPromise = computed(() => {
    const sheet = this.sheet();
    return (
      this.session.may('plan') &&
      (sheet?.state === 'confirmed' || sheet?.state === 'draft') &&
      sheet.lines.some((line) => line.route !== 'drop' && dec(line.quantity).minus(line.cancelled).gt(line.shipped))
    );
  });

  /** What is typed is kept first: a promise is for the order as it stands. */
  protected promise(): void {
    if (!this.draft.typing()) return this.openPromise();
    this.grid()?.finishEditing();
    this.draft.save(() => {
      this.draft.drop();
      this.loaded.reload();
      this.openPromise();
    });
  }

  private openPromise(): void {
    this.promises.ground(this.sheet()!.id).subscribe({
      next: (ground) =>
        this.sheets.open(PromiseSheet, ground).subscribe((done) => {
          if (!done) return;
          this.draft.drop();
          this.loaded.reload();
          const planned = done.made.length;
          this.quiet.say(
            planned > 0 ? `Promised; ${counted(planned, 'order')} planned with it, first` : 'Promised:',
            done.made[0] ?? done.touched[0]!,
          );
        }),
      error: (error: unknown) => this.draft.refuse(error),
    });
  }

  private takeBackPromise(): void {
    const sheet = this.sheet()!;
    this.promises.takeBack(sheet.id, sheet.version).subscribe({
      next: ({ touched }) => {
        this.draft.drop();
        this.loaded.reload();
        this.quiet.say('What was promised is taken back:', touched[0]!);
      },
      error: (error: unknown) => this.draft.refuse(error),
    });
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
            line.route === 'stock'
              ? `from stock, ${suppliedBy(line)}`
              : `${ROUTE_NAMES[line.route]}, ${suppliedBy(line)}`,
        })),
      })
      .subscribe((done) => {
        const shipment = done?.made.find((document) => document.kind === 'SH');
        if (shipment) this.quiet.say('Shipped:', shipment);
      });
  }

  private readonly line = computed(() => this.sheet()?.lines.find((each) => each.id === this.orderLineId()) ?? null);
  /** The selected line, where it waits for supply that may be there already. // L5 */
  protected readonly tieable = computed(() => (this.line()?.needsPurchase ? this.line() : null));
  /** The selected line, where nothing came on a tie of it yet. // L4 */
  protected readonly untieable = computed(() =>
    this.line()?.ties.some((tie) => tie.received === '0') ? this.line() : null,
  );

  /** The selected line, where another route or holding stock for it may be thought of. // S3 */
  protected readonly supplied = computed(() => {
    const line = this.line();
    if (this.sheet()?.state !== 'confirmed' || !line || line.ties.length > 0) return null;
    return dec(line.quantity).minus(line.cancelled).gt(line.shipped) ? line : null;
  });

  protected supplyOf(line: OrderLine): void {
    this.sheets.open(SupplySheet, { order: this.sheet()!.number, line }).subscribe((done) => {
      if (done) this.quiet.say(`Line ${line.lineNo} is supplied as you said:`, done.touched[0]!);
    });
  }

  protected tie(line: OrderLine): void {
    const data = { end: 'order' as const, lineId: line.id, title: `${this.sheet()!.number} line ${line.lineNo}` };
    this.sheets.open(TieSheet, data).subscribe((done) => {
      if (done) this.quiet.say('Tied to', done.touched[1]!);
    });
  }

  protected untie(line: OrderLine): void {
    const ties = line.ties.filter((tie) => tie.received === '0');
    this.bench.untie(ties.map((tie) => tie.id)).subscribe({
      next: () => {
        this.loaded.reload();
        this.quiet.say(`Line ${line.lineNo} is without supply again; for nobody now:`, ties[0]!.purchase);
      },
      error: (error: unknown) => this.draft.refuse(error),
    });
  }

  /** The selected line's rest, where it can be given up. // S6 */
  protected readonly closable = computed(() => {
    const sheet = this.sheet();
    const line = sheet?.lines.find((each) => each.id === this.orderLineId());
    if (!sheet || !line || !['confirmed', 'closed'].includes(sheet.state)) return null;
    return dec(line.quantity).minus(line.cancelled).gt(line.shipped) ? line : null;
  });

  protected closeShort(): void {
    const sheet = this.sheet()!;
    const line = this.closable()!;
    this.orders.closeShort(sheet.id, sheet.version, [line.id]).subscribe({
      next: ({ touched }) => {
        this.draft.drop();
        this.loaded.reload();
        this.quiet.say(`Line ${line.lineNo} is closed short; what was open went back:`, touched[1] ?? touched[0]!);
      },
      error: (error: unknown) => this.draft.refuse(error),
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
