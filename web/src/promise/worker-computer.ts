import { DestroyRef, inject, Injectable } from '@angular/core';
import { Observable } from 'rxjs';
import type { CheckedAsk, CheckedLine, GroundRows, ShorteningText } from '@core/promise';
import { PromiseComputer } from './computer';

export interface Question {
  id: number;
  what: 'check' | 'shorten';
  rows: GroundRows;
  asks: readonly CheckedAsk[];
  /** All lines on one day. */
  together: boolean;
}

export type Reply =
  | { id: number; what: 'check'; lines: CheckedLine[] }
  | { id: number; what: 'shorten'; ways: ShorteningText[] }
  | { id: number; what: 'failed'; message: string };

/** What-ifs of promises, in a worker of their own: typing waits for none, and the server is not asked for each key. */
@Injectable()
export class WorkerComputer extends PromiseComputer {
  private worker: Worker | null = null;
  private last = 0;

  constructor() {
    super();
    inject(DestroyRef).onDestroy(() => this.worker?.terminate());
  }

  override check(rows: GroundRows, asks: readonly CheckedAsk[], together: boolean): Observable<CheckedLine[]> {
    return this.ask('check', rows, asks, together, (reply) => (reply.what === 'check' ? reply.lines : null));
  }

  override shorten(rows: GroundRows, ask: CheckedAsk): Observable<ShorteningText[]> {
    return this.ask('shorten', rows, [ask], false, (reply) => (reply.what === 'shorten' ? reply.ways : null));
  }

  private ask<Answer>(
    what: Question['what'],
    rows: GroundRows,
    asks: readonly CheckedAsk[],
    together: boolean,
    read: (reply: Reply) => Answer | null,
  ): Observable<Answer> {
    return new Observable((listener) => {
      this.worker ??= new Worker(new URL('./promise.worker', import.meta.url), { type: 'module' });
      const worker = this.worker;
      const id = (this.last += 1);
      const hear = ({ data }: MessageEvent<Reply>) => {
        if (data.id !== id) return;
        const answer = read(data);
        if (answer === null) return listener.error(new Error(data.what === 'failed' ? data.message : 'no answer'));
        listener.next(answer);
        listener.complete();
      };
      worker.addEventListener('message', hear);
      worker.postMessage({ id, what, rows, asks, together } satisfies Question);
      return () => worker.removeEventListener('message', hear);
    });
  }
}
