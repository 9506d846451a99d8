import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Session } from '../access';
import { DocumentDock, PaperActs } from '../documents';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, money, ownMoney, price, quantity } from '../kit/formats';
import { numbersColumn } from '../serial';
import { Grid, type GridColumn } from '../kit/grid';
import { Billing, type CreditNoteSheet } from './service';
import { setOffAct } from './set-off-sheet';

type Line = CreditNoteSheet['lines'][number];

const FOR = {
  return: 'goods that came back',
  price: 'a price put right',
  rebate: 'a rebate',
  reversal: 'an invoice that was a mistake',
} as const;

/** One credit note: what it is for, its lines, and what it was set off against. */
@Component({
  selector: 'k-credit-note',
  imports: [DocumentDock, DocumentTitle, Grid, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>Customer</small
          ><a class="link" [routerLink]="pathOf({ kind: 'customer', id: shown.party.id })">{{ shown.party.name }}</a>
        </div>
        <div>
          <small>{{ shown.against.kind === 'AG' ? 'Agreement' : 'Against' }}</small><a
            class="link"
            [routerLink]="pathOf(shown.against)"
            >{{ shown.against.number }}</a
          >
        </div>
        <div><small>Dated</small>{{ day(shown.creditDate) }}</div>
        <div><small>Why</small>{{ shown.reason }}</div>
        @for (each of shown.setOff; track each.document.id) {
          <div>
            <small>Set off {{ day(each.day) }}</small
            ><a class="link" [routerLink]="pathOf(each.document)">{{ each.document.number }}</a>
            {{ money(each.amount) }}
          </div>
        }
      </div>
      <div class="sheet">
        @if (shown.lines.length > 0) {
          <k-grid
            label="Lines of the credit note"
            [natural]="true"
            [rows]="shown.lines"
            [columns]="columns()"
            [rowId]="rowId"
          />
        }
        <div class="totals">
          <span>Net</span><span>{{ money(shown.net) }}</span>
          @for (tax of shown.taxes; track tax.taxCode) {
            <span>Tax {{ tax.taxRate }} % of {{ money(tax.base) }}</span
            ><span>{{ money(tax.tax) }}</span>
          }
          <b>{{ shown.currency }}</b><b>{{ money(shown.total) }}</b>
          @if (shown.own; as own) {
            <span class="faint">posted as</span><span class="faint">{{ ownMoney(own.total, own) }}</span>
          }
        </div>
      </div>
      <k-document-dock [document]="shown.document" [orderLineId]="shown.orderLineId" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CreditNotePage {
  private readonly billing = inject(Billing);
  private readonly session = inject(Session);
  private readonly paper = new PaperActs();
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, CreditNoteSheet> = new DocumentPage({
    key: this.id,
    name: 'Credit note',
    open: (id) => this.billing.creditNote(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` to ${sheet.party.name}`,
      sub: `for ${FOR[sheet.kind]} · ${sheet.left === '0' ? 'all set off' : `${sheet.currency} ${this.money(sheet.left)} to their credit`}`,
    }),
    acts: () => {
      const sheet = this.page.sheet();
      if (!sheet) return [];
      return [
        ...this.paper.of(sheet.document),
        setOffAct(this.sheets, sheet.left !== '0', {
          credit: sheet.document,
          openItemId: sheet.openItemId,
          party: sheet.party.name,
        }),
      ];
    },
  });
  private readonly sheet = this.page.sheet;
  protected readonly rowId = (row: Line) => String(this.sheet()?.lines.indexOf(row));
  protected readonly columns = computed<GridColumn<Line>[]>(() => {
    const currency = this.sheet()?.currency ?? 'MYR';
    return [
      {
        id: 'item',
        head: 'Item',
        width: 100,
        text: (row) => row.item.number,
        link: (row) => pathOf({ kind: 'item', id: row.item.id }),
      },
      { id: 'what', head: 'What', text: (row) => row.item.name },
      ...numbersColumn<Line>(this.sheet()?.lines ?? []),
      {
        id: 'quantity',
        head: 'Came back',
        width: 100,
        figures: true,
        text: (row) => (row.quantity === '0' ? '–' : quantity(row.quantity)),
      },
      { id: 'unit', head: 'Unit', width: 70, text: (row) => row.item.unit },
      { id: 'price', head: 'Credited each', width: 116, figures: true, text: (row) => price(row.unitPrice, currency) },
      { id: 'net', head: 'Net', width: 110, figures: true, text: (row) => money(row.net, currency) },
      { id: 'tax', head: 'Tax', width: 60, text: (row) => row.taxCode },
    ];
  });
  protected readonly money = (value: string) => money(value, this.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly ownMoney = ownMoney;
  protected readonly pathOf = pathOf;
}
