import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dec, inUnits } from '@core/kernel';
import { loseClaim, withdrawClaim } from '@api/claims';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, money, price, quantity } from '../kit/formats';
import { ReceiveClaimSheet, SettleClaimSheet } from './claim-sheets';
import { Claims, type ClaimSheet } from './service';

const MOVED = { invoice: 'Settled against', paid: 'Paid into the bank', lost: 'Given up' } as const;

/** One claim on a vendor: its lines, and what became of it. // S13 */
@Component({
  selector: 'k-claim',
  imports: [DocumentDock, DocumentTitle, RouterLink],
  templateUrl: './claim.html',
  styleUrl: './claims.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ClaimPage {
  private readonly claims = inject(Claims);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, ClaimSheet> = new DocumentPage({
    key: this.id,
    name: 'Claim on a vendor',
    open: (id) => this.claims.claim(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` on ${sheet.vendor.name}`,
      sub: `${sheet.currency} ${this.money(sheet.amount)}${sheet.withdrawn ? `, withdrawn: ${sheet.reason}` : `, ${this.money(leftOf(sheet))} of it open`}`,
    }),
    acts: () => {
      const sheet = this.page.sheet();
      if (!sheet) return [];
      const { id, number } = sheet.document;
      const open = !sheet.withdrawn && dec(leftOf(sheet)).gt(0);
      return [
        {
          name: 'settle',
          label: 'Settle against an invoice…',
          place: 'step' as const,
          when: open && sheet.owed.length > 0 && this.session.may('vendor-invoices'),
          asks: true as const,
          does: () => this.sheets.open<ClaimSheet>(SettleClaimSheet, sheet),
          says: () => ['Settled:', sheet.document] as const,
        },
        {
          name: 'receive',
          label: 'It is paid…',
          place: 'button' as const,
          when: open && this.session.may('payments'),
          asks: true as const,
          does: () => this.sheets.open<ClaimSheet>(ReceiveClaimSheet, sheet),
          says: () => ['Paid:', sheet.document] as const,
        },
        {
          name: 'lose',
          label: 'Give up what is left…',
          place: 'menu' as const,
          when: open && this.session.may('promotions'),
          asks: true as const,
          does: () =>
            this.sheets.open<AsksReason<typeof loseClaim>>(ReasonSheet, {
              head: `Give up what is left of ${number}`,
              sub: 'It is taken off what their support brought',
              act: 'Give it up',
              of: loseClaim,
              input: (reason) => ({ id, version: sheet.version, reason }),
              effect: ({ amount }) => `${sheet.currency} ${this.money(amount)}`,
            }),
          says: () => ['Given up:', sheet.document] as const,
        },
        {
          name: 'withdraw',
          label: 'Withdraw it…',
          place: 'menu' as const,
          when: open && dec(sheet.settled).eq(0) && this.session.may('promotions'),
          asks: true as const,
          does: () =>
            this.sheets.open<AsksReason<typeof withdrawClaim>>(ReasonSheet, {
              head: `Withdraw ${number}`,
              sub: 'What is on it can be claimed again',
              act: 'Withdraw it',
              of: withdrawClaim,
              input: (reason) => ({ id, version: sheet.version, reason }),
            }),
          says: () => ['Withdrawn:', sheet.document] as const,
        },
      ];
    },
  });
  protected readonly moved = MOVED;
  protected readonly units = (value: string, unit: string) => inUnits(quantity(value), unit);
  protected readonly price = price;
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
}

const leftOf = ({ amount, settled }: ClaimSheet): string => dec(amount).minus(settled).toFixed();
