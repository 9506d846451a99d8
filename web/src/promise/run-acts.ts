import { DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { interval, type Observable } from 'rxjs';
import { filter } from 'rxjs/operators';
import { refusalsOf, type RefusalShown } from '../kit/act/api';
import { counted, moment } from '../kit/formats';

/** Acts of a page that shows a run: what was refused, and the page read again after each. In an injection context. */
export class RunActs {
  readonly busy = signal(false);
  readonly refusals = signal<RefusalShown[]>([]);

  /** `going` says whether a run is under way: it goes on by itself, on whichever server took it, and is looked after. */
  constructor(
    private readonly reload: () => void,
    going: () => boolean,
  ) {
    interval(500)
      .pipe(filter(going), takeUntilDestroyed(inject(DestroyRef)))
      .subscribe(reload);
  }

  do<Answer>(act: Observable<Answer>, then: (answer: Answer) => void = () => undefined): void {
    this.busy.set(true);
    this.refusals.set([]);
    act.subscribe({
      next: (answer) => {
        this.busy.set(false);
        this.reload();
        then(answer);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.refusals.set(refusalsOf(error));
        this.reload();
      },
    });
  }
}

/** When a run was made, and what happened since: `made Mon 30 Nov, 10:24 for Mei Lin; 3 changes since`. // T11 */
export function madeText({ madeAt, by, since }: Made): string {
  const changes = since >= MANY ? `more than ${MANY - 1} changes` : counted(since, 'change');
  return `made ${moment(madeAt)} for ${by}${since > 0 ? `; ${changes} since` : ''}`;
}

/** Whether a run stands on older ground than there is: it is made anew before it is taken. */
export const isOld = ({ since, workDate }: Made & { workDate: string }, today: string) =>
  since > 0 || workDate !== today;

interface Made {
  madeAt: string;
  by: string;
  since: number;
}
const MANY = 200;

/** What of many is chosen: as it was clicked, and until then as `first` says. */
export class Chosen {
  private readonly clicked = signal<ReadonlyMap<number, boolean>>(new Map());

  constructor(private readonly first: (key: number) => boolean = () => true) {}

  has(key: number): boolean {
    return this.clicked().get(key) ?? this.first(key);
  }

  /** All of these, or none of them. */
  choose(keys: readonly number[], on: boolean): void {
    this.clicked.update((clicked) => new Map([...clicked, ...keys.map((key) => [key, on] as const)]));
  }

  /** As if nothing had been clicked. */
  forget(): void {
    this.clicked.set(new Map());
  }
}
