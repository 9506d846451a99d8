import { computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { merge } from 'rxjs';
import { SECOND_KINDS, type SecondKind } from '@core/access';
import type * as z from 'zod';
import * as contract from '@api/access';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { liveDocument, LiveEvents } from '../kit/live/live';
import { Session } from './session';

const WORDS: Record<SecondKind, string> = {
  'money-out': 'Money that goes out: payments to vendors, prepayments paid back',
  'credit-limit': 'Credit limits of customers',
  'vendor-price': 'What vendors ask for what they sell',
  'write-off': 'What is written off: prices credited, shortfalls dropped',
};

/** What the company wants a second person for, and turning that on or off. To be made in an injection context. */
export class SecondPerson {
  private readonly api = inject(Api);
  private readonly failed = signal<RefusalShown[]>([]);
  readonly busy = signal(false);
  readonly kinds = SECOND_KINDS.map((kind) => ({ kind, words: WORDS[kind] }));
  private readonly live = liveDocument<string, z.infer<typeof contract.openAsked.out>>(
    inject(Session).workDate,
    () => this.api.call(contract.openAsked),
    () => false,
  );
  private readonly wanted = computed(() => this.live.state().value?.kinds ?? []);
  readonly refusals = computed(() => [...this.failed(), ...this.live.state().refusals]);

  constructor() {
    const events = inject(LiveEvents);
    merge(events.doing('keepSecondPerson'), events.doing('approveAsked'))
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.live.reload());
  }

  on(kind: SecondKind): boolean {
    return this.wanted().includes(kind);
  }

  turn(kind: SecondKind, event: Event): void {
    const box = event.target as HTMLInputElement;
    const kinds = SECOND_KINDS.filter((each) => (each === kind ? box.checked : this.on(each)));
    this.busy.set(true);
    this.failed.set([]);
    const ended = () => {
      this.busy.set(false);
      this.live.reload();
    };
    this.api.act(contract.keepSecondPerson, { kinds }).subscribe({
      next: ended,
      error: (error: unknown) => {
        // It stays as it was until the other person says so.
        box.checked = this.on(kind);
        this.failed.set(refusalsOf(error));
        ended();
      },
    });
  }
}
