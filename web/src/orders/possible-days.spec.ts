import { computed, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of, throwError, type Observable } from 'rxjs';
import { Promises, type PossibleDay } from '../promise';
import { PossibleDays } from './possible-days';
import { blankLine, type TypedLine } from './typed';

const line = (change: Partial<TypedLine> = {}): TypedLine => ({
  ...blankLine('2027-03-01'),
  itemId: 9,
  number: 'RO-4040',
  quantity: '4',
  ...change,
});

describe('S10 the days typed lines can ship', () => {
  const rests = async () => {
    TestBed.tick();
    await new Promise((resolve) => setTimeout(resolve, 340));
  };
  function staged(
    begin: TypedLine[],
    answer: (asked: { key: string; asked: string | null }) => Partial<PossibleDay>,
    stays: (row: TypedLine) => boolean = () => false,
  ) {
    const lines = signal<TypedLine[]>(begin);
    const asked: { orderId: number | null; lines: { key: string; asked: string | null; quantity: string }[] }[] = [];
    let fails = false;
    const possibleDays = (body: (typeof asked)[number]): Observable<{ lines: PossibleDay[] }> => {
      asked.push(body);
      if (fails) return throwError(() => new Error('away'));
      return of({
        lines: body.lines.map((each) => ({
          ...{ key: each.key, asked: each.asked, first: '2027-03-10', why: 'Arus needs 8 working days' },
          ...{ word: '', instead: null },
          ...answer(each),
        })),
      });
    };
    TestBed.configureTestingModule({ providers: [{ provide: Promises, useValue: { possibleDays } }] });
    const days = TestBed.runInInjectionContext(
      () =>
        new PossibleDays(
          computed(() => lines()),
          () => 7,
          (row, shipDate) =>
            lines.update((all) => all.map((each) => (each.key === row.key ? { ...each, shipDate } : each))),
          stays,
        ),
    );
    return { lines, asked, days, fail: () => (fails = true) };
  }

  it('takes the first day where nobody typed one, says why, and leaves what was typed', async () => {
    const own = line({ shipDate: '2027-03-20', dayOpen: false });
    const { lines, asked, days } = staged([line(), own, line({ quantity: '' })], () => ({}));
    await rests();
    await rests();
    expect(lines().map(({ shipDate }) => shipDate)).toEqual(['2027-03-10', '2027-03-20', '2027-03-08']);
    expect(asked[0]).toMatchObject({
      orderId: 7,
      lines: [{ quantity: '4', asked: '2027-03-08' }, { asked: '2027-03-20' }],
    });
    // Asked once more for the day that was taken, and no more.
    expect(asked).toHaveLength(2);
    expect(days.why(lines()[0]!)).toBe('the first day it can ship: Arus needs 8 working days');
    expect(days.why(lines()[1]!)).toBe('');
    expect(days.words()).toEqual([]);
  });

  it('says what cannot be of a typed day, until another is typed', async () => {
    const early = line({ shipDate: '2027-03-05', dayOpen: false });
    const { lines, days } = staged([early], ({ asked }) =>
      asked === '2027-03-05'
        ? { word: 'cannot be before Wed 10 Mar: Arus needs 8 working days', instead: '2027-03-10' }
        : {},
    );
    await rests();
    expect(days.words()).toMatchObject([
      { sentence: 'Line 1, RO-4040: cannot be before Wed 10 Mar: Arus needs 8 working days', instead: '2027-03-10' },
    ]);
    lines.update(([row]) => [{ ...row!, shipDate: '2027-03-12' }]);
    expect(days.words()).toEqual([]);
    await rests();
    expect(days.words()).toEqual([]);
  });

  it('asks nothing of a line that was confirmed, and numbers the others as they stand', async () => {
    const word = { word: 'cannot be before Wed 10 Mar: Arus needs 8 working days', instead: '2027-03-10' };
    const early = { shipDate: '2027-03-05', dayOpen: false };
    const { days, asked } = staged(
      [line({ ...early, id: 4 }), line(early)],
      () => word,
      ({ id }) => id !== null,
    );
    await rests();
    expect(asked.map(({ lines }) => lines.length)).toEqual([1]);
    expect(days.words().map(({ sentence }) => sentence)).toEqual([
      'Line 2, RO-4040: cannot be before Wed 10 Mar: Arus needs 8 working days',
    ]);
  });

  it('leaves the days as they are where nobody answers, or none can be said', async () => {
    const { lines, days, fail } = staged([line()], () => ({
      first: null,
      why: 'Nobody sells us RO-4040.',
      word: 'Nobody sells us RO-4040.',
    }));
    await rests();
    expect([lines()[0]!.shipDate, days.why(lines()[0]!)]).toEqual(['2027-03-08', '']);
    expect(days.words()).toMatchObject([{ sentence: 'Line 1, RO-4040: Nobody sells us RO-4040', instead: null }]);
    fail();
    lines.update(([row]) => [{ ...row!, quantity: '5' }]);
    await rests();
    expect(lines()[0]!.shipDate).toBe('2027-03-08');
  });
});
