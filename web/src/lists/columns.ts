import type { Observable } from 'rxjs';
import { isDay, readTypedDecimal, readTypedHours, type Day } from '@core/kernel';
import { readTypedDay } from '@core/typed';
import type { KeptList, ListField, Target } from '@core/lists';
import type { Choice } from '../kit/fields';
import { day, quantity } from '../kit/formats';
import type { CellEdit, GridColumn } from '../kit/grid';
import type { ShownRow, TypedRows } from './typed-rows';

export interface ColumnsGround {
  list: KeptList;
  typed: TypedRows;
  workDate: Day;
  /** Whether the person may change anything. */
  may: boolean;
  named(target: Target, words: string): Observable<Choice[]>;
}

/** The columns of a kept list: made from what is said of its fields. */
export function keptColumns(ground: ColumnsGround): GridColumn<ShownRow>[] {
  const { list, typed } = ground;
  return [
    {
      id: 'mark',
      head: '',
      width: 80,
      text: (row) => typed.marked(row),
      need: (row) => typed.marked(row) !== '',
      problem: (row) => typed.of(row),
    },
    ...list.fields.map((field) => columnOf(field, ground)),
  ];
}

function columnOf(field: ListField, ground: ColumnsGround): GridColumn<ShownRow> {
  const { name, head, width, is } = field;
  return {
    id: name,
    head,
    ...(width ? { width } : {}),
    figures: is.kind === 'number',
    text: (row) => shownText(field, row.cells[name] ?? '', ground.workDate),
    typed: (row) => row.cells[name] ?? '',
    problem: (row) => ground.typed.at(row, name),
    ...(field.fixed || !ground.may ? {} : { edit: editOf(field, ground) }),
  };
}

/** A cell as it is shown. */
export function shownText({ is }: ListField, cell: string, workDate: Day): string {
  if (cell === '') return is.kind === 'choice' ? (is.options.find((each) => each.value === '')?.label ?? '') : '';
  if (is.kind === 'choice') return is.options.find((each) => each.value === cell)?.label ?? cell;
  if (is.kind === 'day') return isDay(cell) ? day(cell, workDate) : cell;
  return is.kind === 'number' && readTypedDecimal(cell, is.of) !== null ? quantity(cell) : cell;
}

function editOf({ name, is, onlyNew }: ListField, { typed, workDate, named }: ColumnsGround): CellEdit<ShownRow> {
  const when = (row: ShownRow) => row.mark !== 'goes' && !(onlyNew && row.id !== null);
  const set = (row: ShownRow, text: string) => typed.set(row, name, text);
  switch (is.kind) {
    case 'choice':
      return { kind: 'choice', when, options: () => [...is.options], set };
    case 'ref':
      return {
        kind: 'lookup',
        when,
        search: (words) => named(is.to, words),
        set: (row, choice) => set(row, byNumber(is.to) ? choice.number : choice.name),
        setText: set,
      };
    case 'day':
      return { kind: 'text', when, set: (row, text) => set(row, readTypedDay(text, workDate) ?? text) };
    case 'number':
      return { kind: 'text', when, set: (row, text) => set(row, readTypedDecimal(text, is.of) ?? text) };
    case 'hours':
      return { kind: 'text', when, set: (row, text) => set(row, readTypedHours(text) ?? text) };
    case 'gtin':
    case 'text':
      return { kind: 'text', when, set };
  }
}

/** What a cell shows of a thing: an item or a currency by its number, all else by its name. */
export const byNumber = (target: Target) => BY_NUMBER.has(target);
const BY_NUMBER: ReadonlySet<Target> = new Set([
  'item',
  'currency',
  'other-currency',
  'iso-currency',
  'time-zone',
  'tax-code',
]);
