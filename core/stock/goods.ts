import { decided, refuse, type Decision } from '@core/refusals';
import { decideDropMove, type DropTie, type MoveEffects } from './move';
import { decideOwnReceipt, type OwnLine } from './receive';
import { decideStockShipment, mergeMoves, type StockLine } from './ship';

/** A line to be moved, with the quantity as it was typed; blank where nothing of it moves. */
export interface GoodsLine {
  lineId: number;
  quantity: string;
}
type AtField = GoodsLine & { field: string };

/** What can come in on a purchase order. */
export interface ReceiveGround {
  ties: readonly DropTie[];
  /** Lines that come to our place. */
  own: readonly OwnLine[];
  /** Lines of a drop shipment that are for nobody. */
  loose: readonly { id: number; lineNo: number; purchase: string }[];
}

/**
 * Goods of a purchase order are received: those of a drop shipment go on to the customer in the same act, the others
 * stay at our place. What is for nobody yet is refused. // L2 L3 L4
 */
export function decideReceipt({ ties, own, loose }: ReceiveGround, lines: readonly GoodsLine[]): Decision<MoveEffects> {
  const refusals = lines.flatMap(({ lineId, quantity }, index) => {
    const line = quantity.trim() === '' ? undefined : loose.find((each) => each.id === lineId);
    const facts = line && { purchase: line.purchase, line: String(line.lineNo) };
    return facts ? [refuse('loose-purchase', `lines.${index}.quantity`, facts)] : [];
  });
  if (refusals.length > 0) return { ok: false, refusals };
  return decideBoth(
    lines,
    (lineId) => own.some((each) => each.line.id === lineId),
    (asked) => decideOwnReceipt(own, asked),
    (asked) => decideDropMove(ties, asked, 'purchase'),
  );
}

/** What can go out on a sales order, and on others that may go with it. */
export interface ShipGround {
  head: { number: string; customerId: number; shipToId: number | null };
  ties: readonly DropTie[];
  stockLines: readonly StockLine[];
  withIt: readonly StockLine[];
}

export interface ShipTyped {
  orderId: number;
  lines: readonly GoodsLine[];
  others?: readonly { orderId: number; lines: readonly GoodsLine[] }[] | undefined;
}

/** Goods go out on a sales order, with those of other orders of the same customer to the same address. // L2 L3 S3 */
export function decideShipment(
  { ties, stockLines, withIt, head }: ShipGround,
  { orderId, lines, others = [] }: ShipTyped,
): Decision<MoveEffects> {
  const used = others.filter((other) => other.lines.some(isUsed));
  const refusals = used.flatMap((other, index) => {
    const order = withIt.find((each) => each.order.id === other.orderId)?.order;
    const fits = order?.customerId === head.customerId && order.shipToId === head.shipToId;
    const facts = { order: order?.number ?? 'This order', with: head.number };
    return fits && other.orderId !== orderId ? [] : [refuse('not-the-same-way', `others.${index}`, facts)];
  });
  if (refusals.length > 0) return { ok: false, refusals };
  return decideBoth(
    lines,
    (lineId) => stockLines.some((each) => each.line.id === lineId),
    (asked) => decideStockShipment([...stockLines, ...withIt], asked),
    (asked) => decideDropMove(ties, asked, 'order'),
    others.flatMap((other, index) => usedAt(other.lines, `others.${index}.lines`)),
  );
}

const isUsed = ({ quantity }: GoodsLine) => quantity.trim() !== '';

const usedAt = (lines: readonly GoodsLine[], field: string): AtField[] =>
  lines.map((line, at) => ({ ...line, field: `${field}.${at}.quantity` })).filter(isUsed);

/** Decides lines that touch our own stock apart from drop shipments, and joins what both make. */
function decideBoth(
  lines: readonly GoodsLine[],
  isOwn: (lineId: number) => boolean,
  decideOwn: (asked: readonly AtField[]) => Decision<MoveEffects>,
  decideDrop: (asked: readonly GoodsLine[]) => Decision<MoveEffects>,
  /** Lines of other orders that go from our place with these. */
  further: readonly AtField[] = [],
): Decision<MoveEffects> {
  const ownAsked = [...usedAt(lines, 'lines').filter((line) => isOwn(line.lineId)), ...further];
  const own = decideOwn(ownAsked);
  // Blanked, not removed: refusals name a line by its place in what was typed.
  const rest = lines.map((line) => (isOwn(line.lineId) ? { ...line, quantity: '' } : line));
  if (!rest.some(isUsed) && ownAsked.length > 0) return own;
  const drop = decideDrop(rest);
  return decided<MoveEffects>([...(own.ok ? [] : own.refusals), ...(drop.ok ? [] : drop.refusals)], () =>
    mergeMoves((drop as { effects: MoveEffects }).effects, (own as { effects: MoveEffects }).effects),
  );
}
