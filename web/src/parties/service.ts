import { inject, Injectable } from '@angular/core';
import * as catalogue from '@api/catalogue';
import * as contract from '@api/parties';
import { Api } from '../kit/api';

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

  item(id: number) {
    return this.api.call(catalogue.openItem, { params: { id } });
  }
}
