import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { elapsedShare, pace, type AgreementState } from '@core/agreements';
import { share, type DocumentRef } from '@core/kernel';
import { Session } from '../access/session';
import { DocumentDockLazy } from '../documents/lazy';
import { pathOf } from '../kit/documents';
import { day, money, points } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { ListPage } from '../kit/list-page';
import { LiveList } from '../kit/live';
import { Agreements, type AgreementRow } from './service';

/** Agreements, newest first, with what is taken and how that stands against the time gone. */
@Component({
  selector: 'k-agreement-list',
  imports: [DocumentDockLazy, ListPage],
  template: `<k-list-page
    head="Agreements"
    sub="what customers have promised to take, and how far they are"
    looksIn="Number, title or customer"
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
    <k-document-dock-lazy [document]="about()" />
  </k-list-page>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AgreementList {
  private readonly session = inject(Session);
  private readonly agreements = inject(Agreements);
  readonly q = input<string>();
  readonly state = input<string>();
  private readonly query = computed(() => ({
    q: this.q() ?? '',
    ...(this.state() ? { state: this.state() as AgreementState } : {}),
  }));
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
    {
      name: 'state',
      label: 'State',
      value: this.state() ?? '',
      chips: [
        { value: '', label: 'All' },
        { value: 'draft', label: 'Draft' },
        { value: 'in-force', label: 'In force' },
        { value: 'paused', label: 'Paused' },
        { value: 'ended', label: 'Ended' },
        { value: 'cancelled', label: 'Cancelled' },
      ],
    },
  ]);
  protected readonly columns = computed<GridColumn<AgreementRow>[]>(() => {
    const workDate = this.session.workDate();
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
      { id: 'customer', head: 'Customer', text: (row) => row.customer.name },
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
        need: (row) => row.state === 'in-force' && row.lastDay < workDate,
      },
      {
        id: 'committed',
        head: 'Committed',
        width: 112,
        figures: true,
        text: (row) => money(row.values.committed, row.currency),
      },
      {
        id: 'released',
        head: 'Released',
        width: 108,
        figures: true,
        text: (row) => money(row.values.released, row.currency),
      },
      {
        id: 'shipped',
        head: 'Shipped',
        width: 108,
        figures: true,
        text: (row) => money(row.values.shipped, row.currency),
      },
      { id: 'taken', head: 'Taken', width: 58, beads: (row) => [{ label: 'Shipped', share: shipped(row) }] },
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
