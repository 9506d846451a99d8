import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Observable } from 'rxjs';
import * as contract from '@api/access';
import { Session } from '../access';
import { Api, refusalsOf, type ActDone, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { moment } from '../kit/formats';
import { liveDocument, LiveEvents } from '../kit/live/live';
import type { Asked, AskedRow } from './asked-row';
import { ReturnSheet } from './return-sheet';

/** What waits for a second person: to be approved or returned by this one, or asked for by this one. // G7 */
@Component({
  selector: 'k-asked',
  imports: [Refusals],
  template: `@if (rows().length > 0) {
    <section aria-label="A second person">
      <h2>A second person</h2>
      <k-refusals [refusals]="refusals()" />
      @for (row of rows(); track row.id) {
        <div class="asked">
          <span>
            {{ row.words }}
            <small>
              @if (row.state === 'returned') {
                · returned by {{ row.decider }}: {{ row.word }}
              } @else if (row.mine) {
                · asked for by you, {{ moment(row.askedAt) }}; another person has to approve it
              } @else {
                · asked for by {{ row.person }}, {{ moment(row.askedAt) }}
              }
            </small>
          </span>
          @if (row.mayApprove) {
            <button type="button" class="act" [disabled]="busy()" (click)="giveBack(row)">Return…</button>
            <button type="button" class="act next" [disabled]="busy()" (click)="approve(row)">Approve</button>
          } @else if (row.state === 'waiting') {
            <button type="button" class="act" [disabled]="busy()" (click)="takeBack(row)">Take it back</button>
          }
        </div>
      }
    </section>
  }`,
  styles: `
    section {
      padding: 0 24px;
    }
    h2 {
      font: 600 16px var(--serif);
      margin: 10px 0 4px;
    }
    .asked {
      display: flex;
      align-items: center;
      gap: 6px;
      min-height: 38px;
      padding: 3px 0;
      border-bottom: 1px solid var(--rule);
    }
    .asked > span {
      flex: 1;
      overflow-wrap: anywhere;
    }
    small {
      color: var(--ink-faint);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AskedBand {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly sheets = inject(Sheets);
  protected readonly moment = moment;
  protected readonly busy = signal(false);
  private readonly failed = signal<RefusalShown[]>([]);
  private readonly live = liveDocument<string, Asked>(
    inject(Session).workDate,
    () => this.api.call(contract.openAsked),
    () => false,
  );
  protected readonly rows = computed(() => this.live.state().value?.rows ?? []);
  protected readonly refusals = computed(() => [...this.failed(), ...this.live.state().refusals]);

  constructor() {
    // What is asked for touches no document yet.
    inject(LiveEvents)
      .any()
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.live.reload());
  }

  protected approve({ id, words }: AskedRow): void {
    this.does(this.api.act(contract.approveAsked, { id }), `Approved and done: ${words}.`);
  }

  protected takeBack({ id, words }: AskedRow): void {
    this.does(this.api.act(contract.returnAsked, { id, word: '' }), `Taken back: ${words}.`);
  }

  protected giveBack(row: AskedRow): void {
    this.sheets.open(ReturnSheet, row).subscribe(() => this.live.reload());
  }

  private does(act: Observable<ActDone>, said: string): void {
    this.busy.set(true);
    this.failed.set([]);
    act.subscribe({
      next: () => {
        this.busy.set(false);
        this.notices.show(said);
        this.live.reload();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(refusalsOf(error));
        this.live.reload();
      },
    });
  }
}
