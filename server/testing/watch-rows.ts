import { mkdirSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import mysql from 'mysql2';
import { nameOf, rowsOf, type Cell } from '../db/rows';

/**
 * What every query answered in this file of tests, by the place that asked: the columns' names, the kinds of their
 * cells and, where they are few and short, their texts. `tools/check-rows.mjs` holds the types that are told at those
 * places to it. Only where `ROWS_SEEN` names a folder.
 */
type Seen = Record<string, { kinds: Set<string>; texts: Set<string> }>;

const MOST_TEXTS = 16;
const LONGEST_TEXT = 24;
const MOST_ROWS = 200;
const seen = new Map<string, Seen>();
const places = new Map<string, string | null>();

const kindOf = (cell: unknown) => (cell === null ? 'null' : Buffer.isBuffer(cell) ? 'bytes' : typeof cell);

/** The first place outside `server/db` on the way here, `file:line:column`; null where there is none. */
function placeAsked(): string | null {
  const compiled = compiledPlace();
  if (!places.has(compiled)) {
    const frame = (new Error().stack ?? '')
      .split('\n')
      .slice(1)
      .find((line) => OURS.test(line) && !BELOW.test(line));
    const found = /\(?([^()\s]+\.ts:\d+:\d+)\)?$/.exec(frame ?? '')?.[1];
    places.set(compiled, found ? relative(process.cwd(), found) : null);
  }
  return places.get(compiled)!;
}

const OURS = /\.ts:\d/;
const BELOW = /watch-rows|server\/db\//;

/** The same place as it was compiled: found without looking up what it was compiled from. */
function compiledPlace(): string {
  const prepare = Error.prepareStackTrace;
  Error.prepareStackTrace = (_error, sites) => {
    const site = sites.find((each) => OURS.test(`${each.getFileName()}:0`) && !BELOW.test(each.getFileName() ?? ''));
    return `${site?.getFileName()}:${site?.getLineNumber()}:${site?.getColumnNumber()}`;
  };
  const place = new Error().stack as string;
  Error.prepareStackTrace = prepare;
  return place;
}

function note(place: string, cells: readonly Cell[][], fields: readonly mysql.FieldPacket[]): void {
  let columns = seen.get(place);
  if (!columns) seen.set(place, (columns = {}));
  for (const field of fields) columns[nameOf(field.name)] ??= { kinds: new Set(), texts: new Set() };
  for (const row of rowsOf<Record<string, unknown>>(cells.slice(0, MOST_ROWS), fields)) {
    for (const [name, cell] of Object.entries(row)) {
      const column = columns[name]!;
      column.kinds.add(kindOf(cell));
      if (typeof cell === 'string' && cell.length <= LONGEST_TEXT && column.texts.size < MOST_TEXTS)
        column.texts.add(cell);
    }
  }
}

type Done = (error: unknown, rows: unknown, fields: unknown) => void;
type Query = (...given: unknown[]) => unknown;

/** What was asked on a connection and waits to leave with its next trip, in order: who asked, and for how many answers. */
const waiting = new WeakMap<object, { place: string | null; count: number }[]>();
let sending = false;

/** Every query of that class, listened to on its way back. */
function watch(prototype: { query: Query; format?: Query }): void {
  const { query, format } = prototype;
  if (format) {
    // A transaction puts a statement into words where it is asked for, and sends it with others a moment later.
    prototype.format = function (this: object, ...given) {
      const text = format.apply(this, given) as string;
      if (!sending) {
        const asked = waiting.get(this) ?? [];
        waiting.set(this, asked);
        asked.push({ place: placeAsked(), count: text.split(';\n').length });
      }
      return text;
    };
  }
  prototype.query = function (this: object, ...given) {
    const done = given.at(-1);
    const asked = waiting.get(this) ?? [{ place: placeAsked(), count: 1 }];
    waiting.delete(this);
    const send = (...more: unknown[]) => {
      const before = sending;
      sending = true;
      try {
        return query.apply(this, more);
      } finally {
        sending = before;
      }
    };
    if (typeof done !== 'function' || asked.every(({ place }) => place === null)) return send(...given);
    const listened: Done = (error, rows, fields) => {
      if (!error && Array.isArray(fields)) {
        const several = fields[0] === undefined || Array.isArray(fields[0]);
        const answers = (several ? rows : [rows]) as Cell[][][];
        const columns = (several ? fields : [fields]) as (mysql.FieldPacket[] | undefined)[];
        // What the trip began with answers first; of those who asked for several the last is told.
        let at = columns.length - asked.reduce((sum, { count }) => sum + count, 0);
        for (const { place, count } of at < 0 ? [] : asked) {
          at += count;
          const last = columns[at - 1];
          if (place && last) note(place, answers[at - 1]!, last);
        }
      }
      (done as Done)(error, rows, fields);
    };
    return send(...given.slice(0, -1), listened);
  };
}

const folder = process.env['ROWS_SEEN'];
if (folder) {
  Error.stackTraceLimit = 20;
  const { Pool, Connection } = mysql as unknown as Record<
    'Pool' | 'Connection',
    { prototype: { query: Query; format?: Query } }
  >;
  watch(Pool.prototype);
  watch(Connection.prototype);
  afterAll(() => {
    mkdirSync(folder, { recursive: true });
    const told = [...seen].map(([place, columns]) => [
      place,
      Object.entries(columns).map(([name, { kinds, texts }]) => [name, [...kinds], [...texts]]),
    ]);
    writeFileSync(
      join(folder, `${process.pid}-${Date.now()}-${Math.random().toString(36).slice(2)}.json`),
      JSON.stringify(told),
    );
  });
}
