import { inject, Injectable } from '@angular/core';
import type * as z from 'zod';
import * as contract from '@api/parties';
import { Api } from '../kit/act/api';

export type CustomerSheet = z.infer<typeof contract.openCustomer.out>;
export type VendorSheet = z.infer<typeof contract.openVendor.out>;

/** The way to customers and vendors. */
@Injectable({ providedIn: 'root' })
export class Parties {
  private readonly api = inject(Api);

  customer(id: number) {
    return this.api.call(contract.openCustomer, { params: { id } });
  }

  vendor(id: number) {
    return this.api.call(contract.openVendor, { params: { id } });
  }
}
