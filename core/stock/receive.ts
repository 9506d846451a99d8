import { dec, isDecimalText, lineSlice, sum, type LineMoney } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { MoveEffects, PurchaseState, ReceivedPart } from './move';

/** A purchase line for our own stock: tied to nobody's order. */
export interface OwnLine {
  purchase: { id: number; number: string; state: PurchaseState; vendorId: number; currency: string };
  line: LineMoney & { id: number; lineNo: number; received: string; agreementLineId: number | null };
  item: { id: number; number: string };
}

/** Receives lines of one purchase order into our stock, any part of what is open. // P3 L10 */
export function decideOwnReceipt(
  lines: readonly OwnLine[],
  asked: readonly { lineId: number; quantity: string; field: string }[],
): Decision<MoveEffects> {
  const refusals: Refusal[] = [];
  const parts: ReceivedPart[] = [];
  for (const ask of asked) {
    const found = lines.find((each) => each.line.id === ask.lineId);
    const refusal = found ? askedRefusal(found, ask) : refuse('unknown', ask.field, { what: 'This line' });
    if (refusal) refusals.push(refusal);
    else parts.push(partOf(found!, ask.quantity));
  }
  const purchase = lines[0]?.purchase;
  return decided(refusals, () => ({
    receipts:
      purchase && parts.length > 0
        ? [
            {
              purchaseId: purchase.id,
              vendorId: purchase.vendorId,
              cost: sum(parts.map((part) => dec(part.cost))).toFixed(),
              parts,
            },
          ]
        : [],
    shipments: [],
  }));
}

function askedRefusal({ purchase, line, item }: OwnLine, ask: { quantity: string; field: string }): Refusal | null {
  if (purchase.state !== 'placed') {
    return refuse('purchase-not-placed', ask.field, { purchase: purchase.number, state: purchase.state });
  }
  if (!isDecimalText(ask.quantity, 'quantity')) return refuse('not-a-number', ask.field, { what: 'The quantity' });
  if (dec(ask.quantity).lte(0)) return refuse('not-above-zero', ask.field, { what: 'The quantity' });
  const open = dec(line.quantity).minus(line.received);
  if (dec(ask.quantity).lte(open)) return null;
  return refuse('above-open', ask.field, {
    document: purchase.number,
    line: String(line.lineNo),
    item: item.number,
    asked: ask.quantity,
    open: open.toFixed(),
  });
}

function partOf({ purchase, line, item }: OwnLine, quantity: string): ReceivedPart {
  const from = dec(line.received);
  const cost = lineSlice(line, from, from.plus(quantity), purchase.currency);
  return {
    tieId: null,
    purchaseLineId: line.id,
    itemId: item.id,
    quantity,
    cost: cost.value.toFixed(),
    unitCost: line.unitPrice,
    agreementLineId: line.agreementLineId,
    agreedValue: cost.agreed?.toFixed() ?? null,
  };
}
