import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import * as contract from '@api/agreements';
import * as catalogue from '@api/catalogue';
import * as parties from '@api/parties';
import { Api, type ActDone } from '../kit/act/api';

export type AgreementSheet = z.infer<typeof contract.AgreementSheet>;
export type AgreementRow = z.infer<typeof contract.AgreementRow>;
export type Terms = z.input<typeof contract.saveAgreement.input>;
export type Revision = z.input<typeof contract.reviseAgreement.input>;
export type ItemChoice = z.infer<typeof catalogue.ItemChoice>;
export type CustomerChoice = z.infer<typeof parties.PartyChoice>;

/** The agreements room's way to the server. */
@Injectable({ providedIn: 'root' })
export class Agreements {
  private readonly api = inject(Api);

  list(query: z.input<typeof contract.listAgreements.query>) {
    return this.api.call(contract.listAgreements, { query });
  }

  open(id: number): Observable<AgreementSheet> {
    return this.api.call(contract.openAgreement, { params: { id } });
  }

  save(terms: Terms): Observable<ActDone> {
    return this.api.act(contract.saveAgreement, terms);
  }

  putInForce(id: number, version: number): Observable<ActDone> {
    return this.api.act(contract.putInForce, { id, version });
  }

  pause(id: number, version: number, pause: boolean): Observable<ActDone> {
    return this.api.act(contract.pauseAgreement, { id, version, pause });
  }

  cancel(id: number, version: number): Observable<ActDone> {
    return this.api.act(contract.cancelAgreement, { id, version });
  }

  copy(id: number): Observable<ActDone> {
    return this.api.act(contract.copyAgreement, { id });
  }

  handleReminder(agreementId: number, kind: 'days' | 'fulfilled' | 'pace', at: string): Observable<ActDone> {
    return this.api.act(contract.handleReminder, { agreementId, kind, at });
  }

  groups() {
    return this.api.call(contract.itemGroups);
  }

  vendors(words: string): Observable<CustomerChoice[]> {
    return this.api.call(parties.findVendors, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }

  progress(lineId: number) {
    return this.api.call(contract.openProgress, { params: { id: lineId } });
  }

  /** Items by their words; to be bought, with what the vendor asks in the list price's place, once one is chosen. */
  items(words: string, vendorId?: number | null): Observable<ItemChoice[]> {
    const query = { q: words, ...(vendorId ? { vendorId } : {}) };
    return this.api
      .call(catalogue.findItems, { query })
      .pipe(
        map(({ rows }) =>
          vendorId === undefined ? rows : rows.map((row) => ({ ...row, listPrice: row.vendorPrice })),
        ),
      );
  }

  customers(words: string): Observable<CustomerChoice[]> {
    return this.api.call(parties.findCustomers, { query: { q: words } }).pipe(map(({ rows }) => rows));
  }
}
