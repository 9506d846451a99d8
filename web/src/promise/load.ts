import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import type { DocumentKind } from '@core/kernel';
import { Session } from '../access';
import { Chips } from '../kit/controls/chips';
import { pathOf } from '../kit/documents';
import { day } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { LaySheet, type LayData } from '../workshop';
import { Promises, type CentreLoad } from './service';

const DAYS = 42;

interface Bar {
  /** The first day of what it stands for. */
  day: string;
  capacity: number;
  minutes: number;
  orders: CentreLoad['days'][number]['orders'];
}

/** Work centres against what they can do, by day or week; the orders behind each bar. */
@Component({
  selector: 'k-load',
  imports: [Chips, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        Load<span
          >what each work centre has to do against what it can, {{ by() === 'day' ? 'by day' : 'by week' }}</span
        >
      </h1>
      <a class="act" routerLink="/lists" [queryParams]="{ list: 'overtime' }">Overtime</a>
      <a class="act" routerLink="/lists" [queryParams]="{ list: 'machines-out' }">Machines out</a>
      <a class="act" routerLink="/lists" [queryParams]="{ list: 'work-centres' }">Work centres</a>
      <a class="act" routerLink="/planned">What is planned</a>
    </div>
    <div class="filters">
      <k-chips label="By" [chips]="spans" [value]="by()" (valueChange)="by.set($any($event))" />
    </div>
    <div class="sheet split">
      <table class="small loads">
        <thead>
          <tr>
            <th>Work centre</th>
            @for (bar of first(); track bar.day; let index = $index) {
              <th class="when">{{ label(bar.day, index) }}</th>
            }
          </tr>
        </thead>
        <tbody>
          @for (centre of centres(); track centre.id) {
            <tr>
              <th scope="row">
                {{ centre.name }}<small class="faint">{{ centre.code }}</small>
              </th>
              @for (bar of centre.bars; track bar.day) {
                <td>
                  <button
                    type="button"
                    class="bar"
                    [class.on]="chosen()?.centre === centre.id && chosen()?.day === bar.day"
                    [class.none]="bar.capacity === 0"
                    [class.over]="bar.minutes > bar.capacity"
                    [class.over-it]="over() === centre.id + ' ' + bar.day"
                    [attr.aria-label]="wordsOf(centre.name, bar)"
                    (click)="chosen.set({ centre: centre.id, day: bar.day })"
                    (dragover)="hover($event, centre.id, bar.day)"
                    (dragleave)="over.set('')"
                    (drop)="drop($event, centre.id, bar.day)"
                  >
                    <i [style.height.%]="shareOf(bar)"></i>
                  </button>
                </td>
              }
            </tr>
          } @empty {
            <tr>
              <td class="faint">There are no work centres yet; add them to the lists.</td>
            </tr>
          }
        </tbody>
      </table>
      <section>
        @if (behind(); as shown) {
          <h2>{{ shown.title }}</h2>
          @if (mayLay && shown.orders.length > 0) {
            <p class="faint">Drag one to another day or work centre; what that moves is said before it is done.</p>
          }
          <table class="small">
            <tbody>
              @for (order of shown.orders; track order.id) {
                <tr [attr.draggable]="mayLay ? true : null" [class.grab]="mayLay" (dragstart)="lift($event, order)">
                  <td>
                    <a class="link" draggable="false" [routerLink]="pathOf(order)">{{ order.number }}</a>
                  </td>
                  <td>{{ order.item }}</td>
                  <td class="num">{{ order.minutes }} min</td>
                  @if (mayLay) {
                    <td>
                      <button
                        type="button"
                        class="act"
                        [attr.aria-label]="'Lay ' + order.number + ' again'"
                        (click)="lay(order, null)"
                      >
                        Lay it again…
                      </button>
                    </td>
                  }
                </tr>
              } @empty {
                <tr>
                  <td class="faint">Nothing is planned there then.</td>
                </tr>
              }
            </tbody>
          </table>
        }
      </section>
    </div>
  </div>`,
  styles: `
    .split {
      overflow: auto;
    }
    .loads {
      table-layout: fixed;
    }
    .loads th:first-child {
      width: 150px;
      text-align: left;
    }
    .loads small {
      display: block;
      font-weight: 400;
    }
    .when {
      font-size: 11px;
      font-weight: 400;
      white-space: nowrap;
      overflow: visible;
      text-align: left;
      padding: 0;
    }
    .loads td {
      padding: 3px 1px;
      height: 62px;
      vertical-align: bottom;
    }
    .bar {
      display: flex;
      align-items: flex-end;
      width: 100%;
      height: 54px;
      padding: 0;
      border: 1px solid var(--rule-strong);
      border-radius: 2px;
      background: var(--paper-lift);
      cursor: pointer;
    }
    .bar.none {
      border-color: transparent;
      background: repeating-linear-gradient(135deg, var(--paper-sunk) 0 3px, transparent 3px 6px);
    }
    .bar.on {
      outline: 2px solid var(--deep);
    }
    .bar.over-it {
      outline: 2px dashed var(--deep);
    }
    .grab {
      cursor: grab;
    }
    .bar i {
      display: block;
      width: 100%;
      background: var(--deep);
    }
    .bar.over i {
      background: var(--ochre-mark);
    }
    h2 {
      font: 600 16px var(--serif);
      margin: 16px 0 4px;
    }
    section table {
      width: 560px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LoadPage {
  private readonly promises = inject(Promises);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  protected readonly mayLay = this.session.may('plan');
  /** The bar that something is dragged over. */
  protected readonly over = signal('');
  private readonly lifted = signal<Bar['orders'][number] | null>(null);
  protected readonly by = signal<'day' | 'week'>('day');
  protected readonly spans = [
    { value: 'day', label: 'Day' },
    { value: 'week', label: 'Week' },
  ];
  private readonly read = liveDocument(
    this.session.workDate,
    () => this.promises.load(DAYS),
    (document) => ['SO', 'PR', 'AS'].includes(document.kind),
  ).state;
  protected readonly centres = computed(() =>
    (this.read().value?.centres ?? []).map((centre) => ({
      id: centre.id,
      code: centre.code,
      name: centre.name,
      bars: this.by() === 'day' ? centre.days : weeksOf(centre.days),
    })),
  );
  protected readonly first = computed(() => this.centres()[0]?.bars ?? []);
  /** The bar that is looked into: the fullest there is, until another is chosen. */
  protected readonly chosen = linkedSignal<{ centre: number; day: string } | null>(() => {
    const all = this.centres().flatMap((centre) =>
      centre.bars.map((bar) => ({ centre: centre.id, day: bar.day, bar })),
    );
    const fullest = all.reduce<(typeof all)[number] | null>(
      (most, each) => (each.bar.minutes > (most?.bar.minutes ?? 0) ? each : most),
      null,
    );
    return fullest && { centre: fullest.centre, day: fullest.day };
  });
  protected readonly behind = computed(() => {
    const chosen = this.chosen();
    const centre = this.centres().find((each) => each.id === chosen?.centre);
    const bar = centre?.bars.find((each) => each.day === chosen?.day);
    if (!centre || !bar) return null;
    return { title: this.wordsOf(centre.name, bar), orders: bar.orders };
  });
  protected readonly shareOf = (bar: Bar) =>
    bar.capacity === 0 ? (bar.minutes > 0 ? 100 : 0) : Math.min(100, (bar.minutes * 100) / bar.capacity);

  protected lift(event: DragEvent, order: Bar['orders'][number]): void {
    this.lifted.set(order);
    event.dataTransfer?.setData('text/plain', order.number);
  }

  protected hover(event: DragEvent, centreId: number, on: string): void {
    if (!this.lifted()) return;
    event.preventDefault();
    this.over.set(`${centreId} ${on}`);
  }

  protected drop(event: DragEvent, centreId: number, on: string): void {
    event.preventDefault();
    this.over.set('');
    const order = this.lifted();
    this.lifted.set(null);
    if (order) this.lay(order, { centreId, day: on });
  }

  /** Lays an order again, from what is looked into on, where it was dropped. */
  protected lay(order: Bar['orders'][number], to: { centreId: number; day: string } | null): void {
    const from = this.chosen();
    const at = from && {
      from: { centreId: from.centre, day: from.day },
      ...(to ?? { centreId: from.centre, day: from.day }),
    };
    this.sheets
      .open<LayData>(LaySheet, { workId: order.id, number: order.number, at })
      .subscribe((done) => done && this.notices.show('Laid again:', done.touched[0]));
  }

  protected wordsOf(name: string, bar: Bar): string {
    const when = this.by() === 'day' ? this.day(bar.day) : `week of ${this.day(bar.day)}`;
    return bar.capacity === 0 && bar.minutes === 0
      ? `${name}, ${when}: not worked`
      : `${name}, ${when}: ${bar.minutes} of ${bar.capacity} minutes`;
  }

  /** A label every week, so that they stand apart. */
  protected label(when: string, index: number): string {
    if (this.by() === 'week' || index % 7 === 0) return this.day(when).slice(4);
    return '';
  }

  protected readonly pathOf = (order: { kind: string; id: number }) =>
    pathOf({ kind: order.kind as DocumentKind, id: order.id });
  protected readonly day = (value: string) => day(value, this.session.workDate());

  constructor() {
    inject(Title).setTitle('Load · Kampong');
  }
}

/** Days put together by sevens from the first on. */
function weeksOf(days: CentreLoad['days']): Bar[] {
  const weeks: Bar[] = [];
  for (let at = 0; at < days.length; at += 7) {
    const week = days.slice(at, at + 7);
    const orders = new Map<number, Bar['orders'][number]>();
    for (const order of week.flatMap((each) => each.orders)) {
      const before = orders.get(order.id);
      orders.set(order.id, { ...order, minutes: order.minutes + (before?.minutes ?? 0) });
    }
    weeks.push({
      day: week[0]!.day,
      capacity: week.reduce((sum, each) => sum + each.capacity, 0),
      minutes: week.reduce((sum, each) => sum + each.minutes, 0),
      orders: [...orders.values()],
    });
  }
  return weeks;
}
