import { inject, Injectable } from '@angular/core';
import * as catalogue from '@api/catalogue';
import type * as z from 'zod';
import * as ledger from '@api/ledger';
import * as contract from '@api/parties';
import { Api } from '../kit/api';

export type ItemSheet = z.infer<typeof catalogue.openItem.out>;
export type CustomerSheet = z.infer<typeof contract.openCustomer.out>;
export type VendorSheet = z.infer<typeof contract.openVendor.out>;
export type StockEntry = z.infer<typeof ledger.stockEntries.out>['rows'][number];

/** The way to customers, vendors and items. */
@Injectable({ providedIn: 'root' })
export class Parties {
  private readonly api = inject(Api);

  customer(id: number) {
    return this.api.call(contract.openCustomer, { params: { id } });
  }

  vendor(id: number) {
    return this.api.call(contract.openVendor, { params: { id } });
  }

  stockEntries(id: number, cursor: string | undefined) {
    return this.api.call(ledger.stockEntries, { params: { id }, query: cursor ? { cursor } : {} });
  }

  item(id: number) {
    return this.api.call(catalogue.openItem, { params: { id } });
  }
}
