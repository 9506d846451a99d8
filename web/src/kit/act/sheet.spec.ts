import { DialogRef } from '@angular/cdk/dialog';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of, Subject, throwError, type Observable } from 'rxjs';
import * as contract from '@api/agreements';
import { Api, Refused, type ActDone, type Previewed, type RefusalShown } from './api';
import { ActForm } from './sheet';

type Shown = Previewed<{ state: string }>;
const refusal = (code: string, field: string): RefusalShown => ({ code, field, facts: {}, sentence: `${code}!` });
const settled = async () => {
  TestBed.tick();
  await new Promise((resolve) => setTimeout(resolve, 190));
};

/** A form of the act, with what the server answers to previews and to the act. */
function formOf(previews: (input: unknown) => Observable<Shown>, acts: () => Observable<ActDone>) {
  const closed: unknown[] = [];
  const previewed: unknown[] = [];
  TestBed.configureTestingModule({
    providers: [
      { provide: DialogRef, useValue: { close: (answer: unknown) => closed.push(answer) } },
      {
        provide: Api,
        useValue: {
          preview: (_endpoint: unknown, input: unknown) => {
            previewed.push(input);
            return previews(input);
          },
          act: acts,
        },
      },
    ],
  });
  const input = signal({ id: 1, version: 1 });
  const form = TestBed.runInInjectionContext(() => new ActForm(contract.putInForce, input));
  return { form, input, closed, previewed };
}
const nothing: Shown = { refusals: [], warnings: [], effects: null };
const done: ActDone = { made: [{ kind: 'AG', id: 1, number: 'AG-0001' }], touched: [] };

describe('an act being filled in', () => {
  it('previews what is typed once typing rests, not each key', async () => {
    const { input, previewed } = formOf(
      () => of(nothing),
      () => of(done),
    );
    await settled();
    for (const version of [2, 3, 4]) {
      input.set({ id: 1, version });
      TestBed.tick();
    }
    await settled();
    expect(previewed).toEqual([
      { id: 1, version: 1 },
      { id: 1, version: 4 },
    ]);
  });

  it('says what is refused at fields typed in; the rest only once it was tried', async () => {
    const seen: Shown = { ...nothing, refusals: [refusal('required', 'lastDay'), refusal('busy', '')] };
    const { form } = formOf(
      () => of(seen),
      () => throwError(() => new Refused(422, seen.refusals)),
    );
    await settled();
    expect([form.at('lastDay'), form.at('lastDay', false)]).toEqual(['required!', '']);
    expect(form.loose([/^lastDay$/]).map((each) => each.code)).toEqual(['busy']);
    expect(form.loose([]).map((each) => each.code)).toEqual(['busy']);
    form.do();
    expect(form.at('lastDay', false)).toBe('required!');
    expect(form.loose([]).map((each) => each.code)).toEqual(['required', 'busy']);
  });

  it('does nothing before what it begins with is there, and says where that cannot be read', async () => {
    let acts = 0;
    const { form, previewed } = formOf(
      () => of(nothing),
      () => {
        acts += 1;
        return of(done);
      },
    );
    const read = new Subject<string>();
    const taken: string[] = [];
    form.begin(read, (found) => taken.push(found));
    await settled();
    form.do();
    expect([form.busy(), acts, taken, previewed]).toEqual([true, 0, [], []]);
    read.next('rows');
    expect([form.busy(), taken]).toEqual([false, ['rows']]);
    await settled();
    expect(previewed).toHaveLength(1);
    form.do();
    expect(acts).toBe(1);
    form.begin(
      throwError(() => new Refused(503, [refusal('busy', '')])),
      () => taken.push('never'),
    );
    expect([form.busy(), form.loose([]).map((each) => each.code), taken]).toEqual([true, ['busy'], ['rows']]);
  });

  it('keeps the sheet where the act is refused, and closes it with what was made', async () => {
    const answers = [() => throwError(() => new Refused(409, [refusal('stale', '')])), () => of(done)];
    const { form, closed } = formOf(
      () => of(nothing),
      () => answers.shift()!(),
    );
    await settled();
    form.do();
    expect([form.busy(), closed]).toEqual([false, []]);
    expect(form.loose([])[0]!.code).toBe('stale');
    form.do();
    expect(closed).toEqual([done]);
  });

  it('is done once, however often the button is pressed', async () => {
    const waiting = new Subject<ActDone>();
    let sent = 0;
    const { form } = formOf(
      () => of(nothing),
      () => {
        sent += 1;
        return waiting;
      },
    );
    await settled();
    form.do();
    form.do();
    expect([sent, form.busy()]).toEqual([1, true]);
  });

  it('goes on previewing after the server was out of reach', async () => {
    const answers = [
      throwError(() => new Refused(0, [refusal('out-of-reach', '')])),
      of({ ...nothing, effects: { state: 'in-force' } }),
    ];
    const { form, input } = formOf(
      () => answers.shift()!,
      () => of(done),
    );
    await settled();
    expect(form.loose([])[0]!.code).toBe('out-of-reach');
    input.set({ id: 1, version: 2 });
    await settled();
    expect(form.previewed()!.effects).toEqual({ state: 'in-force' });
  });
});
