import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { beadWords, pie } from '../kit/charts/bead';
import { quantity } from '../kit/formats';
import type { WorkSheet } from './service';

interface Step {
  x: number;
  title: string;
  detail: string;
  note: string;
  fill: string;
  words: string;
}

const GAP = 190;

/** The thread of making: begun, a bead for each operation filled by the pieces that passed it, and what came out. */
@Component({
  selector: 'k-steps',
  template: `<svg
    [attr.viewBox]="'0 0 ' + width() + ' 78'"
    [attr.width]="width()"
    height="78"
    role="group"
    aria-label="Steps"
  >
    <path class="string" [attr.d]="'M 40 26 H ' + (width() - 60)" />
    @for (step of steps(); track step.x) {
      <g role="img" [attr.aria-label]="step.words">
        <circle [attr.cx]="step.x" cy="26" r="11" />
        <path class="fill" [attr.d]="step.fill" />
        <text class="name" [attr.x]="step.x" y="54" text-anchor="middle">{{ step.title }}</text>
        <text class="detail" [attr.x]="step.x" y="70" text-anchor="middle">{{ step.detail }}</text>
        @if (step.note) {
          <text class="note" [attr.x]="step.x" y="10" text-anchor="middle">{{ step.note }}</text>
        }
      </g>
    }
  </svg>`,
  styles: `
    :host {
      display: block;
      flex: none;
      overflow-x: auto;
    }
    .string {
      stroke: var(--ink);
      stroke-width: 1.6;
      fill: none;
    }
    circle {
      fill: var(--paper-lift);
      stroke: var(--ink);
      stroke-width: 1.8;
    }
    .fill {
      fill: var(--ink);
    }
    text {
      fill: var(--ink);
      font-size: 13px;
    }
    .detail {
      fill: var(--ink-soft);
      font-size: 12px;
    }
    .note {
      fill: var(--ochre);
      font-size: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Steps {
  readonly work = input.required<WorkSheet>();
  protected readonly width = computed(() => Math.max(2, this.work().operations.length + 2) * GAP - 80);
  protected readonly steps = computed((): Step[] => {
    const work = this.work();
    const all = Number(work.quantity);
    const begun = { title: 'Begun', detail: work.startedOn ? '' : 'not yet', note: '', share: work.startedOn ? 1 : 0 };
    const passed = work.operations.map((each) => ({
      title: each.name,
      detail: `${quantity(each.done)} of ${quantity(work.quantity)} · ${each.centre.name}`,
      note: each.scrapped === '0' ? '' : `${quantity(each.scrapped)} lost`,
      share: Number(each.done) / all,
    }));
    const made = {
      title: work.state === 'finished' ? 'Finished' : 'Made',
      detail: `${quantity(work.finished)} of ${quantity(work.quantity)}`,
      note: '',
      share: Number(work.finished) / all,
    };
    return [begun, ...passed, made].map(({ share, ...step }, place) => {
      const x = 50 + place * GAP;
      return {
        ...step,
        x,
        fill: pie(x, 26, 9, share),
        words: `${beadWords(step.title, share, false, work.state === 'cancelled')}, ${step.detail}`,
      };
    });
  });
}
