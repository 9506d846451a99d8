import { inject, Injectable } from '@angular/core';
import type * as z from 'zod';
import { map } from 'rxjs/operators';
import * as catalogue from '@api/catalogue';
import * as contract from '@api/promise';
import * as sisters from '@api/sisters';
import { Api } from '../kit/act/api';

export type PossibleDay = z.infer<typeof contract.possibleDays.out>['lines'][number];
export type OrderGround = z.infer<typeof contract.openPromiseGround.out>;
export type AskedLine = OrderGround['lines'][number];
export type PlannedRow = z.infer<typeof contract.listPlanned.out>['rows'][number];
export type PlannedSheet = z.infer<typeof contract.openPlanned.out>;
export type RunShown = NonNullable<z.infer<typeof contract.openRepromise.out>['run']>;
export type PlanningShown = NonNullable<z.infer<typeof contract.openPlanning.out>['run']>;
export type PegRow = z.infer<typeof contract.openPegging.out>['up'][number];
export type CentreLoad = z.infer<typeof contract.openLoad.out>['centres'][number];

/** The promise room's way to the server. */
@Injectable({ providedIn: 'root' })
export class Promises {
  private readonly api = inject(Api);

  availability(itemId: number, line: number | null) {
    const query = line === null ? {} : { line };
    return this.api.call(contract.openAvailability, { params: { id: itemId }, query });
  }

  ground(orderId: number) {
    return this.api.call(contract.openPromiseGround, { params: { id: orderId } });
  }

  try(body: z.input<typeof contract.tryPromise.body>) {
    return this.api.call(contract.tryPromise, { body });
  }

  /** The first day typed lines can ship, and what is to be said of theirs. // S10 */
  possibleDays(body: z.input<typeof contract.possibleDays.body>) {
    return this.api.call(contract.possibleDays, { body });
  }

  broken(orderId: number) {
    return this.api.call(contract.brokenPromises, { params: { id: orderId } });
  }

  takeBack(orderId: number, version: number) {
    return this.api.act(contract.takeBackPromise, { orderId, version });
  }

  run() {
    return this.api.call(contract.openRepromise);
  }

  startRun() {
    return this.api.act(contract.startRepromise, {});
  }

  stopRun(id: number) {
    return this.api.act(contract.stopRepromise, { id });
  }

  takeRun(id: number, lineIds: number[]) {
    return this.api.act(contract.applyRepromise, { id, lineIds });
  }

  findItems(words: string) {
    return this.api.call(catalogue.findItems, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  planning() {
    return this.api.call(contract.openPlanning);
  }

  startPlanning(until: string | null, itemIds: number[]) {
    return this.api.act(contract.startPlanning, { until, itemIds });
  }

  weighPlanning(byProbability: boolean) {
    return this.api.act(contract.weighPlanning, { byProbability });
  }

  takeProposals(id: number, at: number[]) {
    return this.api.act(contract.takeProposals, { id, at });
  }

  pegging(kind: string, id: number) {
    const params = { kind: kind as 'PR', id };
    return this.api.call(contract.openPegging, { params });
  }

  peggingBeyond(kind: 'SO' | 'PO', id: number) {
    return this.api.call(sisters.peggingBeyond, { params: { kind, id } });
  }

  openPlanned(id: number) {
    return this.api.call(contract.openPlanned, { params: { id } });
  }

  load(days: number) {
    return this.api.call(contract.openLoad, { query: { days } });
  }
}
