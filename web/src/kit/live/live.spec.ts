import { effect, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of, type Subject, throwError, type Observable } from 'rxjs';
import { Refused } from '../act/api';
import { liveDocument, LiveEvents, LiveList, type Page } from './live';

const settle = async () => {
  TestBed.tick();
  await new Promise((resolve) => setTimeout(resolve, 90));
};

describe('what stays true by itself', () => {
  it('reads a document again when it is touched, and not for another', async () => {
    let reads = 0;
    const document = TestBed.runInInjectionContext(() =>
      liveDocument(
        signal(4),
        (id) => of({ id, read: (reads += 1) }),
        (touched, shown) => touched.kind === 'AG' && touched.id === shown?.id,
      ),
    );
    await settle();
    expect(document.state().value).toEqual({ id: 4, read: 1 });
    const events = TestBed.inject(LiveEvents) as unknown as { changes: Subject<unknown> };
    events.changes.next({ act: 'x', personId: 1, documents: [{ kind: 'AG', id: 5, number: '' }] });
    await settle();
    expect(reads).toBe(1);
    events.changes.next({ act: 'x', personId: 1, documents: [{ kind: 'AG', id: 4, number: '' }] });
    await settle();
    expect(document.state().value).toEqual({ id: 4, read: 2 });
    document.reload();
    expect(reads).toBe(3);
  });

  it('keeps what is shown where reading again fails, and says why', async () => {
    const answers: (() => Observable<string>)[] = [
      () => of('shown'),
      () => throwError(() => new Refused(503, [{ code: 'database-away', field: '', facts: {}, sentence: 'Away.' }])),
      () => of('back'),
    ];
    const document = TestBed.runInInjectionContext(() =>
      liveDocument(
        signal(1),
        () => answers.shift()!(),
        () => true,
      ),
    );
    await settle();
    document.reload();
    expect(document.state()).toMatchObject({ value: 'shown', refusals: [{ sentence: 'Away.' }] });
    document.reload();
    expect(document.state()).toMatchObject({ value: 'back', refusals: [] });
  });

  it('grows a list page by page to its end, begins anew for other words, and reads no page twice', async () => {
    const query = signal('a');
    const asked: string[] = [];
    const pages = (words: string, cursor: string | undefined): Observable<Page<string>> => {
      asked.push(`${words} ${cursor ?? 'first'}`);
      return of(cursor ? { rows: [`${words}3`], next: null } : { rows: [`${words}1`, `${words}2`], next: 'n' });
    };
    const list = TestBed.runInInjectionContext(() => new LiveList(query, pages, ['SO']));
    await settle();
    expect(list.rows()).toEqual(['a1', 'a2']);
    list.more();
    expect(list.rows()).toEqual(['a1', 'a2', 'a3']);
    list.more();
    query.set('b');
    await settle();
    expect(list.rows()).toEqual(['b1', 'b2']);
    expect(asked).toEqual(['a first', 'a n', 'b first']);
  });

  it('keeps all pages that are loaded where something changes, and reads them again in one step', async () => {
    let said = 'old';
    const pages = (_: string, cursor: string | undefined): Observable<Page<string>> => {
      const page = Number(cursor ?? '1');
      return of({ rows: [`${said} ${page}`], next: page < 4 ? String(page + 1) : null });
    };
    const list = TestBed.runInInjectionContext(() => new LiveList(signal('a'), pages, ['SO']));
    await settle();
    list.more();
    list.more();
    expect(list.rows()).toEqual(['old 1', 'old 2', 'old 3']);
    const lengths: number[] = [];
    TestBed.runInInjectionContext(() => effect(() => lengths.push(list.rows().length)));
    said = 'new';
    const events = TestBed.inject(LiveEvents) as unknown as { changes: Subject<unknown> };
    events.changes.next({ act: 'x', personId: 1, documents: [{ kind: 'SO', id: 5, number: '' }] });
    await settle();
    expect(list.rows()).toEqual(['new 1', 'new 2', 'new 3']);
    expect(new Set(lengths)).toEqual(new Set([3]));
    list.more();
    expect(list.rows().at(-1)).toBe('new 4');
  });
});
