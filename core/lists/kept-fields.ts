import type { Cells } from './fields';
import { keptList } from './lists';
import type { KeepTyped } from './keep';

/** Fields of one act of keeping that are told at most; who keeps five hundred rows has the file. */
const MOST = 40;

export interface KeptField {
  what: string;
  was: string;
  is: string;
}

/** The cells a row had when it was read, of its stamp; none where it is no stamp of ours. */
function cellsOf(stamp: string): Cells {
  try {
    return Object.fromEntries(JSON.parse(stamp) as [string, string][]);
  } catch {
    return {};
  }
}

/**
 * What an act of keeping made another, cell by cell, of its input alone: a changed row has what it was in its stamp, so
 * has one that was taken out, and a new one was nothing. The first forty, then how many more. // U6
 */
export function fieldsOfKeep({ list: name, changes, removed }: KeepTyped & { list: string }): KeptField[] {
  const list = keptList(name);
  if (!list) return [];
  const named = (cells: Cells) =>
    list.keys[0]!.map((field) => cells[field] ?? '')
      .filter(Boolean)
      .join(', ');
  const fields = [
    ...changes.flatMap(({ id, stamp, cells }): KeptField[] => {
      const before = id === null ? {} : cellsOf(stamp);
      if (id === null) return [{ what: `${list.label} ${named(cells)}`, was: '', is: 'new' }];
      return list.fields.flatMap(({ name: field, head, fixed }) => {
        const [was, is] = [before[field] ?? '', (cells[field] ?? '').trim()];
        return fixed || was === is ? [] : [{ what: `${list.label} ${named(before)}, ${head}`, was, is }];
      });
    }),
    ...removed.map(({ stamp }) => ({ what: `${list.label} ${named(cellsOf(stamp))}`, was: 'there', is: 'taken out' })),
  ];
  const more = fields.length - MOST;
  return more <= 0 ? fields : [...fields.slice(0, MOST), { what: `and ${more} more`, was: '', is: '' }];
}
