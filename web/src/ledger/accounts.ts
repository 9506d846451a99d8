import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { map, tap } from 'rxjs/operators';
import type * as z from 'zod';
import { dec } from '@core/kernel';
import * as contract from '@api/ledger';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';

type Row = z.infer<typeof contract.listAccounts.out>['rows'][number];
type Query = z.input<typeof contract.listAccounts.query>;

/** The accounts, with what they stand at and what moved. */
@Component({
  selector: 'k-accounts',
  imports: [ListPage],
  template: `<k-list-page [list]="list" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AccountsPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly currency = signal('');
  protected readonly list: DocumentList<Query, Row> = new DocumentList({
    head: 'Accounts',
    sub: () => `what stands on each, in ${this.currency()}; Enter shows what was posted`,
    narrows: [{ name: 'days', label: 'Posted', kind: 'days' }],
    workDate: () => this.session.workDate(),
    load: (query) =>
      this.api.call(contract.listAccounts, { query }).pipe(
        tap(({ currency }) => this.currency.set(currency)),
        map(({ rows }) => ({ rows, next: null })),
      ),
    kinds: ['JR', 'CI', 'VI', 'PY', 'CN', 'RC', 'SH'],
    path: ({ id }) => `/accounts/${id}`,
    columns: () => this.columns(),
    empty: 'There are no accounts.',
  });

  private columns(): GridColumn<Row>[] {
    const amount = (of: (row: Row) => string) => (row: Row) =>
      dec(of(row)).eq(0) ? '–' : money(of(row), this.currency());
    return [
      { id: 'code', head: 'Account', width: 90, text: (row) => row.code, link: (row) => this.list.pathTo(row) },
      { id: 'name', head: 'Name', text: (row) => row.name },
      { id: 'before', head: 'Before', width: 140, figures: true, text: amount((row) => row.before) },
      { id: 'debit', head: 'Debit', width: 140, figures: true, text: amount((row) => row.debit) },
      { id: 'credit', head: 'Credit', width: 140, figures: true, text: amount((row) => row.credit) },
      { id: 'balance', head: 'Balance', width: 140, figures: true, text: amount((row) => row.balance) },
    ];
  }
}
