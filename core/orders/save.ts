import type { Day } from '@core/kernel';
import { replacedBy, routeIsMade } from '@core/catalogue';
import type { Decision } from '@core/refusals';
import { missingParts, type PartOfOne } from './missing-parts';
import { decideConfirm, type ConfirmGround, type CustomerStanding } from './confirm';
import type { OrderEffects, OrderGround, OrderItem, OrderTyped } from './ground';
import { decideOrder } from './order';

export type ConfirmableItem = OrderItem & Omit<ConfirmGround['lines'][number]['item'], 'options'>;

export interface SaveGround extends OrderGround {
  items: ReadonlyMap<number, ConfirmableItem>;
  /** What goes into one of the items its lines are made of to order. */
  parts: readonly PartOfOne[];
  /** How the customer stands; null while none is chosen. */
  standing: CustomerStanding | null;
}

const optioned = (item: ConfirmableItem) => ({ ...item, options: item.pricing.options });

/** What confirming asks of order lines that were just decided. */
export function confirmable(
  lines: OrderEffects['lines'],
  items: ReadonlyMap<number, ConfirmableItem>,
): ConfirmGround['lines'] {
  return lines.map((line, index) => ({
    ...line,
    lineNo: index + 1,
    taxCode: String(line.taxCodeId),
    reason: line.sold.reason,
    item: optioned(items.get(line.itemId)!),
  }));
}

/** Decides a draft order; what would stand against confirming it is worth a word already while it is typed. // S2 */
export function decideSave(ground: SaveGround, typed: OrderTyped, workDate: Day): Decision<OrderEffects> {
  const order = decideOrder(ground, typed, workDate);
  if (!order.ok || !ground.standing) return order;
  const { lines } = order.effects;
  const confirmed = decideConfirm(
    {
      order: { ...order.effects, number: ground.current?.number ?? 'The order', state: 'draft' },
      customer: ground.standing,
      lines: confirmable(lines, ground.items),
    },
    workDate,
    { mayPassCredit: false, creditReason: '' },
  );
  const words = confirmed.ok ? [] : confirmed.refusals;
  return {
    ...order,
    warnings: [
      ...order.warnings,
      ...missingParts(
        lines
          .filter(({ route }) => routeIsMade(route))
          .map(({ itemId, quantity, optionIds, typedAt }) => ({
            itemId,
            item: ground.items.get(itemId)!.number,
            quantity,
            optionIds,
            replaced: replacedBy(ground.items.get(itemId)!.pricing.options, optionIds),
            field: `lines.${typedAt}.quantity`,
          })),
        ground.parts,
      ),
      // A line that was split is one of the typed ones.
      ...words.map((word) => ({
        ...word,
        field: word.field.replace(/^lines\.(\d+)/, (_all, at: string) => `lines.${lines[Number(at)]!.typedAt}`),
      })),
    ],
  };
}
