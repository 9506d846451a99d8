import { inject, Injectable } from '@angular/core';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import { findItems } from '@api/catalogue';
import * as parties from '@api/parties';
import * as contract from '@api/promotions';
import { Api } from '../kit/act/api';

export type PromotionSheet = z.infer<typeof contract.PromotionSheet>;
export type PromotionLine = z.infer<typeof contract.PromotionLineShown>;
export type PromotionRow = z.infer<typeof contract.PromotionRow>;
export type PromotionQuery = z.input<typeof contract.listPromotions.query>;

/** The promotions' way to the server. */
@Injectable({ providedIn: 'root' })
export class Promotions {
  private readonly api = inject(Api);

  list(query: PromotionQuery) {
    return this.api.call(contract.listPromotions, { query });
  }

  open(id: number) {
    return this.api.call(contract.openPromotion, { params: { id } });
  }

  choices() {
    return this.api.call(contract.promotionChoices, {});
  }

  customers(words: string) {
    return this.api.call(parties.findCustomers, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  items(words: string) {
    return this.api.call(findItems, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  set(id: number, version: number, state: PromotionSheet['state']) {
    return this.api.act(contract.setPromotion, { id, version, state, reason: '' });
  }
}
