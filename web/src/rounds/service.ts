import { inject, Injectable } from '@angular/core';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import * as contract from '@api/rounds';
import { Api } from '../kit/act/api';

export type RoundShown = z.infer<typeof contract.RoundShown>;
export type RunSheet = z.infer<typeof contract.runSheet.out>;
export type RunStop = RunSheet['stops'][number];
export type AddressFound = z.infer<typeof contract.roundAddresses.out>['rows'][number];

/** The rounds' way to the server. */
@Injectable({ providedIn: 'root' })
export class Rounds {
  private readonly api = inject(Api);

  list() {
    return this.api.call(contract.listRounds).pipe(map(({ rows }) => rows));
  }

  run(id: number, day: string) {
    return this.api.call(contract.runSheet, { params: { id, day } });
  }

  addresses(words: string) {
    return this.api.call(contract.roundAddresses, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  load(roundId: number, day: string, lines: { lineId: number; quantity: string }[]) {
    return this.api.act(contract.loadRun, { roundId, day, lines });
  }

  ship(roundId: number, day: string, shipToId: number, numbers: { lineId: number; numbers: string[] }[]) {
    return this.api.act(contract.shipStop, { roundId, day, shipToId, numbers });
  }

  drop(id: number, version: number) {
    return this.api.act(contract.dropRound, { id, version });
  }
}
