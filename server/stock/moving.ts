import { dec, MAIN_LOCATION, pointOf } from '@core/kernel';
import type { Repriced } from '@core/orders';
import { numbersShown, type SerialEffects } from '@core/serial';
import type { DropTie, MoveEffects, StockLine, TypedNumbers } from '@core/stock';
import type { Touched } from '../acts';
import type { loadOwnLines, loadTies } from './store';

/** The numbers that were typed with lines. */
export const typedNumbers = (
  lines: readonly { lineId: number; numbers?: readonly string[] | undefined }[],
  field: string,
): TypedNumbers[] =>
  lines.map(({ lineId, numbers = [] }, at) => ({ lineId, numbers, field: `${field}.${at}.numbers` }));

/** Where numbers of what only passes through are looked for, where any were typed. */
export const throughPoints = (ties: readonly DropTie[], typed: readonly string[]): number[] =>
  typed.length > 0 ? ties.map(({ item }) => pointOf(item.id, MAIN_LOCATION)) : [];

/** Ties and lines at the prices of the day they ship. // R3 */
export function tiesAt(ties: readonly DropTie[], repriced: readonly Repriced[]): DropTie[] {
  return ties.map((tie) => ({ ...tie, orderLine: priceAt(tie.orderLine, repriced) }));
}

export function linesAt(lines: readonly StockLine[], repriced: readonly Repriced[]): StockLine[] {
  return lines.map((each) => ({ ...each, line: priceAt(each.line, repriced) }));
}

function priceAt<Line extends { id: number; unitPrice: string; amount: string }>(
  line: Line,
  repriced: readonly Repriced[],
): Line {
  const found = repriced.find((each) => each.orderLineId === line.id);
  return found ? { ...line, unitPrice: found.unitPrice, amount: found.amount } : line;
}

/** The prices found again of what goes out. */
export function goneOf({ shipments }: MoveEffects, repriced: readonly Repriced[]): Repriced[] {
  const gone = new Set(shipments.flatMap(({ parts }) => parts.map((part) => part.orderLineId)));
  return repriced.filter((line) => gone.has(line.orderLineId));
}

export function shownOf(effects: MoveEffects & { numbers: SerialEffects }, repriced: readonly Repriced[]) {
  return {
    ...effects,
    numbers: numbersShown(effects.numbers),
    repriced: goneOf(effects, repriced).map(({ orderLineId, item, was, unitPrice, amount }) => ({
      orderLineId,
      item,
      was: was.unitPrice,
      is: unitPrice,
      difference: dec(amount).minus(was.amount).toFixed(),
    })),
  };
}

export const onceEach = <Document extends Touched>(documents: readonly Document[]): Document[] => [
  ...new Map(documents.map((document) => [document.id, document])).values(),
];

/** The orders, purchases and agreements whose counters a movement changes. */
export function touchedBy(
  effects: MoveEffects,
  ground: Awaited<ReturnType<typeof loadTies>> & {
    stockLines?: readonly StockLine[];
    own?: Awaited<ReturnType<typeof loadOwnLines>>['own'];
  },
): Touched[] {
  const orders = [
    ...ground.ties.map(({ order, orderLine }) => ({ order, lineId: orderLine.id })),
    ...(ground.stockLines ?? []).map(({ order, line }) => ({ order, lineId: line.id })),
  ];
  const shipped = new Set(effects.shipments.flatMap(({ parts }) => parts.map((part) => part.orderLineId)));
  const held = new Set(effects.receipts.flatMap((receipt) => receipt.parts.map((part) => part.heldFor)));
  const served = [...ground.specials.values()].flat().filter((tie) => held.has(tie.orderLineId));
  const received = new Set(effects.receipts.map((receipt) => receipt.purchaseId));
  const purchases = [...ground.ties, ...(ground.own ?? [])].map(({ purchase }) => purchase);
  return [
    ...refs(
      'SO',
      [...orders.filter(({ lineId }) => shipped.has(lineId)), ...served].map(({ order }) => order),
    ),
    ...refs(
      'PO',
      purchases.filter(({ id }) => received.has(id)),
    ),
    ...ground.agreements,
  ];
}

const refs = (kind: 'SO' | 'PO', all: readonly { id: number; number: string }[]): Touched[] =>
  onceEach(all.map(({ id, number }) => ({ kind, id, number })));
