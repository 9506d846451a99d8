import { ChangeDetectionStrategy, Component, type ElementRef, input, viewChild } from '@angular/core';
import {
  Chart,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  type ChartConfiguration,
} from 'chart.js';
import { addDays, daysBetween, dayText } from '@core/kernel';
import { drawnOn, STILL, type ChartLook } from './chart-look';

Chart.register(Filler, LinearScale, LineController, LineElement, PointElement);

export interface ChartLine {
  name: string;
  points: readonly { day: string; value: number }[];
  /** Drawn as: a full line for what happened, dots for what is expected, thin dashes for what it is measured by. */
  look: 'full' | 'dots' | 'dashes';
}

/** A mark across the chart at one day, with its words. */
export interface ChartMark {
  day: string;
  text: string;
}

/** Quantities over days, as lines. What it shows is in a table beside it or behind it; the drawing has one label. */
@Component({
  selector: 'k-line-chart',
  template: `<canvas #canvas role="img" [attr.aria-label]="label()"></canvas>`,
  styles: `
    :host {
      display: block;
      position: relative;
      min-height: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineChart {
  readonly label = input.required<string>();
  readonly lines = input.required<readonly ChartLine[]>();
  readonly firstDay = input.required<string>();
  readonly lastDay = input.required<string>();
  readonly workDate = input.required<string>();
  /** The highest value there is; the scale ends at a round one above it. */
  readonly most = input.required<number>();
  readonly mark = input<ChartMark | null>(null);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  constructor() {
    drawnOn(this.canvas, (look) => this.drawing(look));
  }

  private drawing({ deep, faint, rule, ochre, ochreMark, font }: ChartLook): ChartConfiguration {
    const at = (day: string) => daysBetween(this.firstDay(), day);
    const looks = {
      full: { borderColor: deep, borderWidth: 2.5 },
      dots: { borderColor: deep, borderWidth: 2, borderDash: [2, 4] },
      dashes: { borderColor: faint, borderWidth: 1.2, borderDash: [5, 4] },
    };
    return {
      type: 'line',
      data: {
        datasets: this.lines().map((line) => ({
          label: line.name,
          data: line.points.map(({ day, value }) => ({ x: at(day), y: value })),
          pointRadius: 0,
          tension: 0,
          ...looks[line.look],
        })),
      },
      options: {
        ...STILL,
        layout: { padding: { top: 14, right: 8 } },
        scales: {
          x: {
            type: 'linear',
            min: 0,
            max: at(this.lastDay()),
            grid: { display: false },
            border: { color: rule },
            afterBuildTicks: (axis) => (axis.ticks = this.months().map((day) => ({ value: at(day) }))),
            ticks: {
              color: faint,
              font,
              maxRotation: 0,
              callback: (value) => dayText(addDays(this.firstDay(), Number(value)), this.workDate()).slice(4, 10),
            },
          },
          y: {
            suggestedMin: 0,
            suggestedMax: this.most(),
            grid: { color: rule },
            border: { display: false },
            ticks: { color: faint, font, maxTicksLimit: 5 },
          },
        },
      },
      plugins: [
        {
          id: 'mark',
          afterDraw: ({ ctx, chartArea, scales }) => {
            const mark = this.mark();
            if (!mark) return;
            const x = scales['x']!.getPixelForValue(at(mark.day));
            ctx.save();
            ctx.strokeStyle = ochreMark;
            ctx.fillStyle = ochre;
            ctx.lineWidth = 1.5;
            ctx.beginPath();
            ctx.moveTo(x, chartArea.top);
            ctx.lineTo(x, chartArea.bottom);
            ctx.stroke();
            ctx.font = `600 12px ${font.family}`;
            const left = x > (chartArea.left + chartArea.right) / 2;
            ctx.textAlign = left ? 'right' : 'left';
            ctx.fillText(mark.text, x + (left ? -6 : 6), chartArea.top - 2);
            ctx.restore();
          },
        },
      ],
    };
  }

  /** The first day, and the first of every second or so month after it: at most seven, none upon the first. */
  private months(): string[] {
    const days: string[] = [];
    const all = daysBetween(this.firstDay(), this.lastDay());
    const step = Math.max(1, Math.ceil(all / 30 / 6));
    let [year, month] = this.firstDay().split('-').map(Number) as [number, number];
    for (let day = this.firstDay(); day <= this.lastDay();) {
      const from = daysBetween(this.firstDay(), day);
      if (from === 0 || from > all / 10) days.push(day);
      month += step;
      year += Math.floor((month - 1) / 12);
      month = ((month - 1) % 12) + 1;
      day = `${year}-${String(month).padStart(2, '0')}-01`;
    }
    return days;
  }
}
