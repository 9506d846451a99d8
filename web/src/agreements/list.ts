import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import type * as z from 'zod';
import { elapsedShare, pace } from '@core/agreements';
import { share, type DocumentRef } from '@core/kernel';
import type * as contract from '@api/agreements';
import { bringInAgreements } from '@api/exchange';
import { Session } from '../access/session';
import { DocumentDockLazy } from '../documents/lazy';
import { pathOf } from '../kit/documents';
import { counted, day, money, percent, points } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { ImportSheet, type ImportData } from '../kit/import-sheet';
import { ListPage, type ChipFilter } from '../kit/list-page';
import { LiveList } from '../kit/live';
import { Quiet } from '../kit/quiet';
import { Sheets } from '../kit/sheet';
import { Agreements, type AgreementRow } from './service';

type ListQuery = z.input<typeof contract.listAgreements.query>;

function filter(
  name: string,
  label: string,
  value: string | undefined,
  chips: readonly [string, string][],
): ChipFilter {
  return { name, label, value: value ?? '', chips: chips.map(([each, text]) => ({ value: each, label: text })) };
}

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
  template: `<k-list-page
    head="Agreements"
    sub="what customers, and we, have promised to take, and how far that is"
    looksIn="Number, title or party"
    [q]="q() ?? ''"
    [filters]="filters()"
    [make]="{ label: 'New agreement', path: '/agreements/new' }"
    [list]="list"
    [columns]="columns()"
    [rowId]="rowId"
    [pathTo]="pathTo"
    empty="No agreement fits. An agreement commits a customer to quantities at agreed prices; begin one with New agreement."
    (chosen)="chosen.set(rowId($event))"
  >
    <span acts>
      <button type="button" class="act" (click)="bringIn()">Bring in…</button
      ><a class="act" [href]="file('xlsx')" download>Save as XLSX</a
      ><a class="act" [href]="file('csv')" download>CSV</a>
    </span>
    <k-document-dock-lazy [document]="about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AgreementList {
  private readonly session = inject(Session);
  private readonly agreements = inject(Agreements);
  private readonly sheets = inject(Sheets);
  private readonly quiet = inject(Quiet);
  readonly q = input<string>();
  readonly state = input<string>();
  readonly side = input<string>();
  readonly dates = input<string>();
  readonly left = input<string>();
  readonly sort = input<string>();
  readonly customerId = input<string>();
  readonly organisationId = input<string>();
  readonly groupId = input<string>();
  readonly currency = input<string>();
  private readonly asked = computed(() => ({
    q: this.q(),
    state: this.state(),
    side: this.side(),
    dates: this.dates(),
    left: this.left(),
    sort: this.sort(),
    customerId: this.customerId(),
    organisationId: this.organisationId(),
    groupId: this.groupId(),
    currency: this.currency(),
  }));
  private readonly query = computed(
    () => Object.fromEntries(Object.entries(this.asked()).filter(([, value]) => value)) as ListQuery,
  );
  protected readonly list = new LiveList(
    this.query,
    (query, cursor) => this.agreements.list({ ...query, ...(cursor ? { cursor } : {}) }),
    ['AG'],
  );
  protected readonly rowId = (row: AgreementRow) => String(row.id);
  protected readonly pathTo = (row: AgreementRow) => pathOf({ kind: 'AG', id: row.id });
  protected readonly chosen = signal<string | null>(null);
  /** What the dock is about: the row one is on, else the first. */
  protected readonly about = computed<DocumentRef | null>(() => {
    const rows = this.list.rows();
    const row = rows.find((each) => this.rowId(each) === this.chosen()) ?? rows[0];
    return row ? { kind: 'AG', id: row.id, number: row.number } : null;
  });
  protected readonly filters = computed(() => [
    filter('state', 'State', this.state(), [
      ['', 'All'],
      ['draft', 'Draft'],
      ['in-force', 'In force'],
      ['paused', 'Paused'],
      ['ended', 'Ended'],
    ]),
    filter('side', 'Side', this.side(), [
      ['', 'Both'],
      ['selling', 'Selling'],
      ['buying', 'Buying'],
    ]),
    filter('dates', 'Dates', this.dates(), [
      ['', 'Any dates'],
      ['running', 'Running'],
      ['passed', 'Dates passed'],
    ]),
    filter('left', 'Left', this.left(), [
      ['', 'Used up or not'],
      ['some', 'Some left'],
      ['used-up', 'Used up'],
    ]),
    filter('sort', 'Order', this.sort(), [
      ['', 'Newest'],
      ['last-day', 'Ends first'],
      ['pace', 'Most behind'],
      ['committed', 'Largest'],
    ]),
  ]);
  /** The same rows as a file, with the same filters. */
  protected file(format: 'csv' | 'xlsx'): string {
    return `/api/agreements.${format}?${new URLSearchParams(this.query() as Record<string, string>)}`;
  }

  protected bringIn(): void {
    this.sheets.open<ImportData>(ImportSheet, IMPORTED).subscribe((done) => {
      if (done) this.quiet.say(`${counted(done.made.length, 'agreement')} brought in as drafts, first`, done.made[0]!);
    });
  }

  protected readonly columns = computed<GridColumn<AgreementRow>[]>(() => {
    const workDate = this.session.workDate();
    const own = this.session.company()?.currency;
    // Amounts say their currency where it is not the company's.
    const amount = (value: string, { currency }: AgreementRow) =>
      `${currency === own ? '' : `${currency} `}${money(value, currency)}`;
    const shipped = (row: AgreementRow) => share(row.values.shipped, row.values.committed);
    const paceOf = (row: AgreementRow) => pace(shipped(row), elapsedShare(row.firstDay, row.lastDay, workDate));
    return [
      {
        id: 'number',
        head: 'Number',
        width: 96,
        text: (row) => row.number,
        link: this.pathTo,
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
  });

  constructor() {
    inject(Title).setTitle('Agreements · Kampong');
  }
}
