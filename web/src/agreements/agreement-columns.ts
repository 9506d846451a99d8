import type { Observable } from 'rxjs';
import { elapsedShare, leftOf, pace } from '@core/agreements';
import { dec, share, sum } from '@core/kernel';
import { readTypedBreaks, readTypedPrice, typedBreaksOf, typedPriceOf } from '@core/typed';
import type { RefusalShown } from '../kit/api';
import { pathOf } from '../kit/documents';
import { money, points, price, quantity } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { refusedAt } from '../kit/refusals';
import type { AgreementSheet, ItemChoice } from './service';
import { committedValue, priceProblem, quantityProblem, readCell, type TypedLine } from './typed';

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
      width: 96,
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
            price: row.price || item.listPrice,
          });
        },
      },
    },
    { id: 'what', head: 'What', text: (row) => row.name },
    {
      id: 'committed',
      head: 'Committed',
      width: 92,
      figures: true,
      text: (row) =>
        quantityProblem(row.committed, 'x') || row.committed === '' ? row.committed : quantity(row.committed),
      typed: (row) => row.committed,
      problem: (row) => at(row, 'committed') || quantityProblem(row.committed, 'The committed quantity'),
      edit: { kind: 'text', set: (row, typed) => setLine(row, { committed: readCell(typed, 'quantity') }) },
    },
    { id: 'unit', head: 'Unit', width: 62, text: (row) => row.unit },
    {
      id: 'price',
      head: 'Agreed',
      width: 92,
      figures: true,
      text: (row) => (/^[\d.]+$/.test(row.price) && !priceProblem(row.price) ? price(row.price, currency) : row.price),
      typed: (row) => row.price,
      problem: (row) => at(row, 'priceValue') || priceProblem(row.price),
      edit: { kind: 'text', set: (row, typed) => setLine(row, { price: typedPriceOf(readTypedPrice(typed)) }) },
    },
    {
      id: 'breaks',
      head: 'From a quantity',
      width: 140,
      text: (row) => row.breaks,
      typed: (row) => row.breaks,
      problem: (row) => at(row, 'breaks'),
      edit: { kind: 'text', set: (row, typed) => setLine(row, { breaks: typedBreaksOf(readTypedBreaks(typed)) }) },
    },
    {
      id: 'least',
      head: 'Least',
      width: 66,
      figures: true,
      text: (row) => row.least,
      problem: (row) => at(row, 'leastRelease'),
      edit: { kind: 'text', set: (row, typed) => setLine(row, { least: readCell(typed, 'quantity') }) },
    },
    {
      id: 'multiple',
      head: 'Multiple',
      width: 74,
      figures: true,
      text: (row) => row.multiple,
      problem: (row) => at(row, 'releaseMultiple'),
      edit: { kind: 'text', set: (row, typed) => setLine(row, { multiple: readCell(typed, 'quantity') }) },
    },
    {
      id: 'list',
      head: 'List price',
      width: 88,
      figures: true,
      text: (row) => (row.listPrice ? price(row.listPrice, currency) : ''),
    },
    {
      id: 'value',
      head: 'Value',
      width: 106,
      figures: true,
      text: (row) => (committedValue([row], currency) === '0' ? '' : money(committedValue([row], currency), currency)),
    },
    {
      id: 'notes',
      head: 'Notes',
      width: 110,
      text: (row) => row.notes,
      problem: (row) => at(row, 'notes'),
      edit: { kind: 'text', set: (row, typed) => setLine(row, { notes: typed }) },
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
    { id: 'agreed', head: 'Agreed', width: 92, figures: true, text: (row) => agreedText(row, sheet.currency) },
    { id: 'list', head: 'List', width: 92, figures: true, text: (row) => price(row.listPrice, sheet.currency) },
    { id: 'committed', head: 'Committed', width: 96, figures: true, text: (row) => quantity(row.committed) },
    {
      id: 'planned',
      head: 'Planned',
      width: 84,
      figures: true,
      text: (row) => dash(quantity(sum(row.calls.map((call) => dec(call.rest))).toFixed())),
    },
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

const dash = (text: string) => (text === '0' ? '–' : text);

/** The agreed price of a line in a cell: the price of one, `list` where the list price holds. */
function agreedText(line: Line, currency: string): string {
  return line.priceKind === 'none' ? 'list' : price(line.unitPrice, currency);
}

/** The price terms of a line in words: `8.50; 8.20 from 1,000`, `8.5 % off the list price`. // A3 */
export function priceWords(line: Line, currency: string): string {
  if (line.priceKind === 'none') return 'the list price';
  const one = (value: string) =>
    line.priceKind === 'discount' ? `${value} % off the list price` : price(value, currency);
  return [one(line.priceValue), ...line.breaks.map(({ from, value }) => `${one(value)} from ${quantity(from)}`)].join(
    '; ',
  );
}

/** How releases are held: `at least 250, in multiples of 25`; empty where any quantity goes. // A6 */
export function stepWords(line: Line): string {
  return [
    ...(line.leastRelease === '0' ? [] : [`at least ${quantity(line.leastRelease)}`]),
    ...(line.releaseMultiple === '0' ? [] : [`in multiples of ${quantity(line.releaseMultiple)}`]),
  ].join(', ');
}
