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
import { Router, RouterLink } from '@angular/router';
import { dec } from '@core/kernel';
import { Session } from '../access';
import { refusalsOf, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Bead } from '../kit/charts/bead';
import { pathOf } from '../kit/documents';
import { day, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Workshop, type CentreWork } from './service';

type Row = CentreWork['rows'][number];

/** Where a device keeps the work centre of a company it stands at. */
const keyOf = (companyId: number | undefined) => `kampong-at-${companyId ?? ''}`;

/** At the bench: one thing, what is next here, and the one act; the rest waits below. Made for a tablet. // W3 */
@Component({
  selector: 'k-centre',
  imports: [Bead, Refusals, RouterLink],
  templateUrl: './centre.html',
  styleUrl: './centre.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CentrePage {
  private readonly workshop = inject(Workshop);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  readonly id = input<string>();
  private readonly key = keyOf(this.session.company()?.id);
  /** The centre of the address, else the one this device was at last, else the first. */
  private readonly at = computed(() => this.id() ?? localStorage.getItem(this.key) ?? '0');
  protected readonly loaded = liveDocument(
    this.at,
    (id) => this.workshop.centre(Number(id)),
    (document) => ['PR', 'AS', 'WR', 'RC', 'JR'].includes(document.kind),
  );
  protected readonly shown = computed(() => this.loaded.state().value);
  /** What was chosen to be done next, else the first that can be. */
  private readonly chosen = signal<number | null>(null);
  protected readonly now = computed(() => {
    const rows = this.shown()?.rows ?? [];
    const can = rows.filter(({ ready, lacks }) => ready !== '0' && lacks.length === 0);
    return rows.find(({ operationId }) => operationId === this.chosen()) ?? can[0] ?? rows[0] ?? null;
  });
  protected readonly others = computed(() => (this.shown()?.rows ?? []).filter((row) => row !== this.now()));
  /** How many are done at once: one, unless somebody says so. */
  protected readonly count = linkedSignal<number | undefined, string>({
    source: () => this.now()?.operationId,
    computation: () => '1',
  });
  protected readonly lost = linkedSignal<number | undefined, string>({
    source: () => this.now()?.operationId,
    computation: () => '0',
  });
  /** The numbers of what comes out, where no pattern makes them: scanned one after the other. // P6 */
  protected readonly numbers = linkedSignal<number | undefined, string>({
    source: () => this.now()?.operationId,
    computation: () => '',
  });
  /** What was scanned or typed to find an order. */
  protected readonly scanned = signal('');
  protected readonly busy = signal(false);
  protected readonly refusals = signal<readonly RefusalShown[]>([]);
  protected readonly mayReport = this.session.may('work');

  constructor() {
    effect(() => {
      const centre = this.shown()?.centre;
      if (centre) localStorage.setItem(this.key, String(centre.id));
      // One that is gone is not gone to again.
      else if (this.loaded.state().refusals.length > 0) localStorage.removeItem(this.key);
    });
    inject(Title).setTitle('At the bench · Kampong');
  }

  protected choose(row: Row): void {
    this.chosen.set(row.operationId);
    this.refusals.set([]);
  }

  /** Goes to the order whose number was scanned: it is what is next then. */
  protected find(event: Event): void {
    event.preventDefault();
    const number = this.scanned().trim().toUpperCase();
    const row = this.shown()?.rows.find(({ work }) => work.number === number);
    this.scanned.set('');
    if (row) return this.choose(row);
    this.notices.show(`${number || 'Nothing'} has nothing to do here.`);
  }

  protected goTo(centreId: string): void {
    void this.router.navigate(['/workshop/at', centreId]);
  }

  protected step(by: number): void {
    const row = this.now();
    if (!row) return;
    const next = dec(this.count() || '0').plus(by);
    if (next.gte(1) && next.lte(row.ready)) this.count.set(next.toFixed());
  }

  protected report(row: Row): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.refusals.set([]);
    this.workshop
      .reportOne({
        workId: row.work.id,
        operationId: row.operationId,
        good: this.count(),
        scrapped: this.lost() === '0' ? '' : this.lost(),
        used: [],
        worked: [],
        finish: false,
        ...(row.typesNumbers
          ? {
              numbers: this.numbers()
                .split(/[\s,;]+/)
                .filter((each) => each !== ''),
            }
          : {}),
      })
      .subscribe({
        next: ({ made }) => {
          this.busy.set(false);
          this.count.set('1');
          this.lost.set('0');
          this.numbers.set('');
          this.loaded.reload();
          this.notices.show(`${row.operation} of ${row.work.number} reported:`, made[0]);
        },
        error: (error: unknown) => {
          this.busy.set(false);
          this.refusals.set(refusalsOf(error));
        },
      });
  }

  protected readonly share = ({ done, quantity: all }: Row) => Number(done) / Number(all);
  /** Why nothing of it can be done now. */
  protected readonly waits = ({ ready, before, lacks }: Row) =>
    ready === '0' ? `waits for ${before}` : lacks.length > 0 ? `lacks ${lackText(lacks)}` : '';
  protected readonly lackText = lackText;
  protected readonly pathOf = pathOf;
  protected readonly number = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());
}

const lackText = (lacks: Row['lacks']) =>
  lacks.map(({ item, quantity: much }) => `${quantity(much)} ${item}`).join(', ');
