export { OFFER_RIGHT } from './refs';
export * from './offers';
export * from './beyond';
export * from './holds';
export * from './pairs';
export * from './books';
export * from './exchange';
