import { inject, Injectable } from '@angular/core';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import { findItems } from '@api/catalogue';
import * as contract from '@api/claims';
import * as parties from '@api/parties';
import * as promotions from '@api/promotions';
import { Api } from '../kit/act/api';

export type SupportSheet = z.infer<typeof contract.SupportSheet>;
export type SupportRow = z.infer<typeof contract.listSupport.out>['rows'][number];
export type SupportQuery = z.input<typeof contract.listSupport.query>;
export type ClaimSheet = z.infer<typeof contract.ClaimSheet>;
export type ClaimRow = z.infer<typeof contract.listClaims.out>['rows'][number];
export type ClaimQuery = z.input<typeof contract.listClaims.query>;

/** The claims' way to the server. */
@Injectable({ providedIn: 'root' })
export class Claims {
  private readonly api = inject(Api);

  listSupport(query: SupportQuery) {
    return this.api.call(contract.listSupport, { query });
  }

  support(id: number) {
    return this.api.call(contract.openSupport, { params: { id } });
  }

  list(query: ClaimQuery) {
    return this.api.call(contract.listClaims, { query });
  }

  claim(id: number) {
    return this.api.call(contract.openClaim, { params: { id } });
  }

  claimable() {
    return this.api.call(contract.claimable, {});
  }

  choices() {
    return this.api.call(promotions.promotionChoices, {});
  }

  /** Promotions that a support may be for. */
  promotions() {
    return this.api.call(promotions.listPromotions, { query: {} }).pipe(map(({ rows }) => rows));
  }

  vendors(words: string) {
    return this.api.call(parties.findVendors, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  customers(words: string) {
    return this.api.call(parties.findCustomers, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  items(words: string) {
    return this.api.call(findItems, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  set(id: number, version: number, state: SupportSheet['state']) {
    return this.api.act(contract.setSupport, { id, version, state, reason: '' });
  }
}
