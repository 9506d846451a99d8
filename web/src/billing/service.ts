import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import * as contract from '@api/billing';
import * as parties from '@api/parties';
import { Api } from '../kit/act/api';

export type InvoiceQuery = z.input<typeof contract.listInvoices.query>;
export type InvoiceRow = z.infer<typeof contract.InvoiceRow>;
export type CreditQuery = z.input<typeof contract.listCredits.query>;
export type CreditRow = z.infer<typeof contract.CreditRow>;
export type PrepaymentQuery = z.input<typeof contract.listPrepayments.query>;
export type PrepaymentRow = z.infer<typeof contract.PrepaymentRow>;
export type AgeQuery = z.input<typeof contract.openByAge.query>;
export type AgeRow = z.infer<typeof contract.AgeRow>;
export type AgeSums = z.infer<typeof contract.openByAge.out>['sums'][number];
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

  /** What went out to a customer and is not invoiced. */
  uninvoiced(customerId: number) {
    return this.api.call(contract.listUninvoiced, { params: { id: customerId } }).pipe(map(({ rows }) => rows));
  }

  credits(query: CreditQuery) {
    return this.api.call(contract.listCredits, { query });
  }

  prepayments(query: PrepaymentQuery) {
    return this.api.call(contract.listPrepayments, { query });
  }

  /** What is owed by party, with the sums of each currency: one page, as a list reads it. */
  byAge(query: AgeQuery) {
    return this.api.call(contract.openByAge, { query }).pipe(map((found) => ({ ...found, next: null })));
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
