import { inject } from '@angular/core';
import { dec } from '@core/kernel';
import * as contract from '@api/purchasing';
import { Session } from '../access';
import { Bench, TieSheet } from '../supply';
import { VendorInvoiceSheet } from '../billing';
import { PaperActs } from '../documents';
import type { DocumentAct, DocumentPage } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { counted } from '../kit/formats';
import { AnswerSheet } from './answer-sheet';
import { ChangePurchaseSheet } from './change-sheet';
import { MakeOrderSheet } from './make-order-sheet';
import { MoveSheet } from '../stock';
import { forWhom } from './purchase-columns';
import type { PurchaseLine, PurchaseSheet } from './service';

const openOf = (line: PurchaseLine) => dec(line.quantity).minus(line.received);

/** What can come: to our place, or to a customer for an order. */
export function comingOf({ state, lines, customer }: PurchaseSheet): PurchaseLine[] {
  if (state !== 'placed') return [];
  return lines.filter((line) => openOf(line).gt(0) && (customer === null || line.ties.length > 0));
}

/** Cancels what of a purchase is still to come, with why. // S6 */
const cancelling = (sheet: PurchaseSheet): AsksReason<typeof contract.cancelPurchase> => ({
  head: `Cancel ${sheet.number}`,
  sub: 'What is still to come of it will not; what came stays',
  act: 'Cancel what is to come',
  of: contract.cancelPurchase,
  input: (reason) => ({ purchaseId: sheet.id, version: sheet.version, reason }),
  effect: ({ stopped, touches }) =>
    [
      counted(stopped, 'line'),
      ...(touches.length > 0
        ? [`waiting on the bench again: ${touches.map(({ order, lineNo }) => `${order} line ${lineNo}`).join(', ')}`]
        : []),
    ].join('; '),
});

/** What can be done with a purchase order, and with the line of it one is on. To be made in an injection context. */
export class PurchaseActs {
  private readonly bench = inject(Bench);
  private readonly sheets = inject(Sheets);
  private readonly session = inject(Session);
  private readonly paper = new PaperActs();

  constructor(private readonly page: DocumentPage<string, PurchaseSheet, PurchaseLine>) {}

  all(): DocumentAct[] {
    const sheet = this.page.sheet();
    if (!sheet) return [];
    const line = this.page.line();
    const placed = sheet.state === 'placed';
    return [
      ...this.paper.of(this.page.document()!),
      { name: 'ubl', label: 'UBL', place: 'menu', file: `/api/purchases/${sheet.id}/ubl`, download: true },
      ...this.ofLoose(sheet),
      ...(placed && line ? this.ofLine(sheet, line) : []),
      {
        name: 'answer',
        label: 'Their answer…',
        when: placed && sheet.lines.some((each) => openOf(each).gt(0)),
        does: () => this.sheets.open(AnswerSheet, sheet),
        says: ({ touched }) => ['Taken down for', touched[0]],
      },
      {
        name: 'change',
        label: 'Change…',
        when: placed && this.session.may('purchases'),
        does: () => this.sheets.open(ChangePurchaseSheet, sheet),
        says: ({ touched }) => ['Changed, to be sent as its revision:', touched[0]],
      },
      {
        name: 'cancel',
        label: 'Cancel what is to come…',
        place: 'menu',
        when: placed && this.session.may('purchases') && sheet.lines.some((each) => openOf(each).gt(0)),
        does: () => this.sheets.open(ReasonSheet, cancelling(sheet)),
        says: ({ touched }) => ['Cancelled:', touched[0]],
      },
      ...this.steps(sheet),
    ];
  }

  /** A drop shipment of which something is for nobody. // L4 */
  private isLoose({ state, customer, lines }: PurchaseSheet): boolean {
    return state === 'placed' && customer !== null && lines.some((line) => line.untied !== '0');
  }

  private ofLoose(sheet: PurchaseSheet): DocumentAct[] {
    return [
      {
        name: 'to-stock',
        label: 'To our stock',
        when: this.isLoose(sheet) && sheet.lines.every((line) => line.ties.length === 0 && line.received === '0'),
        does: () => this.bench.toStock(sheet.id, sheet.version),
        says: ({ touched }) => ['Comes to our place now:', touched[0]],
      },
    ];
  }

  private ofLine(sheet: PurchaseSheet, line: PurchaseLine): DocumentAct[] {
    const loosable = line.ties.filter((tie) => tie.received === '0');
    return [
      {
        name: 'untie',
        label: `Untie line ${line.lineNo}`,
        when: loosable.length > 0,
        does: () => this.bench.untie(loosable.map((tie) => tie.id)),
        says: ({ touched }) => [`Line ${line.lineNo} is for nobody now; without supply again:`, touched[0]],
        undo: () =>
          this.bench.tieAgain(
            loosable.map(({ orderLineId, quantity }) => ({ orderLineId, purchaseLineId: line.id, quantity })),
          ),
      },
      {
        name: 'tie',
        label: `Tie line ${line.lineNo}…`,
        when: line.untied !== '0' && openOf(line).gt(0),
        does: () =>
          this.sheets.open(TieSheet, {
            end: 'purchase',
            lineId: line.id,
            title: `${sheet.number} line ${line.lineNo}`,
          }),
        says: ({ touched }) => ['Tied to', touched[0]],
      },
    ];
  }

  /** What is due to come is received first; what has come and is complete waits for the vendor's invoice. */
  private steps(sheet: PurchaseSheet): DocumentAct[] {
    const acts: DocumentAct[] = [
      {
        name: 'receive',
        asks: true,
        label: 'Receive…',
        when: comingOf(sheet).length > 0,
        does: () => this.sheets.open(MoveSheet, this.toReceive(sheet)),
        says: ({ made }) => [
          made.some(({ kind }) => kind === 'SH') ? 'Received, and shipped to the customer:' : 'Received:',
          made[0],
        ],
      },
      {
        name: 'vendor-invoice',
        asks: true,
        label: 'Enter their invoice…',
        when: sheet.lines.some((line) => dec(line.received).gt(line.invoiced)),
        does: () =>
          this.sheets.open(VendorInvoiceSheet, {
            purchaseId: sheet.id,
            number: sheet.number,
            vendor: sheet.vendor.name,
          }),
        says: ({ made }) => ['Entered:', made[0]],
      },
      {
        name: 'make-order',
        asks: true,
        label: 'Make an order of it…',
        when: this.isLoose(sheet),
        does: () => this.sheets.open(MakeOrderSheet, sheet),
        says: ({ made }) => ['Made and tied:', made[0]],
      },
    ];
    const step = acts.find((act) => act.when);
    return acts.map((act) => (act === step ? { ...act, place: 'step' } : act));
  }

  private toReceive(sheet: PurchaseSheet) {
    const note = (line: PurchaseLine) => {
      if (sheet.customer) return `ships ${forWhom(line, sheet)}`;
      return line.ties.length > 0 ? `for ${forWhom(line, sheet)}` : 'into our stock';
    };
    return {
      end: 'purchase' as const,
      document: this.page.document()!,
      party: sheet.vendor.name,
      lines: comingOf(sheet).map((line) => ({
        id: line.id,
        lineNo: line.lineNo,
        item: line.item,
        byNumber: line.byNumber,
        locationId: sheet.location?.id ?? null,
        open: openOf(line).toFixed(),
        note: note(line),
      })),
    };
  }
}
