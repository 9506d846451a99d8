import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { of } from 'rxjs';
import { dec, inUnits, most, ZERO } from '@core/kernel';
import { Session } from '../access';
import { InvoiceCustomerSheet, type InvoiceCustomerData } from '../billing';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { SmallBeads } from '../kit/charts/bead';
import { pathOf } from '../kit/documents';
import { counted, day, money, price, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Agreed, Sent } from './agreed';
import { OpenItems } from './open-items';
import { People } from './people';
import { Parties, type CustomerSheet, type CustomerWork } from './service';

type Order = CustomerWork['open'][number];

/** A customer as a desk: what is on order and late, what they usually buy, what was agreed, what they owe. */
@Component({
  selector: 'k-customer',
  imports: [Agreed, DocumentTitle, OpenItems, People, RouterLink, Sent, SmallBeads],
  templateUrl: './customer.html',
  styleUrl: '../kit/desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CustomerPage {
  private readonly parties = inject(Parties);
  protected readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly router = inject(Router);
  readonly id = input.required<string>();
  readonly do = input<string>();
  protected readonly page: DocumentPage<string, CustomerSheet> = new DocumentPage({
    key: this.id,
    name: 'Customer',
    open: (id) => this.parties.customer(Number(id)),
    heading: (sheet) => ({
      strong: sheet.name,
      sub: [sheet.number, this.owes(), this.credit()].filter(Boolean).join(' · '),
    }),
    touchedBy: (document) => ['CI', 'CN', 'PY', 'PP', 'AG'].includes(document.kind),
    doing: this.do,
    acts: (): DocumentAct[] => [
      {
        name: 'order',
        label: 'New order',
        place: 'step',
        when: this.session.may('orders'),
        does: () =>
          void this.router.navigate(['/orders/new'], { queryParams: { customer: this.page.sheet()!.number } }),
      },
      {
        name: 'invoice',
        asks: true,
        label: `Invoice what went out…`,
        when: this.session.may('customer-invoices') && (this.work()?.uninvoiced ?? 0) > 0,
        does: () => {
          const { id, name, currency } = this.page.sheet()!;
          return this.sheets.open<InvoiceCustomerData>(InvoiceCustomerSheet, {
            customer: { id, name },
            orders: [],
            currency,
          });
        },
        says: ({ made }) => ['Invoiced:', made[0]],
      },
    ],
  });
  /** Read once the customer is there; again when something of theirs may have moved. */
  private readonly worked = liveDocument(
    this.page.sheet,
    (sheet: CustomerSheet | null) => (sheet ? this.parties.customerWork(sheet) : of(null)),
    ({ kind }) => ['SO', 'SH', 'CI', 'CN'].includes(kind),
  );
  protected readonly work = computed(() => this.worked.state().value);

  private owes(): string {
    const sheet = this.page.sheet();
    return sheet && sheet.balance !== '' ? `owes ${sheet.currency} ${this.money(sheet.balance)}` : '';
  }

  private credit(): string {
    const desk = this.work()?.desk;
    if (!desk || desk.creditLimit === null) return '';
    const left = most(ZERO, dec(desk.creditLimit).minus(desk.balance).minus(desk.onOrder));
    return `${this.money(left.toFixed())} of ${this.money(desk.creditLimit)} credit left`;
  }

  protected beadsOf({ shares }: Order) {
    return [
      { label: 'Supply', share: shares.covered },
      { label: 'Shipped', share: shares.shipped },
      { label: 'Invoiced', share: shares.invoiced },
    ];
  }

  protected readonly pathOf = pathOf;
  protected readonly counted = counted;
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly price = (value: string) => price(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string | null) => day(value, this.session.workDate());
  protected readonly last = (row: CustomerWork['basket'][number]) =>
    inUnits(quantity(dec(row.lastQuantity).div(row.factor).toFixed()), row.unit);
  protected readonly soon = computed(() => this.session.workDate());
}
