import { addDays, type Day } from '@core/kernel';
import type { Database } from '../server/db';
import { Actor } from '../server/sample/actor';
import { chanceOf, type Chance } from '@core/kernel';
import { layDesk, typePricedOrder } from '../server/sample/desk';
import { layMasters } from '../server/sample/masters';
import { layAbroad, tellAbroad } from './abroad';
import { layCounted } from './counted';
import { layCounterStory } from './counter';
import { layCommission } from './commission';
import { layPromotions } from './promotions';
import { layRounds } from './rounds';
import { layStanding } from './standing';
import { layEast } from './east';
import { laySisterStory } from './sisters';
import { layOpeningStock } from '../server/sample/opening-stock';
import { Story, type Far, type ReleasePlan } from './story';
import { Ties } from './ties';
import { Timetable } from '../server/sample/timetable';
import { layWorks, promiseWorks } from '../server/sample/works';
import { WorkshopStory } from './workshop';

export interface DemoOptions {
  seed: number;
  /** Further orders besides the small demo's own, for larger sets. */
  moreOrders: number;
  workDate: Day;
  /** True keeps the companies on that work date; false lets it be the calendar's day. */
  fixed: boolean;
}

/** True where nothing was laid yet: no company exists. */
export async function isEmpty(database: Database): Promise<boolean> {
  const rows = await database.rows('SELECT id FROM company LIMIT 1');
  return rows.length === 0;
}

/**
 * Lays the demo around a work date: the same seed, size and date give the same documents.
 * Everything after the masters and the opening stock is done by the acts themselves.
 */
export async function layDemo(database: Database, options: DemoOptions): Promise<void> {
  const { workDate } = options;
  const chance = chanceOf(options.seed);
  const masters = await layMasters(database);
  const actor = new Actor(database, masters.companyId, masters.people.get('salmah')!, 'demo');
  await layDesk(database, masters, workDate, options.seed);
  await layAbroad(database, masters, workDate);
  await layWorks(database, masters, workDate);
  await layOpeningStock(database, masters, actor.doer(workDate), addDays(workDate, -190));
  const timetable = new Timetable();
  const story = new Story(database, actor, masters, timetable, chance, workDate);
  tell(story, chance);
  tellOthers(story, chance);
  new Ties(database, actor, masters, timetable, workDate).tell();
  tellAbroad(database, actor, masters, timetable, workDate);
  new WorkshopStory(database, actor, masters, timetable, workDate).tell();
  if (options.moreOrders > 0) tellMore(story, chance, options.moreOrders);
  await timetable.run(workDate);
  await typePricedOrder(actor, masters, workDate);
  await promiseWorks(database, actor, masters, workDate);
  await layEast(database, actor, masters, workDate);
  await layCounted(database, actor, masters, workDate);
  await layStanding(actor, masters, workDate);
  await layCommission(database, actor, masters, workDate);
  await layPromotions(database, actor, masters, workDate);
  await layRounds(database, actor, masters, workDate);
  await layCounterStory(database, masters, workDate);
  await laySisterStory(database, actor, masters, workDate);
  // The server makes the runs when it starts.
  await actor.does('startRepromise', {}, workDate);
  await actor.does('startPlanning', { until: addDays(workDate, 90), itemIds: [] }, workDate);
  // What the clock would do by the end of the day.
  await actor.does('fireReminders', {}, workDate);
  if (options.fixed) await database.run('UPDATE company SET work_date = ?', [workDate]);
}

/** Regular releases from `from` to `to` (days from the work date), every `every` days or so, all gone through. */
function regular(
  chance: Chance,
  from: number,
  to: number,
  every: number,
  lines: (chance: Chance) => ReleasePlan['lines'],
): ReleasePlan[] {
  const releases: ReleasePlan[] = [];
  for (let on = from; on <= to; on += every + chance.whole(-2, 2)) {
    const far: Far = on > -45 ? 'vendor-invoiced' : 'paid';
    releases.push({ on, lines: lines(chance), far });
  }
  return releases;
}

function tell(story: Story, chance: Chance): void {
  // Ahead of pace, and everything that can be under way at once.
  story.agreement(
    {
      customer: 'Teratai Bay Resort',
      title: 'Membranes and cartridges',
      head: { probabilityPercent: '90', notes: 'Rina in stores calls off, usually on Mondays.' },
      first: -59,
      last: 305,
      lines: [
        ['RO-4040', '100', '740'],
        ['FC-20', '12000', '8.5', { breaks: [{ from: '1000', value: '8.2' }], releaseMultiple: '25' }],
        ['FC-10', '8000', '5.2', { leastRelease: '250', releaseMultiple: '25', notes: 'Boxes of 25 only.' }],
        ['RO-2540', '24', '8.5', { priceKind: 'discount' }],
      ],
      calls: [
        ['RO-4040', '8', 28, 20, 188],
        ['FC-20', '1000', 28, 13, 293],
      ],
    },
    [
      {
        on: -55,
        lines: [
          ['RO-4040', '10', 10],
          ['FC-20', '600', 4],
        ],
        far: 'paid',
      },
      {
        on: -41,
        lines: [
          ['RO-4040', '8', 9],
          ['FC-10', '1000', 3],
        ],
        far: 'vendor-invoiced',
      },
      {
        on: -27,
        lines: [
          ['RO-4040', '12', 10],
          ['FC-20', '500', 2],
        ],
        far: 'invoiced',
        shipTo: 1,
      },
      { on: -14, lines: [['RO-4040', '12', 11]], far: 'part' },
      { on: -6, lines: [['RO-4040', '9', 3]], far: 'placed' },
      {
        on: -2,
        lines: [
          ['RO-4040', '4', 12],
          ['RO-2540', '6', 12],
        ],
        far: 'confirmed',
      },
    ],
  );
  // Behind pace.
  story.agreement(
    {
      customer: 'Bukit Jati Golf Links',
      title: 'Salt and cartridges for the pump house',
      head: {
        limitPolicy: 'split',
        reminders: [
          { kind: 'pace', at: '-15' },
          { kind: 'days', at: '30' },
        ],
      },
      first: -150,
      last: 121,
      lines: [
        ['SALT-25', '1200', '25.9'],
        ['FC-10', '3000', '5.4'],
      ],
    },
    regular(chance, -140, -20, 24, () => [['SALT-25', '60', 4]]),
  );
  // Past its last day, with a remainder nobody decided about.
  story.agreement(
    {
      customer: 'Kasturi Bottling',
      title: 'Dosing pumps and membranes',
      first: -182,
      last: -1,
      head: { limitPolicy: 'warn' },
      lines: [
        ['PM-15', '40', '1265'],
        ['RO-4040', '60', '755'],
      ],
    },
    regular(chance, -175, -24, 25, (each) => [
      ['PM-15', String(each.whole(3, 5)), 3],
      ['RO-4040', String(each.whole(4, 7)), 10],
    ]),
  );
  story.agreement(
    {
      customer: 'Nilam Dialysis Centre',
      title: 'Membranes, both clinics',
      first: -120,
      last: 244,
      lines: [
        ['RO-2540', '160', '488'],
        ['RO-4040', '48', '748'],
      ],
    },
    [
      ...regular(chance, -112, -30, 14, (each) => [['RO-2540', String(each.whole(5, 9)), 9]]),
      { on: -12, lines: [['RO-2540', '8', 10]], far: 'received', shipTo: 1 },
      {
        on: -1,
        lines: [
          ['RO-2540', '6', 14],
          ['RO-4040', '4', 14],
        ],
        far: 'confirmed',
      },
      { on: 0, lines: [['RO-4040', '3', 16]], far: 'draft', shipTo: 1 },
    ],
  );
  story.agreement(
    {
      customer: 'Padi Emas Food Works',
      title: 'Valves and hypochlorite',
      first: -90,
      last: 90,
      head: { limitPolicy: 'warn' },
      also: [
        [
          -88,
          story.act('takePrepayment', {
            agreementLineId: null,
            amount: '30000',
            takenOn: addDays(story.workDate, -88),
          }),
        ],
        [-40, story.revision('They take what comes a little over', { tolerancePercent: '5' })],
      ],
      lines: [
        ['VA-50A', '30', '1090'],
        ['HY-25', '200', '88.4'],
      ],
    },
    [
      ...regular(chance, -84, -20, 16, (each) => [
        ['VA-50A', String(each.whole(2, 3)), 12],
        ['HY-25', String(each.whole(10, 18)), 5],
      ]),
      { on: -8, lines: [['HY-25', '24', 6]], far: 'received' },
      { on: -3, lines: [['VA-50A', '4', 5]], far: 'placed' },
    ],
  );
  story.agreement(
    {
      customer: 'Rumah Hijau Growers',
      title: 'Softener salt, weekly',
      first: -60,
      last: 300,
      head: { releaseAhead: '5' },
      lines: [['SALT-25', '2600', '26.2']],
      calls: [['SALT-25', '50', 7, 3, 290]],
      also: [[0, story.act('releasePlanned', { upTo: addDays(story.workDate, 11) })]],
    },
    [
      ...regular(chance, -56, -9, 7, () => [['SALT-25', '50', 4]]),
      { on: -4, lines: [['SALT-25', '50', 4]], far: 'placed' },
    ],
  );
  story.agreement(
    {
      customer: 'Sinar Laut Ferries',
      title: 'Membranes for the fleet',
      first: 14,
      last: 378,
      draft: true,
      lines: [
        ['RO-2540', '40', '505'],
        ['FC-20', '2000', '8.9'],
      ],
    },
    [],
  );
}

/** An agreement by value with its rebate half way up its tiers, one with a vendor, one in another currency. */
function tellOthers(story: Story, chance: Chance): void {
  story.agreement(
    {
      customer: 'Kolam Ceria Swim Club',
      title: 'Pool chemicals and cartridges, by value',
      first: -120,
      last: 245,
      head: {
        basis: 'value',
        limitPolicy: 'split',
        rebate: {
          kind: 'whole',
          by: 'value',
          tiers: [
            { from: '5000', rate: '2' },
            { from: '12000', rate: '3' },
            { from: '24000', rate: '4.5' },
          ],
        },
        reminders: [{ kind: 'fulfilled', at: '80' }],
      },
      lines: [
        ['CHEM', '24000', '6', { priceKind: 'discount' }],
        ['CART', '12000', '10', { priceKind: 'discount' }],
      ],
    },
    [
      ...regular(chance, -112, -24, 17, (each) => [
        ['HY-25', String(each.whole(14, 22)), 5],
        ['FC-20', String(each.whole(4, 8) * 10), 3],
      ]),
      { on: -5, lines: [['HY-25', '16', 6]], far: 'placed' },
    ],
  );
  story.agreement(
    {
      customer: 'V-101',
      title: 'Cartridges for our stock',
      first: -100,
      last: 265,
      head: { reminders: [{ kind: 'days', at: '60' }] },
      lines: [
        ['FC-10', '40000', '2.95', { releaseMultiple: '250' }],
        ['FC-20', '20000', '4.7', { breaks: [{ from: '5000', value: '4.55' }], releaseMultiple: '250' }],
      ],
    },
    [
      {
        on: -85,
        lines: [
          ['FC-10', '8000', 9],
          ['FC-20', '5000', 9],
        ],
        far: 'vendor-invoiced',
      },
      { on: -38, lines: [['FC-10', '6000', 8]], far: 'vendor-invoiced' },
      { on: -9, lines: [['FC-20', '3000', 7]], far: 'received' },
      { on: -2, lines: [['FC-10', '4000', 9]], far: 'placed' },
    ],
  );
  story.agreement(
    {
      customer: 'Selat Cruise Lines',
      title: 'Membranes for the galley plants',
      first: -10,
      last: 355,
      lines: [
        ['RO-4040', '60', '238'],
        ['RO-2540', '40', '159'],
      ],
    },
    [{ on: -9, lines: [['RO-4040', '6', 7]], far: 'invoiced' }],
  );
}

/** More orders of the same kind, spread over the customers and the half year. */
function tellMore(story: Story, chance: Chance, orders: number): void {
  const customers = ['Kolam Ceria Swim Club', 'Rumah Hijau Growers', 'Bukit Jati Golf Links', 'Padi Emas Food Works'];
  const each = Math.ceil(orders / customers.length);
  for (const customer of customers) {
    const releases: ReleasePlan[] = [];
    for (let index = 0; index < each; index += 1) {
      const on = -170 + Math.floor((index * 170) / each);
      const far: Far = on > -20 ? chance.pick(['confirmed', 'placed', 'received'] as const) : 'paid';
      releases.push({
        on,
        far,
        lines: [
          ['RO-4040', String(chance.whole(1, 9)), chance.whole(9, 16)],
          ['HY-25', String(chance.whole(5, 30)), chance.whole(5, 9)],
        ],
      });
    }
    story.agreement(
      {
        customer,
        title: 'Membranes and hypochlorite',
        first: -180,
        last: 185,
        lines: [
          ['RO-4040', String(each * 12), '752'],
          ['HY-25', String(each * 40), '89.9'],
        ],
      },
      releases,
    );
  }
}
