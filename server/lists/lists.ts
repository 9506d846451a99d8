import {
  aboutField,
  changesField,
  changesInWords,
  decideKeep,
  keptList,
  stampOf,
  type KeepGround,
  type KeepTyped,
  type KeptList,
  type KeptRow,
  type ListField,
  type KeptValues,
  type Target,
  type Thing,
} from '@core/lists';
import * as contract from '@api/lists';
import { defineAct, orNotFound } from '../acts';
import { likeOf, PAGE_ROWS, takeTurn, type Bound, type Sql, type Tx } from '../db';
import { firstNamed, namedBy, unitsOf } from './named';
import { STORED, type StoredList } from './stored-lists';

interface Found {
  list: KeptList;
  stored: StoredList;
  /** The column of the company, in the table read as `x`. */
  ofCompany: string;
}

/** The kept list of that name. */
export const keptNamed = (name: string): KeptList => listNamed(name).list;

function listNamed(name: string): Found {
  const list = orNotFound(keptList(name) ?? undefined, 'This list');
  const stored = STORED[name]!;
  return { list, stored, ofCompany: `x.${stored.company ?? 'company_id'}` };
}

type Raw = { id: number } & Record<string, string | number | boolean | null>;

/** A cell as it is shown: yes and no in words, nothing as nothing. */
function cellOf(value: string | number | boolean | null | undefined): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return String(value);
}

function rowsWhere(
  sql: Sql,
  { list, stored, ofCompany }: Found,
  companyId: number,
  where: string,
  values: readonly (Bound | readonly Bound[])[],
): Promise<KeptRow[]> {
  const columns = list.fields.map((field) => `${stored.fields[field.name]![0]} AS \`${field.name}\``);
  return sql
    .rows<Raw>(`SELECT x.id, ${columns.join(', ')} FROM ${stored.from} WHERE ${ofCompany} = ? AND ${where}`, [
      companyId,
      ...values,
    ])
    .then((rows) =>
      rows.map((row) => {
        const cells = Object.fromEntries(list.fields.map((field) => [field.name, cellOf(row[field.name])]));
        return { id: row.id, stamp: stampOf(cells), cells };
      }),
    );
}

/** Rows of a kept list: those added last first, or in the order they came. */
export async function openList(
  sql: Sql,
  companyId: number,
  name: string,
  query: {
    q?: string | undefined;
    cursor?: string | undefined;
    rows?: number | undefined;
    about?: Thing | undefined;
    id?: number | undefined;
  },
): Promise<{ rows: KeptRow[]; next: string | null }> {
  const found = listNamed(name);
  const most = query.rows ?? PAGE_ROWS;
  const lastFirst = found.list.grows && !found.list.inOrder;
  const [from, turn] = lastFirst ? ([4_294_967_295, '<'] as const) : ([0, '>'] as const);
  const at = query.cursor && /^\d{1,10}$/.test(query.cursor) ? Number(query.cursor) : from;
  const { looksIn } = found.stored;
  const words = query.q?.trim() ? likeOf(query.q) : null;
  const about = query.about === undefined ? null : columnAbout(found, query.about);
  const rows = await rowsWhere(
    sql,
    found,
    companyId,
    `x.id ${turn} ?${about === null ? '' : ` AND ${about} = ?`}${words === null ? '' : ` AND (${looksIn.map((each) => `${each} LIKE ?`).join(' OR ')})`}
      ORDER BY x.id ${lastFirst ? 'DESC' : 'ASC'} LIMIT ?`,
    [at, ...(about === null ? [] : [query.id ?? 0]), ...(words === null ? [] : looksIn.map(() => words)), most + 1],
  );
  const page = rows.slice(0, most);
  return { rows: page, next: rows.length > most ? String(page.at(-1)!.id) : null };
}

/** Where a list has the thing its rows are about; where it has none, it has no row about one. */
function columnAbout({ list, stored }: Found, thing: Thing): string {
  if (list.of === thing) return 'x.id';
  const field = aboutField(list, thing);
  const column = field === null ? null : stored.fields[field]![1];
  return column === null ? 'NULL' : `x.${column}`;
}

/** Rows by their ids and by what tells them apart, each by its own key: together they would read the whole table. */
async function rowsByKey(
  sql: Sql,
  found: Found,
  companyId: number,
  ids: readonly number[],
  alike: string,
  named: readonly Bound[],
): Promise<KeptRow[]> {
  const [byId, byName] = await Promise.all([
    ids.length === 0 ? [] : rowsWhere(sql, found, companyId, 'x.id IN (?)', [ids]),
    named.length === 0 ? [] : rowsWhere(sql, found, companyId, alike, [named]),
  ]);
  return [...new Map([...byId, ...byName].map((row) => [row.id, row])).values()];
}

/** Ids of things by their numbers: the key is named, since for many of them the database would read the whole table. */
async function numbered(sql: Sql, companyId: number, table: string, numbers: readonly string[]): Promise<number[]> {
  if (numbers.length === 0) return [];
  const rows = await sql.rows<{ id: number }>(
    `SELECT id FROM ${table} FORCE INDEX (${table}_number) WHERE company_id = ? AND number IN (?)`,
    [companyId, numbers],
  );
  return rows.map(({ id }) => id);
}

/** What changes of a list are decided on. */
export async function groundOf(sql: Sql, companyId: number, name: string, typed: KeepTyped): Promise<KeepGround> {
  const found = listNamed(name);
  const { list, stored } = found;
  const named: Map<Target, Awaited<ReturnType<typeof namedBy>>> = new Map();
  for (const field of list.fields) {
    if (field.is.kind !== 'ref' || field.fixed) continue;
    const texts = typed.changes.map(({ cells }) => (cells[field.name] ?? '').trim()).filter((each) => each !== '');
    const known = named.get(field.is.to) ?? new Map();
    const more = await namedBy(sql, companyId, field.is.to, [...new Set(texts)]);
    const first = field.orFirst ? await firstNamed(sql, companyId, field.is.to) : null;
    named.set(field.is.to, new Map([...known, ...more, ...(first ? ([['', first]] as const) : [])]));
  }
  const ids = [...typed.changes, ...typed.removed].flatMap(({ id }) => (id === null ? [] : [id]));
  const within = list.fields.find((field) => field.name === list.within);
  const idsOf = (target: Target) =>
    [...(named.get(target) ?? new Map()).values()].flatMap((each: { id: number } | 'several') =>
      each === 'several' ? [] : [each.id],
    );
  const texts = (field: ListField) => [...new Set(typed.changes.map(({ cells }) => (cells[field.name] ?? '').trim()))];
  async function rowsAlike(): Promise<KeptRow[]> {
    if (!within) return rowsWhere(sql, found, companyId, list.grows ? 'TRUE' : 'x.id IN (?)', list.grows ? [] : [ids]);
    const [shown, written] = stored.fields[within.name]!;
    if (within.is.kind === 'ref') {
      return rowsByKey(sql, found, companyId, ids, `x.${written} IN (?)`, idsOf(within.is.to));
    }
    if (!list.of) return rowsByKey(sql, found, companyId, ids, `${shown} IN (?)`, texts(within));
    const named = await numbered(sql, companyId, stored.table.name, texts(within));
    return rowsByKey(sql, found, companyId, [...ids, ...named], 'FALSE', []);
  }
  const rows = await rowsAlike();
  return {
    list,
    rows,
    named,
    units: await unitsOf(sql, companyId, idsOf('item')),
    used: await usedOf(
      sql,
      companyId,
      stored,
      typed.removed.map(({ id }) => id),
    ),
    ...(list.name === 'customers' || list.name === 'vendors'
      ? { alike: await alikeOf(sql, companyId, list.name, typed) }
      : {}),
    ...(list.name === 'boms' || list.name === 'options' ? await madeOf(sql, companyId, list.name) : {}),
  };
}

/** All that goes into anything, components and options; those of another list than the one that is kept below zero. */
async function madeOf(
  sql: Sql,
  companyId: number,
  list: 'boms' | 'options',
): Promise<Pick<KeepGround, 'bomLines' | 'itemOfGroup'>> {
  const names = `JOIN item k ON k.company_id = b.company_id AND k.id = b.component_id WHERE b.company_id = ?`;
  const lines = await sql.rows<{ list: 'boms' | 'options'; id: number; item: string; component: string }>(
    `SELECT 'boms' AS list, b.id, i.number AS item, k.number AS component
       FROM bom_line b JOIN item i ON i.company_id = b.company_id AND i.id = b.item_id ${names}
     UNION ALL
     SELECT 'options', b.id, i.number, k.number
       FROM item_option b JOIN option_group g ON g.company_id = b.company_id AND g.id = b.group_id
       JOIN item i ON i.company_id = g.company_id AND i.id = g.item_id ${names}`,
    [companyId, companyId],
  );
  const bomLines = lines.map(({ list: of, id, ...line }) => ({ ...line, id: of === list ? id : -id }));
  const groups = await sql.rows<{ name: string; item: string }>(
    `SELECT CONCAT(i.number, ' ', g.name) AS name, i.number AS item FROM option_group g
       JOIN item i ON i.company_id = g.company_id AND i.id = g.item_id WHERE g.company_id = ?`,
    [companyId],
  );
  return { bomLines, itemOfGroup: new Map(groups.map(({ name, item }) => [name.toLowerCase(), item])) };
}

/** New rows that are looked at one by one; of a whole file nobody would read it. */
const LOOKED_AT = 50;

/** Parties that look like the new ones: of the same name or phone. */
async function alikeOf(sql: Sql, companyId: number, list: 'customers' | 'vendors', { changes }: KeepTyped) {
  const fresh = changes.filter(({ id }) => id === null).map(({ cells }) => cells);
  if (fresh.length === 0 || fresh.length > LOOKED_AT) return [];
  const said = (field: string) => fresh.map((cells) => (cells[field] ?? '').trim()).filter((text) => text !== '');
  return sql.rows<{ number: string; name: string; phone: string; taxNumber: string }>(
    `SELECT number, name, phone, tax_number FROM ${list === 'customers' ? 'customer' : 'vendor'}
      WHERE company_id = ? AND (name IN (?) OR phone IN (?) OR tax_number IN (?)) LIMIT 200`,
    [companyId, said('name'), said('phone'), said('taxNumber')],
  );
}

/** By table, what refers to its rows in the database itself: tables and their columns. */
const REFERRING = new Map<string, Promise<readonly (readonly [table: string, column: string])[]>>();

/** Everything that refers to a table's rows. */
function referringTo(sql: Sql, table: string): Promise<readonly (readonly [string, string])[]> {
  let found = REFERRING.get(table);
  if (!found) {
    found = sql
      .rows<{ name: string; field: string }>(
        `SELECT DISTINCT table_name AS name, column_name AS field FROM information_schema.key_column_usage
          WHERE table_schema = DATABASE() AND referenced_table_name = ? AND referenced_column_name = 'id'`,
        [table],
      )
      .then((rows) => rows.map(({ name, field }) => [name, field] as const));
    REFERRING.set(table, found);
    found.catch(() => REFERRING.delete(table));
  }
  return found;
}

async function usedOf(sql: Sql, companyId: number, stored: StoredList, ids: readonly number[]) {
  const used = new Set<number>();
  if (ids.length === 0) return used;
  if (stored.stays) {
    const rows = await sql.rows<{ id: number }>(
      `SELECT id FROM ${stored.table.name} WHERE company_id = ? AND id IN (?) AND ${stored.stays}`,
      [companyId, ids],
    );
    for (const row of rows) used.add(row.id);
  }
  const usedBy = stored.usedBy === 'anything' ? await referringTo(sql, stored.table.name) : (stored.usedBy ?? []);
  for (const [table, column] of usedBy) {
    const rows = await sql.rows<{ id: number }>(
      `SELECT DISTINCT ${column} AS id FROM ${table} WHERE company_id = ? AND ${column} IN (?)`,
      [companyId, ids],
    );
    for (const row of rows) used.add(row.id);
  }
  return used;
}

/** Keeps changes of a list: all that were typed, or none. // G1 G2 G4 */
export const keepList = defineAct(contract.keepList, {
  right: 'lists',
  rightFor: ({ list }) => keptList(list)?.keptBy ?? null,
  says: 'keep the lists of prices, items, customers and vendors',
  done: 'lists kept',
  async load(tx, input, doer) {
    // One keeper of lists at a time: rows that would say the same are found among those committed.
    await takeTurn(tx, 'list_turn', [doer.companyId]);
    return groundOf(tx, doer.companyId, input.list, input);
  },
  decide: (ground, input) => decideKeep(ground, input),
  also(effects, ground) {
    const { name } = ground.list;
    if (name === 'customers' && changesField(effects, ground, 'creditLimit')) {
      return [{ right: 'credit', says: 'change credit limits' }];
    }
    return name === 'vendor-items' ? [{ right: 'purchases', says: 'change what vendors ask' }] : [];
  },
  second(effects, ground) {
    const { name } = ground.list;
    if (name === 'customers' && changesField(effects, ground, 'creditLimit')) {
      return [{ kind: 'credit-limit', words: `Credit limits: ${changesInWords(effects, ground)}` }];
    }
    return name === 'vendor-items'
      ? [{ kind: 'vendor-price', words: `What vendors ask: ${changesInWords(effects, ground)}` }]
      : [];
  },
  preview: ({ added, changed, removed }) => ({
    added: added.length,
    changed: changed.length,
    removed: removed.length,
  }),
  async write(tx, { added, changed, removed }, { list }, doer) {
    const { stored } = listNamed(list.name);
    const { companyId } = doer;
    const company = stored.company ?? 'company_id';
    if (removed.length > 0) {
      await tx.run(`DELETE FROM ${stored.table.name} WHERE ${company} = ? AND id IN (?)`, [companyId, removed]);
    }
    const columns = columnsOf(list, stored);
    await changeRows(tx, list, stored, companyId, changed);
    await tx.insertBatch([
      {
        table: stored.table,
        rows: added.map((values) => ({ [company]: companyId, ...columns(values) })),
      },
    ]);
    return { made: [], touched: [] };
  },
});

/**
 * Changes rows. Where nothing holds on to them they are written anew under their ids, so that rows may trade what tells
 * them apart.
 */
async function changeRows(
  tx: Tx,
  list: KeptList,
  stored: StoredList,
  companyId: number,
  changed: readonly { id: number; values: KeptValues }[],
): Promise<void> {
  if (changed.length === 0) return;
  const company = stored.company ?? 'company_id';
  const columnsIn = columnsOf(list, stored);
  if (list.grows && !stored.usedBy) {
    const ids = changed.map(({ id }) => id);
    await tx.run(`DELETE FROM ${stored.table.name} WHERE ${company} = ? AND id IN (?)`, [companyId, ids]);
    await tx.insertBatch([
      {
        table: stored.table,
        rows: changed.map(({ id, values }) => ({ [company]: companyId, id, ...columnsIn(values) })),
      },
    ]);
    return;
  }
  for (const { id, values } of changed) {
    const columns = columnsIn(values);
    const set = Object.keys(columns).map((column) => `${column} = ?`);
    await tx.run(`UPDATE ${stored.table.name} SET ${set.join(', ')} WHERE ${company} = ? AND id = ?`, [
      ...Object.values(columns),
      companyId,
      id,
    ]);
  }
}

/** What writes the values of a row: its columns, in their order. */
function columnsOf(list: KeptList, stored: StoredList): (values: KeptValues) => Record<string, Bound> {
  const written = list.fields.flatMap(({ name, is, fixed }) => {
    const column = stored.fields[name]![1];
    const flag = is.kind === 'choice' && is.options.every(({ value }) => value === 'no' || value === 'yes');
    return column === null || fixed ? [] : [{ name, column, flag }];
  });
  return (values) => {
    const columns: Record<string, Bound> = {};
    for (const { name, column, flag } of written) {
      const value = values[name] ?? null;
      columns[column] = flag ? value === 'yes' : value;
    }
    return columns;
  };
}
