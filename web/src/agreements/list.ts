import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import type * as z from 'zod';
import { elapsedShare, pace } from '@core/agreements';
import { share } from '@core/kernel';
import type * as contract from '@api/agreements';
import { bringInAgreements } from '@api/formats';
import { Session } from '../access';
import { DocumentDockLazy } from '../documents/lazy';
import { counted, day, namedMoney, percent, points } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { ImportSheet, type ImportData } from '../kit/act/import-sheet';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { Agreements, type AgreementRow } from './service';

type ListQuery = z.input<typeof contract.listAgreements.query>;

const live = (row: AgreementRow) => row.state === 'in-force' || row.state === 'paused';

const IMPORTED: ImportData = {
  endpoint: bringInAgreements,
  one: 'agreement',
  counts: 'agreements',
  sub: 'From a CSV or XLSX file with the columns that Save as CSV writes; each becomes a draft',
  accept: '.csv,.xlsx',
  hint: 'One row for each line. Rows with the same word in the column “agreement” are one agreement; its head stands on the first of them.',
  columns: { path: '/api/agreements.csv', words: 'Save the list as CSV' },
};

/** Agreements, newest first, with what is taken and how that stands against the time gone. */
@Component({
  selector: 'k-agreement-list',
  imports: [DocumentDockLazy, ListPage],
  template: `<k-list-page [list]="list">
    <span acts>
      <button type="button" class="act" (click)="bringIn()">Bring in…</button>
    </span>
    <k-document-dock-lazy [document]="list.about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AgreementList {
  private readonly session = inject(Session);
  private readonly agreements = inject(Agreements);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  protected readonly list: DocumentList<ListQuery, AgreementRow> = new DocumentList({
    head: 'Agreements',
    sub: 'what customers, and we, have promised to take, and how far that is',
    looksIn: 'Number, title or party',
    filters: [
      {
        name: 'state',
        label: 'State',
        chips: [
          ['', 'All'],
          ['draft', 'Draft'],
          ['in-force', 'In force'],
          ['paused', 'Paused'],
          ['ended', 'Ended'],
        ],
      },
      {
        name: 'side',
        label: 'Side',
        chips: [
          ['', 'Both'],
          ['selling', 'Selling'],
          ['buying', 'Buying'],
        ],
      },
      {
        name: 'dates',
        label: 'Dates',
        chips: [
          ['', 'Any dates'],
          ['running', 'Running'],
          ['passed', 'Dates passed'],
        ],
      },
      {
        name: 'left',
        label: 'Left',
        chips: [
          ['', 'Used up or not'],
          ['some', 'Some left'],
          ['used-up', 'Used up'],
        ],
      },
      {
        name: 'sort',
        label: 'Order',
        chips: [
          ['', 'As sorted'],
          ['pace', 'Most behind'],
        ],
      },
    ],
    narrows: [
      { name: 'customerId', label: 'Customer', kind: 'brought', words: (id) => this.named(id) },
      { name: 'organisationId', label: 'Sales organisation', kind: 'brought', words: (id) => `no. ${id}` },
      { name: 'groupId', label: 'Item group', kind: 'brought', words: (id) => `no. ${id}` },
      { name: 'currency', label: 'Currency', kind: 'brought', words: (code) => code },
    ],
    sorts: ['number', 'last', 'committed'],
    viewed: 'agreements',
    views: [
      { name: 'Behind', query: { dates: 'running', sort: 'pace' } },
      { name: 'Dates passed, to wrap up', query: { dates: 'passed' } },
      { name: 'Ends first', query: { dates: 'running', sort: 'last' } },
    ],
    files: '/api/agreements',
    make: { label: 'New agreement', path: '/agreements/new' },
    load: (query) => this.agreements.list(query),
    kinds: ['AG'],
    document: ({ id, number }) => ({ kind: 'AG', id, number }),
    columns: () => this.columns(),
    empty:
      'No agreement fits. An agreement commits a customer to quantities at agreed prices; begin one with New agreement.',
  });

  /** A customer that an address brought, by name once a row of theirs is there. */
  private named(id: string): string {
    return this.list.rows.rows().find((row) => row.party.id === Number(id))?.party.name ?? `no. ${id}`;
  }

  protected bringIn(): void {
    this.sheets.open<ImportData>(ImportSheet, IMPORTED).subscribe((done) => {
      if (done)
        this.notices.show(`${counted(done.made.length, 'agreement')} brought in as drafts, first`, done.made[0]!);
    });
  }

  private columns(): GridColumn<AgreementRow>[] {
    const workDate = this.session.workDate();
    const own = this.session.company()?.currency ?? '';
    // Amounts say their currency where it is not the company's.
    const amount = (value: string, { currency }: AgreementRow) => namedMoney(value, currency, own);
    const shipped = (row: AgreementRow) => share(row.values.shipped, row.values.committed);
    const paceOf = (row: AgreementRow) => pace(shipped(row), elapsedShare(row.firstDay, row.lastDay, workDate));
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.number,
        link: this.list.pathTo,
      },
      { id: 'party', head: 'With', text: (row) => row.party.name },
      { id: 'title', head: 'About', text: (row) => row.title },
      {
        id: 'state',
        head: 'State',
        width: 84,
        text: (row) => row.state.replace('-', ' '),
        need: (row) => row.state === 'draft',
      },
      {
        id: 'last',
        head: 'Last day',
        width: 122,
        text: (row) => day(row.lastDay, workDate),
        need: (row) => live(row) && row.lastDay < workDate,
      },
      {
        id: 'facts',
        head: 'Facts',
        width: 128,
        text: (row) =>
          [
            ...(row.side === 'buying' ? ['buying'] : []),
            ...(row.basis === 'value' ? ['by value'] : []),
            ...(live(row) && row.lastDay < workDate ? ['dates passed'] : []),
            ...(row.usedUp && row.state !== 'cancelled' ? ['used up'] : []),
          ].join(', '),
      },
      {
        id: 'committed',
        head: 'Committed',
        width: 128,
        figures: true,
        text: (row) => amount(row.values.committed, row),
      },
      {
        id: 'shipped',
        head: 'Taken',
        width: 116,
        figures: true,
        text: (row) => amount(row.values.shipped, row),
      },
      {
        id: 'taken',
        head: 'Share',
        width: 78,
        text: (row) => percent(shipped(row)),
        beads: (row) => [{ label: row.side === 'buying' ? 'Received' : 'Shipped', share: shipped(row) }],
      },
      {
        id: 'pace',
        head: 'Pace',
        width: 72,
        figures: true,
        text: (row) => (row.state === 'in-force' ? points(paceOf(row)) : ''),
        need: (row) => row.state === 'in-force' && paceOf(row) < -0.1,
      },
    ];
  }
}
