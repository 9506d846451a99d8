import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { merge } from 'rxjs';
import { OFFER_RIGHT } from '@api/sisters';
import { Session } from '../access';
import { Notices } from '../kit/act/notices';
import { refusalsOf } from '../kit/act/api';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { Chips } from '../kit/controls/chips';
import { pathOf } from '../kit/documents';
import { counted, day } from '../kit/formats';
import { LiveEvents, LiveList } from '../kit/live/live';
import { AsideSheet } from './aside-sheet';
import { BringInSheet } from './bring-in-sheet';
import { DueList } from './due-list';
import { ReturnSheet } from './return-sheet';
import { Sisters, type OfferRow } from './service';
import { TakeSheet } from './take-sheet';
import { marginOf, sentenceOf, sentOf, stepOf } from './words';

const SHOWS = [
  { value: '', label: 'Waiting' },
  { value: 'returned', label: 'Came back to us' },
  { value: 'to-send', label: 'To send' },
  { value: 'done', label: 'Done' },
];

/** The exchange tray: what sister companies sent, each a sentence with two ends and its next step. // X2 X3 */
@Component({
  selector: 'k-tray',
  imports: [Chips, DueList, Refusals, RouterLink],
  templateUrl: './tray.html',
  styleUrl: './tray.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TrayPage {
  private readonly sisters = inject(Sisters);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  readonly show = input<string>();
  /** What goes to companies elsewhere is for who may send. */
  protected readonly shows = SHOWS.filter(({ value }) => value !== 'to-send' || this.session.may('send'));
  private readonly query = computed(() => ({
    ...(this.show() && this.show() !== 'to-send' ? { show: this.show() as 'done' } : {}),
  }));
  protected readonly list = new LiveList(
    this.query,
    (query, cursor) => this.sisters.tray({ ...query, ...(cursor ? { cursor } : {}) }),
    ['SO', 'PO', 'SH', 'RC', 'CI', 'VI'],
  );
  /** By sister, in the order they came. */
  protected readonly groups = computed(() => {
    const found = new Map<number, { name: string; id: number; rows: OfferRow[] }>();
    for (const row of this.list.rows()) {
      const group = found.get(row.sister.id) ?? { name: row.sister.name, id: row.sister.id, rows: [] };
      found.set(row.sister.id, group);
      group.rows.push(row);
    }
    return [...found.values()];
  });
  protected readonly sub = computed(() => {
    const count = this.list.rows().length;
    if (this.show() === 'to-send') return 'what goes to companies elsewhere, and is not sent yet';
    if (this.show() === 'done') return 'what became of what sisters sent';
    if (this.show() === 'returned') return 'what sisters gave back to us, with why';
    return count === 0
      ? 'nothing waits'
      : `${counted(count, 'thing')} of sister companies ${count === 1 ? 'waits' : 'wait'}`;
  });
  protected readonly pathOf = pathOf;
  protected readonly step = stepOf;

  constructor() {
    inject(Title).setTitle('Tray · Kampong');
    // What a sister does is heard of without a document of ours.
    const events = inject(LiveEvents);
    merge(events.doing('offered'), events.doing('pairItems'))
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.list.again());
  }

  protected look(show: string): void {
    void this.router.navigate([], { queryParams: { show: show || null } });
  }

  protected readonly mayBringIn = this.session.may('see-mail');
  protected may = (row: OfferRow) => this.session.may(OFFER_RIGHT[row.kind]);
  protected readonly margin = (row: OfferRow) => marginOf(row, this.session.workDate());
  protected readonly sentence = (row: OfferRow) => (this.show() === 'returned' ? sentOf(row) : sentenceOf(row));
  protected readonly day = (text: string | null) => day(text, this.session.workDate());
  /** Our own document that came back, for who sent it. */
  protected readonly own = ({ kind, number }: OfferRow) =>
    ({
      order: ['/purchases', { q: number }],
      purchase: ['/orders', { q: number }],
      receipt: ['/to-go-out', {}],
      invoice: ['/billing', { q: number }],
    })[kind] as [string, Record<string, string>];

  protected take(row: OfferRow): void {
    this.sheets.open<{ offer: OfferRow }>(TakeSheet, { offer: row }).subscribe((done) => {
      if (!done) return;
      this.list.again();
      const made = done.made[0];
      if (made) this.notices.show(`${row.number} of ${row.sister.name} was taken as`, made);
      else this.notices.show(`${row.number} of ${row.sister.name} was taken.`);
    });
  }

  /** What a company elsewhere sent. */
  protected bringIn(): void {
    this.sheets.open(BringInSheet, {}).subscribe((done) => {
      if (!done) return;
      this.list.again();
      this.notices.show('The file was brought in.');
    });
  }

  protected giveBack(row: OfferRow): void {
    this.sheets.open<{ offer: OfferRow }>(ReturnSheet, { offer: row }).subscribe((done) => {
      if (!done) return;
      this.list.again();
      this.notices.show(`${row.number} went back to ${row.sister.name}.`);
    });
  }

  protected aside(row: OfferRow): void {
    this.sheets.open<{ offer: OfferRow }>(AsideSheet, { offer: row }).subscribe((done) => {
      if (done) this.list.again();
    });
  }

  /** Both told of one thing: joined, and nothing is made. */
  protected same(row: OfferRow): void {
    this.sisters.same(row).subscribe({
      next: () => {
        this.list.again();
        this.notices.show(`${row.number} of ${row.sister.name} is our`, row.sameAs!);
      },
      error: (error: unknown) => this.list.refusals.set(refusalsOf(error)),
    });
  }
}
