import { optionsName, optionsPrice } from '@core/catalogue';
import { dec, type Day, type Dec } from '@core/kernel';
import { buildUp, type BuildUpStep, type BuiltPrice, type PriceExtras } from '@core/pricing';
import type { OrderPricing } from './ground';
import { priceWithout, type ItemPricing } from './price-without';

/** A line whose price is that of the day it ships, as it was ordered. // R3 */
export interface ShipDateLine {
  id: number;
  item: { number: string; unit: string; listPrice: string; pricing: ItemPricing };
  /** What is alive of it, in the item's own unit; nothing of it has gone out. */
  quantity: string;
  unit: string;
  discount: string;
  /** What was chosen for it. */
  optionIds: readonly number[];
  shipToId: number | null;
  currency: string;
  unitPrice: string;
  amount: string;
}

/** A line's price found again at its shipment. */
export interface Repriced {
  orderLineId: number;
  item: string;
  was: { unitPrice: string; amount: string };
  unitPrice: string;
  listPrice: string;
  amount: string;
  steps: BuildUpStep[];
}

/**
 * The price of a line on the day its goods first go out; null where it is the one it has. // R3
 * Later parts keep what the first went at: a line has one price.
 */
export function repriceAt(
  line: ShipDateLine,
  pricing: Pick<OrderPricing, 'search' | 'freight'>,
  day: Day,
): Repriced | null {
  const { item, unit, currency, discount, optionIds } = line;
  const quantity = dec(line.quantity);
  if (quantity.lte(0)) return null;
  const found = priceWithout(item, { unit, ownUnit: item.unit, quantity, day, currency }, pricing.search);
  const extras = extrasOf(item.pricing, pricing.freight, line.shipToId, { discount, optionIds });
  const built: BuiltPrice = buildUp(found.base, quantity, extras, null, currency);
  // A price that has been lost since is not taken: what was confirmed stands.
  if (built.amount.lte(0) || same(built, line)) return null;
  return {
    orderLineId: line.id,
    item: item.number,
    was: { unitPrice: line.unitPrice, amount: line.amount },
    unitPrice: built.unitPrice.toFixed(),
    listPrice: found.listPrice,
    amount: built.amount.toFixed(),
    steps: built.steps,
  };
}

const same = ({ amount, unitPrice }: { amount: Dec; unitPrice: Dec }, line: ShipDateLine) =>
  amount.eq(line.amount) && unitPrice.eq(line.unitPrice);

/** What is put on a price that is found for an item sold to an address. // R2 */
export function extrasOf(
  { packSize, splitCharge, weight, options }: ItemPricing,
  freight: OrderPricing['freight'],
  shipToId: number | null,
  { discount, optionIds }: { discount: string; optionIds: readonly number[] },
): PriceExtras {
  return {
    packSize,
    splitCharge,
    weight,
    freight: freight.get(shipToId ?? 0) ?? [],
    options: { names: optionsName(options, optionIds), price: optionsPrice(options, optionIds).toFixed() },
    discount,
  };
}
