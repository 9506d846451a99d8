import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { of } from 'rxjs';
import { catchError } from 'rxjs/operators';
import type * as z from 'zod';
import { dec } from '@core/kernel';
import * as contract from '@api/ledger';
import { Session } from '../access';
import { DocumentDockLazy } from '../documents/lazy';
import { Api } from '../kit/act/api';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';

type Row = z.infer<typeof contract.AccountEntry>;
type Query = z.input<typeof contract.listEntries.query>;

/** What was posted on an account, newest first, down to the document. */
@Component({
  selector: 'k-entries',
  imports: [DocumentDockLazy, ListPage],
  template: `<k-list-page [list]="list">
    <k-document-dock-lazy [document]="list.about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntriesPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  readonly id = input.required<string>();
  private readonly accounts = toSignal(this.api.call(contract.listAccounts).pipe(catchError(() => of(null))));
  private readonly account = computed(() => this.accounts()?.rows.find(({ id }) => String(id) === this.id()));
  protected readonly list: DocumentList<Query, Row> = new DocumentList({
    head: 'What was posted',
    sub: () => {
      const account = this.account();
      if (!account) return 'on an account, newest first';
      return `on ${account.code} ${account.name}; it stands at ${this.amount(account.balance)}`;
    },
    looksIn: 'Party or journal',
    narrows: [{ name: 'days', label: 'Posted', kind: 'days' }],
    workDate: () => this.session.workDate(),
    load: (query) => this.api.call(contract.listEntries, { params: { id: Number(this.id()) }, query }),
    kinds: ['JR', 'CI', 'VI', 'PY', 'CN', 'RC', 'SH'],
    document: ({ source }) => source,
    rowId: ({ id }) => String(id),
    columns: () => this.columns(),
    empty: 'Nothing was posted here.',
  });

  private columns(): GridColumn<Row>[] {
    const side = (debit: boolean) => (row: Row) =>
      dec(row.amount).gt(0) === debit ? this.amount(dec(row.amount).abs().toFixed()) : '';
    return [
      { id: 'day', head: 'Posted', width: 120, text: (row) => day(row.postedOn, this.session.workDate()) },
      {
        id: 'journal',
        head: 'Journal',
        width: 100,
        text: (row) => row.journal.number,
        link: (row) => pathOf(row.journal),
      },
      { id: 'source', head: 'By', width: 110, text: (row) => row.source.number, link: (row) => pathOf(row.source) },
      { id: 'party', head: 'With', text: (row) => row.party },
      { id: 'debit', head: 'Debit', width: 140, figures: true, text: side(true) },
      { id: 'credit', head: 'Credit', width: 140, figures: true, text: side(false) },
    ];
  }

  private readonly amount = (value: string) => money(value, this.accounts()?.currency ?? '');
}
