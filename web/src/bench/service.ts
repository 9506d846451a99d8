import { inject, Injectable } from '@angular/core';
import type * as z from 'zod';
import * as contract from '@api/supply';
import { Api } from '../kit/api';

export type BenchRow = z.infer<typeof contract.BenchRow>;

/** The bench's way to the server. */
@Injectable({ providedIn: 'root' })
export class Bench {
  private readonly api = inject(Api);

  list(query: z.input<typeof contract.listBench.query>) {
    return this.api.call(contract.listBench, { query });
  }
}

/** Why a vendor is proposed, in words. // L8 */
export const REASONS: Record<NonNullable<BenchRow['proposal']>['reason'], string> = {
  preferred: 'preferred',
  cheapest: 'the cheapest',
  fastest: 'the fastest at this price',
  only: 'sole seller',
};
