import type { Day } from '@core/kernel';

type Step = () => Promise<void>;

/** Steps by day: run in day order, steps of a day in the order they were put in; a step may add later ones. */
export class Timetable {
  private readonly steps: { day: Day; order: number; step: Step }[] = [];
  private count = 0;

  at(day: Day, step: Step): void {
    this.steps.push({ day, order: (this.count += 1), step });
  }

  /** Runs everything up to and including `last`; what lies later never happens. */
  async run(last: Day): Promise<void> {
    for (;;) {
      this.steps.sort((a, b) => a.day.localeCompare(b.day) || a.order - b.order);
      const next = this.steps.shift();
      if (!next || next.day > last) return;
      await next.step();
    }
  }
}
