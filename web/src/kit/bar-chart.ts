import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
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
  private chart: Chart | null = null;

  constructor() {
    const scheme = matchMedia('(prefers-color-scheme: dark)');
    const again = () => this.draw();
    scheme.addEventListener('change', again);
    inject(DestroyRef).onDestroy(() => {
      scheme.removeEventListener('change', again);
      this.chart?.destroy();
    });
    afterNextRender(() => this.draw());
    effect(() => {
      this.rows();
      this.shape();
      if (this.chart) this.draw();
    });
  }

  private draw(): void {
    const element = this.canvas().nativeElement;
    const colour = (name: string) => {
      element.style.color = `var(${name})`;
      return getComputedStyle(element).color;
    };
    const font = { family: getComputedStyle(element).fontFamily, size: 12 };
    const look = {
      deep: colour('--deep'),
      faint: colour('--ink-faint'),
      ink: colour('--ink'),
      rule: colour('--rule'),
      paper: colour('--paper'),
    };
    this.chart?.destroy();
    this.chart = new Chart(element, this.shape() === 'shares' ? this.ring(look, font) : this.bars(look, font));
  }

  private readonly clicked = (_event: unknown, found: { index: number }[]) => {
    const [first] = found;
    if (first) this.chosen.emit(first.index);
  };

  private bars(look: Look, font: { family: string; size: number }): ChartConfiguration {
    const lying = this.shape() === 'bars';
    const rows = this.rows();
    const amounts = {
      min: 0,
      grid: { color: look.rule },
      border: { display: false },
      ticks: {
        color: look.faint,
        font,
        maxTicksLimit: 6,
        callback: (value: string | number) => this.words()(Number(value)),
      },
    };
    const names = {
      grid: { display: false },
      border: { color: look.rule },
      ticks: { color: look.ink, font },
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
        responsive: true,
        maintainAspectRatio: false,
        animation: false,
        onClick: this.clicked,
        scales: lying ? { x: amounts, y: names } : { x: names, y: amounts },
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
      },
    } as ChartConfiguration;
  }

  private ring(look: Look, font: { family: string; size: number }): ChartConfiguration {
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
        responsive: true,
        maintainAspectRatio: false,
        animation: false,
        cutout: '58%',
        layout: { padding: 26 },
        onClick: this.clicked,
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
      },
      plugins: [
        {
          id: 'names',
          afterDraw: (chart) => {
            const { ctx } = chart;
            ctx.save();
            ctx.font = `12px ${font.family}`;
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

type Look = Record<'deep' | 'faint' | 'ink' | 'rule' | 'paper', string>;

interface Arc {
  x: number;
  y: number;
  startAngle: number;
  endAngle: number;
  outerRadius: number;
}
