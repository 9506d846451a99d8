import { inject, Injectable } from '@angular/core';
import type * as z from 'zod';
import * as promise from '@api/promise';
import * as contract from '@api/workshop';
import * as catalogue from '@api/catalogue';
import { map } from 'rxjs/operators';
import { Api } from '../kit/act/api';

export type WorkRow = z.infer<typeof contract.listWork.out>['rows'][number];
export type WorkSheet = z.infer<typeof contract.openWork.out>;
export type WorkReportSheet = z.infer<typeof contract.openWorkReport.out>;
export type Fit = z.infer<typeof contract.workForLine.out>['fits'][number];
export type LineWork = z.infer<typeof contract.workForLine.out>;
export type CentreWork = z.infer<typeof contract.openCentreWork.out>;

/** The workshop's way to the server. */
@Injectable({ providedIn: 'root' })
export class Workshop {
  private readonly api = inject(Api);

  list(query: z.input<typeof contract.listWork.query>) {
    return this.api.call(contract.listWork, { query });
  }

  open(id: number) {
    return this.api.call(contract.openWork, { params: { id } });
  }

  report(id: number) {
    return this.api.call(contract.openWorkReport, { params: { id } });
  }

  days() {
    return this.api.call(contract.openWorkshopDays);
  }

  centre(id: number) {
    return this.api.call(contract.openCentreWork, { params: { id } });
  }

  forLine(id: number) {
    return this.api.call(contract.workForLine, { params: { id } });
  }

  linesFor(id: number) {
    return this.api.call(contract.linesForWork, { params: { id } });
  }

  makeFirm(id: number, firm: boolean) {
    return this.api.act(promise.makeFirm, { orderIds: [id], firm });
  }

  cancel(workId: number, version: number) {
    return this.api.act(contract.cancelWork, { workId, version });
  }

  untie(plannedId: number, orderLineId: number) {
    return this.api.act(contract.untieWork, { plannedId, orderLineId });
  }

  reportOne(input: z.input<typeof contract.reportWork.input>) {
    return this.api.act(contract.reportWork, input);
  }

  findItems(words: string) {
    return this.api.call(catalogue.findItems, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }
}
