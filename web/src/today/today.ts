import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { longDayText } from '@core/kernel';
import * as contract from '@api/today';
import { Session } from '../access';
import { DocumentDockLazy } from '../documents/lazy';
import { Api } from '../kit/act/api';
import { Bead } from '../kit/charts/bead';
import { Chips } from '../kit/controls/chips';
import { pathOf } from '../kit/documents';
import { liveDocument } from '../kit/live/live';
import { Refusals } from '../kit/act/refusals';
import { MissingSteps } from '../setup';
import { AskedBand } from './asked';
import { sentenceOfRow, type TodayShown } from './sentences';

const BANDS = [
  { band: 'now', name: 'Needs you now' },
  { band: 'coming', name: 'Coming up' },
  { band: 'waiting', name: 'Waiting for others' },
] as const;

const keyOf = ({ row }: TodayShown) => `${row.kind} ${row.document.id}`;

/** The work list: what needs a person, each row a sentence with its next step. */
@Component({
  selector: 'k-today',
  imports: [AskedBand, Bead, Chips, DocumentDockLazy, MissingSteps, Refusals, RouterLink],
  templateUrl: './today.html',
  styleUrl: './today.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TodayPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  protected readonly state = liveDocument(
    this.session.workDate,
    () => this.api.call(contract.today),
    () => true,
  ).state;
  protected readonly chip = signal('All');
  private readonly chosen = signal<string | null>(null);
  /** The row the dock is about: the chosen one, else the first. */
  protected readonly selected = computed(
    () => this.rows().find((shown) => keyOf(shown) === this.chosen()) ?? this.bands()[0]?.rows[0] ?? null,
  );
  /** What a sister sent is hers: the dock tells of what is ours. */
  protected readonly about = computed(() => {
    const row = this.selected()?.row;
    return row && row.kind !== 'offer' ? row.document : null;
  });
  protected readonly heading = computed(() => longDayText(this.session.workDate()));
  private readonly rows = computed(() =>
    (this.state().value?.rows ?? []).map((row) => sentenceOfRow(row, this.session.workDate())),
  );
  protected readonly summary = computed(() => {
    const count = (band: string) => this.rows().filter((shown) => shown.row.band === band).length;
    const said = (band: Parameters<typeof count>[0], one: string, many: string) =>
      `${count(band)} ${count(band) === 1 ? one : many}`;
    const now = said('now', 'needs you now', 'need you now');
    const coming = said('coming', 'is coming up', 'are coming up');
    return `${now}, ${coming}, ${said('waiting', 'waits for others', 'wait for others')}`;
  });
  protected readonly chips = computed(() => {
    const counts = new Map<string, number>();
    for (const { chip } of this.rows()) counts.set(chip, (counts.get(chip) ?? 0) + 1);
    return [
      { value: 'All', label: 'All' },
      ...[...counts].map(([chip, count]) => ({ value: chip, label: `${chip} ${count}` })),
    ];
  });
  protected readonly bands = computed(() =>
    BANDS.map((band) => ({
      ...band,
      rows: this.rows().filter(
        (shown) => shown.row.band === band.band && (this.chip() === 'All' || shown.chip === this.chip()),
      ),
    })).filter((band) => band.rows.length > 0),
  );
  protected readonly pathOf = pathOf;

  constructor() {
    inject(Title).setTitle('Today · Kampong');
  }

  protected choose(shown: TodayShown): void {
    this.chosen.set(keyOf(shown));
  }

  protected go(shown: TodayShown): void {
    void this.router.navigateByUrl(shown.link);
  }

  /** Arrows walk the rows across the bands; Enter takes the next step. */
  protected walk(event: Event, by: number): void {
    event.preventDefault();
    const all = [...document.querySelectorAll<HTMLElement>('.todo')];
    all[all.indexOf(event.currentTarget as HTMLElement) + by]?.focus();
  }
}
