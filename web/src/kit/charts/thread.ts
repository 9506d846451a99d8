import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { STAGE_NAMES, STAGES, type Bead as ThreadBead, type Stage } from '@core/supply';
import type { ThreadOut } from '@api/supply';
import { beadWords, pie } from './bead';
import { pathOf } from '../documents';
import { day, quantity } from '../formats';

interface Drawn {
  bead: ThreadBead;
  x: number;
  y: number;
  fill: string;
  title: string;
  detail: string;
  note: string;
  words: string;
  link: string | null;
}

const WIDTH = 1150;
const TOP = 34;
const GAP = 78;

/** The long thread: one column a step, one strand a part; every bead leads to its document. */
@Component({
  selector: 'k-thread',
  imports: [RouterLink],
  template: `<svg
      [attr.viewBox]="box()"
      [attr.height]="height()"
      width="100%"
      role="group"
      [attr.aria-label]="'Thread of ' + thread().title"
    >
      @for (stage of stages(); track stage.name) {
        <text class="stage" [attr.x]="stage.x" y="14" text-anchor="middle">{{ stage.name }}</text>
      }
      @for (string of strings(); track $index) {
        <path class="string" [class.open]="string.open" [attr.d]="string.d" />
      }
      @for (drawn of beads(); track $index) {
        @if (drawn.link) {
          <a [routerLink]="drawn.link" [attr.aria-label]="drawn.words">
            <circle class="touch" [attr.cx]="drawn.x" [attr.cy]="drawn.y" r="19" />
            <circle [attr.cx]="drawn.x" [attr.cy]="drawn.y" r="11" />
            <path class="fill" [attr.d]="drawn.fill" />
            @if (drawn.note) {
              <path class="notch" [attr.d]="'M' + (drawn.x - 5) + ' ' + (drawn.y - 16) + ' h10 l-5 8 Z'" />
            }
            <text class="name" [attr.x]="drawn.x" [attr.y]="drawn.y + 27" text-anchor="middle">{{ drawn.title }}</text>
          </a>
        } @else {
          <g role="img" [attr.aria-label]="drawn.words">
            <circle [attr.cx]="drawn.x" [attr.cy]="drawn.y" r="11" />
            <path class="fill" [attr.d]="drawn.fill" />
            @if (drawn.note) {
              <path class="notch" [attr.d]="'M' + (drawn.x - 5) + ' ' + (drawn.y - 16) + ' h10 l-5 8 Z'" />
            }
            <text class="name still" [attr.x]="drawn.x" [attr.y]="drawn.y + 27" text-anchor="middle">
              {{ drawn.title }}
            </text>
          </g>
        }
        <text class="detail" [attr.x]="drawn.x" [attr.y]="drawn.y + 42" text-anchor="middle">{{ drawn.detail }}</text>
        @if (drawn.note) {
          <text class="note" [attr.x]="drawn.x" [attr.y]="drawn.y + 56" text-anchor="middle">{{ drawn.note }}</text>
        }
      }
    </svg>
    @if (thread().undone.length > 0 && !apart()) {
      <ul aria-label="Taken back">
        @for (each of thread().undone; track each.document.kind + each.document.number) {
          <li>
            <svg class="struck" viewBox="0 0 16 16" width="14" height="14" role="img" aria-label="taken back">
              <circle cx="8" cy="8" r="6" />
              <path d="M2 8h12" />
            </svg>
            <a class="link" [routerLink]="pathOf(each.document)">{{ each.document.number }}</a> of
            {{ quantity(each.quantity) }}, taken back by
            <a class="link" [routerLink]="pathOf(each.by)">{{ each.by.number }}</a> on {{ day(each.day) }}
          </li>
        }
      </ul>
    }`,
  styles: `
    ul {
      list-style: none;
      margin: 4px 0 0;
      padding: 0;
      font-size: 13px;
      color: var(--ink-soft);
    }
    .struck {
      vertical-align: -2px;
      margin-right: 6px;
    }
    .struck circle {
      r: 6px;
    }
    .struck path {
      stroke: var(--ink);
      stroke-width: 1.5;
    }
    :host {
      display: block;
    }
    text {
      font-family: var(--sans);
      fill: var(--ink);
    }
    .stage,
    .detail {
      fill: var(--ink-faint);
      font-size: 12px;
    }
    .name {
      font-size: 13.5px;
      font-weight: 600;
    }
    .name.still {
      font-weight: 400;
      fill: var(--ink-soft);
    }
    .note {
      fill: var(--ochre);
      font-size: 12px;
      font-weight: 600;
    }
    circle {
      fill: var(--paper-lift);
      stroke: var(--ink);
      stroke-width: 2;
    }
    .touch {
      fill: transparent;
      stroke: none;
    }
    .fill {
      fill: var(--ink);
    }
    .notch {
      fill: var(--ochre-mark);
    }
    .string {
      fill: none;
      stroke: var(--ink-soft);
      stroke-width: 2;
    }
    .string.open {
      stroke: var(--rule-strong);
      stroke-dasharray: 2 6;
    }
    a {
      cursor: pointer;
    }
    a:hover circle:not(.touch) {
      stroke: var(--deep);
      stroke-width: 3;
    }
    a:focus-visible {
      outline: none;
    }
    a:focus-visible .touch {
      stroke: var(--deep);
      stroke-width: 2;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ThreadView {
  readonly thread = input.required<ThreadOut>();
  /** It is of another company: its documents are not opened from here. */
  readonly apart = input(false);
  protected readonly pathOf = pathOf;
  protected readonly quantity = quantity;
  protected readonly day = (value: string) => day(value, this.workDate());
  readonly workDate = input.required<string>();

  private readonly shownStages = computed(() => {
    const present = new Set(this.thread().beads.map((bead) => bead.stage));
    return STAGES.filter((stage) => present.has(stage));
  });
  private readonly column = computed(() => {
    const stages = this.shownStages();
    const step = WIDTH / stages.length;
    return new Map(stages.map((stage, index) => [stage, step * (index + 0.5)]));
  });
  protected readonly stages = computed(() =>
    this.shownStages().map((stage) => ({ name: this.nameOf(stage), x: this.column().get(stage)! })),
  );
  protected readonly height = computed(() => TOP + this.thread().strands.length * GAP + 8);
  protected readonly box = computed(() => `0 0 ${WIDTH} ${this.height()}`);
  protected readonly beads = computed(() => this.thread().beads.map((bead) => this.draw(bead)));

  /** One string for each strand between neighbouring steps; beads that share strands share the string. */
  protected readonly strings = computed(() => {
    const stages = this.shownStages();
    const strings = new Map<string, { d: string; open: boolean }>();
    for (let strand = 0; strand < this.thread().strands.length; strand += 1) {
      for (let at = 1; at < stages.length; at += 1) {
        const left = this.at(stages[at - 1]!, strand);
        const right = this.at(stages[at]!, strand);
        if (!left || !right) continue;
        const from = this.place(left);
        const to = this.place(right);
        const middle = (from.x + to.x) / 2;
        const d =
          from.y === to.y
            ? `M ${from.x + 12} ${from.y} H ${to.x - 12}`
            : `M ${from.x + 12} ${from.y} C ${middle} ${from.y}, ${middle} ${to.y}, ${to.x - 12} ${to.y}`;
        strings.set(d, { d, open: !left.part || !right.part });
      }
    }
    return [...strings.values()];
  });

  /** What is made by us is not received. */
  private nameOf(stage: Stage): string {
    // What no vendor will invoice is made by us.
    const made = !this.thread().beads.some((bead) => bead.stage === 'vendorInvoiced');
    return stage === 'received' && made ? 'Made' : STAGE_NAMES[stage];
  }

  private at(stage: Stage, strand: number): ThreadBead | undefined {
    return this.thread().beads.find((bead) => bead.stage === stage && bead.from <= strand && strand <= bead.to);
  }

  private place(bead: ThreadBead): { x: number; y: number } {
    return { x: this.column().get(bead.stage)!, y: TOP + 16 + ((bead.from + bead.to) / 2) * GAP };
  }

  private draw(bead: ThreadBead): Drawn {
    const { x, y } = this.place(bead);
    const { part } = bead;
    const share = part?.filled ?? 0;
    const stage = this.nameOf(bead.stage);
    const detail =
      part && bead.stage !== 'agreed' && bead.stage !== 'paid'
        ? `${quantity(bead.quantity)} · ${day(part.day, this.workDate())}`
        : part
          ? part.note + (bead.stage === 'paid' ? ` ${day(part.day, this.workDate())}` : '')
          : `${quantity(bead.quantity)} to come`;
    return {
      bead,
      x,
      y,
      fill: pie(x, y, 7.5, share),
      title: part?.document.number ?? '',
      detail,
      note: part?.differs ? `differs in ${part.differs}` : '',
      words: `${beadWords(part ? `${stage}, ${part.document.number}` : stage, share, Boolean(part?.differs), false)}, ${detail}`,
      link: part && !this.apart() ? pathOf(part.document) : null,
    };
  }
}
