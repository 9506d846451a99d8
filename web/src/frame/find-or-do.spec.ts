import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { of, Subject, type Observable } from 'rxjs';
import { Api } from '../kit/act/api';
import { FindOrDo } from './find-or-do';
import { TypedAhead } from './typed-ahead';

interface Answer {
  rows: { kind: string; id: number; number: string; name: string }[];
}

async function boxOf(find: (words: string) => Observable<Answer>, ahead = new TypedAhead()) {
  TestBed.configureTestingModule({
    providers: [
      provideRouter([{ path: '**', children: [] }]),
      { provide: DialogRef, useValue: { close: () => undefined } },
      { provide: DIALOG_DATA, useValue: ahead },
      {
        provide: Api,
        useValue: { call: (_endpoint: unknown, given: { query: { q: string } }) => find(given.query.q) },
      },
    ],
  });
  const fixture = TestBed.createComponent(FindOrDo);
  await fixture.whenStable();
  const element = fixture.nativeElement as HTMLElement;
  const input = element.querySelector('input')!;
  input.dispatchEvent(new Event('focus'));
  const settled = async () => {
    TestBed.tick();
    await new Promise((resolve) => setTimeout(resolve, 120));
    await fixture.whenStable();
  };
  return {
    settled,
    options: () => [...element.querySelectorAll('[role="option"]')].map(wordsOf),
    selected: () => wordsOf(element.querySelector('[aria-selected="true"]')),
    async type(words: string) {
      input.value = words;
      input.dispatchEvent(new Event('input'));
      await fixture.whenStable();
    },
    async press(key: string) {
      input.dispatchEvent(new KeyboardEvent('keydown', { key, cancelable: true }));
      await fixture.whenStable();
    },
  };
}
/** What an entry says, part by part. */
const wordsOf = (entry: Element | null) =>
  [...(entry?.children.length ? entry.children : entry ? [entry] : [])]
    .map((part) => part.textContent!.trim())
    .filter((text) => text !== '')
    .join(' ');
const order = { kind: 'SO', id: 4, number: 'SO-0004', name: 'Teratai Bay Resort' };

describe('find or do', () => {
  it('offers what can be done by name, before anything is typed and as it is typed', async () => {
    const box = await boxOf(() => of({ rows: [] }));
    expect(box.options()).toContain('do New agreement');
    await box.type('new sal');
    await box.settled();
    expect(box.options()).toEqual(['do New sales order']);
  });

  it('puts what was found first, and Enter goes there', async () => {
    const box = await boxOf(() => of({ rows: [order] }));
    const went = jest.spyOn(TestBed.inject(Router), 'navigateByUrl').mockResolvedValue(true);
    await box.type('so');
    await box.settled();
    expect(box.selected()).toBe('sales order SO-0004 Teratai Bay Resort');
    await box.press('Enter');
    expect(went).toHaveBeenCalledWith('/orders/4');
  });

  it('never takes what was found for other words', async () => {
    const late = new Subject<Answer>();
    const box = await boxOf((words) => (words === 'so' ? of({ rows: [order] }) : late));
    const went = jest.spyOn(TestBed.inject(Router), 'navigateByUrl').mockResolvedValue(true);
    await box.type('so');
    await box.settled();
    await box.type('sol');
    await box.press('Enter');
    expect(went).not.toHaveBeenCalled();
    expect(box.options()).toEqual(['Nothing by that name in this company.']);
  });

  it('walks around both ends with the arrows', async () => {
    const box = await boxOf(() => of({ rows: [order, { ...order, id: 5, number: 'SO-0005' }] }));
    await box.type('so-000');
    await box.settled();
    await box.press('ArrowUp');
    expect(box.selected()).toContain('SO-0005');
    await box.press('ArrowDown');
    expect(box.selected()).toContain('SO-0004');
  });

  it('begins with what was typed while it was opening, none of it in the field that had the focus', async () => {
    const field = document.body.appendChild(document.createElement('input'));
    const press = (key: string) =>
      field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    const ahead = new TypedAhead();
    expect(['s', 'o'].map(press)).toEqual([false, false]);
    expect(press('Tab')).toBe(true);
    const box = await boxOf(() => of({ rows: [order] }), ahead);
    await box.settled();
    expect(box.selected()).toBe('sales order SO-0004 Teratai Bay Resort');
    expect(press('x')).toBe(true);
    field.remove();
  });

  it('goes where Enter leads that was typed while it was opening, once that is answered', async () => {
    const press = (key: string) =>
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    const ahead = new TypedAhead();
    expect(['s', 'o', '-', 'Enter', 'x'].map(press)).toEqual([false, false, false, false, false]);
    const answer = new Subject<Answer>();
    const box = await boxOf(() => answer, ahead);
    const gone = jest.spyOn(TestBed.inject(Router), 'navigateByUrl').mockResolvedValue(true);
    await box.settled();
    // Not what is offered before it is answered.
    expect(gone).not.toHaveBeenCalled();
    answer.next({ rows: [order] });
    await box.settled();
    expect(gone.mock.calls).toEqual([['/orders/4']]);
  });

  it('goes nowhere by an Enter without words, or after which more is typed', async () => {
    const press = (key: string) =>
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    const ahead = new TypedAhead();
    press('Enter');
    const box = await boxOf(() => of({ rows: [order] }), ahead);
    const gone = jest.spyOn(TestBed.inject(Router), 'navigateByUrl').mockResolvedValue(true);
    await box.settled();
    await box.type('so-');
    await box.settled();
    expect(gone).not.toHaveBeenCalled();
  });
});
