import { inject, type Signal } from '@angular/core';
import { Router } from '@angular/router';
import { ROUTE_NAMES } from '@core/catalogue';
import { dec } from '@core/kernel';
import * as contract from '@api/orders';
import { Session } from '../access';
import { HoldSheet, type HoldAsked } from '../sisters';
import { PlaceSheet, Bench, TieSheet } from '../supply';
import { InvoiceCustomerSheet } from '../billing';
import { PaperActs } from '../documents';
import type { DocumentAct, DocumentPage } from '../kit/act/document-page';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { counted, sentenceCase } from '../kit/formats';
import { AskSheet, type Asks } from '../kit/act/ask-sheet';
import { Sheets } from '../kit/act/sheet';
import type { TypedDraft } from '../kit/act/typed-draft';
import { PromiseSheet, Promises } from '../promise';
import { MoveSheet } from '../stock';
import { CommissionSheet } from './commission-sheet';
import { nextStepOf } from './next-step';
import { shippable, suppliedBy, unmade } from './order-columns';
import { TieWorkSheet, type TieWorkData } from '../workshop';
import { CancelSheet } from './cancel-sheet';
import { Orders, type OrderLine, type OrderSheet } from './service';
import { SupplySheet } from './supply-sheet';
import { copyOf, type TypedLine, type TypedOrder } from './typed';

export type OrderDraft = TypedDraft<OrderSheet, TypedOrder, TypedLine>;

/** What of a line was not shipped and not given up. */
const openOf = (line: OrderLine) => dec(line.quantity).minus(line.cancelled).minus(line.shipped);

/** Asked once more before an order is confirmed for days that cannot be kept. // S10 */
const IMPOSSIBLE_DAYS: Asks = {
  head: 'These days cannot be kept',
  sub: 'Leave it to change them, or confirm them all the same',
  act: 'Confirm all the same',
};

/** Gives up what is open of a line, with why. // S6 */
const closingShort = (sheet: OrderSheet, line: OrderLine): AsksReason<typeof contract.closeShort> => ({
  head: `Close line ${line.lineNo} short`,
  sub: `${line.item.number}, ${line.item.name}; it can be opened again`,
  act: 'Close it short',
  of: contract.closeShort,
  input: (reason) => ({ id: sheet.id, version: sheet.version, lineIds: [line.id], reason }),
  effect: ({ effects }) => sentenceCase(effects.join('; ')),
});

/** What can be done with a sales order once it is kept, and with the line of it one is on. In an injection context. */
export class OrderActs {
  private readonly orders = inject(Orders);
  private readonly promises = inject(Promises);
  private readonly bench = inject(Bench);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly sheets = inject(Sheets);
  private readonly paper = new PaperActs();

  constructor(
    private readonly page: DocumentPage<string, OrderSheet, OrderLine>,
    private readonly draft: OrderDraft,
    /** Takes what is being typed in the grid. */
    private readonly finishEditing: () => void,
    /** Why the order may pass over the credit limit. */
    private readonly creditReason: Signal<string>,
    /** Begins to change a confirmed order. // S8 */
    private readonly change: (sheet: OrderSheet) => void,
    /** What is to be said of ship dates before it is confirmed. // S10 */
    private readonly dayWords: () => readonly string[],
  ) {}

  all(): DocumentAct[] {
    const sheet = this.page.sheet();
    if (!sheet) return this.draft.isNew() ? [this.confirm()] : [];
    const line = this.page.line();
    return [
      ...this.menu(sheet),
      ...(line ? this.ofLine(sheet, line) : []),
      this.changed(sheet),
      this.promise(sheet),
      ...this.steps(sheet),
    ];
  }

  /** What else can be done: its threads, its paper, a copy, an end to it. */
  private menu(sheet: OrderSheet): DocumentAct[] {
    const { id, version } = sheet;
    // Nothing came for it, and nothing went out. // S6
    const untouched = sheet.lines.every(
      (line) => line.ties.every((tie) => tie.received === '0') && line.shipped === '0',
    );
    const tied = sheet.lines.some((line) => line.ties.length > 0);
    const undone = sheet.state === 'confirmed' && untouched && (!tied || this.session.may('purchases'));
    const acts: DocumentAct[] = [
      {
        name: 'threads',
        label: 'All threads',
        does: () => void this.router.navigateByUrl(`/orders/${id}/threads`),
      },
      ...this.paper.of(this.page.document()!),
      {
        name: 'commission',
        label: 'Commission…',
        does: () => this.sheets.open(CommissionSheet, sheet),
        says: () => ['Commission is shared.'],
      },
      {
        name: 'told',
        label: 'The customer knows the new day',
        when: sheet.lines.some((line) => line.movedFrom !== null) && this.session.may('orders'),
        does: () => this.orders.told(id),
        says: () => ['Nothing is to be told any more.'],
      },
      {
        name: 'take-back',
        endsTyping: true,
        label: 'Take the promise back',
        when: sheet.lines.some((line) => line.promised !== null) && this.session.may('plan'),
        does: () => this.promises.takeBack(id, version),
        says: ({ touched }) => ['What was promised is taken back:', touched[0]],
      },
      {
        name: 'hold-at-sister',
        endsTyping: true,
        label: 'Hold at a sister…',
        // What is bought of a sister may be hers for it until it is ordered. // X4
        when:
          ['draft', 'confirmed'].includes(sheet.state) &&
          this.session.may('orders') &&
          this.session.current()?.sisters === true &&
          sheet.lines.some(
            (line) =>
              (line.route === 'drop' || line.route === 'special') &&
              openOf(line).gt(0) &&
              dec(line.tied).lt(line.quantity),
          ),
        does: () => this.sheets.open<HoldAsked>(HoldSheet, { orderId: id, number: sheet.number }),
        says: ({ touched }) => ['Held for', touched[0]],
      },
      {
        name: 'copy',
        label: 'Copy',
        does: () => this.orders.save(copyOf(sheet, this.session.workDate())),
        says: ({ made }) => ['Copied into a draft:', made[0], 'go there'],
      },
      {
        name: 'repeat',
        label: 'Repeat it as a standing order…',
        when: this.session.may('orders') && sheet.lines.length > 0,
        does: () => void this.router.navigateByUrl(`/standing-orders?do=new&order=${sheet.id}`),
      },
      {
        name: 'cancel',
        endsTyping: true,
        label: 'Cancel the order',
        when: (sheet.state === 'draft' || undone) && this.session.may('orders'),
        does: () => this.sheets.open<OrderSheet>(CancelSheet, sheet),
        says: ({ touched }) => ['Cancelled; what it held went back to its agreement:', touched[1] ?? touched[0]],
      },
    ];
    return acts.map((act) => ({ ...act, place: 'menu' }));
  }

  private ofLine(sheet: OrderSheet, line: OrderLine): DocumentAct[] {
    const { lineNo } = line;
    const open = openOf(line).gt(0);
    // Nothing came on these yet. // L4
    const loosable = line.ties.filter((tie) => tie.received === '0');
    return [
      {
        name: 'supply',
        label: `Supply of line ${lineNo}…`,
        // Another route, or holding stock for it, may be thought of. // S3
        when: sheet.state === 'confirmed' && line.ties.length === 0 && open,
        does: () => this.sheets.open(SupplySheet, { order: sheet.number, line }),
        says: ({ touched }) => [`Line ${lineNo} is supplied as you said:`, touched[0]],
      },
      {
        name: 'tie-work',
        label: `What is made for line ${lineNo}…`,
        // It may be served by what is made already. // L5 W4
        when: sheet.state === 'confirmed' && line.ourMake && line.route !== 'drop' && open && this.session.may('plan'),
        does: () =>
          this.sheets.open<TieWorkData>(TieWorkSheet, { lineId: line.id, title: `${sheet.number} line ${lineNo}` }),
        says: ({ touched }) => ['Made for it:', touched[0]],
      },
      {
        name: 'untie',
        label: `Untie line ${lineNo}`,
        when: loosable.length > 0,
        does: () => this.bench.untie(loosable.map((tie) => tie.id)),
        says: () => [`Line ${lineNo} is without supply again; for nobody now:`, loosable[0]!.purchase],
        undo: () =>
          this.bench.tieAgain(
            loosable.map(({ purchaseLineId, quantity }) => ({ orderLineId: line.id, purchaseLineId, quantity })),
          ),
      },
      {
        name: 'tie',
        label: `Tie line ${lineNo}…`,
        // It waits for supply that may be there already. // L5
        when: line.needsPurchase,
        does: () =>
          this.sheets.open(TieSheet, { end: 'order', lineId: line.id, title: `${sheet.number} line ${lineNo}` }),
        says: ({ touched }) => ['Tied to', touched[1]],
      },
      {
        name: 'close-short',
        endsTyping: true,
        label: `Close line ${lineNo} short…`,
        place: 'menu',
        // Its rest can be given up. // S6
        when: ['confirmed', 'closed'].includes(sheet.state) && open && this.session.may('orders'),
        does: () => this.sheets.open(ReasonSheet, closingShort(sheet, line)),
        says: ({ touched }) => [`Line ${lineNo} is closed short; what was open went back:`, touched[1] ?? touched[0]],
        undo: ({ touched }) => {
          const now = touched.find(({ kind, id }) => kind === 'SO' && id === sheet.id) as
            { version?: number } | undefined;
          return this.orders.openAgain(sheet.id, now?.version ?? sheet.version + 1, [line.id]);
        },
      },
      {
        name: 'open-again',
        endsTyping: true,
        label: `Open line ${lineNo} again`,
        place: 'menu',
        when: line.closedShort && this.session.may('orders'),
        does: () => this.orders.openAgain(sheet.id, sheet.version, [line.id]),
        says: ({ touched }) => [`Line ${lineNo} is open again:`, touched[0]],
      },
    ];
  }

  /** What was confirmed may be another as far as it has not happened. // S8 */
  private changed(sheet: OrderSheet): DocumentAct {
    return {
      name: 'change',
      label: 'Change…',
      when: sheet.state === 'confirmed' && this.session.may('orders'),
      does: () => this.change(sheet),
    };
  }

  /** Lines that are open can be promised; what is typed is kept first. // T10 */
  private promise(sheet: OrderSheet): DocumentAct {
    return {
      name: 'promise',
      label: 'Promise…',
      when:
        this.session.may('plan') &&
        (sheet.state === 'confirmed' || sheet.state === 'draft') &&
        sheet.lines.some((line) => openOf(line).gt(0) && (line.route !== 'drop' || dec(line.tied).lt(line.quantity))),
      does: () => {
        if (!this.draft.typing()) return this.openPromise(sheet.id);
        this.finishEditing();
        this.draft.save(() => {
          this.draft.drop();
          this.page.loaded.reload();
          this.openPromise(sheet.id);
        });
      },
    };
  }

  private openPromise(orderId: number): void {
    this.promises.ground(orderId).subscribe({
      next: (ground) =>
        this.page.follow(this.sheets.open(PromiseSheet, ground), {
          endsTyping: true,
          says: ({ made, touched }) => [
            made.length > 0 ? `Promised; ${counted(made.length, 'order')} planned with it, first` : 'Promised:',
            made[0] ?? touched[0],
          ],
        }),
      error: (error: unknown) => this.draft.refuse(error),
    });
  }

  /** The acts that move the order on: the next one is strong, shipping is there wherever something can go. */
  private steps(sheet: OrderSheet): DocumentAct[] {
    const { step, label } = nextStepOf(sheet);
    const acts: DocumentAct[] = [
      { ...this.confirm(), when: false },
      {
        name: 'place',
        asks: true,
        label: 'Place…',
        when: false,
        does: () => this.sheets.open(PlaceSheet, { orderId: sheet.id }),
        says: ({ made }) => [made.length > 1 ? `Placed ${made.length} purchase orders, first` : 'Placed:', made[0]],
      },
      {
        name: 'make',
        label: 'Make what it needs',
        when: false,
        does: () => this.make(sheet),
        says: ({ made, touched }) => ['To be made:', made[0] ?? touched[0]],
      },
      {
        name: 'ship',
        asks: true,
        label: 'Ship…',
        when: sheet.state === 'confirmed' && sheet.lines.some((line) => shippable(line).gt(0)),
        does: () => this.sheets.open(MoveSheet, this.toShip(sheet)),
        says: ({ made }) => ['Shipped:', made.find((document) => document.kind === 'SH')],
      },
      {
        name: 'invoice',
        asks: true,
        label: 'Invoice…',
        when: sheet.state === 'confirmed' && sheet.lines.some((line) => dec(line.shipped).gt(line.invoiced)),
        does: () =>
          this.sheets.open(InvoiceCustomerSheet, {
            customer: sheet.customer,
            orders: [{ id: sheet.id, number: sheet.number }],
            currency: sheet.currency,
          }),
        says: ({ made }) => ['Invoiced:', made[0]],
      },
    ];
    return acts.map((act) => (act.name === step ? { ...act, label, when: true, place: 'step' } : act));
  }

  /** Saves what is typed and confirms it. */
  private confirm(): DocumentAct {
    return {
      name: 'confirm',
      label: 'Confirm',
      place: 'step',
      does: () => {
        this.finishEditing();
        const words = this.dayWords();
        if (words.length === 0) return this.confirmNow();
        this.sheets.choose<Asks, boolean>(AskSheet, { ...IMPOSSIBLE_DAYS, words }).subscribe((anyway) => {
          if (anyway) this.confirmNow();
        });
      },
    };
  }

  private confirmNow(): void {
    const why = this.creditReason().trim();
    this.draft.saveAnd('Confirmed:', (id, version) => this.orders.confirm(id, version, why));
  }

  /** The first line that is made to order, and that nothing is made for yet, has its order made. // W1 */
  private make(sheet: OrderSheet) {
    const line = sheet.lines.find((each) => unmade(each).gt(0))!;
    return this.orders.supply(line.id, line.route);
  }

  private toShip(sheet: OrderSheet) {
    return {
      end: 'order' as const,
      document: this.page.document()!,
      party: sheet.customer.name,
      lines: sheet.lines.map((line) => ({
        id: line.id,
        lineNo: line.lineNo,
        item: line.item,
        byNumber: line.byNumber,
        locationId: line.location?.id ?? null,
        open: shippable(line).toFixed(),
        note:
          line.route === 'stock'
            ? `from stock, ${suppliedBy(line)}`
            : `${ROUTE_NAMES[line.route]}, ${suppliedBy(line)}`,
      })),
    };
  }
}
