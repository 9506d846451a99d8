import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { of, Subject, throwError } from 'rxjs';
import { Refused, type ActDone, type RefusalShown } from './api';
import type { Loaded } from '../live/live';
import { TypedDraft } from './typed-draft';

interface Line {
  key: string;
  text: string;
}
interface Typed {
  version: number | null;
  about: string;
  lines: Line[];
}
interface Sheet {
  version: number;
  state: string;
  about: string;
}

const refusal = (code: string, field: string): RefusalShown => ({ code, field, facts: {}, sentence: `${code}!` });

/** A draft of a document with the given sheet on the server. */
function draftOf(sheet: Sheet | null, save: (typed: Typed) => unknown = () => of(done)) {
  const state = signal<Loaded<Sheet | null>>({ value: sheet, refusals: [], loading: false });
  const id = signal(sheet ? '7' : 'new');
  let blanks = 0;
  let reloads = 0;
  const draft = TestBed.runInInjectionContext(
    () =>
      new TypedDraft<Sheet, Typed, Line>({
        kind: 'AG',
        id,
        loaded: { state, reload: () => (reloads += 1) },
        keptAs: () => `test ${id()}`,
        typable: (each) => each.state === 'draft',
        empty: () => ({ version: null, about: '', lines: [] }),
        typedOf: (each) => ({ version: each.version, about: each.about, lines: [{ key: 'a', text: 'first' }] }),
        blankLine: () => ({ key: `blank${(blanks += 1)}`, text: '' }),
        isUsed: (line) => line.text !== '',
        save: (typed) => save(typed) as never,
        differs: (typed, each) => typed.about !== each.about,
      }),
  );
  TestBed.tick();
  return { draft, state, reloads: () => reloads };
}
const done: ActDone = { made: [], touched: [{ kind: 'AG', id: 7, number: 'AG-0007' }] };
const stored = { version: 3, state: 'draft', about: 'theirs' };

describe('a typed draft', () => {
  beforeEach(() => {
    localStorage.clear();
    TestBed.configureTestingModule({ providers: [provideRouter([{ path: '**', children: [] }])] });
  });

  it('begins with what the server has and a blank line, and keeps the last line blank', () => {
    const { draft } = draftOf(stored);
    expect(draft.typed()!.lines.map((line) => line.text)).toEqual(['first', '']);
    draft.setLine(draft.typed()!.lines[1]!, { text: 'second' });
    expect(draft.typed()!.lines.map((line) => line.text)).toEqual(['first', 'second', '']);
    draft.removeLine(draft.typed()!.lines[0]!);
    expect(draft.typed()!.lines.map((line) => line.text)).toEqual(['second', '']);
    draft.addLines([{ key: 'p', text: 'pasted' }]);
    expect(draft.typed()!.lines.map((line) => line.text)).toEqual(['second', 'pasted', '']);
  });

  it('is begun once something is typed, and thrown away does not come back', () => {
    const { draft } = draftOf(null);
    expect(draft.begun()).toBe(false);
    draft.set({ about: 'mine' });
    expect(draft.begun()).toBe(true);
    draft.set({ about: '' });
    draft.setLine(draft.typed()!.lines[0]!, { text: 'first' });
    expect(draft.begun()).toBe(true);
    draft.throwAway();
    expect([draft.begun(), draft.typed()!.lines.map(({ text }) => text)]).toEqual([false, ['']]);
    expect(localStorage.length).toBe(0);
    // Of what was saved, what is saved stays.
    const saved = draftOf(stored).draft;
    expect(saved.begun()).toBe(false);
    saved.set({ about: 'mine' });
    expect(saved.begun()).toBe(true);
    saved.throwAway();
    expect([saved.begun(), saved.typed()!.about]).toEqual([false, 'theirs']);
    expect(draftOf({ ...stored, state: 'in-force' }).draft.begun()).toBe(false);
  });

  it('brings back what was typed before the window closed', () => {
    draftOf(stored).draft.set({ about: 'mine' });
    expect(draftOf(stored).draft.typed()!.about).toBe('mine');
  });

  it('G2 says that somebody saved meanwhile, keeps what was typed, and lets it replace or give way', () => {
    const { draft, state } = draftOf(stored);
    draft.set({ about: 'mine' });
    state.update((loaded) => ({ ...loaded, value: { ...stored, version: 4, about: 'newer' } }));
    TestBed.tick();
    expect(draft.theirs()!.about).toBe('newer');
    expect(draft.typed()!.about).toBe('mine');
    draft.keepMine();
    expect(draft.theirs()).toBeNull();
    expect(draft.typed()!).toMatchObject({ about: 'mine', version: 4 });
    draft.takeTheirs();
    expect(draft.typed()!.about).toBe('newer');
  });

  it('G3 a refused save keeps everything typed; each refusal goes when its field is touched', () => {
    const refusals = [refusal('required', 'about'), refusal('not-a-number', 'lines.0.text'), refusal('busy', '')];
    const { draft } = draftOf(stored, () => throwError(() => new Refused(422, refusals)));
    draft.set({ about: '' });
    draft.save();
    expect([draft.at('about'), draft.busy()]).toEqual(['required!', false]);
    expect(draft.loose(/^about$/).map((each) => each.code)).toEqual(['not-a-number', 'busy']);
    draft.set({ about: 'x' });
    expect(draft.refusals().map((each) => each.field)).toEqual(['lines.0.text']);
    expect(draft.typed()!.about).toBe('x');
  });

  it('is sent once however often the button is pressed, and is forgotten here once it is saved', () => {
    const answers = new Subject<ActDone>();
    let sent = 0;
    const { draft } = draftOf(stored, () => {
      sent += 1;
      return answers;
    });
    draft.set({ about: 'mine' });
    draft.save();
    draft.save();
    expect([sent, draft.busy()]).toEqual([1, true]);
    answers.next(done);
    expect(draft.typed()!.version).toBe(4);
    expect(localStorage.length).toBe(0);
  });

  it('does not save again what is saved already before it moves the document on', () => {
    let sent = 0;
    const { draft } = draftOf(stored, () => {
      sent += 1;
      return of(done);
    });
    const moved: [number, number][] = [];
    draft.saveAnd('Moved on:', (id, version) => {
      moved.push([id, version]);
      return of(done);
    });
    expect([sent, moved]).toEqual([0, [[7, 3]]]);
  });

  it('tells the page of what it just saved what was refused of the next step', async () => {
    const router = TestBed.inject(Router);
    const told: unknown[] = [];
    router.events.subscribe(() => told.push(router.currentNavigation()?.extras.state));
    const { draft } = draftOf(null, () => of({ ...done, made: done.touched, touched: [] }));
    draft.set({ about: 'mine' });
    draft.saveAnd('Moved on:', () => throwError(() => new Refused(422, [refusal('no-price', 'lines.0')])));
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(router.url).toBe('/agreements/7');
    expect(told).toContainEqual({ refusals: [refusal('no-price', 'lines.0')] });
  });

  it('reads theirs where an old version was refused', () => {
    const { draft, reloads } = draftOf(stored, () => throwError(() => new Refused(409, [refusal('stale', '')])));
    draft.set({ about: 'mine' });
    draft.save();
    expect(reloads()).toBe(1);
    expect(draft.typed()!.about).toBe('mine');
  });

  it('is not typed over once the document has left its draft', () => {
    expect(draftOf({ ...stored, state: 'in-force' }).draft.typed()).toBeNull();
  });
});
