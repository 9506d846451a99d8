import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { finalize } from 'rxjs/operators';
import { runOf } from '@core/rounds';
import { dec, inUnits } from '@core/kernel';
import { Session } from '../access';
import { refusalsOf, type ActDone, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Bead } from '../kit/charts/bead';
import { pathOf } from '../kit/documents';
import { counted, day, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Rounds, type RunSheet, type RunStop } from './service';

/** The run of a round on a day, stop by stop: what goes, what is loaded, what is over the vehicle. // S11 */
@Component({
  selector: 'k-run',
  imports: [Bead, Refusals, RouterLink],
  templateUrl: './run.html',
  styleUrl: './run.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RunPage {
  private readonly rounds = inject(Rounds);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);
  readonly id = input.required<string>();
  readonly day = input.required<string>();
  private readonly key = computed(() => `${this.id()} ${this.day()}`);
  protected readonly loaded = liveDocument(
    this.key,
    () => this.rounds.run(Number(this.id()), this.day()),
    ({ kind }) => ['SO', 'SH', 'RC', 'JR', 'CT'].includes(kind),
  );
  protected readonly run = computed((): RunSheet | null => this.loaded.state().value);
  protected readonly may = this.session.may('goods');
  protected readonly refusals = signal<readonly RefusalShown[]>([]);
  protected readonly busy = signal(false);
  /** Numbers of pieces, as they are typed, by line; begun anew with each run. */
  protected readonly numbers = linkedSignal<string, ReadonlyMap<number, string>>({
    source: this.key,
    computation: () => new Map(),
  });
  private readonly stopIds = computed(() => (this.run()?.round.stops ?? []).map(({ shipToId }) => shipToId));
  /** What is on the vehicle by now, and what that comes to. */
  protected readonly onIt = computed(() => {
    const run = this.run();
    if (!run) return null;
    const lines = run.stops.flatMap((stop) =>
      stop.lines
        .filter(({ loaded }) => dec(loaded).gt(0))
        .map((line) => ({
          lineId: line.lineId,
          shipToId: stop.shipToId,
          now: '0',
          loaded: line.loaded,
          weight: line.weight,
          volume: '0',
        })),
    );
    return {
      count: lines.length,
      ...runOf(this.stopIds(), lines, { mostWeight: run.round.mostWeight, mostVolume: null }),
    };
  });
  protected readonly sub = computed(() => {
    const run = this.run();
    if (!run) return '';
    const lines = run.stops.reduce((sum, { lines: own }) => sum + own.length, 0);
    return `${counted(run.stops.length, 'stop')}, ${counted(lines, 'line')}, ${quantity(run.weight)} kg${run.round.vehicle ? ` on ${run.round.vehicle}` : ''}`;
  });
  protected readonly over = computed(() => {
    const run = this.run();
    if (!run) return '';
    return [
      dec(run.overWeight).gt(0) ? `${quantity(run.overWeight)} kg more than the vehicle carries` : '',
      dec(run.overVolume).gt(0) ? `${quantity(run.overVolume)} m³ more than it holds` : '',
    ]
      .filter(Boolean)
      .join(', ');
  });
  protected readonly paper = computed(() => `/api/rounds/${this.id()}/runs/${this.day()}/sheet.pdf`);
  /** Nothing is on the vehicle yet of what could be. */
  protected readonly toLoad = computed(() =>
    (this.run()?.stops ?? []).flatMap(({ lines }) => lines.filter(({ now, loaded }) => now !== '0' && loaded === '0')),
  );

  constructor() {
    const title = inject(Title);
    effect(() => title.setTitle(`${this.run()?.round.name ?? 'Run'} · Kampong`));
  }

  protected loadAll(): void {
    this.load(this.toLoad().map(({ lineId, now }) => ({ lineId, quantity: now })));
  }

  protected loadOne(lineId: number, quantityTyped: string): void {
    this.load([{ lineId, quantity: quantityTyped }]);
  }

  private load(lines: { lineId: number; quantity: string }[]): void {
    this.does(this.rounds.load(Number(this.id()), this.day(), lines), () => undefined);
  }

  protected ship(stop: RunStop): void {
    const numbers = stop.lines.flatMap(({ lineId }) => {
      const named = (this.numbers().get(lineId) ?? '').split(/[\s,;]+/).filter((each) => each !== '');
      return named.length > 0 ? [{ lineId, numbers: named }] : [];
    });
    this.does(this.rounds.ship(Number(this.id()), this.day(), stop.shipToId, numbers), ({ made }) =>
      this.notices.show('Shipped:', made.find(({ kind }) => kind === 'SH') ?? null),
    );
  }

  private does(act: ReturnType<Rounds['load']>, then: (done: ActDone) => void): void {
    this.busy.set(true);
    this.refusals.set([]);
    act.pipe(finalize(() => this.busy.set(false))).subscribe({
      next: (done) => {
        then(done);
        this.loaded.reload();
      },
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }

  protected type(lineId: number, text: string): void {
    this.numbers.update((numbers) => new Map(numbers).set(lineId, text));
  }

  protected readonly share = (part: string, whole: string) => (dec(whole).eq(0) ? 0 : Number(dec(part).div(whole)));
  protected readonly units = (value: string, unit: string) => inUnits(quantity(value), unit);
  protected readonly quantity = quantity;
  protected readonly isZero = (value: string) => dec(value).eq(0);
  protected readonly shownDay = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
}
