import { afterNextRender, DestroyRef, effect, inject, signal, type ElementRef, type Signal } from '@angular/core';
import { Chart, type ChartConfiguration } from 'chart.js';

/** The house's colours and type as a canvas takes them: it has no style sheet of its own. */
export interface ChartLook {
  deep: string;
  faint: string;
  ink: string;
  rule: string;
  paper: string;
  ochre: string;
  ochreMark: string;
  font: { family: string; size: number };
}

/** Nothing moves, nothing floats: what a chart says stands in its table and its words. */
export const STILL = {
  responsive: true,
  maintainAspectRatio: false,
  animation: false,
  plugins: { legend: { display: false }, tooltip: { enabled: false } },
} as const;

function lookOf(element: HTMLElement): ChartLook {
  const colour = (name: string) => {
    element.style.color = `var(${name})`;
    return getComputedStyle(element).color;
  };
  return {
    deep: colour('--deep'),
    faint: colour('--ink-faint'),
    ink: colour('--ink'),
    rule: colour('--rule'),
    paper: colour('--paper'),
    ochre: colour('--ochre'),
    ochreMark: colour('--ochre-mark'),
    font: { family: getComputedStyle(element).fontFamily, size: 12 },
  };
}

/**
 * Draws what `configure` gives, and draws it anew when a signal it reads changes or light turns to dark.
 * To be made in an injection context.
 */
export function drawnOn(
  canvas: Signal<ElementRef<HTMLCanvasElement>>,
  configure: (look: ChartLook) => ChartConfiguration,
): void {
  const scheme = matchMedia('(prefers-color-scheme: dark)');
  const turns = signal(0);
  const again = () => turns.update((count) => count + 1);
  let chart: Chart | null = null;
  scheme.addEventListener('change', again);
  inject(DestroyRef).onDestroy(() => {
    scheme.removeEventListener('change', again);
    chart?.destroy();
  });
  afterNextRender(again);
  effect(() => {
    if (turns() === 0) return;
    const element = canvas().nativeElement;
    const configuration = configure(lookOf(element));
    chart?.destroy();
    chart = new Chart(element, configuration);
  });
}
