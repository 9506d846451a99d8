import type { GridColumn } from './columns';

/** The columns of a list as somebody laid them out. */
export interface Layout {
  /** Ids in their order; a column that is not named stands where it usually does, after those before it. */
  order: readonly string[];
  hidden: readonly string[];
  /** Pixels by id. */
  widths: Readonly<Record<string, number>>;
}

export const AS_SHIPPED: Layout = { order: [], hidden: [], widths: {} };

/** The columns in their chosen order, without those that are hidden, each as wide as it was made. */
export function laidOut<Row>(columns: readonly GridColumn<Row>[], layout: Layout): GridColumn<Row>[] {
  return inOrder(columns, layout.order)
    .filter(({ id }) => !layout.hidden.includes(id))
    .map((column) => {
      const width = layout.widths[column.id];
      return width === undefined ? column : { ...column, width };
    });
}

/** All columns in the chosen order: one that is not named in it follows the one it usually follows. */
export function inOrder<Column extends { id: string }>(columns: readonly Column[], order: readonly string[]): Column[] {
  const ordered = order.flatMap((id) => columns.find((column) => column.id === id) ?? []);
  columns.forEach((column, at) => {
    if (ordered.includes(column)) return;
    const before = columns.slice(0, at).findLast((each) => ordered.includes(each));
    ordered.splice(before ? ordered.indexOf(before) + 1 : 0, 0, column);
  });
  return ordered;
}
