import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { filter, switchMap } from 'rxjs/operators';
import { Session } from '../access';
import { refusalsOf, type RefusalShown } from '../kit/act/api';
import { AskSheet, type Asks } from '../kit/act/ask-sheet';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { counted, day, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { RoundSheet } from './round-sheet';
import { Rounds, type RoundShown } from './service';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** The rounds, each with its next runs. // S11 */
@Component({
  selector: 'k-rounds',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>Rounds <span>which addresses are driven to on which days, and their next runs</span></h1>
      <a class="act" routerLink="/to-go-out">To go out</a>
      @if (may) {
        <button type="button" class="act next" (click)="keep()">New round…</button>
      }
    </div>
    <k-refusals [refusals]="refusals()" />
    <div class="sheet">
      @for (round of rounds.state().value ?? []; track round.id) {
        <section>
          <h2>
            {{ round.name }} <span>{{ words(round) }}</span>
          </h2>
          <p class="runs">
            @for (each of round.days; track each) {
              <a class="link" [routerLink]="['/rounds', round.id, each]">{{ day(each) }}</a>
            }
            @if (may) {
              <span class="gap"></span>
              <button type="button" class="act" (click)="keep(round)">Change…</button>
              <button type="button" class="act" (click)="drop(round)">Put out of use…</button>
            }
          </p>
          <ol>
            @for (stop of round.stops; track stop.shipToId) {
              <li>{{ stop.customer.name }}, {{ stop.label }}, {{ stop.town }}</li>
            }
          </ol>
        </section>
      } @empty {
        @if (!rounds.state().loading) {
          <p class="empty">
            No round goes yet. Make one with its days and its stops; what ships to them is gathered by day.
          </p>
        }
      }
    </div>
  </div>`,
  styles: `
    .sheet {
      overflow: auto;
      padding: 0 24px 24px;
    }
    section {
      border-top: 1px solid var(--rule-strong);
      padding: 10px 0 14px;
    }
    h2 {
      font: 600 18px/1.3 var(--serif);
    }
    h2 span {
      margin-left: 8px;
      font-weight: 400;
      font-size: 15px;
      color: var(--ink-soft);
    }
    .runs {
      display: flex;
      align-items: center;
      gap: 18px;
      font-size: 16px;
    }
    .gap {
      flex: 1;
    }
    ol {
      columns: 2;
      margin: 4px 0 0;
      padding-left: 22px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RoundsPage {
  private readonly service = inject(Rounds);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  protected readonly may = this.session.may('goods');
  protected readonly refusals = signal<readonly RefusalShown[]>([]);
  protected readonly rounds = liveDocument(
    signal(null),
    () => this.service.list(),
    () => false,
  );

  constructor() {
    inject(Title).setTitle('Rounds · Kampong');
  }

  protected keep(round?: RoundShown): void {
    this.sheets.open(RoundSheet, round ? { round } : {}).subscribe((done) => {
      if (!done) return;
      this.rounds.reload();
      this.notices.show(round ? 'The round is changed.' : 'The round is made.');
    });
  }

  protected drop(round: RoundShown): void {
    this.sheets
      .choose<Asks, boolean>(AskSheet, {
        head: `Put ${round.name} out of use`,
        sub: 'Its addresses are on no round; what is loaded for it is not',
        act: 'Put it out of use',
      })
      .pipe(
        filter((yes) => yes === true),
        switchMap(() => this.service.drop(round.id, round.version)),
      )
      .subscribe({
        next: () => this.rounds.reload(),
        error: (error: unknown) => this.refusals.set(refusalsOf(error)),
      });
  }

  protected words({ week, vehicle, stops, mostWeight }: RoundShown): string {
    const days = DAYS.filter((_day, at) => week[at] === '1').join(', ');
    const carries = mostWeight === null ? '' : ` up to ${quantity(mostWeight)} kg`;
    return `${days} · ${counted(stops.length, 'stop')}${vehicle ? ` · ${vehicle}${carries}` : ''}`;
  }
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
