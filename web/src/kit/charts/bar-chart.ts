import { ChangeDetectionStrategy, Component, type ElementRef, input, output, viewChild } from '@angular/core';
import {
  ArcElement,
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  DoughnutController,
  LinearScale,
  type ChartConfiguration,
} from 'chart.js';
import { drawnOn, STILL, type ChartLook } from './chart-look';

Chart.register(ArcElement, BarController, BarElement, CategoryScale, DoughnutController, LinearScale);

export interface BarRow {
  name: string;
  /** The whole, and the part of it that is drawn full. */
  whole: number;
  part: number;
}

/** Parts of wholes, one for each name: as bars, as columns, or as shares of a ring. A row can be chosen. */
@Component({
  selector: 'k-bar-chart',
  template: `<canvas #canvas role="img" [attr.aria-label]="label()"></canvas>`,
  styles: `
    :host {
      display: block;
      position: relative;
      min-height: 0;
    }
    canvas {
      cursor: pointer;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BarChart {
  readonly label = input.required<string>();
  readonly rows = input.required<readonly BarRow[]>();
  readonly shape = input.required<'bars' | 'columns' | 'shares'>();
  /** How an amount is written. */
  readonly words = input.required<(amount: number) => string>();
  readonly chosen = output<number>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  constructor() {
    drawnOn(this.canvas, (look) => (this.shape() === 'shares' ? this.ring(look) : this.bars(look)));
  }

  private readonly clicked = (_event: unknown, found: { index: number }[]) => {
    const [first] = found;
    if (first) this.chosen.emit(first.index);
  };

  private bars(look: ChartLook): ChartConfiguration {
    const lying = this.shape() === 'bars';
    const rows = this.rows();
    const amounts = {
      min: 0,
      grid: { color: look.rule },
      border: { display: false },
      ticks: {
        color: look.faint,
        font: look.font,
        maxTicksLimit: 6,
        callback: (value: string | number) => this.words()(Number(value)),
      },
    };
    const names = {
      grid: { display: false },
      border: { color: look.rule },
      ticks: { color: look.ink, font: look.font },
      stacked: true,
    };
    return {
      type: 'bar',
      data: {
        labels: rows.map((row) => row.name),
        datasets: [
          { label: 'Taken', data: rows.map((row) => row.part), backgroundColor: look.deep, barThickness: 16, order: 1 },
          {
            label: 'Committed',
            data: rows.map((row) => row.whole),
            backgroundColor: 'transparent',
            borderColor: look.deep,
            borderWidth: 1.4,
            barThickness: 16,
            order: 2,
          },
        ],
      },
      options: {
        indexAxis: lying ? 'y' : 'x',
        ...STILL,
        onClick: this.clicked,
        scales: lying ? { x: amounts, y: names } : { x: names, y: amounts },
      },
    } as ChartConfiguration;
  }

  private ring(look: ChartLook): ChartConfiguration {
    const rows = this.rows();
    const total = rows.reduce((sum, row) => sum + row.whole, 0);
    // Ink in falling strength; the names stand in the table beside it and at the ring.
    const tint = (index: number) =>
      look.deep.replace('rgb(', 'rgba(').replace(')', `, ${Math.max(0.12, 1 - index * 0.12)})`);
    return {
      type: 'doughnut',
      data: {
        labels: rows.map((row) => row.name),
        datasets: [
          {
            data: rows.map((row) => row.whole),
            backgroundColor: rows.map((_row, index) => tint(index)),
            borderColor: look.paper,
            borderWidth: 2,
          },
        ],
      },
      options: {
        ...STILL,
        cutout: '58%',
        layout: { padding: 26 },
        onClick: this.clicked,
      },
      plugins: [
        {
          id: 'names',
          afterDraw: (chart) => {
            const { ctx } = chart;
            ctx.save();
            ctx.font = `12px ${look.font.family}`;
            ctx.fillStyle = look.ink;
            chart.getDatasetMeta(0).data.forEach((arc, index) => {
              const row = rows[index]!;
              if (row.whole < total * 0.03) return;
              const { x, y, startAngle, endAngle, outerRadius } = arc as unknown as Arc;
              const angle = (startAngle + endAngle) / 2;
              ctx.textAlign = Math.cos(angle) < 0 ? 'right' : 'left';
              const text = `${row.name} ${Math.round((row.whole / total) * 100)} %`;
              ctx.fillText(text, x + Math.cos(angle) * (outerRadius + 8), y + Math.sin(angle) * (outerRadius + 8) + 4);
            });
            ctx.restore();
          },
        },
      ],
    } as ChartConfiguration;
  }
}

interface Arc {
  x: number;
  y: number;
  startAngle: number;
  endAngle: number;
  outerRadius: number;
}
