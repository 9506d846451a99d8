import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { of } from 'rxjs';
import { elapsedShare, pace, rateDays } from '@core/agreements';
import { inUnits, share } from '@core/kernel';
import { Session } from '../access';
import { counted, day, money, percent, points, quantity } from '../kit/formats';
import { LineChart, type ChartLine } from '../kit/charts/line-chart';
import { liveDocument } from '../kit/live/live';
import { coversText, movementWords, priceWords, stepWords, type Line } from './agreement-columns';
import { Agreements, type AgreementSheet } from './service';

/** Fulfilled against elapsed for one agreement line, with its forecast, in a chart and in words. // A4 A7 A8 */
@Component({
  selector: 'k-progress-panel',
  imports: [LineChart],
  template: `@if (read(); as shown) {
    <div class="drawn">
      @if (asTable()) {
        <table class="small">
          <thead>
            <tr>
              <th>Day</th>
              <th>What</th>
              <th class="num">Reached</th>
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track $index) {
              <tr>
                <td>{{ row.day }}</td>
                <td class="faint">{{ row.what }}</td>
                <td class="num">{{ row.quantity }}</td>
              </tr>
            }
          </tbody>
        </table>
      } @else {
        <k-line-chart
          [label]="coversText(line()) + ' over the term: ' + words().move + ', expected, and the time gone'"
          [lines]="lines()"
          [firstDay]="shown.firstDay"
          [lastDay]="shown.lastDay"
          [workDate]="workDate()"
          [most]="most()"
          [mark]="mark()"
        />
      }
    </div>
    <div>
      <p>
        <b>{{ headline() }}</b>
      </p>
      <dl class="facts">
        @for (fact of facts(); track fact[0]) {
          <dt>{{ fact[0] }}</dt>
          <dd>{{ fact[1] }}</dd>
        }
      </dl>
      <button type="button" class="act" (click)="asTable.set(!asTable())">
        {{ asTable() ? 'Show the chart' : 'Show as a table' }}
      </button>
      <a class="act" [href]="csv()" [attr.download]="fileName()">Save as CSV</a>
    </div>
  }`,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 640px) minmax(0, 1fr);
      gap: 36px;
      height: 100%;
    }
    .drawn {
      min-height: 150px;
      max-height: 100%;
      overflow: auto;
    }
    k-line-chart {
      height: 100%;
    }
    .facts {
      margin: 4px 0;
    }
    .act {
      margin-left: -10px;
    }
    .act + .act {
      margin-left: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProgressPanel {
  private readonly agreements = inject(Agreements);
  readonly sheet = input.required<AgreementSheet>();
  readonly line = input.required<Line>();
  protected readonly workDate = inject(Session).workDate;
  protected readonly asTable = signal(false);
  private readonly lineId = computed(() => this.line().id);
  private readonly progress = liveDocument(
    this.lineId,
    (id) => (id ? this.agreements.progress(id) : of(null)),
    (document) =>
      (document.kind === 'AG' && document.id === this.sheet().id) ||
      this.sheet().documents.some((each) => each.document.kind === document.kind && each.document.id === document.id),
  ).state;
  protected readonly read = computed(() => this.progress().value);
  protected readonly most = computed(() => {
    const shown = this.read()!;
    return Math.max(Number(shown.committed), Number(shown.atEnd));
  });
  protected readonly mark = computed(() => {
    const runOut = this.read()?.runOut;
    return runOut ? { day: runOut, text: `used up about ${day(runOut, this.workDate())}` } : null;
  });

  protected readonly lines = computed((): ChartLine[] => {
    const shown = this.read()!;
    const drawn = (dated: readonly { day: string; quantity: string }[]) =>
      dated.map((point) => ({ day: point.day, value: Number(point.quantity) }));
    const shipped = { day: this.workDate() < shown.lastDay ? this.workDate() : shown.lastDay, quantity: shown.shipped };
    return [
      {
        name: 'Time gone',
        look: 'dashes',
        points: drawn([
          { day: shown.firstDay, quantity: '0' },
          { day: shown.lastDay, quantity: shown.committed },
        ]),
      },
      { name: 'Shipped', look: 'full', points: drawn([...shown.past, shipped]) },
      { name: 'Expected', look: 'dots', points: drawn(shown.coming) },
    ];
  });
  /** The same points as the chart's, for who would rather read. */
  private readonly points = computed(() => {
    const shown = this.read();
    return [
      ...(shown?.past ?? []).map((point) => ({ ...point, what: this.words().move })),
      ...(shown?.coming ?? []).map((point) => ({ ...point, what: 'expected' })),
    ];
  });
  protected readonly rows = computed(() =>
    this.points().map((point) => ({
      day: day(point.day, this.workDate()),
      what: point.what,
      quantity: this.amount(point.quantity),
    })),
  );
  protected readonly fileName = computed(() => `${this.sheet().number} ${coversText(this.line())}.csv`);
  protected readonly csv = computed(() => {
    const lines = this.points().map((point) => `${point.day},${point.what},${point.quantity}`);
    return `data:text/csv;charset=utf-8,${encodeURIComponent(['day,what,reached', ...lines].join('\r\n'))}`;
  });

  protected readonly words = computed(() => movementWords(this.sheet().side));
  protected readonly coversText = coversText;
  /** An amount in what the line counts: units, or value. */
  private amount(text: string): string {
    const { basis, currency } = this.sheet();
    return basis === 'value' ? money(text, currency) : quantity(text);
  }
  private about(text: string): string {
    return this.amount(Number(text).toFixed(0));
  }
  private units(text: string): string {
    const { item } = this.line();
    return this.sheet().basis === 'value' || !item ? `${this.sheet().currency} ${text}` : inUnits(text, item.unit);
  }

  /** Ended or cancelled. */
  private readonly over = computed(() => ['ended', 'cancelled'].includes(this.sheet().state));
  protected readonly headline = computed(() => {
    const shown = this.read()!;
    const units = this.units(this.amount(shown.committed));
    if (this.over()) {
      return `It is over: ${this.amount(shown.shipped)} of ${units} ${this.words().move}.`;
    }
    if (shown.runOut) {
      const gone = shown.runOut <= this.workDate();
      return gone
        ? `All ${units} were gone by ${day(shown.runOut, this.workDate())}.`
        : `At this pace all ${units} are gone by ${day(shown.runOut, this.workDate())}.`;
    }
    if (shown.remainder === '0') return `All ${units} will be taken by the last day.`;
    const left = this.units(this.about(shown.remainder));
    return `About ${left} of ${this.amount(shown.committed)} will be left on ${day(shown.lastDay, this.workDate())}.`;
  });
  protected readonly facts = computed(() => {
    const shown = this.read()!;
    const line = this.line();
    const { currency } = this.sheet();
    const gone = elapsedShare(shown.firstDay, shown.lastDay, this.workDate());
    const taken = share(shown.shipped, shown.committed);
    const steps = stepWords(line);
    return [
      [
        'Taken',
        `${percent(taken)} ${this.words().move}, ${percent(gone)} of the term gone, pace ${points(pace(taken, gone))}`,
      ],
      [
        'Ahead',
        `${this.amount(shown.open)} released, not ${this.words().move} ${this.sheet().basis === 'value' ? '' : `· ${this.amount(shown.planned)} planned `}· ${Number(shown.rate).toFixed(2)} a day over ${counted(rateDays(shown.firstDay, this.workDate()), 'day')}`,
      ],
      // Nothing is foretold of what is over.
      ...(this.over()
        ? []
        : ([
            ['At the end', `about ${this.about(shown.atEnd)} of ${this.amount(shown.committed)}`],
            ['Left, weighed', `${currency} ${money(shown.weightedValue, currency)}`],
          ] as const)),
      ['Price', priceWords(line, currency)],
      ...(steps ? [['Releases', steps] as const] : []),
      ...(line.notes ? [['Notes', line.notes] as const] : []),
    ] as const;
  });
}
