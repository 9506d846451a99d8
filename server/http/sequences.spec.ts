import type * as z from 'zod';
import type { Fulfilment } from '@api/insight';
import { chanceOf } from '@core/kernel';
import { fixedTerm } from '../sample/terms';
import { agreed, World, type Visitor } from '../testing/world';
import { Walk, STEPS } from '../testing/order-walk';

/** Sums by customer and by item group as the program says them, from what it holds in memory. */
async function fulfilmentSaid(person: Visitor): Promise<string[]> {
  const said: string[] = [];
  for (const by of ['customer', 'group']) {
    const { rows } = await person.get<z.infer<typeof Fulfilment>>(`/api/fulfilment?money=own&by=${by}`);
    for (const { agreements, committed, released, shipped, invoiced } of rows) {
      said.push([by, agreements, ...[committed, released, shipped, invoiced].map(Number)].join(' '));
    }
  }
  return said.sort();
}

/** The same straight from the tables. */
async function fulfilmentCounted(world: World): Promise<string[]> {
  const sums = (of: string) =>
    ['committed', 'released', 'shipped', 'invoiced'].map((each) => `SUM(${of}.${each}_value) AS ${each}`).join(', ');
  const counted = async (by: string, sql: string) => {
    const rows = await world.serving.database.rows<Record<string, string>>(
      `${sql} AND a.side = 'selling' AND a.state IN ('in-force', 'paused', 'ended') GROUP BY of, a.currency`,
    );
    return rows.map((row) =>
      [by, row['agreements'], ...['committed', 'released', 'shipped', 'invoiced'].map((of) => Number(row[of]))].join(
        ' ',
      ),
    );
  };
  const customers = await counted(
    'customer',
    `SELECT a.customer_id AS of, COUNT(*) AS agreements, ${sums('a')} FROM agreement a WHERE TRUE`,
  );
  const groups = await counted(
    'group',
    `SELECT COALESCE(l.item_group_id, i.item_group_id, IF(l.item_id IS NULL, -1, 0)) AS of,
            COUNT(DISTINCT a.id) AS agreements, ${sums('l')}
       FROM agreement a JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
       LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id WHERE TRUE`,
  );
  return [...customers, ...groups].sort();
}

describe('any sequence of acts', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());

  it('A4 L1 P3 G5 leaves counters equal to the sums over the documents, and journals balanced', async () => {
    const done = new Map<string, number>();
    let refused = 0;
    for (const seed of [1, 2, 3, 4]) {
      const agreements = [
        await agreed(world, salmah, { limitPolicy: 'refuse' }, '40'),
        await agreed(world, salmah, { limitPolicy: 'split' }, '30'),
        await agreed(world, salmah, { limitPolicy: 'keep', tolerancePercent: '10' }, '20'),
        await agreed(world, salmah, {
          basis: 'value',
          limitPolicy: 'split',
          rebate: {
            kind: 'whole',
            by: 'value',
            tiers: [
              { from: '500', rate: '2' },
              { from: '8000', rate: '3' },
            ],
          },
          lines: [{ ...fixedTerm(0, '12345.67', '10'), itemId: null, priceKind: 'discount' }],
        }),
      ];
      const walk = new Walk(world, salmah, agreements, chanceOf(seed));
      for (let at = 1; at <= 200; at += 1) {
        await walk.step();
        if (at % 25 !== 0) continue;
        expect([seed, at, await world.verify()]).toEqual([seed, at, []]);
        expect([seed, at, await fulfilmentSaid(salmah)]).toEqual([seed, at, await fulfilmentCounted(world)]);
      }
      for (const [name, count] of walk.done) done.set(name, (done.get(name) ?? 0) + count);
      for (const count of walk.refused.values()) refused += count;
    }
    // The walks went everywhere, and were turned away as well.
    const never = STEPS.map(([name]) => name).filter((name) => !done.has(name));
    expect(never).toEqual([]);
    expect(refused).toBeGreaterThan(50);
  }, 240_000);
});
