import { daysBetween, dec, sum, type Day } from '@core/kernel';

/** Bands of what is owed by how many days it is past due; the first is not due yet. */
export const AGES = [
  { name: 'Not due yet', upTo: 0 },
  { name: '1 to 30 days', upTo: 30 },
  { name: '31 to 60 days', upTo: 60 },
  { name: '61 to 90 days', upTo: 90 },
  { name: 'Longer', upTo: Infinity },
] as const;

export interface OwedItem {
  dueDate: Day;
  /** Below zero where it stands to the party's credit. */
  owed: string;
}

export interface Aged {
  ages: string[];
  credit: string;
  total: string;
  oldest: Day | null;
  /** Days the oldest is past due; 0 where nothing is. */
  late: number;
}

/** What is owed, by how long it is past due on a day. What stands to the party's credit has no age. */
export function agedOf(items: readonly OwedItem[], day: Day): Aged {
  const owed = items.filter(({ owed: amount }) => dec(amount).gt(0));
  const lateOf = ({ dueDate }: OwedItem) => Math.max(0, daysBetween(dueDate, day));
  const ages = AGES.map(({ upTo }, band) => {
    const after = AGES[band - 1]?.upTo ?? -1;
    return sum(
      owed.filter((item) => lateOf(item) > after && lateOf(item) <= upTo).map(({ owed: amount }) => dec(amount)),
    ).toFixed();
  });
  const oldest = owed.map(({ dueDate }) => dueDate).sort()[0] ?? null;
  const late = oldest === null ? 0 : Math.max(0, daysBetween(oldest, day));
  return {
    ages,
    credit: sum(items.filter((item) => !owed.includes(item)).map(({ owed: amount }) => dec(amount))).toFixed(),
    total: sum(items.map(({ owed: amount }) => dec(amount))).toFixed(),
    oldest: late > 0 ? oldest : null,
    late,
  };
}

export interface PartyOwes extends OwedItem {
  party: { id: number; number: string; name: string };
  currency: string;
}

/** What is owed by party and currency, whose oldest is due longest first, and the sums of each currency. */
export function agedByParty(items: readonly PartyOwes[], day: Day) {
  const groups = new Map<string, PartyOwes[]>();
  for (const item of items) {
    const key = `${item.party.id} ${item.currency}`;
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  const rows = [...groups.values()]
    .map((group) => ({ party: group[0]!.party, currency: group[0]!.currency, ...agedOf(group, day) }))
    .sort((a, b) => b.late - a.late || a.party.name.localeCompare(b.party.name));
  const currencies = [...new Set(rows.map(({ currency }) => currency))].sort();
  const sums = currencies.map((currency) => {
    const { ages, credit, total } = agedOf(
      items.filter((item) => item.currency === currency),
      day,
    );
    return { currency, ages, credit, total };
  });
  return { rows, sums };
}
