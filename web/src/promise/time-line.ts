import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { addDays, daysBetween } from '@core/kernel';
import type { BarText } from '@core/promise';
import { day } from '../kit/formats';

const ROW = 22;
const LEFT = 250;
const WIDTH = 700;

/** What is bought and worked on for a line, on one line of time; the chain that sets the date drawn strong. // T7 */
@Component({
  selector: 'k-time-line',
  template: `<svg
    [attr.viewBox]="'0 0 ' + width + ' ' + height()"
    [attr.height]="height()"
    role="img"
    [attr.aria-label]="label()"
  >
    @for (tick of ticks(); track tick.x) {
      <line class="tick" [attr.x1]="tick.x" [attr.x2]="tick.x" y1="18" [attr.y2]="height()" />
      <text class="when" [attr.x]="tick.x" y="12">{{ tick.text }}</text>
    }
    @for (row of rows(); track $index) {
      <text class="what" [class.sets]="row.sets" [attr.x]="row.depth * 10" [attr.y]="row.y + 14">{{ row.label }}</text>
      <rect
        [class]="row.kind"
        [class.sets]="row.sets"
        [attr.x]="row.x"
        [attr.y]="row.y + 5"
        [attr.width]="row.width"
        [attr.height]="row.kind === 'buy' ? 8 : 12"
        rx="2"
      />
    }
  </svg>`,
  styles: `
    svg {
      width: 100%;
      display: block;
      font: 12px var(--sans);
    }
    .tick {
      stroke: var(--rule);
    }
    .when {
      fill: var(--ink-faint);
      text-anchor: middle;
    }
    .what {
      fill: var(--ink-soft);
    }
    .what.sets {
      fill: var(--ink);
      font-weight: 600;
    }
    rect {
      fill: var(--paper-sunk);
      stroke: var(--ink-faint);
    }
    rect.buy {
      stroke-dasharray: 3 2;
    }
    rect.sets {
      fill: var(--deep);
      stroke: var(--deep);
      stroke-dasharray: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TimeLine {
  readonly bars = input.required<readonly BarText[]>();
  readonly first = input.required<string>();
  readonly last = input.required<string>();
  protected readonly width = WIDTH;
  protected readonly height = computed(() => 22 + this.bars().length * ROW);
  private readonly span = computed(() => Math.max(5, daysBetween(this.first(), this.last()) + 1));
  private readonly xOf = (when: string) => LEFT + (daysBetween(this.first(), when) * (WIDTH - LEFT - 10)) / this.span();
  protected readonly rows = computed(() =>
    this.bars().map((bar, index) => ({
      ...bar,
      label: bar.label.length > 40 ? `${bar.label.slice(0, 39)}…` : bar.label,
      y: 20 + index * ROW,
      x: this.xOf(bar.from),
      width: Math.max(4, this.xOf(addDays(bar.to, 1)) - this.xOf(bar.from) - 1),
    })),
  );
  protected readonly ticks = computed(() => {
    const step = Math.max(1, Math.ceil(this.span() / 6));
    return Array.from({ length: Math.floor(this.span() / step) + 1 }, (_, at) => addDays(this.first(), at * step)).map(
      (when) => ({ x: this.xOf(when), text: day(when, this.first()).slice(4) }),
    );
  });
  protected readonly label = computed(() =>
    this.bars()
      .map((bar) => `${bar.label}, ${day(bar.from, this.first())} to ${day(bar.to, this.first())}`)
      .join('; '),
  );
}
