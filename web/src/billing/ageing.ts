import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { tap } from 'rxjs/operators';
import { AGES } from '@core/billing';
import { dec, sum } from '@core/kernel';
import { draftReminders } from '@api/mail';
import { Session } from '../access';
import { ActSheet, type AsksAct } from '../kit/act/act-sheet';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { counted, day, money } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage, type MarkAct } from '../kit/live/list-page';
import { BillingPlaces } from './places';
import { Billing, type AgeQuery, type AgeRow, type AgeSums } from './service';

const late = (rows: readonly AgeRow[]) => [...new Set(rows.filter((row) => row.late > 0).map(({ party }) => party.id))];

/** What is owed by party, by how long it is due; reminders are drafted from here. */
@Component({
  selector: 'k-ageing',
  imports: [BillingPlaces, ListPage],
  template: `<k-list-page [list]="list">
    <k-billing-places acts at="/open-by-age" />
    <p class="remark">
      @for (each of sums(); track each.currency) {
        <span
          ><b>{{ each.currency }} {{ money(each.total, each.currency) }}</b
          >{{ inWords(each) }}
        </span>
      }
    </p>
  </k-list-page>`,
  styles: `
    .remark {
      padding-bottom: 14px;
      border-top: 1px solid var(--rule);
    }
    .remark span {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AgeingPage {
  private readonly session = inject(Session);
  private readonly billing = inject(Billing);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  protected readonly sums = signal<readonly AgeSums[]>([]);
  private readonly remind: MarkAct<AgeRow> = {
    label: (rows) =>
      !this.vendors() && this.session.may('send') && late(rows).length > 0
        ? `Draft ${counted(late(rows).length, 'reminder')}…`
        : null,
    do: (rows) => {
      const customerIds = late(rows);
      this.sheets
        .open<AsksAct<typeof draftReminders>>(ActSheet, {
          head: `Remind ${counted(customerIds.length, 'customer')}`,
          sub: 'Firmer the longer the oldest is due; each is read and sent from the mail room',
          act: `Draft ${counted(customerIds.length, 'reminder')}`,
          of: draftReminders,
          input: { customerIds },
          words: (effects) =>
            effects.rows.map(
              ({ customer, subject, recipient }) => `${customer}, ${recipient || 'no address yet'}: ${subject}`,
            ),
        })
        .subscribe((done) => done && this.notices.show('Drafted; they wait in the mail room to be sent.'));
    },
  };
  protected readonly list: DocumentList<AgeQuery, AgeRow> = new DocumentList({
    head: 'Owed by age',
    sub: () =>
      this.vendors()
        ? `what we owe vendors, by how long it is due on ${this.day(this.session.workDate())}`
        : `what customers owe us, by how long it is due on ${this.day(this.session.workDate())}`,
    looksIn: 'Number or name',
    filters: [
      {
        name: 'side',
        label: 'Side',
        chips: [
          ['customer', 'Customers'],
          ['vendor', 'Vendors'],
        ],
      },
    ],
    load: (query) => this.billing.byAge(query).pipe(tap(({ sums }) => this.sums.set(sums))),
    kinds: ['CI', 'VI', 'CN', 'PY'],
    path: ({ party }) => `/billing?side=${this.list.filterValue('side')}&open=yes&party=${party.number}`,
    rowId: ({ party, currency }) => `${party.id} ${currency}`,
    marks: [this.remind],
    columns: () => this.columns(),
    empty: 'Nothing is owed.',
  });

  private vendors(): boolean {
    return this.list.filterValue('side') === 'vendor';
  }

  private columns(): GridColumn<AgeRow>[] {
    const amount = (value: string, { currency }: AgeRow) => (dec(value).eq(0) ? '–' : money(value, currency));
    return [
      {
        id: 'party',
        head: this.vendors() ? 'Vendor' : 'Customer',
        text: (row) => row.party.name,
        link: (row) => this.list.pathTo(row),
      },
      { id: 'currency', head: '', width: 54, text: (row) => row.currency },
      ...AGES.map(({ name, upTo }, at): GridColumn<AgeRow> => ({
        id: `age${at}`,
        head: name,
        width: 100,
        figures: true,
        text: (row) => amount(row.ages[at]!, row),
        need: (row) => upTo > 30 && dec(row.ages[at]!).gt(0),
      })),
      { id: 'credit', head: 'To their credit', width: 100, figures: true, text: (row) => amount(row.credit, row) },
      { id: 'total', head: 'Balance', width: 116, figures: true, text: (row) => money(row.total, row.currency) },
      {
        id: 'oldest',
        head: 'Oldest due',
        width: 116,
        text: (row) => (row.oldest === null ? '–' : this.day(row.oldest)),
      },
    ];
  }

  protected inWords({ ages, credit, currency }: AgeSums): string {
    const past = sum(ages.slice(1).map((each) => dec(each))).toFixed();
    const owed = dec(past).eq(0) ? ', none of it past due' : `, of it ${money(past, currency)} past due`;
    return dec(credit).eq(0) ? owed : `${owed}; ${money(credit, currency)} stands to credit`;
  }

  protected readonly money = money;
  private readonly day = (value: string) => day(value, this.session.workDate());
}
