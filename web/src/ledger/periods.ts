import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { merge } from 'rxjs';
import { monthText } from '@core/kernel';
import type * as z from 'zod';
import * as contract from '@api/ledger';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { Refusals } from '../kit/act/refusals';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { Sheets } from '../kit/act/sheet';
import { counted, moment } from '../kit/formats';
import { liveDocument, LiveEvents } from '../kit/live/live';
import { CloseMonthSheet } from './close-month-sheet';

type Shown = z.infer<typeof contract.openPeriods.out>;

/** Months of the ledger: what was posted in each, which are closed, and who closed or opened them. */
@Component({
  selector: 'k-periods',
  imports: [Refusals],
  template: `<div class="page">
    <div class="title">
      <h1>
        Months<span>{{ sub() }}</span>
      </h1>
    </div>
    <k-refusals [refusals]="live.state().refusals" />
    <div class="sheet">
      <table class="small">
        <thead>
          <tr>
            <th>Month</th>
            <th></th>
            <th class="num">Posted</th>
            <th>What came late</th>
            <th>Closed and opened</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          @for (month of months(); track month.month) {
            <tr>
              <td class="name">{{ name(month.month) }}</td>
              <td>{{ month.closed ? 'closed' : month.over ? 'open' : 'runs' }}</td>
              <td class="num">{{ counted(month.journals, 'journal') }}</td>
              <td>{{ month.late ? month.late + ' of closed months before' : '' }}</td>
              <td>
                @for (move of month.moves; track $index) {
                  <div>
                    {{ move.closed ? 'closed' : 'opened again' }} by {{ move.person }}, {{ moment(move.at) }}
                    @if (move.reason) {
                      <span class="faint">: {{ move.reason }}</span>
                    }
                  </div>
                }
              </td>
              <td class="acts">
                @if (session.may('periods')) {
                  @if (!month.closed && month.over) {
                    <button type="button" class="act" [class.next]="month === next()" (click)="close(month.month)">
                      Close…
                    </button>
                  } @else if (month === last()) {
                    <button type="button" class="act" (click)="reopen(month.month)">Open again…</button>
                  }
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  </div>`,
  styles: `
    tbody td {
      vertical-align: middle;
    }
    .name {
      font-weight: 600;
    }
    .acts {
      text-align: right;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PeriodsPage {
  private readonly api = inject(Api);
  private readonly sheets = inject(Sheets);
  private readonly events = inject(LiveEvents);
  protected readonly session = inject(Session);
  protected readonly counted = counted;
  protected readonly moment = moment;
  protected readonly name = monthText;
  protected readonly live = liveDocument<string, Shown>(
    this.session.workDate,
    () => this.api.call(contract.openPeriods),
    ({ kind }) => kind === 'JR',
  );
  protected readonly months = computed(() => this.live.state().value?.months ?? []);
  /** The month to be closed next: the oldest that is over. */
  protected readonly next = computed(() => this.months().findLast(({ closed, over }) => !closed && over));
  /** The month closed last: the one that can be opened again. */
  protected readonly last = computed(() => this.months().find(({ closed }) => closed));
  protected readonly sub = computed(() => {
    const last = this.last();
    return last ? `closed up to and including ${monthText(last.month)}` : 'none is closed yet';
  });

  constructor() {
    inject(Title).setTitle('Months');
    merge(this.events.doing('closeMonth'), this.events.doing('reopenMonth'))
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.live.reload());
  }

  protected close(month: string): void {
    this.sheets.open(CloseMonthSheet, month).subscribe(() => this.live.reload());
  }

  protected reopen(month: string): void {
    this.sheets.open(ReasonSheet, openingAgainOf(month)).subscribe(() => this.live.reload());
  }
}

/** The month closed last is opened again. */
const openingAgainOf = (month: string): AsksReason<typeof contract.reopenMonth> => ({
  head: `Open ${monthText(month)} again`,
  sub: 'it can be posted into until it is closed anew',
  act: 'Open the month again',
  label: 'Why, for whoever looks at the books',
  of: contract.reopenMonth,
  input: (reason) => ({ month, reason }),
});
