import { dayText, daysBetween, type Day, inUnits } from '../kernel';

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
): PromiseMessage {
  const numbers = [...new Set(moved.map((line) => line.order.number))];
  const later = moved.some((line) => line.is > line.was);
  const lines = moved.slice(0, MOST_LINES).map(({ order, lineNo, item, quantity, unit, was, is }) => {
    const of = order.reference ? `${order.number} (your ${order.reference})` : order.number;
    const days = Math.abs(daysBetween(was, is));
    const by = `${days} ${days === 1 ? 'day' : 'days'} ${is > was ? 'later' : 'sooner'}`;
    return `${of}, line ${lineNo}: ${inUnits(quantity, unit)} of ${item}, going out ${dayText(is, workDate)}, not ${dayText(was, workDate)} (${by})`;
  });
  if (moved.length > MOST_LINES) lines.push(`and ${moved.length - MOST_LINES} more`);
  const told = `we have to tell you of ${moved.length === 1 ? 'a new day' : 'new days'} for what you ordered:`;
  const sorry = later ? 'We are sorry for the delay. Should this not do for you, please tell us.' : null;
  return {
    subject: `New ${moved.length === 1 ? 'day' : 'days'} for ${listed(numbers)}`,
    body: [
      `Dear ${party},`,
      told,
      lines.join('\n'),
      ...(sorry ? [sorry] : []),
      `Kind regards,\n${from.person}, ${from.company}`,
    ].join('\n\n'),
  };
}

function listed(numbers: readonly string[]): string {
  if (numbers.length > 4) return `${numbers.slice(0, 3).join(', ')} and ${numbers.length - 3} more orders`;
  return numbers.length > 1 ? `${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1)}` : (numbers[0] ?? '');
}
