import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input } from '@angular/core';

/** The outline of the filled share of a bead, clockwise from the top; empty for none. */
export function pie(cx: number, cy: number, radius: number, share: number): string {
  const held = Math.min(1, Math.max(0, share));
  if (held === 0) return '';
  if (held === 1) {
    return `M ${cx} ${cy - radius} A ${radius} ${radius} 0 1 1 ${cx - 0.01} ${cy - radius} Z`;
  }
  const angle = 2 * Math.PI * held;
  const x = cx + radius * Math.sin(angle);
  const y = cy - radius * Math.cos(angle);
  return `M ${cx} ${cy} V ${cy - radius} A ${radius} ${radius} 0 ${held > 0.5 ? 1 : 0} 1 ${x.toFixed(2)} ${y.toFixed(2)} Z`;
}

/** How a bead reads aloud. */
export function beadWords(label: string, share: number, notch: boolean, struck: boolean, over = '0'): string {
  const state = struck
    ? 'cancelled'
    : share >= 1
      ? 'done'
      : share <= 0
        ? 'not begun'
        : `${Math.round(share * 100)} per cent`;
  return `${label}: ${state}${over === '0' ? '' : `, ${over} more than was asked`}${notch ? ', the two ends differ' : ''}`;
}

/** A small bead: the filled share of its circle is what has passed; a notch, the ends differ; a bar, cancelled. */
@Component({
  selector: 'k-bead',
  template: `<svg
    [attr.width]="size()"
    [attr.height]="size()"
    viewBox="0 0 16 16"
    role="img"
    [attr.aria-label]="words()"
  >
    <circle cx="8" cy="8" r="6" />
    <path class="fill" [attr.d]="outline()" />
    @if (notch()) {
      <path class="notch" d="M5.6 0 H10.4 L8 4.2 Z" />
    }
    @if (struck()) {
      <path class="bar" d="M1.5 14.5 L14.5 1.5" />
    }
  </svg>`,
  styles: `
    :host {
      display: inline-flex;
      vertical-align: middle;
    }
    circle {
      fill: var(--paper-lift);
      stroke: var(--ink);
      stroke-width: 1.6;
    }
    .fill {
      fill: var(--ink);
    }
    .notch {
      fill: var(--ochre-mark);
    }
    .bar {
      stroke: var(--ink);
      stroke-width: 1.6;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Bead {
  readonly share = input.required<number>();
  readonly label = input.required<string>();
  readonly notch = input(false);
  readonly struck = input(false);
  readonly size = input(16);
  protected readonly outline = computed(() => pie(8, 8, 4.6, this.share()));
  protected readonly words = computed(() => beadWords(this.label(), this.share(), this.notch(), this.struck()));
}

export interface SmallBead {
  label: string;
  share: number;
  notch?: boolean;
  struck?: boolean;
  /** What came beyond what was asked, in figures; a ring round the bead says it. */
  over?: string;
}

/** A row of small beads on a thread as an SVG element, for grid cells. */
export function beadsElement(beads: readonly SmallBead[]): SVGElement {
  const NS = 'http://www.w3.org/2000/svg';
  const make = (name: string, attributes: Record<string, string>) => {
    const element = document.createElementNS(NS, name);
    for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
    return element;
  };
  const width = beads.length * 15 + 2;
  const svg = make('svg', {
    width: String(width),
    height: '16',
    viewBox: `0 0 ${width} 16`,
    role: 'img',
    class: 'small-beads',
    'aria-label': beads
      .map((bead) => beadWords(bead.label, bead.share, bead.notch ?? false, bead.struck ?? false, bead.over ?? '0'))
      .join('; '),
  });
  svg.append(make('path', { d: `M 8 8 H ${width - 9}`, class: 'string' }));
  beads.forEach((bead, index) => {
    const cx = 8 + index * 15;
    svg.append(make('circle', { cx: String(cx), cy: '8', r: '4.8' }));
    svg.append(make('path', { class: 'fill', d: pie(cx, 8, 3.6, bead.share) }));
    if (bead.over !== undefined && bead.over !== '0') {
      svg.append(make('circle', { cx: String(cx), cy: '8', r: '6.8', class: 'over' }));
    }
    if (bead.notch) svg.append(make('path', { class: 'notch', d: `M${cx - 2.4} 0 h4.8 l-2.4 4 Z` }));
    if (bead.struck) svg.append(make('path', { class: 'bar', d: `M${cx - 6} 14 l12 -12` }));
  });
  return svg;
}

/** A row of small beads on a thread, for tables. */
@Component({ selector: 'k-beads', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
export class SmallBeads {
  readonly beads = input.required<readonly SmallBead[]>();
  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    effect(() => host.replaceChildren(beadsElement(this.beads())));
  }
}
