import type { Observable } from 'rxjs';
import type { CheckedAsk, CheckedLine, GroundRows, ShorteningText } from '@core/promise';

/** Answers what-ifs of promises without asking the server for each key. */
export abstract class PromiseComputer {
  abstract check(rows: GroundRows, asks: readonly CheckedAsk[], together: boolean): Observable<CheckedLine[]>;
  abstract shorten(rows: GroundRows, ask: CheckedAsk): Observable<ShorteningText[]>;
}
