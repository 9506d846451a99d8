import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { combineLatest, merge } from 'rxjs';
import { Session } from '../access';
import { refusalsOf, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { pathOf } from '../kit/documents';
import { day } from '../kit/formats';
import { LiveEvents, liveDocument } from '../kit/live/live';
import { Sisters, type DueRow } from './service';
import { dueOf } from './words';

/** What is still to be sent to companies elsewhere, by mail or as a file. // X2 */
@Component({
  selector: 'k-due-list',
  imports: [Refusals, RouterLink],
  template: `<k-refusals [refusals]="refusals()" />
    <section class="sheet" aria-label="To send">
      @for (row of rows(); track row.id) {
        @if (row.sentOn && row.id === firstSent()) {
          <h2>Sent last</h2>
        }
        <div class="offer">
          <span class="margin">{{ row.sentOn ? day(row.sentOn) : '' }}</span>
          <p>
            @if (row.document; as document) {
              <a class="link" [routerLink]="pathOf(document)">{{ row.number }}</a>
            } @else {
              <b>{{ row.number }}</b>
            }
            {{ words(row) }}
            @if (row.reason) {
              <span class="why">“{{ row.reason }}”</span>
            }
          </p>
          <span class="acts">
            @if (session.may('send')) {
              <a
                class="act"
                download
                [href]="'/api/exchange/' + row.id + '/ubl'"
                [attr.aria-label]="'Save ' + row.number"
                (click)="sent(row, 'file')"
                >{{ row.sentOn ? 'Save it again' : 'Save the file' }}</a
              >
              @if (row.email && !row.returned) {
                <button
                  type="button"
                  class="act"
                  [class.strong]="!row.sentOn"
                  [attr.aria-label]="'Send ' + row.number"
                  [title]="row.email"
                  (click)="sent(row, 'mail')"
                >
                  {{ row.sentOn ? 'Send it again' : 'Send by mail' }}
                </button>
              }
            }
          </span>
        </div>
      } @empty {
        <p class="empty">
          Nothing is to be sent. What you order of a company elsewhere, confirm, ship or invoice to her stands here
          until its file is on its way.
        </p>
      }
    </section>`,
  styleUrl: './tray.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DueList {
  private readonly sisters = inject(Sisters);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);
  protected readonly refusals = signal<RefusalShown[]>([]);
  private readonly asked = signal(0);
  private readonly state = liveDocument(
    computed(() => ({ at: this.session.workDate(), asked: this.asked() })),
    () => combineLatest({ due: this.sisters.due('due'), sent: this.sisters.due('sent') }),
    () => true,
  ).state;
  protected readonly rows = computed(() => {
    const value = this.state().value;
    return value ? [...value.due.rows, ...value.sent.rows] : [];
  });
  protected readonly firstSent = computed(() => this.state().value?.sent.rows[0]?.id ?? null);
  protected readonly day = (text: string) => day(text, this.session.workDate());
  protected readonly pathOf = pathOf;
  protected readonly words = dueOf;

  constructor() {
    const events = inject(LiveEvents);
    merge(events.doing('offered'), events.doing('sendExchange'))
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.again());
  }

  /** Its file is on its way: by mail, or as the browser saves it. */
  protected sent(row: DueRow, how: 'mail' | 'file'): void {
    this.sisters.send(row, how).subscribe({
      next: () => {
        this.refusals.set([]);
        this.notices.show(
          how === 'mail'
            ? `${row.number} went to ${row.email}.`
            : `${row.number} was saved; bring it to ${row.sister.name}.`,
        );
        this.again();
      },
      error: (error: unknown) => {
        this.refusals.set(refusalsOf(error));
        this.again();
      },
    });
  }

  private again(): void {
    this.asked.update((count) => count + 1);
  }
}
