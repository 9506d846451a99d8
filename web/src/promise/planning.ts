import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { addDays, type DocumentKind } from '@core/kernel';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { Chips } from '../kit/controls/chips';
import { pathOf } from '../kit/documents';
import { DayField, LookupField, type Choice } from '../kit/fields';
import { counted, day, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Chosen, isOld, madeText, RunActs } from './run-acts';
import { Promises, type PlanningShown } from './service';

type Row = PlanningShown['proposals'][number];
type Served = Row['for'][number];

const DAYS_AHEAD = 90;
/** Documents that have a page of their own. */
const LINKED: readonly string[] = ['SO', 'PO', 'PR', 'AS', 'PL', 'AG'];

const SHOWN = [
  { value: 'all', label: 'All' },
  { value: 'buy', label: 'Buy' },
  { value: 'make', label: 'Make' },
  { value: 'change', label: 'Change what is coming' },
  { value: 'late', label: 'Too late as it stands' },
] as const;

const FITS: Record<(typeof SHOWN)[number]['value'], (row: Row) => boolean> = {
  all: () => true,
  buy: (row) => row.kind === 'place' && row.obtained === 'buy',
  make: (row) => row.kind === 'place' && row.obtained !== 'buy',
  change: (row) => row.kind !== 'place',
  late: (row) => row.neededOn !== null,
};

/** What will be wanting until a day, and what to order, make, move or drop for it; taken by one or together. // T11 */
@Component({
  selector: 'k-planning',
  imports: [Chips, DayField, DocumentDock, LookupField, Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>Plan ahead<span>what will be wanting, and what to order, make, move or drop for it</span></h1>
      <a class="act" routerLink="/planned">What is planned</a>
      @if (going()) {
        <button type="button" class="act" (click)="stop()">Stop</button>
      } @else {
        <button
          type="button"
          class="act"
          [class.next]="chosen().length === 0 || old()"
          (click)="start()"
          [disabled]="busy()"
        >
          {{ run() ? 'Plan again' : 'Plan' }}
        </button>
        @if (chosen().length > 0) {
          <button type="button" class="act" [class.next]="!old()" (click)="take()" [disabled]="busy()">
            Take {{ counted(chosen().length, 'proposal') }}
          </button>
        }
      }
    </div>
    <div class="asked">
      <k-day label="Until" [(value)]="until" [workDate]="workDate()" [error]="at('until')" />
      <k-lookup
        label="Only"
        placeholder="every item"
        chosen=""
        [search]="findItems"
        (picked)="only(items().concat($event))"
      />
      @for (item of items(); track item.id) {
        <button type="button" class="chip" (click)="without(item)" [attr.aria-label]="'Not only ' + item.number">
          {{ item.number }} ×
        </button>
      }
      <label class="weigh"
        ><input type="checkbox" [checked]="byProbability()" (change)="weigh($any($event.target).checked)" /> what is
        left of agreements by its probability</label
      >
      @if (proposals().length > 0) {
        <k-chips label="Show" [chips]="shownKinds" [value]="show()" (valueChange)="show.set($any($event))" />
      }
    </div>
    <k-refusals [refusals]="loose()" />
    @if (run(); as shown) {
      @if (going()) {
        <p role="status">
          {{ shown.done }} of {{ counted(shown.total, 'item') }}
          <progress [max]="shown.total || 1" [value]="shown.done" aria-label="Items planned"></progress>
        </p>
      } @else {
        <p role="status">
          <b>{{ said() }}</b> <span [class]="old() ? 'need' : 'faint'">{{ made(shown) }}</span>
        </p>
      }
    }
    <div class="sheet">
      @if (rows().length > 0) {
        <table class="small">
          <thead>
            <tr>
              <th>
                @if (takeable().length > 0) {
                  <input
                    type="checkbox"
                    aria-label="All of them"
                    [checked]="chosen().length === takeable().length"
                    [indeterminate]="chosen().length > 0 && chosen().length < takeable().length"
                    (change)="picked.choose(takeable(), $any($event.target).checked)"
                  />
                }
              </th>
              <th>Do</th>
              <th>Item</th>
              <th class="num">Quantity</th>
              <th>Begin by</th>
              <th>There on</th>
              <th>For</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track row.at) {
              <tr [class.on]="row.at === selected()?.at" (click)="touched.set(row.at)" (focusin)="touched.set(row.at)">
                <td>
                  @if (row.taken === null) {
                    <input
                      type="checkbox"
                      [attr.aria-label]="'Take: ' + doing(row) + ' ' + number(row.quantity) + ' ' + row.item.number"
                      [checked]="picked.has(row.at)"
                      (change)="picked.choose([row.at], $any($event.target).checked)"
                    />
                  }
                </td>
                <td>
                  {{ doing(row) }}
                  @if (row.source; as source) {
                    <a class="link" [routerLink]="pathTo(source)">{{ source.number }}</a>
                  }
                </td>
                <td>
                  <a class="link" [routerLink]="pathOf({ kind: 'item', id: row.item.id })">{{ row.item.number }}</a>
                  <span class="faint"> {{ row.item.name }}</span>
                </td>
                <td class="num">{{ number(row.quantity) }}</td>
                <td>{{ row.start ? day(row.start) : '' }}</td>
                <td class="when">
                  @if (row.from && row.to) {
                    {{ day(row.from) }} → <b>{{ day(row.to) }}</b>
                  } @else if (row.to) {
                    {{ day(row.to) }}
                  } @else {
                    <s>{{ day(row.from!) }}</s>
                  }
                  @if (row.neededOn) {
                    <span class="need">wanted {{ day(row.neededOn) }}</span>
                  }
                </td>
                <td class="for">{{ forWhom(row) }}</td>
                <td>
                  @if (row.taken; as taken) {
                    <a class="link" [routerLink]="pathTo(taken)">{{ taken.number }}</a>
                  }
                </td>
              </tr>
            }
          </tbody>
        </table>
      } @else if (!run()) {
        <p class="empty">
          Nothing was planned yet. Choose the day until which to look, and see what will be wanting by then: what to
          buy, what to make, and what of what is coming is too early, too late or for nobody.
        </p>
      }
      @if (late().length > 0) {
        <h2>Too late, and cannot come sooner</h2>
        <table class="small">
          <tbody>
            @for (row of late(); track $index) {
              <tr>
                <td>
                  @if (linked(row.source)) {
                    <a class="link" [routerLink]="pathTo(row.source)">{{ row.source.number }}</a>
                  } @else {
                    {{ row.source.number }}
                  }
                  {{ row.source.party }}
                </td>
                <td>
                  <a class="link" [routerLink]="pathOf({ kind: 'item', id: row.item.id })">{{ row.item.number }}</a>
                </td>
                <td class="num">{{ number(row.quantity) }}</td>
                <td>
                  comes {{ day(row.comes) }} <span class="need">wanted {{ day(row.neededOn) }}</span>
                </td>
                <td>{{ row.for.join(', ') }}</td>
              </tr>
            }
          </tbody>
        </table>
      }
      @if (short().length > 0) {
        <h2>Wanting, and no way to have it</h2>
        <table class="small">
          <tbody>
            @for (row of short(); track $index) {
              <tr>
                <td>
                  <a class="link" [routerLink]="pathOf({ kind: 'item', id: row.item.id })">{{ row.item.number }}</a>
                </td>
                <td class="num">{{ number(row.quantity) }}</td>
                <td>{{ day(row.day) }}</td>
                <td>{{ row.why }}</td>
              </tr>
            }
          </tbody>
        </table>
      }
    </div>
    @if (selected(); as row) {
      <k-document-dock
        own="For whom"
        [itemId]="row.item.id"
        [asking]="{ lineId: null, locationId: row.locationId, quantity: '', by: null }"
        [about]="doing(row) + ' ' + row.item.number"
      >
        <table class="small whom">
          <tbody>
            @for (each of row.for; track $index) {
              <tr>
                <td>
                  @if (linked(each)) {
                    <a class="link" [routerLink]="pathTo(each)">{{ each.number }}</a>
                  } @else {
                    {{ servedName(each) }}
                  }
                </td>
                <td>{{ each.party }}</td>
                <td class="num">{{ number(each.quantity) }}</td>
                <td>{{ day(each.day) }}</td>
              </tr>
            } @empty {
              <tr>
                <td class="faint">Nobody needs it.</td>
              </tr>
            }
            @if (row.more > 0) {
              <tr>
                <td class="faint" colspan="4">and {{ row.more }} more</td>
              </tr>
            }
          </tbody>
        </table>
      </k-document-dock>
    }
  </div>`,
  styles: `
    .asked {
      display: flex;
      gap: 12px;
      align-items: end;
      padding: 4px 24px 0;
    }
    .asked k-chips {
      margin-left: auto;
      padding-bottom: 4px;
    }
    .chip {
      border: 1px solid var(--rule-strong);
      border-radius: 12px;
      padding: 1px 10px;
      margin-bottom: 4px;
      background: var(--paper-lift);
      color: var(--ink-soft);
      cursor: pointer;
    }
    p[role='status'] {
      margin: 4px 24px 0;
    }
    p[role='status'] span {
      margin-left: 8px;
    }
    .weigh {
      padding-bottom: 6px;
      font-size: 13px;
      color: var(--ink-soft);
    }
    .sheet {
      overflow: auto;
    }
    h2 {
      font: 600 16px var(--serif);
      margin: 12px 0 2px;
    }
    .when,
    .need {
      white-space: nowrap;
    }
    .need {
      color: var(--ochre);
      margin-left: 6px;
    }
    .for {
      max-width: 260px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .whom {
      max-width: 640px;
    }
    tr.on td {
      background: var(--deep-wash);
    }
    progress {
      width: 240px;
      accent-color: var(--deep);
      vertical-align: middle;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlanningPage {
  private readonly promises = inject(Promises);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);
  protected readonly workDate = this.session.workDate;
  private readonly read = liveDocument(
    this.workDate,
    () => this.promises.planning(),
    (document) => LINKED.includes(document.kind),
  );
  protected readonly run = computed(() => this.read.state().value?.run ?? null);
  protected readonly byProbability = computed(() => this.read.state().value?.byProbability ?? false);
  protected readonly going = computed(() => ['waiting', 'running'].includes(this.run()?.state ?? ''));
  protected readonly until = linkedSignal<string | null>(() => addDays(this.workDate(), DAYS_AHEAD));
  protected readonly items = signal<readonly Choice[]>([]);
  protected readonly proposals = computed(() => (this.run()?.state === 'done' ? this.run()!.proposals : []));
  protected readonly short = computed(() => (this.run()?.state === 'done' ? this.run()!.short : []));
  protected readonly late = computed(() => (this.run()?.state === 'done' ? this.run()!.late : []));
  protected readonly shownKinds = SHOWN;
  protected readonly show = signal<(typeof SHOWN)[number]['value']>('all');
  protected readonly rows = computed(() => this.proposals().filter(FITS[this.show()]));
  /** What is shown and not taken. */
  protected readonly takeable = computed(() => this.rows().flatMap((row) => (row.taken === null ? [row.at] : [])));
  /** What somebody was asked for is dropped only where it is clicked. */
  protected readonly picked = new Chosen((at) => this.proposals().find((row) => row.at === at)?.kind !== 'cancel');
  protected readonly chosen = computed(() => this.takeable().filter((at) => this.picked.has(at)));
  protected readonly touched = signal<number | null>(null);
  protected readonly selected = computed(
    () => this.rows().find((row) => row.at === this.touched()) ?? this.rows()[0] ?? null,
  );
  private readonly acts = new RunActs(
    () => this.read.reload(),
    () => this.going(),
  );
  protected readonly busy = this.acts.busy;
  protected readonly old = computed(() => isOld(this.run()!, this.workDate()));
  protected readonly made = madeText;
  protected readonly loose = computed(() => this.acts.refusals().filter((refusal) => refusal.field !== 'until'));
  protected readonly said = computed(() => {
    const run = this.run()!;
    if (run.state === 'stopped') return 'It was stopped; it proposes nothing.';
    if (run.state === 'failed') return 'It could not be finished; plan again.';
    const what = run.items.length > 0 ? `${run.items.join(', ')} and what goes into it` : counted(run.total, 'item');
    const until = `${what} until ${this.day(run.until)}`;
    if (run.proposed === 0 && run.late.length === 0) return `${until}: all that is needed is there or comes in time.`;
    const late = run.proposals.filter((row) => row.neededOn !== null).length;
    const first = run.proposed > run.proposals.length ? `, the first ${run.proposals.length} of them here` : '';
    const tooLate = late > 0 ? `; ${late} too late for whom ${late === 1 ? 'it is' : 'they are'} for` : '';
    return `${until}: ${counted(run.proposed, 'proposal')}${first}${tooLate}.`;
  });

  constructor() {
    inject(Title).setTitle('Plan ahead · Kampong');
  }

  protected at(field: string): string {
    return this.acts.refusals().find((refusal) => refusal.field === field)?.sentence ?? '';
  }

  protected readonly findItems = (words: string) => this.promises.findItems(words);

  protected only(items: readonly Choice[]): void {
    this.items.set([...new Map(items.map((item) => [item.id, item])).values()]);
  }

  protected without(item: Choice): void {
    this.items.update((items) => items.filter((each) => each.id !== item.id));
  }

  protected start(): void {
    this.show.set('all');
    this.picked.forget();
    const itemIds = this.items().map((item) => item.id);
    this.acts.do(this.promises.startPlanning(this.until(), itemIds));
  }

  protected weigh(byProbability: boolean): void {
    this.acts.do(this.promises.weighPlanning(byProbability));
  }

  protected stop(): void {
    this.acts.do(this.promises.stopRun(this.run()!.id));
  }

  protected take(): void {
    const at = this.chosen();
    this.acts.do(this.promises.takeProposals(this.run()!.id, at), ({ made }) =>
      this.notices.show(`${counted(at.length, 'proposal')} taken${made.length > 0 ? ', first' : '.'}`, made[0]),
    );
  }

  protected doing(row: Row): string {
    if (row.kind === 'cancel') return 'Drop';
    if (row.kind === 'move') return row.to! < row.from! ? 'Bring forward' : 'Put off';
    return row.obtained === 'buy' ? `Buy from ${row.vendor}` : row.obtained === 'make' ? 'Make' : 'Assemble';
  }

  protected forWhom(row: Row): string {
    const [first] = row.for;
    if (!first) return 'nobody';
    const rest = row.for.length - 1 + row.more;
    const name = first.party && linkedKind(first) ? `${first.number}, ${first.party}` : this.servedName(first);
    return rest > 0 ? `${name} and ${rest} more` : name;
  }

  protected servedName(served: Served): string {
    if (served.kind !== 'proposal') return served.number;
    const above = this.proposals().find((row) => row.item.id === served.id && row.start === served.day);
    const [whom] = above?.for ?? [];
    return `${served.number} as proposed${whom ? `, for ${this.servedName(whom)}` : ''}`;
  }

  protected readonly linked = linkedKind;
  protected readonly pathOf = pathOf;
  protected readonly pathTo = (document: { kind: string; id: number }) =>
    pathOf({ kind: document.kind as DocumentKind, id: document.id });
  protected readonly day = (value: string) => day(value, this.workDate());
  protected readonly number = quantity;
  protected readonly counted = counted;
}

function linkedKind({ kind }: { kind: string }): boolean {
  return LINKED.includes(kind);
}
