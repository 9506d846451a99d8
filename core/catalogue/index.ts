export { ROUTE_NAMES, routeFits, routeIsBought, routeIsMade, ROUTES, type Route, type RoutedItem } from './route';
