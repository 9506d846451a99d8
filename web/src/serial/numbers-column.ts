import { pathOf } from '../kit/documents';
import type { GridColumn } from '../kit/grid';

interface Numbered {
  numbers: readonly { id: number; number: string }[];
}

/** The numbers of lines' pieces as a column, where any has one; it leads to the first. // W7 */
export function numbersColumn<Row extends Numbered>(rows: readonly Row[], width = 200): GridColumn<Row>[] {
  if (!rows.some(({ numbers }) => numbers.length > 0)) return [];
  return [
    {
      id: 'numbers',
      head: 'Serial numbers',
      width,
      text: ({ numbers }) => numbers.map(({ number }) => number).join(', '),
      link: ({ numbers: [first] }) => (first ? pathOf({ kind: 'serial', id: first.id }) : null),
    },
  ];
}
