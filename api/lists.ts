import * as z from 'zod';
import { TARGETS } from '@core/lists';
import { act, ListQuery, namedOnce, page, read, Text } from './kit';

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
  query: ListQuery,
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
