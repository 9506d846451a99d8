/**
 * How a line is supplied: from our stock; `drop` from the vendor to the customer; `special` bought for it, to our place.
 * The order desk knows these so far.
 */
export const ROUTES = ['stock', 'drop', 'special'] as const;
export type Route = (typeof ROUTES)[number];

export const ROUTE_NAMES: Record<Route, string> = {
  stock: 'our stock',
  drop: 'drop shipment',
  special: 'special order',
};

/** Whether an item can go by that route: stock needs an item we keep, the others a vendor. // S1 L2 L3 */
export function routeFits(route: Route, item: { stocked: boolean; hasVendor: boolean }): boolean {
  return route === 'stock' ? item.stocked : item.hasVendor;
}

/** Whether a line by that route waits for a purchase of its own. // L8 */
export function routeIsBought(route: Route): boolean {
  return route !== 'stock';
}
