import {
  afterNextRender,
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
import { Router, RouterLink } from '@angular/router';
import { of, type Observable } from 'rxjs';
import { switchMap } from 'rxjs/operators';
import { addDays, dec, MAIN_LOCATION } from '@core/kernel';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { pathOf } from '../kit/documents';
import { ChoiceField, LookupField, TextField } from '../kit/fields';
import { counted, day, money } from '../kit/formats';
import { Grid } from '../kit/grid';
import { liveDocument } from '../kit/live/live';
import { Locations } from '../kit/live/locations';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { throwingAway } from '../kit/act/throw-away';
import { TypedDraft } from '../kit/act/typed-draft';
import { Promises, PromiseSheet, type OrderGround, type Tried } from '../promise';
import { OrderChanging } from './changing';
import { DeskStrip } from './desk-strip';
import { FillSheet, type FillData } from './fill-sheet';
import { LineOffers } from './line-offers';
import { LivePricing } from './live-pricing';
import { lineColumns, typedColumns } from './order-columns';
import { keptDemand, keptPrice, typedDemand, typedPrice } from './line-shown';
import { OrderActs, type OrderDraft } from './order-acts';
import { OptionsSheet, type OptionsData } from './options-sheet';
import { PossibleDays, type DayWord } from './possible-days';
import { PasteSheet, type PasteData } from './paste-sheet';
import { PricePanel, type PricedLine } from './price-panel';
import { Orders, type CustomerChoice, type OrderLine, type OrderSheet } from './service';
import { Numbers } from '../serial';
import {
  optionIdsOf,
  type ChosenOption,
  baseQuantity,
  blankLine,
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
} from './typed';

/** One sales order: typed while it is a draft; then followed line by line to its end. */
@Component({
  selector: 'k-order',
  imports: [
    ChoiceField,
    DeskStrip,
    DocumentDock,
    DocumentTitle,
    Grid,
    LookupField,
    Numbers,
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
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly locations = inject(Locations);
  private readonly grid = viewChild<Grid<TypedLine>>('typedGrid');
  /** An id, or `new`. */
  readonly id = input.required<string>();
  /** A side sheet to open at once. */
  readonly do = input<string>();
  /** The line to stand on. */
  readonly at = input<string>();
  /** The number of the customer a new order is for. */
  readonly customer = input<string>();
  protected readonly workDate = this.session.workDate;
  private readonly keptAs = () => `order ${this.session.company()?.id} ${this.id()}`;
  private readonly changing = new OrderChanging(this.keptAs);
  protected readonly page: DocumentPage<string, OrderSheet, OrderLine> = new DocumentPage<
    string,
    OrderSheet,
    OrderLine
  >({
    key: this.id,
    name: 'Sales order',
    open: (id) => (id === 'new' ? of(null) : this.orders.open(Number(id))),
    document: ({ id, number }) => ({ kind: 'SO', id, number }),
    begun: () => (this.id() === 'new' ? { strong: 'New sales order', sub: 'A draft until it is confirmed.' } : null),
    heading: (sheet) => ({
      strong: sheet.number,
      rest: ` for ${sheet.customer.name}`,
      sub: `${this.changing.is(sheet) ? 'being changed, and as it was until that is kept' : sheet.state}${sheet.revision > 0 ? ` · revision ${sheet.revision}` : ''} · ${counted(sheet.lines.length, 'line')}${sheet.firstShipDate ? ` · first goes out ${this.day(sheet.firstShipDate)}` : ''}`,
    }),
    lines: (sheet) => sheet.lines,
    doing: this.do,
    refuse: (error) => this.draft.refuse(error),
    endTyping: () => this.draft.drop(),
    acts: () => {
      const sheet = this.sheet();
      if (!sheet || !this.changing.is(sheet)) {
        return [...(this.draft.typing() ? this.typingActs() : []), ...this.acts.all()];
      }
      const finishEditing = () => this.grid()?.finishEditing();
      const reload = () => this.page.loaded.reload();
      return [
        ...this.typingActs().filter(({ name }) => name === 'fill' || name === 'paste'),
        ...this.changing.acts(sheet, this.draft, { finishEditing, reload }),
      ];
    },
  });
  protected readonly draft: OrderDraft = new TypedDraft({
    kind: 'SO',
    id: this.id,
    loaded: this.page.loaded,
    keptAs: this.keptAs,
    typable: (sheet) => sheet.state === 'draft' || this.changing.is(sheet),
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
      return typed && sendable(typed, this.draft.isNew() ? null : Number(this.id()));
    }),
    (order) => (this.changing.is(this.sheet()) ? this.changing.preview(order) : this.orders.preview(order)),
  );
  protected readonly currency = computed(() => this.sheet()?.currency ?? this.session.company()?.currency ?? 'MYR');
  /** Why the order may pass over the credit limit; asked for where it would. // S4 */
  protected readonly creditReason = signal('');
  /** The first days its lines can ship, and what is to be said of theirs. // S10 */
  protected readonly days = new PossibleDays(
    computed(() => (this.draft.typing() ? (this.draft.typed()?.lines ?? []) : [])),
    () => (this.draft.isNew() ? null : Number(this.id())),
    (row, shipDate) => this.setLine(row, { shipDate }),
    (row) => this.stays(row),
  );
  private readonly acts: OrderActs = new OrderActs(
    this.page,
    this.draft,
    () => this.grid()?.finishEditing(),
    this.creditReason,
    (sheet) => this.changing.begin(sheet),
    () => this.days.words().map(({ sentence }) => sentence),
  );

  constructor() {
    this.locations.read();
    effect(() => {
      const number = this.customer();
      if (this.id() === 'new' && number) untracked(() => this.beginFor(number));
    });
    afterNextRender(() => {
      // A new one stands with the cursor in its first field.
      if (this.id() === 'new') document.querySelector<HTMLElement>('k-order .form input')?.focus();
    });
    effect(() => {
      const lines = this.draft.typed()?.lines ?? [];
      untracked(() => this.readOffers(lines));
    });
  }

  /** A new order for a customer who was named: theirs, unless one is being typed for somebody. */
  private beginFor(number: string): void {
    void this.router.navigate([], { queryParams: {}, replaceUrl: true });
    this.orders.customers(number).subscribe({
      next: (found) => {
        const customer = found.find((each) => each.number === number);
        if (this.draft.begun()) this.notices.show('An order is being typed already; save it, or throw it away first.');
        else if (customer) {
          this.takeCustomer(customer);
          // Who it is for is known: the cursor goes to what comes next.
          this.standOnNext(customer);
        }
      },
      error: (error: unknown) => this.draft.refuse(error),
    });
  }

  /** On their reference where it is wanted, else on the item of the first line. */
  private standOnNext({ referenceRequired }: CustomerChoice): void {
    setTimeout(() => {
      if (referenceRequired) {
        document.querySelectorAll<HTMLElement>('k-order .form input')[1]?.focus();
      } else this.grid()?.focusFirst('item');
    });
  }

  /** What can be done while it is typed. */
  private typingActs(): DocumentAct[] {
    const { customerId, customerName } = this.draft.typed() ?? { customerId: null, customerName: '' };
    const customer = customerId === null ? null : { id: customerId, name: customerName };
    const from = customer ? ('basket' as const) : ('shelf' as const);
    const currency = this.currency();
    return [
      {
        name: 'fill',
        label: 'Fill…',
        does: () => this.takeLines(this.sheets.choose<FillData, TypedLine[]>(FillSheet, { customer, currency, from })),
      },
      {
        name: 'paste',
        label: 'Paste…',
        does: () => this.takeLines(this.sheets.choose<PasteData, TypedLine[]>(PasteSheet, { customerId, currency })),
      },
      {
        name: 'try',
        label: 'Try promises…',
        when: this.triable().length > 0,
        does: () => this.tryPromises(),
      },
      {
        name: 'options',
        label: 'Options…',
        when: this.typedLine()?.hasOptions === true,
        does: () => this.chooseOptions(this.typedLine()!),
      },
      { name: 'save', label: 'Save the draft', does: () => this.save() },
      throwingAway(this.draft, this.sheets),
    ];
  }

  /** Chooses what goes into the typed line one is on, of what its item offers. // W2 */
  private chooseOptions(line: TypedLine): void {
    this.grid()?.finishEditing();
    const { number, name } = line;
    this.orders
      .options(line.itemId!, this.draft.typed()?.customerId ?? null)
      .pipe(
        switchMap(({ groups }) =>
          this.sheets.choose<OptionsData, ChosenOption[]>(OptionsSheet, {
            number,
            name,
            currency: this.currency(),
            groups,
            chosen: optionIdsOf(line),
          }),
        ),
      )
      .subscribe({
        next: (options) => {
          if (options) this.setLine(line, { options });
        },
        error: (error: unknown) => this.draft.refuse(error),
      });
  }

  /** Typed lines that promising can be asked for. */
  private readonly triable = computed(() =>
    (this.draft.typed()?.lines ?? []).filter((line) => line.itemId !== null && Number(baseQuantity(line)) > 0),
  );

  /** When what is typed could be had, before anything is kept; what is tried is taken into the lines. // T10 */
  private tryPromises(): void {
    this.grid()?.finishEditing();
    const lines = this.triable();
    const asked = lines.map((line) => ({
      itemId: line.itemId!,
      locationId: line.locationId,
      quantity: baseQuantity(line),
      asked: line.shipDate,
      straight: line.route === 'drop',
      own: optionIdsOf(line).length > 0,
    }));
    const orderId = this.draft.isNew() ? null : Number(this.id());
    this.promises
      .try({ orderId, lines: asked })
      .pipe(switchMap((ground) => this.sheets.choose<OrderGround, Tried[]>(PromiseSheet, ground)))
      .subscribe({
        next: (tried) => {
          for (const { id, quantity, day } of tried ?? []) {
            const line = lines[id - 1]!;
            const factor = dec(baseQuantity(line)).div(line.quantity);
            this.setLine(line, {
              quantity: dec(quantity).div(factor).round(5).toFixed(),
              shipDate: day,
              dayOpen: false,
            });
          }
        },
        error: (error: unknown) => this.draft.refuse(error),
      });
  }

  protected readonly findCustomers = (words: string) => this.orders.customers(words);
  protected takeCustomer(customer: CustomerChoice): void {
    this.draft.set({
      customerId: customer.id,
      customerName: customer.name,
      referenceRequired: customer.referenceRequired,
      shipTos: shipToOptions(customer.shipTos, customer.usualShipToId),
      shipToId: customer.shipTos[0]?.id ?? null,
    });
  }

  /** Said while typing: the reference this customer wants. */
  protected readonly referenceHint = computed(() => {
    const typed = this.draft.typed();
    return typed?.referenceRequired ? `${typed.customerName} wants their own reference on every order.` : '';
  });
  /** The order, where some of it is promised and open: asked anew whenever what it stands on may have moved. */
  private readonly promisedOrder = computed(() => {
    const sheet = this.page.sheet();
    return sheet?.lines.some((line) => line.promised !== null) ? sheet.id : null;
  });
  private readonly broken = liveDocument(
    this.promisedOrder,
    (id) => (id === null ? of(null) : this.promises.broken(id)),
    ({ kind }) => ['SO', 'PO', 'RC', 'SH', 'CN', 'PR', 'AS', 'PL'].includes(kind),
  ).state;
  /** Promises that cannot be kept as things stand, each in a sentence. // T9 */
  protected readonly brokenWords = computed(() =>
    (this.draft.typing() ? [] : (this.broken().value?.lines ?? [])).map(({ lineNo, was, is, why }) => ({
      lineNo,
      sentence: `Line ${lineNo} is promised for ${this.day(was)} and ${is === null ? 'cannot be had' : `can be had on ${this.day(is)}`} as things stand: ${why}.`,
    })),
  );
  /** What no field says: for whoever may not pass over a credit limit, that it would be is among it. */
  protected readonly loose = computed(() =>
    this.draft.loose(
      this.session.may('credit')
        ? /^(customerId|shipToId|customerReference|creditReason)$/
        : /^(customerId|shipToId|customerReference)$/,
    ),
  );
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
  /** Whether it would pass over the credit limit, and may. // S4 */
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

  private takeLines(lines: Observable<TypedLine[] | undefined>): void {
    this.grid()?.finishEditing();
    lines.subscribe((taken) => {
      if (taken) this.draft.addLines(taken);
    });
  }

  /** The typed line one is on, else the first. */
  private readonly typedLine = computed(() => {
    const lines = (this.draft.typing() && this.draft.typed()?.lines) || [];
    return lines.find((line) => line.key === this.page.selected()) ?? lines[0] ?? null;
  });
  /** The line whose price is shown: as it is typed, or as it was kept. // R4 */
  protected readonly pricedLine = computed((): PricedLine | null => {
    const typed = this.typedLine();
    const line = this.page.line();
    if (typed) return typedPrice(typed, this.pricing.priceOf()(typed));
    return line && keptPrice(line, this.currency(), this.workDate());
  });
  /** What the selected line asks for of its item: as it is typed, or as it stands. */
  protected readonly asked = computed(() => {
    const typed = this.typedLine();
    const line = this.page.line();
    return typed ? typedDemand(typed) : line && keptDemand(line);
  });
  protected readonly nobody = { lineId: null, locationId: MAIN_LOCATION, quantity: '', by: null };
  /** The line whose pieces are told: the one one is on, else the first that has any. // P6 */
  protected readonly numbered = computed(() => {
    const lines = this.sheet()?.lines.filter(({ numbers }) => numbers.length > 0) ?? [];
    const line = this.page.line() ?? lines[0];
    return line && line.numbers.length > 0 ? line : null;
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

  /** Why the typed line one is on ships when it does. // S10 */
  protected readonly dayWhy = computed(() => {
    const row = this.typedLine();
    const why = row ? this.days.why(row) : '';
    return row && why ? `${row.number} on ${this.day(row.shipDate)}, ${why}` : '';
  });

  /** Of a confirmed order that is being changed: a line it has already. // S8 */
  private stays(row: TypedLine): boolean {
    return row.id !== null && this.changing.is(this.sheet());
  }

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
      stays: (row) => this.stays(row),
      refusals: this.draft.refusals(),
      locations: this.locations.all(),
      items: (words) => this.orders.items(words, this.draft.typed()?.customerId ?? null),
      priceOf: this.pricing.priceOf(),
      impossible: (row) => this.days.words().some((word) => word.row.key === row.key),
      offers: (row) => this.offers.of(row) ?? [],
      setLine: (row, change) => this.setLine(row, change),
    }),
  );
  protected readonly lineColumns = computed(() =>
    lineColumns(
      this.currency(),
      this.workDate(),
      this.sheet()?.lines.some((line) => line.movedFrom !== null) ?? false,
      this.sheet()?.lines.some((line) => line.sold.factor !== '1') ?? false,
    ),
  );
  protected readonly rowKey = (row: TypedLine) => row.key;
  protected readonly money = (value: string) => money(value, this.currency());
  protected readonly day = (value: string | null) => day(value, this.workDate());
  protected readonly pathOf = pathOf;
  protected readonly shipToText = computed(() => {
    const shipTo = this.sheet()?.shipTo;
    return shipTo ? `${shipTo.label}, ${shipTo.town}` : '–';
  });

  /** Takes the days that can be kept instead of those that cannot. */
  protected takeDays(words: readonly DayWord[]): void {
    this.grid()?.finishEditing();
    for (const { row, instead } of words) if (instead) this.setLine(row, { shipDate: instead, dayOpen: false });
  }
  protected readonly possible = computed(() => this.days.words().filter(({ instead }) => instead !== null));

  private save(): void {
    this.grid()?.finishEditing();
    this.draft.save();
  }

  /** To the purchase that supplies a line, and to its line there: Enter goes there and back. // L5 */
  protected toSupply({ ties: [first] }: OrderLine): void {
    if (first) void this.router.navigate([pathOf(first.purchase)], { queryParams: { at: first.purchaseLineId } });
  }

  /** `Rashid 60 %, Salmah 40 %`. // S1 */
  protected readonly commission = computed(() =>
    (this.sheet()?.commission ?? []).map(({ person, perCent }) => `${person.name} ${perCent} %`).join(', '),
  );
}
