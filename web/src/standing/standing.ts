import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { sayRecurrence } from '@core/recurrence';
import { skipStanding } from '@api/standing';
import { Session } from '../access';
import { refusalsOf, type RefusalShown } from '../kit/act/api';
import { AskSheet, type Asks } from '../kit/act/ask-sheet';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { Notices } from '../kit/act/notices';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { Bead } from '../kit/charts/bead';
import { pathOf } from '../kit/documents';
import { day, quantity } from '../kit/formats';
import { filter, switchMap } from 'rxjs/operators';
import { Standing, type StandingDate, type StandingSheet } from './service';
import { StandingSheetForm, type StandingData } from './standing-sheet';

const CLOSED = {
  skip: 'skipped where we are closed',
  before: 'the open day before where we are closed',
  after: 'the next open day where we are closed',
} as const;

/** One standing order: what it says from when, and its dates, each with what became of it. // S7 */
@Component({
  selector: 'k-standing',
  imports: [Bead, DocumentTitle, Refusals, RouterLink],
  templateUrl: './standing.html',
  styleUrl: './standing.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StandingPage {
  private readonly standing = inject(Standing);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  readonly id = input.required<string>();
  protected readonly refusals = signal<readonly RefusalShown[]>([]);
  protected readonly page: DocumentPage<string, StandingSheet> = new DocumentPage({
    key: this.id,
    name: 'Standing order',
    open: (id) => this.standing.open(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` for ${sheet.customer.name}`,
      sub: `${sheet.state} · ${sayRecurrence(sheet.terms[sheet.now]!.rule)} · made ${sheet.aheadDays === 0 ? 'on the day' : `${sheet.aheadDays} days ahead`}, ${CLOSED[sheet.closed]}`,
    }),
    touchedBy: (document, sheet) =>
      document.kind === 'SO' || (document.kind === 'ST' && document.id === sheet?.document.id),
    acts: () => {
      const sheet = this.page.sheet();
      if (!sheet || !this.session.may('orders') || sheet.state === 'ended') return [];
      const { id } = sheet.document;
      const set = (state: StandingSheet['state']) => this.standing.set(id, sheet.version, state);
      return [
        {
          name: 'change',
          label: 'Change from a day on…',
          place: 'step' as const,
          asks: true as const,
          does: () => this.sheets.open<StandingData>(StandingSheetForm, { standing: sheet }),
          says: () => ['Changed:', sheet.document] as const,
        },
        {
          name: 'pause',
          label: sheet.state === 'paused' ? 'Let it go on' : 'Pause',
          place: 'button' as const,
          does: () => set(sheet.state === 'paused' ? 'active' : 'paused'),
          says: () => [sheet.state === 'paused' ? 'Goes on:' : 'Paused:', sheet.document] as const,
        },
        {
          name: 'end',
          label: 'End it…',
          place: 'menu' as const,
          does: () =>
            this.sheets
              .choose<Asks, boolean>(AskSheet, {
                head: `End ${sheet.document.number}`,
                sub: 'Orders that were made stay; none is made any more',
                act: 'End it',
              })
              .pipe(
                filter((yes) => yes === true),
                switchMap(() => set('ended')),
              ),
          says: () => ['Ended:', sheet.document] as const,
        },
      ];
    },
  });
  protected readonly later = computed(() => {
    const sheet = this.page.sheet();
    return sheet ? sheet.terms.slice(sheet.now + 1) : [];
  });
  protected readonly current = computed(() => {
    const sheet = this.page.sheet();
    return sheet ? sheet.terms[sheet.now]! : null;
  });
  protected readonly may = computed(() => this.session.may('orders') && this.page.sheet()?.state !== 'ended');

  protected make(date: StandingDate): void {
    const sheet = this.page.sheet()!;
    this.refusals.set([]);
    this.standing.make(sheet.document.id, date.day).subscribe({
      next: ({ made }) =>
        made[0] ? this.notices.show('Made:', made[0]) : this.notices.show('It could not be made; see why beside it.'),
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }

  protected skip(date: StandingDate): void {
    const { id } = this.page.sheet()!.document;
    this.sheets
      .open<AsksReason<typeof skipStanding>>(ReasonSheet, {
        head: `Skip ${this.day(date.day)}`,
        sub: 'No order is made for it',
        act: 'Skip it',
        of: skipStanding,
        input: (reason) => ({ id, day: date.day, skipped: true, reason }),
      })
      .subscribe((done) => {
        if (done) {
          this.notices.show(`${this.day(date.day)} is skipped.`, null, () => this.unskip(date));
        }
      });
  }

  protected unskip(date: StandingDate): void {
    this.standing.skip(this.page.sheet()!.document.id, date.day, false, '').subscribe({
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }

  protected readonly isBefore = (value: string) => value < this.session.workDate();
  protected readonly say = sayRecurrence;
  protected readonly quantity = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
}
