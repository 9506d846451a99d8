import { inject, Injectable } from '@angular/core';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import { findItems } from '@api/catalogue';
import { openOrder } from '@api/orders';
import * as parties from '@api/parties';
import * as contract from '@api/standing';
import { Api } from '../kit/act/api';

export type StandingSheet = z.infer<typeof contract.StandingSheet>;
export type StandingRow = z.infer<typeof contract.StandingRow>;
export type StandingDate = z.infer<typeof contract.StandingDateShown>;
export type StandingQuery = z.input<typeof contract.listStanding.query>;

/** The standing orders' way to the server. */
@Injectable({ providedIn: 'root' })
export class Standing {
  private readonly api = inject(Api);

  list(query: StandingQuery) {
    return this.api.call(contract.listStanding, { query });
  }

  open(id: number) {
    return this.api.call(contract.openStanding, { params: { id } });
  }

  /** An order that one is made from. */
  order(id: number) {
    return this.api.call(openOrder, { params: { id } });
  }

  customers(words: string) {
    return this.api.call(parties.findCustomers, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  items(words: string, customerId: number | null) {
    return this.api
      .call(findItems, { query: { q: words, ...(customerId ? { customerId } : {}) } })
      .pipe(map(({ rows }) => rows));
  }

  make(id: number, day: string) {
    return this.api.act(contract.makeStanding, { id, day });
  }

  skip(id: number, day: string, skipped: boolean, reason: string) {
    return this.api.act(contract.skipStanding, { id, day, skipped, reason });
  }

  set(id: number, version: number, state: StandingSheet['state']) {
    return this.api.act(contract.setStanding, { id, version, state });
  }
}
