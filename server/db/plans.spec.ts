import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Connection } from 'mysql2';
import { chanceOf } from '@core/kernel';
import { Walk } from '../testing/order-walk';
import { TieWalk } from '../testing/tie-walk';
import { agreed, World, type Visitor } from '../testing/world';
import type { Bound } from './piece';

interface Sent {
  sql: string;
  values: readonly (Bound | readonly Bound[])[];
}
interface PlanRow {
  table: string | null;
  key: string | null;
}

/** `table alias FORCE INDEX (key)`, and without an alias. */
const NAMED = /(\w+)(?:\s+(\w+))?\s+FORCE INDEX \((\w+)\)/g;
const WORDS = new Set(['FROM', 'JOIN', 'UPDATE']);

/** The keys a statement names: of which table, under what name, which. */
function namedBy(sql: string): { table: string; as: string; key: string }[] {
  return [...sql.matchAll(NAMED)].map(([, first, second, key]) => {
    const table = WORDS.has(first!.toUpperCase()) ? second! : first!;
    return { table, as: second ?? table, key: key! };
  });
}

/** The statements of one trip, each with its own values; none of ours has a question mark in a text. */
function statementsOf({ sql, values }: Sent): Sent[] {
  let at = 0;
  return sql.split(/;\n/).map((each) => {
    const from = at;
    at += each.split('?').length - 1;
    return { sql: each, values: values.slice(from, at) };
  });
}

function sourcesIn(folder: string): string[] {
  const names = readdirSync(folder, { recursive: true, encoding: 'utf8' });
  return names.filter((name) => name.endsWith('.ts')).map((name) => join(folder, name));
}

/** Every list, and what is seen of the first of each document. */
const PATHS = [
  '/api/agreements',
  '/api/agreements?state=in-force&sort=pace',
  '/api/agreements/1',
  '/api/orders',
  '/api/orders?state=confirmed',
  '/api/orders?sort=ships',
  '/api/orders?sort=net-up&state=confirmed',
  '/api/orders?show=late',
  '/api/purchases?sort=due-down',
  '/api/purchases?show=late',
  '/api/invoices?sort=total',
  '/api/invoices?open=yes',
  '/api/orders/1',
  '/api/orders/1/threads',
  '/api/orders/1/also-waiting',
  '/api/purchases',
  '/api/purchases?state=placed',
  '/api/purchases/1',
  '/api/bench',
  '/api/ties',
  '/api/ties?show=late',
  '/api/invoices',
  '/api/invoices?side=vendor',
  '/api/customers/1',
  '/api/customers/1/desk',
  '/api/customers/1/basket?days=180',
  '/api/vendors/1',
  '/api/items/1',
  '/api/items/1/stock-entries',
  '/api/items/1/availability',
  '/api/planned',
  '/api/fulfilment',
  '/api/today',
  '/api/find?q=SO-0',
];

describe('keys that statements name', () => {
  let world: World;
  let salmah: Visitor;
  const sent = new Map<string, Sent>();

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());

  it('are walked as they are named, by what a day of acts and lists asks', async () => {
    const east = await world.secondPlace(salmah);
    const query = Connection.prototype.query as (...given: unknown[]) => unknown;
    const heard = jest.spyOn(Connection.prototype, 'query').mockImplementation(function (this: unknown, ...given) {
      const [options] = given as unknown as [{ sql?: string; values?: Sent['values'] }];
      if (options.sql?.includes('FORCE INDEX')) {
        for (const each of statementsOf({ sql: options.sql, values: options.values ?? [] })) {
          if (each.sql.includes('FORCE INDEX')) sent.set(each.sql, each);
        }
      }
      return query.apply(this, given) as never;
    });
    const agreement = await agreed(world, salmah, { limitPolicy: 'keep' }, '400');
    const walk = new Walk(world, salmah, [agreement], chanceOf(3));
    const ties = new TieWalk(world, salmah, chanceOf(5), east);
    for (let at = 0; at < 90; at += 1) {
      await walk.step();
      await ties.step();
    }
    for (const path of PATHS) await salmah.get(path);
    heard.mockRestore();

    const wrong: string[] = [];
    const held = new Set<string>();
    for (const { sql, values } of sent.values()) {
      const plan = await world.serving.database.rows<PlanRow>(`EXPLAIN ${sql}`, values);
      for (const { as, key } of namedBy(sql)) {
        // Several tables of one statement may go by one name; where nothing fits its constants, one is not walked at all.
        const rows = plan.filter((each) => each.table?.toLowerCase() === as.toLowerCase());
        if (rows.length === 0) continue;
        if (rows.some((row) => row.key === key)) held.add(key);
        else wrong.push(`${as} by ${rows.map((row) => row.key).join(', ')}, not ${key}: ${sql.slice(0, 300)}`);
      }
    }
    expect(wrong).toEqual([]);
    expect(held.size).toBeGreaterThan(25);
  }, 240_000);

  it('are keys of the tables they are named of, everywhere in the sources', async () => {
    const keys = await world.serving.database.rows<{ known: string }>(
      `SELECT DISTINCT CONCAT(table_name, '.', index_name) AS known FROM information_schema.statistics
        WHERE table_schema = DATABASE()`,
    );
    const known = new Set(keys.map((each) => each.known));
    const tables = new Set([...known].map((each) => each.split('.')[0]!));
    const named = sourcesIn('server').flatMap((file) =>
      namedBy(readFileSync(file, 'utf8')).filter(({ table }) => tables.has(table)),
    );
    expect(named.length).toBeGreaterThan(80);
    expect(named.filter(({ table, key }) => !known.has(`${table}.${key}`))).toEqual([]);
  });
});
