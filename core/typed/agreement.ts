import type { Rebate, RebateTier, Reminder } from '@core/agreements';
import { isDay, readTypedDecimal, type Day } from '@core/kernel';
import { readTypedDay } from './day';
import { pastedCells } from './cells';

/** Rebate tiers as people type them: `10000: 2 %; 25000: 3 %`. What cannot be read stays as typed. // A10 */
export function readTypedTiers(typed: string): RebateTier[] {
  return typed
    .split(/[;\n]/)
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((part) => {
      const [from = '', rate = ''] = part.split(':').map((each) => each.trim());
      const bare = rate.replace(/\s*%$/, '');
      return {
        from: readTypedDecimal(from, 'quantity') ?? from,
        rate: readTypedDecimal(bare, 'price') ?? bare,
      };
    });
}

/** Rebate tiers as they are typed: the inverse of `readTypedTiers`. */
export function typedTiersOf({ by, tiers }: Rebate): string {
  return tiers.map(({ from, rate }) => `${from}: ${rate}${by === 'value' ? ' %' : ''}`).join('; ');
}

/**
 * Reminders as people type them: `30 days; 80 %; pace -15`. // A9
 * What is none of these is taken as a number of days, so that the refusal can name it.
 */
export function readTypedReminders(typed: string): Reminder[] {
  return typed
    .split(/[;\n]/)
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((part): Reminder => {
      const pace = /^pace\s*([-−+]?\s*[\d.]+)\s*%?$/i.exec(part);
      if (pace) return { kind: 'pace', at: pace[1]!.replace('−', '-').replace(/[\s+]/g, '') };
      const share = /^([\d.]+)\s*%/.exec(part);
      if (share) return { kind: 'fulfilled', at: share[1]! };
      return { kind: 'days', at: /^(\d+)\s*days?\b/i.exec(part)?.[1] ?? part.slice(0, 20) };
    });
}

/** Reminders as they are typed: the inverse of `readTypedReminders`. */
export function typedRemindersOf(reminders: readonly Reminder[]): string {
  return reminders
    .map(({ kind, at }) => (kind === 'days' ? `${at} days` : kind === 'fulfilled' ? `${at} %` : `pace ${at}`))
    .join('; ');
}

export interface PastedRelease {
  /** Number of the row as pasted, from 1. */
  row: number;
  item: string;
  quantity: string;
  day: Day | null;
  /** What cannot be read, in words; empty where all can. */
  problem: string;
}

/**
 * Rows pasted from a spreadsheet: item, quantity and ship date, with tabs, semicolons or commas and spaces between.
 * Every row that is not empty comes back; one that cannot be read says why. // A6 G4
 */
export function readPastedReleases(text: string, workDate: Day): PastedRelease[] {
  return pastedCells(text).map(({ cells, row }) => {
    const [item = '', quantityTyped = '', dayTyped = ''] = cells;
    const quantity = readTypedDecimal(quantityTyped, 'quantity');
    const day = dayTyped === '' ? null : readTypedDay(dayTyped, workDate);
    const problem =
      item === '' || cells.length < 2
        ? 'give an item and a quantity'
        : quantity === null
          ? `${quantityTyped || 'nothing'} is not a quantity`
          : dayTyped !== '' && (day === null || !isDay(day))
            ? `${dayTyped} is not a date`
            : '';
    return { row, item, quantity: quantity ?? quantityTyped, day, problem };
  });
}
