import * as z from 'zod';
import { TARGETS, THINGS } from '@core/lists';
import { act, Id, IdParam, ListQuery, namedOnce, page, post, read, Text } from './kit';

const Cells = z.record(z.string().max(40), Text(200));
const ListName = z.string().max(40);

/** A row's own number; 0 for the main location. */
const RowId = z.number().int().min(0).max(4_294_967_295);

export const KeptRow = z.object({
  id: RowId,
  /** What was seen of the row; goes back with its change. // G2 */
  stamp: z.string(),
  cells: Cells,
});

export const openList = read({
  name: 'openList',
  path: '/lists/:list',
  summary: 'Rows of a list that people keep: prices, allowances, units, limits, permits, approvals.',
  params: z.object({ list: ListName }),
  query: ListQuery.extend({
    /** Only rows about one thing: `item`, `customer` or `vendor`, and its id. */
    about: z.enum(THINGS).optional(),
    id: z.coerce.number().int().positive().max(4_294_967_295).optional(),
  }),
  out: page(KeptRow),
});

export const findNamed = read({
  name: 'findNamed',
  path: '/named/:target',
  summary: 'What a cell of a kept list may name, by any part of number or name.',
  params: z.object({ target: z.enum(TARGETS) }),
  query: z.object({ q: z.string().max(80).default('') }),
  out: z.object({ rows: z.array(z.object({ id: z.number(), number: z.string(), name: z.string() })) }),
});

const Seen = z.object({ id: RowId, stamp: z.string().max(6000) });

export const keepList = act({
  name: 'keepList',
  summary: 'Change, add and remove rows of a kept list, all of them or none.',
  input: z.object({
    list: ListName,
    changes: namedOnce(z.array(Seen.extend({ id: RowId.nullable(), cells: Cells })).max(500), 'id'),
    removed: namedOnce(z.array(Seen).max(500), 'id'),
  }),
  preview: z.object({ added: z.number(), changed: z.number(), removed: z.number() }),
});

/** The lists that have views: as their addresses name them. */
export const VIEWED_LISTS = ['agreements', 'orders', 'purchases', 'invoices', 'credits', 'prepayments'] as const;
const ViewedList = z.enum(VIEWED_LISTS);

export const ListView = z.object({
  id: z.number(),
  name: z.string(),
  forAll: z.boolean(),
  /** Whether it is one's own, and may be dropped. */
  own: z.boolean(),
  /** What the address says of the list. */
  query: z.record(z.string(), z.string()),
  columns: ViewColumns(),
});

/** The columns of a list as somebody laid them out. */
function ViewColumns() {
  return z.object({
    /** Ids in their order; what is not named stands where it usually does. */
    order: z.array(z.string().max(30)).max(40),
    hidden: z.array(z.string().max(30)).max(40),
    /** Pixels by id. */
    widths: z.record(z.string().max(30), z.number().int().min(20).max(2000)),
  });
}

export const listViews = read({
  name: 'listViews',
  path: '/views/:list',
  summary: 'Views of a list kept by name: one’s own, and those for all.',
  params: z.object({ list: ViewedList }),
  out: z.object({ rows: z.array(ListView) }),
});

export const keepView = act({
  name: 'keepView',
  summary: 'Keep what a list shows by name, for oneself or for all; in the place of one of that name.',
  input: z.object({
    list: ViewedList,
    name: Text(40),
    forAll: z.boolean(),
    query: z.record(z.string().max(20), z.string().max(80)).refine((query) => Object.keys(query).length <= 20),
    columns: ViewColumns(),
  }),
  preview: z.object({ replaces: z.boolean() }),
});

export const dropView = act({
  name: 'dropView',
  summary: 'Drop a view of a list.',
  input: z.object({ id: Id }),
  preview: z.object({ name: z.string() }),
});

export const BRING_IN_STATES = ['looking', 'ready', 'taking', 'taken', 'stopped'] as const;

const BroughtFile = z.object({
  id: Id,
  /** The kept list it is of. */
  list: z.string(),
  fileName: z.string(),
  person: z.string(),
  state: z.enum(BRING_IN_STATES),
  goodOnly: z.boolean(),
  /** Lines in all, and how many of them were looked at or taken. */
  rowCount: z.number(),
  done: z.number(),
  fresh: z.number(),
  changed: z.number(),
  alike: z.number(),
  bad: z.number(),
  /** Headings nothing is known of. */
  leftOut: z.array(z.string()),
  at: z.string(),
});

export const bringIn = post({
  name: 'bringIn',
  path: '/bring-in',
  needs: 'lists',
  summary: 'Bring in a CSV or XLSX file for a kept list, to be looked at; nothing is kept of it before it is taken.',
  body: z.object({
    /** Empty for the list its headings are of. */
    list: ListName,
    name: Text(200),
    /** Base64 (RFC 4648). */
    content: z.string().max(40_000_000),
  }),
  out: z.object({ id: Id }),
});

export const listBroughtIn = read({
  name: 'listBroughtIn',
  path: '/bring-in',
  needs: 'lists',
  summary: 'The newest files that were brought in, and how far each is.',
  out: z.object({ rows: z.array(BroughtFile) }),
});

export const openBroughtIn = read({
  name: 'openBroughtIn',
  path: '/bring-in/:id',
  needs: 'lists',
  summary: 'A file that was brought in, with what is wrong in it, line by line.',
  params: IdParam,
  out: BroughtFile.extend({
    problems: z.array(
      z.object({
        line: z.number(),
        column: z.string(),
        /** What stands there. */
        typed: z.string(),
        sentence: z.string(),
        /** Odd, and no hindrance. */
        word: z.boolean(),
      }),
    ),
  }),
});

export const takeBroughtIn = act({
  name: 'takeBroughtIn',
  summary: 'Take what a file holds into its list: all of it, or its good lines.',
  input: z.object({ id: Id, goodOnly: z.boolean() }),
  preview: z.object({ lines: z.number() }),
});

export const lookAgainAt = act({
  name: 'lookAgainAt',
  summary: 'Look at a file again: what it names may be there by now.',
  input: z.object({ id: Id }),
  preview: z.object({ lines: z.number() }),
});

export const stopBroughtIn = act({
  name: 'stopBroughtIn',
  summary: 'Stop looking at a file or taking it; what was taken stays.',
  input: z.object({ id: Id }),
  preview: z.object({ left: z.number() }),
});
