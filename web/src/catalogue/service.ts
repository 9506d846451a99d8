import { inject, Injectable } from '@angular/core';
import type * as z from 'zod';
import * as contract from '@api/catalogue';
import * as ledger from '@api/ledger';
import { Api } from '../kit/act/api';

export type ItemSheet = z.infer<typeof contract.openItem.out>;
export type ItemWork = z.infer<typeof contract.ItemWork>;
export type StockEntry = z.infer<typeof ledger.stockEntries.out>['rows'][number];

/** The way to items. */
@Injectable({ providedIn: 'root' })
export class Catalogue {
  private readonly api = inject(Api);

  item(id: number) {
    return this.api.call(contract.openItem, { params: { id } });
  }

  /** Who has it on order, who brings it, who bought it, and what it goes into. */
  work(id: number) {
    return this.api.call(contract.itemWork, { params: { id } });
  }

  stockEntries(id: number, cursor: string | undefined) {
    return this.api.call(ledger.stockEntries, { params: { id }, query: cursor ? { cursor } : {} });
  }
}
