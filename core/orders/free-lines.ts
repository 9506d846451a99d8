import { dec, MAIN_LOCATION, roundHalfAway, sum, type Dec } from '@core/kernel';
import { freeGoods, type FreeGoods, type PromotedLine, type PromotionBudgets } from '@core/promotions';
import { refuse, type Refusal } from '@core/refusals';
import type { OrderEffects, OrderGround, OrderLineNow } from './ground';
import { priceWithout } from './price-without';
import { giveBackPromotion, promotedBy, usedUp } from './promoted';
import type { ReleasedChange } from './released-change';

type Line = OrderEffects['lines'][number];
type Earning = PromotedLine & { line: Line };

export interface FreeLines {
  lines: Line[];
  removedLineIds: number[];
  refusals: Refusal[];
  warnings: Refusal[];
}

/**
 * The lines of an order that are free by its promotions: each a line of its own at nothing, as often as what was bought
 * earns it; a line that no other promotion and no typed price made cheaper earns. They count in an agreement only where
 * it says so. What a confirmed order gave and no longer earns is closed short first. // S13 A4
 */
export function freeLines(
  ground: OrderGround,
  bought: readonly Line[],
  { change, budgets }: { change: ReleasedChange; budgets: PromotionBudgets },
  as: 'draft' | 'confirmed',
): FreeLines {
  const found: FreeLines = { lines: [], removedLineIds: [], refusals: [], warnings: [] };
  const had = (ground.current?.lines ?? []).filter(({ promotion }) => promotion?.free);
  const over = had.filter(({ quantity, cancelled }) => dec(quantity).eq(cancelled ?? '0') && as === 'confirmed');
  const alive = had.filter((now) => !over.includes(now));
  // What was given up whole stays as it is, and stands for nothing.
  found.lines.push(...over.flatMap((now) => keptLine(ground, now, bought) ?? []));
  for (const now of alive) {
    change.giveBack(now, 'lines');
    giveBackPromotion(budgets, now);
  }
  const left = new Set(alive);
  for (const goods of freeGoods(
    ground.pricing.promotions.offers,
    earningOf(ground, bought),
    worthIn(ground),
    budgets,
  )) {
    const field = `lines.${goods.by.line.typedAt}.quantity`;
    if (goods.beyond.gt(0) && goods.offer.promotion.running) found.warnings.push(usedUp(goods.offer, budgets, field));
    const isOf = ({ promotion, itemId }: OrderLineNow) =>
      promotion!.lineId === goods.offer.id && itemId === goods.itemId;
    const now = alive.find(isOf);
    // What was given up of it was given: it does not come again.
    const quantity = goods.quantity.minus(sum(over.filter(isOf).map((each) => dec(each.quantity))));
    if (quantity.lte(0)) continue;
    if (now) left.delete(now);
    const line = freeLine(ground, goods, now ?? null, quantity);
    change.take(line, field);
    found.lines.push(line);
  }
  for (const now of left) {
    if (as === 'draft') found.removedLineIds.push(now.id);
    else {
      const facts = { order: ground.current!.number, line: String(now.lineNo) };
      found.refusals.push(refuse('free-line-left', 'lines', facts));
    }
  }
  return found;
}

/** Lines that earn free goods. */
const earningOf = ({ items, pricing, current }: OrderGround, bought: readonly Line[]): Earning[] =>
  bought
    .filter(({ promotion, sold }) => promotion === null && sold.price === null && dec(sold.discount).eq(0))
    .map((line) => ({
      itemId: line.itemId,
      groupId: items.get(line.itemId)!.groupId,
      quantity: dec(line.quantity).minus(current?.lines.find(({ id }) => id === line.id)?.cancelled ?? '0'),
      day: pricing.byShipDate ? line.shipDate : pricing.orderDate,
      line,
    }))
    .filter(({ quantity }) => quantity.gt(0));

/** What one of an item would cost the customer, in the company's currency. */
const worthIn =
  ({ items, pricing, customer }: OrderGround) =>
  (itemId: number, { day }: Earning): Dec | null => {
    const item = items.get(itemId);
    const { rate } = pricing.promotions;
    if (!item || rate === null) return null;
    const asked = {
      unit: item.unit,
      ownUnit: item.unit,
      quantity: dec('1'),
      day,
      currency: customer?.currency ?? 'MYR',
    };
    return roundHalfAway(dec(priceWithout(item, asked, pricing.search).listPrice).times(rate), 4);
  };

function freeLine(ground: OrderGround, goods: FreeGoods<Earning>, now: OrderLineNow | null, quantity: Dec): Line {
  const { offer, itemId, unit, by } = goods;
  const item = ground.items.get(itemId)!;
  const paid = by.line;
  const same = itemId === paid.itemId;
  const covered = ground.offers.find(({ line }) => line.id === paid.agreementLineId);
  const counts = same && covered?.agreement.freeGoodsCount === true;
  return {
    id: now?.id ?? null,
    itemId,
    agreementLineId: counts ? covered.line.id : null,
    quantity: quantity.toFixed(),
    unitPrice: '0',
    listPrice: now?.listPrice ?? roundHalfAway(unit.div(ground.pricing.promotions.rate!), 4).toFixed(),
    amount: '0',
    agreedAmount: null,
    taxCodeId: item.taxCodeId,
    taxRate: item.taxRate,
    route: now?.route ?? (same ? paid.route : item.stocked || !item.hasVendor ? 'stock' : 'special'),
    locationId: now?.locationId ?? (same ? paid.locationId : MAIN_LOCATION),
    shipDate: paid.shipDate,
    sold: {
      unit: item.unit,
      factor: '1',
      price: null,
      reason: `free with ${offer.promotion.number}`,
      discount: '0',
      steps: [
        {
          kind: 'promotion',
          source: `${promotedBy(offer)}: ${goods.quantity.toFixed()} ${item.unit} free`,
          amount: '0',
        },
      ],
    },
    optionIds: same ? paid.optionIds : [],
    promotion: { promotionId: offer.promotion.id, lineId: offer.id, unit: unit.toFixed(), free: true },
    typedAt: paid.typedAt,
  };
}

/** A free line that was given up, as it is. */
function keptLine(ground: OrderGround, now: OrderLineNow, bought: readonly Line[]): Line | null {
  const item = ground.items.get(now.itemId);
  const paid = bought.find(({ itemId }) => itemId === now.itemId) ?? bought[0];
  if (!item || !paid) return null;
  const { id, itemId, agreementLineId, quantity, unitPrice, listPrice, amount, agreedAmount, shipDate, sold } = now;
  const { optionIds, promotion = null } = now;
  return {
    ...{ id, itemId, agreementLineId, quantity, unitPrice, listPrice, amount, agreedAmount, shipDate, sold, optionIds },
    promotion,
    taxCodeId: item.taxCodeId,
    taxRate: item.taxRate,
    route: now.route ?? paid.route,
    locationId: now.locationId ?? paid.locationId,
    typedAt: paid.typedAt,
  };
}
