import { inject, Injectable } from '@angular/core';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import type { Target } from '@core/lists';
import * as contract from '@api/lists';
import { Api } from '../kit/act/api';

export type KeptRow = z.infer<typeof contract.KeptRow>;
export type KeepInput = z.input<typeof contract.keepList.input>;

/** The way to the lists that people keep. */
@Injectable({ providedIn: 'root' })
export class KeptRows {
  private readonly api = inject(Api);

  open(list: string, query: z.input<typeof contract.openList.query>) {
    return this.api.call(contract.openList, { params: { list }, query });
  }

  named(target: Target, q: string) {
    return this.api.call(contract.findNamed, { params: { target }, query: { q } }).pipe(map(({ rows }) => rows));
  }

  keep(input: KeepInput) {
    return this.api.act(contract.keepList, input);
  }
}
