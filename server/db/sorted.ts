import type { Sql } from './database';
import { PAGE_ROWS } from './paging';
import type { Bound } from './piece';

/** How a list is walked: along a key that serves the order, so that a page costs what it shows. */
export interface Walk {
  /** What is read, its key forced: `sales_order o FORCE INDEX (sales_order_shipping)`, with what it is filtered by. */
  from: string;
  /** The column it is in the order of, none for the id alone; and the id behind it, in the same direction. */
  column?: string;
  id: string;
  /** The column may be empty: such rows come first upward. */
  empty?: boolean;
  up: boolean;
}

/** A column a list can be read in the order of. */
export interface SortColumn {
  column?: string;
  empty?: boolean;
  /** Begins with the least, where nobody says which way; the newest and the largest come first otherwise. */
  up?: boolean;
}

/** `ships` as it is usual, `ships-up` and `ships-down` as somebody chose. */
export function sortOf<Name extends string>(
  sorts: Readonly<Record<Name, SortColumn>>,
  asked: string | undefined,
  usual: Name,
): SortColumn & { name: Name; up: boolean } {
  const [, name, way] = /^(\w+?)(?:-(up|down))?$/.exec(asked ?? '') ?? [];
  const known = name !== undefined && Object.hasOwn(sorts, name) ? (name as Name) : usual;
  const sort = sorts[known];
  return { ...sort, name: known, up: known === name && way ? way === 'up' : (sort.up ?? false) };
}

interface Place {
  value: string | null;
  id: number;
}

/** Where a page ended, as it is handed out and comes back (`=value~id`, `~id`); what is none begins at the start. */
export function placeOf(cursor: string | undefined): Place | null {
  const found = /^(=.*)?~(\d{1,10})$/s.exec(cursor ?? '');
  return found ? { value: found[1]?.slice(1) ?? null, id: Number(found[2]) } : null;
}

const written = ({ value, id }: Place): string => `${value === null ? '' : `=${value}`}~${id}`;

/** What lies behind a place, in the walk's direction. */
function behind({ column, id, empty, up }: Walk, place: Place): { sql: string; values: Bound[] } {
  const past = up ? '>' : '<';
  if (!column) return { sql: `${id} ${past} ?`, values: [place.id] };
  if (place.value === null) {
    const same = `(${column} IS NULL AND ${id} ${past} ?)`;
    return { sql: up ? `(${same} OR ${column} IS NOT NULL)` : same, values: [place.id] };
  }
  const there = `${column} ${past}= ? AND (${column} ${past} ? OR ${id} ${past} ?)`;
  return {
    sql: empty && !up ? `((${there}) OR ${column} IS NULL)` : there,
    values: [place.value, place.value, place.id],
  };
}

/**
 * The ids of one page, `row` of each, in the order of the walk, and where it ended. What a page shows is read for its ids.
 */
export async function walked(
  sql: Sql,
  walk: Walk,
  asked: { cursor?: string | undefined; rows?: number | undefined },
  { row, where, values }: { row: string; where: readonly string[]; values: readonly Bound[] },
): Promise<{ ids: number[]; next: string | null }> {
  const most = asked.rows ?? PAGE_ROWS;
  const place = placeOf(asked.cursor);
  const after = place && behind(walk, place);
  const way = walk.up ? 'ASC' : 'DESC';
  const found = await sql.rows<{ row: number; walkId: number; value: string | number | null }>(
    `SELECT STRAIGHT_JOIN ${row} AS \`row\`, ${walk.id} AS walk_id, ${walk.column ?? 'NULL'} AS value FROM ${walk.from}
      WHERE ${[...where, ...(after ? [after.sql] : [])].join(' AND ')}
      ORDER BY ${walk.column ? `${walk.column} ${way}, ` : ''}${walk.id} ${way} LIMIT ?`,
    [...values, ...(after?.values ?? []), most + 1],
  );
  const shown = found.slice(0, most);
  const last = shown.at(-1);
  return {
    ids: shown.map((each) => each.row),
    next:
      found.length > most && last
        ? written({ value: last.value === null ? null : String(last.value), id: last.walkId })
        : null,
  };
}

/** Rows in the order of these ids. */
export function inOrderOf<Row extends { id: number }>(ids: readonly number[], rows: readonly Row[]): Row[] {
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

/** A list in the order of its parties' names, each party's rows newest first. */
export interface PartyWalk {
  party: 'customer' | 'vendor';
  /** What is read of one party, its key forced, the party's column and the id. */
  from: string;
  column: string;
  id: string;
  up: boolean;
}

/** Parties asked about together: each adds a short read, so that a page costs what it shows. */
const PARTIES = 40;

/** As `walked`, in the order of names; the cursor names the party and the row one came to. */
export async function walkedByParty(
  sql: Sql,
  companyId: number,
  { party, from, column, id, up }: PartyWalk,
  asked: { cursor?: string | undefined; rows?: number | undefined },
  { row, where, values }: { row: string; where: readonly string[]; values: readonly Bound[] },
): Promise<{ ids: number[]; next: string | null }> {
  const most = asked.rows ?? PAGE_ROWS;
  const place = placeOf(asked.cursor);
  const found: { row: number; walkId: number; partyId: number }[] = [];
  const read = async (parties: readonly number[], before?: number) => {
    const one = `(SELECT STRAIGHT_JOIN ${row} AS \`row\`, ${id} AS walk_id, ${column} AS party_id FROM ${from}
       WHERE ${where.join(' AND ')} AND ${column} = ? ${before === undefined ? '' : `AND ${id} < ?`} ORDER BY ${id} DESC LIMIT ?)`;
    const rows = await sql.rows<(typeof found)[number]>(
      parties.map(() => one).join(' UNION ALL '),
      parties.flatMap((each) => [...values, each, ...(before === undefined ? [] : [before]), most + 1]),
    );
    const rank = new Map(parties.map((each, at) => [each, at]));
    found.push(...rows.sort((a, b) => rank.get(a.partyId)! - rank.get(b.partyId)! || b.walkId - a.walkId));
  };
  let at: { id: number; name: string } | undefined;
  if (place) {
    const partyId = Number(place.value);
    [at] = await sql.rows<{ id: number; name: string }>(
      `SELECT id, name FROM ${party} WHERE company_id = ? AND id = ?`,
      [companyId, Number.isInteger(partyId) ? partyId : 0],
    );
    if (at) await read([at.id], place.id);
  }
  const way = up ? 'ASC' : 'DESC';
  const past = up ? '>' : '<';
  for (let size = PARTIES; found.length <= most; size *= 2) {
    const parties: { id: number; name: string }[] = await sql.rows(
      `SELECT id, name FROM ${party} FORCE INDEX (${party}_name)
        WHERE company_id = ? ${at ? `AND name ${past}= ? AND (name ${past} ? OR id ${past} ?)` : ''}
        ORDER BY name ${way}, id ${way} LIMIT ?`,
      [companyId, ...(at ? [at.name, at.name, at.id] : []), Math.min(size, 320)],
    );
    if (parties.length === 0) break;
    at = parties.at(-1)!;
    await read(parties.map((each) => each.id));
  }
  const shown = found.slice(0, most);
  const last = shown.at(-1);
  return {
    ids: shown.map((each) => each.row),
    next: found.length > most && last ? written({ value: String(last.partyId), id: last.walkId }) : null,
  };
}

/** What narrows a read: conditions with their values, the company's first. */
export class Conditions {
  readonly where: string[];
  readonly values: Bound[];
  constructor(
    /** The table as it is named in the read. */
    readonly of: string,
    companyId: number,
  ) {
    this.where = [`${of}.company_id = ?`];
    this.values = [companyId];
  }

  readonly add = (condition: string, ...bound: Bound[]): void => {
    this.where.push(condition);
    this.values.push(...bound);
  };
}

/** A page of ids in the order of a column, or of the names of its parties: by `sort.name` it is known which. */
export function walkedSorted(
  sql: Sql,
  companyId: number,
  {
    party,
    sort,
    from,
  }: { party: 'customer' | 'vendor'; sort: SortColumn & { name: string; up: boolean }; from: string },
  asked: { cursor?: string | undefined; rows?: number | undefined },
  { of, where, values }: Conditions,
): Promise<{ ids: number[]; next: string | null }> {
  const id = `${of}.id`;
  const read = { row: id, where, values };
  return sort.name === 'party' || sort.name === party
    ? walkedByParty(sql, companyId, { party, from, column: `${of}.${party}_id`, id, up: sort.up }, asked, read)
    : walked(sql, { ...sort, from, id }, asked, read);
}
