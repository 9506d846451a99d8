/** How a line is supplied. The order desk knows these so far; `drop` goes from the vendor to the customer. */
export const ROUTES = ['stock', 'drop'] as const;
export type Route = (typeof ROUTES)[number];

export const ROUTE_NAMES: Record<Route, string> = {
  stock: 'our stock',
  drop: 'drop shipment',
};

/** Whether an item can go by that route: stock needs an item we keep, a drop shipment a vendor. // S1 L2 */
export function routeFits(route: Route, item: { stocked: boolean; hasVendor: boolean }): boolean {
  return route === 'stock' ? item.stocked : item.hasVendor;
}
