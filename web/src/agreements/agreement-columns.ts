import type { Observable } from 'rxjs';
import { elapsedShare, leftOf, pace } from '@core/agreements';
import { dec, share, sum } from '@core/kernel';
import { readTypedBreaks, readTypedPrice, typedBreaksOf, typedPriceOf } from '@core/typed';
import type { RefusalShown } from '../kit/act/api';
import { pathOf } from '../kit/documents';
import { money, points, price, quantity } from '../kit/formats';
import type { Choice } from '../kit/fields';
import type { GridColumn } from '../kit/grid';
import { refusedAt } from '../kit/act/refusals';
import type { AgreementSheet, ItemChoice } from './service';
import { breaksProblem, committedProblem, committedValue, priceProblem, readCell, type TypedLine } from './typed';

export type Line = AgreementSheet['lines'][number];

/** What the columns of a draft's lines are drawn from. */
export interface TypedColumnsGround {
  currency: string;
  basis: AgreementSheet['basis'];
  side: AgreementSheet['side'];
  lines: readonly TypedLine[];
  refusals: readonly RefusalShown[];
  /** Items; where the agreement is by value also groups and everything. */
  covered(words: string): Observable<CoveredChoice[]>;
  setLine(row: TypedLine, change: Partial<TypedLine>): void;
}

/** The lines of an agreement while they are typed. */
export function typedColumns(ground: TypedColumnsGround): GridColumn<TypedLine>[] {
  const { currency, basis, side, lines, refusals, setLine } = ground;
  const byValue = basis === 'value';
  const committedKind = byValue ? 'price' : 'quantity';
  const at = (row: TypedLine, field: string) => refusedAt(refusals, `lines.${lines.indexOf(row)}.${field}`);
  return [
    { id: 'line', head: '', width: 36, text: (row) => String(lines.indexOf(row) + 1) },
    {
      id: 'item',
      head: byValue ? 'Covers' : 'Item',
      width: 96,
      text: (row) => row.number,
      problem: (row) => at(row, 'itemId'),
      edit: {
        kind: 'lookup',
        search: (words) => ground.covered(words),
        set: (row, choice) => {
          const { number, name, covered } = choice as CoveredChoice;
          const { item } = covered;
          setLine(row, {
            itemId: item?.id ?? null,
            groupId: covered.groupId ?? null,
            everything: covered.everything ?? false,
            number,
            name,
            unit: item?.unit ?? '',
            listPrice: item?.listPrice ?? '',
            price: row.price || (byValue ? 'list' : (item?.listPrice ?? '')),
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
        committedProblem(row.committed, committedKind) || row.committed === ''
          ? row.committed
          : byValue
            ? money(row.committed, currency)
            : quantity(row.committed),
      typed: (row) => row.committed,
      problem: (row) => at(row, 'committed') || committedProblem(row.committed, committedKind),
      edit: { kind: 'text', set: (row, typed) => setLine(row, { committed: readCell(typed, committedKind) }) },
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
      problem: (row) => at(row, 'breaks') || breaksProblem(row.breaks),
      edit: {
        kind: 'text',
        set: (row, typed) =>
          setLine(row, { breaks: breaksProblem(typed) ? typed : typedBreaksOf(readTypedBreaks(typed)) }),
      },
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
      head: side === 'buying' ? 'Their price' : 'List price',
      width: 88,
      figures: true,
      text: (row) => (row.listPrice ? price(row.listPrice, currency) : ''),
    },
    {
      id: 'value',
      head: 'Value',
      width: 106,
      figures: true,
      text: (row) => {
        const value = committedValue([row], currency, basis);
        return value === '0' ? '' : money(value, currency);
      },
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

/** An item, a group or everything, as a line of an agreement may cover it. */
export interface CoveredChoice extends Choice {
  covered: { item?: ItemChoice; groupId?: number; everything?: boolean };
}

/** What a line covers, in a cell. */
export const coversText = (line: Line) => line.item?.number ?? line.group?.code ?? 'everything';
export const coversName = (line: Line) => line.item?.name ?? line.group?.name ?? 'all items';

/** What a line commits to and what became of it: units, or value where the agreement is by value. // A1 A4 */
export function countsOf(line: Line, basis: AgreementSheet['basis']) {
  return basis === 'value'
    ? {
        committed: line.committedValue,
        released: line.releasedValue,
        shipped: line.shippedValue,
        invoiced: line.invoicedValue,
      }
    : { committed: line.committed, released: line.released, shipped: line.shipped, invoiced: line.invoiced };
}

/** The lines of an agreement in force: what is taken, and how that stands against the time gone. // A4 A8 */
export function lineColumns(sheet: AgreementSheet, workDate: string): GridColumn<Line>[] {
  const { basis, currency } = sheet;
  const shown = (text: string) => (basis === 'value' ? money(text, currency) : quantity(text));
  const counts = (row: Line) => countsOf(row, basis);
  const shipped = (row: Line) => share(counts(row).shipped, counts(row).committed);
  const gone = elapsedShare(sheet.firstDay, sheet.lastDay, workDate);
  const paceOf = (row: Line) => pace(shipped(row), gone);
  const words = movementWords(sheet.side);
  const width = basis === 'value' ? 104 : 88;
  return [
    { id: 'line', head: '', width: 36, text: (row) => String(row.lineNo) },
    {
      id: 'item',
      head: basis === 'value' ? 'Covers' : 'Item',
      width: 100,
      text: coversText,
      link: (row) => row.item && pathOf({ kind: 'item', id: row.item.id }),
    },
    { id: 'what', head: 'What', text: coversName },
    { id: 'agreed', head: 'Agreed', width: 92, figures: true, text: (row) => agreedText(row, currency) },
    ...(basis === 'value' && sheet.lines.every((line) => !line.item)
      ? []
      : [
          {
            id: 'list',
            head: sheet.side === 'buying' ? 'Their price' : 'List',
            width: 92,
            figures: true,
            text: (row: Line) => (row.item ? price(row.listPrice, currency) : ''),
          },
        ]),
    { id: 'committed', head: 'Committed', width: 104, figures: true, text: (row) => shown(counts(row).committed) },
    ...(basis === 'value'
      ? []
      : [
          {
            id: 'planned',
            head: 'Planned',
            width: 84,
            figures: true,
            text: (row: Line) => dash(quantity(sum(row.calls.map((call) => dec(call.rest))).toFixed())),
          },
        ]),
    { id: 'released', head: 'Released', width, figures: true, text: (row) => shown(counts(row).released) },
    { id: 'shipped', head: words.moved, width, figures: true, text: (row) => shown(counts(row).shipped) },
    { id: 'invoiced', head: 'Invoiced', width, figures: true, text: (row) => shown(counts(row).invoiced) },
    {
      id: 'left',
      head: 'Left',
      width,
      figures: true,
      // Beyond what was committed nothing is left, and so much more was taken.
      text: (row) => {
        const left = leftOf(counts(row)).toRelease;
        return left.lt(0) ? `${shown(left.abs().toFixed())} over` : shown(left.toFixed());
      },
    },
    { id: 'taken', head: 'Taken', width: 60, beads: (row) => [{ label: words.moved, share: shipped(row) }] },
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

/** What moves goods on an agreement: we ship to a customer, and receive from a vendor. */
export function movementWords(side: AgreementSheet['side']): { moved: string; move: string } {
  return side === 'selling' ? { moved: 'Shipped', move: 'shipped' } : { moved: 'Received', move: 'received' };
}

const dash = (text: string) => (text === '0' ? '–' : text);

/** The agreed price of a line in a cell: the price of one, `list` where the list price holds. */
function agreedText(line: Line, currency: string): string {
  if (line.priceKind === 'none') return 'list';
  return line.item ? price(line.unitPrice, currency) : `${line.priceValue} % off`;
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
