import { dayIn, dayText, daysBetween, unitsIn, type Day, type Language } from '../kernel';
import { LETTER_WORDS } from './letter-words';

/** A line whose promise moved, as its customer is told. */
export interface MovedPromise {
  order: { id: number; number: string; reference: string };
  lineNo: number;
  item: string;
  quantity: string;
  unit: string;
  was: Day;
  is: Day;
}

export interface PromiseMessage {
  subject: string;
  body: string;
}

/** Longer lists are cut; the confirmation that goes with it has them all. */
const MOST_LINES = 25;

/**
 * What a customer is told when days that were promised to them move: which lines, from when to when; not why, and not
 * whose fault. Lines in the order they are given. // T9
 */
export function promiseMessage(
  party: string,
  from: { person: string; company: string },
  moved: readonly MovedPromise[],
  workDate: Day,
  language: Language = 'en',
): PromiseMessage {
  const numbers = [...new Set(moved.map((line) => line.order.number))];
  const later = moved.some((line) => line.is > line.was);
  const words = LETTER_WORDS[language];
  const said = (day: Day) => (language === 'en' ? dayText(day, workDate) : dayIn(day, language));
  const lines = moved.slice(0, MOST_LINES).map(({ order, lineNo, item, quantity, unit, was, is }) => {
    const of = order.reference ? words.yours(order.number, order.reference) : order.number;
    const what = words.moved.what(unitsIn(quantity, unit, language), item);
    return words.moved.line(of, lineNo, what, said(is), said(was), Math.abs(daysBetween(was, is)), is > was);
  });
  if (moved.length > MOST_LINES) lines.push(words.more(moved.length - MOST_LINES));
  return {
    subject: words.moved.subject(numbers, moved.length),
    body: [
      words.dear(party),
      words.moved.told(moved.length),
      lines.join('\n'),
      ...(later ? [words.moved.sorry] : []),
      words.regards(from),
    ].join('\n\n'),
  };
}
