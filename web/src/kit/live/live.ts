import { DestroyRef, inject, Injectable, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { EMPTY, merge, of, Subject, type Observable } from 'rxjs';
import { catchError, debounceTime, expand, filter, last, map, switchMap, tap } from 'rxjs/operators';
import type { DocumentKind, DocumentRef } from '@core/kernel';
import { refusalsOf, type RefusalShown } from '../act/api';

export interface Change {
  act: string;
  personId: number;
  documents: DocumentRef[];
}

/** What other people (and this one elsewhere) commit, as it happens. */
@Injectable({ providedIn: 'root' })
export class LiveEvents {
  private readonly changes = new Subject<Change | 'all'>();
  private source: EventSource | null = null;
  private lost = false;
  /** The person signed in somewhere else just now. */
  onElsewhere: (seen: { at: string; from: string }) => void = () => undefined;
  /** The stream was refused: nobody may be signed in any more. */
  onRefused: () => void = () => undefined;
  /** False while the stream is broken: what is shown may be old. */
  readonly connected = signal(true);

  start(): void {
    this.stop();
    const source = new EventSource('/api/events');
    this.source = source;
    source.addEventListener('change', (event) => this.changes.next(JSON.parse(event.data as string) as Change));
    source.addEventListener('elsewhere', (event) =>
      this.onElsewhere(JSON.parse(event.data as string) as { at: string; from: string }),
    );
    source.addEventListener('ready', () => {
      this.connected.set(true);
      // Something may have been missed while it was away.
      if (this.lost) this.changes.next('all');
      this.lost = false;
    });
    source.addEventListener('error', () => {
      this.lost = true;
      if (source.readyState === EventSource.CLOSED) this.onRefused();
      this.connected.set(false);
    });
  }

  stop(): void {
    this.source?.close();
    this.source = null;
  }

  /** Everything shown is to be read again: another company or work date. */
  all(): void {
    this.changes.next('all');
  }

  /** Beats when anything was done. */
  any(): Observable<void> {
    return this.changes.pipe(
      debounceTime(60),
      map(() => undefined),
    );
  }

  /** Beats when an act of that name was done. */
  doing(act: string): Observable<void> {
    return this.changes.pipe(
      filter((change) => change === 'all' || change.act === act),
      debounceTime(60),
      map(() => undefined),
    );
  }

  /** Beats when a document that `concerns` is touched. */
  touching(concerns: (document: DocumentRef) => boolean): Observable<void> {
    return this.changes.pipe(
      filter((change) => change === 'all' || change.documents.some(concerns)),
      debounceTime(60),
      map(() => undefined),
    );
  }
}

export interface Loaded<T> {
  value: T | null;
  refusals: RefusalShown[];
  loading: boolean;
}

export interface LiveDocument<T> {
  state: Signal<Loaded<T>>;
  reload(): void;
}

/**
 * A document that stays true: read for each new `key`, read again whenever one of `kinds` is touched that is
 * this document or hangs on it. A failed read keeps what is shown. To be made in an injection context.
 */
export function liveDocument<Key, T>(
  key: Signal<Key>,
  load: (key: Key) => Observable<T>,
  concerns: (document: DocumentRef, shown: T | null, key: Key) => boolean,
): LiveDocument<T> {
  const events = inject(LiveEvents);
  const state = signal<Loaded<T>>({ value: null, refusals: [], loading: true });
  const again = new Subject<void>();
  const key$ = toObservable(key).pipe(tap(() => state.set({ value: null, refusals: [], loading: true })));
  merge(
    key$,
    merge(
      again,
      events.touching((document) => concerns(document, state().value, key())),
    ).pipe(map(() => key())),
  )
    .pipe(
      switchMap((current) =>
        load(current).pipe(
          map((value): Loaded<T> => ({ value, refusals: [], loading: false })),
          catchError((error: unknown) =>
            of<Loaded<T>>({ value: state().value, refusals: refusalsOf(error), loading: false }),
          ),
        ),
      ),
      takeUntilDestroyed(inject(DestroyRef)),
    )
    .subscribe((loaded) => state.set(loaded));
  return { state: state.asReadonly(), reload: () => again.next() };
}

type Wanted = 'first' | 'more' | 'again';

export interface Page<Row> {
  rows: Row[];
  next: string | null;
}

/**
 * A list read page by page as one scrolls, for each new `query`; touched kinds read all that is loaded again.
 * To be made in an injection context.
 */
export class LiveList<Query, Row> {
  private readonly events = inject(LiveEvents);
  readonly rows = signal<Row[]>([]);
  readonly refusals = signal<RefusalShown[]>([]);
  readonly loading = signal(true);
  private readonly next = signal<string | null>(null);
  private readonly wanted = new Subject<Wanted>();

  constructor(
    query: Signal<Query>,
    load: (query: Query, cursor: string | undefined) => Observable<Page<Row>>,
    kinds: readonly DocumentKind[],
  ) {
    const touched = this.events.touching((document) => kinds.includes(document.kind)).pipe(map(() => 'again' as const));
    merge(toObservable(query).pipe(map(() => 'first' as const)), touched, this.wanted)
      .pipe(
        tap(() => this.loading.set(true)),
        switchMap((what) =>
          this.pages(what, (cursor) => load(query(), cursor)).pipe(
            map((page) => ({ what, page })),
            catchError((error: unknown) => {
              this.refusals.set(refusalsOf(error));
              this.loading.set(false);
              return of(null);
            }),
          ),
        ),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe((loaded) => {
        if (!loaded) return;
        this.refusals.set([]);
        this.loading.set(false);
        this.next.set(loaded.page.next);
        this.rows.update((rows) => (loaded.what === 'more' ? [...rows, ...loaded.page.rows] : loaded.page.rows));
      });
  }

  /** The first page, the next one, or once more all pages that are shown, as one. */
  private pages(what: Wanted, load: (cursor: string | undefined) => Observable<Page<Row>>): Observable<Page<Row>> {
    if (what === 'more') return load(this.next() ?? undefined);
    const shown = what === 'again' ? this.rows().length : 0;
    return load(undefined).pipe(
      expand((page) =>
        page.rows.length < shown && page.next !== null
          ? load(page.next).pipe(map((next) => ({ rows: [...page.rows, ...next.rows], next: next.next })))
          : EMPTY,
      ),
      last(),
    );
  }

  /** Reads the next page, where there is one and nothing is being read. */
  more(): void {
    if (this.hasMore && !this.loading()) this.wanted.next('more');
  }

  /** Reads what is shown again. */
  again(): void {
    this.wanted.next('again');
  }

  /** Forgets what is shown, where what it is of has changed. */
  clear(): void {
    this.rows.set([]);
  }

  /** Whether there is a page after those that are shown. */
  get hasMore(): boolean {
    return this.next() !== null;
  }
}
