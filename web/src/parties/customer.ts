import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Session } from '../access';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import { OpenItems } from './open-items';
import { Parties, type CustomerSheet } from './service';

/** A customer: what they owe and what makes it, where their goods go, what they agreed. */
@Component({
  selector: 'k-customer',
  imports: [DocumentTitle, OpenItems, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page">
      @if (page.sheet(); as shown) {
        <a class="act" routerLink="/lists" [queryParams]="{ list: 'customers', q: shown.number }">Limit and terms</a>
        <a class="act" routerLink="/lists" [queryParams]="{ list: 'permits', q: shown.name }">Permits</a>
      }
    </k-document-title>
    @if (page.sheet(); as shown) {
      <div class="head">
        <div><small>Phone</small>{{ shown.phone || '–' }}</div>
        <div><small>Terms</small>{{ shown.terms }}</div>
        <div>
          <small>Their reference</small>{{ shown.referenceRequired ? 'wanted on every order' : 'if they give one' }}
        </div>
        @for (shipTo of shown.shipTos; track shipTo.id) {
          <div>
            <small>{{ shipTo.label }}</small>{{ shipTo.street }}, {{ shipTo.postcode }} {{ shipTo.town }}
          </div>
        }
      </div>
      <div class="sheet scroll">
        <h2>Open items</h2>
        <k-open-items [items]="shown.openItems" [balance]="shown.balance" [currency]="shown.currency" />
        <h2>Agreements</h2>
        <table class="small">
          <tbody>
            @for (agreement of shown.agreements; track agreement.document.id) {
              <tr>
                <td>
                  <a class="link" [routerLink]="pathOf(agreement.document)">{{ agreement.document.number }}</a>
                </td>
                <td>{{ agreement.title }}</td>
                <td>{{ agreement.state.replace('-', ' ') }}</td>
                <td>to {{ day(agreement.lastDay) }}</td>
              </tr>
            } @empty {
              <tr>
                <td class="faint">No agreement yet.</td>
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
export class CustomerPage {
  private readonly parties = inject(Parties);
  private readonly session = inject(Session);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, CustomerSheet> = new DocumentPage({
    key: this.id,
    name: 'Customer',
    open: (id) => this.parties.customer(Number(id)),
    heading: (sheet) => ({
      strong: sheet.name,
      sub: `${sheet.number} · owes ${sheet.currency} ${this.money(sheet.balance)}`,
    }),
    touchedBy: (document) => ['CI', 'CN', 'PY', 'PP', 'AG'].includes(document.kind),
  });
  protected readonly pathOf = pathOf;
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
