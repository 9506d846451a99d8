import mysql, { type FieldPacket } from 'mysql2';
import { decimalText } from '@core/kernel';

/** A cell as the driver reads it: decimals and days as text. */
export type Cell = string | number | null | Buffer;

const names = new Map<string, string>();
const columns = new Map<string, string>();

/** A column's name in code: `line_no` is `lineNo`. */
export function nameOf(column: string): string {
  let name = names.get(column);
  if (name === undefined) {
    name = column.replace(/_([a-z0-9])/g, (_, letter: string) => letter.toUpperCase());
    names.set(column, name);
  }
  return name;
}

/** The column of a name in code: `lineNo` is `line_no`. */
export function columnOf(name: string): string {
  let column = columns.get(name);
  if (column === undefined) {
    column = name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
    columns.set(name, column);
  }
  return column;
}

const DECIMALS: readonly (number | undefined)[] = [mysql.Types.DECIMAL, mysql.Types.NEWDECIMAL];

type Cast = (cell: Cell) => Cell | boolean;

/** What a column's kind asks for: decimals as their shortest exact text, booleans as booleans; the rest as it is read. */
function castOf({ columnType, columnLength }: FieldPacket): Cast | null {
  if (DECIMALS.includes(columnType)) return (cell) => (cell === null ? null : decimalText(cell as string));
  if (columnType === mysql.Types.TINY && columnLength === 1) return (cell) => (cell === null ? null : cell !== 0);
  return null;
}

/** Rows as objects, named and cast by their columns; cells are `rows` as lists in the order of `fields`. */
export function rowsOf<Row>(rows: readonly Cell[][], fields: readonly FieldPacket[]): Row[] {
  const named = fields.map((field) => ({ name: nameOf(field.name), cast: castOf(field) }));
  return rows.map((cells) => {
    const row: Record<string, Cell | boolean> = {};
    for (let at = 0; at < named.length; at += 1) {
      const { name, cast } = named[at]!;
      row[name] = cast ? cast(cells[at]!) : cells[at]!;
    }
    return row as Row;
  });
}
