import fc from 'fast-check';
import { elapsedShare } from '@core/agreements';
import { dec, sum } from '@core/kernel';
import {
  AgreementColumns,
  AMOUNTS,
  EVERYTHING,
  NO_GROUP,
  type AgreementFigures,
  type AgreementsAsked,
  type FulfilmentAsked,
} from './index';

const DAY = '2027-03-01';
const WORTH = new Map([
  ['MYR', 1],
  ['SGD', 3.41],
]);

const cents = fc.integer({ min: -5_000_000, max: 900_000_000 }).map((value) => dec(value).div(100).toFixed());
const amounts = { committed: cents, released: cents, shipped: cents, invoiced: cents };
const day = fc.constantFrom('2026-01-01', '2027-02-28', '2027-03-01', '2027-03-02', '2028-01-01');

const agreement: fc.Arbitrary<AgreementFigures> = fc
  .record({
    id: fc.integer({ min: 1, max: 12 }),
    side: fc.constantFrom('selling', 'buying'),
    state: fc.constantFrom('draft', 'in-force', 'paused', 'ended', 'cancelled'),
    currency: fc.constantFrom('MYR', 'SGD', 'USD'),
    partyId: fc.integer({ min: 1, max: 4 }),
    organisationId: fc.constantFrom(null, 1, 2),
    firstDay: day,
    lastDay: day,
    usedUp: fc.boolean(),
    ...amounts,
    lines: fc.array(fc.record({ groupId: fc.constantFrom(EVERYTHING, NO_GROUP, 1, 2), ...amounts }), { maxLength: 4 }),
  })
  .map((each) => (each.firstDay <= each.lastDay ? each : { ...each, firstDay: each.lastDay, lastDay: each.firstDay }));

const asked: fc.Arbitrary<FulfilmentAsked> = fc.record(
  {
    by: fc.constantFrom('agreement', 'customer', 'organisation', 'group', 'currency'),
    side: fc.constantFrom('selling', 'buying'),
    state: fc.constantFrom('in-force', 'paused', 'ended'),
    dates: fc.constantFrom('passed', 'running'),
    customerId: fc.integer({ min: 1, max: 4 }),
    organisationId: fc.constantFrom(1, 2),
    groupId: fc.constantFrom(1, 2),
    currency: fc.constantFrom('MYR', 'USD'),
    left: fc.constantFrom('used-up', 'some'),
  },
  { requiredKeys: ['by', 'side'] },
);

type Row = Record<(typeof AMOUNTS)[number], string> & { id: number; currency: string; of: number };

/** Those asked for, by plain filters. */
function fitting(all: readonly AgreementFigures[], on: AgreementsAsked): AgreementFigures[] {
  return all.filter(
    (each) =>
      (!on.side || each.side === on.side) &&
      (!on.state || each.state === on.state) &&
      (!on.dates || ['in-force', 'paused'].includes(each.state)) &&
      (on.dates !== 'passed' || each.lastDay < DAY) &&
      (on.dates !== 'running' || (each.firstDay <= DAY && each.lastDay >= DAY)) &&
      (!on.customerId || (each.side === 'selling' && each.partyId === on.customerId)) &&
      (!on.organisationId || each.organisationId === on.organisationId) &&
      (!on.groupId || each.lines.some((line) => line.groupId === on.groupId)) &&
      (!on.currency || each.currency === on.currency) &&
      (!on.left || each.usedUp === (on.left === 'used-up')),
  );
}

/** The same by plain filters and decimal sums. */
function naive(all: readonly AgreementFigures[], on: FulfilmentAsked): Map<string, string> {
  const own = fitting(all, on).filter((each) => ['in-force', 'paused', 'ended'].includes(each.state));
  const rows = own.flatMap((each): Row[] => {
    const { id, currency, partyId, organisationId } = each;
    const of = { agreement: id, customer: partyId, organisation: organisationId ?? 0, currency: 0, group: 0 }[on.by];
    return on.by === 'group'
      ? each.lines.map((line) => ({ ...line, id, currency, of: line.groupId }))
      : [{ ...each, of }];
  });
  const keys = [...new Set(rows.map((row) => `${row.of} ${row.currency}`))];
  return new Map(
    keys.map((key) => {
      const mine = rows.filter((row) => `${row.of} ${row.currency}` === key);
      const sums = AMOUNTS.map((amount) => sum(mine.map((row) => dec(row[amount]))).toFixed());
      return [key, [new Set(mine.map((row) => row.id)).size, ...sums].join(' ')];
    }),
  );
}

const columnsOf = (all: readonly AgreementFigures[]) => {
  const columns = new AgreementColumns();
  for (const each of all) columns.put(each);
  return columns;
};

describe('A4 sums over agreements', () => {
  it('are what plain sums say, for any agreements, taken in anew as they change, and any question', () => {
    fc.assert(
      fc.property(fc.array(agreement, { maxLength: 40 }), asked, fc.nat(40), (puts, on, early) => {
        const columns = columnsOf(puts.slice(0, early));
        // What was asked before the rest came is moved by it.
        columns.groups(on, DAY, WORTH, false, 1000);
        for (const each of puts.slice(early)) columns.put(each);
        // The last of each id stands.
        const now = [...new Map(puts.map((each) => [each.id, each])).values()];
        expect(columns.size).toBe(now.length);
        const { groups } = columns.groups(on, DAY, WORTH, false, 1000);
        const said = groups.flatMap(({ of, sums }) =>
          sums.map(
            (each) =>
              [`${of} ${each.currency}`, [each.agreements, ...AMOUNTS.map((of) => each[of])].join(' ')] as const,
          ),
        );
        expect(new Map(said)).toEqual(naive(now, on));
      }),
      { seed: 4, numRuns: 400 },
    );
  });

  it('stay true for more questions than are kept', () => {
    fc.assert(
      fc.property(fc.array(agreement, { maxLength: 12 }), fc.array(asked, { maxLength: 60 }), (puts, questions) => {
        const columns = columnsOf(puts);
        const now = [...new Map(puts.map((each) => [each.id, each])).values()];
        for (const on of questions) {
          const found = columns.groups(on, DAY, WORTH, false, 1000).groups.flatMap((group) => group.sums);
          expect(found).toHaveLength(naive(now, on).size);
        }
      }),
      { seed: 6, numRuns: 60 },
    );
  });

  it('A8 gives those furthest behind first, page by page, as a plain sort does', () => {
    const where: fc.Arbitrary<AgreementsAsked> = asked.map(({ by: _by, ...rest }) => rest);
    fc.assert(
      fc.property(fc.array(agreement, { maxLength: 40 }), where, fc.integer({ min: 1, max: 7 }), (puts, on, most) => {
        const columns = columnsOf(puts);
        const now = [...new Map(puts.map((each) => [each.id, each])).values()];
        const expected = fitting(now, on)
          .map(({ id, firstDay, lastDay, shipped, committed }) => {
            const fulfilled = Number(committed) > 0 ? Number(shipped) / Number(committed) : 0;
            return { id, pace: Math.round((fulfilled - elapsedShare(firstDay, lastDay, DAY)) * 1e6) };
          })
          .sort((a, b) => a.pace - b.pace || a.id - b.id);
        const found: typeof expected = [];
        for (let page = columns.byPace(on, DAY, most, null, null); page.length > 0;) {
          found.push(...page);
          page = columns.byPace(on, DAY, most, page.at(-1)!, null);
        }
        expect(found).toEqual(expected);
        const among = new Set(expected.filter((_, index) => index % 2).map((each) => each.id));
        expect(columns.byPace(on, DAY, 100, null, among)).toEqual(expected.filter((each) => among.has(each.id)));
      }),
      { seed: 7, numRuns: 300 },
    );
  });

  it('put together hold the same currencies, largest first, and name those without a worth', () => {
    fc.assert(
      fc.property(fc.array(agreement, { maxLength: 40 }), asked, fc.integer({ min: 1, max: 5 }), (puts, on, most) => {
        const columns = columnsOf(puts);
        const apart = columns.groups(on, DAY, WORTH, false, 1000);
        const all = columns.groups(on, DAY, WORTH, true, 1000);
        const count = (of: typeof all) => of.groups.flatMap((group) => group.sums);
        const rated = count(apart).filter((each) => WORTH.has(each.currency));
        expect(count(all)).toHaveLength(rated.length);
        const value = (group: (typeof all.groups)[number]) =>
          sum(group.sums.map((each) => dec(each.committed).times(String(WORTH.get(each.currency)))));
        all.groups.slice(1).forEach((group, index) => {
          // Equal to the cent is in either order; what they are ordered by is a float.
          expect(value(all.groups[index]!).minus(value(group)).gte('-0.01')).toBe(true);
        });
        expect(columns.groups(on, DAY, WORTH, true, most).groups).toEqual(all.groups.slice(0, most));
        expect(all.unrated).toEqual(count(apart).some((each) => each.currency === 'USD') ? ['USD'] : []);
      }),
      { seed: 5, numRuns: 200 },
    );
  });

  it('draws the largest, as the day’s worth makes them', () => {
    const of = (id: number, currency: string, committed: string): AgreementFigures => ({
      id,
      side: 'selling',
      state: 'in-force',
      currency,
      partyId: 1,
      organisationId: null,
      firstDay: DAY,
      lastDay: DAY,
      usedUp: false,
      committed,
      released: '0',
      shipped: '0',
      invoiced: '0',
      lines: [],
    });
    const columns = columnsOf([of(1, 'MYR', '300'), of(2, 'SGD', '100'), of(3, 'USD', '9000'), of(4, 'MYR', '300')]);
    expect(columns.largest({ by: 'customer', side: 'selling' }, DAY, WORTH, 2)).toEqual([2, 1]);
    expect(columns.largest({ by: 'customer', side: 'buying' }, DAY, WORTH, 2)).toEqual([]);
  });

  it('stay exact beyond what a float holds, and refuse one value that is too large', () => {
    const big: AgreementFigures = {
      id: 1,
      side: 'selling',
      state: 'in-force',
      currency: 'MYR',
      partyId: 1,
      organisationId: null,
      firstDay: DAY,
      lastDay: DAY,
      usedUp: false,
      committed: '4503599627370.497',
      released: '-4503599627370.497',
      shipped: '0.001',
      invoiced: '0',
      lines: [],
    };
    const columns = columnsOf(Array.from({ length: 9 }, (_, index) => ({ ...big, id: index + 1 })));
    const [group] = columns.groups({ by: 'currency', side: 'selling' }, DAY, WORTH, false, 10).groups;
    expect(group!.sums[0]).toMatchObject({
      committed: dec('4503599627370.497').times(9).toFixed(),
      released: dec('-4503599627370.497').times(9).toFixed(),
      shipped: '0.009',
    });
    expect(() => columns.put({ ...big, committed: '9007199254741' })).toThrow(RangeError);
    expect(() => columns.put({ ...big, committed: '0.0001' })).toThrow(RangeError);
  });
});
