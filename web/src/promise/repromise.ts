import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { daysBetween } from '@core/kernel';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { counted, day, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Chosen, isOld, madeText, RunActs } from './run-acts';
import { Promises, type RunShown } from './service';

type Row = RunShown['moved'][number];

/** All open lines asked again: whose promise moves, by how much and why; all, some or none of it taken. // T9 */
@Component({
  selector: 'k-repromise',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>Promise again<span>every open line in its rank; nothing moves until it is taken</span></h1>
      <a class="act" routerLink="/planned">What is planned</a>
      <a class="act" routerLink="/mail/drafts">To be sent</a>
      @if (going()) {
        <button type="button" class="act" (click)="stop()">Stop</button>
      } @else if (open().length > 0) {
        <button type="button" class="act" [class.next]="old()" (click)="start()" [disabled]="busy()">
          Ask all again
        </button>
        <button
          type="button"
          class="act"
          [class.next]="!old()"
          (click)="take()"
          [disabled]="busy() || chosen().length === 0"
        >
          Take {{ counted(chosen().length, 'new day') }}
        </button>
      } @else {
        <button type="button" class="act next" (click)="start()" [disabled]="busy()">Ask all again</button>
      }
    </div>
    <k-refusals [refusals]="refusals()" />
    @if (run(); as shown) {
      @if (going()) {
        <p role="status">
          {{ shown.done }} of {{ counted(shown.total, 'line') }}
          <progress [max]="shown.total || 1" [value]="shown.done" aria-label="Lines asked"></progress>
        </p>
      } @else {
        <p role="status">
          <b>{{ said() }}</b> <span [class]="old() ? 'need' : 'faint'">{{ made(shown) }}</span>
        </p>
      }
    }
    <div class="sheet">
      @if (moved().length > 0) {
        <table class="small">
          <thead>
            <tr>
              <th>
                @if (open().length > 0) {
                  <input
                    type="checkbox"
                    aria-label="All of them"
                    [checked]="chosen().length === takeable().length"
                    (change)="picked.choose(takeable(), $any($event.target).checked)"
                  />
                }
              </th>
              <th>Order</th>
              <th>Customer</th>
              <th>Item</th>
              <th class="num">Quantity</th>
              <th>Promised</th>
              <th>Now</th>
              <th class="num">Days</th>
              <th>Why</th>
            </tr>
          </thead>
          <tbody>
            @for (row of moved(); track row.lineId) {
              <tr>
                <td>
                  @if (!row.taken && row.is !== null) {
                    <input
                      type="checkbox"
                      [attr.aria-label]="'Take the new day of ' + row.order.number + ' line ' + row.lineNo"
                      [checked]="picked.has(row.lineId)"
                      (change)="picked.choose([row.lineId], $any($event.target).checked)"
                    />
                  }
                </td>
                <td>
                  <a class="link" [routerLink]="pathOf(row.order)" [queryParams]="{ at: row.lineId }">{{
                    row.order.number
                  }}</a>
                  line {{ row.lineNo }}
                </td>
                <td>{{ row.customer }}</td>
                <td>{{ row.item }}</td>
                <td class="num">{{ number(row.quantity) }}</td>
                <td>{{ day(row.was) }}</td>
                <td>
                  <b>{{ row.is === null ? 'no day' : day(row.is) }}</b>
                  @if (row.taken) {
                    <span class="faint"> taken</span>
                  }
                </td>
                <td class="num">{{ days(row) }}</td>
                <td>{{ row.why }}</td>
              </tr>
            }
          </tbody>
        </table>
      } @else if (!run()) {
        <p class="empty">
          Nothing was asked again yet. After a late vendor, a broken machine or a changed order, ask all open lines
          again and see whose promise moves.
        </p>
      }
    </div>
  </div>`,
  styles: `
    p[role='status'] {
      margin: 4px 24px 0;
    }
    p[role='status'] span {
      margin-left: 8px;
    }
    .need {
      color: var(--ochre);
    }
    .sheet {
      overflow: auto;
    }
    progress {
      width: 240px;
      accent-color: var(--deep);
      vertical-align: middle;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RepromisePage {
  private readonly promises = inject(Promises);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly read = liveDocument(
    this.session.workDate,
    () => this.promises.run(),
    (document) => document.kind === 'SO',
  );
  protected readonly run = computed(() => this.read.state().value?.run ?? null);
  protected readonly going = computed(() => ['waiting', 'running'].includes(this.run()?.state ?? ''));
  protected readonly moved = computed(() => (this.run()?.state === 'done' ? this.run()!.moved : []));
  protected readonly open = computed(() => this.moved().filter((row) => !row.taken && row.is !== null));
  protected readonly picked = new Chosen();
  protected readonly takeable = computed(() => this.open().map((row) => row.lineId));
  /** All that can be taken, but for those that were left out. */
  protected readonly chosen = computed(() => this.takeable().filter((lineId) => this.picked.has(lineId)));
  private readonly acts = new RunActs(
    () => this.read.reload(),
    () => this.going(),
  );
  protected readonly busy = this.acts.busy;
  protected readonly old = computed(() => isOld(this.run()!, this.session.workDate()));
  protected readonly made = madeText;
  protected readonly refusals = this.acts.refusals;
  protected readonly said = computed(() => {
    const run = this.run()!;
    if (run.state === 'stopped') return 'It was stopped; nothing moves.';
    if (run.state === 'failed') return 'It could not be finished; ask all again.';
    const asked = `${counted(run.total, 'line')} asked`;
    if (run.moves === 0) return `${asked}; every promise holds.`;
    const first = run.moves > run.moved.length ? `, the first ${run.moved.length} of them here` : '';
    return `${asked}; ${counted(run.moves, 'promise')} ${run.moves === 1 ? 'moves' : 'move'}${first}.`;
  });

  constructor() {
    inject(Title).setTitle('Promise again · Kampong');
  }

  protected start(): void {
    this.picked.forget();
    this.acts.do(this.promises.startRun());
  }

  protected stop(): void {
    this.acts.do(this.promises.stopRun(this.run()!.id));
  }

  protected take(): void {
    const lineIds = this.chosen();
    this.acts.do(this.promises.takeRun(this.run()!.id, lineIds), () =>
      this.notices.show(`${counted(lineIds.length, 'promise')} moved; what to tell their customers waits to be sent.`),
    );
  }

  protected readonly days = (row: Row) => {
    if (row.is === null) return '';
    const by = daysBetween(row.was, row.is);
    return by > 0 ? `+${by}` : `−${-by}`;
  };
  protected readonly pathOf = pathOf;
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly number = quantity;
  protected readonly counted = counted;
}
