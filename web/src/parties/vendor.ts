import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { of } from 'rxjs';
import { dec, inUnits } from '@core/kernel';
import { Session } from '../access';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { SmallBeads } from '../kit/charts/bead';
import { pathOf } from '../kit/documents';
import { counted, day, money, price, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Agreed, Sent } from './agreed';
import { OpenItems } from './open-items';
import { People } from './people';
import { Parties, type VendorSheet, type VendorWork } from './service';

type Purchase = VendorWork['open'][number];

/** A vendor as a desk: what is to come and late, what they usually bring, what was agreed, what we owe. */
@Component({
  selector: 'k-vendor',
  imports: [Agreed, DocumentTitle, OpenItems, People, RouterLink, Sent, SmallBeads],
  templateUrl: './vendor.html',
  styleUrl: '../kit/desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class VendorPage {
  private readonly parties = inject(Parties);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, VendorSheet> = new DocumentPage({
    key: this.id,
    name: 'Vendor',
    open: (id) => this.parties.vendor(Number(id)),
    heading: (sheet) => ({
      strong: sheet.name,
      sub:
        sheet.balance === '' ? sheet.number : `${sheet.number} · we owe ${sheet.currency} ${this.money(sheet.balance)}`,
    }),
    touchedBy: (document) => ['VI', 'PY', 'AG'].includes(document.kind),
    acts: (): DocumentAct[] => [
      {
        name: 'purchase',
        label: 'New purchase order…',
        place: 'step',
        when: this.session.may('purchases'),
        does: () =>
          void this.router.navigate(['/purchases'], {
            queryParams: { do: 'enter', with: this.page.sheet()!.number },
          }),
      },
    ],
  });
  private readonly worked = liveDocument(
    this.page.sheet,
    (sheet: VendorSheet | null) => (sheet ? this.parties.vendorWork(sheet) : of(null)),
    ({ kind }) => ['PO', 'RC', 'VI'].includes(kind),
  );
  protected readonly work = computed(() => this.worked.state().value);
  protected readonly mail = computed(() => (this.session.may('see-mail') ? this.work() : null));

  protected readonly forWhom = ({ customer, forWhom }: Purchase) =>
    customer ? `straight to ${customer.name}` : forWhom.join(', ') || 'our stock';
  protected readonly beadsOf = ({ shares, over }: Purchase) => [
    { label: 'Received', share: shares.received, over },
    { label: 'Vendor invoiced', share: shares.invoiced },
  ];
  protected readonly pathOf = pathOf;
  protected readonly counted = counted;
  protected readonly day = (value: string | null) => day(value, this.session.workDate());
  protected readonly last = (row: VendorWork['basket'][number]) =>
    inUnits(quantity(dec(row.lastQuantity).div(row.factor).toFixed()), row.unit);
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly price = (value: string) => price(value, this.page.sheet()?.currency ?? 'MYR');
}
