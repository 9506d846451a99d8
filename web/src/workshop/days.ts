import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import type * as contract from '@api/workshop';
import { Session } from '../access';
import { Refusals } from '../kit/act/refusals';
import { Chips } from '../kit/controls/chips';
import { pathOf } from '../kit/documents';
import { day, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Workshop } from './service';

type Days = z.infer<typeof contract.openWorkshopDays.out>;
type Operation = Days['centres'][number]['operations'][number];

/** What is shown of all that is to be done: everything, or only what somebody has to look after. */
const SHOWN = [
  ['all', 'All of it'],
  ['begin', 'To begin'],
  ['waits', 'Waits for a component'],
  ['late', 'Late for somebody'],
] as const;
type Shown = (typeof SHOWN)[number][0];

const SHOWS: Record<Shown, (operation: Operation) => boolean> = {
  all: () => true,
  begin: ({ begun, lacks, ready }) => !begun && lacks.length === 0 && ready !== '0',
  waits: ({ lacks }) => lacks.length > 0,
  late: ({ late, cell }) => late || cell === 'behind',
};

/** The workshop by work centre and day: what is behind, what is to begin, what waits, what is late and for whom. // W3 */
@Component({
  selector: 'k-workshop-days',
  imports: [Chips, Refusals, RouterLink],
  templateUrl: './days.html',
  styleUrl: './days.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WorkshopDays {
  private readonly workshop = inject(Workshop);
  private readonly session = inject(Session);
  protected readonly loaded = liveDocument(
    signal('days'),
    () => this.workshop.days(),
    (document) => ['PR', 'AS', 'WR', 'RC', 'JR', 'SO'].includes(document.kind),
  );
  protected readonly found = computed(() => this.loaded.state().value);
  protected readonly shown = signal<Shown>('all');
  protected readonly chips = computed(() => {
    const all = this.found()?.centres.flatMap(({ operations }) => operations) ?? [];
    return SHOWN.map(([value, label]) => ({ value, label: `${label} ${all.filter(SHOWS[value]).length}` }));
  });
  /** A row for each centre with anything to do, a cell for what is behind and for each day. */
  protected readonly rows = computed(() => {
    const found = this.found();
    if (!found) return [];
    const cells = ['behind', ...found.days];
    return found.centres
      .map(({ operations, ...centre }) => {
        const own = operations.filter((each) => each.cell !== null && SHOWS[this.shown()](each));
        return {
          ...centre,
          minutes: own.reduce((total, { minutesLeft }) => total + minutesLeft, 0),
          cells: cells.map((cell) => ({ cell, operations: own.filter((each) => each.cell === cell) })),
        };
      })
      .filter(({ cells: each }) => each.some(({ operations }) => operations.length > 0));
  });

  constructor() {
    inject(Title).setTitle('The workshop by day · Kampong');
  }

  /** What stands in its way, the worst first; nothing where nothing does. */
  protected why({ lacks, before, ready, party, late, cell }: Operation): string {
    const waits = lacks.map(({ item, quantity: many }) => `${quantity(many)} ${item}`).join(', ');
    return [
      late ? `late for ${party}` : cell === 'behind' ? 'behind' : '',
      waits ? `waits for ${waits}` : '',
      !waits && ready === '0' && before ? `after ${before}` : '',
    ]
      .filter(Boolean)
      .join(' · ');
  }

  /** What it is in a sentence, for whoever does not see the table. */
  protected words(operation: Operation): string {
    const { work, operation: name, item, quantity: many, done } = operation;
    return [`${work.number} ${name}, ${quantity(done)} of ${quantity(many)} ${item} done`, this.why(operation)]
      .filter(Boolean)
      .join(', ');
  }

  protected readonly hours = (minutes: number) => quantity(String(Math.round(minutes / 6) / 10));
  protected readonly pathOf = pathOf;
  protected readonly number = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
