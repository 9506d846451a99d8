import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { of } from 'rxjs';
import type * as z from 'zod';
import type * as contract from '@api/promise';
import { addDays, isDecimalText, MAIN_LOCATION, pointOf, type DocumentKind } from '@core/kernel';
import { answers, Ground, unscaled, type Answer } from '@core/promise';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { Chips } from '../kit/controls/chips';
import { day, quantity } from '../kit/formats';
import { LineChart, type ChartLine } from '../kit/charts/line-chart';
import { liveDocument } from '../kit/live/live';
import { Promises } from './service';

/** What moves an item's balance: anything that orders, buys, makes, receives, ships, brings back or carries elsewhere. */
const MOVES: readonly DocumentKind[] = ['SO', 'PO', 'RC', 'SH', 'CN', 'JR', 'PR', 'AS', 'PL', 'AG'];

type Shown = z.infer<typeof contract.openAvailability.out>;

interface Row {
  day: string;
  kind: string;
  id: number;
  number: string;
  party: string;
  coming: boolean;
  quantity: string;
  balance: string;
  available: string;
}

/** What stands on a day: since the last step before it, or at first. */
const standsOn = <Step extends { day: number }>(steps: readonly Step[], day: number): Step =>
  steps.filter((step) => step.day <= day).at(-1) ?? steps[0]!;

/** What is there of an item by day: drawn, and every document that brings or takes some. // T1 T2 */
@Component({
  selector: 'k-availability',
  imports: [Chips, LineChart, RouterLink],
  template: `@if (shown(); as shown) {
      <div class="columns">
        <div class="drawn">
          @if (places().length > 1) {
            <k-chips label="Location" [chips]="places()" [(value)]="chosen" />
          }
          <p class="said">{{ shown.said }}</p>
          <k-line-chart
            [label]="shown.label"
            [lines]="shown.lines"
            [firstDay]="workDate()"
            [lastDay]="shown.lastDay"
            [workDate]="workDate()"
            [most]="shown.most"
            [mark]="shown.mark"
          />
          <p class="faint key"><b>—</b> balance &nbsp; <b>···</b> available &nbsp; <b>- -</b> asked for</p>
        </div>
        <div class="listed">
          <table class="small">
            <thead>
              <tr>
                <th>Day</th>
                <th>Document</th>
                <th>Who</th>
                <th class="num">Quantity</th>
                <th class="num">Balance</th>
                <th class="num">Available</th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>{{ day(workDate()) }}</td>
                <td>on hand</td>
                <td class="faint">{{ shown.kept }}</td>
                <td class="num">{{ number(shown.onHand) }}</td>
                <td class="num">{{ number(shown.start.balance) }}</td>
                <td class="num">{{ number(shown.start.available) }}</td>
              </tr>
              @for (row of shown.rows; track $index) {
                <tr>
                  <td>{{ day(row.day) }}</td>
                  <td>
                    <a class="link" [routerLink]="pathOf(row)">{{ row.number }}</a>
                  </td>
                  <td>{{ row.party }}</td>
                  <td class="num">{{ row.coming ? '+' : '−' }}{{ number(row.quantity) }}</td>
                  <td class="num">{{ number(row.balance) }}</td>
                  <td class="num">{{ number(row.available) }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="6" class="faint">Nothing comes and nothing goes.</td>
                </tr>
              }
            </tbody>
          </table>
        </div>
      </div>
    } @else if (itemId() === null) {
      <p class="faint">Here stands what is there of the item one is on, and when.</p>
    }`,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: minmax(300px, 5fr) 7fr;
      gap: 28px;
      height: 100%;
      min-height: 0;
    }
    .drawn {
      display: grid;
      grid-template-rows: auto minmax(90px, 1fr) auto;
      min-height: 0;
    }
    .said {
      font-weight: 600;
    }
    k-chips + .said {
      margin-top: 4px;
    }
    .drawn:has(k-chips) {
      grid-template-rows: auto auto minmax(80px, 1fr) auto;
    }
    .key {
      font-size: 12px;
    }
    .listed {
      overflow: auto;
      min-height: 0;
    }
    table.small td {
      height: 25px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AvailabilityPanel {
  private readonly promises = inject(Promises);
  private readonly session = inject(Session);
  readonly itemId = input<number | null>(null);
  /** Where the line goes out from: shown until another is chosen. */
  readonly locationId = input(MAIN_LOCATION);
  /** The line that asks: its own demand is left out. */
  readonly lineId = input<number | null>(null);
  readonly asks = input('');
  /** The day it is asked for. */
  readonly by = input<string | null>(null);
  protected readonly workDate = this.session.workDate;
  private readonly key = computed(() => ({ item: this.itemId(), line: this.lineId() }), {
    equal: (a, b) => a.item === b.item && a.line === b.line,
  });
  private readonly rows = liveDocument(
    this.key,
    ({ item, line }) => (item === null ? of(null) : this.promises.availability(item, line)),
    (document) => MOVES.includes(document.kind),
  ).state;

  private readonly ground = computed(() => {
    const rows = this.rows().value;
    return rows && new Ground(rows);
  });
  protected readonly chosen = linkedSignal(() => {
    this.key();
    return String(this.locationId());
  });
  /** Each of our places with what could be had there by the day it is asked for. */
  protected readonly places = computed(() => {
    const ground = this.ground();
    const item = this.itemId();
    if (!ground || item === null) return [];
    const by = ground.dayIndex(this.by() ?? this.workDate());
    return (this.rows().value?.places ?? []).map(({ id, name }) => {
      const steps = ground.timelines.steps(ground.at(pointOf(item, id)));
      const then = standsOn(steps, by);
      return { value: String(id), label: `${name}: ${this.number(unscaled(then.available))}` };
    });
  });

  protected readonly shown = computed(() => {
    const rows = this.rows().value;
    const ground = this.ground();
    const point = pointOf(this.itemId() ?? 0, Number(this.chosen()));
    const item = rows?.items.find(({ id }) => id === point);
    if (!rows || !ground || !item) return null;
    const index = ground.at(item.id);
    const steps = ground.timelines.steps(index);
    const at = (when: string) => {
      const step = standsOn(steps, ground.dayIndex(when));
      return { balance: unscaled(step.balance), available: unscaled(step.available) };
    };
    const shownOn = (when: string) => (when < rows.workDate ? rows.workDate : when);
    const listed: Row[] = [
      ...rows.supplies.map((move) => ({ move, coming: true })),
      ...rows.demands.map((move) => ({ move, coming: false })),
    ]
      .filter(({ move }) => move.itemId === point)
      .map(({ move, coming }) => ({ ...move.source, day: move.day, quantity: move.quantity, coming, ...at(move.day) }))
      .sort((a, b) => a.day.localeCompare(b.day) || Number(b.coming) - Number(a.coming));
    const lastDay = addDays(
      listed.map((row) => shownOn(row.day)).reduce((a, b) => (a > b ? a : b), addDays(rows.workDate, 28)),
      7,
    );
    const asked = isDecimalText(this.asks(), 'quantity') && Number(this.asks()) > 0 ? this.asks() : null;
    const values = steps.flatMap((step) => [Number(unscaled(step.balance)), Number(unscaled(step.available))]);
    const points = (of: 'balance' | 'available') =>
      [...steps, { ...steps.at(-1)!, day: ground.dayIndex(lastDay) }].flatMap((step, place, all) => {
        const here = { day: addDays(rows.workDate, step.day), value: Number(unscaled(step[of])) };
        const before = all[place - 1];
        return before ? [{ day: here.day, value: Number(unscaled(before[of])) }, here] : [here];
      });
    const lines: ChartLine[] = [
      { name: 'Balance', look: 'full', points: points('balance') },
      { name: 'Available', look: 'dots', points: points('available') },
    ];
    if (asked) {
      const value = Number(asked);
      lines.push({
        name: 'Asked for',
        look: 'dashes',
        points: [rows.workDate, lastDay].map((when) => ({ day: when, value })),
      });
    }
    const found = asked
      ? answers(ground, [{ key: '', itemId: item.id, quantity: asked, asked: this.by() }], () => 'atp')[0]!
      : null;
    return {
      rows: listed,
      lines,
      lastDay,
      onHand: item.onHand,
      kept: [
        ...(item.held === '0' ? [] : [`${quantity(item.held)} held for orders`]),
        ...(item.safetyStock === '0' ? [] : [`${quantity(item.safetyStock)} kept back`]),
      ].join(', '),
      start: { balance: unscaled(steps[0]!.balance), available: unscaled(steps[0]!.available) },
      most: Math.max(1, Number(asked ?? 0), ...values),
      mark:
        found && found.day !== null && found.parts.every((part) => !part.lead)
          ? { day: addDays(rows.workDate, found.day), text: this.day(addDays(rows.workDate, found.day)) }
          : null,
      said: rows.own
        ? this.promisedOf(rows.own)
        : found
          ? this.sayOf(found, asked!, item.number)
          : `${item.number} by day`,
      label: `Balance and availability of ${item.number} by day; the table beside it says the same`,
    };
  });

  /** What was promised of the line, and what comes for it alone: that is in no balance. // T8 */
  private promisedOf({ day: on, planned }: NonNullable<Shown['own']>): string {
    const comes = planned.map((each) => `${quantity(each.quantity)} of ${each.number} on ${this.day(each.day)}`);
    return `Promised for ${this.day(on)}${comes.length > 0 ? `: ${comes.join(', ')} come for it alone` : ''}`;
  }

  private sayOf(found: Answer, asked: string, item: string): string {
    const when = (index: number) => this.day(addDays(this.workDate(), index));
    const there = found.parts.filter((part) => !part.lead);
    const lead = found.parts.find((part) => part.lead);
    if (there.length === 0) {
      return lead
        ? `None of ${quantity(asked)} ${item} are to be had; by lead time ${when(lead.day)}`
        : `None of ${quantity(asked)} ${item} are to be had`;
    }
    if (!lead && found.day !== null) return `${quantity(asked)} ${item} can be had on ${when(found.day)}`;
    const parts = there.map((part) => `${quantity(unscaled(part.quantity))} on ${when(part.day)}`).join(', ');
    return `${parts}${lead ? `, the rest by lead time ${when(lead.day)}` : ', no more'}`;
  }

  protected readonly pathOf = (row: Row) => pathOf({ kind: row.kind as DocumentKind, id: row.id });
  protected readonly day = (value: string) => day(value, this.workDate());
  protected readonly number = (value: string) => quantity(value);
}
