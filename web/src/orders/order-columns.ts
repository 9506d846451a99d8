import type { Observable } from 'rxjs';
import { ROUTE_NAMES } from '@core/catalogue';
import { dec, inUnits, isDay, least, most, share, ZERO } from '@core/kernel';
import type { StepKind } from '@core/pricing';
import { readTypedDay, readTypedLinePrice, typedLinePriceOf } from '@core/typed';
import { refusedAt } from '../kit/act/refusals';
import type { RefusalShown } from '../kit/act/api';
import { pathOf } from '../kit/documents';
import { day, money, price, quantity } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import type { Location } from '../kit/live/locations';
import type { ItemChoice, OrderLine, PriceOffer } from './service';
import { atPlace, suppliedName, suppliedOf, suppliedOptions } from './supplied-from';
import { amountOf, factorOf, ofItem, readableAs, readTypedQuantity, type LinePrice, type TypedLine } from './typed';

/** What the columns of a draft order's lines are drawn from. */
export interface TypedColumnsGround {
  /** Of a confirmed order: a line it has stays what it is, and how it is supplied is said by itself. // S8 */
  stays: (row: TypedLine) => boolean;
  currency: string;
  workDate: string;
  lines: readonly TypedLine[];
  refusals: readonly RefusalShown[];
  locations: readonly Location[];
  items(words: string): Observable<ItemChoice[]>;
  /** The agreements that could price a line, best first. */
  offers(row: TypedLine): readonly PriceOffer[];
  /** A line's price as the server built it up; undefined while it has not. */
  priceOf(row: TypedLine): LinePrice | undefined;
  /** Its ship date cannot be kept, or is not worked. // S10 */
  impossible(row: TypedLine): boolean;
  setLine(row: TypedLine, change: Partial<TypedLine>): void;
}

/** What one of the unit sold costs; a price that was typed or taken off stands out. */
function shownPrice(row: TypedLine, found: LinePrice | undefined, currency: string): string {
  if (row.itemId === null) return '';
  if (row.price !== '') return readableAs(row.price, 'price') ? price(row.price, currency) : row.price;
  const own = found?.unitPrice ?? row.unitPrice;
  if (own === '') return '';
  const sold = dec(own).times(factorOf(row)).round(4).toFixed();
  return row.discount === '' ? price(sold, currency) : `${price(sold, currency)} −${row.discount} %`;
}

const BY: Record<StepKind, string> = {
  agreement: 'agreement',
  customer: 'their price',
  group: 'group price',
  list: 'the list',
  cost: 'market price',
  promotion: '',
  'split-pack': '',
  freight: '',
  options: '',
  discount: '',
  typed: 'by hand',
};

/** Where a line's price comes from, in a word. // R1 R4 */
export function pricedBy(row: TypedLine, found: LinePrice | undefined): string {
  if (row.free) return `free, ${row.free}`;
  if (row.price !== '') return 'by hand';
  if (found) return found.agreement || promotionIn(found.steps) || BY[found.steps[0]?.kind ?? 'list'];
  return row.agreement || 'the list';
}

/** The number of the promotion that took something off. // S13 */
const promotionIn = (steps: LinePrice['steps']): string =>
  steps.find(({ kind, amount }) => kind === 'promotion' && amount !== '0')?.source.split(' ')[0] ?? '';

/** The same of a line of an order that is kept. */
export function keptBy(line: OrderLine): string {
  if (line.promotion) return line.promotion.free ? `free, ${line.promotion.number}` : line.promotion.number;
  if (line.sold.price !== null) return 'by hand';
  return line.agreement?.number ?? BY[line.buildUp[0]?.kind ?? 'list'];
}

/** What a line is, with what was chosen for it. // W2 */
const withChosen = (name: string, options: readonly { number: string }[]) =>
  options.length === 0 ? name : `${name} with ${options.map(({ number }) => number).join(', ')}`;

/** The lines of an order while they are typed. */
export function typedColumns(ground: TypedColumnsGround): GridColumn<TypedLine>[] {
  const { currency, workDate, lines, refusals, setLine } = ground;
  const at = (row: TypedLine, field: string) => refusedAt(refusals, `lines.${lines.indexOf(row)}.${field}`);
  const columns: GridColumn<TypedLine>[] = [
    { id: 'line', head: '', width: 36, text: (row) => String(lines.indexOf(row) + 1) },
    {
      id: 'item',
      head: 'Item',
      width: 110,
      text: (row) => row.number,
      problem: (row) => at(row, 'itemId'),
      edit: {
        kind: 'lookup',
        when: (row) => row.id === null,
        search: (words) => ground.items(words),
        set: (row, choice) => setLine(row, ofItem(choice as ItemChoice)),
      },
    },
    {
      id: 'what',
      head: 'What',
      text: (row) => withChosen(row.name, row.options ?? []),
      problem: (row) => at(row, 'optionIds'),
    },
    {
      id: 'quantity',
      head: 'Quantity',
      width: 100,
      figures: true,
      text: (row) => (readableAs(row.quantity, 'quantity') ? quantity(row.quantity) : row.quantity),
      typed: (row) => row.quantity,
      problem: (row) =>
        at(row, 'quantity') ||
        (row.quantity !== '' && !readableAs(row.quantity, 'quantity') ? 'Not a number; write it like 1250.5.' : ''),
      edit: {
        kind: 'text',
        set: (row, typed) => setLine(row, readTypedQuantity(typed, row, !ground.stays(row))),
      },
    },
    {
      id: 'unit',
      head: 'Unit',
      width: 76,
      text: (row) => row.unit,
      problem: (row) => at(row, 'unit'),
      edit: {
        kind: 'choice',
        when: (row) => row.units.length > 1 && !ground.stays(row),
        options: (row) => row.units.map(({ unit }) => ({ value: unit, label: unit })),
        set: (row, unit) => setLine(row, { unit }),
      },
    },
    {
      id: 'price',
      head: 'Price',
      width: 96,
      figures: true,
      text: (row) => shownPrice(row, ground.priceOf(row), currency),
      typed: (row) => typedLinePriceOf(row),
      problem: (row) => at(row, 'price'),
      edit: {
        kind: 'text',
        when: (row) => row.itemId !== null,
        // A typed price is instead of an agreement's: the line leaves it.
        set: (row, typed) => {
          const price = readTypedLinePrice(typed);
          const given = price.price !== '' || price.discount !== '';
          setLine(row, { ...price, ...(given ? { agreementLineId: null } : {}) });
        },
      },
    },
    {
      id: 'amount',
      head: 'Amount',
      width: 104,
      figures: true,
      text: (row) => {
        const amount = row.itemId === null ? null : amountOf(row, ground.priceOf(row), currency);
        return amount === null ? '' : money(amount.toFixed(), currency);
      },
    },
    {
      id: 'agreement',
      head: 'Priced by',
      width: 124,
      text: (row) => (row.itemId === null ? '' : pricedBy(row, ground.priceOf(row))),
      problem: (row) => at(row, 'agreementLineId'),
      edit: {
        kind: 'choice',
        when: (row) => row.itemId !== null && !ground.stays(row) && ground.offers(row).length > 0,
        options: (row) => [
          ...ground.offers(row).map((offer) => ({
            value: String(offer.agreementLineId),
            label: `${offer.agreement.number}, ${price(offer.unitPrice, currency)}`,
          })),
          { value: '', label: `without, ${price(row.listPrice, currency)}` },
        ],
        set: (row, chosen) =>
          setLine(
            row,
            chosen === ''
              ? { agreementLineId: null }
              : { agreementLineId: Number(chosen), price: '', discount: '', reason: '' },
          ),
      },
    },
    {
      id: 'ships',
      head: 'Ship on',
      width: 120,
      text: (row) =>
        row.shipDate !== null && isDay(row.shipDate) ? day(row.shipDate, workDate) : (row.shipDate ?? ''),
      typed: (row) => row.shipDate ?? '',
      need: ground.impossible,
      problem: (row) =>
        at(row, 'shipDate') ||
        (row.shipDate !== null && !isDay(row.shipDate) ? 'Not a date; write it like 11/3, +5 or fri.' : ''),
      edit: {
        kind: 'text',
        set: (row, typed) =>
          setLine(row, { shipDate: readTypedDay(typed, workDate) ?? (typed || null), dayOpen: false }),
      },
    },
    {
      id: 'route',
      head: 'Supplied by',
      width: 150,
      text: (row) => (row.itemId === null ? '' : suppliedName(row, ground.locations)),
      problem: (row) => at(row, 'route') || at(row, 'locationId'),
      edit: {
        kind: 'choice',
        when: (row) => row.itemId !== null && !ground.stays(row),
        options: (row) => suppliedOptions(row.routes, ground.locations),
        set: (row, chosen) => setLine(row, suppliedOf(chosen)),
      },
    },
  ];
  // What is free is said by what is bought.
  return columns.map((column) =>
    column.edit
      ? { ...column, edit: { ...column.edit, when: (row) => !row.free && (column.edit!.when?.(row) ?? true) } }
      : column,
  );
}

/** The lines of an order that is followed to its end. */
export function lineColumns(
  currency: string,
  workDate: string,
  moved: boolean,
  soldOtherwise = false,
): GridColumn<OrderLine>[] {
  return [
    { id: 'line', head: '', width: 32, text: (row) => String(row.lineNo) },
    {
      id: 'item',
      head: 'Item',
      width: 84,
      text: (row) => row.item.number,
      link: (row) => pathOf({ kind: 'item', id: row.item.id }),
    },
    { id: 'what', head: 'What', width: 150, text: (row) => withChosen(row.item.name, row.options) },
    { id: 'quantity', head: 'Quantity', width: 76, figures: true, text: (row) => quantity(row.quantity) },
    {
      id: 'unit',
      head: 'Unit',
      // Whole where some were sold in another unit than they are kept in.
      width: soldOtherwise ? 124 : 76,
      text: (row) => (row.sold.factor === '1' ? row.item.unit : soldAs(row)),
    },
    { id: 'price', head: 'Price', width: 84, figures: true, text: (row) => price(row.unitPrice, currency) },
    { id: 'amount', head: 'Amount', width: 96, figures: true, text: (row) => money(row.amount, currency) },
    {
      id: 'ships',
      head: 'Ship on',
      width: moved ? 170 : 96,
      // A line that ships later than its customer knows says when it was to. // W3
      text: (row) => day(row.shipDate, workDate) + (row.movedFrom ? `, not ${day(row.movedFrom, workDate)}` : ''),
      need: (row) => row.movedFrom !== null,
    },
    {
      id: 'agreement',
      head: 'Priced by',
      width: 82,
      text: keptBy,
      link: (row) => {
        const by = row.promotion ?? row.agreement;
        return by && pathOf(by);
      },
    },
    { id: 'route', head: 'Route', width: 104, text: (row) => ROUTE_NAMES[row.route] },
    { id: 'supplied', head: 'Supplied by', text: (row) => suppliedBy(row), need: (row) => row.needsPurchase },
    { id: 'thread', head: 'Thread', width: 100, beads: (row) => beadsOf(row) },
  ];
}

/** `piece, 4 boxes`: the item's own unit, and how it was sold. */
function soldAs(line: OrderLine): string {
  const sold = dec(line.quantity).div(line.sold.factor).toFixed();
  return `${line.item.unit}, ${inUnits(quantity(sold), line.sold.unit)}`;
}

/** What can go out now: of what is open what is held or free, what is here for a special order, the tied rest of a drop shipment. */
export function shippable(line: OrderLine) {
  const open = dec(line.quantity).minus(line.cancelled).minus(line.shipped);
  // What is less than nothing is free for nobody.
  if (line.route === 'stock') return least(open, dec(line.reserved).plus(most(ZERO, dec(line.free))));
  if (line.route === 'drop') return dec(line.tied).minus(line.shipped);
  // What is assembled to order is assembled as it ships. // P5
  return line.route === 'assemble' ? least(open, dec(line.reserved).plus(line.making)) : dec(line.reserved);
}

/** What a line that is made to order wants, and nothing is made of yet. // W1 W2 */
export function unmade(line: OrderLine) {
  if (line.route !== 'make' && line.route !== 'assemble') return ZERO;
  const open = dec(line.quantity).minus(line.cancelled).minus(line.shipped);
  return most(ZERO, open.minus(line.reserved).minus(line.making));
}

/** Who supplies a line, and how far that is. */
export function suppliedBy(line: OrderLine): string {
  const made = line.route === 'make' || line.route === 'assemble';
  if (line.route === 'stock' || made) {
    const planned = line.planned.map((each) => `${each.number} ${each.state}`);
    if (made && planned.length === 0 && line.reserved === '0') planned.push('nothing is made for it yet');
    const held = line.reserved === '0' ? [] : [`${quantity(line.reserved)} held`];
    const promised = line.promised === null ? [] : ['promised'];
    return [...promised, ...planned, ...held, `${quantity(line.free)} free${atPlace(line)}`].join(', ');
  }
  const here = line.reserved === '0' ? [] : [`${quantity(line.reserved)} here${atPlace(line)}`];
  const missing = line.needsPurchase ? ['not placed yet'] : [];
  const from = [...new Set(line.ties.map((tie) => `${tie.purchase.number}, ${tie.vendor}`))];
  return [...missing, ...here, ...from].join('; ');
}

function beadsOf(line: OrderLine) {
  const live = dec(line.quantity).minus(line.cancelled);
  const struck = live.lte(0);
  const of = (part: string) => share(part, live);
  const bought = line.route === 'drop' || line.route === 'special';
  // What is made for it, is held for it, or went out already.
  const made = dec(line.making).plus(line.reserved).plus(line.shipped).toFixed();
  const supply = line.route === 'stock' ? 1 : of(bought ? line.tied : made);
  return [
    { label: 'Supply', share: supply, notch: line.ties.some(({ differs }) => differs !== ''), struck },
    { label: 'Shipped', share: of(line.shipped) },
    { label: 'Invoiced', share: of(line.invoiced) },
    ...(bought ? [{ label: 'Vendor invoiced', share: of(line.vendorInvoiced) }] : []),
    { label: 'Paid', share: line.paidShare },
  ];
}
