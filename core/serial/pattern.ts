import { sameText, type Day } from '@core/kernel';
import { decided, refuse, type Decision } from '@core/refusals';

/** How long a number may be. */
export const NUMBER_LENGTH = 40;

/**
 * What is wrong with how an item's numbers are made: text with one run of `#` where the count stands, filled with zeros,
 * and `{YY}` for the year where wanted; `PM15-{YY}-####`. Empty where none are made and all are typed. // P6
 */
export function decidePattern(typed: string): Decision<{ pattern: string }> {
  const pattern = typed.trim();
  const runs = pattern.match(/#+/g) ?? [];
  const rest = pattern.replace('{YY}', '');
  const fits = runs.length === 1 && runs[0].length <= 9 && !/[{}]/.test(rest) && pattern.length <= NUMBER_LENGTH;
  return decided(pattern === '' || fits ? [] : [refuse('not-a-pattern', 'pattern', {})], () => ({ pattern }));
}

/** The number that a pattern makes of a count on a day; a count with more places than it has makes it longer. */
export function numberBy(pattern: string, count: number, day: Day): string {
  return pattern.replace('{YY}', day.slice(2, 4)).replace(/#+/, (run) => String(count).padStart(run.length, '0'));
}

/** The count in a number that a pattern could have made, in whatever year; null where it could not. */
export function countIn(pattern: string, number: string): number | null {
  if (pattern === '') return null;
  const exact = (text: string) => sameText(text).replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  const [before = '', after = ''] = pattern.split(/#+/);
  const part = (text: string) => text.split('{YY}').map(exact).join('\\d\\d');
  const found = new RegExp(`^${part(before)}(\\d{1,9})${part(after)}$`).exec(sameText(number));
  return found ? Number(found[1]) : null;
}
