import { readdirSync, existsSync } from 'node:fs';
import { join } from 'node:path';
import { World } from '../testing/world';
import { columnOf } from './rows';
import { columnsTold, type Table } from './table';

/** Tables that packages make and keep for themselves. */
const NOT_OURS = ['migration'];

const KINDS: Record<string, string> = {
  int: 'int',
  smallint: 'int',
  tinyint: 'int',
  bigint: 'int',
  decimal: 'decimal',
  varchar: 'text',
  char: 'text',
  text: 'text',
  longtext: 'text',
  date: 'day',
  datetime: 'time',
  enum: 'choice',
  binary: 'bytes',
  mediumblob: 'bytes',
};

interface ColumnThere {
  tableName: string;
  columnName: string;
  dataType: string;
  columnType: string;
  isNullable: 'YES' | 'NO';
  columnDefault: string | null;
  extra: string;
}

/** A column in words, so that what differs is read at once. */
function inWords(
  table: string,
  column: string,
  kind: string,
  empty: boolean,
  given: boolean,
  values: string[],
): string {
  return `${table}.${column} ${kind}${empty ? ' or nothing' : ''}${given ? ', given' : ''} ${values.join('|')}`.trim();
}

async function tablesTold(): Promise<Table[]> {
  const tables: Table[] = [];
  for (const room of readdirSync('server')) {
    const file = join(process.cwd(), 'server', room, 'tables.ts');
    if (existsSync(file)) tables.push(...Object.values((await import(file)) as Record<string, Table>));
  }
  return tables;
}

describe('the tables the rooms tell', () => {
  it('are those of the migrated database, column by column', async () => {
    const world = await World.make();
    const columns = await world.serving.database.rows<ColumnThere>(
      `SELECT table_name, column_name, data_type, column_type, is_nullable, column_default, extra
         FROM information_schema.columns WHERE table_schema = DATABASE()`,
    );
    const there = columns
      .filter(({ tableName }) => !NOT_OURS.includes(tableName))
      .map((each) => {
        const empty = each.isNullable === 'YES';
        const given =
          !empty &&
          (each.extra.includes('auto_increment') || each.extra.includes('GENERATED') || each.columnDefault !== null);
        const values =
          each.dataType === 'enum' ? [...each.columnType.matchAll(/'([^']*)'/g)].map((found) => found[1]!) : [];
        const kind = each.columnType === 'tinyint(1)' ? 'boolean' : (KINDS[each.dataType] ?? each.dataType);
        return inWords(each.tableName, each.columnName, kind, empty, given, values);
      });
    const told = (await tablesTold()).flatMap((table) =>
      columnsTold(table).map((each) =>
        inWords(table.name, columnOf(each.name), each.kind, each.empty, each.given, each.values),
      ),
    );
    await world.end();
    expect(there.length).toBeGreaterThan(700);
    expect(told.sort()).toEqual(there.sort());
  });
});
