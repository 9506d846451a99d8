import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type * as z from 'zod';
import * as contract from '@api/purchasing';
import { Api } from '../kit/api';

export type PurchaseSheet = z.infer<typeof contract.PurchaseSheet>;
export type PurchaseRow = z.infer<typeof contract.PurchaseRow>;
export type PurchaseLine = z.infer<typeof contract.PurchaseLine>;

/** The purchases room's way to the server. */
@Injectable({ providedIn: 'root' })
export class Purchases {
  private readonly api = inject(Api);

  list(query: z.input<typeof contract.listPurchases.query>) {
    return this.api.call(contract.listPurchases, { query });
  }

  open(id: number): Observable<PurchaseSheet> {
    return this.api.call(contract.openPurchase, { params: { id } });
  }
}
