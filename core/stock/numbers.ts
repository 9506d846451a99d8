import { dec, sum } from '@core/kernel';
import type { SerialNeed } from '@core/serial';
import type { MoveEffects, ReceivedPart, ShippedPart } from './move';
import type { ReceiptNow, ShipmentNow } from './reverse';

/** The numbers that were typed for a line that moves, and where. */
export interface TypedNumbers {
  lineId: number;
  numbers: readonly string[];
  field: string;
}

/** Whether received goods stay at our place; those of a drop shipment go on at once. */
export const staysHere = (part: ReceivedPart): boolean => part.tieId === null || part.heldFor !== null;

/**
 * The pieces a movement moves: what comes to our place with the lines it is held for, what leaves it for the lines it goes
 * out on. Of a drop shipment only what was typed: its numbers are the vendor's to tell. // P6 L2 L3
 */
export function movementNeeds(effects: MoveEffects, typed: readonly TypedNumbers[]): SerialNeed[] {
  const { receipts, shipments } = effects;
  const left = new Map(typed.map(({ lineId, numbers }) => [lineId, [...numbers]]));
  const fieldOf = (lineId: number) => typed.find((each) => each.lineId === lineId)?.field ?? '';
  /** So many of what was typed for a line; all that is left where nothing of it follows. */
  const next = (lineId: number, many: string, last: boolean) =>
    left.get(lineId)?.splice(0, last ? Infinity : Number(many)) ?? [];
  const needs: SerialNeed[] = receipts.flatMap(({ parts }, at) =>
    onceEach(parts.filter(staysHere).map(({ purchaseLineId }) => purchaseLineId)).map((lineId) => {
      const own = parts.filter((part) => staysHere(part) && part.purchaseLineId === lineId);
      return {
        way: 'in' as const,
        itemId: own[0]!.itemId,
        locationId: own[0]!.locationId,
        quantity: total(own),
        with: { kind: 'RC' as const, at },
        field: fieldOf(lineId),
        typed: next(lineId, '0', true),
        for: own.flatMap(({ heldFor, quantity }) => (heldFor === null ? [] : [{ lineId: heldFor, quantity }])),
        made: null,
      };
    }),
  );
  const out = shipments.flatMap(({ parts }, at) => parts.map((part) => ({ part, at })));
  out.forEach(({ part, at }, place) => {
    const through = part.from ? receipts[part.from.receipt]!.parts[part.from.part]! : null;
    // They were typed at the end the movement was begun from.
    const lineId = through && left.has(through.purchaseLineId) ? through.purchaseLineId : part.orderLineId;
    const follows = out.slice(place + 1).some(({ part: other }) => sameLine(other, part, receipts));
    const numbers = next(lineId, part.quantity, !follows);
    const leaving = {
      way: 'out' as const,
      itemId: part.itemId,
      locationId: part.locationId,
      quantity: part.quantity,
      with: { kind: 'SH' as const, at },
      field: fieldOf(lineId),
      typed: numbers,
      to: 'customer' as const,
      lineId: part.orderLineId,
      workId: null,
    };
    if (!through) needs.push(leaving);
    else if (numbers.length > 0) {
      const own = [{ lineId: part.orderLineId, quantity: part.quantity }];
      const { way: _out, to: _to, lineId: _line, workId: _work, ...same } = leaving;
      needs.push({ ...same, way: 'in', with: { kind: 'RC', at: part.from!.receipt }, for: own, made: null }, leaving);
    }
  });
  return needs;
}

const onceEach = (ids: readonly number[]) => [...new Set(ids)];
const total = (parts: readonly { quantity: string }[]) => sum(parts.map(({ quantity }) => dec(quantity))).toFixed();

/** Whether what was typed for one part goes on with another. */
function sameLine(one: ShippedPart, other: ShippedPart, receipts: MoveEffects['receipts']): boolean {
  const bought = ({ from }: ShippedPart) => (from ? receipts[from.receipt]!.parts[from.part]!.purchaseLineId : null);
  return one.orderLineId === other.orderLineId || (bought(one) !== null && bought(one) === bought(other));
}

/** The pieces that come back with shipments that are taken back, and that leave with receipts: drop shipments both. // P1 P6 */
export function reversalNeeds(receipts: readonly ReceiptNow[], shipments: readonly ShipmentNow[]): SerialNeed[] {
  return [
    ...shipments.map(({ id, number, lines }, at) => ({
      way: 'back' as const,
      of: { kind: 'SH' as const, id },
      document: number,
      with: { kind: 'SH' as const, at },
      from: 'customer' as const,
      heldAgain: lines.filter(({ special }) => special).map(({ orderLineId }) => orderLineId),
    })),
    ...receipts.map(({ id, number }, at) => ({
      way: 'back' as const,
      of: { kind: 'RC' as const, id },
      document: number,
      with: { kind: 'RC' as const, at },
      from: 'customer' as const,
      heldAgain: [],
    })),
  ];
}

/** The pieces an adjustment brings or takes. // W6 P6 */
export function adjustmentNeeds(
  { itemId, locationId, quantity }: { itemId: number; locationId: number; quantity: string },
  typed: readonly string[],
): SerialNeed[] {
  const many = dec(quantity);
  const need = { itemId, locationId, quantity: many.abs().toFixed(), with: { kind: 'JR' as const, at: 0 } };
  const field = 'numbers';
  return many.gt(0)
    ? [{ ...need, way: 'in', field, typed, for: [], made: null }]
    : [{ ...need, way: 'out', field, typed, to: 'out', lineId: null, workId: null }];
}
