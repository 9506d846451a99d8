import { dec, inUnits, share } from '@core/kernel';
import { pathOf } from '../kit/documents';
import { counted, day, money, price, quantity } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import type { PurchaseLine, PurchaseSheet } from './service';

/** Who a line is for, in a cell: `SO-0042 line 1`, `3 lines`, `our stock`. */
export function forWhom({ ties, untied }: PurchaseLine, { customer }: PurchaseSheet): string {
  const loose = customer ? 'nobody yet' : 'our stock';
  const [first] = ties;
  if (!first) return loose;
  const whom = ties.length === 1 ? `${first.order.number} line ${first.orderLineNo}` : counted(ties.length, 'line');
  return untied === '0' ? whom : `${whom}, ${quantity(untied)} ${loose}`;
}

/** What came beyond what was ordered; nothing is for an order of it. // L10 */
const overOf = ({ received, quantity: asked }: PurchaseLine): string =>
  dec(received).gt(asked) ? dec(received).minus(asked).toFixed() : '0';

/** What came, and where what came beyond it went. */
function came(row: PurchaseLine): string {
  if (row.received === '0') return '–';
  const over = overOf(row);
  return over === '0' ? quantity(row.received) : `${quantity(row.received)}, ${quantity(over)} to stock`;
}

/** In what a line and those it is for differ; empty where in step. // L6 */
function differs(line: PurchaseLine): string {
  return [...new Set(line.ties.flatMap((tie) => (tie.differs ? tie.differs.split(', ') : [])))].join(', ');
}

/** The lines of a purchase order: what was ordered, for whom, and what came of it. */
export function purchaseColumns(sheet: PurchaseSheet, workDate: string): GridColumn<PurchaseLine>[] {
  const { currency, lines } = sheet;
  // What no line has is no column: the room is for what came.
  const tied = lines.some(({ ties }) => ties.length > 0);
  const agreed = lines.some(({ agreement }) => agreement !== null);
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
    {
      id: 'quantity',
      head: 'Quantity',
      width: 96,
      figures: true,
      text: (row) => inUnits(quantity(row.quantity), row.item.unit),
      problem: (row) => (row.stopped === '0' ? '' : `${quantity(row.stopped)} of it will not come`),
    },
    { id: 'price', head: 'Price', width: 84, figures: true, text: (row) => price(row.unitPrice, currency) },
    ...(lines.some((line) => line.reason !== '')
      ? [{ id: 'why', head: 'Why', width: 130, text: (row: PurchaseLine) => row.reason }]
      : []),
    { id: 'amount', head: 'Amount', width: 96, figures: true, text: (row) => money(row.amount, currency) },
    {
      id: 'came',
      head: 'Came',
      width: lines.some((line) => overOf(line) !== '0') ? 140 : 76,
      figures: true,
      text: came,
      need: (row) => overOf(row) !== '0',
    },
    { id: 'due', head: 'Due', width: 100, text: (row) => day(row.dueDate, workDate) },
    {
      id: 'for',
      head: 'For',
      width: agreed ? 128 : 190,
      text: (row) => forWhom(row, sheet),
      link: (row) => (row.ties[0] ? pathOf(row.ties[0].order) : null),
    },
    ...(agreed
      ? [
          {
            id: 'agreement',
            head: 'Priced by',
            width: 84,
            text: (row: PurchaseLine) => row.agreement?.number ?? '',
            link: (row: PurchaseLine) => row.agreement && pathOf(row.agreement),
          },
        ]
      : []),
    ...(tied
      ? [
          {
            id: 'step',
            head: 'In step',
            width: 120,
            text: (row: PurchaseLine) =>
              row.ties.length > 0 ? (differs(row) ? `differs in ${differs(row)}` : 'in step') : '',
            need: (row: PurchaseLine) => differs(row) !== '',
          },
        ]
      : []),
    {
      id: 'thread',
      head: 'Came · invoiced',
      width: 112,
      beads: (row) => [
        { label: 'Received', share: share(row.received, row.quantity), notch: differs(row) !== '', over: overOf(row) },
        { label: 'Vendor invoiced', share: share(row.invoiced, row.quantity) },
      ],
    },
  ];
}
