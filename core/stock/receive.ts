import { dec, isDecimalText, least, lineSlice, sum, ZERO, type Dec, type LineMoney } from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { costOfPart, receiptOf, type MoveEffects, type PurchaseReceived, type ReceivedPart } from './move';

/** A special order's tie to a purchase line that comes to our place. // L3 */
export interface SpecialTie {
  tieId: number;
  orderLineId: number;
  order: { id: number; number: string };
  quantity: string;
  received: string;
  /** What of the order line is open and not held for it yet. */
  unheld: string;
}

/** A purchase line that comes to our place, with the order lines it is for, the first to be served first. */
export interface OwnLine {
  purchase: PurchaseReceived & {
    /** Where it comes to. */
    locationId: number;
  };
  line: LineMoney & { id: number; lineNo: number; received: string; agreementLineId: number | null };
  item: { id: number; number: string };
  /** How far the vendor may deliver more than was ordered, in per cent. // L10 */
  tolerancePercent: string;
  ties: readonly SpecialTie[];
}

/**
 * Receives lines of one purchase order at our place, any part of what is open, and beyond it within the vendor's
 * tolerance. Tied lines are served first and hold what came for them; the rest is free stock. // P3 L3 L10
 */
export function decideOwnReceipt(
  lines: readonly OwnLine[],
  asked: readonly { lineId: number; quantity: string; field: string }[],
): Decision<MoveEffects> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  const parts: ReceivedPart[] = [];
  const reached = new Map<number, Dec>();
  for (const ask of asked) {
    const found = lines.find((each) => each.line.id === ask.lineId);
    const before = found ? (reached.get(found.line.id) ?? dec(found.line.received)) : ZERO;
    const refusal = found ? askedRefusal(found, ask, before) : refuse('unknown', ask.field, { what: 'This line' });
    if (refusal) {
      refusals.push(refusal);
      continue;
    }
    const { line, purchase, item } = found!;
    const quantity = dec(ask.quantity);
    const over = before.plus(quantity).minus(line.quantity);
    if (over.gt(0)) {
      const facts = { purchase: purchase.number, line: String(line.lineNo), item: item.number, over: over.toFixed() };
      warnings.push(refuse('received-beyond', ask.field, facts));
    }
    parts.push(...partsOf(found!, before, quantity));
    reached.set(line.id, before.plus(quantity));
  }
  const purchase = lines[0]?.purchase;
  return decided(
    refusals,
    () => ({
      receipts:
        purchase && parts.length > 0
          ? [
              {
                ...receiptOf(purchase),
                cost: sum(parts.map((part) => dec(part.cost))).toFixed(),
                parts,
              },
            ]
          : [],
      shipments: [],
    }),
    warnings,
  );
}

function askedRefusal(
  { purchase, line, item, tolerancePercent }: OwnLine,
  ask: { quantity: string; field: string },
  received: Dec,
): Refusal | null {
  if (purchase.state !== 'placed') {
    return refuse('purchase-not-placed', ask.field, { purchase: purchase.number, state: purchase.state });
  }
  const noRate = rateRefusals(purchase.exchange, ask.field)[0];
  if (noRate) return noRate;
  if (!isDecimalText(ask.quantity, 'quantity')) return refuse('not-a-number', ask.field, { what: 'The quantity' });
  if (dec(ask.quantity).lte(0)) return refuse('not-above-zero', ask.field, { what: 'The quantity' });
  const most = dec(line.quantity).times(dec(tolerancePercent).plus(100)).div(100);
  if (received.plus(ask.quantity).lte(most)) return null;
  const open = dec(line.quantity).minus(received);
  const facts = { document: purchase.number, line: String(line.lineNo), item: item.number, asked: ask.quantity };
  const room = most.minus(received);
  // What may come beyond the order is told apart from what is open.
  return room.eq(open)
    ? refuse('above-open', ask.field, { ...facts, open: open.toFixed() })
    : refuse('above-tolerance', ask.field, { ...facts, open: open.toFixed(), beyond: room.minus(open).toFixed() });
}

/** The received quantity laid out over the line's ties, what is left of it for our stock; costs sum to the line's. */
function partsOf({ purchase, line, item, ties }: OwnLine, from: Dec, quantity: Dec): ReceivedPart[] {
  const parts: ReceivedPart[] = [];
  // What was received before went over the ties the same way, so a tie's own count says what it still takes.
  let at = from;
  let rest = quantity;
  const add = (piece: Dec, tie: SpecialTie | null) => {
    if (piece.lte(0)) return;
    const cost = lineSlice(line, at, at.plus(piece), purchase.exchange.currency);
    parts.push({
      tieId: tie?.tieId ?? null,
      heldFor: tie?.orderLineId ?? null,
      purchaseLineId: line.id,
      itemId: item.id,
      locationId: purchase.locationId,
      quantity: piece.toFixed(),
      value: cost.value.toFixed(),
      ...costOfPart(cost.value, line.unitPrice, purchase.exchange),
      agreementLineId: line.agreementLineId,
      agreedValue: cost.agreed?.toFixed() ?? null,
    });
    at = at.plus(piece);
    rest = rest.minus(piece);
  };
  for (const tie of ties) add(least(rest, least(dec(tie.quantity).minus(tie.received), dec(tie.unheld))), tie);
  add(rest, null);
  return parts;
}
