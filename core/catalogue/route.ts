/**
 * How a line is supplied: from our stock; `drop` from the vendor to the customer; `special` bought for it, to our place;
 * `make` and `assemble` made for it by us.
 */
export const ROUTES = ['stock', 'drop', 'special', 'make', 'assemble'] as const;
export type Route = (typeof ROUTES)[number];

export const ROUTE_NAMES: Record<Route, string> = {
  stock: 'our stock',
  drop: 'drop shipment',
  special: 'special order',
  make: 'made to order',
  assemble: 'assembled to order',
};

/** What of an item says how it can be supplied. */
export interface RoutedItem {
  stocked: boolean;
  hasVendor: boolean;
  /** How it comes to be: bought, made, assembled, or neither. */
  obtained: string;
}

/** Whether an item can go by that route: stock needs an item we keep, what is made one we make, the others a vendor. // S1 L2 L3 W2 */
export function routeFits(route: Route, { stocked, hasVendor, obtained }: RoutedItem): boolean {
  if (route === 'stock') return stocked;
  if (routeIsMade(route)) return obtained === route;
  return hasVendor;
}

/** Whether a line by that route waits for a purchase of its own. // L8 */
export function routeIsBought(route: Route): boolean {
  return route === 'drop' || route === 'special';
}

/** Whether a line by that route is made for it by us. // W1 W2 */
export function routeIsMade(route: Route): route is 'make' | 'assemble' {
  return route === 'make' || route === 'assemble';
}
