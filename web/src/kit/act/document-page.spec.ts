import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Title } from '@angular/platform-browser';
import { provideRouter, Router } from '@angular/router';
import { EMPTY, of, Subject, throwError, type Observable } from 'rxjs';
import { Refused, type ActDone } from './api';
import { DocumentPage, DocumentTitle, type DocumentAct } from './document-page';
import { LiveEvents } from '../live/live';
import { Notices } from './notices';

interface Shown {
  id: number;
  read: number;
  lines: { id: number }[];
  documents: { document: { kind: 'SH'; id: number; number: string } }[];
}

const done: ActDone = { made: [{ kind: 'SH', id: 3, number: 'SH-0003' }], touched: [] };

/** A page of one order whose acts are given, in a host that shows its title. */
function pageOf(acts: () => DocumentAct[], doing?: string) {
  let typing = true;
  let read = 0;
  @Component({ selector: 'k-host', imports: [DocumentTitle], template: '<k-document-title [page]="page" />' })
  class Host {
    readonly page: DocumentPage<string, Shown> = new DocumentPage({
      key: signal('7'),
      name: 'Sales order',
      open: () =>
        of({
          id: 7,
          read: (read += 1),
          lines: [{ id: 70 }, { id: 71 }],
          documents: [{ document: { kind: 'SH' as const, id: 2, number: 'SH-0002' } }],
        }),
      document: ({ id }) => ({ kind: 'SO', id, number: 'SO-0007' }),
      heading: (sheet) => ({ strong: 'SO-0007', rest: ' for Layang', sub: `read ${sheet.read}` }),
      lines: (sheet) => sheet.lines,
      acts,
      endTyping: () => (typing = false),
      doing: signal(doing),
    });
  }
  const fixture = TestBed.createComponent(Host);
  const { page } = fixture.componentInstance;
  fixture.detectChanges();
  const element = fixture.nativeElement as HTMLElement;
  const shown = () => {
    fixture.detectChanges();
    return element;
  };
  const button = (label: string) =>
    [...shown().querySelectorAll('button')].find((each) => each.textContent.trim() === label);
  return { page, shown, button, typing: () => typing };
}

const ship = (does: () => Observable<ActDone | undefined>): DocumentAct => ({
  name: 'ship',
  label: 'Ship…',
  place: 'step',
  does,
  says: ({ made }) => ['Shipped:', made[0]],
});

describe('a page about one document', () => {
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideRouter([{ path: '**', children: [] }])] });
  });

  it('names the document in its heading and in the title of the window', () => {
    const { shown } = pageOf(() => []);
    expect(shown().querySelector('h1')!.textContent.trim()).toBe('SO-0007 for Layangread 1');
    expect(TestBed.inject(Title).getTitle()).toBe('SO-0007 · Kampong');
  });

  it('shows what can be done now, the strong step last, and a file as a way to it', () => {
    const { shown, button } = pageOf(() => [
      ship(() => EMPTY),
      { name: 'tie', label: 'Tie…', does: () => undefined },
      { name: 'untie', label: 'Untie', when: false, does: () => undefined },
      { name: 'ubl', label: 'UBL', file: '/api/ubl', download: true },
    ]);
    const labels = [...shown().querySelectorAll('.title .act')].map((each) => each.textContent.trim());
    expect(labels).toEqual(['Tie…', 'UBL', 'Ship…']);
    expect(button('Ship…')!.classList.contains('next')).toBe(true);
    expect(button('Tie…')!.classList.contains('next')).toBe(false);
    const link = shown().querySelector('a.act')!;
    expect([link.getAttribute('href'), link.getAttribute('download')]).toEqual(['/api/ubl', '']);
  });

  it('waits while an act is under way, then says what was done and reads the document again', () => {
    const doing = new Subject<ActDone | undefined>();
    let begun = 0;
    const { button, shown } = pageOf(() => [
      ship(() => {
        begun += 1;
        return doing;
      }),
    ]);
    button('Ship…')!.click();
    // It keeps the focus that a side sheet gives back to it.
    expect([button('Ship…')!.disabled, button('Ship…')!.getAttribute('aria-disabled')]).toEqual([false, 'true']);
    button('Ship…')!.click();
    doing.next(done);
    doing.complete();
    expect(begun).toBe(1);
    expect(button('Ship…')!.getAttribute('aria-disabled')).toBeNull();
    expect(TestBed.inject(Notices).shown()).toEqual({ text: 'Shipped:', document: done.made[0], undo: null });
    expect(shown().querySelector('h1')!.textContent).toContain('read 2');
  });

  it('offers to take back what can be, and says that it was', () => {
    const undone: unknown[] = [];
    const { button, shown } = pageOf(() => [
      {
        ...ship(() => of(done)),
        undo: (what: ActDone) => {
          undone.push(what);
          return of({ made: [], touched: [{ kind: 'SO', id: 3, number: 'SO-0003' }] } as ActDone);
        },
      },
    ]);
    button('Ship…')!.click();
    const notices = TestBed.inject(Notices);
    notices.takeBack();
    expect(undone).toEqual([done]);
    expect(notices.shown()).toEqual({
      text: 'Taken back:',
      document: { kind: 'SO', id: 3, number: 'SO-0003' },
      undo: null,
    });
    expect(shown().querySelector('h1')!.textContent).toContain('read 3');
    // Once: the message it was offered with is gone.
    notices.takeBack();
    expect(undone).toHaveLength(1);
  });

  it('says nothing and reads nothing where one left it', () => {
    const { button, shown } = pageOf(() => [ship(() => of(undefined))]);
    button('Ship…')!.click();
    expect(TestBed.inject(Notices).shown()).toBeNull();
    expect(shown().querySelector('h1')!.textContent).toContain('read 1');
  });

  it('shows under the title why an act was refused, and lets it be tried again', () => {
    const sentence = 'Nothing of it is here.';
    const refused = new Refused(409, [{ code: 'x', field: '', facts: {}, sentence }]);
    const answers = [throwError(() => refused), of(done)];
    const { button, shown } = pageOf(() => [ship(() => answers.shift()!)]);
    button('Ship…')!.click();
    expect(shown().querySelector('[role=alert]')!.textContent).toBe(sentence);
    button('Ship…')!.click();
    expect(shown().querySelector('[role=alert]')).toBeNull();
  });

  it('gives up what is typed only where an act changes the document under it', () => {
    const over = pageOf(() => [{ name: 'cancel', label: 'Cancel', endsTyping: true, does: () => of(done) }]);
    over.button('Cancel')!.click();
    expect(over.typing()).toBe(false);
    TestBed.resetTestingModule();
    const beside = pageOf(() => [{ name: 'send', label: 'Send…', asks: true, does: () => of(done) }]);
    beside.button('Send…')!.click();
    expect(beside.typing()).toBe(true);
  });

  it('does nothing by an address that does not ask first', () => {
    let done = 0;
    pageOf(() => [{ name: 'cancel', label: 'Cancel', does: () => void (done += 1) }], 'cancel');
    expect(done).toBe(0);
  });

  it('begins what the address names, also where no button shows it', () => {
    let done = 0;
    const act = { name: 'invoice', label: 'Invoice…', asks: true as const, when: false, does: () => void (done += 1) };
    pageOf(() => [{ ...act, name: 'another' }, act], 'invoice');
    expect(done).toBe(1);
  });

  it('goes to what was made where that is said', () => {
    const go = jest.spyOn(TestBed.inject(Router), 'navigateByUrl');
    const { button } = pageOf(() => [
      { name: 'copy', label: 'Copy', does: () => of(done), says: () => ['Copied:', done.made[0], 'go there'] },
    ]);
    button('Copy')!.click();
    expect(go).toHaveBeenCalledWith('/shipments/3');
  });

  it('is about the first line, or the one chosen', () => {
    const { page } = pageOf(() => []);
    expect(page.line()).toEqual({ id: 70 });
    page.select({ id: 71 });
    expect(page.line()).toEqual({ id: 71 });
  });

  it('is read again when it, or what hangs on it, is touched, and for nothing else', async () => {
    const { page } = pageOf(() => []);
    const events = TestBed.inject(LiveEvents) as unknown as { changes: Subject<unknown> };
    const touch = async (kind: string, id: number) => {
      events.changes.next({ act: 'x', personId: 1, documents: [{ kind, id, number: '' }] });
      await new Promise((resolve) => setTimeout(resolve, 90));
      return page.sheet()!.read;
    };
    expect(await touch('SO', 8)).toBe(1);
    expect(await touch('SH', 7)).toBe(1);
    expect(await touch('SO', 7)).toBe(2);
    expect(await touch('SH', 2)).toBe(3);
  });
});
