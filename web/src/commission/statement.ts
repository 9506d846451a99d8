import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { payStatement, takeBackStatement } from '@api/commission';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { ActSheet, type AsksAct } from '../kit/act/act-sheet';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { Sheets } from '../kit/act/sheet';
import { day, money } from '../kit/formats';
import { Earnings } from './earnings';
import { Commission, type StatementSheet } from './service';

/** One commission statement with its lines. // S12 */
@Component({
  selector: 'k-statement',
  imports: [DocumentDock, DocumentTitle, Earnings, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>Sales person</small
          ><a class="link" routerLink="/commission" [queryParams]="{ person: shown.person.id }">{{
            shown.person.name
          }}</a>
        </div>
        <div><small>Earned up to</small>{{ day(shown.until) }}</div>
        <div><small>Made</small>{{ day(shown.madeOn) }}</div>
        @if (shown.paidOn) {
          <div><small>Paid</small>{{ day(shown.paidOn) }}</div>
        }
        @if (shown.reason) {
          <div><small>Withdrawn, for</small>{{ shown.reason }}</div>
        }
      </div>
      <div class="sheet">
        <k-earnings [lines]="shown.lines" [currency]="shown.currency" empty="Nothing is on it any more." />
      </div>
      @if (shown.all) {
        <k-document-dock [document]="shown.document" />
      }
    }
  </div>`,
  styles: `
    .sheet {
      overflow: auto;
      padding: 10px 24px 24px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StatementPage {
  private readonly commission = inject(Commission);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, StatementSheet> = new DocumentPage({
    key: this.id,
    name: 'Commission statement',
    open: (id) => this.commission.statement(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` for ${sheet.person.name}`,
      sub: `${sheet.currency} ${money(sheet.amount, sheet.currency)}, ${sheet.state === 'made' ? 'owed' : sheet.state}`,
    }),
    acts: () => {
      const sheet = this.page.sheet();
      if (!sheet) return [];
      const { id, number } = sheet.document;
      const open = sheet.state === 'made';
      return [
        {
          name: 'paper',
          label: 'On paper',
          place: 'button' as const,
          file: `/api/commission/statements/${id}/statement.pdf`,
        },
        {
          name: 'withdraw',
          label: 'Withdraw it…',
          place: 'menu' as const,
          when: open && this.session.may('commission'),
          asks: true as const,
          does: () =>
            this.sheets.open<AsksReason<typeof takeBackStatement>>(ReasonSheet, {
              head: `Withdraw ${number}`,
              sub: 'What is on it can be on another; its journal is reversed',
              act: 'Withdraw it',
              of: takeBackStatement,
              input: (reason) => ({ id, version: sheet.version, reason }),
            }),
          says: () => ['Withdrawn:', sheet.document] as const,
        },
        {
          name: 'pay',
          label: 'Pay it…',
          place: 'step' as const,
          when: open && this.session.may('payments'),
          asks: true as const,
          does: () =>
            this.sheets.open<AsksAct<typeof payStatement>>(ActSheet, {
              head: `Pay ${number}`,
              sub: `to ${sheet.person.name}, out of the bank, once`,
              act: 'Pay it',
              of: payStatement,
              input: { id, version: sheet.version },
              words: ({ amount }) => [`${sheet.currency} ${money(amount, sheet.currency)} leaves the bank.`],
            }),
          says: () => ['Paid:', sheet.document] as const,
        },
      ];
    },
  });
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
