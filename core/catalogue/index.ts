export { ROUTE_NAMES, routeFits, routeIsBought, ROUTES, type Route } from './route';
