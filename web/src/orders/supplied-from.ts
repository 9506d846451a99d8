import { ROUTE_NAMES, routeIsMade, type Route } from '@core/catalogue';
import { MAIN_LOCATION } from '@core/kernel';
import type { Location } from '../kit/live/locations';

/** How a line is supplied: its route, and which of our places it goes out from. // S1 */
export interface Supplied {
  route: Route;
  locationId: number;
}

/** `our stock`, `our stock at EAST`, `special order to EAST`: the place is named where it is not the main one. */
export function suppliedName({ route, locationId }: Supplied, locations: readonly Location[]): string {
  const place = locations.find((each) => each.id === locationId && each.id !== MAIN_LOCATION);
  if (!place || hasNoPlace(route)) return ROUTE_NAMES[route];
  return `${ROUTE_NAMES[route]} ${route === 'stock' ? 'at' : 'to'} ${place.code}`;
}

/** A drop shipment comes to none of our places; what we make is made at the main one. */
const hasNoPlace = (route: Route) => route === 'drop' || routeIsMade(route);

/** ` at EAST`: where it is or goes out from, where that is not the main one. */
export const atPlace = ({ location }: { location: Location | null }) =>
  location && location.id !== MAIN_LOCATION ? ` at ${location.code}` : '';

export const suppliedValue = ({ route, locationId }: Supplied) =>
  `${route} ${hasNoPlace(route) ? MAIN_LOCATION : locationId}`;

/** What was chosen of `suppliedOptions`. */
export function suppliedOf(value: string): Supplied {
  const [route, locationId] = value.split(' ');
  return { route: route as Route, locationId: Number(locationId) };
}

/** Every way a line of such routes may be supplied, by each place where it matters. */
export function suppliedOptions(routes: readonly Route[], locations: readonly Location[]) {
  const places = locations.length > 0 ? locations.map((each) => each.id) : [MAIN_LOCATION];
  return routes
    .flatMap((route) => (hasNoPlace(route) ? [MAIN_LOCATION] : places).map((locationId) => ({ route, locationId })))
    .map((each) => ({ value: suppliedValue(each), label: suppliedName(each, locations) }));
}
