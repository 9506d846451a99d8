export { ROUTE_NAMES, routeFits, ROUTES, type Route } from './route';
