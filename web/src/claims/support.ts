import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dec, inUnits } from '@core/kernel';
import { setSupport } from '@api/claims';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, money, price, quantity } from '../kit/formats';
import { MakeClaimSheet, type MakeClaimData } from './claim-sheets';
import { Claims, type SupportSheet } from './service';
import { SupportSheetForm, type SupportData } from './support-sheet';

/** What one vendor promised us, and what was sold by it. // S13 */
@Component({
  selector: 'k-support',
  imports: [DocumentDock, DocumentTitle, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>Vendor</small
          ><a class="link" [routerLink]="pathOf({ kind: 'vendor', id: shown.vendor.id })">{{ shown.vendor.name }}</a>
        </div>
        <div>
          <small>Sold to</small
          >{{ shown.customer?.name ?? (shown.priceGroup ? 'the price group ' + shown.priceGroup.name : 'anybody') }}
        </div>
        @if (shown.promotion; as promotion) {
          <div>
            <small>Sold by</small><a class="link" [routerLink]="pathOf(promotion)">{{ promotion.number }}</a>
          </div>
        }
        <div><small>From</small>{{ day(shown.firstDay) }}</div>
        <div><small>To</small>{{ day(shown.lastDay) }}</div>
      </div>
      <div class="sheet">
        <table class="wide">
          <thead>
            <tr>
              <th>On what</th>
              <th class="num">For each</th>
              <th class="num">Sold</th>
              <th class="num">Accrued</th>
              <th class="num">Of it claimed</th>
            </tr>
          </thead>
          <tbody>
            @for (line of shown.lines; track line.id) {
              <tr>
                <td>
                  @if (line.item; as item) {
                    <a class="link" [routerLink]="pathOf({ kind: 'item', id: item.id })">{{ item.number }}</a>
                    {{ item.name }}
                  } @else {
                    the group {{ line.group?.name }}
                  }
                </td>
                <td class="num">{{ price(line.perUnit, shown.currency) }}</td>
                <td class="num">{{ inUnits(quantity(line.sold), line.item?.unit ?? '') }}</td>
                <td class="num">{{ money(line.accrued) }}</td>
                <td class="num">{{ money(line.claimed) }}</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
      <k-document-dock [document]="shown.document" />
    }
  </div>`,
  styleUrl: './claims.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupportPage {
  private readonly claims = inject(Claims);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, SupportSheet> = new DocumentPage({
    key: this.id,
    name: 'Support by a vendor',
    open: (id) => this.claims.support(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` ${sheet.name}`,
      sub: `${sheet.state === 'stopped' ? `stopped: ${sheet.reason}` : 'running'} · ${sheet.currency} ${this.money(openOf(sheet))} accrued and not claimed`,
    }),
    touchedBy: (document, sheet) =>
      document.kind === 'CL' || (document.kind === 'VS' && document.id === sheet?.document.id),
    acts: () => {
      const sheet = this.page.sheet();
      if (!sheet || !this.session.may('promotions')) return [];
      const { id, number } = sheet.document;
      return [
        {
          name: 'claim',
          label: 'Claim it…',
          place: 'step' as const,
          when: dec(openOf(sheet)).gt(0),
          asks: true as const,
          does: () =>
            this.sheets.open<MakeClaimData>(MakeClaimSheet, { vendor: sheet.vendor, currency: sheet.currency }),
          says: ({ made: [made] }) => ['Claimed:', made, 'go there'] as const,
        },
        {
          name: 'change',
          label: 'Change…',
          place: 'button' as const,
          asks: true as const,
          does: () => this.sheets.open<SupportData>(SupportSheetForm, { support: sheet }),
          says: () => ['Changed:', sheet.document] as const,
        },
        {
          name: 'stop',
          label: 'Stop it…',
          place: 'menu' as const,
          when: sheet.state === 'running',
          asks: true as const,
          does: () =>
            this.sheets.open<AsksReason<typeof setSupport>>(ReasonSheet, {
              head: `Stop ${number}`,
              sub: 'What was accrued stays, and can be claimed',
              act: 'Stop it',
              of: setSupport,
              input: (reason) => ({ id, version: sheet.version, state: 'stopped' as const, reason }),
            }),
          says: () => ['Stopped:', sheet.document] as const,
        },
        {
          name: 'go-on',
          label: 'Let it go on',
          place: 'menu' as const,
          when: sheet.state === 'stopped',
          does: () => this.claims.set(id, sheet.version, 'running'),
          says: () => ['Goes on:', sheet.document] as const,
        },
      ];
    },
  });
  protected readonly inUnits = inUnits;
  protected readonly quantity = quantity;
  protected readonly price = price;
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
}

const openOf = ({ lines }: SupportSheet): string =>
  lines.reduce((sum, { accrued, claimed }) => sum.plus(accrued).minus(claimed), dec('0')).toFixed();
