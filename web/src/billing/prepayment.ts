import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dec } from '@core/kernel';
import { Session } from '../access';
import { DepositBackSheet, type DepositBackData } from '../counter';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, money, ownMoney } from '../kit/formats';
import { Billing, type PrepaymentSheet } from './service';

const MOVED = { drawn: 'Drawn by', returned: 'Paid back', carried: 'Carried to the renewal' } as const;

/** One prepayment: what is left of it, and everything that moved it. // A12 */
@Component({
  selector: 'k-prepayment',
  imports: [DocumentDock, DocumentTitle, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>Customer</small
          ><a class="link" [routerLink]="pathOf({ kind: 'customer', id: shown.party.id })">{{ shown.party.name }}</a>
        </div>
        <div>
          <small>For</small><a class="link" [routerLink]="pathOf(shown.heldFor)">{{ shown.heldFor.number }}</a
          >{{ shown.lineNo === null ? '' : ', line ' + shown.lineNo }}
        </div>
        <div><small>Taken</small>{{ day(shown.takenOn) }}</div>
        @if (shown.own; as own) {
          <div><small>Posted as</small>{{ ownMoney(own.amount, own) }}</div>
        }
      </div>
      <div class="sheet">
        <table class="small">
          <thead>
            <tr>
              <th>What</th>
              <th>Day</th>
              <th>Invoice</th>
              <th class="num">Amount</th>
            </tr>
          </thead>
          <tbody>
            @for (move of shown.moves; track $index) {
              <tr>
                <td>{{ moved[move.kind] }}</td>
                <td>{{ day(move.day) }}</td>
                <td>
                  @if (move.invoice; as invoice) {
                    <a class="link" [routerLink]="pathOf(invoice)">{{ invoice.number }}</a>
                  }
                </td>
                <td class="num">{{ money(move.amount) }}</td>
              </tr>
            } @empty {
              <tr>
                <td colspan="4" class="faint">Nothing has drawn on it yet; the next invoice will.</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
      <k-document-dock [document]="shown.document" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PrepaymentPage {
  private readonly billing = inject(Billing);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, PrepaymentSheet> = new DocumentPage({
    key: this.id,
    name: 'Prepayment',
    open: (id) => this.billing.prepayment(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` from ${sheet.party.name}`,
      sub: `${sheet.currency} ${this.money(sheet.left)} left of ${this.money(sheet.amount)}`,
    }),
    acts: () => {
      const shown = this.page.sheet();
      return shown?.heldFor.kind === 'SO' && dec(shown.left).gt(0)
        ? [
            {
              name: 'pay-back',
              label: 'Pay back over the counter…',
              place: 'button',
              when: this.session.may('counter'),
              asks: true,
              does: () =>
                this.sheets.open<DepositBackData>(DepositBackSheet, {
                  prepayment: shown.document,
                  heldFor: shown.heldFor,
                  left: shown.left,
                  currency: shown.currency,
                }),
              says: () => ['Paid back.'],
            },
          ]
        : [];
    },
    touchedBy: (document, sheet) => document.kind === sheet?.heldFor.kind && document.id === sheet.heldFor.id,
  });
  protected readonly moved = MOVED;
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly ownMoney = ownMoney;
  protected readonly pathOf = pathOf;
}
