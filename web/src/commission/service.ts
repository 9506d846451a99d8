import { inject, Injectable } from '@angular/core';
import type * as z from 'zod';
import * as contract from '@api/commission';
import { Api } from '../kit/act/api';

export type CommissionSheet = z.infer<typeof contract.CommissionSheet>;
export type StatementSheet = z.infer<typeof contract.StatementSheet>;
export type EarningShown = z.infer<typeof contract.EarningShown>;

/** The commission's way to the server. */
@Injectable({ providedIn: 'root' })
export class Commission {
  private readonly api = inject(Api);

  of(person: number | null) {
    return this.api.call(contract.commissionOf, { query: person === null ? {} : { person } });
  }

  statement(id: number) {
    return this.api.call(contract.openStatement, { params: { id } });
  }
}
