import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { pathOf } from '../kit/documents';
import { money, price } from '../kit/formats';
import { OpenItems } from './open-items';
import { Parties, type VendorSheet } from './service';

/** A vendor: what we owe them, and what they sell us. */
@Component({
  selector: 'k-vendor',
  imports: [DocumentTitle, OpenItems, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div><small>Phone</small>{{ shown.phone || '–' }}</div>
        <div><small>Terms</small>{{ shown.terms }}</div>
      </div>
      <div class="sheet scroll">
        <h2>Open items</h2>
        <k-open-items [items]="shown.openItems" [balance]="shown.balance" [currency]="shown.currency" />
        <h2>Sells us</h2>
        <table class="small">
          <thead>
            <tr>
              <th>Item</th>
              <th>What</th>
              <th class="num">Price</th>
              <th class="num">Lead days</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            @for (item of shown.items; track item.id) {
              <tr>
                <td>
                  <a class="link" [routerLink]="pathOf({ kind: 'item', id: item.id })">{{ item.number }}</a>
                </td>
                <td>{{ item.name }}</td>
                <td class="num">{{ price(item.unitPrice) }}</td>
                <td class="num">{{ item.leadDays }}</td>
                <td>{{ item.preferred ? 'preferred' : '' }}</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
    }
  </div>`,
  styles: `
    h2 {
      font: 600 16px var(--serif);
      margin: 12px 0 2px;
    }
    .scroll {
      overflow: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class VendorPage {
  private readonly parties = inject(Parties);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, VendorSheet> = new DocumentPage({
    key: this.id,
    name: 'Vendor',
    open: (id) => this.parties.vendor(Number(id)),
    heading: (sheet) => ({
      strong: sheet.name,
      sub: `${sheet.number} · we owe ${sheet.currency} ${this.money(sheet.balance)}`,
    }),
    touchedBy: (document) => document.kind === 'VI' || document.kind === 'PY',
  });
  protected readonly pathOf = pathOf;
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly price = (value: string) => price(value, this.page.sheet()?.currency ?? 'MYR');
}
