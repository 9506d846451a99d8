import type { Observable } from 'rxjs';
import { elapsedShare, leftOf, pace } from '@core/agreements';
import { share } from '@core/kernel';
import type { RefusalShown } from '../kit/api';
import { pathOf } from '../kit/documents';
import { money, points, price, quantity } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { refusedAt } from '../kit/refusals';
import type { AgreementSheet, ItemChoice } from './service';
import { committedValue, numberProblem, readCell, type TypedLine } from './typed';

export type Line = AgreementSheet['lines'][number];

/** What the columns of a draft's lines are drawn from. */
export interface TypedColumnsGround {
  currency: string;
  lines: readonly TypedLine[];
  refusals: readonly RefusalShown[];
  items(words: string): Observable<ItemChoice[]>;
  setLine(row: TypedLine, change: Partial<TypedLine>): void;
}

/** The lines of an agreement while they are typed. */
export function typedColumns(ground: TypedColumnsGround): GridColumn<TypedLine>[] {
  const { currency, lines, refusals, setLine } = ground;
  const at = (row: TypedLine, field: string) => refusedAt(refusals, `lines.${lines.indexOf(row)}.${field}`);
  return [
    { id: 'line', head: '', width: 36, text: (row) => String(lines.indexOf(row) + 1) },
    {
      id: 'item',
      head: 'Item',
      width: 120,
      text: (row) => row.number,
      problem: (row) => at(row, 'itemId'),
      edit: {
        kind: 'lookup',
        search: (words) => ground.items(words),
        set: (row, choice) => {
          const item = choice as ItemChoice;
          setLine(row, {
            itemId: item.id,
            number: item.number,
            name: item.name,
            unit: item.unit,
            listPrice: item.listPrice,
            unitPrice: row.unitPrice || item.listPrice,
          });
        },
      },
    },
    { id: 'what', head: 'What', text: (row) => row.name },
    {
      id: 'committed',
      head: 'Committed',
      width: 130,
      figures: true,
      text: (row) =>
        numberProblem(row.committed, 'quantity', 'x') || row.committed === '' ? row.committed : quantity(row.committed),
      typed: (row) => row.committed,
      problem: (row) => at(row, 'committed') || numberProblem(row.committed, 'quantity', 'The committed quantity'),
      edit: { kind: 'text', set: (row, typed) => setLine(row, { committed: readCell(typed, 'quantity') }) },
    },
    { id: 'unit', head: 'Unit', width: 80, text: (row) => row.unit },
    {
      id: 'price',
      head: 'Agreed price',
      width: 130,
      figures: true,
      text: (row) =>
        numberProblem(row.unitPrice, 'price', 'x') || row.unitPrice === ''
          ? row.unitPrice
          : price(row.unitPrice, currency),
      typed: (row) => row.unitPrice,
      problem: (row) => at(row, 'unitPrice') || numberProblem(row.unitPrice, 'price', 'The agreed price'),
      edit: { kind: 'text', set: (row, typed) => setLine(row, { unitPrice: readCell(typed, 'price') }) },
    },
    {
      id: 'list',
      head: 'List price',
      width: 110,
      figures: true,
      text: (row) => (row.listPrice ? price(row.listPrice, currency) : ''),
    },
    {
      id: 'value',
      head: 'Value',
      width: 130,
      figures: true,
      text: (row) => (committedValue([row], currency) === '0' ? '' : money(committedValue([row], currency), currency)),
    },
  ];
}

/** The lines of an agreement in force: what is taken, and how that stands against the time gone. // A4 A8 */
export function lineColumns(sheet: AgreementSheet, workDate: string): GridColumn<Line>[] {
  const shipped = (row: Line) => share(row.shipped, row.committed);
  const gone = elapsedShare(sheet.firstDay, sheet.lastDay, workDate);
  const paceOf = (row: Line) => pace(shipped(row), gone);
  return [
    { id: 'line', head: '', width: 36, text: (row) => String(row.lineNo) },
    {
      id: 'item',
      head: 'Item',
      width: 100,
      text: (row) => row.item.number,
      link: (row) => pathOf({ kind: 'item', id: row.item.id }),
    },
    { id: 'what', head: 'What', text: (row) => row.item.name },
    { id: 'agreed', head: 'Agreed', width: 92, figures: true, text: (row) => price(row.unitPrice, sheet.currency) },
    { id: 'list', head: 'List', width: 92, figures: true, text: (row) => price(row.listPrice, sheet.currency) },
    { id: 'committed', head: 'Committed', width: 96, figures: true, text: (row) => quantity(row.committed) },
    { id: 'released', head: 'Released', width: 88, figures: true, text: (row) => quantity(row.released) },
    { id: 'shipped', head: 'Shipped', width: 88, figures: true, text: (row) => quantity(row.shipped) },
    { id: 'invoiced', head: 'Invoiced', width: 88, figures: true, text: (row) => quantity(row.invoiced) },
    { id: 'left', head: 'Left', width: 88, figures: true, text: (row) => quantity(leftOf(row).toRelease.toFixed()) },
    { id: 'taken', head: 'Taken', width: 60, beads: (row) => [{ label: 'Shipped', share: shipped(row) }] },
    {
      id: 'pace',
      head: 'Pace',
      width: 74,
      figures: true,
      text: (row) => points(paceOf(row)),
      need: (row) => paceOf(row) < -0.1,
    },
  ];
}
