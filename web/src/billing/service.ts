import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import * as contract from '@api/billing';
import * as parties from '@api/parties';
import { Api } from '../kit/act/api';

export type InvoiceQuery = z.input<typeof contract.listInvoices.query>;
export type InvoiceRow = z.infer<typeof contract.InvoiceRow>;
export type CreditNoteSheet = z.infer<typeof contract.CreditNoteSheet>;
export type PrepaymentSheet = z.infer<typeof contract.openPrepayment.out>;
export type InvoiceSheet = z.infer<typeof contract.InvoiceSheet>;

/** The billing room's way to the server. */
@Injectable({ providedIn: 'root' })
export class Billing {
  private readonly api = inject(Api);

  list(query: InvoiceQuery) {
    return this.api.call(contract.listInvoices, { query });
  }

  /** Customers or vendors by any part of number or name. */
  parties(vendors: boolean, words: string) {
    const query = { q: words };
    const found = vendors
      ? this.api.call(parties.findVendors, { query })
      : this.api.call(parties.findCustomers, { query });
    return found.pipe(map(({ rows }) => rows));
  }

  open(side: 'customer' | 'vendor', id: number): Observable<InvoiceSheet> {
    return this.api.call(side === 'customer' ? contract.openCustomerInvoice : contract.openVendorInvoice, {
      params: { id },
    });
  }

  creditNote(id: number): Observable<CreditNoteSheet> {
    return this.api.call(contract.openCreditNote, { params: { id } });
  }

  prepayment(id: number) {
    return this.api.call(contract.openPrepayment, { params: { id } });
  }

  toInvoice(purchaseId: number) {
    return this.api.call(contract.openToInvoice, { params: { id: purchaseId } });
  }
}
