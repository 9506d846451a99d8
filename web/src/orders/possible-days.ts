import { computed, DestroyRef, inject, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { EMPTY } from 'rxjs';
import { catchError, debounceTime, map, switchMap } from 'rxjs/operators';
import { isDay } from '@core/kernel';
import { Promises, type PossibleDay } from '../promise';
import { baseQuantity, optionIdsOf, type TypedLine } from './typed';

/** What is to be said of the ship date of a line that is being typed. */
export interface DayWord {
  row: TypedLine;
  /** `Line 2, FV-900: cannot be before Thu 11 Mar: Arus needs 8 working days`. */
  sentence: string;
  /** The day that can be kept; null where none can be said. */
  instead: string | null;
}

/** Lines asked about in one go; the bound of the endpoint. */
const MOST_LINES = 200;

/**
 * The first day each typed line's route can keep, and why: taken where nobody typed a day, and a word where the typed one is
 * earlier or is not worked. To be made in an injection context. // S10
 */
export class PossibleDays {
  private readonly promises = inject(Promises);
  private readonly found = signal<ReadonlyMap<string, PossibleDay>>(new Map());

  constructor(
    private readonly lines: Signal<readonly TypedLine[]>,
    orderId: () => number | null,
    /** Takes a day into a line. */
    take: (row: TypedLine, shipDate: string) => void,
    /** A line that was confirmed: what comes for it is on its way, and says when. */
    private readonly stays: (row: TypedLine) => boolean,
  ) {
    const asked = computed(() =>
      lines()
        .filter((line) => line.itemId !== null && Number(baseQuantity(line)) > 0 && !this.stays(line))
        .slice(0, MOST_LINES)
        .map((line) => ({
          key: line.key,
          itemId: line.itemId!,
          route: line.route,
          locationId: line.locationId,
          quantity: baseQuantity(line),
          asked: line.shipDate !== null && isDay(line.shipDate) ? line.shipDate : null,
          own: optionIdsOf(line).length > 0,
        })),
    );
    toObservable(computed(() => JSON.stringify(asked())))
      .pipe(
        debounceTime(300),
        switchMap(() => {
          const of = asked();
          if (of.length === 0) return EMPTY;
          // Without an answer the days stay as they are typed.
          return this.promises.possibleDays({ orderId: orderId(), lines: of }).pipe(
            map(({ lines: days }) => days),
            catchError(() => EMPTY),
          );
        }),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe((days) => {
        this.found.set(new Map(days.map((each) => [each.key, each])));
        for (const { key, first } of days) {
          const row = this.lines().find((line) => line.key === key && line.dayOpen);
          if (row && first !== null && row.shipDate !== first) take(row, first);
        }
      });
  }

  /** What is worth a word, line by line; nothing of a day that was typed anew since. */
  readonly words = computed((): DayWord[] =>
    this.lines().flatMap((row, at) => {
      const day = this.found().get(row.key);
      if (!day?.word || day.asked !== row.shipDate || this.stays(row)) return [];
      return [{ row, sentence: `Line ${at + 1}, ${row.number}: ${day.word.replace(/\.$/, '')}`, instead: day.instead }];
    }),
  );

  /** Why a line has the day it has, where it is the first its route can keep. */
  why(row: TypedLine): string {
    const day = this.found().get(row.key);
    return day && day.first !== null && day.first === row.shipDate ? `the first day it can ship: ${day.why}` : '';
  }
}
