/** Hours of work: on the days of a week, seven of 0 and 1, Monday first; from a minute up to another, at most 1440. */
export interface Shift {
  week: string;
  from: number;
  until: number;
}

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;
const EVERY_DAY = '1111111';
const DAY_MINUTES = 1440;

/** One stretch as it is typed; where it ends at or before its beginning it goes on into the next day. */
interface TypedStretch {
  week: string;
  from: number;
  until: number;
}

/**
 * Hours as people write them, as they are kept: `Mon-Fri 08:00-16:00; Sat 08:00-12:00`, `22:00-06:00` over midnight,
 * days left out for every day that is worked; empty for never. Null for what cannot be read.
 */
export function readTypedHours(text: string): string | null {
  const stretches = stretchesOf(text);
  return stretches && stretches.map(textOf).join('; ');
}

/** The shifts of kept hours; what goes over midnight is two. */
export function shiftsOf(hours: string): Shift[] {
  return (stretchesOf(hours) ?? []).flatMap(({ week, from, until }): Shift[] => {
    if (until > from) return [{ week, from, until }];
    const next = week.slice(6) + week.slice(0, 6);
    const rest = until > 0 ? [{ week: next, from: 0, until }] : [];
    return [{ week, from, until: DAY_MINUTES }, ...rest];
  });
}

function stretchesOf(text: string): TypedStretch[] | null {
  const parts = text
    .replaceAll(/[–—]/g, '-')
    .split(/[;,\n]/)
    .map((part) => part.trim())
    .filter((part) => part !== '');
  const read = parts.map(stretchOf);
  return read.every((each) => each !== null) ? read : null;
}

function stretchOf(part: string): TypedStretch | null {
  const found = /^(?:([a-z][a-z\s-]*?)\s+)?(\d{1,2})(?:[:.](\d\d))?\s*-\s*(\d{1,2})(?:[:.](\d\d))?$/i.exec(part);
  if (!found) return null;
  const week = found[1] === undefined ? EVERY_DAY : weekOf(found[1]);
  const from = minuteOf(found[2]!, found[3]);
  const until = minuteOf(found[4]!, found[5]);
  if (week === null || from === null || until === null || from === DAY_MINUTES || from === until) return null;
  return { week, from, until };
}

function minuteOf(hours: string, minutes = '00'): number | null {
  const minute = Number(hours) * 60 + Number(minutes);
  return Number(minutes) < 60 && minute <= DAY_MINUTES ? minute : null;
}

/** `Mon-Fri`, `Sat`, `mon wed fri`, `Fri-Mon` as a week; null for what is no day. */
function weekOf(text: string): string | null {
  const worked = new Set<number>();
  for (const each of text
    .trim()
    .replaceAll(/\s*-\s*/g, '-')
    .split(/\s+/)) {
    const [first, last = first] = each.split('-').map((name) => placeOf(name));
    if (first === undefined || last === undefined || first < 0 || last < 0) return null;
    for (let day = first; ; day = (day + 1) % 7) {
      worked.add(day);
      if (day === last) break;
    }
  }
  return DAYS.map((_day, place) => (worked.has(place) ? '1' : '0')).join('');
}

function placeOf(name: string): number {
  const short = name.slice(0, 3).toLowerCase();
  return name.length < 2 ? -1 : DAYS.findIndex((day) => day.toLowerCase().startsWith(short));
}

function textOf({ week, from, until }: TypedStretch): string {
  const days = week === EVERY_DAY ? '' : `${daysText(week)} `;
  return `${days}${clock(from)}-${clock(until)}`;
}

const clock = (minute: number) =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

function daysText(week: string): string {
  const runs: string[] = [];
  for (let day = 0; day < 7; day += 1) {
    if (week[day] !== '1') continue;
    let last = day;
    while (week[last + 1] === '1') last += 1;
    runs.push(last - day > 1 ? `${DAYS[day]!}-${DAYS[last]!}` : DAYS.slice(day, last + 1).join(' '));
    day = last;
  }
  return runs.join(' ');
}
